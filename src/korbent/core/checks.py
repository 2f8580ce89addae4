"""Checks, their states, and how the worst situation of a check is found."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.model.foundations import Acceptance
from korbent.core.working import Array
from korbent.words import joined, say


class State(StrEnum):
    """What a check says. Only the first two and ACCEPTED and NOT_APPLICABLE let a project hold."""

    HOLDS = "holds"
    WARNS = "holds with a warning"
    FAILS = "fails"
    ACCEPTED = "accepted"
    UNSTABLE = "unstable"
    CANNOT = "cannot be done"
    NOT_APPLICABLE = "does not apply"
    NOT_DESIGNED = "not designed"
    COMPUTING = "being computed"

    @property
    def word(self) -> str:
        """As it is read; the value is what files and scripts know it by."""
        return _STATES[self]

    @property
    def is_good(self) -> bool:
        """Does not stand in the way of the project holding."""
        return self in (State.HOLDS, State.WARNS, State.ACCEPTED, State.NOT_APPLICABLE)


_STATES = {
    State.HOLDS: say("holds"),
    State.WARNS: say("holds with a warning"),
    State.FAILS: say("fails"),
    State.ACCEPTED: say("accepted"),
    State.UNSTABLE: say("unstable"),
    State.CANNOT: say("cannot be done"),
    State.NOT_APPLICABLE: say("does not apply"),
    State.NOT_DESIGNED: say("not designed"),
    State.COMPUTING: say("being computed"),
}


SEVERITY = {
    State.NOT_APPLICABLE: 0,
    State.HOLDS: 1,
    State.WARNS: 2,
    State.ACCEPTED: 3,
    State.CANNOT: 4,
    State.NOT_DESIGNED: 4,
    State.COMPUTING: 4,
    State.FAILS: 5,
    State.UNSTABLE: 6,
}


@dataclass(frozen=True)
class Check:
    """What is checked, in which group, in which unit, by which clause. ``about``: what drawings light up."""

    id: str
    title: str
    group: str
    unit: str
    reference: str
    about: str = ""


GROUPS = ("bearing", "stability", "settlement", "concrete")

CHECKS = {
    check.id: check
    for check in (
        Check(
            "presumed-pressure",
            say("Against presumed pressure"),
            "bearing",
            "kPa",
            "EN 1997-1 6.5.2.4",
            "pressure",
        ),
        Check("resistance-drained", say("Resistance, drained"), "bearing", "kPa", "EN 1997-1 D.4", "pressure"),
        Check("resistance-undrained", say("Resistance, undrained"), "bearing", "kPa", "EN 1997-1 D.3", "pressure"),
        Check("safety-drained", say("Bearing failure, drained"), "bearing", "kPa", say("global factor"), "pressure"),
        Check(
            "safety-undrained", say("Bearing failure, undrained"), "bearing", "kPa", say("global factor"), "pressure"
        ),
        Check(
            "resistance-bounds-drained",
            say("Resistance by bounds, drained"),
            "bearing",
            "kPa",
            say("lower bound of a strip"),
            "pressure",
        ),
        Check(
            "resistance-bounds-undrained",
            say("Resistance by bounds, undrained"),
            "bearing",
            "kPa",
            say("lower bound of a strip"),
            "pressure",
        ),
        Check(
            "safety-bounds-drained",
            say("Bearing failure by bounds, drained"),
            "bearing",
            "kPa",
            say("lower bound of a strip"),
            "pressure",
        ),
        Check(
            "safety-bounds-undrained",
            say("Bearing failure by bounds, undrained"),
            "bearing",
            "kPa",
            say("lower bound of a strip"),
            "pressure",
        ),
        Check(
            "raft-pressure",
            say("Greatest pressure below the raft"),
            "bearing",
            "kPa",
            "EN 1997-1 6.5.2.4",
            "pressure",
        ),
        Check("eccentricity", say("Eccentricity"), "bearing", "", "EN 1997-1 6.5.4", "pressure"),
        Check("contact-share", say("Contact share"), "bearing", "%", say("linear without tension"), "contact"),
        Check("top-cover", say("Top below finished ground"), "bearing", "m", say("levels"), "top"),
        Check("frost-depth", say("Frost depth"), "bearing", "m", "EN 1997-1 6.4", "frost"),
        Check("founding-stratum", say("Founding stratum"), "bearing", "m", say("founding rule"), "underside"),
        Check(
            "replacement", say("Replacement, alone"), "bearing", "kPa", say("EN 1997-1 D.4, or its stress"), "pressure"
        ),
        Check("board", say("Board below the base"), "bearing", "kPa", say("design stress of the board"), "pressure"),
        Check("site", say("Clear of boundaries"), "bearing", "m", say("plan"), "plan"),
        Check("sliding-drained", say("Sliding, drained"), "stability", "kN", "EN 1997-1 6.5.3(8)", "underside"),
        Check("sliding-undrained", say("Sliding, undrained"), "stability", "kN", "EN 1997-1 6.5.3(11)", "underside"),
        Check("overturning", say("Overturning"), "stability", "kNm", "EN 1997-1 2.4.7.2", "edge"),
        Check("uplift", say("Uplift"), "stability", "kN", "EN 1997-1 2.4.7.4", "underside"),
        Check("settlement", say("Settlement, long term"), "settlement", "mm", "EN 1997-1 6.6.2", "strata"),
        Check("settlement-short", say("Settlement, short term"), "settlement", "mm", "EN 1997-1 6.6.2", "strata"),
        Check("slope", say("Slope between neighbours"), "settlement", "‰", say("EN 1997-1 annex H"), "slope"),
        Check(
            "raft-slope", say("Slope between columns of the raft"), "settlement", "‰", say("EN 1997-1 annex H"), "slope"
        ),
        Check(
            "raft-neighbours",
            say("Neighbours, as the raft presses"),
            "settlement",
            "mm",
            "EN 1997-1 6.6.2",
            "strata",
        ),
        Check("relative-rotation", say("Relative rotation"), "settlement", "‰", say("EN 1997-1 annex H"), "slope"),
        Check("tilt", say("Tilt"), "settlement", "‰", say("EN 1997-1 annex H"), "underside"),
        Check("punching", say("Punching"), "concrete", "MPa", "EN 1992-1-1 6.4.4(2)", "perimeter"),
        Check("punching-face", say("Punching at the face"), "concrete", "MPa", "EN 1992-1-1 6.4.5(3)", "face"),
        Check("shear-x", say("One-way shear x"), "concrete", "MPa", "EN 1992-1-1 6.2.2(1)", "shear-x"),
        Check("shear-y", say("One-way shear y"), "concrete", "MPa", "EN 1992-1-1 6.2.2(1)", "shear-y"),
        Check("bottom-x", say("Bottom steel x"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "flexure-x"),
        Check("bottom-y", say("Bottom steel y"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "flexure-y"),
        Check("top-x", say("Top steel x"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "flexure-x"),
        Check("top-y", say("Top steel y"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "flexure-y"),
        Check("plain-x", say("Bending of plain concrete x"), "concrete", "MPa", "EN 1992-1-1 12.9.3", "flexure-x"),
        Check("plain-y", say("Bending of plain concrete y"), "concrete", "MPa", "EN 1992-1-1 12.9.3", "flexure-y"),
        Check("plain-shear-x", say("Shear of plain concrete x"), "concrete", "MPa", "EN 1992-1-1 12.6.3", "shear-x"),
        Check("plain-shear-y", say("Shear of plain concrete y"), "concrete", "MPa", "EN 1992-1-1 12.6.3", "shear-y"),
        Check(
            "plain-punching",
            say("Punching of plain concrete"),
            "concrete",
            "MPa",
            "EN 1992-1-1 12.6.3",
            "perimeter",
        ),
        Check("minimum-x", say("Minimum steel x"), "concrete", "mm²/m", "EN 1992-1-1 9.2.1.1(1)", "flexure-x"),
        Check("minimum-y", say("Minimum steel y"), "concrete", "mm²/m", "EN 1992-1-1 9.2.1.1(1)", "flexure-y"),
        Check("anchorage-x", say("Anchorage x"), "concrete", "mm", "EN 1992-1-1 9.8.2.2", "flexure-x"),
        Check("anchorage-y", say("Anchorage y"), "concrete", "mm", "EN 1992-1-1 9.8.2.2", "flexure-y"),
        Check("cover", say("Cover"), "concrete", "mm", "EN 1992-1-1 4.4.1", "cover"),
        Check("side-bars", say("Bars along the sides"), "concrete", "mm²/m", "EN 1992-1-1 7.3.3(3)", "sides"),
        Check("bearing-concrete", say("Column on the base"), "concrete", "MPa", "EN 1992-1-1 6.7", "face"),
        Check("dowels", say("Dowels"), "concrete", "kNm", say("strain compatibility"), "dowels"),
        Check("dowels-steel", say("Dowels, least steel"), "concrete", "mm²", "EN 1992-1-1 9.5.2(2)", "dowels"),
        Check("dowels-anchorage", say("Dowels, anchorage"), "concrete", "mm", "EN 1992-1-1 8.4.4", "dowels"),
        Check("pedestal", say("Pedestal"), "concrete", "kNm", say("strain compatibility"), "face"),
        Check("pedestal-steel", say("Pedestal, least steel"), "concrete", "mm²", "EN 1992-1-1 9.5.2(2)", "face"),
        Check("pedestal-ties", say("Pedestal, ties"), "concrete", "mm", "EN 1992-1-1 9.5.3", "face"),
        Check("pedestal-slender", say("Pedestal, slenderness"), "concrete", "", "EN 1992-1-1 5.8.3.1", "face"),
        Check("cracks-x", say("Cracks x"), "concrete", "mm", "EN 1992-1-1 7.3.4", "flexure-x"),
        Check("cracks-y", say("Cracks y"), "concrete", "mm", "EN 1992-1-1 7.3.4", "flexure-y"),
        Check("strap-top", say("Strap, bars above"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "strap"),
        Check("strap-bottom", say("Strap, bars below"), "concrete", "mm²/m", "EN 1992-1-1 6.1", "strap"),
        Check("strap-shear", say("Strap, shear and links"), "concrete", "MPa", "EN 1992-1-1 6.2", "strap"),
        Check("strap-links", say("Strap, least links"), "concrete", "mm²/m", "EN 1992-1-1 9.2.2", "strap"),
        Check("rib-top", say("Ribs, bars above"), "concrete", "mm²", "EN 1992-1-1 6.1", "ribs"),
        Check("rib-bottom", say("Ribs, bars below"), "concrete", "mm²", "EN 1992-1-1 6.1", "ribs"),
        Check("rib-shear", say("Ribs, shear and links"), "concrete", "MPa", "EN 1992-1-1 6.2", "ribs"),
        Check("rib-cracks", say("Ribs, cracks"), "concrete", "mm", "EN 1992-1-1 7.3.4", "ribs"),
        Check("rib-links", say("Ribs, least links"), "concrete", "mm²/m", "EN 1992-1-1 9.2.2", "ribs"),
        Check("spacing-x", say("Bar spacing x"), "concrete", "mm", "EN 1992-1-1 9.3.1.1(3)", "flexure-x"),
        Check("spacing-y", say("Bar spacing y"), "concrete", "mm", "EN 1992-1-1 9.3.1.1(3)", "flexure-y"),
    )
}


_by_clause: dict[tuple[str, str], Check] = {}


def by_clause(check: Check, clauses: Mapping[str, str]) -> Check:
    """The check with the clause of the standard in force; the very same one where it is its own."""
    clause = clauses.get(check.id, check.reference)
    if clause == check.reference:
        return check
    key = (check.id, clause)
    if key not in _by_clause:
        _by_clause[key] = replace(check, reference=clause)
    return _by_clause[key]


@dataclass(frozen=True)
class Outcome:
    """A check for all candidates and situations: arrays (candidates, blocks x situations).

    Blocks are repetitions of all situations, such as one for each edge; each has its scope in the recording.
    """

    check: Check
    demand: Array
    capacity: Array
    ratio: Array
    situations: Situations | None = None
    unstable: Array | None = None
    because: str | Callable[[int, int], str] = say("the resultant lies outside the base or nothing presses it down")
    """Why it is unstable, where it is."""
    unresisted: Array | None = None
    """Something acts and nothing resists it: fails without a ratio."""
    blocks: tuple[str, ...] = ("",)
    required_factor: float | None = None
    """With a safety factor: the required one. The ratio is then required over actual."""
    why_not: tuple[str, ...] = ()
    """Per candidate: why the check cannot be done ('' where it can)."""
    warnings: tuple[str, ...] | Callable[[int], str] = ()
    """Per candidate, or a function of the candidate where there are many and few are asked for."""
    not_applicable: tuple[str, ...] = ()
    """Per candidate: why the check has no meaning ('' where it has)."""
    place: Array | None = None
    """Where it governs, as a number that drawings use: of punching, the distance in effective depths."""
    note: Callable[[int, int], str] | None = None
    """What to add to the message, for a candidate and a column."""

    @cached_property
    def lost(self) -> Array:
        """Where it is unstable, in the shape of the ratio."""
        return _spread(self.unstable, self.ratio)

    @cached_property
    def bare(self) -> Array:
        """Where something acts that nothing resists, in the shape of the ratio."""
        return _spread(self.unresisted, self.ratio)

    @cached_property
    def idle(self) -> Array:
        """Which candidates it has no meaning for; one value where that is the same for all."""
        return np.array([bool(text) for text in self.not_applicable or ("",)])

    @cached_property
    def blocked(self) -> Array:
        """For which candidates it should be done and cannot; one value where that is the same for all."""
        return np.array([bool(text) for text in self.why_not or ("",)]) & ~self.idle

    def reason(self, candidate: int) -> str:
        """Why it cannot be done for a candidate, '' where it can."""
        return _of(self.why_not, candidate)

    @cached_property
    def governing(self) -> Array:
        """The column that governs of each row (see :func:`governing`)."""
        values = self.ratio
        decided = np.zeros(len(values), dtype=bool)
        for lost in (self.lost, self.bare):
            if lost.any():
                rows = lost.any(axis=-1) & ~decided
                bad = np.where(lost, 1.0 + np.broadcast_to(self.demand, values.shape), -np.inf)
                values, decided = np.where(rows[:, None], bad, values), decided | rows
        worst = values.max(axis=-1, keepdims=True)
        alike = np.where(np.isfinite(worst), values >= worst - ALIKE * np.abs(worst), values == worst)
        count = len(self.situations) if self.situations is not None else 1
        columns = values.shape[-1]
        if columns <= count:
            return np.asarray(alike.argmax(axis=-1))
        order = np.array(sorted(range(columns), key=lambda column: (column % count, column)))
        return np.asarray(order[alike[:, order].argmax(axis=-1)])

    @cached_property
    def worst(self) -> "Worst":
        """What governs, of each row."""
        rows, columns = np.arange(len(self.ratio)), self.governing
        shape = self.ratio.shape

        def at(values: Array | None, missing: object) -> list[Any]:
            if values is None:
                return [missing] * len(rows)
            full = values if values.shape == shape else np.broadcast_to(values, shape)
            found: list[Any] = full[rows, columns].tolist()
            return found

        return Worst(
            columns.tolist(),
            at(self.ratio, None),
            at(self.demand, None),
            at(self.capacity, None),
            at(self.lost, False),
            at(self.bare, False),
            at(self.place, None),
        )


def _spread(where: Array | None, like: Array) -> Array:
    if where is None:
        return np.broadcast_to(np.zeros(1, dtype=bool), like.shape)
    return np.broadcast_to(where, like.shape)


class Worst(NamedTuple):
    """What governs a check: column of the outcome and the values there, a list entry for each candidate."""

    column: list[int]
    ratio: list[float]
    demand: list[float]
    capacity: list[float]
    unstable: list[bool]
    unresisted: list[bool]
    place: list[float | None]


@dataclass(frozen=True)
class CheckResult:
    """One check of one foundation, as shown."""

    foundation: str
    check: Check
    state: State
    ratio: float | None = None
    demand: float | None = None
    capacity: float | None = None
    combination: str = ""
    message: str = ""
    required_factor: float | None = None
    column: int = 0
    """The governing column of the outcome: block x situations + situation."""
    question: str = ""
    """The question whose combinations were looked at ('' for checks without loads)."""
    place: float | None = None
    """Where it governs (see Outcome)."""
    situation: int = 0
    """The governing situation among those of the question."""

    @property
    def factor(self) -> float | None:
        """The safety factor, where the check is one."""
        if self.required_factor is None or not self.ratio:
            return None
        return self.required_factor / self.ratio


def cannot(check: str, why: str | tuple[str, ...]) -> Outcome:
    """A check that cannot be done for any candidate; ``why`` by candidate, or the same for all."""
    none = np.zeros((1, 1))
    return Outcome(CHECKS[check], none, none, none, why_not=(why,) if isinstance(why, str) else why)


def does_not_apply(check: str, why: str | tuple[str, ...]) -> Outcome:
    """A check that has no meaning here; ``why`` by candidate, or the same for all."""
    none = np.zeros((1, 1))
    return Outcome(CHECKS[check], none, none, none, not_applicable=(why,) if isinstance(why, str) else why)


def _of(texts: tuple[str, ...] | Callable[[int], str], candidate: int) -> str:
    if callable(texts):
        return texts(candidate)
    return texts[min(candidate, len(texts) - 1)] if texts else ""


LIMIT = 1.0 + 1e-9
"""Ratios up to this hold: the rounding of a demand that equals its capacity does not fail it."""
ALIKE = 1e-9
"""Relative difference up to which two situations are equally bad."""


def governing(outcome: Outcome, candidate: int) -> int:
    """The column that governs: an unstable one, else an unresisted one, else the one with the greatest ratio.

    Among equally bad ones the situation that stands first in the table, so that rounding does not make the shown one
    flicker."""
    return int(outcome.governing[min(candidate, outcome.ratio.shape[0] - 1)])


def reduced(
    outcome: Outcome, foundation: str, candidate: int = 0, accepted: tuple[Acceptance, ...] = ()
) -> CheckResult:
    """The result of a check for one candidate: its worst situation and state."""
    check = outcome.check
    meaningless = _of(outcome.not_applicable, candidate)
    if meaningless:
        return CheckResult(foundation, check, State.NOT_APPLICABLE, message=meaningless)
    why = outcome.reason(candidate)
    if why:
        return CheckResult(foundation, check, State.CANNOT, message=why)
    row = min(candidate, len(outcome.ratio) - 1)
    worst = outcome.worst
    column, ratio, lost = worst.column[row], worst.ratio[row], worst.unstable[row]
    note = outcome.note(row, column) if outcome.note else ""
    if lost:
        state = State.UNSTABLE
        message = outcome.because if isinstance(outcome.because, str) else outcome.because(row, column)
    elif worst.unresisted[row]:
        state, message = State.FAILS, note
    else:
        state, message = _judged(ratio, check.id, note, _of(outcome.warnings, candidate), accepted)
    situations = outcome.situations
    situation = column % len(situations) if situations is not None else 0
    no_ratio = lost or worst.unresisted[row]
    return CheckResult(
        foundation,
        check,
        state,
        ratio=None if no_ratio else ratio,
        demand=None if lost else worst.demand[row],
        capacity=None if lost else worst.capacity[row],
        combination=situations.label(situation) if situations is not None else "",
        message=message,
        required_factor=outcome.required_factor,
        column=column,
        place=None if no_ratio else worst.place[row],
        question=situations.question if situations is not None else "",
        situation=situation,
    )


def _judged(ratio: float, check: str, note: str, warning: str, accepted: tuple[Acceptance, ...]) -> tuple[State, str]:
    """State and message of a check that has a ratio."""
    message = joined((note, warning))
    if ratio <= LIMIT:
        return (State.WARNS if warning else State.HOLDS), message
    for acceptance in accepted:
        if acceptance.check == check:
            if ratio <= acceptance.ratio + 5e-4:
                return State.ACCEPTED, say(
                    "accepted up to {ratio:.2f}: {reason}", ratio=acceptance.ratio, reason=acceptance.reason
                )
            message = say(
                "was accepted up to {ratio:.2f}, the demand has grown beyond. {message}",
                ratio=acceptance.ratio,
                message=message,
            ).strip()
    return State.FAILS, message


def worst_by_candidate(outcomes: list[Outcome], candidates: int) -> list[tuple[float | None, State]]:
    """(worst ratio, state) of all checks together for each candidate; acceptances are left aside."""
    ratio = np.full(candidates, -np.inf)
    unstable = np.zeros(candidates, dtype=bool)
    unresisted = np.zeros(candidates, dtype=bool)
    cannot_be = np.zeros(candidates, dtype=bool)
    for outcome in outcomes:
        if outcome.idle.all():
            continue
        silent = outcome.idle | outcome.blocked
        cannot_be |= outcome.blocked
        lost, bare = outcome.lost.any(axis=-1), outcome.bare.any(axis=-1)
        unstable |= lost & ~silent
        unresisted |= bare & ~silent
        ratio = np.maximum(ratio, np.where(silent | lost | bare, -np.inf, outcome.ratio.max(axis=-1)))
    results: list[tuple[float | None, State]] = []
    for value, lost, bare, blocked in zip(ratio, unstable, unresisted, cannot_be):
        if lost or bare:
            results.append((None, State.UNSTABLE if lost else State.FAILS))
        elif value == -np.inf:
            results.append((None, State.CANNOT if blocked else State.NOT_APPLICABLE))
        else:
            results.append((float(value), State.FAILS if value > LIMIT else State.HOLDS))
    return results


def governing_by_candidate(outcomes: list[Outcome], count: int) -> tuple[Array, Array]:
    """(worst ratio, index of the outcome that gives it) by candidate; inf where one is lost."""
    worst, which = np.full(count, -np.inf), np.full(count, -1)
    for i, outcome in enumerate(outcomes):
        silent = outcome.idle | outcome.blocked
        if silent.all():
            continue
        lost = (outcome.lost | outcome.bare).any(axis=-1)
        value = np.where(silent, -np.inf, np.where(lost, np.inf, outcome.ratio.max(axis=-1)))
        value = np.broadcast_to(value, (count,))
        which = np.where(value > worst, i, which)
        worst = np.maximum(worst, value)
    return np.where(which < 0, np.nan, worst), which
