"""Plan and summary: all bases by group of checks."""

from korbent.core.checks import GROUPS, State
from korbent.core.evaluate import Results
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.drawing.plan import plan_drawing
from korbent.drawing.words import size_words, under_words
from korbent.sheets.calculation.blocks import Block, Cell, Entry, Figure, Heading, Para, Table
from korbent.sheets.calculation.words import ratio_words
from korbent.words import say


def summary(project: Project, results: Results) -> list[Block]:
    """The chapter."""
    verdict = (
        say("Every check of every foundation holds or is accepted.")
        if results.holds
        else say("The project does not hold: see below.")
    )
    found: list[Block] = [
        Heading(say("Plan and summary"), 1, "summary"),
        Figure(plan_drawing(project, results), 88, say("Plan, coloured by the worst ratio of each base")),
        Para(verdict, bold=True),
    ]
    groups = [g for g in GROUPS if any(r.worst_in(g) for r in results.pads)]
    rows: list[tuple[Entry, ...]] = []
    for result in results.pads:
        pad, worst = project.pad(result.name), result.worst
        cells: list[Entry] = []
        for group in groups:
            own = result.worst_in(group)
            text = "–" if own is None else ratio_words(own) if own.ratio is not None else own.state.word
            cells.append(Cell(text, beyond=own is not None and own.state in (State.FAILS, State.UNSTABLE)))
        rows.append(
            (
                Cell(pad.name, f"base-{pad.name}"),
                under_words(pad),
                size_words(pad, project.showing),
                *cells,
                f"{worst.check.title}, {worst.combination}" if worst.combination else worst.check.title,
                worst.state.word,
            )
        )
    for name in results.undesigned:
        rows.append((name, "", "", *["" for _ in groups], say("no foundation yet"), State.NOT_DESIGNED.value))
    if rows:
        wide = 62.0 / max(len(groups), 1)
        found.append(
            Table(
                (
                    say("Base"),
                    say("Under"),
                    say("Size"),
                    *map(label, groups),
                    say("Worst check, combination"),
                    say("State"),
                ),
                tuple(rows),
                (12, 15, 34, *([wide] * len(groups)), 32, 19),
                tuple(range(3, 3 + len(groups))),
            )
        )
    if results.marks:
        found.append(
            Para(
                say(
                    "Settlement marks: {sum} of {marks} hold.",
                    sum=sum(c.state.is_good for c in results.marks),
                    marks=len(results.marks),
                ),
                small=True,
            )
        )
    return found
