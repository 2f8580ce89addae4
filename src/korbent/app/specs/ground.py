"""The tables of Ground: soils, boreholes, strata, tests, levels."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any, get_args

from korbent.app.session import Session
from korbent.app.specs.common import append, changed, drop, field, label_only, listed, reordered, unique
from korbent.app.tables import Column, Spec
from korbent.core.ground.correlations import behaviour_at
from korbent.core.ground.library import unusual
from korbent.core.model import (
    Borehole,
    GroundTest,
    Soil,
    Stratum,
    Water,
    edited,
)
from korbent.core.model.ground import TEST_UNITS, Compression, Drainage, Pattern, TestKind
from korbent.core.model.labels import label
from korbent.core.units import UnitError
from korbent.words import say


def _soil_columns(_: Session) -> list[Column]:
    path = listed("ground", "soils")

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Soil, name, title, path, **more)

    return _with_notes(
        [
            f("name", say("Soil"), kind="text", width=120),
            f("pattern", say("Pattern"), kind="key", choices=get_args(Pattern)),
            f("description", say("Description"), kind="text", width=150),
            f(
                "drainage",
                say("Checked"),
                kind="key",
                choices=get_args(Drainage),
                tip=say("how it answers in the checks: drained, undrained or both"),
            ),
            f("weight", "γ", tip=say("unit weight above water")),
            f("weight_saturated", say("γ sat"), tip=say("unit weight below water")),
            f("cohesion", "c′", optional=True, tip=say("effective cohesion")),
            f("friction_angle", "φ′", optional=True, tip=say("effective friction angle")),
            f("undrained_strength", "cu", optional=True, tip=say("undrained strength at the top of the stratum")),
            f("undrained_strength_gradient", say("cu grows"), tip=say("increase of cu with depth")),
            f(
                "compression",
                say("Settles by"),
                kind="key",
                choices=get_args(Compression),
                tip=say("E′ and ν, or the oedometer indices"),
            ),
            f("modulus", "E′", optional=True),
            f("poisson", "ν"),
            f("compression_index", "Cc", optional=True),
            f("recompression_index", "Cr", optional=True),
            f("compression_ratio", "Cc/(1+e0)", optional=True, tip=say("in the place of Cc and e0")),
            f("recompression_share", "Cr/Cc", optional=True, tip=say("in the place of Cr")),
            f("compressibility", "mv", optional=True, tip=say("where the soil compresses by mv")),
            f(
                "undrained_modulus",
                "Eu",
                optional=True,
                tip=say("with it an immediate part comes before the consolidation"),
            ),
            f(
                "pore_pressure_coefficient",
                "A",
                optional=True,
                tip=say("of Skempton: reduces the oedometer settlement, and goes with Eu"),
            ),
            f("horizontal_consolidation", "ch", optional=True, tip=say("towards band drains; empty: as cv")),
            f("creep_index", "Cα", optional=True, tip=say("strain by creep in a tenfold time")),
            f("creep_reload", say("Cα again, ×"), tip=say("share of it below the greatest stress of the past")),
            f("void_ratio", "e0", optional=True),
            f("overconsolidation_ratio", "OCR"),
            f(
                "preconsolidation",
                "σ′p",
                optional=True,
                tip=say("preconsolidation pressure, in the place of the OCR"),
            ),
            f(
                "preconsolidation_margin",
                "σ′p − σ′v0",
                optional=True,
                tip=say("what the preconsolidation pressure lies above the stress in place, in the place of the OCR"),
            ),
            f(
                "consolidation_coefficient",
                "cv",
                optional=True,
                tip=say("coefficient of consolidation, vertical drainage"),
            ),
            f(
                "permeability",
                "k",
                optional=True,
                tip=say("vertical permeability; typed, it stays, and cv follows from it and the stiffness"),
            ),
        ]
    )


def _with_notes(columns: list[Column]) -> list[Column]:
    """Soil columns that say where a value comes from."""

    def noted(column: Column) -> Column:
        def field(row: Any) -> str:
            return str(column.path(row)[-1])

        def note(row: Any) -> str:
            line = row.over_level.get(field(row))
            source = row.sources.get(field(row), "")
            return (
                (
                    say("runs in steps over level; {source}", source=source)
                    if line.kind == "stepwise"
                    else say("runs linearly over level; {source}", source=source)
                )
                if line
                else source
            )

        return replace(column, note=note, odd=lambda row: unusual(row, field(row)))

    return [noted(c) for c in columns]


def _tests(session: Session) -> list[tuple[Borehole, int]]:
    return [(h, i) for h in session.project.ground.boreholes for i in range(len(h.tests))]


def _test_columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "tests", row[1])

    def test(row: Any) -> GroundTest:
        return row[0].tests[row[1]]  # type: ignore[no-any-return]

    return [
        Column(
            say("Borehole"), lambda r: r[0].name, lambda r: (), kind="text", convert=label_only, derived=True, width=90
        ),
        Column(
            say("Test"),
            lambda r: test(r).kind,
            lambda r: (*path(r), "kind"),
            kind="key",
            choices=lambda _: get_args(TestKind),
            width=90,
        ),
        Column(
            say("Depth"),
            lambda r: test(r).depth,
            lambda r: (*path(r), "depth"),
            "m",
            tip=say("below the ground level of the borehole"),
        ),
        Column(
            say("Value"),
            lambda r: test(r).value,
            lambda r: (*path(r), "value"),
            unit_of=lambda r: TEST_UNITS[test(r).kind],
            width=110,
        ),
        Column(
            say("Left out because"),
            lambda r: test(r).left_out,
            lambda r: (*path(r), "left_out"),
            kind="text",
            width=150,
            tip=say("with a reason here, the test does not enter parameters"),
        ),
        Column(
            say("Taken as"),
            lambda r: str(test(r).notes.get("value", "")),
            lambda r: (),
            kind="text",
            convert=label_only,
            derived=True,
            width=160,
            tip=say("how the file gave it, where that is not the plain value"),
        ),
        Column(
            say("Behaves as"),
            lambda r: behaviour_at(session.project.ground, r[0], test(r)),
            lambda r: (),
            kind="text",
            convert=label_only,
            derived=True,
            width=240,
            tip=say("soil behaviour type of a cone test with qc and fs (Robertson 1990)"),
        ),
    ]


def _add_test(session: Session, row: Any) -> str:
    holes = session.project.ground.boreholes
    if not holes:
        return say("add a borehole first")
    hole, last = (row[0], row[0].tests[row[1]]) if row else (holes[-1], None)
    new = (
        GroundTest(kind=last.kind, depth=last.depth + 1.0, value=last.value)
        if last
        else GroundTest(kind="SPT N", depth=1.0, value=10)
    )
    at = row[1] + 1 if row else len(hole.tests)
    tests = (*hole.tests[:at], new, *hole.tests[at:])
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "tests"), tests))


def _remove_test(session: Session, row: Any) -> str:
    hole, at = row
    tests = hole.tests[:at] + hole.tests[at + 1 :]
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "tests"), tests))


TESTS = Spec(
    "tests",
    _tests,
    _test_columns,
    _add_test,
    _remove_test,
    say("test"),
    say(
        "No test yet. Blow counts, cone resistance, strengths and index tests give parameters by published correlations."
    ),
)


def _add_soil(session: Session, _: Any) -> str:
    name = unique(say("Soil "), [s.name for s in session.project.ground.soils])
    return changed(session, append(("ground", "soils"), Soil(name=name, weight=18.0, weight_saturated=20.0)))


SOILS = Spec(
    "soils",
    lambda s: s.project.ground.soils,
    _soil_columns,
    _add_soil,
    lambda s, row: changed(s, drop(("ground", "soils"), row)),
    say("soil"),
    say(
        "No soil yet. Import a file, take one from the library, or add one. Without ground only a presumed pressure can be checked."
    ),
    order=reordered("ground", "soils"),
)


def _hole_columns(_: Session) -> list[Column]:
    path = listed("ground", "boreholes")
    return [
        field(Borehole, "name", say("Borehole"), path, "text"),
        field(Borehole, "x", "x", path),
        field(Borehole, "y", "y", path),
        field(Borehole, "ground_level", say("Ground level"), path),
        field(
            Borehole,
            "water",
            say("Water found"),
            path,
            optional=True,
            tip=say(
                "level of the groundwater in this hole, for the stresses at its tests; empty: the normal level of the site"
            ),
        ),
        field(
            Borehole,
            "rigid_below",
            say("Rigid below"),
            path,
            "yes",
            tip=say("what follows below the last stratum does not settle"),
        ),
    ]


def _add_hole(session: Session, _: Any) -> str:
    ground = session.project.ground
    if not ground.soils:
        return say("add a soil first: a borehole needs a stratum")
    hole = Borehole(
        name=unique("BH", [h.name for h in ground.boreholes]),
        x=0,
        y=0,
        ground_level=ground.surfaces.finished,
        strata=(Stratum(soil=ground.soils[0].name, thickness=10.0),),
    )
    return changed(session, append(("ground", "boreholes"), hole))


HOLES = Spec(
    "boreholes",
    lambda s: s.project.ground.boreholes,
    _hole_columns,
    _add_hole,
    lambda s, row: changed(s, drop(("ground", "boreholes"), row)),
    say("borehole"),
    say("No borehole yet. Import a file, or add a soil and then a borehole."),
    order=reordered("ground", "boreholes"),
)


def _strata(session: Session) -> list[tuple[Borehole, int]]:
    return [(h, i) for h in session.project.ground.boreholes for i in range(len(h.strata))]


def _strata_columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "strata", row[1])

    def level(row: Any) -> float:
        return float(row[0].ground_level - sum(s.thickness for s in row[0].strata[: row[1]]))

    return [
        Column(say("Borehole"), lambda r: r[0].name, lambda r: ("ground", "boreholes", r[0].name, "name"), kind="text"),
        Column(
            say("Soil"),
            lambda r: r[0].strata[r[1]].soil,
            lambda r: (*path(r), "soil"),
            kind="choice",
            choices=lambda s: [x.name for x in s.project.ground.soils],
            width=130,
        ),
        Column(say("Thickness"), lambda r: r[0].strata[r[1]].thickness, lambda r: (*path(r), "thickness"), "m"),
        Column(
            say("Top"),
            level,
            path,
            "m",
            tip=say("follows from the thicknesses above"),
            convert=_not_editable,
            derived=True,
        ),
    ]


def _not_editable(_: Any) -> Any:

    raise UnitError(say("this level follows from the thicknesses above: change those"))


def _add_stratum(session: Session, row: Any) -> str:
    holes = session.project.ground.boreholes
    if not holes:
        return say("add a borehole first")
    hole, at = row or (holes[-1], len(holes[-1].strata) - 1)
    new = Stratum(soil=hole.strata[at].soil, thickness=1.0)
    strata = (*hole.strata[: at + 1], new, *hole.strata[at + 1 :])
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "strata"), strata))


def _remove_stratum(session: Session, row: Any) -> str:
    hole, at = row
    if len(hole.strata) == 1:
        return say("{hole} needs at least one stratum; remove the borehole instead", hole=hole.name)
    strata = hole.strata[:at] + hole.strata[at + 1 :]
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "strata"), strata))


STRATA = Spec(
    "strata",
    _strata,
    _strata_columns,
    _add_stratum,
    _remove_stratum,
    say("stratum"),
    say("Strata come with a borehole."),
)


VARIED = (
    ("friction_angle", "φ′"),
    ("undrained_strength", "cu"),
    ("modulus", "E′"),
    ("compression_index", "Cc"),
)


def _level_rows(session: Session) -> list[tuple[str, tuple[str, ...], str, str, bool]]:
    """(label, path, unit, kind, optional) of the single values of the ground."""
    ground = session.project.ground
    rows = [
        (
            say("Existing ground (empty: of the nearest borehole)"),
            ("ground", "surfaces", "existing"),
            "m",
            "number",
            True,
        ),
        (say("Excavated, formation"), ("ground", "surfaces", "excavated"), "m", "number", True),
        (say("Finished ground"), ("ground", "surfaces", "finished"), "m", "number", False),
        (say("Ground between boreholes"), ("ground", "interpolation"), "", "key", False),
        (say("Groundwater known"), ("ground", "water"), "", "yes", False),
    ]
    if ground.water:
        rows += [
            (say("Water, {n}", n=label(n)), ("ground", "water", n), "m", "number", False)
            for n in ("low", "normal", "high")
        ]
    rows += [
        (say("SPT hammer, energy ratio in percent"), ("ground", "spt_energy"), "", "number", False),
        (say("Cone, net area ratio"), ("ground", "cone_area_ratio"), "", "number", False),
        *(
            (
                say("Known coefficient of variation of {sign}", sign=sign),
                ("ground", "known_variation", name),
                "",
                "number",
                True,
            )
            for name, sign in VARIED
        ),
        (say("Backfill above the bases"), ("ground", "backfill", "name"), "", "text", False),
        (say("Backfill, unit weight above water"), ("ground", "backfill", "weight"), "kN/m3", "number", False),
        (
            say("Backfill, unit weight below water"),
            ("ground", "backfill", "weight_saturated"),
            "kN/m3",
            "number",
            False,
        ),
    ]
    return rows


def _value(session: Session, path: tuple[str, ...]) -> Any:
    here: Any = session.project
    for step in path:
        here = here.get(step) if isinstance(here, Mapping) else getattr(here, step)
    return here is not None if path == ("ground", "water") else here


def _level_columns(session: Session) -> list[Column]:
    return [
        Column(
            say("Level or weight"),
            lambda r: r[0],
            lambda r: r[1],
            kind="text",
            width=300,
            convert=label_only,
            derived=True,
        ),
        Column(
            say("Value"),
            lambda r: _value(session, r[1]),
            lambda r: r[1],
            width=190,
            optional=True,
            unit_of=lambda r: r[2],
            kind_of=lambda r: r[3],
            choices_of=lambda _: ("nearest", "distance_weighted", "triangulated"),
            convert=lambda v: _water(session) if v is True else None if v is False else v,
        ),
    ]


def _water(session: Session) -> Water:
    z = session.project.ground.surfaces.finished
    return session.project.ground.water or Water(low=z - 3.0, normal=z - 2.0, high=z - 1.0)


LEVELS = Spec("levels", _level_rows, _level_columns)
