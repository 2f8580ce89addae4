"""Settlement over time of every foundation and mark, and the ground below the worst of them."""

import math

from korbent.core.evaluate import Results
from korbent.core.model import Project
from korbent.core.settlement.over_time import points
from korbent.core.units import show, shown_unit
from korbent.drawing.settlement import depth_columns
from korbent.files.settlement_tables import depth_header, depth_rows, time_header, time_rows
from korbent.sheets.calculation.blocks import Block, Cell, Entry, Figure, Heading, Table
from korbent.sheets.calculation.words import ratio_words
from korbent.words import say

WIDE = 174.0


def settlement(project: Project, results: Results, every: bool = False) -> list[Block]:
    """The chapter; nothing where no settlement can be computed. ``every``: over time for all points, else for the one
    that settles most."""
    found, known = points(project)
    some = [own for own in known if not own.why]
    if not some:
        return []
    blocks: list[Block] = [Heading(say("Settlement over time"), 1, "settlement")]
    mm = shown_unit("mm", project.showing)
    if results.marks:
        rows: list[tuple[Entry, ...]] = [
            (
                check.foundation,
                *(show(v, "mm", project.showing) if v is not None else "–" for v in (check.demand, check.capacity)),
                Cell(ratio_words(check), beyond=(check.ratio or 0) > 1),
                check.state.word,
                check.message,
            )
            for check in results.marks
        ]
        blocks.append(
            Table(
                (say("Mark"), say("settlement, {mm}", mm=mm), say("limit, {mm}", mm=mm), "ratio", "state", ""),
                tuple(rows),
                (22, 24, 22, 14, 30, 62),
                (1, 2, 3),
            )
        )
    worst = max(some, key=lambda own: abs(own.final))
    title = say(
        "Ground below {worst} at the end of the stated life; thin lines of excess pressure at earlier moments",
        worst=worst.name,
    )
    blocks.append(Figure(depth_columns(project, worst, float(worst.times[-1]), 2.1), 83, title))
    finals = []
    for own in some:
        row = time_rows(project, found, own)[-1]
        days = own.time_to(0.9)
        finals.append(
            (
                own.name,
                *(f"{v:.4g}" for v in row[4:9] if isinstance(v, float)),
                f"{days:.0f}" if math.isfinite(days) else "–",
            )
        )
    head = tuple(time_header(project)[4:9])
    blocks += [
        Heading(say("In the end"), 2, "in-the-end"),
        Table(
            (say("Point"), *head, say("days to 90 %")), tuple(finals), (34, *([23] * 6)), tuple(range(1, 7)), tight=True
        ),
    ]
    shown = some if every else [worst]
    body = tuple(
        tuple(v if isinstance(v, str) else f"{v:.6g}" for v in row)
        for own in shown
        for row in _without_repeats(time_rows(project, found, own))
    )
    blocks += [
        Heading(say("Over time") if every else say("Over time below {worst}", worst=worst.name), 2, "over-time"),
        Table(
            tuple(time_header(project)), body, (14, 15, 18, 38, 17, 14, 14, 13, 16, 15), tuple(range(4, 10)), tight=True
        ),
    ]
    columns = depth_header(project)[3:]
    deep = tuple(
        tuple(v if isinstance(v, str) else f"{v:.5g}" for v in row[3:])
        for row in depth_rows(project, found, worst, float(worst.times[-1]))
    )
    blocks += [
        Heading(say("Over depth below {worst}, at the end of the stated life", worst=worst.name), 2, "over-depth"),
        Table(
            tuple(columns),
            deep,
            (28, *([(WIDE - 28) / (len(columns) - 1)] * (len(columns) - 1))),
            tuple(range(1, len(columns))),
            tight=True,
        ),
    ]
    return blocks


def _without_repeats(rows: list[list[str | float]]) -> list[list[str | float]]:
    """The name of a point once."""
    return [[row[0] if k == 0 else "", *row[1:]] for k, row in enumerate(rows)]
