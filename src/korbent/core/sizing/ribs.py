"""Bars and links of ribs grown until their checks hold."""

from dataclasses import replace
from typing import NamedTuple

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT
from korbent.core.concrete.bar_text import words
from korbent.core.concrete.pad import ConcretePad, concrete_pad, under_concrete
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.plate import Rib
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import Bars
from korbent.core.rafts.rib_checks import Along, along_ribs, checks_of_rib, crack_checks_of_rib
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.sizing.straps import links_to_try, more_bars
from korbent.core.working import SILENT
from korbent.words import say

MOST = 60
"""Changes of one rib."""


def grown_ribs(project: Project, pad: Pad) -> tuple[Project, tuple[str, ...]]:
    """The project with more bars and links in the ribs of a raft, one by one until each holds; and what was changed.
    Sizes stay: they would move the forces.

    Raises:
        ValueError: when the base is no raft or its plate cannot be solved.
    """
    if pad.plate is None:
        raise ValueError(say("{pad} is no raft", pad=pad.name))
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        raise ValueError(f"{pad.name}: {solved}")
    concrete = concrete_pad(
        bench.geometry,
        solved.situations,
        *under_concrete(bench, solved.situations),
        bench.settings,
        bench.standards.concrete,
        SILENT,
        True,
    )
    service = solved_raft(bench, project, "cracks")
    new, said = [], []
    looked = [Look(concrete, solved, one) for one in along_ribs(solved)]
    lasting: list[Look | None] = [None] * len(looked)
    if not isinstance(service, str):
        own = concrete_pad(
            bench.geometry,
            service.situations,
            *under_concrete(bench, service.situations),
            bench.settings,
            bench.standards.concrete,
            SILENT,
            True,
        )
        lasting = [Look(own, service, one) for one in along_ribs(service)]
    for look, later in zip(looked, lasting):
        one = look.along
        rib, enough = _grown(project, look, later)
        new.append(rib)
        changes = _changes(project, one.rib, rib)
        if changes:
            said.append(f"{rib.name} {', '.join(changes)}")
        if not enough:
            said.append(say("{rib} needs more depth or width", rib=rib.name))
    changed = pad.replaced(plate=pad.plate.replaced(ribs=tuple(new)))
    if changed == pad:
        return project, tuple(said)
    pads = tuple(changed if p.name == pad.name else p for p in project.pads)
    return project.replaced(pads=pads), tuple(said)


class Look(NamedTuple):
    """A rib in the situations of a question."""

    concrete: ConcretePad
    solved: SolvedRaft
    along: Along

    def with_rib(self, rib: Rib) -> "Look":
        """The same forces on other bars."""
        return self._replace(along=replace(self.along, rib=rib))


def _failing(look: Look, later: Look | None) -> list[tuple[str, float]]:
    """(check, or face of which cracks are too wide, and ratio), the worst first."""
    found = [
        (o.check.id, float("inf") if o.bare.any() else float(o.ratio.max()))
        for o in checks_of_rib(look.concrete, look.solved, look.along, SILENT)
    ]
    if later is not None:
        cracks = crack_checks_of_rib(later.concrete, later.solved, later.along)
        found += [(f"rib-{face}", float(o.ratio.max())) for face, o in zip(("top", "bottom"), cracks)]
    return sorted((f for f in found if f[1] > LIMIT), key=lambda f: -f[1])


def _grown(project: Project, look: Look, later: Look | None) -> tuple[Rib, bool]:
    """(the rib, all its checks hold)."""
    for _ in range(MOST):
        one = look.along
        failing = _failing(look, later)
        if not failing:
            return one.rib, True
        check, ratio = failing[0]
        better = None
        if check in ("rib-top", "rib-bottom"):
            face = check.removeprefix("rib-")
            bars = _more(project, one.rib, getattr(one.rib, face), ratio)
            better = one.rib.replaced(**{face: bars}) if bars is not None else None
        else:
            for rib in links_to_try(project, one.rib):
                if dict(_failing(look.with_rib(rib), None)).get(check, 0.0) < ratio - 1e-6:
                    better = rib
                    break
        if better is None:
            return one.rib, False
        look = look.with_rib(better)
        later = later.with_rib(better) if later is not None else None
    return look.along.rib, not _failing(look, later)


def _more(project: Project, rib: Rib, bars: Bars, ratio: float) -> Bars | None:
    """Bars for so many times the area, else as many more as fit; None where none do."""
    now = bars.area_in(rib.width)
    while ratio > 1.0:
        found = more_bars(project, rib, bars, ratio)
        if found is not None:
            return found if found.area_in(rib.width) > now * (1 + 1e-9) else None
        ratio *= 0.9
    return None


def _changes(project: Project, old: Rib, new: Rib) -> tuple[str, ...]:
    us = project.units == "us"
    said = [
        f"{n} {words(getattr(new, n), us)}" for n in ("top", "bottom", "links") if getattr(old, n) != getattr(new, n)
    ]
    return (*said, *([say("{legs} legs", legs=new.legs)] if new.legs != old.legs else []))
