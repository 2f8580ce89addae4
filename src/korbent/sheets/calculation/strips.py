"""Strips: bases under walls and long ones (where there are none, the one whose bearing governs) between bounds, and on
their way to collapse."""

from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from korbent.core.bearing.as_strip import AsStrip, as_strip, exact_of
from korbent.core.bearing.by_bounds import not_a_strip
from korbent.core.bench import bench_for
from korbent.core.evaluate import Results
from korbent.core.explain.collapse import SeenCurve, base_of, seen
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.plasticity.section import Section
from korbent.core.units import show, shown_unit
from korbent.drawing.collapse import beside_of, collapse_chart, collapse_said
from korbent.drawing.strip_chart import Found, outside, strip_chart, strip_said
from korbent.sheets.calculation.bases import worst_member
from korbent.sheets.calculation.blocks import Block, Entry, Figure, Heading, Para, Table
from korbent.sheets.types import Kind, kinds_built
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.plasticity.way import Base

BOUNDS, CURVE = 1200, 600
"""Triangles of a bound and of a curve."""
PROMISE = say(
    "The collapse load of a strip of unit length lies between its bounds, for associated flow, strength constant or linear within each triangle and "
    "hydrostatic water; the lower one holds for the box that was looked at. They are bounds of the strip, not of a base with ends."
)


def strips(project: Project, results: Results, by_type: bool) -> list[Block]:
    """The chapter; nothing where there are no bases."""
    chosen = _chosen(project, results, by_type)
    if not chosen:
        return []
    found: list[Block] = [Heading(say("Strips by bounds and to collapse"), 1, "strips"), Para(PROMISE, small=True)]
    for pad in chosen:
        ways = {drainage: as_strip(project, pad, drainage) for drainage in ("drained", "undrained")}
        some = {d: s for d, s in ways.items() if isinstance(s, AsStrip)}
        for drainage, strip in some.items():
            found += _one(project, pad, drainage, strip, results)
        if not some:
            found += [
                Heading(pad.name, 2, f"strip-{pad.name}"),
                Para(say("Not looked at: {ways}.", ways=ways["drained"])),
            ]
    return found


def _chosen(project: Project, results: Results, by_type: bool) -> list[Pad]:
    kinds = kinds_built(project) if by_type else tuple(Kind(p.name, (p,)) for p in project.pads)
    own = [pad for kind in kinds if (pad := worst_member(kind, results)).kind != "raft"]
    long = [p for p in own if not not_a_strip(bench_for(project, (p,), np.zeros(1, dtype=int), table(p)))]
    if long or not own:
        return long

    def bearing(pad: Pad) -> float:
        worst = results.pad(pad.name).worst_in("bearing")
        return (worst.ratio or 0.0) if worst else 0.0

    return [max(own, key=bearing)]


def _one(project: Project, pad: Pad, drainage: str, strip: AsStrip, results: Results) -> list[Block]:
    units = project.showing
    kpa = shown_unit("kPa", units)
    low, high = (_bound(strip.section, side, strip.water) for side in ("lower", "upper"))
    found = Found(low, high, exact_of(strip))
    adopted = project.settings_of(pad).bearing_method
    rows: list[tuple[Entry, ...]] = [
        (say("from below"), _shown(found.lower, project), ""),
        (say("from above"), _shown(found.upper, project), ""),
        (say("exact"), _shown(found.exact, project), ""),
        *((name, show(value, "kPa", units), outside(value, found)) for name, value in strip.methods),
        (
            say("V over the width") if not strip.central else say("N over the effective area"),
            show(strip.pressure, "kPa", units),
            say("combination {combination}", combination=strip.combination),
        ),
    ]
    blocks: list[Block] = [
        Heading(f"{pad.name}, {label(drainage)}", 2, f"strip-{pad.name}-{drainage}"),
        Para(strip_said(strip, units), small=True),
        Figure(strip_chart(strip, found, adopted, units, 2.9), 58, say("Bounds, and the methods as strips")),
        Table(("", say("ultimate pressure, {kpa}", kpa=kpa), ""), tuple(rows), (70, 40, 64), (1,), tight=True),
    ]
    base = base_of(strip, "rigid strip")
    curve = base if isinstance(base, str) else _curve(base, strip.water, round(strip.pressure - strip.water, 6))
    if isinstance(curve, str):
        return [*blocks, Para(say("No curve to collapse: {curve}.", curve=curve))]
    bracket = (found.lower, found.upper) if found.lower is not None and found.upper is not None else None
    beside = beside_of(strip, results.pad(pad.name).checks, bracket)
    mm = shown_unit("mm", units)
    points = tuple((show(1000 * p.settlement, "mm", units), show(p.pressure, "kPa", units)) for p in curve.points)
    return [
        *blocks,
        Figure(
            collapse_chart(strip, curve, beside, -1, strip.section.B, "", units, 2.6),
            64,
            say("Settlement over pressure up to collapse, rigid strip"),
        ),
        Para(collapse_said(strip, "rigid strip", units, clicks=False), small=True),
        Table((say("settlement, {mm}", mm=mm), say("pressure, {kpa}", kpa=kpa)), points, (40, 40), (0, 1), tight=True),
    ]


def _shown(value: float | None, project: Project) -> str:
    return "–" if value is None else show(value, "kPa", project.showing, 4)


@lru_cache(maxsize=64)
def _bound(section: Section, side: str, water: float) -> float | None:
    from korbent.core.plasticity.bounds import NotSolvedError, bound  # loaded only where something is solved

    try:
        return bound(section, side, BOUNDS).pressure + water  # type: ignore[arg-type]
    except (NotSolvedError, ValueError):
        return None


@lru_cache(maxsize=64)
def _curve(base: "Base", water: float, working: float) -> SeenCurve | str:
    from korbent.core.plasticity.path import curve  # loaded only where something is solved

    try:
        return seen(curve(base, CURVE, (working,)), water)
    except ValueError as error:
        return str(error)
