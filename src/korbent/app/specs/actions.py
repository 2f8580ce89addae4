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
from korbent.core.model.base import unit_of
from korbent.core.plan.totals import CaseTotal, case_totals


def _case_columns(session: Session) -> list[Column]:
    path = listed("actions", "cases")

    def left_out(case: LoadCase) -> str:
        missing = questions_without(session.project.actions, case.name)
        return f"acts in no combination that serves: {', '.join(missing)}" if missing else ""

    return [
        replace(field(LoadCase, "name", "Case", path, "text"), odd=left_out),
        field(LoadCase, "nature", "Kind of action", path, "choice", get_args(Nature)),
        replace(
            field(
                LoadCase,
                "category",
                "Category",
                path,
                "choice",
                width=100,
                tip="of imposed loads (EN 1990 table A1.1, or in words), snow, wind for one kind of limit state only, the direction of an earthquake",
            ),
            choices_of=lambda case: ("", *CATEGORIES.get(case.nature, ())),
        ),
        field(LoadCase, "reversible", "Either sign", path, "yes", tip="the case acts with + or −"),
        field(
            LoadCase,
            "exclusive",
            "Excludes",
            path,
            "text",
            width=84,
            tip="of the cases with the same word here, whatever their kind of action, at most one acts at a time; wind, seismic and accidental cases exclude each other anyway",
        ),
        field(LoadCase, "description", "Description", path, "text", width=230),
    ]


CASES = Spec(
    "cases",
    lambda s: s.project.actions.cases,
    _case_columns,
    lambda s, _: changed(
        s, append(("actions", "cases"), LoadCase(name=unique("C", [c.name for c in s.project.actions.cases])))
    ),
    lambda s, row: changed(s, drop(("actions", "cases"), row)),
    "case",
    "No load case yet: add one, such as G for permanent loads.",
    order=reordered("actions", "cases"),
)


def _point_columns(session: Session) -> list[Column]:
    path, units = listed("actions", "load_points"), session.project.showing

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
        Column(
            "Anchors",
            lambda r: anchors_text(r.anchors, units),
            lambda r: (*path(r), "anchors"),
            kind="text",
            optional=True,
            convert=lambda text: anchors_of(text, units),
            width=150,
            tip="anchor bolts of the base plate as the steelwork gives them, drawn and not checked: how many along x and y, their diameter, how far apart the outer ones are, how deep, such as 2 x 2 ø 24 at 240 x 240, 600 deep",
        ),
        f("level", "Loads act at", tip="level at which the loads below act"),
        f("axes", "Loads in axes", kind="choice", choices=("plan", "local")),
        f(
            "per",
            "Loads are of the",
            kind="choice",
            choices=("whole", "metre"),
            tip="per metre: of a wall, times its length",
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
    "column",
    "No column yet: add one, give it loads, then a pad in Plan.",
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
            "Column or wall",
            lambda r: r[0].name,
            lambda r: (),
            kind="text",
            width=110,
            convert=label_only,
            derived=True,
        ),
        Column("Case", lambda r: r[1], lambda r: (), kind="text", width=70, convert=label_only, derived=True),
        column("V", "down on the foundation positive"),
        column("Hx", "towards +x"),
        column("Hy", "towards +y"),
        column("Mx", "right-handed about x: presses the −y side when positive … e_y = −Mx/V"),
        column("My", "right-handed about y: presses the +x side when positive, e_x = My/V"),
        column("Mz", "read, not used"),
        Column("From", _load_origin, lambda r: (), kind="text", convert=computed, derived=True, width=150),
    ]


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
            tip=f"factor of {case}; empty: not in the combination",
            tint=lambda r: _tint(r.factors.get(case)),
        )

    return [
        f("number", "No.", width=40),
        f("name", "Combination", kind="text", width=165),
        Column(
            "Governs",
            lambda r: governs.get(r.number),
            lambda r: (),
            convert=computed,
            derived=True,
            width=62,
            tip="how many checks of bases this combination governs",
            strong=lambda r: r.number in governs,
        ),
        *(factor(c.name) for c in session.project.actions.cases),
        f("serves", "Serves", kind="words", width=150, tip="any of: " + ", ".join(get_args(Serves))),
        f("only", "Only for", kind="words", width=90, tip="the bases that it is looked at for; empty: all"),
        f(
            "factor_set",
            "Set",
            kind="choice",
            choices=get_args(FactorSet),
            optional=True,
            width=66,
            tip="for ultimate ground checks: M1, M2 on the strengths (EN 1997-1 table A.4); R2 on the resistance (table A.5), * with the eccentricity of characteristic actions; R: the resistance factors of Settings",
        ),
        f("situation", "Situation", kind="choice", choices=get_args(DesignSituation), width=84),
        f(
            "water",
            "Water",
            kind="choice",
            choices=get_args(WaterLevel),
            width=66,
            tip="the level that the combination is looked at with; worst: low, normal and high in turn",
        ),
        f(
            "weight_unfavourable",
            "Weights\nheavy",
            width=62,
            tip="factor of base, pedestal and backfill where it is unfavourable",
        ),
        f("weight_favourable", "Weights\nlight", width=62, tip="where it is favourable"),
        f("water_factor", "Water\nfactor", width=58),
        Column(
            "From",
            _origin,
            lambda r: (),
            kind="text",
            convert=computed,
            derived=True,
            width=230,
            tip="the rule that generated it; changed by hand since: edited",
        ),
    ]


def _add_combination(session: Session, row: Any) -> str:
    project = session.project
    number = 1 + max((c.number for c in project.actions.combinations), default=0)
    if row is not None:
        new = row.replaced(number=number, name=f"{row.name}, copy")
    else:
        factors = {c.name: 1.0 for c in project.actions.cases}
        new = Combination(number=number, name="unfactored", factors=factors, serves=("allowable",), water="worst")
    return changed(session, append(("actions", "combinations"), new))


def _origin(row: Combination) -> str:
    if not row.origin:
        return "by hand"
    return f"{row.origin} · edited" if row.edited else row.origin


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
    "combination",
    "No combination here. A combination says which questions it serves; a check only sees its own.",
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
            tip="as the source of the loads states it: type it here to compare",
            odd=lambda r: "differs from the sum of the loads by more than half a percent" if r.off(position) else "",
        )

    return [
        Column("Case", lambda r: r.case, lambda r: (), kind="text", convert=computed, derived=True, width=90),
        result("ΣV", lambda r: r.V, "kN", "down positive; compare with the source"),
        source("source ΣV", 0),
        result("ΣHx", lambda r: r.Hx, "kN"),
        source("source ΣHx", 1),
        result("ΣHy", lambda r: r.Hy, "kN"),
        source("source ΣHy", 2),
        result("Centroid x", place(0), "m", "of V in the plan; empty where the case lifts here and presses there"),
        result("Centroid y", place(1), "m"),
    ]


TOTALS = Spec(
    "totals",
    lambda s: case_totals(s.project),
    _total_columns,
    empty="Totals of all columns and walls by case.",
)
