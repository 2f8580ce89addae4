"""A strap grown to what its own checks ask for: only what fails grows, bars and links before the beam."""

from math import ceil, floor
from typing import TypeVar

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT, Outcome
from korbent.core.concrete.bar_text import words
from korbent.core.concrete.choose import DIAMETERS, SPACINGS, region_of
from korbent.core.concrete.schedule import positions
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.geometry import table
from korbent.core.model import Bars, Project
from korbent.core.model.foundations import Strap
from korbent.core.model.plate import Rib
from korbent.core.model.site import Range
from korbent.core.straps.checks import strap_checks
from korbent.core.units import length_text
from korbent.core.working import SILENT
from korbent.words import say

ROUNDS = 60
LINKS = {
    "metric": (0.008, 0.010, 0.012, 0.016),
    "us": (0.009525, 0.0127, 0.015875),
    "as": (0.010, 0.012, 0.016),
}
"""Bars of links, m: #3 to #5 in US units."""
INCREMENT = {"metric": 0.05, "us": 2 * 0.0254}
"""Raster on which sizes grow, m."""


Beam = TypeVar("Beam", Strap, Rib)


def grown(project: Project, strap: Strap) -> tuple[Strap, tuple[str, ...]]:
    """The strap with more bars, links, depth or (where it has a range) width where its own checks fail, and what was
    changed; as it is where all hold. A size below its range is raised to it first.

    Raises:
        ValueError: where its checks cannot be done, or no growth makes them hold.
    """
    limits = {name: range_of(project, strap, name) for name in ("depth", "width")}
    raised = {name: low for name, (low, _, _) in limits.items() if getattr(strap, name) < low - 1e-9}
    now = strap.replaced(**raised) if raised else strap
    for _ in range(ROUNDS):
        failing = _failing(project, now)
        if not failing:
            return now, _changes(project, strap, now)
        check, ratio = failing[0]
        more = _more(project, now, check, ratio, limits)
        if more is None:
            break
        now = more
    units = project.showing
    sizes = [
        say("{name} up to {length}", name=name, length=length_text(high, units))
        for name, (low, high, _) in limits.items()
        if high > low
    ]
    tried = ", ".join(["bars", "links", *sizes])
    raise ValueError(
        say("{strap}: no {tried} are enough", strap=strap.name, tried=tried)
        if sizes
        else say("{strap}: no {tried} are enough, and its sizes are pinned", strap=strap.name, tried=tried)
    )


Limits = dict[str, tuple[float, float, float]]


def range_of(project: Project, strap: Strap, name: str) -> tuple[float, float, float]:
    """(least, greatest, raster) of the width or depth of a strap when it grows, m. Without a range the depth goes to
    three times the present one, and the width stays."""
    now: float = getattr(strap, name)
    given = strap.ranges.get(name) or Range(pinned=name == "width")
    increment = given.step or INCREMENT["us" if project.units == "us" else "metric"]
    if given.pinned:
        return now, now, increment
    low = max(given.low if given.low is not None else now, 0.05)
    return low, max(given.high if given.high is not None else MOST * max(now, low), low), increment


MOST = 3.0
"""Times the present size: as far as a size goes that has no upper limit."""


def _failing(project: Project, strap: Strap) -> list[tuple[str, float]]:
    """(check, ratio) of the checks of the strap that fail, the worst first; inf where there is none."""
    straps = tuple(strap if s.name == strap.name else s for s in project.straps)
    project = project.replaced(straps=straps)
    edge = project.pad(strap.edge)
    found = []
    for outcome in strap_checks(bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge)), SILENT):
        why = "".join(outcome.why_not)
        if why:
            raise ValueError(f"{strap.name}: {why}")
        found.append((outcome.check.id, _worst(outcome)))
    return sorted((one for one in found if one[1] > LIMIT), key=lambda one: -one[1])


def _worst(outcome: Outcome) -> float:
    return float("inf") if outcome.bare.any() else float(outcome.ratio.max())


def _more(project: Project, strap: Strap, check: str, ratio: float, limits: Limits) -> Strap | None:
    """The next increment for a check that fails: bars or links, then depth, then width."""
    if check in ("strap-top", "strap-bottom"):
        face = check.removeprefix("strap-")
        bars = more_bars(project, strap, getattr(strap, face), ratio)
        if bars is not None:
            return strap.replaced(**{face: bars})
    else:
        links = _more_links(project, strap, check, ratio)
        if links is not None:
            return links
    for name, (_, high, increment) in limits.items():
        now = getattr(strap, name)
        more = now + increment
        if name in strap.ranges and strap.ranges[name].step:  # on its raster
            more = increment * (floor(now / increment + 1e-6) + 1)
        if more <= high + 1e-9:
            return strap.replaced(**{name: round(more, 6)})
    return None


def more_bars(project: Project, strap: Strap | Rib, bars: Bars, ratio: float) -> Bars | None:
    """More bars of this or the next diameters, as many as lie in one layer of a strap or rib; None where none do."""
    own = strap.cover if isinstance(strap, Strap) else None
    cover = own if own is not None else project.settings.concrete_cover
    count = bars.number or len(positions(strap.width, cover, bars))
    asked = ratio * count * bars.diameter**2
    standard = standard_of(project.standards.concrete, project.settings)
    assert standard is not None  # its checks could be done
    link = strap.links.diameter if strap.links else 0.0
    for diameter in DIAMETERS[region_of(project)]:
        if diameter < bars.diameter - 1e-9:
            continue
        number = max(ceil(asked / diameter**2 - 1e-9), 2)
        gap = (strap.width - 2 * (cover + link) - number * diameter) / (number - 1)
        if gap >= float(standard.least_gap(np.array(diameter), SILENT)) - 1e-9:
            return Bars(diameter=diameter, number=number)
    return None


def _more_links(project: Project, strap: Strap, check: str, ratio: float) -> Strap | None:
    """Links nearer together, then thicker, then of more legs; None where the struts are what fails or nothing is
    left."""
    for changed in links_to_try(project, strap):
        if strap.links is None:
            return changed
        then = dict(_failing(project, changed)).get(check, 0.0)
        if then < ratio - 1e-6:
            return changed
    return None


def links_to_try(project: Project, strap: Beam) -> list[Beam]:
    """The beam with links nearer together, thicker ones, or one leg more."""
    region = region_of(project)
    own = LINKS[region]
    if strap.links is None or strap.links.spacing is None:
        return [strap.replaced(links=Bars(diameter=own[1], spacing=SPACINGS[region][4]))]
    nearer = [s for s in SPACINGS[region] if s < strap.links.spacing - 1e-9]
    thicker = [oe for oe in own if oe > strap.links.diameter + 1e-9]
    tries = []
    if nearer:
        tries.append(strap.replaced(links=strap.links.replaced(spacing=nearer[-1])))
    if thicker:
        tries.append(strap.replaced(links=strap.links.replaced(diameter=thicker[0])))
    if strap.legs < 6:
        tries.append(strap.replaced(legs=strap.legs + 1))
    return tries


def _changes(project: Project, old: Strap, new: Strap) -> tuple[str, ...]:
    """What is not as it was, in words."""
    units = project.showing
    said = []
    for name in ("top", "bottom", "links"):
        before, after = getattr(old, name), getattr(new, name)
        if before != after:
            said.append(f"{name} {words(after, project.units == 'us') or say('none')}")
    if old.legs != new.legs:
        said.append(say("{legs} legs", legs=new.legs))
    for name in ("depth", "width"):
        if getattr(old, name) != getattr(new, name):
            said.append(f"{name} {length_text(getattr(new, name), units)}")
    return tuple(said)
