"""Paper sizes, scales, and which scale fits."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

MM = 0.001
"""m of paper."""
INCH = 25.4
"""mm."""


@dataclass(frozen=True)
class Paper:
    """A sheet of paper, lying: width is the longer side, mm."""

    name: str
    width: float
    height: float

    def size(self, upright: bool = False) -> tuple[float, float]:
        """(width, height) as it is used, mm."""
        return (self.height, self.width) if upright else (self.width, self.height)


PAPERS = {
    paper.name: paper
    for paper in (
        *(
            Paper(f"A{k}", w, h)
            for k, (w, h) in enumerate(
                ((1189.0, 841.0), (841.0, 594.0), (594.0, 420.0), (420.0, 297.0), (297.0, 210.0))
            )
        ),
        Paper("Letter", 11 * INCH, 8.5 * INCH),
        *(
            Paper(f"ANSI {k}", w * INCH, h * INCH)
            for k, w, h in (("A", 11, 8.5), ("B", 17, 11), ("C", 22, 17), ("D", 34, 22), ("E", 44, 34))
        ),
        *(
            Paper(f"Arch {k}", w * INCH, h * INCH)
            for k, w, h in (("A", 12, 9), ("B", 18, 12), ("C", 24, 18), ("D", 36, 24), ("E1", 42, 30), ("E", 48, 36))
        ),
    )
}
"""ISO 216; ANSI/ASME Y14.1; the architectural sizes of the same standard."""

METRIC = (10.0, 20.0, 25.0, 50.0, 100.0, 200.0, 250.0, 500.0, 1000.0, 2000.0)
US = {
    4.0: '3" = 1\'-0"',
    8.0: '1 1/2" = 1\'-0"',
    12.0: '1" = 1\'-0"',
    16.0: '3/4" = 1\'-0"',
    24.0: '1/2" = 1\'-0"',
    32.0: '3/8" = 1\'-0"',
    48.0: '1/4" = 1\'-0"',
    64.0: '3/16" = 1\'-0"',
    96.0: '1/8" = 1\'-0"',
    128.0: '3/32" = 1\'-0"',
    192.0: '1/16" = 1\'-0"',
    240.0: '1" = 20\'-0"',
    480.0: '1" = 40\'-0"',
    1200.0: '1" = 100\'-0"',
}


def scales(us: bool) -> tuple[float, ...]:
    """The scales that are used, 1 to so many, the largest drawing first."""
    return tuple(US) if us else METRIC


def scale_words(denominator: float, us: bool) -> str:
    """1:50, or 1/4" = 1'-0" where it is one of those."""
    if us and denominator in US:
        return US[denominator]
    return f"1:{denominator:g}"


def papers(us: bool) -> tuple[str, ...]:
    """The names of papers, those of the region first."""
    names = list(PAPERS)
    return tuple(names[5:] + names[:5]) if us else tuple(names)


def usual_paper(us: bool, large: bool) -> str:
    """The paper for a drawing, or for a page of a calculation."""
    return ("Arch D" if us else "A1") if large else ("Letter" if us else "A4")


def fitting(size: tuple[float, float], room: tuple[float, float], us: bool, least: float = 0.0) -> float:
    """The largest of the scales at which a size (m) fits into a room (mm) of paper; a round one beyond them where none
    does.

    Args:
        least: a scale that is not gone beyond, however much room there is.
    """
    known: Sequence[float] = [s for s in scales(us) if s >= least]
    found = next((s for s in known if all(1000 * m / s <= mm for m, mm in zip(size, room))), None)
    if found is not None:
        return found
    # beyond all that are usual: the next of 1, 2, 5 times a power of ten
    asked = max(1000 * m / mm for m, mm in zip(size, room))
    power = 10.0 ** math.floor(math.log10(asked))
    return next(k * power for k in (1.0, 2.0, 5.0, 10.0) if k * power >= asked * (1 - 1e-9))
