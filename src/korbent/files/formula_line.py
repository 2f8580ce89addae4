"""Lines of a working on a PDF page: symbols with indices, formula, numbers and value, broken where they are too long.

The general paragraph reads markup for each of them; a report has thousands.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import Flowable

INDEX = re.compile(r"_([\w,′]+)")
INDEX_SIZE, INDEX_RISE = 0.67, -0.2
"""Of an index, over the size of the line."""


@dataclass(frozen=True, slots=True)
class Run:
    """Letters of one look: ``rise`` moves them up."""

    text: str
    font: str
    size: float
    rise: float
    colour: str
    link: str = ""
    """The name of a place in the document."""


def with_indices(text: str, font: str, size: float, colour: str) -> Iterator[Run]:
    """The runs of a text in which ``_c`` is an index."""
    for k, part in enumerate(INDEX.split(text)):
        if part and k % 2:
            yield Run(part, font, INDEX_SIZE * size, INDEX_RISE * size, colour)
        elif part:
            yield Run(part, font, size, 0.0, colour)


class FormulaLine(Flowable):  # type: ignore[misc]
    """Runs set one after the other; broken between words, a word that is wider than the page within it."""

    def __init__(self, runs: Sequence[Run], style: ParagraphStyle, lines: Sequence[list[Run]] = ()) -> None:
        super().__init__()
        self.width = 0.0
        self.runs, self.style = tuple(runs), style
        self.lines = list(lines)
        self.spaceAfter = style.spaceAfter

    def wrap(self, width: float, _: float) -> tuple[float, float]:
        if not self.lines or self.width != width:
            self.width = width
            self.lines = self.lines if not self.runs else broken(self.runs, width)
        self.height = len(self.lines) * self.style.leading
        return width, self.height

    def split(self, width: float, height: float) -> list[Any]:
        self.wrap(width, height)
        fit = int(height / self.style.leading + 1e-6)
        if fit < 1 or fit >= len(self.lines):
            return []
        return [FormulaLine((), self.style, part) for part in (self.lines[:fit], self.lines[fit:])]

    def draw(self) -> None:
        top = self.height - self.style.fontSize
        for k, line in enumerate(self.lines):
            text = self.canv.beginText(0, top - k * self.style.leading)
            for run in line:
                text.setFont(run.font, run.size)
                text.setRise(run.rise)
                text.setFillColor(_colour(run.colour))
                if run.link:
                    x, y = text.getX(), text.getY()
                    box = (x, y - 0.2 * run.size, x + _width(run), y + 0.8 * run.size)
                    self.canv.linkRect("", run.link, box, relative=1, Border="[0 0 0]")
                text.textOut(run.text)
            self.canv.drawText(text)


def broken(runs: Sequence[Run], width: float) -> list[list[Run]]:
    """Lines of at most that width; a line holds as many words as there is room for."""
    lines: list[list[Run]] = [[]]
    room = width
    for word in _words(runs):
        wide = sum(_width(r) for r in word)
        bare = sum(_width(r) for r in _stripped(word))
        if bare > room and lines[-1]:
            lines.append([])
            room = width
        while bare > width:
            head, word = _cut(word, width)
            lines[-1].extend(head)
            lines.append([])
            wide, bare = sum(_width(r) for r in word), sum(_width(r) for r in _stripped(word))
        lines[-1].extend(word)
        room -= wide
    return [_joined(line) for line in lines if line]


def _words(runs: Sequence[Run]) -> Iterator[list[Run]]:
    """Runs from one space to the next, the space at the end."""
    word: list[Run] = []
    for run in runs:
        for part in re.findall(r"[^ ]* |[^ ]+$", run.text):
            word.append(Run(part, run.font, run.size, run.rise, run.colour, run.link))
            if part.endswith(" "):
                yield word
                word = []
    if word:
        yield word


def _stripped(word: list[Run]) -> list[Run]:
    last = word[-1]
    return [*word[:-1], Run(last.text.rstrip(), last.font, last.size, last.rise, last.colour, last.link)]


def _cut(word: list[Run], width: float) -> tuple[list[Run], list[Run]]:
    """As much of a word as fits, at least a letter, and the rest."""
    head: list[Run] = []
    for k, run in enumerate(word):
        for n in range(1, len(run.text) + 1):
            part = Run(run.text[:n], run.font, run.size, run.rise, run.colour, run.link)
            if _width(part) > width and (head or n > 1):
                kept = [Run(run.text[: n - 1], run.font, run.size, run.rise, run.colour, run.link)] if n > 1 else []
                rest = Run(run.text[n - 1 :], run.font, run.size, run.rise, run.colour, run.link)
                return [*head, *kept], [rest, *word[k + 1 :]]
        head.append(run)
        width -= _width(run)
    return head, []


def _joined(line: list[Run]) -> list[Run]:
    """Neighbours of one look together."""
    found: list[Run] = []
    for run in line:
        last = found[-1] if found else None
        if last and replace(last, text="") == replace(run, text=""):
            found[-1] = replace(last, text=last.text + run.text)
        else:
            found.append(run)
    return found


def _width(run: Run) -> float:
    return _measured(run.text, run.font, run.size)


@lru_cache(maxsize=20_000)
def _measured(text: str, font: str, size: float) -> float:
    return float(stringWidth(text, font, size))


@lru_cache(maxsize=64)
def _colour(colour: str) -> HexColor:
    return HexColor(colour)
