"""Soil patterns in the manner of an engineer's log, as strokes on the page."""

from collections.abc import Iterator
from functools import lru_cache
from random import Random

Stroke = tuple[str, tuple[float, ...]]
"""('line', (x0, y0, x1, y1)), ('dot', (x, y, radius)) or ('ring', (x, y, radius_x, radius_y)), px."""


PERIODS = {
    "made_ground": (26, 13),
    "topsoil": (14, 9),
    "clay": (24, 9),
    "silt": (24, 8),
    "sand": (11, 9),
    "gravel": (22, 13),
    "peat": (20, 11),
    "rock": (30, 12),
}
"""Spacing of the strokes across and down, px."""


@lru_cache(maxsize=64)
def strokes(pattern: str, width: int, height: int) -> tuple[Stroke, ...]:
    """The strokes of a pattern over an area of ``width`` by ``height`` px; always the same ones."""
    draw = {
        "made_ground": _crosses,
        "topsoil": _ticks,
        "clay": _dashes,
        "silt": _dash_dots,
        "sand": _dots,
        "gravel": _stones,
        "peat": _tufts,
        "rock": _bricks,
    }[pattern]
    return tuple(draw(width, height, Random(pattern)))


def _grid(
    width: int, height: int, dx: float, dy: float, random: Random, jitter: float
) -> Iterator[tuple[float, float]]:
    rows = int(height / dy) + 1
    for j in range(rows):
        shift = dx / 2 if j % 2 else 0.0
        for i in range(int(width / dx) + 1):
            yield (
                i * dx + shift + random.uniform(-jitter, jitter) * dx,
                (j + 0.5) * dy + random.uniform(-jitter, jitter) * dy,
            )


def _crosses(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["made_ground"], random, 0.3):
        yield "line", (x - 2.5, y - 2.5, x + 2.5, y + 2.5)
        yield "line", (x - 2.5, y + 2.5, x + 2.5, y - 2.5)


def _ticks(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["topsoil"], random, 0.25):
        yield "line", (x, y, x, y - 4)


def _dashes(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["clay"], random, 0.12):
        yield "line", (x, y, x + 13, y)


def _dash_dots(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["silt"], random, 0.12):
        yield "line", (x, y, x + 9, y)
        yield "dot", (x + 15, y, 0.9)


def _dots(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["sand"], random, 0.4):
        yield "dot", (x, y, 0.8)


def _stones(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["gravel"], random, 0.3):
        r = random.uniform(2.0, 4.2)
        yield "ring", (x, y, r * 1.3, r * 0.8)


def _tufts(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for x, y in _grid(width, height, *PERIODS["peat"], random, 0.2):
        for lean in (-3, 0, 3):
            yield "line", (x, y, x + lean, y - 4)


def _bricks(width: int, height: int, random: Random) -> Iterator[Stroke]:
    for j in range(int(height / 12) + 1):
        y = j * 12.0
        yield "line", (0, y, width, y)
        for i in range(int(width / 30) + 2):
            x = i * 30.0 + (15 if j % 2 else 0)
            yield "line", (x, y, x, y + 12)
