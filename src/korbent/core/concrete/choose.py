"""Which bars would do: diameters against spacings, and fabrics, each with its worst ratio, its weight, and why not."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for, benches_for, shared_key
from korbent.core.checks import LIMIT, Outcome, governing_by_candidate
from korbent.core.concrete.checks import concrete_checks
from korbent.core.concrete.cracks import crack_checks
from korbent.core.concrete.fabric import FABRICS, INCH
from korbent.core.concrete.schedule import weight_of
from korbent.core.concrete.standards.registry import rules_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.labels import label
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import Bars, Face
from korbent.core.working import SILENT, Array
from korbent.words import say

DIAMETERS = {
    "metric": (0.010, 0.012, 0.016, 0.020, 0.025, 0.032),
    "us": tuple(n / 8 * INCH for n in (4, 5, 6, 7, 8)),
    "as": (0.012, 0.016, 0.020, 0.024, 0.028),
}
"""Bars of a region, m: of EN 10080, #4 to #8, and N12 to N28."""
SPACINGS = {
    "metric": (0.100, 0.125, 0.150, 0.175, 0.200, 0.250, 0.300),
    "us": tuple(n * INCH for n in (4, 5, 6, 8, 9, 10, 12)),
    "as": (0.100, 0.125, 0.150, 0.175, 0.200, 0.250, 0.300),
}
FACES_OF: dict[str, tuple[Face, ...]] = {
    "bottom x": ("bottom_x",),
    "bottom y": ("bottom_y",),
    "bottom x and y": ("bottom_x", "bottom_y"),
    "top x": ("top_x",),
    "top y": ("top_y",),
    "top x and y": ("top_x", "top_y"),
}
DIRECTIONS = tuple(FACES_OF)
OF_BARS = ("bottom", "top", "minimum", "spacing", "anchorage", "cracks", "punching", "shear", "cover")
"""Checks that the choice of bars decides, by the beginning of their names."""
WORDS = {
    "bottom": say("too little"),
    "top": say("too little"),
    "minimum": say("below least"),
    "spacing": say("too wide"),
    "anchorage": say("anchorage"),
    "cracks": say("cracks"),
    "punching": label("punching"),
    "shear": label("shear"),
    "cover": say("cover"),
}


@dataclass(frozen=True)
class Choice:
    """One diameter at one spacing: the worst ratio of what bars decide, kilograms in the base, why not ('' where it
    does)."""

    bars: Bars
    ratio: float
    weight: float
    why: str

    @property
    def works(self) -> bool:
        """Every check holds."""
        return not self.why

    @property
    def short(self) -> str:
        """Why not, without its number."""
        return " ".join(word for word in self.why.split() if not word[0].isdigit())


@dataclass(frozen=True)
class BarTable:
    """Choices by diameter (rows) and spacing (columns), and fabrics where bars of both directions are chosen."""

    direction: str
    rows: tuple[tuple[Choice, ...], ...]
    fabrics: tuple[Choice, ...] = ()
    alike: tuple[str, ...] = ()
    """The bases that the choice is for, each of which must hold."""

    @property
    def choices(self) -> tuple[Choice, ...]:
        """All of them."""
        return (*(c for row in self.rows for c in row), *self.fabrics)

    @property
    def lightest(self) -> Choice | None:
        """The lightest that works; of two alike the one with fewer bars."""
        working = [c for c in self.choices if c.works]
        return min(working, key=lambda c: (round(c.weight, 1), -(c.bars.spacing or 0.0)), default=None)


def region_of(project: Project) -> str:
    """Whose bars: by the unit set and the standard."""
    return "us" if project.units == "us" else str(rules_of(project.standards.concrete).bar_set)


def with_bars(pad: Pad, direction: str, bars: Bars | None) -> Pad:
    """The pad with other bars in the faces of a direction; top bars of their own end "top like bottom"."""
    changes: dict[str, object] = dict.fromkeys(FACES_OF[direction], bars)
    if direction.startswith("top"):
        changes["top_like_bottom"] = False
    return pad.replaced(reinforcement=pad.reinforcement.replaced(**changes))


def alike(project: Project, pad: Pad) -> tuple[Pad, ...]:
    """The bases that take the same bars: those of its type that are not frozen, the base itself first."""
    others = [p for p in project.pads if pad.type and p.type == pad.type and not p.frozen and p.name != pad.name]
    return (pad, *others)


def bar_table(
    project: Project, pad: Pad, direction: str = "bottom x and y", pads: Sequence[Pad] | None = None
) -> BarTable:
    """All bars of the region for one base, in one batch; with ``pads`` for several that are to be alike.

    Raises:
        KeyError: when the direction is none of DIRECTIONS.
    """
    faces = FACES_OF[direction]
    region = region_of(project)
    grid = [[Bars(diameter=d, spacing=s) for s in SPACINGS[region]] for d in DIAMETERS[region]]
    fabrics = list(FABRICS[region].values()) if len(faces) == 2 else []
    flat = [bars for row in grid for bars in row] + fabrics
    pads = tuple(pads or (pad,))
    tried = [[with_bars(p, direction, b) for b in flat] for p in pads]
    ratio, reasons = worst_of_bars(project, pads, tried)
    own = next((variants for p, variants in zip(pads, tried) if p is pad), None)
    choices = [
        Choice(bars, float(worst), weight_of(project, own[k] if own else with_bars(pad, direction, bars)), why)
        for k, (bars, worst, why) in enumerate(zip(flat, ratio, reasons))
    ]
    columns = len(SPACINGS[region])
    count = len(grid) * columns
    rows = tuple(tuple(choices[i : i + columns]) for i in range(0, count, columns))
    return BarTable(direction, rows, tuple(choices[count:]), tuple(p.name for p in pads))


def worst_of_bars(project: Project, pads: Sequence[Pad], tried: Sequence[Sequence[Pad]]) -> tuple[Array, list[str]]:
    """(worst ratio, why not) of each variant over all pads.

    Args:
        tried: the variants of each pad, the same number of each.
    """
    count = len(tried[0])
    ratio, reasons = np.full(count, -np.inf), [""] * count
    together: dict[object, list[Pad]] = {}
    for pad, variants in zip(pads, tried):
        together.setdefault(shared_key(project, pad), []).extend(variants)
    for variants in together.values():
        sizes = np.concatenate([table(p) for p in variants])
        bench = bench_for(project, variants, np.arange(len(variants)), sizes)
        outcomes = [
            o
            for o in (*concrete_checks(bench, SILENT), *crack_checks(bench, SILENT))
            if o.check.id.split("-")[0] in OF_BARS
        ]
        found, which = governing_by_candidate(outcomes, len(variants))
        blocked = _blocked(outcomes, len(variants))
        for k in range(len(variants)):
            worst = np.inf if blocked[k] else float(np.nan_to_num(found[k], nan=0.0))
            if worst > ratio[k % count]:
                ratio[k % count] = worst
                reasons[k % count] = blocked[k] or _reason(worst, outcomes[which[k]].check.id if which[k] >= 0 else "")
    return ratio, reasons


def _blocked(outcomes: list[Outcome], count: int) -> list[str]:
    """By variant: why a check of the bars cannot be done."""
    found = [""] * count
    for outcome in outcomes:
        if outcome.check.id.startswith("cracks"):
            continue
        for k in range(count):
            found[k] = found[k] or outcome.reason(k)
    return found


def _reason(worst: float, check: str) -> str:
    if worst <= LIMIT:
        return ""
    word = WORDS.get(check.split("-")[0], check)
    return f"{word} {worst:.2f}" if np.isfinite(worst) else word


def taken(project: Project, pad: Pad, direction: str, bars: Bars, all_alike: bool = True) -> Project:
    """The project with these bars in the base, and in all others of its type that are not frozen."""
    same = {p.name for p in alike(project, pad)} if all_alike else {pad.name}
    pads = tuple(with_bars(p, direction, bars) if p.name in same else p for p in project.pads)
    return project.replaced(pads=pads)


def may_change(pad: Pad) -> tuple[Face, ...]:
    """The faces whose bars a proposal may choose."""
    r = pad.reinforcement
    faces: tuple[Face, ...] = ("bottom_x", "bottom_y", "top_x", "top_y")
    return tuple(f for f in faces if r.pin_of(f) != "pinned" and not (r.top_like_bottom and f.startswith("top")))


def allowed(pads: Sequence[Pad], face: Face, bars: Bars) -> bool:
    """Whether a proposal may put these bars there: where they are held at least, no less steel than now."""
    for pad in pads:
        now = pad.reinforcement.bars(face)
        if pad.reinforcement.pin_of(face) == "at_least" and now:
            across = pad.extent if face.endswith("x") else pad.width
            if bars.area_in(across) < now.area_in(across) - 1e-9:
                return False
    return True


def lightest_bars(project: Project, pads: Sequence[Pad]) -> tuple[tuple[Pad, ...], str]:
    """(the pads with the lightest bars that hold in all of them, '' or why there are none).

    First both directions alike, then each in turn with the other as found; the top where plain concrete does not carry
    its tension."""
    pads = tuple(pads)
    free = set(may_change(pads[0])).intersection(*(may_change(p) for p in pads[1:]))
    turns = [d for d, faces in FACES_OF.items() if d.endswith("x and y") and set(faces) <= free]
    turns += [d for d, faces in FACES_OF.items() if len(faces) == 1 and set(faces) <= free]
    bottom, top = ([d for d in turns if d.startswith(f)] for f in ("bottom", "top"))
    why = ""
    needed = _top_needed(project, pads) if top else {}
    top = [d for d in top if all(needed[f[-1]] for f in FACES_OF[d])]
    for direction in (*bottom, *top, *(d for d in bottom if d.count(" ") == 1)):
        found = bar_table(project, pads[0], direction, pads)
        works = [
            c
            for c in found.choices
            if c.works and not c.bars.fabric and all(allowed(pads, f, c.bars) for f in FACES_OF[direction])
        ]
        if works:
            best = min(works, key=lambda c: (round(c.weight, 1), -(c.bars.spacing or 0.0)))
            pads = tuple(with_bars(p, direction, best.bars) for p in pads)
            why = ""
        elif direction.endswith("x and y"):
            nearest = min(found.choices, key=lambda c: c.ratio)
            why = say("no bars of the table hold, {direction}: nearest {why}", direction=direction, why=nearest.why)
    return pads, why


def _top_needed(project: Project, pads: Sequence[Pad]) -> dict[str, bool]:
    """By direction: whether the top of one of the pads is in more tension than plain concrete carries."""
    found = {"x": False, "y": False}
    bare = [with_bars(with_bars(p, "top x", None), "top y", None) for p in pads]
    for _, bench in benches_for(project, bare):
        for outcome in concrete_checks(bench, SILENT):
            name, _, axis = outcome.check.id.partition("-")
            if name == "top" and outcome.ratio is not None:
                found[axis] |= bool((outcome.ratio > LIMIT).any())
    return found


__all__ = [
    "DIRECTIONS",
    "FACES_OF",
    "BarTable",
    "Choice",
    "alike",
    "allowed",
    "bar_table",
    "lightest_bars",
    "may_change",
    "region_of",
    "taken",
    "with_bars",
    "worst_of_bars",
]
