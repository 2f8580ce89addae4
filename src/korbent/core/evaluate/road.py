"""The one road from a project to its results, remembered part by part."""

import bisect
from collections.abc import Sequence
from dataclasses import replace

from korbent.core.actions.construction import timeline
from korbent.core.bearing.by_bounds import REPLACED
from korbent.core.bench import benches_for, stand_of, stands_of
from korbent.core.cache import MEGABYTE, Cache, remembered
from korbent.core.checks import CheckResult, State, reduced
from korbent.core.evaluate.families import (
    FAMILIES,
    OF_ALL,
    ORDER,
    Family,
    families_of,
    left_out_words,
    outcomes_of,
    with_word,
)
from korbent.core.evaluate.slow import has_slow, slow_checks
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.plate_of import rests_on_strata
from korbent.core.results import PadResult, Results
from korbent.core.settlement.beside import besides
from korbent.core.settlement.checks import settlement_checks
from korbent.core.settlement.marks import mark_checks
from korbent.core.settlement.neighbours import neighbours, settled
from korbent.core.settlement.pressing import pressing_of
from korbent.words import say

Checks = tuple[CheckResult, ...]
Dependence = tuple[tuple[object, ...], tuple[object, ...]]


def evaluate_pads(project: Project, pads: Sequence[Pad]) -> list[PadResult]:
    """All checks of pads, remembered as long as nothing a pad depends on has changed.

    What is not known yet is computed together, all pads with one profile and the same settings at once.
    """
    alone = [depends_on(project, pad) for pad in pads]
    together = [with_neighbours(project, pad, found) for pad, found in zip(pads, alone)]
    first = _parts(project, pads, alone, ALONE)
    second = _parts(project, pads, together, TOGETHER)
    results = []
    for pad, a, b in zip(pads, first, second):
        plate = slow_checks(project, pad, slow_depends_on(project, pad)) if has_slow(project, pad) else ()
        key = (id(a), id(b), id(plate) if plate else 0)
        known = _joined.those_of([key])
        checks = _in_order(a, b)
        if plate:
            checks = tuple(sorted((*_without_replaced(pad, checks), *plate), key=lambda c: ORDER[c.check.id]))
        whole = known[0] if known else _joined.put(key, (a, b, plate), PadResult(pad.name, checks))
        results.append(whole)
    return results


def _without_replaced(pad: Pad, checks: Checks) -> Checks:
    """Where bounds are the resistance the checks by formula do not count."""
    if pad.kind == "raft":
        return checks
    said = say("the resistance is that by bounds")
    return tuple(
        replace(c, state=State.NOT_APPLICABLE, ratio=None, demand=None, capacity=None, message=said)
        if c.check.id in REPLACED and c.state is not State.NOT_APPLICABLE
        else c
        for c in checks
    )


def slow_depends_on(project: Project, pad: Pad) -> Dependence:
    """What the slow checks of a base depend on: of a raft also what acts beside it and the construction steps, by which
    the ground below it settles, and how its neighbours settle."""
    ids, values = depends_on(project, pad)
    if pad.kind != "raft":
        return ("bounds", *ids), values
    stands, beside = stands_of(project), besides(project)
    around = [name for name, _ in neighbours(project).get(pad.name, ())]
    more: tuple[object, ...] = (
        beside.get(pad.name),
        timeline(project),
        *project.actions.drains,
        *project.actions.area_loads,
        *pressing_of(project),
        *(part for name in around for part in (beside.get(name), stands[name].settings)),
        *(one.pad for one in stands.values() if rests_on_strata(pad) and rests_on_strata(one.pad)),
    )
    return ("plate", *around, *map(id, more), *ids), (*more, *values)


def _in_order(alone: Checks, together: Checks) -> Checks:
    """Both in the order of the ledger; the second ones follow each other there."""
    if not together:
        return alone
    at = bisect.bisect(alone, ORDER[together[0].check.id], key=lambda c: ORDER[c.check.id])
    return (*alone[:at], *together, *alone[at:])


ALONE = tuple(f for f in FAMILIES if f not in OF_ALL)
TOGETHER = (settlement_checks,)
"""What depends on the other foundations too is remembered apart: a change of one base leaves the rest of the others."""


def _parts(
    project: Project, pads: Sequence[Pad], keys: Sequence[Dependence], families: tuple[Family, ...]
) -> list[Checks]:
    """The checks of some families, remembered by what they depend on; what is new is computed together."""
    marked = [(len(families), *key) for key, _ in keys]
    found = _known.those_of(marked)
    new = [i for i in range(len(marked)) if i not in found]
    for positions, bench in benches_for(project, [pads[i] for i in new]):
        said = left_out_words(bench)
        outcomes = sorted(
            (
                with_word(bench, o, said)
                for family in families_of(bench, families)
                for o in outcomes_of(family, bench, project)
            ),
            key=lambda outcome: ORDER[outcome.check.id],
        )
        for row, position in enumerate(positions):
            pad = bench.pads[row]
            checks = tuple(reduced(outcome, pad.name, row, pad.accepted) for outcome in outcomes)
            at = new[position]
            found[at] = _known.put(marked[at], keys[at][1], checks)
    return [found[i] for i in range(len(marked))]


def with_neighbours(project: Project, pad: Pad, alone: Dependence) -> Dependence:
    """What the settlement of a pad depends on: also what acts beside it."""
    beside = besides(project).get(pad.name)
    known = settled(project)
    around = tuple((n, d, known.get(n)) for n, d in neighbours(project).get(pad.name, ()))
    marks = tuple(part for n, d, s in around for part in (n, d, id(s)))
    more = (beside, timeline(project), *project.actions.drains)
    return (*alone[0], *map(id, more), *marks), (*alone[1], *more, around)


def evaluate_pad(project: Project, pad: Pad) -> PadResult:
    """All checks of one pad."""
    return evaluate_pads(project, (pad,))[0]


def depends_on(project: Project, pad: Pad) -> Dependence:
    """What the result of a pad depends on: identities, and the values, kept alive with the result."""
    stand = stand_of(project, pad)
    own = (pad, stand.points, stand.settings, stand.profile, stand.ties)
    shared, key = _shared(project)
    return (*map(id, own), *key), (*own, *shared)


@remembered(8)
def _shared(project: Project) -> Dependence:
    """What the results of all pads depend on, and its identities."""
    ground, actions = project.ground, project.actions
    values = (
        project.settings,
        project.standards,
        ground.water,
        ground.backfill,
        ground.surfaces,
        project.site,
        *actions.cases,
        *actions.combinations,
    )
    return values, tuple(map(id, values))


_known: Cache[Checks] = Cache(128 * MEGABYTE, each=20_000)
_joined: Cache[PadResult] = Cache(each=20_000)


def evaluate(project: Project) -> Results:
    """All results of a project. Only what changed since an earlier call is computed again."""
    carried = {name for pad in project.pads for name in pad.carries}
    return Results(
        project,
        tuple(evaluate_pads(project, project.pads)),
        tuple(p.name for p in project.actions.load_points if p.name not in carried),
        mark_checks(project),
    )
