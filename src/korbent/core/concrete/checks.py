"""The concrete checks of a base, in the order of the ledger."""

from dataclasses import replace

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Check, Outcome, cannot
from korbent.core.concrete.anchorage import anchorage_checks
from korbent.core.concrete.detailing import detailing
from korbent.core.concrete.flexure import flexure
from korbent.core.concrete.pad import ConcretePad, concrete_pad, no_concrete, too_thin
from korbent.core.concrete.punching import punching
from korbent.core.concrete.several import several_outcomes
from korbent.core.concrete.shear import one_way_shear
from korbent.core.concrete.standard import NAMES
from korbent.core.contact.base import contact_under
from korbent.core.working import SILENT, Recorder


def concrete_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """All concrete checks at the ultimate limit."""
    if bench.standards.concrete not in NAMES:
        why = "no concrete standard is chosen: choose one in Plan, under Title"
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]
    situations = bench.situations("concrete")
    if not len(situations):
        why = bench.no_combination("concrete")
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]
    g = bench.geometry
    why = no_concrete(bench)
    if why:
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]

    forces = bench.forces(situations, record)
    contact = contact_under(g, forces.N, forces.Mx, forces.My, record)
    pad = concrete_pad(
        g,
        situations,
        forces,
        contact,
        bench.settings,
        bench.standards.concrete,
        record,
    )
    if any(len(points) > 1 for points in bench.standing):
        outcomes = several_outcomes(bench, pad, record, too_thin(pad))
    else:
        outcomes = [*concrete_outcomes(pad, record), *anchorage_checks(pad, record, too_thin(pad))]
    outcomes = [replace(o, check=_with_clause(o.check, pad.standard.clauses)) for o in outcomes]
    if any(g.askew):
        text = "the column is turned against the base: a square of equal area is used"
        warnings = tuple(text if askew else "" for askew in g.askew)
        outcomes = [replace(o, warnings=warnings) for o in outcomes]
    return outcomes


def _with_clause(check: Check, clauses: dict[str, str]) -> Check:
    """The check with the clause of the standard in force; the very same one where it is its own."""
    clause = clauses.get(check.id, check.reference)
    if clause == check.reference:
        return check
    key = (check.id, clause)
    if key not in _by_clause:
        _by_clause[key] = replace(check, reference=clause)
    return _by_clause[key]


_by_clause: dict[tuple[str, str], Check] = {}


def concrete_outcomes(pad: ConcretePad, record: Recorder = SILENT) -> list[Outcome]:
    """All concrete checks of a pad."""
    thin = too_thin(pad)
    outcomes = punching(pad, record, thin)
    outcomes += one_way_shear(pad, record, thin)
    outcomes += flexure(pad, record, thin)
    for axis in "xy":
        outcomes += detailing(pad, axis, record, thin)
    return outcomes
