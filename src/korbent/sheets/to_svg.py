"""A sheet as SVG at its size in mm: lines stay lines, texts texts."""

import base64
from pathlib import Path
from xml.etree import ElementTree
from xml.etree.ElementTree import SubElement

from korbent.files.atomic import replacing
from korbent.files.office import logo_file
from korbent.files.svg_page import SvgPage
from korbent.sheets.composition import PX, Sheet, paint


def sheet_svg(sheet: Sheet) -> str:
    """The text of the SVG file of a sheet."""
    page = SvgPage(sheet.width / PX, sheet.height / PX, sheet.title)
    page.root.set("width", f"{sheet.width:g}mm")
    page.root.set("height", f"{sheet.height:g}mm")
    paint(sheet, page, 1 / PX)
    path = logo_file()
    for shape in sheet.frame.shapes:
        if getattr(shape, "key", "") == "logo" and path is not None and path.suffix == ".png":
            (x0, y0), (x1, _), (_, y1), _ = shape.points  # type: ignore[union-attr]
            data = base64.b64encode(path.read_bytes()).decode()
            SubElement(
                page.root,
                "image",
                x=f"{1000 * x0 / PX:.2f}",
                y=f"{(sheet.height - 1000 * y1) / PX:.2f}",
                width=f"{1000 * (x1 - x0) / PX:.2f}",
                height=f"{1000 * (y1 - y0) / PX:.2f}",
                href=f"data:image/png;base64,{data}",
            )
    ElementTree.indent(page.root)
    return ElementTree.tostring(page.root, encoding="unicode", xml_declaration=True) + "\n"


def write_sheet_svg(sheet: Sheet, path: Path) -> None:
    """Writes a sheet as SVG.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    with replacing(path) as part:
        part.write_text(sheet_svg(sheet), encoding="utf-8")
