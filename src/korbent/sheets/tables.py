"""The tables of a set: every number with its unit in the heading, one sheet each."""

import datetime
from collections.abc import Callable, Sequence

from korbent.core.checks import GROUPS, Check, State
from korbent.core.concrete.schedule import header_of, schedule_rows, weight_of
from korbent.core.evaluate import PadResult, Results
from korbent.core.geometry import table as sizes_of
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.settlement.over_time import points
from korbent.core.sizing.cost import quantities, value_of
from korbent.core.units import shown_unit, to_shown
from korbent.drawing.words import POUND, under_words, weight_unit
from korbent.files.settlement_tables import time_header, time_rows
from korbent.files.sheet import Cell
from korbent.sheets.catalogue import KINDS
from korbent.sheets.types import kind_of, kinds_built
from korbent.words import say

Grid = tuple[Sequence[str], list[list[Cell]]]


def tables(project: Project, results: Results, keys: Sequence[str]) -> dict[str, Grid]:
    """By title of the sheet its head and rows; keys without a table are passed over."""
    return {KINDS[key].title: MAKERS[key](project, results) for key in keys if key in MAKERS}


def _ratios(project: Project, results: Results) -> Grid:
    """A row a base, a column a check: its ratio, or its state in words where it has none."""
    columns = _columns(results)
    head = [
        say("Base"),
        say("Worst check"),
        say("Worst ratio"),
        *(say("{title}, ratio", title=c.title) for c in columns),
    ]
    rows: list[list[Cell]] = []
    for result in results.pads:
        own = {c.check.id: c for c in result.checks}
        worst = result.worst
        cells: list[Cell] = []
        for column in columns:
            found = own.get(column.id)
            if found is None or found.state is State.NOT_APPLICABLE:
                cells.append(None)
            else:
                cells.append(found.state.word if found.ratio is None else round(found.ratio, 4))
        rows.append([result.name, worst.check.title, None if worst.ratio is None else round(worst.ratio, 4), *cells])
    return head, rows


def _sides(project: Project, results: Results) -> Grid:
    """A row a base, two columns a check: what is asked of it and what it can, each with its unit in the heading."""
    columns = [c for c in _columns(results) if any(_has_sides(r, c) for r in results.pads)]
    u = project.showing

    def unit(check: Check) -> str:
        return f", {shown_unit(check.unit, u)}" if check.unit else ""

    head = [say("Base"), *(f"{c.title}, {side}{unit(c)}" for c in columns for side in ("demand", "capacity"))]
    rows: list[list[Cell]] = []
    for result in results.pads:
        own = {c.check.id: c for c in result.checks}
        cells: list[Cell] = []
        for column in columns:
            found = own.get(column.id)
            for value in (found.demand, found.capacity) if found is not None else (None, None):
                cells.append(None if value is None else _of(value, column.unit, project))
        rows.append([result.name, *cells])
    return head, rows


def _columns(results: Results) -> list[Check]:
    """The checks that some base has, by group."""
    found = {c.check.id: c.check for r in results.pads for c in r.checks if c.state is not State.NOT_APPLICABLE}
    return sorted(found.values(), key=lambda c: GROUPS.index(c.group))


def _has_sides(result: PadResult, check: Check) -> bool:
    return any(c.check.id == check.id and (c.demand is not None or c.capacity is not None) for c in result.checks)


def _list(project: Project, results: Results) -> Grid:
    """A row a check."""
    head = [
        say("Base"),
        say("Group"),
        say("Check"),
        say("State"),
        say("Ratio"),
        say("Factor of safety"),
        say("Required factor"),
        say("Combination"),
        say("Reference"),
        say("Message"),
    ]
    rows: list[list[Cell]] = []
    for c in results.all_checks:
        if c.state is State.NOT_APPLICABLE:
            continue
        rows.append(
            [
                c.foundation,
                c.check.group,
                c.check.title,
                c.state.word,
                None if c.ratio is None else round(c.ratio, 4),
                None if c.factor is None else round(c.factor, 4),
                c.required_factor,
                c.combination,
                c.check.reference,
                c.message if c.state is not State.HOLDS else "",
            ]
        )
    return head, rows


def _of(value: float, unit: str, project: Project) -> float:
    return float(f"{float(to_shown(value, unit, project.showing)):.6g}")


AMOUNTS = {"Concrete": "m³", "Excavation": "m³", "Formwork": "m²"}


def _sizes(project: Project, results: Results) -> Grid:
    u = project.showing
    m, mass = shown_unit("m", u), weight_unit(u)
    head = [
        say("Base"),
        say("Built as"),
        say("Under"),
        say("Width B, {m}", m=m),
        say("Length L, {m}", m=m),
        say("Thickness h, {m}", m=m),
        say("Underside, {m}", m=m),
        say("Top, {m}", m=m),
        say("Bars, {mass}", mass=mass),
        *(f"{name}, {shown_unit(unit, u)}" for name, unit in AMOUNTS.items()),
        say("Cost"),
    ]
    kinds = kind_of(kinds_built(project))
    rows: list[list[Cell]] = []
    for pad in project.pads:
        found = quantities(project, pad, sizes_of(pad))
        steel = weight_of(project, pad) / (POUND if u.system == "us" else 1.0)
        lengths = [_of(v, "m", project) for v in (pad.width, pad.extent, pad.thickness, pad.underside, pad.top)]
        cost = float(value_of(project.rates, found, "cost")[0])
        rows.append(
            [
                pad.name,
                kinds[pad.name],
                under_words(pad),
                *lengths,
                round(steel, 1),
                *(
                    round(float(to_shown(float(getattr(found, name.lower())[0]), unit, u)), 3)
                    for name, unit in AMOUNTS.items()
                ),
                round(cost, 2),
            ]
        )
    if rows:
        sums: list[Cell] = [
            round(sum(float(v) for r in rows if isinstance(v := r[k], (int, float))), 3) for k in range(8, 13)
        ]
        rows.append([label("all"), "", "", None, None, None, None, None, *sums])
    return head, rows


def _reactions(project: Project, results: Results) -> Grid:
    u = project.showing
    kn, knm, m = (shown_unit(unit, u) for unit in ("kN", "kNm", "m"))
    head = [
        say("Column"),
        say("Case"),
        f"V, {kn}",
        f"Hx, {kn}",
        f"Hy, {kn}",
        f"Mx, {knm}",
        f"My, {knm}",
        f"x, {m}",
        f"y, {m}",
        say("Level, {m}", m=m),
        say("Axes"),
        say("Per"),
    ]
    rows: list[list[Cell]] = []
    for p in project.actions.load_points:
        for case, load in p.loads.items():
            forces = [_of(getattr(load, q), "kN", project) for q in ("V", "Hx", "Hy")]
            moments = [_of(getattr(load, q), "kNm", project) for q in ("Mx", "My")]
            places = [_of(v, "m", project) for v in (p.x, p.y, p.level)]
            rows.append([p.name, case, *forces, *moments, *places, label(p.axes), label(p.per)])
    return head, rows


def _settlements(project: Project, results: Results) -> Grid:
    found, known = points(project)
    head = time_header(project)
    day = head.index(say("date"))
    rows: list[list[Cell]] = []
    for own in known:
        if not own.why:
            for row in time_rows(project, found, own, every=True):
                cells: list[Cell] = list(row)
                cells[day] = datetime.date.fromisoformat(str(row[day])) if row[day] else None
                rows.append(cells)
    return head, rows


def _bars(project: Project, results: Results) -> Grid:
    return header_of(project), [list(row) for row in schedule_rows(project)]


MAKERS: dict[str, Callable[[Project, Results], Grid]] = {
    "checks": _ratios,
    "sides": _sides,
    "list": _list,
    "sizes": _sizes,
    "reactions": _reactions,
    "settlements": _settlements,
    "bars": _bars,
}
"""By key of the sheet; changes are made where there is something to compare with."""
