"""The concrete checks of a base, in the order of the ledger."""

from collections.abc import Callable
from dataclasses import replace

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete import cracks, pedestal, plain
from korbent.core.concrete.anchorage import anchorage_checks
from korbent.core.concrete.detailing import cover_check, detailing, side_bars_check
from korbent.core.concrete.flexure import flexure
from korbent.core.concrete.interface import interface_checks
from korbent.core.concrete.pad import ConcretePad, concrete_pad, no_concrete, too_thin, under_concrete
from korbent.core.concrete.punching import punching
from korbent.core.concrete.several import several_outcomes
from korbent.core.concrete.shear import one_way_shear
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.working import SILENT, Recorder
from korbent.words import say

ELSEWHERE = (
    *cracks.IDS,
    *pedestal.IDS,
    "strap-top",
    "strap-bottom",
    "strap-shear",
    "strap-links",
    "rib-top",
    "rib-bottom",
    "rib-shear",
    "rib-cracks",
    "rib-links",
)
"""Checks of the group that other families compute."""
OWN = tuple(c.id for c in CHECKS.values() if c.group == "concrete" and c.id not in ELSEWHERE)
REINFORCED = tuple(i for i in OWN if i not in plain.IDS)
"""What has no meaning in a base of plain concrete; a reinforced one does not list the checks of plain concrete."""


def concrete_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """All concrete checks at the ultimate limit."""
    why = no_concrete(bench)
    situations = bench.situations("concrete")
    if bench.standards.concrete not in NAMES:
        why = say("no concrete standard is chosen: choose one in Project, Title and standards")
    elif not len(situations):
        why = bench.no_combination("concrete")
    if why:
        return [cannot(check, why) for check in REINFORCED]
    g, settings = bench.geometry, bench.settings
    forces, contact = under_concrete(bench, situations, record)
    pad = concrete_pad(
        g, situations, forces, contact, settings, bench.standards.concrete, record, len(bench.standing[0]) > 1
    )
    outcomes = [replace(o, check=by_clause(o.check, pad.standard.clauses)) for o in _outcomes(bench, pad, record)]
    if any(g.askew):
        text = say("the column is turned against the base: a square of equal area is used")
        warnings = tuple(text if askew else "" for askew in g.askew)
        outcomes = [replace(o, warnings=_both(o.warnings, warnings)) for o in outcomes]
    return outcomes


def _both(own: tuple[str, ...] | Callable[[int], str], more: tuple[str, ...]) -> Callable[[int], str]:
    """Two warnings of each candidate."""

    def both(candidate: int) -> str:
        first = own(candidate) if callable(own) else own[min(candidate, len(own) - 1)] if own else ""
        return "; ".join(text for text in (first, more[min(candidate, len(more) - 1)]) if text)

    return both


def _outcomes(bench: Bench, pad: ConcretePad, record: Recorder) -> list[Outcome]:
    several = any(len(points) > 1 for points in bench.standing)
    if pad.settings.base_concrete == "plain":
        if several:
            return [
                cannot(
                    check,
                    say("plain concrete under several columns is not checked: choose reinforced, or check it by hand"),
                )
                for check in REINFORCED
            ]
        found = [*plain.plain_checks(pad, record), *interface_checks(bench, pad, record)]
        done = {o.check.id for o in found}
        return [
            *found,
            *(does_not_apply(check, say("the base is of plain concrete")) for check in REINFORCED if check not in done),
        ]
    thin = too_thin(pad)
    if several:
        outcomes = several_outcomes(bench, pad, record, thin)
    else:
        outcomes = [
            *concrete_outcomes(pad, record),
            *anchorage_checks(pad, record, thin),
            *interface_checks(bench, pad, record),
        ]
    outcomes += [cover_check(pad, record), side_bars_check(bench, pad, record)]
    return outcomes


def concrete_outcomes(pad: ConcretePad, record: Recorder = SILENT) -> list[Outcome]:
    """All concrete checks of a pad."""
    thin = too_thin(pad)
    outcomes = punching(pad, record, thin)
    outcomes += one_way_shear(pad, record, thin)
    outcomes += flexure(pad, record, thin)
    for axis in "xy":
        outcomes += detailing(pad, axis, record, thin)
    return outcomes
