"""Bars: the schedule as a table."""

from korbent.core.concrete.schedule import header_of, schedule_rows
from korbent.core.model import Project
from korbent.sheets.calculation.blocks import Block, Heading, Para, Table
from korbent.words import say


def bars(project: Project) -> list[Block]:
    """The chapter; nothing without bases."""
    if not project.pads:
        return []
    heads = tuple(h.replace("Shape (ISO 3766)", "Shape").replace("Mandrel", "Mandr.") for h in header_of(project))
    rows = tuple(tuple(f"{v:g}" if isinstance(v, float) else str(v) for v in row) for row in schedule_rows(project))
    said = say(
        "Dimensions are outside to outside, lengths along the centre line; shapes by ISO 3766: 00 straight, 11 one bend, 21 two bends, 51 closed."
    )
    return [
        Heading(say("Bars"), 1, "bar-list"),
        Para(said, small=True),
        Table(heads, rows, (10, 18, 11, 12, 13, 12, 17, 17, 14, 18, 32), (8, 9), tight=True),
    ]
