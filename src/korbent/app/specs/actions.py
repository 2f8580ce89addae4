"""The tables of Actions: cases, columns and walls, loads, combinations."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, get_args

from korbent.app.generate_bar import GenerateBar
from korbent.app.loads_bar import LoadsBar
from korbent.app.session import Session
from korbent.app.specs.common import (
    append,
    changed,
    computed,
    drop,
    field,
    label_only,
    listed,
    reordered,
    unique,
)
from korbent.app.specs.matrix import of_selected
from korbent.app.specs.standing import anchors_of, anchors_text
from korbent.app.tables import Column, Spec
from korbent.core.actions.coverage import questions_without
from korbent.core.model import (
    Combination,
    Load,
    LoadCase,
    LoadPoint,
)
from korbent.core.model.actions import (
    CATEGORIES,
    DesignSituation,
    FactorSet,
    LoadPointKind,
    Nature,
    Serves,
    WaterLevel,
)
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import labels
from korbent.core.plan.totals import CaseTotal, case_totals
from korbent.words import say


def _case_columns(session: Session) -> list[Column]:
    path = listed("actions", "cases")

    def left_out(case: LoadCase) -> str:
        missing = questions_without(session.project.actions, case.name)
        return say("acts in no combination that serves: {missing}", missing=labels(missing)) if missing else ""

    return [
        replace(field(LoadCase, "name", say("Case"), path, "text"), odd=left_out),
        field(LoadCase, "nature", say("Kind of action"), path, "key", get_args(Nature)),
        replace(
            field(
                LoadCase,
                "category",
                say("Category"),
                path,
                "key",
                width=100,
                tip=say(
                    "of imposed loads (EN 1990 table A1.1, or in words), snow, wind for one kind of limit state only, the direction of an earthquake"
                ),
            ),
            choices_of=lambda case: ("", *CATEGORIES.get(case.nature, ())),
        ),
        field(LoadCase, "reversible", say("Either sign"), path, "yes", tip=say("the case acts with + or −")),
        field(
            LoadCase,
            "exclusive",
            say("Excludes"),
            path,
            "text",
            width=84,
            tip=say(
                "of the cases with the same word here, whatever their kind of action, at most one acts at a time; wind, seismic and accidental cases exclude each other anyway"
            ),
        ),
        field(LoadCase, "description", say("Description"), path, "text", width=230),
    ]


CASES = Spec(
    "cases",
    lambda s: s.project.actions.cases,
    _case_columns,
    lambda s, _: changed(
        s, append(("actions", "cases"), LoadCase(name=unique("C", [c.name for c in s.project.actions.cases])))
    ),
    lambda s, row: changed(s, drop(("actions", "cases"), row)),
    say("case"),
    say("No load case yet: add one, such as G for permanent loads."),
    order=reordered("actions", "cases"),
)


def _point_columns(session: Session) -> list[Column]:
    path, units = listed("actions", "load_points"), session.project.showing

    def f(name: str, title: str, **more: Any) -> Column:
        return field(LoadPoint, name, title, path, **more)

    return [
        f("name", say("Column or wall"), kind="text", width=110),
        f("kind", say("Kind"), kind="key", choices=get_args(LoadPointKind), width=125),
        f("x", "x"),
        f("y", "y"),
        f("size_x", say("Size x")),
        f("size_y", say("Size y")),
        f("rotation", say("Turned"), tip=say("anticlockwise from the plan axes")),
        f("plate_x", say("Plate x"), optional=True, tip=say("base plate of a steel column")),
        f("plate_y", say("Plate y"), optional=True),
        Column(
            say("Anchors"),
            lambda r: anchors_text(r.anchors, units),
            lambda r: (*path(r), "anchors"),
            kind="text",
            optional=True,
            convert=lambda text: anchors_of(text, units),
            width=150,
            tip=say(
                "anchor bolts of the base plate as the steelwork gives them, drawn and not checked: how many along x and y, their diameter, how far apart the outer ones are, how deep, such as 2 x 2 ø 24 at 240 x 240, 600 deep"
            ),
        ),
        f("level", say("Loads act at"), tip=say("level at which the loads below act")),
        f("axes", say("Loads in axes"), kind="key", choices=("plan", "local")),
        f(
            "per",
            say("Loads are of the"),
            kind="key",
            choices=("whole", "metre"),
            tip=say("per metre: of a wall, times its length"),
        ),
    ]


def _add_point(session: Session, _: Any) -> str:
    project = session.project
    names = [p.name for p in project.actions.load_points]
    last = project.actions.load_points[-1] if names else None
    new = LoadPoint(
        name=unique("C", names),
        x=last.x + 5.0 if last else 0.0,
        y=last.y if last else 0.0,
        size_x=0.4,
        size_y=0.4,
        level=project.ground.surfaces.finished,
    )
    return changed(session, append(("actions", "load_points"), new))


POINTS = Spec(
    "points",
    lambda s: s.project.actions.load_points,
    _point_columns,
    _add_point,
    lambda s, row: changed(s, drop(("actions", "load_points"), row)),
    say("column"),
    say("No column yet: add one, give it loads, then a pad in Plan."),
    order=reordered("actions", "load_points"),
)


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
        Column(
            say("Column or wall"),
            lambda r: r[0].name,
            lambda r: (),
            kind="text",
            width=110,
            convert=label_only,
            derived=True,
        ),
        Column(say("Case"), lambda r: r[1], lambda r: (), kind="text", width=70, convert=label_only, derived=True),
        column("V", say("down on the foundation positive")),
        column("Hx", say("towards +x")),
        column("Hy", say("towards +y")),
        column("Mx", say("right-handed about x: presses the −y side when positive … e_y = −Mx/V")),
        column("My", say("right-handed about y: presses the +x side when positive, e_x = My/V")),
        column("Mz", say("read, not used")),
        Column(say("From"), _load_origin, lambda r: (), kind="text", convert=computed, derived=True, width=150),
    ]


def _load_origin(row: tuple[LoadPoint, str, Load]) -> str:
    point, case, load = row
    if case not in point.imported:
        return ""
    return say("imported") if point.imported[case] == load else say("imported · changed")


LOADS = Spec(
    "loads",
    _load_rows,
    _load_columns,
    empty=say("Loads need a case and a column; or import them from a file."),
    tools=LoadsBar,
)


def _governs(session: Session) -> dict[int, int]:
    """By number of a combination, how many checks of bases it governs."""
    found: dict[int, int] = {}
    for check in session.results.all_checks:
        number = check.combination.split()[0] if check.combination else ""
        if number.isdigit() and check.ratio is not None:
            found[int(number)] = found.get(int(number), 0) + 1
    return found


def _tint(factor: float | None) -> str:
    """The colour behind a factor: the more of the case counts, the stronger; what relieves in another one."""
    if not factor:
        return ""
    return f"field:{min(0.08 + 0.22 * abs(factor), 0.55):.2f}" if factor > 0 else "odd_wash"


OWN_LOADS = of_selected(_load_columns)


def _combination_columns(session: Session) -> list[Column]:
    path = listed("actions", "combinations")
    governs = _governs(session)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Combination, name, title, path, **more)

    def factor(case: str) -> Column:
        return Column(
            case,
            lambda r: r.factors.get(case),
            lambda r: (*path(r), "factors", case),
            optional=True,
            width=52,
            tip=say("factor of {case}; empty: not in the combination", case=case),
            tint=lambda r: _tint(r.factors.get(case)),
        )

    return [
        f("number", "No.", width=40),
        f("name", say("Combination"), kind="text", width=165),
        Column(
            say("Governs"),
            lambda r: governs.get(r.number),
            lambda r: (),
            convert=computed,
            derived=True,
            width=62,
            tip=say("how many checks of bases this combination governs"),
            strong=lambda r: r.number in governs,
        ),
        *(factor(c.name) for c in session.project.actions.cases),
        f(
            "serves",
            say("Serves"),
            kind="keys",
            choices=get_args(Serves),
            width=150,
            tip=say("any of: {kinds}", kinds=labels(get_args(Serves))),
        ),
        f("only", say("Only for"), kind="words", width=90, tip=say("the bases that it is looked at for; empty: all")),
        f(
            "factor_set",
            say("Set"),
            kind="key",
            choices=get_args(FactorSet),
            optional=True,
            width=66,
            tip=say(
                "for ultimate ground checks: M1, M2 on the strengths (EN 1997-1 table A.4); R2 on the resistance (table A.5), * with the eccentricity of characteristic actions; R: the resistance factors of Settings"
            ),
        ),
        f("situation", say("Situation"), kind="key", choices=get_args(DesignSituation), width=84),
        f(
            "water",
            say("Water"),
            kind="key",
            choices=get_args(WaterLevel),
            width=66,
            tip=say("the level that the combination is looked at with; worst: low, normal and high in turn"),
        ),
        f(
            "weight_unfavourable",
            say("Weights\nheavy"),
            width=62,
            tip=say("factor of base, pedestal and backfill where it is unfavourable"),
        ),
        f("weight_favourable", say("Weights\nlight"), width=62, tip=say("where it is favourable")),
        f("water_factor", say("Water\nfactor"), width=58),
        Column(
            say("From"),
            _origin,
            lambda r: (),
            kind="text",
            convert=computed,
            derived=True,
            width=230,
            tip=say("the rule that generated it; changed by hand since: edited"),
        ),
    ]


def _add_combination(session: Session, row: Any) -> str:
    project = session.project
    number = 1 + max((c.number for c in project.actions.combinations), default=0)
    if row is not None:
        new = row.replaced(number=number, name=f"{row.name}, copy")
    else:
        factors = {c.name: 1.0 for c in project.actions.cases}
        new = Combination(number=number, name=say("unfactored"), factors=factors, serves=("allowable",), water="worst")
    return changed(session, append(("actions", "combinations"), new))


def _origin(row: Combination) -> str:
    if not row.origin:
        return say("by hand")
    return say("{origin} · edited", origin=row.origin) if row.edited else row.origin


def _combination_rows(session: Session) -> tuple[Combination, ...]:
    """All, or those that serve what is asked for."""
    rows = session.project.actions.combinations
    return tuple(c for c in rows if session.serving in c.serves) if session.serving else rows


def _combinations_reordered(session: Session, rows: Sequence[Any]) -> str:
    """In the order of the rows; what is not listed stays behind them."""
    rest = [c for c in session.project.actions.combinations if c not in rows]
    return reordered("actions", "combinations")(session, [*rows, *rest])


COMBINATIONS = Spec(
    "combinations",
    _combination_rows,
    _combination_columns,
    _add_combination,
    lambda s, row: changed(s, drop(("actions", "combinations"), row)),
    say("combination"),
    say("No combination here. A combination says which questions it serves; a check only sees its own."),
    GenerateBar,
    order=_combinations_reordered,
)


def _total_columns(_: Session) -> list[Column]:
    def result(title: str, get: Callable[[CaseTotal], Any], unit: str = "", tip: str = "") -> Column:
        return Column(title, get, lambda r: (), unit, convert=computed, derived=True, width=96, tip=tip)

    def place(axis: int) -> Callable[[CaseTotal], Any]:
        return lambda total: total.centroid[axis] if total.centroid else None

    def source(title: str, position: int) -> Column:
        """The sum that the source of the loads states; far from ours it is marked."""
        field = ("stated_V", "stated_Hx", "stated_Hy")[position]
        return Column(
            title,
            lambda r: r.stated[position],
            lambda r: ("actions", "cases", r.case, field),
            "kN",
            optional=True,
            width=96,
            tip=say("as the source of the loads states it: type it here to compare"),
            odd=lambda r: (
                say("differs from the sum of the loads by more than half a percent") if r.off(position) else ""
            ),
        )

    return [
        Column(say("Case"), lambda r: r.case, lambda r: (), kind="text", convert=computed, derived=True, width=90),
        result("ΣV", lambda r: r.V, "kN", say("down positive; compare with the source")),
        source(say("source ΣV"), 0),
        result("ΣHx", lambda r: r.Hx, "kN"),
        source(say("source ΣHx"), 1),
        result("ΣHy", lambda r: r.Hy, "kN"),
        source(say("source ΣHy"), 2),
        result(
            say("Centroid x"), place(0), "m", say("of V in the plan; empty where the case lifts here and presses there")
        ),
        result(say("Centroid y"), place(1), "m"),
    ]


TOTALS = Spec(
    "totals",
    lambda s: case_totals(s.project),
    _total_columns,
    empty=say("Totals of all columns and walls by case."),
)
