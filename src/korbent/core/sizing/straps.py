"""A strap grown to what its own checks ask for: only what fails grows, bars and links before the beam."""

from math import ceil
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
from korbent.core.model.foundations import Rib, Strap
from korbent.core.straps.checks import strap_checks
from korbent.core.units import length_text
from korbent.core.working import SILENT

ROUNDS = 60
LINKS = {
    "metric": (0.008, 0.010, 0.012, 0.016),
    "us": (0.009525, 0.0127, 0.015875),
    "as": (0.010, 0.012, 0.016),
}
"""Bars of links, m: #3 to #5 in US units."""
STEP = {"metric": 0.05, "us": 2 * 0.0254}
"""Raster on which depth grows, m."""


Beam = TypeVar("Beam", Strap, Rib)


def grown(project: Project, strap: Strap) -> tuple[Strap, tuple[str, ...]]:
    """The strap with more bars, links or depth where its own checks fail, and what was changed; as it is where all hold.

    Raises:
        ValueError: where its checks cannot be done, or no growth makes them hold.
    """
    now = strap
    for _ in range(ROUNDS):
        failing = _failing(project, now)
        if not failing:
            return now, _changes(project, strap, now)
        check, ratio = failing[0]
        more = _more(project, now, check, ratio)
        if more is None:
            break
        now = more
    raise ValueError(f"{strap.name}: no bars, links or depth up to three times the present one are enough")


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


def _more(project: Project, strap: Strap, check: str, ratio: float) -> Strap | None:
    """The next step for a check that fails."""
    if check in ("strap-top", "strap-bottom"):
        face = check.removeprefix("strap-")
        bars = more_bars(project, strap, getattr(strap, face), ratio)
        if bars is not None:
            return strap.replaced(**{face: bars})
    else:
        links = _more_links(project, strap, check, ratio)
        if links is not None:
            return links
    units = "us" if project.units == "us" else "metric"
    depth = round(strap.depth + STEP[units], 6)
    return (
        strap.replaced(depth=depth)
        if depth <= 3 * next(s for s in project.straps if s.name == strap.name).depth
        else None
    )


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
    """Links nearer together, then thicker, then of more legs; None where the struts are what fails or nothing is left."""
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
            said.append(f"{name} {words(after, project.units == 'us') or 'none'}")
    if old.legs != new.legs:
        said.append(f"{new.legs} legs")
    if old.depth != new.depth:
        said.append(f"depth {length_text(new.depth, units)}")
    return tuple(said)
