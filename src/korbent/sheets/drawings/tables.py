"""Sheets of tables: setting out, and the schedule of bars."""

from collections.abc import Sequence
from dataclasses import replace

from korbent.core.concrete.bar_text import diameter_words, words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.schedule import POUND, schedule, sheets
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.core.units import show, shown_unit
from korbent.drawing.logs import signed
from korbent.drawing.primitives import Drawing, Line, Text
from korbent.drawing.words import size_words
from korbent.sheets.composition import Block, Sheet, View, px
from korbent.sheets.details import shape_sketch
from korbent.sheets.drawings.page import GAP, Changed, page_of, sheet_of
from korbent.sheets.foundation_plan import coordinates, length_words
from korbent.sheets.paper import MM
from korbent.sheets.table import Column, narrowed, shared, table_drawing
from korbent.sheets.types import kinds_built
from korbent.words import say


def tabled(
    project: Project,
    key: str,
    title: str,
    choice: SheetChoice,
    tables: Sequence[tuple[str, Sequence[Column], Sequence[Sequence[str | Drawing]]]],
    large: str,
) -> list[tuple[Sheet, Block]]:
    """Tables beside and below each other, on as many sheets as they need."""
    page = page_of(project, choice, large)
    found: list[list[View]] = [[]]
    left, top, widest = page.left, page.top, 0.0
    for name, given, rows in tables:
        columns = narrowed(given, page.wide)
        wide = sum(c.width for c in columns)
        parts = shared(columns, list(rows), page.high)
        for part in parts:
            drawn = table_drawing(columns, part, name)
            high = -drawn.bounds[1] / MM
            if top + high > page.top + page.high + 0.1 and found[-1]:  # beside it, or on the next sheet
                left, top = left + widest + GAP, page.top
                widest = 0.0
            if left + wide > page.left + page.wide + 0.1 and found[-1]:
                found.append([])
                left, top, widest = page.left, page.top, 0.0
            found[-1].append(View(name, drawn, 1.0, left, top))
            top += high + GAP
            widest = max(widest, wide)
    return [sheet_of(project, key, title, page, views) for views in found if views]


def setting_out_sheets(
    project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed
) -> list[tuple[Sheet, Block]]:
    u, us = project.showing, project.units == "us"
    unit = shown_unit("m", u)
    types = [
        Column(say("Type"), 16),
        Column(say("Bases"), 44),
        Column(say("Size, {unit}", unit=unit), 44),
        Column(say("Bottom x"), 26),
        Column(say("Bottom y"), 26),
        Column(say("Top x"), 26),
        Column(say("Top y"), 26),
        Column(say("Level"), 26),
    ]
    rows: list[list[str | Drawing]] = []
    new: list[bool] = []
    for kind in kinds_built(project):
        new.append(any(p.name in changed.bases for p in kind.members))
        r = kind.first.reinforcement
        levels = sorted({round(p.underside, 3) for p in kind.members})
        where = signed(levels[0], u) + (f" … {signed(levels[-1], u)}" if len(levels) > 1 else "")
        bars = [words(r.bars(face), us) or "–" for face in ("bottom_x", "bottom_y", "top_x", "top_y")]
        if project.settings_of(kind.first).base_concrete == "plain":
            bars = ["plain", "", "", ""]
        rows.append([kind.name, kind.names, size_words(kind.first, u), *bars, where])
    points = [
        Column(say("Column"), 22),
        Column(f"x, {unit}", 22, "right"),
        Column(f"y, {unit}", 22, "right"),
        Column(say("Level, {unit}", unit=unit), 22, "right"),
    ]
    tables: list[tuple[str, Sequence[Column], Sequence[Sequence[str | Drawing]]]] = [
        (say("Types"), *with_marks(types, rows, new, changed)),
        (say("Setting out: middles of the columns"), points, [list(row) for row in coordinates(project)]),
    ]
    return tabled(project, "setting-out", say("Types and setting out"), choice, tables, "Arch B" if us else "A3")


def schedule_sheets(
    project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed
) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    unit, mass = ("in", "lb") if us else ("mm", "kg")

    def size(length: float) -> str:
        return "" if not length else f"{length / INCH:.2f}" if us else f"{1000 * length:.0f}"

    def whole(length: float) -> str:
        return length_words(length, project.showing) if us and length else size(length)

    def weight(value: float) -> str:
        return f"{value / (POUND if us else 1.0):.1f}"

    code = say("Shape") if us else say("Shape, ISO 3766")
    columns = [
        Column(say("Mark"), 13),
        Column(say("Bar"), 15),
        Column(code, 16, "middle"),
        Column(say("As bent"), 42, "middle"),
        Column(say("Number"), 17, "right"),
        Column(say("Length") if us else say("Length, {unit}", unit=unit), 22, "right"),
        Column(say("Mandrel, {unit}", unit=unit), 22, "right"),
        Column(say("Weight, {mass}", mass=mass), 22, "right"),
        Column(say("Where"), 70),
    ]
    rows: list[list[str | Drawing]] = []
    new: list[bool] = []
    by_diameter: dict[float, list[float]] = {}
    for bar in schedule(project):
        where = _where(bar.where)
        new.append(any(base in changed.bases for base, _, _ in bar.where))
        rows.append(
            [
                bar.mark,
                diameter_words(bar.diameter, us),
                SHAPES_IN_WORDS.get(bar.shape, bar.shape) if us else bar.shape,
                shape_sketch(project, bar),
                str(bar.count),
                whole(bar.length),
                size(bar.mandrel),
                weight(bar.weight),
                where,
            ]
        )
        total = by_diameter.setdefault(bar.diameter, [0.0, 0.0, 0.0])
        total[0] += bar.count
        total[1] += bar.count * bar.length
        total[2] += bar.weight
    for mat in sheets(project):
        new.append(any(base in changed.bases for base, _, _ in mat.where))
        rows.append(
            [
                mat.mark,
                mat.fabric,
                "fabric",
                "",
                str(mat.count),
                f"{size(mat.width)} × {size(mat.length)}",
                "",
                weight(mat.weight),
                _where(mat.where),
            ]
        )
    sums: list[list[str | Drawing]] = [
        [diameter_words(d, us), f"{n:.0f}", show(length, "m", project.showing, 4), weight(w)]
        for d, (n, length, w) in sorted(by_diameter.items())
    ]
    fabric = sum(m.weight for m in sheets(project))
    if fabric:
        sums.append(["fabric", str(sum(m.count for m in sheets(project))), "", weight(fabric)])
    steel = sum(w for _, _, w in by_diameter.values()) + fabric
    sums.append([label("all"), "", "", weight(steel)])
    rounding = say("a quarter of an inch") if us else "10 mm"
    tables: list[tuple[str, Sequence[Column], Sequence[Sequence[str | Drawing]]]] = [
        (say("Bars"), *with_marks(columns, rows, new, changed)),
        (
            say("By diameter"),
            [
                Column(say("Bar"), 20),
                Column(say("Number"), 20, "right"),
                Column(say("Length, {unit}", unit=shown_unit("m", project.showing)), 28, "right"),
                Column(say("Weight, {mass}", mass=mass), 26, "right"),
            ],
            sums,
        ),
    ]
    made = tabled(project, "schedule", say("Bar schedule"), choice, tables, "Arch B" if us else "A3")
    said = (
        say(
            "Legs are outside to outside, rounded to {rounding}; lengths are along the centre line, bends included.",
            rounding=rounding,
        ),
        say("Bars are bent as drawn beside them.")
        if us
        else say("Shapes by ISO 3766: 00 straight, 11 one bend, 21 two bends, 51 closed link, 77 helix, 99 circle."),
        say("Bends on the least mandrel that is given."),
    )
    return [(sheet, replace(block, notes=((say("rules"), said),))) for sheet, block in made]


def with_marks(
    columns: Sequence[Column], rows: Sequence[Sequence[str | Drawing]], new: Sequence[bool], changed: Changed
) -> tuple[list[Column], list[Sequence[str | Drawing]]]:
    """A table with the triangle of the revision before the rows of what has changed; as it is where nothing has."""
    if not any(new):
        return list(columns), list(rows)
    s = 1.9
    ring = ((-s, -0.7 * s), (s, -0.7 * s), (0.0, s), (-s, -0.7 * s))
    triangle = Line(ring, "beyond", 1.4, key="revision", layer="changes")
    name = Text((0.0, -1.0), changed.revision, px(1.5), "beyond", "middle", True, layer="changes")
    mark = Drawing((triangle, name), (-s, -0.7 * s, s, s))
    marked: list[Sequence[str | Drawing]] = [[mark if own else "", *row] for own, row in zip(new, rows)]
    return [Column("Rev.", 11, "middle"), *columns], marked


SHAPES_IN_WORDS = {
    "00": label("straight"),
    "11": say("hook, one end"),
    "21": say("hooks, two ends"),
    "51": say("closed tie"),
    "77": label("spiral"),
    "99": say("circular tie"),
}
"""Where bars are named by what they are, not by a code: in US units."""


def _where(where: Sequence[tuple[str, str, int]]) -> str:
    """P1 bottom x 14, P2 … : what is the same in several bases is said once."""
    in_base: dict[tuple[str, str], int] = {}
    for base, place, count in where:
        in_base[(base, place)] = in_base.get((base, place), 0) + count
    together: dict[tuple[str, int], list[str]] = {}
    for (base, place), count in in_base.items():
        together.setdefault((place, count), []).append(base)
    return "; ".join(f"{place} {count} in {', '.join(bases)}" for (place, count), bases in together.items())
