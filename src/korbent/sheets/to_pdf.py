"""Sheets as a PDF: one page each, at its size, with a bookmark."""

import io
from collections.abc import Sequence
from pathlib import Path

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from korbent.files.atomic import replacing
from korbent.files.office import logo_file
from korbent.files.pdf_page import PdfPage, register_fonts
from korbent.sheets.composition import Sheet, paint


def write_sheets_pdf(sheets: Sequence[Sheet], path: Path) -> None:
    """Writes sheets into one PDF.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    with replacing(path) as part:
        part.write_bytes(sheets_pdf(sheets))


def sheets_pdf(sheets: Sequence[Sheet]) -> bytes:
    """The bytes of a PDF with one page for each sheet."""
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, invariant=1)
    for sheet in sheets:
        canvas.setPageSize((sheet.width * mm, sheet.height * mm))
        canvas.bookmarkPage(f"{sheet.key}-{sheet.number}")
        canvas.addOutlineEntry(sheet.title, f"{sheet.key}-{sheet.number}", 0)
        canvas.saveState()
        canvas.translate(0, sheet.height * mm)
        paint(sheet, PdfPage(canvas), mm)
        canvas.restoreState()
        _logo(canvas, sheet)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _logo(canvas: Canvas, sheet: Sheet) -> None:
    """A logo that is a picture, at its place in the title block."""
    path = logo_file()
    for shape in sheet.frame.shapes:
        if getattr(shape, "key", "") == "logo" and path is not None and path.suffix == ".png":
            (x0, y0), (x1, _), (_, y1), _ = shape.points  # type: ignore[union-attr]
            canvas.drawImage(
                str(path),
                x0 * 1000 * mm,
                y0 * 1000 * mm,
                (x1 - x0) * 1000 * mm,
                (y1 - y0) * 1000 * mm,
                mask="auto",
                preserveAspectRatio=True,
                anchor="w",
            )
