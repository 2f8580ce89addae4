"""The drawings of a set as sheets: views chosen, scaled to fit, laid out on as many sheets of paper as they need."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from korbent.core.concrete.bar_text import diameter_words, words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.schedule import POUND, schedule, sheets
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.core.units import length_text, show, shown_unit, sizes_text
from korbent.drawing.ground_section import exaggerated, ground_section, usual_line
from korbent.drawing.logs import logs_drawing, signed
from korbent.drawing.plan import extent
from korbent.drawing.primitives import Drawing, Line, Polygon, Shape, Sketch, Text
from korbent.drawing.whole import whole_drawing
from korbent.drawing.words import size_words
from korbent.files.pdf_page import width_of
from korbent.sheets.clipping import clipped
from korbent.sheets.composition import PX, Block, Sheet, View, frame, px, room
from korbent.sheets.details import (
    BLINDING,
    from_above,
    marks_of,
    rib_section,
    section,
    shape_sketch,
    strap_elevation,
)
from korbent.sheets.foundation_plan import cloud, coordinates, foundation_plan, grid_lines, length_words
from korbent.sheets.paper import MM, PAPERS, fitting, scale_words, usual_paper
from korbent.sheets.table import Column, narrowed, shared, table_drawing
from korbent.sheets.types import Kind, kinds_built
from korbent.words import say

GAP = 8.0
"""Between views, mm."""
CAPTION = 7.0
"""Of a view's name above it, mm."""


@dataclass(frozen=True)
class Changed:
    """What a drawing marks as changed: bases, and the name of the revision."""

    bases: tuple[str, ...] = ()
    revision: str = ""


@dataclass(frozen=True)
class _Page:
    """The paper of a choice, and what its frame leaves."""

    name: str
    width: float
    height: float
    left: float
    top: float
    wide: float
    high: float


def _page(project: Project, choice: SheetChoice, large: str) -> _Page:
    name = choice.paper if choice.paper in PAPERS else large
    width, height = PAPERS[name].size(choice.upright)
    left, top, wide, high = room(width, height)
    return _Page(name, width, height, left, top, wide, high)


def drawings(
    project: Project, chosen: SheetSet, choices: Sequence[SheetChoice], changed: Changed | None = None
) -> tuple[Sheet, ...]:
    """The drawings that some choices of a set ask for, numbered through."""
    found: list[tuple[Sheet, Block]] = []
    for choice in choices:
        maker = MAKERS.get(choice.key)
        if maker is not None:
            found += maker(project, chosen, choice, changed or Changed())
    return tuple(
        replace(
            sheet,
            number=k,
            of=len(found),
            frame=frame(sheet.width, sheet.height, replace(block, number=k, of=len(found))),
        )
        for k, (sheet, block) in enumerate(found, 1)
    )


def _sheet(
    project: Project,
    key: str,
    title: str,
    page: _Page,
    views: Sequence[View],
    notes: tuple[tuple[str, tuple[str, ...]], ...] = (),
) -> tuple[Sheet, Block]:
    us = project.units == "us"
    scales = list(dict.fromkeys(scale_words(v.scale, us) for v in views if v.scale > 1.0))
    said = ", ".join(scales) or "–"
    block = Block(
        project.title,
        project.revisions,
        title,
        said,
        page.name,
        notes=notes,
        logo=has_logo(),
    )
    empty = Drawing((), (0, 0, 1, 1))
    return Sheet(key, title, page.width, page.height, tuple(views), empty, page.name, said), block


def has_logo() -> bool:
    """Whether this office has a logo for its title blocks."""
    from korbent.files.office import logo_file

    return logo_file() is not None


def _caption(text: str, left: float, top: float, wide: float, revision: str = "") -> View:
    """The name of a view above it; with the triangle of a revision where it has changed."""
    sketch = Sketch(layer="texts")
    sketch.add(Text((0.0, 0.0), text, px(2.8), "ink", bold=True, fixed=True))
    if revision:
        x, s = width_of(text, (px(2.8) + 1) * PX, True) + 8.0, 4.2
        ring = ((x - s, -0.7 * s), (x + s, -0.7 * s), (x, s))
        sketch.layer = "changes"
        sketch.add(
            Polygon(tuple((a * MM, (b + 1.0) * MM) for a, b in ring), "paper", "beyond", 1.4, key="revision"),
            Text((x * MM, 1.0 * MM), revision, 9, "beyond", "middle", True, dy=5, fixed=True),
        )
    return View("caption", Drawing(tuple(sketch.shapes), (0.0, -1.2 * MM, wide * MM, 4 * MM)), 1.0, left, top)


# ---------------------------------------------------------------- the plan


def general_notes(project: Project) -> tuple[str, ...]:
    """Grades, exposure, cover, laps, and what is to be confirmed on site."""
    s, u = project.settings, project.showing
    code = project.standards.concrete
    exposure = s.exposure_en if code.startswith("EN") else s.exposure_as if code.startswith("AS") else ""
    unit_mm, mpa = shown_unit("mm", u), shown_unit("MPa", u)
    lengths = say("feet and inches") if project.units == "us" or project.showing.feet_and_inches else "mm"
    found = [
        say("Levels in {unit}, dimensions in {lengths}.", unit=shown_unit("m", u), lengths=lengths),
        say("Concrete {concrete_strength} {mpa}", concrete_strength=show(s.concrete_strength, "MPa", u), mpa=mpa)
        + (say(", exposure {exposure}", exposure=exposure) if exposure else "")
        + ".",
        say("Reinforcement {steel_strength} {mpa}.", steel_strength=show(s.steel_strength, "MPa", u), mpa=mpa),
        say(
            "Cover {concrete_cover} {unit_mm} where nothing else is said; {outer_bars} bars outside.",
            concrete_cover=show(1000 * s.concrete_cover, "mm", u),
            unit_mm=unit_mm,
            outer_bars=s.outer_bars,
        ),
        say(
            "Blinding below all bases, drawn {blinding} {unit_mm} thick.",
            blinding=show(1000 * BLINDING, "mm", u),
            unit_mm=unit_mm,
        )
        if s.cast_against == "blinding"
        else say("Bases are cast against the ground."),
        say("Bars: number ø - spacing - mark of the schedule."),
    ]
    laps = {}
    for pad in project.pads:
        if pad.dowels:
            from korbent.core.concrete.schedule import lap_of

            laps[pad.dowels.diameter] = lap_of(project, pad, pad.dowels.diameter)
    if laps:
        said = ", ".join(
            f"{diameter_words(d, u.system == 'us')} {length_text(v, u, False)}" for d, v in sorted(laps.items())
        )
        found.append(say("Laps of dowels, {unit}: {said}.", unit=shown_unit("m", u), said=said))
    assumed = _assumed(project)
    if assumed:
        found.append(assumed)
    if any(p.anchors is not None for p in project.actions.load_points):
        found.append(say("Base plates and anchor bolts as the steelwork gives them; they are drawn, not checked here."))
    found.append(say("Levels of the formation and the ground met there are to be confirmed on site before concreting."))
    return tuple(found)


def _assumed(project: Project) -> str:
    """The bearing that was assumed, and at which levels."""
    u = project.showing
    levels = sorted({round(p.underside, 2) for p in project.pads})
    if not levels:
        return ""
    unit = shown_unit("m", u)
    where = f"{signed(levels[0], u)}" + (say(" to {level}", level=signed(levels[-1], u)) if len(levels) > 1 else "")
    strata = _founded_on(project)
    return (
        say("Founded at {where} {unit}", where=where, unit=unit)
        + (say(" on {strata}", strata=strata) if strata else "")
        + "."
    )


def _founded_on(project: Project) -> str:
    from korbent.core.ground.below import profile_below
    from korbent.core.ground.profile import strata_of

    names: dict[str, None] = {}
    for pad in project.pads:
        profile = profile_below(project.ground, pad, project.load_point(pad.load_point))
        if profile is None:
            continue
        for soil, top, bottom in strata_of(profile):
            if bottom < pad.underside - 1e-6 <= top:
                names[soil.name] = None
                break
    return ", ".join(names)


def _legend() -> tuple[str, ...]:
    return (
        say("P1 · F1 · −1.20: base, type, level of its underside"),
        say("filled: column or wall"),
        say("dashed: below, or beyond"),
    )


def _types_lines(project: Project) -> tuple[str, ...]:
    return tuple(
        f"{kind.name}  {size_words(kind.first, project.showing)} ({len(kind.members)})" for kind in kinds_built(project)
    )


def _plan(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    x0, y0, x1, y1 = extent(project)
    scale = choice.scale or 100.0
    for _ in range(3):  # the bubbles of the grid stand a length on paper beyond what is built
        by_x, by_y = grid_lines(project, scale / 1000)
        ends = [p for line in (*by_x, *by_y) for p in (line.start, line.end)]
        wide = max([x1, *(x for x, _ in ends)]) - min([x0, *(x for x, _ in ends)])
        high = max([y1, *(y for _, y in ends)]) - min([y0, *(y for _, y in ends)])
        page, scale = _for_plan(project, choice, (wide, high), us)
    line = usual_line(project) if project.ground.boreholes and "section_mark" not in chosen.hidden else None
    drawn = foundation_plan(project, chosen.hidden, line, scale, changed.bases, changed.revision)
    notes: list[tuple[str, tuple[str, ...]]] = [(say("types"), _types_lines(project)), (say("legend"), _legend())]
    if "general_notes" not in chosen.hidden:
        notes.append((say("notes"), general_notes(project)))
    if changed.bases:
        notes.append(("changed", (f"{changed.revision}: {', '.join(changed.bases)}",)))
    views = _in_parts(drawn, scale, page)
    return [
        _sheet(
            project,
            "plan",
            say("Foundation plan") + (say(", part {k}", k=k) if len(views) > 1 else ""),
            page,
            [view],
            tuple(notes),
        )
        for k, view in enumerate(views, 1)
    ]


def _for_plan(project: Project, choice: SheetChoice, size: tuple[float, float], us: bool) -> tuple[_Page, float]:
    """The paper and scale of a plan: the scale that fits the usual paper, on the smallest paper that it fits too."""
    around = (60.0, 70.0)
    page = _page(project, choice, usual_paper(us, True))
    scale = choice.scale or fitting(size, (page.wide - around[0], page.high - around[1]), us, least=48.0)
    if choice.paper in PAPERS:
        return page, scale
    for name in ("Arch B", "Arch C", "Arch D", "Arch E") if us else ("A3", "A2", "A1", "A0"):
        page = _page(project, choice, name)
        if all(1000 * m / scale <= mm - a for m, mm, a in zip(size, (page.wide, page.high), around)):
            break
    return page, scale


def _in_parts(drawn: Drawing, scale: float, page: _Page) -> list[View]:
    """The plan in the middle of one sheet; or cut into parts where a scale was asked for at which it does not fit."""
    x0, y0, x1, y1 = drawn.bounds
    wide, high = 1000 * (x1 - x0) / scale, 1000 * (y1 - y0) / scale
    nx, ny = (max(1, math.ceil((s - 1.0) / room_)) for s, room_ in ((wide, page.wide), (high, page.high)))
    if nx * ny == 1:
        return [View("plan", drawn, scale, page.left + (page.wide - wide) / 2, page.top + (page.high - high) / 2)]
    found = []
    step_x, step_y = (x1 - x0) / nx, (y1 - y0) / ny
    for j in range(ny):
        for i in range(nx):
            box = (x0 + i * step_x, y1 - (j + 1) * step_y, x0 + (i + 1) * step_x, y1 - j * step_y)
            found.append(View("plan", clipped(drawn, box), scale, page.left, page.top, part_of=drawn))
    return found


# ---------------------------------------------------------------- tables on sheets


def _tabled(
    project: Project,
    key: str,
    title: str,
    choice: SheetChoice,
    tables: Sequence[tuple[str, Sequence[Column], Sequence[Sequence[str | Drawing]]]],
    large: str,
) -> list[tuple[Sheet, Block]]:
    """Tables beside and below each other, on as many sheets as they need."""
    page = _page(project, choice, large)
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
    return [_sheet(project, key, title, page, views) for views in found if views]


def _setting_out(
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
        (say("Types"), *_with_marks(types, rows, new, changed)),
        (say("Setting out: middles of the columns"), points, [list(row) for row in coordinates(project)]),
    ]
    return _tabled(project, "setting-out", say("Types and setting out"), choice, tables, "Arch B" if us else "A3")


def _schedule(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
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
        (say("Bars"), *_with_marks(columns, rows, new, changed)),
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
    made = _tabled(project, "schedule", say("Bar schedule"), choice, tables, "Arch B" if us else "A3")
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


def _with_marks(
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


# ---------------------------------------------------------------- details


@dataclass(frozen=True)
class _Shelf:
    """Views that stay together, with their name."""

    name: str
    views: tuple[tuple[str, Drawing, float], ...]
    revision: str = ""

    @property
    def size(self) -> tuple[float, float]:
        """mm, with the caption."""
        sizes = [
            (1000 * (d.bounds[2] - d.bounds[0]) / s, 1000 * (d.bounds[3] - d.bounds[1]) / s) for _, d, s in self.views
        ]
        return sum(w for w, _ in sizes) + GAP * (len(sizes) - 1), max(h for _, h in sizes) + 2 * CAPTION


def _details(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    page = _page(project, choice, usual_paper(us, True))
    marks = marks_of(project)
    shelves: list[_Shelf] = []
    for kind in kinds_built(project):
        pad = kind.first
        makers = _views_of(project, kind, marks)
        scale = choice.scale or _detail_scale(project, pad, page, us)
        views = tuple((name, make(scale / 1000), scale) for name, make in makers)
        same = "" if kind.name == kind.names else f" ({kind.names})"
        cover = show(1000 * project.settings_of(pad).concrete_cover, "mm", project.showing)
        title = say(
            "{kind}{same}: {sizes}, cover {cover} {unit}",
            kind=kind.name,
            same=same,
            sizes=size_words(pad, project.showing),
            cover=cover,
            unit=shown_unit("mm", project.showing),
        )
        revision = changed.revision if any(p.name in changed.bases for p in kind.members) else ""
        if pad.plate and pad.plate.ribs:
            across = choice.scale or (24.0 if us else 25.0)
            views = (
                *views,
                *(
                    (say("rib {r}", r=r.name), rib_section(project, pad, r, marks, across / 1000), across)
                    for r in pad.plate.ribs
                ),
            )
        shelves += _split(title, views, page, revision)
    for strap in project.straps:
        a, b = (project.load_point(project.pad(n).load_point) for n in (strap.edge, strap.inner))
        scale = choice.scale or fitting(
            (math.hypot(b.x - a.x, b.y - a.y) + 4.0, 2.5), (page.wide, page.high - 60), us, least=24.0
        )
        title = say(
            "Strap {strap} between {edge} and {inner}: {sizes}",
            strap=strap.name,
            edge=strap.edge,
            inner=strap.inner,
            sizes=sizes_text((strap.width, strap.depth), project.showing),
        )
        shelves.append(
            _Shelf(title, ((say("elevation"), strap_elevation(project, strap, marks, scale / 1000), scale),))
        )
    notes = () if "general_notes" in chosen.hidden else ((say("notes"), general_notes(project)),)
    return [
        _sheet(project, "details", say("Details") + (say(", sheet {k}", k=k) if k > 1 else ""), page, views, notes)
        for k, views in enumerate(_shelved(shelves, page, us), 1)
    ]


Make = Callable[[float], Drawing]


def _views_of(project: Project, kind: Kind, marks: object) -> list[tuple[str, Make]]:
    from korbent.sheets.details import Marks

    assert isinstance(marks, Marks)
    pad = kind.first
    found: list[tuple[str, Make]] = [(say("bottom bars"), lambda mm: from_above(project, pad, "bottom", marks, mm))]
    r = pad.reinforcement
    added = any(a.face.startswith("top") for a in pad.plate.added) if pad.plate else False
    if (r.bars("top_x") or r.bars("top_y") or added) and project.settings_of(pad).base_concrete == "reinforced":
        found.append((say("top bars"), lambda mm: from_above(project, pad, "top", marks, mm)))
    found += [
        (say("section along x"), lambda mm: section(project, pad, "x", marks, mm)),
        (say("section along y"), lambda mm: section(project, pad, "y", marks, mm)),
    ]
    return found


def _detail_scale(project: Project, pad: Pad, page: _Page, us: bool) -> float:
    """Between 1:20 and 1:200, such that plan and sections of a usual base stand side by side."""
    size = max(pad.width, pad.extent)
    return fitting(
        (size + 1.6, size + 0.9), (min(page.wide / 2.3, 320.0), page.high - 50), us, least=24.0 if us else 20.0
    )


def _split(title: str, views: tuple[tuple[str, Drawing, float], ...], page: _Page, revision: str = "") -> list[_Shelf]:
    """The views of a base in rows that fit the paper."""
    rows: list[list[tuple[str, Drawing, float]]] = [[]]
    for view in views:
        if rows[-1] and _Shelf("", (*rows[-1], view)).size[0] > page.wide:
            rows.append([])
        rows[-1].append(view)
    return [
        _Shelf(title if k == 0 else say("{title}, continued", title=title), tuple(row), revision)
        for k, row in enumerate(rows)
    ]


def _shelved(shelves: Sequence[_Shelf], page: _Page, us: bool) -> list[list[View]]:
    """Shelves beside each other as long as they fit, in rows, on as many sheets as it takes."""
    found: list[list[View]] = [[]]
    left, top, tall = page.left, page.top, 0.0
    for shelf in shelves:
        wide, high = shelf.size
        if left > page.left and left + wide > page.left + page.wide:
            left, top, tall = page.left, top + tall + GAP, 0.0
        if top > page.top and top + high > page.top + page.high:
            found.append([])
            left, top, tall = page.left, page.top, 0.0
        found[-1].append(_caption(shelf.name, left, top + CAPTION - 4.5, max(wide, 60), shelf.revision))
        x = left
        for name, drawn, scale in shelf.views:
            view = View(name, drawn, scale, x, top + 2 * CAPTION)
            found[-1].append(
                replace(
                    _caption(f"{name}, {scale_words(scale, us)}", x, top + 2 * CAPTION - 5.0, view.size[0]),
                    name="subcaption",
                )
            )
            found[-1].append(view)
            x += view.size[0] + GAP
        tall = max(tall, high)
        left += wide + 2 * GAP
    return [views for views in found if views]


# ---------------------------------------------------------------- the ground


def _ground(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    if not project.ground.boreholes:
        return []
    us = project.units == "us"
    page = _page(project, choice, "Arch C" if us else "A3")
    line, aspect = usual_line(project), page.wide / page.high
    drawn = ground_section(project, line, aspect)
    sheet, block = _one(project, "section", say("Ground section A–A"), drawn, choice, page, us, changed)
    times = exaggerated(project, line, aspect)
    if times > 1:
        said = say(
            "{scales}, heights {scale_words}",
            scales=sheet.scales,
            scale_words=scale_words(sheet.views[0].scale / times, False),
        )
        return [(replace(sheet, scales=said), replace(block, scales=said))]
    return [(sheet, block)]


def _logs(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    holes = sorted(project.ground.boreholes, key=lambda h: (h.x, h.y))
    us = project.units == "us"
    page = _page(project, choice, "Arch C" if us else "A3")
    found = []
    for k in range(0, len(holes), 6):
        part = (
            project.replaced(ground=project.ground.replaced(boreholes=tuple(holes[k : k + 6])))
            if len(holes) > 6
            else project
        )
        drawn = logs_drawing(part, page.wide / page.high)
        found.append(
            _one(part, "logs", say("Borehole logs") + (f", {k // 6 + 1}" if k else ""), drawn, choice, page, us)
        )
    return found


def _one(
    project: Project,
    key: str,
    title: str,
    drawn: Drawing,
    choice: SheetChoice,
    page: _Page,
    us: bool,
    changed: Changed | None = None,
) -> tuple[Sheet, Block]:
    """One drawing in the middle of its sheet, with room for what is written around it; clouds around what has
    changed."""
    x0, y0, x1, y1 = drawn.bounds
    scale = choice.scale or fitting((x1 - x0, y1 - y0), (page.wide - 70, page.high - 45), us)
    if changed is not None:
        drawn = replace(drawn, shapes=(*drawn.shapes, *_clouds(drawn, changed, scale * MM)))
    wide, high = 1000 * (x1 - x0) / scale, 1000 * (y1 - y0) / scale
    view = View(key, drawn, scale, page.left + (page.wide - wide) / 2, page.top + (page.high - high) / 2)
    return _sheet(project, key, title, page, [view])


def _whole(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    page = _page(project, choice, "Arch C" if us else "A2")
    return [_one(project, "whole", say("The whole with its ground"), whole_drawing(project), choice, page, us, changed)]


def _clouds(drawn: Drawing, changed: Changed, mm: float) -> tuple[Shape, ...]:
    """Around the bases of a drawing that have changed, where they are seen in it."""
    sketch = Sketch(layer="changes")
    for name in changed.bases:
        own = [s for s in drawn.shapes if isinstance(s, Polygon) and s.key == f"pad:{name}"]
        if own:
            ring = [p for s in own for p in s.points]
            cloud(sketch, ring, changed.revision, mm, _free_corner(drawn, ring, mm))
    return tuple(sketch.shapes)


def _free_corner(drawn: Drawing, ring: Sequence[tuple[float, float]], mm: float) -> tuple[float, float]:
    """The corner of a cloud, right or left, above or below, where its triangle lies on the fewest texts."""
    texts = [(s.at, 0.6 * s.size * len(s.text) / PX * mm, s.anchor) for s in drawn.shapes if isinstance(s, Text)]
    shares = {"left": (0.0, 1.0), "middle": (-0.5, 0.5), "right": (-1.0, 0.0)}

    def lies_on(corner: tuple[float, float]) -> int:
        x, y = ((max if side > 0 else min)(p[k] for p in ring) + side * 8.2 * mm for k, side in enumerate(corner))
        return sum(
            at[0] + shares[anchor][0] * wide - 5 * mm < x < at[0] + shares[anchor][1] * wide + 5 * mm
            and abs(at[1] - y) < 6 * mm
            for at, wide, anchor in texts
        )

    return min(((1.0, 1.0), (-1.0, 1.0), (1.0, -1.0), (-1.0, -1.0)), key=lies_on)


Maker = Callable[[Project, SheetSet, SheetChoice, Changed], list[tuple[Sheet, Block]]]
MAKERS: dict[str, Maker] = {
    "plan": _plan,
    "setting-out": _setting_out,
    "details": _details,
    "schedule": _schedule,
    "section": _ground,
    "logs": _logs,
    "whole": _whole,
}
"""By key, what makes the sheets of a drawing."""
