"""The tables of a set: every number with its unit in the heading, one sheet each."""

from collections.abc import Callable, Sequence
from pathlib import Path

from korbent.core.checks import State
from korbent.core.concrete.schedule import header_of, schedule_rows, weight_of
from korbent.core.evaluate import Results
from korbent.core.geometry import table as sizes_of
from korbent.core.model import Project
from korbent.core.settlement.over_time import points
from korbent.core.sizing.cost import quantities, value_of
from korbent.core.units import shown_unit, to_shown
from korbent.drawing.words import POUND, under_words, weight_unit
from korbent.files.settlement_tables import time_header, time_rows
from korbent.files.sheet import Cell, write_sheets
from korbent.sheets.catalogue import KINDS
from korbent.sheets.types import kind_of, kinds_built

Grid = tuple[Sequence[str], list[list[Cell]]]


def tables(project: Project, results: Results, keys: Sequence[str]) -> dict[str, Grid]:
    """By title of the sheet its head and rows; keys without a table are passed over."""
    return {KINDS[key].title: MAKERS[key](project, results) for key in keys if key in MAKERS}


def write_tables(project: Project, results: Results, keys: Sequence[str], path: Path) -> list[Path]:
    """Writes tables into a workbook, or as CSV files beside each other.

    Raises:
        OSError: when a file cannot be written.
    """
    return write_sheets(path, tables(project, results, keys))


def _checks(project: Project, results: Results) -> Grid:
    u = project.showing
    head = ["Base", "Group", "Check", "State", "Ratio", "Demand", "Capacity", "Unit", "Factor of safety", "Required factor", "Combination", "Reference", "Message"]  # fmt: skip
    rows: list[list[Cell]] = []
    for c in results.all_checks:
        if c.state is State.NOT_APPLICABLE:
            continue
        demand, capacity = (None if v is None else _of(v, c.check.unit, project) for v in (c.demand, c.capacity))  # fmt: skip
        rows.append([
            c.foundation, c.check.group, c.check.title, c.state.value, None if c.ratio is None else round(c.ratio, 4), demand, capacity,
            shown_unit(c.check.unit, u), None if c.factor is None else round(c.factor, 4), c.required_factor, c.combination, c.check.reference,
            c.message if c.state is not State.HOLDS else "",
        ])  # fmt: skip
    return head, rows


def _of(value: float, unit: str, project: Project) -> float:
    return float(f"{float(to_shown(value, unit, project.showing)):.6g}")


def _sizes(project: Project, results: Results) -> Grid:
    u = project.showing
    m, mass = shown_unit("m", u), weight_unit(u)
    head = [
        "Base", "Built as", "Under", f"Width B, {m}", f"Length L, {m}", f"Thickness h, {m}", f"Underside, {m}", f"Top, {m}", f"Bars, {mass}",
        "Concrete, m³", "Excavation, m³", "Formwork, m²", "Cost",
    ]  # fmt: skip
    kinds = kind_of(kinds_built(project))
    rows: list[list[Cell]] = []
    for pad in project.pads:
        found = quantities(project, pad, sizes_of(pad))
        steel = weight_of(project, pad) / (POUND if u.system == "us" else 1.0)
        lengths = [
            _of(v, "m", project) for v in (pad.width, pad.extent, pad.thickness, pad.underside, pad.top)
        ]
        cost = float(value_of(project.rates, found, "cost")[0])
        rows.append([
            pad.name, kinds[pad.name], under_words(pad), *lengths, round(steel, 1), *(round(float(v[0]), 3) for v in (found.concrete, found.excavation, found.formwork)),
            round(cost, 2),
        ])  # fmt: skip
    if rows:
        sums: list[Cell] = [round(sum(float(r[k] or 0.0) for r in rows), 3) for k in range(8, 13)]
        rows.append(["all", "", "", None, None, None, None, None, *sums])
    return head, rows


def _reactions(project: Project, results: Results) -> Grid:
    u = project.showing
    kn, knm, m = (shown_unit(unit, u) for unit in ("kN", "kNm", "m"))
    head = ["Column", "Case", f"V, {kn}", f"Hx, {kn}", f"Hy, {kn}", f"Mx, {knm}", f"My, {knm}", f"x, {m}", f"y, {m}", f"Level, {m}", "Axes", "Per"]  # fmt: skip
    rows: list[list[Cell]] = []
    for p in project.actions.load_points:
        for case, load in p.loads.items():
            forces = [_of(getattr(load, q), "kN", project) for q in ("V", "Hx", "Hy")]
            moments = [_of(getattr(load, q), "kNm", project) for q in ("Mx", "My")]
            places = [_of(v, "m", project) for v in (p.x, p.y, p.level)]
            rows.append([p.name, case, *forces, *moments, *places, p.axes, p.per])
    return head, rows


def _settlements(project: Project, results: Results) -> Grid:
    found, known = points(project)
    rows: list[list[Cell]] = [list(row) for own in known if not own.why for row in time_rows(project, found, own, every=True)]  # fmt: skip
    return time_header(project), rows


def _bars(project: Project, results: Results) -> Grid:
    return header_of(project), [list(row) for row in schedule_rows(project)]


MAKERS: dict[str, Callable[[Project, Results], Grid]] = {
    "checks": _checks, "sizes": _sizes, "reactions": _reactions, "settlements": _settlements, "bars": _bars,
}  # fmt: skip
"""By key of the sheet; changes are made where there is something to compare with."""
