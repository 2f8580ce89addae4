"""The report: inputs, one page per pad (plan, section, ledger), and the workings behind it."""

from collections.abc import Iterable
from errno import ENOENT
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    KeepTogether,
    PageBreak,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from korbent.core.actions.coverage import QUESTIONS, left_out, level_left_out
from korbent.core.checks import GROUPS, CheckResult, State
from korbent.core.concrete.bar_text import words
from korbent.core.concrete.schedule import header_of, schedule_rows
from korbent.core.evaluate import PadResult, Results, evaluate
from korbent.core.explain.raft import FIELDS, raft_field
from korbent.core.explain.state import base_state
from korbent.core.explain.working import Working, working
from korbent.core.model import Pad, Project, Settings, Soil
from korbent.core.model.base import unit_of
from korbent.core.model.foundations import FACES, Plate, Region
from korbent.core.settlement.over_time import points
from korbent.core.sources import MARK, MEANING, marked
from korbent.core.units import Showing, UnitSet, show, show_length, shown_unit
from korbent.drawing.logs import logs_drawing
from korbent.drawing.plan import plan_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.primitives import Drawing
from korbent.drawing.raft import raft_drawing
from korbent.drawing.reinforcement import from_above
from korbent.drawing.section import section_drawing
from korbent.drawing.settlement import depth_columns
from korbent.drawing.theme import LIGHT
from korbent.drawing.words import size_words, under_words
from korbent.files.atomic import replacing
from korbent.files.formula_line import FormulaLine, Run, with_indices
from korbent.files.pdf_page import BOLD, REGULAR, paint, register_fonts
from korbent.files.settlement_tables import depth_header, depth_rows, time_header, time_rows

MARGIN = 18 * mm
WIDTH = A4[0] - 2 * MARGIN
SMALL = 7.6


class NumberedCanvas(Canvas):
    """Knows the number of pages when it writes the foot of each."""

    def __init__(self, *args: Any, project: Project, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._project = project
        self._pages: list[dict[str, Any]] = []

    def showPage(self) -> None:
        self._pages.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        for page in self._pages:
            self.__dict__.update(page)
            self._frame(len(self._pages))
            super().showPage()
        super().save()

    def _frame(self, pages: int) -> None:
        title = self._project.title
        top, foot = A4[1] - 11 * mm, 10 * mm
        self.setStrokeColor(HexColor(LIGHT.line))
        self.setLineWidth(0.6)
        self.line(MARGIN, top - 4, A4[0] - MARGIN, top - 4)
        self.line(MARGIN, foot + 9, A4[0] - MARGIN, foot + 9)
        self.setFillColor(HexColor(LIGHT.ink))
        self.setFont(BOLD, 8.5)
        self.drawString(MARGIN, top, title.project)
        self.setFont(REGULAR, 8)
        number = f"{title.number} · " if title.number else ""
        self.drawRightString(
            A4[0] - MARGIN,
            top,
            f"{number}revision {title.revision}" + (f" · {title.date}" if title.date else ""),
        )
        by = " · ".join(
            f"{label} {name}" for label, name in (("by", title.author), ("checked", title.checker)) if name
        )
        self.drawString(MARGIN, foot, f"Korbent · {by}" if by else "Korbent")
        self.drawRightString(A4[0] - MARGIN, foot, f"page {self._pageNumber} of {pages}")


class Figure(Flowable):
    """A drawing with a heading."""

    def __init__(self, drawing: Drawing, width: float, height: float, title: str = "") -> None:
        super().__init__()
        self.drawing, self.width, self.height, self.title = drawing, width, height, title

    def wrap(self, *_: float) -> tuple[float, float]:
        return self.width, self.height + (12 if self.title else 0)

    def draw(self) -> None:
        if self.title:
            self.canv.setFont(BOLD, 8.5)
            self.canv.setFillColor(HexColor(LIGHT.ink))
            self.canv.drawString(0, self.height + 3, self.title)
        paint(self.canv, self.drawing, 0, 0, self.width, self.height)
        self.canv.setStrokeColor(HexColor(LIGHT.line))
        self.canv.setLineWidth(0.5)
        self.canv.rect(0, 0, self.width, self.height)


def _style(name: str, size: float, bold: bool = False, **more: Any) -> ParagraphStyle:
    return ParagraphStyle(
        name,
        fontName=BOLD if bold else REGULAR,
        fontSize=size,
        leading=size * 1.28,
        textColor=HexColor(LIGHT.ink),
        **more,
    )


def _styles() -> dict[str, ParagraphStyle]:
    return {
        "title": _style("title", 20, True, spaceAfter=4),
        "h1": _style("h1", 14, True, spaceAfter=4),
        "h2": _style("h2", 10.5, True, spaceBefore=7, spaceAfter=3),
        "text": _style("text", 9),
        "small": _style("small", SMALL),
        "cell": _style("cell", SMALL),
        "step": _style("step", 8.2, spaceAfter=1.5),
    }


def write_report(project: Project, path: Path) -> int:
    """Writes the report as a PDF with selectable text. Returns the number of pages.

    Raises:
        OSError: when the file cannot be written.
    """
    # found out before the work, not after it
    if not path.resolve().parent.is_dir():
        raise FileNotFoundError(ENOENT, "No such file or directory", str(path))
    register_fonts()
    results = evaluate(project)
    styles = _styles()
    story: list[Flowable] = [*_cover(project, results, styles), *_inputs(project, styles)]
    for pad in project.pads:
        story += [PageBreak(), *_pad_page(project, pad, results, styles)]
    if project.pads:
        story += [PageBreak(), *_straps(project, results, styles), *_bar_schedule(project, styles)]
    story += _settlement_pages(project, results, styles)
    if project.pads:
        story += [PageBreak(), Paragraph("Workings", styles["h1"])]
        story.append(
            Paragraph(
                "For each pad the working of the worst check of each group, in its governing situation.",
                styles["text"],
            )
        )
        for pad in project.pads:
            story += _workings(project, pad, results.pad(pad.name), styles)
    pages = 0

    def made(*args: Any, **kwargs: Any) -> NumberedCanvas:
        return NumberedCanvas(*args, project=project, **kwargs)

    document = BaseDocTemplate(
        "", pagesize=A4, title=f"{project.title.project}: foundations", author=project.title.author or "Korbent",
        leftMargin=MARGIN, rightMargin=MARGIN, topMargin=17 * mm, bottomMargin=17 * mm,
    )  # fmt: skip
    frame = Frame(MARGIN, 15 * mm, WIDTH, A4[1] - 31 * mm, 0, 0, 0, 0)
    document.addPageTemplates(PageTemplate("page", [frame]))
    with replacing(Path(path)) as temporary:
        document.filename = str(temporary)
        document.build(story, canvasmaker=made)
        pages = document.page
    return int(pages)


def _settlement_pages(
    project: Project, results: Results, styles: dict[str, ParagraphStyle]
) -> list[Flowable]:
    """Settlement over time of every foundation and mark, the ground below the worst of them over depth, and the marks."""
    found, known = points(project)
    some = [own for own in known if not own.why]
    if not some:
        return []
    story: list[Flowable] = [PageBreak(), Paragraph("Settlement over time", styles["h1"])]
    mm_ = shown_unit("mm", project.showing)
    if results.marks:
        rows: list[list[Any]] = [["Mark", f"settlement, {mm_}", f"limit, {mm_}", "ratio", "state", ""]]
        for check in results.marks:
            rows.append([
                check.foundation, *(show(v, "mm", project.showing) if v is not None else "–" for v in (check.demand, check.capacity)),
                f"{check.ratio:.2f}" if check.ratio is not None else "–", check.state.value, Paragraph(escape(check.message), styles["cell"]),
            ])  # fmt: skip
        story += [_table(rows, [22 * mm, 24 * mm, 22 * mm, 14 * mm, 30 * mm, WIDTH - 112 * mm]), Spacer(1, 6)]
    worst = max(some, key=lambda own: abs(own.final))
    story.append(
        Figure(
            depth_columns(project, worst, float(worst.times[-1]), 2.1), WIDTH, WIDTH / 2.1,
            f"Ground below {worst.name} at the end of the stated life; thin lines of excess pressure at earlier moments",
        )
    )  # fmt: skip
    story.append(Spacer(1, 8))
    header = time_header(project)
    widths = [14 * mm, 15 * mm, 18 * mm, 38 * mm, 17 * mm, 14 * mm, 14 * mm, 13 * mm, 16 * mm, 15 * mm]
    for own in some:
        rows = [[Paragraph(h, styles["cell"]) for h in header]]
        rows += [
            [v if isinstance(v, str) else f"{v:.6g}" for v in row] for row in time_rows(project, found, own)
        ]
        story.append(KeepTogether([_table(rows, widths, right_from=4), Spacer(1, 6)]))
    story.append(
        Paragraph(escape(f"Over depth below {worst.name}, at the end of the stated life"), styles["h2"])
    )
    head = depth_header(project)[3:]
    rows = [[Paragraph(h, styles["cell"]) for h in head]]
    deep = depth_rows(project, found, worst, float(worst.times[-1]))
    rows += [[v if isinstance(v, str) else f"{v:.5g}" for v in row[3:]] for row in deep]
    story.append(
        _table(rows, [28 * mm, *([(WIDTH - 28 * mm) / (len(head) - 1)] * (len(head) - 1))], right_from=1)
    )
    return story


def _table(rows: list[list[Any]], widths: list[float], head: bool = True, right_from: int = 99) -> Table:
    table = Table(rows, colWidths=widths, repeatRows=1 if head else 0)
    rules: list[Any] = [
        ("FONT", (0, 0), (-1, -1), REGULAR, SMALL),
        ("TEXTCOLOR", (0, 0), (-1, -1), HexColor(LIGHT.ink)),
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, HexColor(LIGHT.line)),
        ("TOPPADDING", (0, 0), (-1, -1), 1.6),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.2),
        ("LEFTPADDING", (0, 0), (-1, -1), 2),
        ("RIGHTPADDING", (0, 0), (-1, -1), 4),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("ALIGN", (right_from, 0), (-1, -1), "RIGHT"),
    ]
    if head:
        rules += [
            ("FONT", (0, 0), (-1, 0), BOLD, SMALL),
            ("BACKGROUND", (0, 0), (-1, 0), HexColor(LIGHT.desk)),
        ]
    table.setStyle(TableStyle(rules))
    table.hAlign = "LEFT"
    return table


def _cover(project: Project, results: Results, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    title = project.title
    facts = [
        ("Project number", title.number), ("Client", title.client), ("Author", title.author), ("Checked by", title.checker),
        ("Date", title.date), ("Revision", title.revision),
        ("Standards", f"{project.standards.ground} ({project.standards.approach}), {project.standards.concrete}"),
    ]  # fmt: skip
    story: list[Flowable] = [
        Paragraph(escape(title.project), styles["title"]),
        Paragraph("Foundations: bearing, stability, settlement, concrete", styles["text"]),
        Spacer(1, 6),
        _table([[label, value] for label, value in facts if value], [35 * mm, 100 * mm], head=False),
        Spacer(1, 8),
        Figure(
            plan_drawing(project, results), WIDTH, 88 * mm, "Plan, coloured by the worst ratio of each pad"
        ),
        Paragraph("Summary", styles["h2"]),
    ]
    verdict = (
        "Every check of every foundation holds or is accepted."
        if results.holds
        else "The project does not hold: see below."
    )
    story.append(Paragraph(verdict, styles["text"]))
    story.append(Spacer(1, 3))
    rows: list[list[Any]] = [["Pad", "Under", "Size", "Worst check", "Ratio", "State", "Combination"]]
    for result in results.pads:
        pad, worst = project.pad(result.name), result.worst
        rows.append([
            pad.name, under_words(pad), size_words(pad, project.showing), worst.check.title,
            _ratio(worst), worst.state.value, worst.combination,
        ])  # fmt: skip
    rows += [
        [name, "", "", "no foundation yet", "–", State.NOT_DESIGNED.value, ""] for name in results.undesigned
    ]
    story.append(_table(rows, [w * mm for w in (15, 15, 37, 45, 14, 30, 18)]))
    accepted = [c for c in results.all_checks if c.state is State.ACCEPTED]
    if accepted:
        story.append(Paragraph(f"Accepted with a reason: {len(accepted)}", styles["h2"]))
        story += [
            Paragraph(escape(f"{c.foundation}, {c.check.title}, {_ratio(c)}: {c.message}"), styles["small"])
            for c in accepted
        ]
    return story


def _ratio(result: CheckResult) -> str:
    return "–" if result.ratio is None else f"{result.ratio:.2f}"


def _oedometer_words(s: Soil, units: UnitSet) -> str:
    """Compression, recompression and past of a soil as they are given."""
    first = (
        f"{s.compression_index:g}"
        if s.compression_index
        else f"Cc/(1+e0) {s.compression_ratio:g}"
        if s.compression_ratio
        else ""
    )
    again = (
        f"{s.recompression_index:g}"
        if s.recompression_index
        else f"Cr/Cc {s.recompression_share:g}"
        if s.recompression_share
        else ""
    )
    past = f"{s.overconsolidation_ratio:g}"
    if s.preconsolidation is not None:
        past = f"σ′p {_q(s.preconsolidation, 'kPa', units)}"
    if s.preconsolidation_margin is not None:
        past = f"σ′p − σ′v0 {_q(s.preconsolidation_margin, 'kPa', units)}"
    void = f"{s.void_ratio:g}" if s.void_ratio else ""
    return ", ".join(part for part in (first, again, void, past) if part) if first and again else "–"


def _inputs(project: Project, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    u = project.showing
    story: list[Flowable] = [PageBreak(), Paragraph("Inputs", styles["h1"])]
    ground, actions = project.ground, project.actions
    if ground.boreholes:
        story.append(Figure(logs_drawing(project, 2.6), WIDTH, 66 * mm, "Boreholes"))
    if ground.soils:
        story.append(Paragraph("Soils", styles["h2"]))
        head = ["Soil", "γ / γ sat", "c′", "φ′", "cu", "E′, ν", "Cc, Cr, e0, OCR", "checked", "settles by"]
        rows: list[list[Any]] = [head]
        for s in ground.soils:
            rows.append([
                s.name, f"{_q(s.weight, 'kN/m3', u)} / {_q(s.weight_saturated, 'kN/m3', u)}", _q(s.cohesion, "kPa", u),
                _q(s.friction_angle, "", u), _q(s.undrained_strength, "kPa", u),
                f"{_q(s.modulus, 'kPa', u)}, {s.poisson:g}" if s.modulus else "–",
                Paragraph(escape(_oedometer_words(s, u)), styles["cell"]), s.drainage, s.compression,
            ])  # fmt: skip
        story.append(_table(rows, [w * mm for w in (24, 22, 12, 12, 12, 24, 33, 17, 18)]))
        units = f"{shown_unit('kN/m3', u)}, {shown_unit('kPa', u)}, degrees"
        story.append(
            Paragraph(
                f"Units: {units}. Backfill {escape(ground.backfill.name)}: {_q(ground.backfill.weight, 'kN/m3', u)} / {_q(ground.backfill.weight_saturated, 'kN/m3', u)} {shown_unit('kN/m3', u)}.",
                styles["small"],
            )
        )
    levels = [
        ("finished ground", ground.surfaces.finished),
        ("excavated", ground.surfaces.excavated),
        ("existing", ground.surfaces.existing),
    ]
    if ground.water:
        levels += [(f"{n} water", getattr(ground.water, n)) for n in ("low", "normal", "high")]
    text = ", ".join(
        f"{name} {show_length(z, u)} {shown_unit('m', u)}" for name, z in levels if z is not None
    )
    story.append(Paragraph(f"Levels: {text}.", styles["small"]))
    story.append(Paragraph("Settings", styles["h2"]))
    story.append(Paragraph(escape(_settings_text(project.settings.model_dump(), u)), styles["small"]))
    if actions.combinations:
        story.append(Paragraph("Combinations", styles["h2"]))
        cases = [c.name for c in actions.cases]
        rows = [["No.", *cases, "serves", "set", "water", "weights"]]
        for c in actions.combinations:
            weights = (
                f"{c.weight_unfavourable:g} / {c.weight_favourable:g}"
                if c.weight_unfavourable != c.weight_favourable
                else f"{c.weight_unfavourable:g}"
            )
            rows.append(
                [
                    str(c.number),
                    *(f"{c.factors[n]:g}" if n in c.factors else "" for n in cases),
                    Paragraph(", ".join(c.serves), styles["cell"]),
                    c.factor_set or "",
                    c.water,
                    weights,
                ]
            )
        each = min(14.0, 84.0 / max(len(cases), 1))
        story.append(_table(rows, [9 * mm, *([each * mm] * len(cases)), 41 * mm, 10 * mm, 14 * mm, 20 * mm]))
        for question, names in left_out(actions).items():
            text = f"{', '.join(names)}: in no combination that serves {question}."
            story.append(Paragraph(escape(text), styles["small"]))
        for question in QUESTIONS:
            if text := level_left_out(actions, project.ground.water, question):
                story.append(Paragraph(escape(f"{question}: {text}."), styles["small"]))
    if actions.load_points:
        story.append(
            Paragraph(
                f"Loads, {shown_unit('kN', u)} and {shown_unit('kNm', u)}, V down positive", styles["h2"]
            )
        )
        rows = [["Column", "Case", "V", "Hx", "Hy", "Mx", "My", "level"]]
        for p in actions.load_points:
            for case, load in p.loads.items():
                forces = [show(getattr(load, q), "kN", u) for q in ("V", "Hx", "Hy")]
                moments = [show(getattr(load, q), "kNm", u) for q in ("Mx", "My")]
                rows.append([p.name, case, *forces, *moments, show_length(p.level, u)])
        story.append(_table(rows, [w * mm for w in (22, 18, 20, 18, 18, 18, 18, 16)], right_from=2))
    return story


def _q(value: float | None, unit: str, units: Any) -> str:
    return "–" if value is None else show(value, unit, units)


def _settings_text(values: dict[str, Any], units: Any) -> str:
    parts = []
    for name, value in values.items():
        unit = unit_of(Settings, name)
        if value is None:
            continue
        if isinstance(value, bool):
            text = "yes" if value else "no"
        elif isinstance(value, float):
            text = f"{show(value, unit, units)} {shown_unit(unit, units)}".strip()
        else:
            text = str(value)
        parts.append(f"{Settings.model_fields[name].title}: {text}")
    return escape("; ".join(parts))


def _pad_page(
    project: Project, pad: Pad, results: Results, styles: dict[str, ParagraphStyle]
) -> list[Flowable]:
    result = results.pad(pad.name)
    u = project.showing
    unit = shown_unit("m", u)
    r = pad.reinforcement
    bars = ", ".join(
        f"{face.replace('_', ' ')} {words(r.bars(face), u.system == 'us')}" for face in FACES if r.bars(face)
    )  # fmt: skip
    line = f"{pad.kind.capitalize()} under {under_words(pad)}, {size_words(pad, u)}, founded at {show_length(pad.underside, u)} {unit}"
    if pad.type:
        line += f", type {pad.type}"
    own = {**project.type_overrides(pad), **pad.overrides}
    state = _governing_state(project, pad, result)
    half = (WIDTH - 4 * mm) / 2
    label = f", combination {state.label}" if state else ""
    if pad.kind == "raft":
        fields = [
            (name, raft_field(project, pad, name, "")) for name in ("m_x", "m_y", "pressure", "settlement")
        ]
        drawn = [
            Figure(
                raft_drawing(project, pad, result, field),
                half,
                78 * mm,
                f"{name}: {FIELDS[name][1]}, {FIELDS[name][0]}",
            )
            for name, field in fields
        ]
        cells = [drawn[:2], drawn[2:]]
    else:
        cells = _from_above_and_pressure(project, pad, result, state, half)
    figures = Table(
        cells, colWidths=[half + 4 * mm, half],
    )  # fmt: skip
    figures.setStyle(
        TableStyle([("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 0)])
    )
    story: list[Flowable] = [
        Paragraph(escape(pad.name), styles["h1"]),
        Paragraph(escape(line), styles["text"]),
        Paragraph(escape(bars), styles["text"]),
    ]
    if pad.plate is not None:
        story.append(Paragraph(escape(_plate_text(pad.plate, u)), styles["text"]))
    if own:
        story.append(Paragraph(escape("Own settings: " + _settings_text(own, u)), styles["small"]))
    story += [
        Spacer(1, 4),
        figures,
        Figure(
            section_drawing(project, pad, state, aspect=WIDTH / (41 * mm)),
            WIDTH,
            41 * mm,
            f"Section along x{label}",
        ),
        Spacer(1, 4),
        _ledger(result, u),
        Paragraph(escape(_idle(result)), styles["small"]),
    ]
    return [KeepTogether(story)] if len(result.checks) < 60 else story


def _plate_text(plate: Plate, u: Showing) -> str:
    """What a raft rests on, and what it has in regions: from and to along x, then along y, from its middle."""
    m, per_m, kpa = (shown_unit(unit, u) for unit in ("m", "kPa/m", "kPa"))

    def box(region: Region) -> str:
        x0, x1, y0, y1 = (show_length(v, u) for v in region.box)
        return f"{x0} to {x1}, {y0} to {y1} {m}"

    if plate.ground == "layers":
        parts = ["rests on the strata themselves"]
    elif plate.subgrade is not None:
        parts = [f"rests on springs of {show(plate.subgrade, 'kPa/m', u)} {per_m}"]
    else:
        parts = ["rests on springs of the pressure over the settlement by the strata"]
    if plate.ground == "springs":
        parts += [f"{show(z.subgrade, 'kPa/m', u)} {per_m} in {box(z)}" for z in plate.zones]
    if plate.greatest is not None:
        parts.append(f"the ground gives at most {show(plate.greatest, 'kPa', u)} {kpa}")
    if not plate.lifts:
        parts.append("springs pull too")
    if plate.walls is not None:
        parts.append(f"concrete walls {show_length(plate.walls, u)} {m} high stiffen it")
    if plate.creep:
        parts.append(f"creep {plate.creep:g}: strength with E and with E/(1 + φ)")
    parts += [f"opening {box(r)}" for r in plate.openings]
    parts += [f"{show_length(t.thickness, u)} {m} thick in {box(t)}" for t in plate.thickenings]
    parts += [f"{show_length(t.drop, u)} {m} lower in {box(t)}" for t in plate.lower]
    us = u.system == "us"
    parts += [
        f"rib {r.name} along {r.axis} at {show_length(r.at, u)} {m}, {show_length(r.width, u)} × {show_length(r.depth, u)} {m} {r.side}, "
        f"top {words(r.top, us)}, bottom {words(r.bottom, us)}"
        + (f", {r.legs} legs {words(r.links, us)}" if r.links else "")
        for r in plate.ribs
    ]
    parts += [
        f"added {a.face.replace('_', ' ')} {words(a.bars, u.system == 'us')} in {box(a)}" for a in plate.added
    ]
    parts += [f"{q.case} {show(q.pressure, 'kPa', u)} {kpa} on {box(q)}" for q in plate.loads]
    return "Plate: " + "; ".join(parts)


def _from_above_and_pressure(
    project: Project, pad: Pad, result: PadResult, state: Any, half: float
) -> list[list[Flowable]]:
    """The bars from above, and the pressure below."""
    label = f", combination {state.label}" if state else ""
    return [[
        Figure(from_above(project, pad, result, named=False), half, 44 * mm, "Base from above"),
        Figure(pressure_drawing(project, pad, state), half, 44 * mm, f"Pressure, {shown_unit('kPa', project.showing)}{label}"),
    ]]  # fmt: skip


def _governing_state(project: Project, pad: Pad, result: PadResult) -> Any:
    for name in (
        "presumed-pressure",
        "eccentricity",
        "resistance-drained",
        "resistance-undrained",
        "punching",
    ):
        check = result.check(name)
        if check.question:
            return base_state(project, pad, check.question, check.situation)
    return None


def _idle(result: PadResult) -> str:
    """The checks that do not apply, in a line."""
    names = [c.check.title for c in result.checks if c.state is State.NOT_APPLICABLE]
    return f"Do not apply: {', '.join(names)}." if names else ""


def _ledger(result: PadResult, units: Any) -> Table:
    rows: list[list[Any]] = [["Check", "Ratio", "Demand", "Capacity", "Unit", "Comb.", "State", "Reference"]]
    marks: list[tuple[int, str]] = []
    shown = [
        c for g in GROUPS for c in result.checks if c.check.group == g and c.state is not State.NOT_APPLICABLE
    ]
    for check in shown:
        unit = check.check.unit
        demand, capacity = ("" if v is None else show(v, unit, units) for v in (check.demand, check.capacity))
        state = check.state.value
        if check.required_factor is not None and check.factor is not None:
            demand, capacity, unit = f"{check.factor:.2f}", f"≥ {check.required_factor:.2f}", "FS"
        if check.ratio is not None and check.ratio > 1:
            marks.append((len(rows), LIGHT.beyond))
        rows.append([
            check.check.title, _ratio(check), demand, capacity, shown_unit(unit, units), check.combination, state, check.check.reference,
        ])  # fmt: skip
    table = _table(rows, [w * mm for w in (41, 12, 18, 18, 15, 17, 26, 27)])
    extra: list[Any] = [("TOPPADDING", (0, 0), (-1, -1), 0.7), ("BOTTOMPADDING", (0, 0), (-1, -1), 1.1)]
    extra += [("ALIGN", (1, 0), (3, -1), "RIGHT")]
    extra += [("TEXTCOLOR", (0, row), (1, row), HexColor(colour)) for row, colour in marks]
    extra += [("FONT", (0, row), (1, row), BOLD, SMALL) for row, _ in marks]
    table.setStyle(TableStyle(extra))
    return table


def _straps(project: Project, results: Results, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    """The beams between tied bases, with their bars and checks."""
    if not project.straps:
        return []
    units, us = project.showing, project.units == "us"
    rows: list[list[Any]] = [["Strap", "Boundary base", "Inner base", f"b x h, {shown_unit('m', units)}", "Top", "Bottom", "Links", "Top", "Bottom", "Shear"]]  # fmt: skip
    for strap in project.straps:
        found = results.pad(strap.edge)
        ratios = [
            next((_ratio(c) for c in found.checks if c.check.id == f"strap-{name}"), "–")
            for name in ("top", "bottom", "shear")
        ]
        links = f"{words(strap.links, us)}, {strap.legs} legs" if strap.links else "none"
        rows.append([
            strap.name, strap.edge, strap.inner, f"{show_length(strap.width, units)} x {show_length(strap.depth, units)}",
            words(strap.top, us), words(strap.bottom, us), links, *ratios,
        ])  # fmt: skip
    widths = [w * mm for w in (12, 22, 18, 24, 17, 17, 30, 11, 12)]
    table = _table(rows, [*widths, WIDTH - sum(widths)], right_from=7)
    return [Paragraph("Straps", styles["h1"]), table, Spacer(1, 8)]


def _bar_schedule(project: Project, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    """All bars by mark, with where they lie."""
    heads = [h.replace("Shape (ISO 3766)", "Shape").replace("Mandrel", "Mandr.") for h in header_of(project)]
    rows: list[list[Any]] = [heads]
    for row in schedule_rows(project):
        rows.append(
            [
                *(f"{v:g}" if isinstance(v, float) else str(v) for v in row[:-1]),
                Paragraph(escape(str(row[-1])), styles["cell"]),
            ]
        )
    widths = [w * mm for w in (10, 18, 11, 12, 13, 12, 17, 17, 13, 17)]
    text = "Dimensions are outside to outside, lengths along the centre line; shapes by ISO 3766: 00 straight, 11 one bend, 21 two bends, 51 closed."
    return [
        Paragraph("Bar schedule", styles["h1"]), Paragraph(text, styles["text"]), Spacer(1, 4),
        _table(rows, [*widths, WIDTH - sum(widths)]),
    ]  # fmt: skip


def _workings(
    project: Project, pad: Pad, result: PadResult, styles: dict[str, ParagraphStyle]
) -> list[Flowable]:
    story: list[Flowable] = []
    for group in GROUPS:
        checks = [c for c in result.checks if c.check.group == group and c.ratio is not None]
        if not checks:
            continue
        worst = max(checks, key=lambda c: c.ratio or 0.0)
        found = working(project, pad, worst.check.id)
        if not isinstance(found, Working):
            continue
        head = f"{pad.name} · {worst.check.title} · ratio {worst.ratio:.3f}"
        if worst.combination:
            head += f" · combination {worst.combination}"
        lines = list(_lines(found, styles))
        if found.unchecked:
            lines.append(Paragraph(f"{MARK} {MEANING}", styles["step"]))
        story.append(KeepTogether([Paragraph(escape(head), styles["h2"]), *lines[:4]]))
        story += lines[4:]
    return story


def _lines(found: Working, styles: dict[str, ParagraphStyle]) -> Iterable[Flowable]:
    style = styles["step"]
    size = style.fontSize
    for line in found.lines():
        parts = [line.symbol, *(p for p in (line.formula, line.numbers) if p)]
        runs = [
            *with_indices(" = ".join(parts) + " = ", REGULAR, size, LIGHT.ink),
            Run(f"{line.value} ", BOLD, size, 0.0, LIGHT.ink),
            Run(line.unit, REGULAR, size, 0.0, LIGHT.ink),
        ]
        tail = " · ".join(p for p in (line.note, marked(line.reference)) if p)
        if tail:
            runs.append(Run(f"   {tail}", REGULAR, 7.0, 0.0, LIGHT.soft))
        yield FormulaLine(runs, style)
