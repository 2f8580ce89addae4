"""Bars and links of ribs grown until their checks hold."""

from dataclasses import replace

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT
from korbent.core.concrete.bar_text import words
from korbent.core.concrete.pad import ConcretePad, concrete_pad, under_concrete
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Rib
from korbent.core.model.project import Project
from korbent.core.rafts.rib_checks import Along, along_ribs, checks_of_rib
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.sizing.straps import links_to_try, more_bars
from korbent.core.working import SILENT

MOST = 60
"""Changes of one rib."""


def grown_ribs(project: Project, pad: Pad) -> tuple[Project, tuple[str, ...]]:
    """The project with more bars and links in the ribs of a raft, one by one until each holds; and what was changed. Sizes stay: they would
    move the forces.

    Raises:
        ValueError: when the base is no raft or its plate cannot be solved.
    """
    if pad.plate is None:
        raise ValueError(f"{pad.name} is no raft")
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
    new, said = [], []
    for one in along_ribs(solved):
        rib, enough = _grown(project, concrete, solved, one)
        new.append(rib)
        changes = _changes(project, one.rib, rib)
        if changes:
            said.append(f"{rib.name} {', '.join(changes)}")
        if not enough:
            said.append(f"{rib.name} needs more depth or width")
    changed = pad.replaced(plate=pad.plate.replaced(ribs=tuple(new)))
    if changed == pad:
        return project, tuple(said)
    pads = tuple(changed if p.name == pad.name else p for p in project.pads)
    return project.replaced(pads=pads), tuple(said)


def _failing(concrete: ConcretePad, solved: SolvedRaft, one: Along) -> list[tuple[str, float]]:
    found = [
        (o.check.id, float("inf") if o.bare.any() else float(o.ratio.max()))
        for o in checks_of_rib(concrete, solved, one, SILENT)
    ]
    return sorted((f for f in found if f[1] > LIMIT), key=lambda f: -f[1])


def _grown(project: Project, concrete: ConcretePad, solved: SolvedRaft, one: Along) -> tuple[Rib, bool]:
    """(the rib, all its checks hold)."""
    for _ in range(MOST):
        failing = _failing(concrete, solved, one)
        if not failing:
            return one.rib, True
        check, ratio = failing[0]
        better = None
        if check in ("rib-top", "rib-bottom"):
            face = check.removeprefix("rib-")
            bars = more_bars(project, one.rib, getattr(one.rib, face), ratio)
            better = (
                one.rib.replaced(**{face: bars})
                if bars is not None and bars != getattr(one.rib, face)
                else None
            )
        else:
            for rib in links_to_try(project, one.rib):
                if dict(_failing(concrete, solved, replace(one, rib=rib))).get(check, 0.0) < ratio - 1e-6:
                    better = rib
                    break
        if better is None:
            return one.rib, False
        one = replace(one, rib=better)
    return one.rib, not _failing(concrete, solved, one)


def _changes(project: Project, old: Rib, new: Rib) -> tuple[str, ...]:
    us = project.units == "us"
    said = [
        f"{n} {words(getattr(new, n), us)}"
        for n in ("top", "bottom", "links")
        if getattr(old, n) != getattr(new, n)
    ]
    return (*said, *([f"{new.legs} legs"] if new.legs != old.legs else []))
