"""A calculation as one HTML file: text, tables, drawings as SVG, links from numbers to their lines."""

import re
from html import escape
from pathlib import Path

from korbent.drawing.theme import LIGHT
from korbent.files.atomic import replacing
from korbent.files.svg_page import svg_text
from korbent.sheets.calculation.blocks import (
    Block,
    Calculation,
    Cell,
    Contents,
    Entry,
    Figure,
    Heading,
    Para,
    Piece,
    Row,
    Step,
    Table,
    headings,
)
from korbent.words import say

PX = 3.78
"""px to a mm."""
WIDE = 174.0
STYLE = f"""
body {{ font-family: "Source Sans Pro", "Source Sans 3", Arial, sans-serif; color: {LIGHT.ink}; background: #fff; max-width: 60rem; margin: 2rem auto; padding: 0 1rem; line-height: 1.35; }}
h1 {{ font-size: 1.6rem; margin-top: 3rem; }} h2 {{ font-size: 1.15rem; margin-top: 1.6rem; }} h3 {{ font-size: 1rem; margin: 1.2rem 0 .3rem; }}
table {{ border-collapse: collapse; font-size: .85rem; font-variant-numeric: tabular-nums; margin: .4rem 0; width: 100%; }}
th {{ background: {LIGHT.desk}; text-align: left; }} th, td {{ border-bottom: 1px solid {LIGHT.line}; padding: .15rem .4rem; vertical-align: top; }}
.right {{ text-align: right; }} .small, .soft {{ color: {LIGHT.soft}; font-size: .85rem; }} .beyond {{ color: {LIGHT.beyond}; font-weight: 600; }}
.step {{ margin: .1rem 0; font-size: .92rem; overflow-wrap: anywhere; }} .value {{ font-weight: 600; }} a {{ color: {LIGHT.accent}; text-decoration: none; }}
.step a {{ color: inherit; border-bottom: 1px dotted {LIGHT.line}; }} figure {{ margin: .6rem 0; }} figcaption {{ font-weight: 600; font-size: .9rem; }}
.row {{ display: flex; gap: 1rem; flex-wrap: wrap; }} svg {{ max-width: 100%; height: auto; border: 1px solid {LIGHT.line}; }}
header, footer {{ color: {LIGHT.soft}; font-size: .85rem; }}
@media print {{ h1 {{ page-break-before: always; }} }}
"""


def write_html(own: Calculation, path: Path) -> None:
    """Writes a calculation as one HTML file.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    with replacing(Path(path)) as part:
        part.write_text(calculation_html(own), encoding="utf-8")


def calculation_html(own: Calculation) -> str:
    """The text of the file."""
    body = "\n".join(_block(b, own, k) for k, b in enumerate(own.blocks))
    return (
        f'<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>{escape(say("{title}: foundations", title=own.title))}</title>\n'
        f"<style>{STYLE}@page {{ size: {own.page[0]:g}mm {own.page[1]:g}mm; margin: 15mm; }}</style></head>\n<body>\n<header>{escape(own.title)} · {escape(own.head)}</header>\n{body}\n"
        f"<footer>{escape(own.foot)}</footer>\n</body></html>\n"
    )


def _id(name: str) -> str:
    return escape(re.sub(r"\s", "_", name), quote=True)


def _block(block: Block, own: Calculation, k: int) -> str:
    match block:
        case Heading():
            level = max(block.level, 1)
            name = f' id="{_id(block.anchor)}"' if block.anchor else ""
            return f"<h{level}{name}>{escape(block.text)}</h{level}>"
        case Para():
            said = f"<strong>{escape(block.text)}</strong>" if block.bold else escape(block.text)
            if block.link:
                said = f'<a href="#{_id(block.link)}">{said}</a>'
            return f'<p class="small">{said}</p>' if block.small else f"<p>{said}</p>"
        case Table():
            return _table(block)
        case Figure():
            return _figure(block, WIDE, k)
        case Row():
            each = WIDE / len(block.figures)
            parts = "".join(_figure(f, each, 100 * k + i) for i, f in enumerate(block.figures))
            return f'<div class="row">{parts}</div>'
        case Step():
            name = f' id="{_id(block.anchor)}"' if block.anchor else ""
            return f'<p class="step"{name}>{"".join(map(_piece, block.pieces))}</p>'
        case Contents():
            items = "".join(
                f'<li style="margin-left:{h.level - 1}rem"><a href="#{_id(h.anchor)}">{escape(h.text)}</a></li>'
                for h in headings(own.blocks)
            )
            return f"<h2>{escape(say('Contents'))}</h2><ul>{items}</ul>"


def _piece(piece: Piece) -> str:
    said = re.sub(r"_([\w,′]+)", r"<sub>\1</sub>", escape(piece.text)) if not piece.look else escape(piece.text)
    if piece.link:
        return f'<a href="#{_id(piece.link)}">{said}</a>'
    return f'<span class="{piece.look}">{said}</span>' if piece.look else said


def _figure(figure: Figure, wide: float, k: int) -> str:
    text = svg_text(figure.drawing, wide * PX, figure.height * PX)
    text = text.partition("?>")[2]
    # names of clips are of the whole page
    text = text.replace("within-", f"within-{k}-")
    caption = f"<figcaption>{escape(figure.title)}</figcaption>" if figure.title else ""
    return f"<figure>{caption}{text}</figure>"


def _table(block: Table) -> str:
    right = set(block.right)

    def cell(tag: str, k: int, value: Entry) -> str:
        shown = value.text if isinstance(value, Cell) else value
        said = escape(shown)
        if isinstance(value, Cell) and value.link:
            said = f'<a href="#{_id(value.link)}">{said}</a>'
        names = [n for n, on in (("right", k in right), ("beyond", isinstance(value, Cell) and value.beyond)) if on]
        return f"<{tag}{' class=' + chr(34) + ' '.join(names) + chr(34) if names else ''}>{said}</{tag}>"

    head = ""
    if any(block.head):
        head = "<thead><tr>" + "".join(cell("th", k, h) for k, h in enumerate(block.head)) + "</tr></thead>"
    rows = "".join("<tr>" + "".join(cell("td", k, v) for k, v in enumerate(row)) + "</tr>" for row in block.rows)
    return f"<table>{head}<tbody>{rows}</tbody></table>"
