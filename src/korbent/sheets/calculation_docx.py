"""A calculation as DOCX: real headings, tables with repeated heads, drawings as pictures; for an office to go on
with."""

import datetime
import io
from pathlib import Path
from typing import Any

from docx import Document
from docx.document import Document as DocumentType
from docx.enum.style import WD_STYLE_TYPE
from docx.enum.text import WD_ALIGN_PARAGRAPH
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Mm, Pt, RGBColor
from reportlab.pdfgen.canvas import Canvas

from korbent.drawing.theme import LIGHT
from korbent.files.atomic import replacing
from korbent.files.formula_line import INDEX
from korbent.files.pdf_page import paint, register_fonts
from korbent.sheets.calculation.blocks import (
    Block,
    Calculation,
    Cell,
    Contents,
    Figure,
    Heading,
    Para,
    Piece,
    Row,
    Step,
    Table,
    entry,
)
from korbent.words import say

LINE, SMALL, IN_TABLE = say("Working line"), say("Small text"), say("Text in tables")
ASIDE = 18.0
"""Beside what is written, mm."""
DPI = 160
PT = 72 / 25.4
SOFT = RGBColor.from_string(LIGHT.soft[1:].upper())


def write_docx(own: Calculation, path: Path) -> None:
    """Writes a calculation as DOCX.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    document = calculation_docx(own)
    with replacing(Path(path)) as part:
        document.save(str(part))


def calculation_docx(own: Calculation) -> DocumentType:
    """The document."""
    document = Document()
    _set_up(document, own)
    line = document.styles[LINE].style_id
    first = True
    for block in own.blocks:
        if isinstance(block, Heading) and (block.level == 1 or block.page) and not first:
            _break_before(document, block)
        else:
            _add(document, block, line, own)
        first = False
    return document


def _set_up(document: DocumentType, own: Calculation) -> None:
    section = document.sections[0]
    width, height = own.page
    section.page_width, section.page_height = Mm(width), Mm(height)
    section.left_margin = section.right_margin = Mm(ASIDE)
    section.top_margin = section.bottom_margin = Mm(20)
    section.header.paragraphs[0].text = f"{own.title}\t\t{own.head}"
    foot = section.footer.paragraphs[0]
    foot.text = say("{foot}\t\tpage ", foot=own.foot)
    _field(foot, "PAGE")
    foot.add_run(" of ")
    _field(foot, "NUMPAGES")
    normal = document.styles["Normal"]
    normal.font.name, normal.font.size = say("Arial"), Pt(9)
    normal.paragraph_format.space_after = Pt(3)
    for level, size in ((1, 15), (2, 12), (3, 10)):
        style = document.styles[f"Heading {level}"]
        style.font.name, style.font.size = say("Arial"), Pt(size)
        style.font.color.rgb = RGBColor.from_string(LIGHT.ink[1:].upper())
        style.element.rPr.rFonts.set(qn("w:asciiTheme"), "") if style.element.rPr is not None else None
    # what most runs look like is said by the style of their paragraph, once
    for name, points in ((LINE, 8.5), (SMALL, 8.0), (IN_TABLE, 7.5)):
        style = document.styles.add_style(name, WD_STYLE_TYPE.PARAGRAPH)
        style.base_style = normal
        style.font.size = Pt(points)
        style.paragraph_format.space_after = Pt(0 if name == IN_TABLE else 1)
    properties = document.core_properties
    properties.title, properties.author = say("{title}: foundations", title=own.title), own.author
    properties.created = datetime.datetime(2000, 1, 1)


def _field(paragraph: Any, code: str) -> None:
    """A field that a word processor fills in."""
    run = paragraph.add_run()
    for kind, text in (("begin", ""), ("", code), ("end", "")):
        if kind:
            element = OxmlElement("w:fldChar")
            element.set(qn("w:fldCharType"), kind)
        else:
            element = OxmlElement("w:instrText")
            element.set(qn("xml:space"), "preserve")
            element.text = text
        run._r.append(element)


def _break_before(document: DocumentType, block: Heading) -> None:
    paragraph = document.add_heading(block.text, level=max(min(block.level, 3), 1))
    paragraph.paragraph_format.page_break_before = True


def _add(document: DocumentType, block: Block, line: str, own: Calculation) -> None:
    wide = own.page[0] - 2 * ASIDE
    match block:
        case Heading():
            document.add_heading(block.text, level=min(block.level, 3))
        case Para():
            run = document.add_paragraph(style=SMALL if block.small else None).add_run(block.text)
            if block.bold:
                run.bold = True
        case Table():
            _table(document, block, wide)
        case Figure():
            _title(document, block.title)
            document.add_picture(picture(own.fitted(block), wide), width=Mm(wide))
        case Row():
            each = wide / len(block.figures) - 2
            table = document.add_table(rows=1, cols=len(block.figures))
            for cell, figure in zip(table.rows[0].cells, block.figures):
                cell.paragraphs[0].add_run(figure.title).bold = True
                cell.add_paragraph().add_run().add_picture(picture(own.fitted(figure), each), width=Mm(each))
        case Step():
            _step(document, block, line)
        case Contents():
            paragraph = document.add_paragraph()
            _field(paragraph, 'TOC \\o "1-2" \\h \\z \\u')
            document.add_paragraph(say("The contents are filled in when fields are updated."), style=SMALL)


def _title(document: DocumentType, text: str) -> None:
    if text:
        paragraph = document.add_paragraph()
        paragraph.add_run(text).bold = True
        paragraph.paragraph_format.keep_with_next = True


def _step(document: DocumentType, block: Step, line: str) -> None:
    # by the identifier of the style: python-docx looks a name up among all styles each time
    paragraph = document.add_paragraph()
    paragraph._p.style = line
    plain = ""
    for piece in (*block.pieces, Piece("", look="value")):
        if not piece.look:
            plain += piece.text
            continue
        for k, part in enumerate(INDEX.split(plain)):
            if part:
                run = paragraph.add_run(part)
                if k % 2:
                    run.font.subscript = True
        plain = ""
        if not piece.text:
            continue
        run = paragraph.add_run(piece.text)
        if piece.look == "value":
            run.bold = True
        else:
            run.font.size = Pt(7.5)
            run.font.color.rgb = SOFT


def _table(document: DocumentType, block: Table, wide: float) -> None:
    with_head = any(block.head)
    rows = ([tuple(block.head)] if with_head else []) + list(block.rows)
    if not rows:
        return
    table = document.add_table(rows=len(rows), cols=len(block.widths))
    table.style = say("Table Grid")
    table.autofit = False
    share = wide / sum(block.widths)
    within = document.styles[IN_TABLE].style_id
    # cells by rows of the table itself: asking the table for each of them takes a time that grows with its square
    for i, (own, values) in enumerate(zip(table.rows, rows)):
        for k, (cell, value) in enumerate(zip(own.cells, values)):
            cell.width = Mm(block.widths[k] * share)
            paragraph = cell.paragraphs[0]
            paragraph._p.style = within
            run = paragraph.add_run(entry(value))
            if with_head and i == 0:
                run.bold = True
            if isinstance(value, Cell) and value.beyond:
                run.bold = True
                run.font.color.rgb = RGBColor.from_string(LIGHT.beyond[1:].upper())
            if k in block.right:
                paragraph.alignment = WD_ALIGN_PARAGRAPH.RIGHT
    if with_head:
        repeated = OxmlElement("w:tblHeader")
        repeated.set(qn("w:val"), "true")
        table.rows[0]._tr.get_or_add_trPr().append(repeated)
    document.add_paragraph().paragraph_format.space_after = Pt(2)


def picture(figure: Figure, wide: float) -> io.BytesIO:
    """A drawing as PNG, ``wide`` mm."""
    import pypdfium2

    register_fonts()
    data = io.BytesIO()
    canvas = Canvas(data, pagesize=(wide * PT, figure.height * PT), invariant=1)
    paint(canvas, figure.drawing, 0, 0, wide * PT, figure.height * PT)
    canvas.save()
    page = pypdfium2.PdfDocument(data.getvalue())[0]
    out = io.BytesIO()
    page.render(scale=DPI / 72).to_pil().save(out, "PNG", compress_level=4)
    out.seek(0)
    return out
