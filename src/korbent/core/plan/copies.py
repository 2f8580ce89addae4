"""Bases copied with what stands on them: moved to another place, mirrored in a line, or laid out in rows."""

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal, TypeVar

from korbent.core.model.actions import Load, LoadPoint
from korbent.core.model.foundations import Opening, Pad
from korbent.core.model.plate import Plate, Region, Rib
from korbent.core.model.project import Project
from korbent.words import say

Some = TypeVar("Some", bound=Region)
SWAPPED = {"-x": "+x", "+x": "-x", "-y": "+y", "+y": "-y"}


@dataclass(frozen=True)
class Motion:
    """Where copies go: moved by (dx, dy), m; or mirrored in the line ``x = at`` or ``y = at``."""

    dx: float = 0.0
    dy: float = 0.0
    mirror: Literal["", "x", "y"] = ""
    at: float = 0.0

    def __call__(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the plan goes."""
        if self.mirror == "x":
            x = 2 * self.at - x
        elif self.mirror == "y":
            y = 2 * self.at - y
        return round(x + self.dx, 9), round(y + self.dy, 9)


def rows_of(count_x: int, apart_x: float, count_y: int, apart_y: float) -> tuple[Motion, ...]:
    """The motions of an array, without the place where the first one is.

    Raises:
        ValueError: when there is nothing to lay out, or copies would lie on each other.
    """
    if count_x < 1 or count_y < 1 or count_x * count_y < 2:
        raise ValueError(say("an array has at least two places: so many along x times so many along y"))
    if count_x * count_y > 2000:
        raise ValueError(say("{count_x} places are more than a plan holds: at most 2000", count_x=count_x * count_y))
    for count, apart, axis in ((count_x, apart_x, "x"), (count_y, apart_y, "y")):
        if count > 1 and abs(apart) < 1e-6:
            raise ValueError(say("the spacing along {axis} is nothing: the copies would lie on each other", axis=axis))
    return tuple(Motion(i * apart_x, j * apart_y) for j in range(count_y) for i in range(count_x) if i or j)


def copied(project: Project, names: Iterable[str], motions: Sequence[Motion]) -> tuple[Project, tuple[str, ...]]:
    """The project with copies of some bases, their columns with all loads, and straps that tie two of them; and the
    names of the new bases.

    Copies are free: not frozen, nothing accepted, values in place of expressions, loads not imported.

    Raises:
        ValueError: when no base is named.
        pydantic.ValidationError: when a copy is not possible there.
    """
    pads = [project.pad(name) for name in dict.fromkeys(names)]
    if not pads:
        raise ValueError(say("choose a base first"))
    points = list(project.actions.load_points)
    new_pads, new_straps = list(project.pads), list(project.straps)
    made: list[str] = []
    taken = {p.name for p in points}, {p.name for p in new_pads}, {s.name for s in new_straps}
    for motion in motions:
        called: dict[str, str] = {}
        for pad in pads:
            for name in pad.carries:
                if name not in called:
                    called[name] = _free(name, taken[0])
                    points.append(_point(project.load_point(name), called[name], motion))
        of_pads: dict[str, str] = {}
        for pad in pads:
            of_pads[pad.name] = _free(pad.name, taken[1])
            new_pads.append(_pad(pad, of_pads[pad.name], called, motion))
            made.append(of_pads[pad.name])
        for strap in project.straps:
            if strap.edge in of_pads and strap.inner in of_pads:
                new_straps.append(
                    strap.replaced(
                        name=_free(strap.name, taken[2]), edge=of_pads[strap.edge], inner=of_pads[strap.inner]
                    )
                )
    actions = project.actions.replaced(load_points=tuple(points))
    return project.replaced(actions=actions, pads=tuple(new_pads), straps=tuple(new_straps)), tuple(made)


def _free(name: str, taken: set[str]) -> str:
    """The next name of its kind that is not taken: P3, P4, …"""
    found = re.fullmatch(r"(.*?)(\d+)", name)
    stem, number = (found[1], int(found[2])) if found else (name, 1)
    while f"{stem}{number}" in taken or (not found and number == 1):
        number += 1
    taken.add(f"{stem}{number}")
    return f"{stem}{number}"


def _point(point: LoadPoint, name: str, motion: Motion) -> LoadPoint:
    x, y = motion(point.x, point.y)
    turn = -point.rotation if motion.mirror else point.rotation
    loads = {case: _load(load, motion.mirror) for case, load in point.loads.items()}
    return point.replaced(name=name, x=x, y=y, rotation=turn, loads=loads, imported={}, expressions={})


def _load(load: Load, mirror: str) -> Load:
    """A load in a mirror: what points to it turns round, and so do moments about axes along it."""
    if mirror == "x":
        return load.replaced(Hx=-load.Hx, My=-load.My, Mz=-load.Mz)
    if mirror == "y":
        return load.replaced(Hy=-load.Hy, Mx=-load.Mx, Mz=-load.Mz)
    return load


def _pad(pad: Pad, name: str, called: dict[str, str], motion: Motion) -> Pad:
    changes = {
        "name": name,
        "load_point": called[pad.load_point],
        "further": tuple(called[n] for n in pad.further),
        "pedestals": {called[n]: one for n, one in pad.pedestals.items()},
        "frozen": "",
        "accepted": (),
        "expressions": {},
    }
    return pad.replaced(**changes | (_in_mirror(pad, motion.mirror) if motion.mirror else {}))


def _in_mirror(pad: Pad, mirror: str) -> dict[str, object]:
    """What changes of a base whose own axis across the mirror turns round; its bars stay as they are."""
    along = mirror == "x"  # the base's own x axis turns round
    flip: Callable[[float, float], tuple[float, float]] = (lambda x, y: (-x, y)) if along else (lambda x, y: (x, -y))
    found: dict[str, object] = {"rotation": -pad.rotation}
    if along:
        found |= {"offset_x": -pad.offset_x, "hold_x": SWAPPED.get(pad.hold_x, pad.hold_x)}
        if pad.shape == "trapezoid":
            found |= {"length": pad.far_length, "far_length": pad.length}
    else:
        found |= {"offset_y": -pad.offset_y, "hold_y": SWAPPED.get(pad.hold_y, pad.hold_y)}
    if pad.outline:
        found["outline"] = tuple(flip(x, y) for x, y in reversed(pad.outline))
    found["openings"] = tuple(_opening(o, flip) for o in pad.openings)
    if pad.plate is not None:
        found["plate"] = _plate(pad.plate, along)
    return found


def _opening(opening: Opening, flip: Callable[[float, float], tuple[float, float]]) -> Opening:
    x, y = flip(opening.x, opening.y)
    return opening.replaced(x=x, y=y)


def _plate(plate: Plate, along: bool) -> Plate:
    def region(one: Some) -> Some:
        if along:
            return one.replaced(x_from=-one.x_to, x_to=-one.x_from)
        return one.replaced(y_from=-one.y_to, y_to=-one.y_from)

    def rib(one: Rib) -> Rib:
        across = (one.axis == "y") == along  # it runs along the mirror
        if across:
            return one.replaced(at=-one.at, expressions={})
        ends = {
            "begin": None if one.end is None else -one.end,
            "end": None if one.begin is None else -one.begin,
        }
        return one.replaced(**ends, expressions={})

    return plate.replaced(
        zones=tuple(map(region, plate.zones)),
        openings=tuple(map(region, plate.openings)),
        thickenings=tuple(map(region, plate.thickenings)),
        lower=tuple(map(region, plate.lower)),
        added=tuple(map(region, plate.added)),
        loads=tuple(map(region, plate.loads)),
        ribs=tuple(map(rib, plate.ribs)),
    )
