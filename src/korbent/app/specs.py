"""What each editing table of the window shows, and where its cells stand in the project."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, get_args

from pydantic import ValidationError

from korbent.app.generate_bar import GenerateBar
from korbent.app.loads_bar import LoadsBar
from korbent.app.session import Session
from korbent.app.tables import Column, Spec
from korbent.core.model import (
    Borehole,
    Combination,
    GroundTest,
    Load,
    LoadCase,
    LoadPoint,
    Pad,
    PadType,
    Pedestal,
    Project,
    Settings,
    Soil,
    Stratum,
    Water,
    edited,
    origin,
)
from korbent.core.model.actions import DesignSituation, FactorSet, LoadPointKind, Nature, Serves, WaterLevel
from korbent.core.model.base import Frozen, unit_of
from korbent.core.model.ground import TEST_UNITS, Compression, Drainage, Pattern, TestKind
from korbent.core.units import show_ratio
from korbent.files.project_file import problems_of


def unique(base: str, names: Sequence[str]) -> str:
    """A name not yet taken: P1, P2, ..."""
    return next(f"{base}{i}" for i in range(1, 10_000) if f"{base}{i}" not in names)


def changed(session: Session, make: Callable[[Project], Project], message: str = "") -> str:
    """Applies a change; returns what is wrong with it, or ''."""
    try:
        session.apply(make(session.project), message)
    except ValidationError as error:
        return "; ".join(str(p) for p in problems_of(error))
    return ""


def field(
    model: type[Frozen], name: str, title: str, path: Callable[[Any], tuple[str | int, ...]], kind: str = "number",
    choices: Sequence[str] = (), optional: bool = False, tip: str = "", width: int = 0,
) -> Column:  # fmt: skip
    """A column for one field of the row object."""
    return Column(
        title, lambda row: getattr(row, name), lambda row: (*path(row), name), unit_of(model, name), kind,
        (lambda _: choices) if choices else None, optional, width, tip,
    )  # fmt: skip


def _listed(root: str, name: str) -> Callable[[Any], tuple[str | int, ...]]:
    return lambda row: (root, name, row.number if hasattr(row, "number") else row.name)


def _append(path: tuple[str, ...], new: Any) -> Callable[[Project], Project]:
    def make(project: Project) -> Project:
        here: Any = project
        for step in path:
            here = getattr(here, step)
        return edited(project, path, (*here, new))

    return make


def _drop(path: tuple[str, ...], row: Any) -> Callable[[Project], Project]:
    def make(project: Project) -> Project:
        here: Any = project
        for step in path:
            here = getattr(here, step)
        return edited(project, path, tuple(item for item in here if item is not row))

    return make


# ---------------------------------------------------------------- ground


def _soil_columns(_: Session) -> list[Column]:
    path = _listed("ground", "soils")

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Soil, name, title, path, **more)

    return _with_notes(
        [
            f("name", "Soil", kind="text", width=120),
            f("pattern", "Pattern", kind="choice", choices=get_args(Pattern)),
            f("description", "Description", kind="text", width=150),
            f(
                "drainage",
                "Checked",
                kind="choice",
                choices=get_args(Drainage),
                tip="how it answers in the checks: drained, undrained or both",
            ),
            f("weight", "γ", tip="unit weight above water"),
            f("weight_saturated", "γ sat", tip="unit weight below water"),
            f("cohesion", "c′", optional=True, tip="effective cohesion"),
            f("friction_angle", "φ′", optional=True, tip="effective friction angle"),
            f("undrained_strength", "cu", optional=True, tip="undrained strength at the top of the stratum"),
            f("undrained_strength_gradient", "cu grows", tip="increase of cu with depth"),
            f(
                "compression",
                "Settles by",
                kind="choice",
                choices=get_args(Compression),
                tip="E′ and ν, or the oedometer indices",
            ),
            f("modulus", "E′", optional=True),
            f("poisson", "ν"),
            f("compression_index", "Cc", optional=True),
            f("recompression_index", "Cr", optional=True),
            f("void_ratio", "e0", optional=True),
            f("overconsolidation_ratio", "OCR"),
        ]
    )


def _with_notes(columns: list[Column]) -> list[Column]:
    """Soil columns that say where a value comes from."""

    def noted(column: Column) -> Column:
        return replace(column, note=lambda row: row.sources.get(str(column.path(row)[-1]), ""))

    return [noted(c) for c in columns]


def _tests(session: Session) -> list[tuple[Borehole, int]]:
    return [(h, i) for h in session.project.ground.boreholes for i in range(len(h.tests))]


def _test_columns(_: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "tests", row[1])

    def test(row: Any) -> GroundTest:
        return row[0].tests[row[1]]  # type: ignore[no-any-return]

    return [
        Column("Borehole", lambda r: r[0].name, lambda r: (), kind="text", convert=_label_only, width=90),
        Column("Test", lambda r: test(r).kind, lambda r: (*path(r), "kind"), kind="choice", choices=lambda _: get_args(TestKind), width=90),
        Column("Depth", lambda r: test(r).depth, lambda r: (*path(r), "depth"), "m", tip="below the ground level of the borehole"),
        Column("Value", lambda r: test(r).value, lambda r: (*path(r), "value"), unit_of=lambda r: TEST_UNITS[test(r).kind], width=110),
    ]  # fmt: skip


def _add_test(session: Session, row: Any) -> str:
    holes = session.project.ground.boreholes
    if not holes:
        return "add a borehole first"
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
    "tests", _tests, _test_columns, _add_test, _remove_test, "test",
    "No test yet. Blow counts, cone resistance, strengths and index tests give parameters by published correlations.",
)  # fmt: skip


def _add_soil(session: Session, _: Any) -> str:
    name = unique("Soil ", [s.name for s in session.project.ground.soils])
    return changed(session, _append(("ground", "soils"), Soil(name=name, weight=18.0, weight_saturated=20.0)))


SOILS = Spec(
    "soils", lambda s: s.project.ground.soils, _soil_columns, _add_soil,
    lambda s, row: changed(s, _drop(("ground", "soils"), row)), "soil",
    "No soil yet. Add one, then name it in the strata of a borehole. Without ground only a presumed pressure can be checked.",
)  # fmt: skip


def _hole_columns(_: Session) -> list[Column]:
    path = _listed("ground", "boreholes")
    return [
        field(Borehole, "name", "Borehole", path, "text"),
        field(Borehole, "x", "x", path),
        field(Borehole, "y", "y", path),
        field(Borehole, "ground_level", "Ground level", path),
        field(
            Borehole,
            "rigid_below",
            "Rigid below",
            path,
            "yes",
            tip="what follows below the last stratum does not settle",
        ),
    ]


def _add_hole(session: Session, _: Any) -> str:
    ground = session.project.ground
    if not ground.soils:
        return "add a soil first: a borehole needs a stratum"
    hole = Borehole(
        name=unique("BH", [h.name for h in ground.boreholes]), x=0, y=0, ground_level=ground.surfaces.finished,
        strata=(Stratum(soil=ground.soils[0].name, thickness=10.0),),
    )  # fmt: skip
    return changed(session, _append(("ground", "boreholes"), hole))


HOLES = Spec(
    "boreholes", lambda s: s.project.ground.boreholes, _hole_columns, _add_hole,
    lambda s, row: changed(s, _drop(("ground", "boreholes"), row)), "borehole",
    "No borehole yet. The nearest one gives the ground below each pad.",
)  # fmt: skip


def _strata(session: Session) -> list[tuple[Borehole, int]]:
    return [(h, i) for h in session.project.ground.boreholes for i in range(len(h.strata))]


def _strata_columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "strata", row[1])

    def level(row: Any) -> float:
        return float(row[0].ground_level - sum(s.thickness for s in row[0].strata[: row[1]]))

    return [
        Column("Borehole", lambda r: r[0].name, lambda r: ("ground", "boreholes", r[0].name, "name"), kind="text"),
        Column("Soil", lambda r: r[0].strata[r[1]].soil, lambda r: (*path(r), "soil"), kind="choice",
               choices=lambda s: [x.name for x in s.project.ground.soils], width=130),
        Column("Thickness", lambda r: r[0].strata[r[1]].thickness, lambda r: (*path(r), "thickness"), "m"),
        Column("Top", level, path, "m", tip="follows from the thicknesses above", convert=_not_editable),
    ]  # fmt: skip


def _not_editable(_: Any) -> Any:
    from korbent.core.units import UnitError

    raise UnitError("this level follows from the thicknesses above: change those")


def _add_stratum(session: Session, row: Any) -> str:
    holes = session.project.ground.boreholes
    if not holes:
        return "add a borehole first"
    hole, at = row or (holes[-1], len(holes[-1].strata) - 1)
    new = Stratum(soil=hole.strata[at].soil, thickness=1.0)
    strata = (*hole.strata[: at + 1], new, *hole.strata[at + 1 :])
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "strata"), strata))


def _remove_stratum(session: Session, row: Any) -> str:
    hole, at = row
    if len(hole.strata) == 1:
        return f"{hole.name} needs at least one stratum; remove the borehole instead"
    strata = hole.strata[:at] + hole.strata[at + 1 :]
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "strata"), strata))


STRATA = Spec(
    "strata",
    _strata,
    _strata_columns,
    _add_stratum,
    _remove_stratum,
    "stratum",
    "Strata come with a borehole.",
)


def _level_rows(session: Session) -> list[tuple[str, tuple[str, ...], str, str, bool]]:
    """(label, path, unit, kind, optional) of the single values of the ground."""
    ground = session.project.ground
    rows = [
        (
            "Existing ground (empty: of the nearest borehole)",
            ("ground", "surfaces", "existing"),
            "m",
            "number",
            True,
        ),
        ("Excavated, formation", ("ground", "surfaces", "excavated"), "m", "number", True),
        ("Finished ground", ("ground", "surfaces", "finished"), "m", "number", False),
        ("Groundwater known", ("ground", "water"), "", "yes", False),
    ]
    if ground.water:
        rows += [
            (f"Water, {n}", ("ground", "water", n), "m", "number", False) for n in ("low", "normal", "high")
        ]
    rows += [
        ("SPT hammer, energy ratio in percent", ("ground", "spt_energy"), "", "number", False),
        ("Backfill above the bases", ("ground", "backfill", "name"), "", "text", False),
        ("Backfill, unit weight above water", ("ground", "backfill", "weight"), "kN/m3", "number", False),
        (
            "Backfill, unit weight below water",
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
        here = getattr(here, step)
    return here is not None if path == ("ground", "water") else here


def _level_columns(session: Session) -> list[Column]:
    return [
        Column("Level or weight", lambda r: r[0], lambda r: r[1], kind="text", width=300, convert=_label_only),
        Column(
            "Value", lambda r: _value(session, r[1]), lambda r: r[1], width=190, optional=True,
            unit_of=lambda r: r[2], kind_of=lambda r: r[3], convert=lambda v: _water(session) if v is True else None if v is False else v,
        ),
    ]  # fmt: skip


def _label_only(_: Any) -> Any:
    from korbent.core.units import UnitError

    raise UnitError("this is a label; the value stands to the right of it")


def _water(session: Session) -> Water:
    z = session.project.ground.surfaces.finished
    return session.project.ground.water or Water(low=z - 3.0, normal=z - 2.0, high=z - 1.0)


LEVELS = Spec("levels", _level_rows, _level_columns)

# ---------------------------------------------------------------- actions


def _case_columns(_: Session) -> list[Column]:
    path = _listed("actions", "cases")
    return [
        field(LoadCase, "name", "Case", path, "text"),
        field(LoadCase, "nature", "Nature", path, "choice", get_args(Nature)),
        field(
            LoadCase,
            "category",
            "Category",
            path,
            "text",
            width=84,
            tip="of imposed loads: A to H (EN 1990), roof (ASCE 7), storage (AS/NZS 1170)",
        ),
        field(LoadCase, "reversible", "Either sign", path, "yes", tip="the case acts with + or −"),
        field(
            LoadCase,
            "exclusive",
            "Excludes",
            path,
            "text",
            width=84,
            tip="of the cases with the same word here, one acts at a time; wind, seismic and accidental cases exclude each other anyway",
        ),
        field(LoadCase, "description", "Description", path, "text", width=230),
    ]


CASES = Spec(
    "cases", lambda s: s.project.actions.cases, _case_columns,
    lambda s, _: changed(s, _append(("actions", "cases"), LoadCase(name=unique("C", [c.name for c in s.project.actions.cases])))),
    lambda s, row: changed(s, _drop(("actions", "cases"), row)), "case",
    "No load case yet: add one, such as G for permanent loads.",
)  # fmt: skip


def _point_columns(_: Session) -> list[Column]:
    path = _listed("actions", "load_points")

    def f(name: str, title: str, **more: Any) -> Column:
        return field(LoadPoint, name, title, path, **more)

    return [
        f("name", "Column or wall", kind="text", width=110),
        f("kind", "Kind", kind="choice", choices=get_args(LoadPointKind), width=125),
        f("x", "x"),
        f("y", "y"),
        f("size_x", "Size x"),
        f("size_y", "Size y"),
        f("rotation", "Turned", tip="anticlockwise from the plan axes"),
        f("plate_x", "Plate x", optional=True, tip="base plate of a steel column"),
        f("plate_y", "Plate y", optional=True),
        f("level", "Loads act at", tip="level at which the loads below act"),
        f("axes", "Loads in axes", kind="choice", choices=("plan", "local")),
    ]


def _add_point(session: Session, _: Any) -> str:
    project = session.project
    names = [p.name for p in project.actions.load_points]
    last = project.actions.load_points[-1] if names else None
    new = LoadPoint(
        name=unique("C", names), x=last.x + 5.0 if last else 0.0, y=last.y if last else 0.0, size_x=0.4, size_y=0.4,
        level=project.ground.surfaces.finished,
    )  # fmt: skip
    return changed(session, _append(("actions", "load_points"), new))


POINTS = Spec(
    "points", lambda s: s.project.actions.load_points, _point_columns, _add_point,
    lambda s, row: changed(s, _drop(("actions", "load_points"), row)), "column",
    "No column yet: add one, give it loads, then a pad in Plan.",
)  # fmt: skip


def _load_rows(session: Session) -> list[tuple[LoadPoint, str, Load]]:
    cases = [c.name for c in session.project.actions.cases]
    return [(p, c, p.loads.get(c, Load())) for p in session.project.actions.load_points for c in cases]


def _load_columns(session: Session) -> list[Column]:
    def column(q: str, tip: str) -> Column:
        def value(row: Any) -> Any:
            return getattr(row[2], q)

        return Column(
            q,
            value,
            lambda r: ("actions", "load_points", r[0].name, "loads", r[1], q),
            unit_of(Load, q),
            tip=tip,
            width=84,
        )

    return [
        Column("Column or wall", lambda r: r[0].name, lambda r: (), kind="text", width=110, convert=_label_only),
        Column("Case", lambda r: r[1], lambda r: (), kind="text", width=70, convert=_label_only),
        column("V", "down on the foundation positive"),
        column("Hx", "towards +x"), column("Hy", "towards +y"),
        column("Mx", "right-handed about x: presses the −y side when positive … e_y = −Mx/V"),
        column("My", "right-handed about y: presses the +x side when positive, e_x = My/V"),
        column("Mz", "read, not used"),
        Column("From", _load_origin, lambda r: (), kind="text", convert=_computed, width=150),
    ]  # fmt: skip


def _load_origin(row: tuple[LoadPoint, str, Load]) -> str:
    point, case, load = row
    if case not in point.imported:
        return ""
    return "imported" if point.imported[case] == load else "imported · changed"


LOADS = Spec(
    "loads",
    _load_rows,
    _load_columns,
    empty="Loads need a case and a column; or import them from a file.",
    tools=LoadsBar,
)


def _combination_columns(session: Session) -> list[Column]:
    path = _listed("actions", "combinations")

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Combination, name, title, path, **more)

    def factor(case: str) -> Column:
        return Column(
            case, lambda r: r.factors.get(case), lambda r: (*path(r), "factors", case), optional=True, width=52,
            tip=f"factor of {case}; empty: not in the combination",
        )  # fmt: skip

    return [
        f("number", "No.", width=40),
        f("name", "Combination", kind="text", width=165),
        *(factor(c.name) for c in session.project.actions.cases),
        f("serves", "Serves", kind="words", width=150, tip="any of: " + ", ".join(get_args(Serves))),
        f("factor_set", "Set", kind="choice", choices=get_args(FactorSet), optional=True, width=46,
          tip="material factors for ultimate ground checks, EN 1997-1 table A.4"),
        f("situation", "Situation", kind="choice", choices=get_args(DesignSituation), width=84),
        f("water", "Water", kind="choice", choices=get_args(WaterLevel), width=66),
        f("weight_unfavourable", "Weights\nheavy", width=62, tip="factor of base, pedestal and backfill where it is unfavourable"),
        f("weight_favourable", "Weights\nlight", width=62, tip="where it is favourable"),
        f("water_factor", "Water\nfactor", width=58),
        Column("From", _origin, lambda r: (), kind="text", convert=_computed, width=230,
               tip="the rule that generated it; changed by hand since: edited"),
    ]  # fmt: skip


def _add_combination(session: Session, row: Any) -> str:
    project = session.project
    number = 1 + max((c.number for c in project.actions.combinations), default=0)
    if row is not None:
        new = row.replaced(number=number, name=f"{row.name}, copy")
    else:
        factors = {c.name: 1.0 for c in project.actions.cases}
        new = Combination(number=number, name="unfactored", factors=factors, serves=("allowable",))
    return changed(session, _append(("actions", "combinations"), new))


def _origin(row: Combination) -> str:
    if not row.origin:
        return "by hand"
    return f"{row.origin} · edited" if row.edited else row.origin


COMBINATIONS = Spec(
    "combinations", lambda s: s.project.actions.combinations, _combination_columns, _add_combination,
    lambda s, row: changed(s, _drop(("actions", "combinations"), row)), "combination",
    "No combination yet. A combination says which questions it serves; a check only sees its own.", GenerateBar,
)  # fmt: skip

# ---------------------------------------------------------------- plan


def _pad_columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("pads", row.name)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Pad, name, title, path, **more)

    def bars(face: str, title: str) -> Column:
        return Column(
            title, lambda r: _bars_text(getattr(r.reinforcement, face)),
            lambda r: ("pads", r.name, "reinforcement", face), kind="text", optional=True, convert=_bars, width=84,
            tip="diameter at spacing, in mm, such as 16 at 150",
        )  # fmt: skip

    def worst(row: Any) -> str:
        found = session.results.pad(row.name).worst
        return show_ratio(found.ratio) if found.ratio is not None else found.state.value

    return [
        f("name", "Pad", kind="text", width=56),
        Column("Worst", worst, lambda r: (), kind="text", width=70, convert=_computed),
        Column("Under", lambda r: r.load_point, lambda r: (*path(r), "load_point"), kind="choice",
               choices=lambda s: [p.name for p in s.project.actions.load_points], width=64),
        Column("Type", lambda r: r.type, lambda r: (*path(r), "type"), kind="choice", optional=True,
               choices=lambda s: [t.name for t in s.project.types], width=58),
        f("width", "B"), f("length", "L"), f("thickness", "h"),
        f("level", "Level"),
        f("held", "Held face", kind="choice", choices=("underside", "top"), width=84),
        f("rotation", "Turned"),
        f("offset_x", "Offset x", tip="column from the middle of the pad"), f("offset_y", "Offset y"),
        bars("bottom_x", "Bottom x"), bars("bottom_y", "Bottom y"), bars("top_x", "Top x"), bars("top_y", "Top y"),
        Column("Pedestal", lambda r: _pedestal_text(r.pedestal), lambda r: (*path(r), "pedestal"), kind="text",
               optional=True, convert=_pedestal, width=120, tip="sizes and level of its top in m, such as 0.6 x 0.6 to 3.2"),
    ]  # fmt: skip


def _computed(_: Any) -> Any:
    from korbent.core.units import UnitError

    raise UnitError("this is a result")


def _bars_text(bars: Any) -> str | None:
    return f"{bars.diameter * 1000:g} at {bars.spacing * 1000:g}" if bars else None


def _bars(text: str) -> Any:
    import re

    from korbent.core.units import UnitError

    match = re.fullmatch(r"\s*ø?\s*(\d+(?:[.,]\d+)?)\s*(?:at|@|-)\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*", text)
    if not match:
        raise UnitError(f"'{text}': type diameter at spacing in mm, such as 16 at 150")
    return {
        "diameter": float(match[1].replace(",", ".")) / 1000,
        "spacing": float(match[2].replace(",", ".")) / 1000,
    }


def _pedestal_text(pedestal: Pedestal | None) -> str | None:
    return f"{pedestal.size_x:g} x {pedestal.size_y:g} to {pedestal.top:g}" if pedestal else None


def _pedestal(text: str) -> Any:
    import re

    from korbent.core.units import UnitError

    match = re.fullmatch(r"\s*([\d.]+)\s*[x×]\s*([\d.]+)\s*to\s*([+\-−]?[\d.]+)\s*", text)
    if not match:
        raise UnitError(f"'{text}': type sizes and level of the top in m, such as 0.6 x 0.6 to 3.2")
    return {"size_x": float(match[1]), "size_y": float(match[2]), "top": float(match[3].replace("−", "-"))}


def first_pad(project: Project, column: str) -> Pad:
    """A pad for a column: its size from the allowable loads over the presumed pressure, raised by a tenth."""
    point = project.load_point(column)
    pressure = project.settings.presumed_pressure or 150.0
    loads = [
        sum(f * point.loads[c].V for c, f in combination.factors.items() if c in point.loads)
        for combination in project.actions.combinations
        if "allowable" in combination.serves
    ] or [sum(load.V for load in point.loads.values())]
    side = max(0.8, point.size_x + 0.2, point.size_y + 0.2, (1.1 * max(max(loads), 0.0) / pressure) ** 0.5)
    side = round(-(-side // 0.05) * 0.05, 2)
    finished = project.ground.surfaces.finished
    depth = max(0.8, project.settings.frost_depth)
    return Pad(
        name=unique("P", [p.name for p in project.pads]), load_point=column, width=side, length=side,
        thickness=round(max(0.35, -(-side / 4 // 0.05) * 0.05), 2), level=round(finished - depth, 3),
    )  # fmt: skip


def _add_pad(session: Session, _: Any) -> str:
    project = session.project
    if not project.actions.load_points:
        return "add a column first: a pad needs one"
    free = session.results.undesigned
    if not free:
        return "every column and wall has a foundation"
    pad = first_pad(project, free[0])
    why = changed(session, lambda p: edited(p, ("pads",), (*p.pads, pad)), f"{pad.name} under {free[0]}")
    if not why:
        session.select(pad.name)
    return why


PADS = Spec(
    "pads", lambda s: s.project.pads, _pad_columns, _add_pad, lambda s, row: changed(s, _drop(("pads",), row)), "pad",
    "No pad yet. Add one: it takes the next column without a foundation, with a first size from the presumed pressure.",
)  # fmt: skip


def _type_columns(session: Session) -> list[Column]:
    return [
        Column("Type", lambda r: r.name, lambda r: ("types", r.name, "name"), kind="text", width=90),
        Column(
            "Pads", lambda r: ", ".join(p.name for p in session.project.pads if p.type == r.name), lambda r: (), kind="text",
            width=260, convert=_computed,
        ),
    ]  # fmt: skip


TYPES = Spec(
    "types", lambda s: s.project.types, _type_columns,
    lambda s, _: changed(s, _append(("types",), PadType(name=unique("T", [t.name for t in s.project.types])))),
    lambda s, row: changed(s, _drop(("types",), row)), "type",
    "No type yet. A type is a named group of pads with common settings.",
)  # fmt: skip

SETTING_LABELS = {name: field.title or name for name, field in Settings.model_fields.items()}

SETTING_CHOICES = {
    "presumed_basis": ("gross", "net"), "presumed_compares": ("peak", "effective area"), "outer_bars": ("x", "y"),
}  # fmt: skip


def setting_kind(name: str) -> str:
    """The kind of cell a setting needs."""
    if name in SETTING_CHOICES:
        return "choice"
    return "yes" if isinstance(Settings.model_fields[name].default, bool) else "number"


def _setting_columns(session: Session) -> list[Column]:
    project, pad = session.project, session.pad
    of_type = project.type_overrides(pad) if pad else {}
    of_base = pad.overrides if pad else {}

    def cell(
        title: str, get: Callable[[str], Any], path: Callable[[str], tuple[str | int, ...]], optional: bool
    ) -> Column:
        return Column(
            title, get, path, unit_of=lambda n: unit_of(Settings, n), kind_of=setting_kind, optional=optional, width=112,
            choices_of=lambda n: SETTING_CHOICES.get(n, ()),
        )  # fmt: skip

    columns = [
        Column(
            "Setting", lambda n: SETTING_LABELS[n], lambda n: (), kind="text", width=280, convert=_label_only
        ),
        cell("Project", lambda n: getattr(project.settings, n), lambda n: ("settings", n), True),
    ]
    if pad and pad.type:
        kind = pad.type
        columns.append(
            cell(f"Type {kind}", lambda n: of_type.get(n), lambda n: ("types", kind, "overrides", n), True)
        )
    if pad:
        name = pad.name
        columns.append(
            cell(f"Pad {name}", lambda n: of_base.get(n), lambda n: ("pads", name, "overrides", n), True)
        )
        columns.append(
            Column(
                "In force from",
                lambda n: origin(n, of_type, of_base),
                lambda n: (),
                kind="text",
                convert=_computed,
                width=96,
            )
        )
    return columns


SETTINGS = Spec("settings", lambda _: tuple(SETTING_LABELS), _setting_columns)

TITLE_LABELS = {
    "project": "Project", "number": "Number", "client": "Client", "author": "Author", "checker": "Checker",
    "date": "Date", "revision": "Revision",
}  # fmt: skip

TITLE = Spec(
    "title", lambda _: tuple(TITLE_LABELS),
    lambda s: [
        Column("On every page", lambda n: TITLE_LABELS[n], lambda n: (), kind="text", width=150, convert=_label_only),
        Column("Text", lambda n: getattr(s.project.title, n), lambda n: ("title", n), kind="text", width=320),
    ],
)  # fmt: skip
