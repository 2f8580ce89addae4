"""Which kind of foundation for some columns: pads, one base, a strap or a raft, each sized until its checks hold, side
by side."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import numpy as np
from pydantic import ValidationError
from shapely import MultiPoint

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.choose import DIAMETERS, region_of
from korbent.core.evaluate import evaluate
from korbent.core.evaluate.road import evaluate_pad
from korbent.core.model import Bars, Pad, Project
from korbent.core.model.reinforcement import FACES
from korbent.core.plan.site import pinned_to_boundary
from korbent.core.rafts.dimensions import changed
from korbent.core.rafts.dimensions import value_of as dimension
from korbent.core.rafts.laying import laid
from korbent.core.sizing.cost import Objective
from korbent.core.sizing.figures import amounts_of, most, worst
from korbent.core.sizing.first_size import combined, extent_of, placed, raft_under, without_bases
from korbent.core.sizing.propose import proposal, taken
from korbent.core.sizing.ribs import grown_ribs
from korbent.core.sizing.straps import grown
from korbent.core.straps.tying import tied_up
from korbent.words import say

THIN = 0.25
"""Thickness of the plate of a ribbed raft, to begin with, m."""
KINDS = ("pads", "one base", "strap", "raft", "ribbed raft")
ROUNDS = 30
"""Steps by which a base grows, at most."""
THICKER, WIDER = 0.1, 0.2
"""m."""
LONG = 2.5
"""So many times as long as wide a base at a boundary becomes before it grows both ways."""
ASK_FOR_AREA = {
    "presumed-pressure",
    "raft-pressure",
    "resistance-drained",
    "resistance-undrained",
    "resistance-bounds-drained",
    "resistance-bounds-undrained",
    "eccentricity",
    "contact-share",
    "overturning",
    "uplift",
    "sliding-drained",
    "sliding-undrained",
}
"""Checks that a wider base helps."""
FREE = dict.fromkeys(FACES, "free")


@dataclass(frozen=True)
class Option:
    """One kind of foundation under some columns. Lengths in m, areas in m2, steel in kg, settlement in mm, slope in per
    mille."""

    kind: str
    project: Project | None
    """With it in the place of what carries the columns now; None where it is not possible."""
    names: tuple[str, ...] = ()
    """Of its bases."""
    area: float = 0.0
    footprint: float = 0.0
    """Area within the outer faces of the columns; 0 where they stand in a line."""
    concrete: float = 0.0
    steel: float = 0.0
    cost: float = 0.0
    settlement: float | None = None
    slope: float | None = None
    worst: CheckResult | None = None
    why_not: str = ""

    @property
    def holds(self) -> bool:
        """Every check of its bases holds."""
        return self.worst is not None and self.worst.state.is_good


def options(
    project: Project,
    columns: tuple[str, ...],
    objective: Objective = "cost",
    told: Callable[[Option], None] = lambda _: None,
    stop: Callable[[], bool] = lambda: False,
) -> tuple[Option, ...]:
    """The kinds for these columns, each told as it comes; ``stop`` ends it with those that there are.

    Raises:
        ValueError: when no column is named, or another column would lose its base.
    """
    if not columns:
        raise ValueError(say("mark columns in the plan: for them the kinds are compared"))
    bare = without_bases(project, columns)
    found: list[Option] = []
    pads: Project | None = None
    for kind in KINDS:
        if stop():
            break
        try:
            if kind == "pads":
                pads = _pads(bare, columns, objective)
                variant: Project = pads
            elif kind == "one base":
                variant = _sized(*_one(combined(project, columns)), objective)
            elif kind == "strap":
                variant = _strap(pads or bare, columns)
            elif kind == "raft":
                variant = _raft(project, columns)
            else:
                variant = _ribbed(project, columns)
            option = _looked_at(kind, variant, columns)
        except ValidationError as error:
            option = Option(kind, None, why_not=_first(error))
        except ValueError as error:
            option = Option(kind, None, why_not=str(error))
        found.append(option)
        told(option)
    return tuple(found)


def _first(error: ValidationError) -> str:
    """The first of what is wrong, without the place in the project, which is none that the user has."""
    text = str(error.errors()[0]["msg"]).removeprefix("Value error, ").splitlines()[0]
    place, colon, rest = text.partition(": ")
    return rest if colon and "[" in place else text


def _carrying(project: Project, columns: Iterable[str]) -> tuple[Pad, ...]:
    return tuple(p for p in project.pads if set(p.carries) & set(columns))


def _free(project: Project, pads: Iterable[Pad]) -> Project:
    """With bars of these bases that a proposal may choose; where several columns stand on one also above."""
    new = {}
    for pad in pads:
        own = pad.reinforcement
        top = {f"top_{axis}": own.bars(f"bottom_{axis}") for axis in "xy"} if pad.further else {}
        new[pad.name] = pad.replaced(reinforcement=own.replaced(pins=FREE, **top))
    return project.replaced(pads=tuple(new.get(p.name, p) for p in project.pads))


def _sized(project: Project, pads: Iterable[Pad], objective: Objective) -> Project:
    """Each of the bases as small as its checks allow; as it is where nothing within its ranges holds."""
    names = [p.name for p in pads]
    project = _within_site(_free(project, (project.pad(name) for name in names)), names)
    for name in names:
        project = taken(project, [proposal(project, [project.pad(name)], objective)])
    return _until_it_holds(project, names)


def _within_site(project: Project, names: Iterable[str]) -> Project:
    """Bases that cross a boundary are moved back behind it, and held there."""
    for name in names:
        pad = project.pad(name)
        if any(c.check.id == "site" and not c.state.is_good for c in evaluate_pad(project, pad).checks):
            held = pinned_to_boundary(project, pad, project.settings_of(pad).clearance)
            if held is not None:
                project = project.replaced(pads=tuple(held[0] if p.name == name else p for p in project.pads))
    return project


def _pads(bare: Project, columns: tuple[str, ...], objective: Objective) -> Project:
    project, first = placed(bare, columns)
    return _sized(project, (f.pad for f in first), objective)


def _one(found: tuple[Project, object]) -> tuple[Project, tuple[Pad, ...]]:
    """The project and its newest base."""
    return found[0], found[0].pads[-1:]


def _strap(pads: Project, columns: tuple[str, ...]) -> Project:
    """The pads of two columns tied, by that one at the boundary with which the worst check is best."""
    if len(columns) != 2:
        raise ValueError(say("a strap ties the bases of two columns: mark two"))
    best: tuple[float, Project] | None = None
    why = ""
    two = _carrying(pads, columns)
    if len(two) != 2:
        raise ValueError(say("a strap ties two bases: these columns stand on one"))
    for edge, inner in (two, two[::-1]):
        try:
            project = tied_and_grown(pads, edge, inner)
        except ValueError as error:
            why = str(error)
            continue
        bad = worst(c for p in _carrying(project, columns) for c in evaluate_pad(project, p).checks)
        score = np.inf if bad is None or bad.ratio is None else bad.ratio
        if best is None or score < best[0]:
            best = (score, project)
    if best is None:
        raise ValueError(why)
    return best[1]


def tied_and_grown(project: Project, edge: Pad, inner: Pad) -> Project:
    """Two bases tied by a new strap, all three grown until their checks hold or nothing that grows helps.

    Raises:
        ValueError: when these bases cannot be tied, or no strap is strong enough.
    """
    project, _ = tied_up(project, edge, inner)
    for _ in range(2):  # the bases grow by what the strap brings, and then the strap
        project = _until_it_holds(project, (edge.name, inner.name))
        strap, _ = grown(project, project.straps[-1])
        project = project.replaced(straps=(*project.straps[:-1], strap))
    return project


def _raft(project: Project, columns: tuple[str, ...]) -> Project:
    """A raft with a first size, grown."""
    project, _ = raft_under(project, columns)
    name = project.pads[-1].name
    return _until_it_holds(_within_site(project, (name,)), (name,))


def _ribbed(project: Project, columns: tuple[str, ...]) -> Project:
    """A thin raft with ribs on the lines of its columns, grown."""
    project, _ = raft_under(project, columns)
    name = project.pads[-1].name
    project = _within_site(project, (name,))
    pad = project.pad(name)
    thin = pad.resized(thickness=min(THIN, pad.thickness))
    project = project.replaced(pads=tuple(thin if p is pad else p for p in project.pads))
    project, _ = laid(project, thin)
    for _ in range(ROUNDS):
        pad = project.pad(name)
        failing = _failing(project, pad)
        if not failing:
            break
        more = _grown(project, pad, [c for c in failing if not c.check.id.startswith("rib-")])
        if more is None:
            if not any(c.check.id.startswith("rib-") for c in failing):
                break
            better, _ = grown_ribs(project, pad)
            if better is not project:
                project = better
                continue
            more = changed(project, pad, "rib_depth", dimension(project, pad, "rib_depth") + THICKER)
        project = project.replaced(pads=tuple(more if p.name == name else p for p in project.pads))
    return project


def _failing(project: Project, pad: Pad) -> list[CheckResult]:
    """What growth may help: no size makes a check possible that cannot be done."""
    return [c for c in evaluate_pad(project, pad).checks if c.state in (State.FAILS, State.UNSTABLE)]


def _until_it_holds(project: Project, names: Iterable[str]) -> Project:
    """Bases grow until their checks hold, or nothing that grows helps: wider, thicker, more bars."""
    for name in names:
        for _ in range(ROUNDS):
            pad = project.pad(name)
            failing = _failing(project, pad)
            more = _grown(project, pad, failing)
            if more is None:
                break
            project = project.replaced(pads=tuple(more if p.name == name else p for p in project.pads))
    return project


def _grown(project: Project, pad: Pad, failing: list[CheckResult]) -> Pad | None:
    checks = {c.check.id for c in failing}
    if checks & ASK_FOR_AREA:
        return _wider(pad)
    if checks & {"punching", "punching-face", "shear-x", "shear-y"}:
        return _thicker(pad)
    faces = [f for f in FACES if f.replace("_", "-") in checks]
    faces += [f for f in FACES if {f"minimum-{f[-1]}", f"cracks-{f[-1]}"} & checks and f not in faces]
    if {f"anchorage-{axis}" for axis in "xy"} & checks:
        return _wider(pad)
    diameters = DIAMETERS[region_of(project)]
    changes: dict[str, Bars] = {}
    for face in faces:
        bars = pad.reinforcement.bars(face)
        thicker = [oe for oe in diameters if bars and oe > bars.diameter + 1e-9]
        if bars and thicker:
            changes[face] = bars.replaced(diameter=thicker[0])
    if changes:
        return pad.replaced(reinforcement=pad.reinforcement.replaced(**changes))
    return _thicker(pad) if faces else None


def _wider(pad: Pad) -> Pad:
    """By a step along both axes; one that is held at a boundary first along it, as the other way its column would only
    stand further off."""
    more_x = more_y = WIDER
    if pad.hold_x != "middle" and pad.hold_y == "middle" and pad.length < LONG * pad.width:
        more_x = 0.0
    elif pad.hold_y != "middle" and pad.hold_x == "middle" and pad.width < LONG * pad.length:
        more_y = 0.0
    return pad.resized(width=round(pad.width + more_x, 3), length=round(pad.length + more_y, 3))


def _thicker(pad: Pad) -> Pad:
    """By a step, its top where it is."""
    level = pad.level - THICKER if pad.held == "underside" else pad.level
    return pad.resized(thickness=round(pad.thickness + THICKER, 3), level=round(level, 6))


def _looked_at(kind: str, project: Project, columns: tuple[str, ...]) -> Option:
    """What it comes to."""
    pads = _carrying(project, columns)
    results = evaluate(project)
    checks = [c for p in pads for c in results.pad(p.name).checks]
    tying = [s for s in project.straps if {s.edge, s.inner} & {p.name for p in pads}]
    found = amounts_of(project, pads, tying)
    return Option(
        kind,
        project,
        tuple(p.name for p in pads),
        found.area,
        footprint_of(project, columns),
        found.concrete,
        found.steel,
        found.cost,
        most(checks, "settlement"),
        most(checks, "slope", "raft-slope"),
        worst(checks),
    )


def footprint_of(project: Project, columns: tuple[str, ...]) -> float:
    """Area of the hull of the columns and walls, m2; 0 where fewer than three stand, or all in a line."""
    boxes = [extent_of(project.load_point(name)) for name in columns]
    hull = MultiPoint([(x, y) for x0, x1, y0, y1 in boxes for x in (x0, x1) for y in (y0, y1)]).convex_hull
    middles = MultiPoint([(x0 + x1, y0 + y1) for x0, x1, y0, y1 in boxes]).convex_hull
    return float(hull.area) if middles.area > 1e-6 else 0.0
