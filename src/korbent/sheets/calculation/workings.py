"""Workings: each number that is put in links to the line that it comes from; forces once for a base and a combination,
then referred to."""

import ast
from collections.abc import Iterable, Iterator

from korbent.core.checks import GROUPS, CheckResult, State
from korbent.core.evaluate import PadResult, Results
from korbent.core.explain.working import Working, working
from korbent.core.model import Pad, Project
from korbent.core.model.sheets import Workings
from korbent.core.sources import MARK, MEANING, marked
from korbent.core.working import Line, picked, pretty, shown_value
from korbent.core.working import Step as RecordedStep
from korbent.sheets.calculation.bases import worst_member
from korbent.sheets.calculation.blocks import Block, Heading, Para, Piece, Step
from korbent.sheets.types import kinds_built
from korbent.words import say, say_count

SAID = {
    "governing": say("For each base the working of the worst check of each group, in its governing situation."),
    "failing": say(
        "For each base the worst check of each group, and all that fail or are accepted, in their governing situations."
    ),
    "all": say("All checks of every base, in their governing situations."),
}
PRUNED = say(
    "Of several values whose least or greatest counts, only the one that it is has its derivation; the others stand with their values."
)
FORCES = ("V", "N", "M_x", "M_y")
"""The last lines of the forces on a base."""
Printed = dict[tuple[str, str, str, str], str]
"""Of a base the lines of its forces that were printed already, with the name that links go to."""
FIRST_MARK = 0x4E00
"""Letters that stand in no text of ours, to find numbers again."""


def workings(project: Project, results: Results, which: Workings, by_type: bool = False) -> list[Block]:
    """The chapter; nothing where none are asked for. ``by_type``: of what is built alike only the worst member."""
    if which == "none" or not project.pads:
        return []
    found: list[Block] = [Heading(say("Workings"), 1, "workings"), Para(SAID[which])]
    if which != "all":
        found.append(Para(PRUNED, small=True))
    pads = [worst_member(kind, results) for kind in kinds_built(project)] if by_type else list(project.pads)
    for pad in pads:
        seen: Printed = {}
        for check in chosen(results.pad(pad.name), which):
            found += working_blocks(project, pad, check, seen, which == "all")
    return found


def chosen(result: PadResult, which: Workings) -> list[CheckResult]:
    """The checks whose working is printed, in the order of the ledger."""
    ordered = [c for g in GROUPS for c in result.checks if c.check.group == g]
    if which == "all":
        return [c for c in ordered if c.ratio is not None or c.state is State.UNSTABLE]
    worst = set()
    for group in GROUPS:
        own = [c for c in ordered if c.check.group == group and c.ratio is not None]
        if own:
            worst.add(max(own, key=lambda c: c.ratio or 0.0).check.id)
    if which == "failing":
        worst |= {c.check.id for c in ordered if c.state in (State.FAILS, State.UNSTABLE, State.ACCEPTED)}
    return [c for c in ordered if c.check.id in worst]


def working_blocks(project: Project, pad: Pad, check: CheckResult, seen: Printed, whole: bool = True) -> list[Block]:
    """One working; ``seen``: the forces that were printed for this base already.

    ``whole``: also how values came about that do not govern a least or greatest one.
    """
    found = working(project, pad, check.check.id)
    if not isinstance(found, Working):
        return []
    name = f"w-{pad.name}-{check.check.id}"
    head = f"{pad.name} · {check.check.title}"
    head += say(" · ratio {ratio:.3f}", ratio=check.ratio) if check.ratio is not None else f" · {check.state.word}"
    if check.combination:
        head += say(" · combination {combination}", combination=check.combination)
    blocks: list[Block] = [Heading(head, 3, name)]
    kept = None if whole else governing_steps(found)
    lines = [line for line in found.lines() if kept is None or line.index in kept]
    forces = _forces(lines)
    # by their order: how much else was recorded on the way depends on what was known already
    where = {line.index: f"{name}-{k}" for k, line in enumerate(lines)}
    printed = []
    for line in lines:
        key = (line.symbol, line.formula, line.numbers, line.value)
        if key in seen and " " not in line.scope:
            where[line.index] = seen[key]
            continue
        if line.index in forces:
            seen[key] = where[line.index]
        printed.append(line)
    before = [line for line in lines if line not in printed]
    if before:
        of = say(" in combination {combination}", combination=check.combination) if check.combination else ""
        blocks.append(
            Para(
                say(
                    "Forces on the base{of}: {counted} as printed before.",
                    of=of,
                    counted=say_count(len(before), "{number} line", "{number} lines"),
                ),
                small=True,
                link=where[before[-1].index],
            )
        )
    blocks += [Step(tuple(_pieces(found, line, where)), where[line.index]) for line in printed]
    if found.unchecked:
        blocks.append(Para(f"{MARK} {MEANING}", small=True))
    return blocks


def governing_steps(found: Working) -> set[int]:
    """The steps on which the ratio rests in this situation: of a least or greatest value only that which is it, of a
    choice what was taken."""
    recording = found.recording
    needed: set[int] = set()
    waiting = [found.step]
    while waiting:
        i = waiting.pop()
        if i in needed:
            continue
        needed.add(i)
        waiting += _governing_inputs(found, recording.steps[i])
    return needed


def _governing_inputs(found: Working, step: RecordedStep) -> list[int]:
    every = list(step.inputs.values())
    if not step.formula or len(every) < 2:
        return every
    call = ast.parse(step.formula, mode="eval").body
    if not (isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id in ("min", "max")):
        return every
    names = [a.id for a in call.args if isinstance(a, ast.Name)]
    if len(names) != len(call.args):
        return every
    values = {n: float(picked(found.recording.steps[step.inputs[n]].value, 0, found.situation)) for n in names}
    best = (min if call.func.id == "min" else max)(names, key=lambda n: values[n])
    return [step.inputs[best]]


def _forces(lines: list[Line]) -> set[int]:
    """The lines that lead to the forces on the base, by their index: they are the same for all checks of a
    combination."""
    last = max((line.index for line in lines if line.symbol in FORCES and " " not in line.scope), default=-1)
    return {line.index for line in lines if line.index <= last and " " not in line.scope}


def _pieces(found: Working, line: Line, where: dict[int, str]) -> Iterator[Piece]:
    yield Piece(f"{line.symbol} = ")
    if line.formula:
        yield Piece(f"{line.formula} = ")
    if line.numbers:
        yield from _linked(found, line, where)
        yield Piece(" = ")
    yield Piece(line.value, look="value")
    if line.unit:
        yield Piece(f" {line.unit}")
    tail = " · ".join(p for p in (line.note, marked(line.reference)) if p)
    if tail:
        yield Piece(f"   {tail}", look="soft")


def _linked(found: Working, line: Line, where: dict[int, str]) -> Iterable[Piece]:
    """The numbers of a line, each with a link to the line of the symbol that it stands for."""
    recording, step = found.recording, found.recording.steps[line.index]
    marks: dict[str, tuple[str, str]] = {}
    values: dict[str, str] = {}
    for k, (name, i) in enumerate(step.inputs.items()):
        source = recording.steps[i]
        if source.labels:  # sums are written out term by term: they stay without links
            return [Piece(line.numbers)]
        shown = shown_value(source, 0, found.situation)
        marks[chr(FIRST_MARK + k)] = (shown, where.get(i, ""))
        values[name] = shown + chr(FIRST_MARK + k)
    text = pretty(step.formula, {"gamma_w": "9.81", **values})
    pieces: list[Piece] = []
    plain = ""
    for letter in text:
        if letter not in marks:
            plain += letter
            continue
        shown, to = marks[letter]
        pieces += [Piece(plain[: len(plain) - len(shown)]), Piece(shown, to)]
        plain = ""
    pieces.append(Piece(plain))
    # where the marks changed how it is written, the plain text stands
    if "".join(p.text for p in pieces) != line.numbers:
        return [Piece(line.numbers)]
    return [p for p in pieces if p.text]


def check_pages(project: Project, pad: Pad, results: Results) -> list[Block]:
    """All workings of one base, for printing its ledger."""
    seen: Printed = {}
    found: list[Block] = []
    for check in chosen(results.pad(pad.name), "all"):
        found += working_blocks(project, pad, check, seen)
    return found
