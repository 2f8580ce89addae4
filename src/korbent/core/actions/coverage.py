"""Which load cases act in no combination of a question that they can matter to: nothing that was entered drops out
silently."""

from collections.abc import Iterable

from korbent.core.actions.generate import IMPORTED
from korbent.core.cache import remembered
from korbent.core.model.actions import Actions, Combination, LoadCase, LoadPoint
from korbent.core.model.ground import Water
from korbent.words import say, say_count

QUESTIONS = (
    "allowable",
    "ultimate",
    "EQU",
    "UPL",
    "concrete",
    "settlement_long",
    "settlement_short",
    "cracks",
)
SERVICE = ("settlement_long", "settlement_short", "cracks")
NOT_IN_SERVICE = ("accidental", "seismic")
"""Natures that service does not ask for."""
NOT_LASTING = ("accidental", "seismic", "wind", "snow", "temperature", "rain")
"""Natures that do not act long enough for the final settlement and for cracks."""
ROOFS = ("roof", "H")
"""Imposed loads that standards take as absent in service but for their rare greatest value (EN 1990 table A1.1: psi1 =
psi2 = 0)."""


def matters(case: LoadCase, question: str, lifts: bool) -> bool:
    """Whether a case can decide about a question; ``lifts``: somewhere it lifts or pushes, and does not only press
    down."""
    if case.nature == "wind" and case.category:
        factored = question in ("ultimate", "concrete", "EQU", "UPL")
        if factored != (case.category == "ultimate"):
            return False
    roof = case.nature == "rain" or (case.nature == "imposed" and case.category in ROOFS)
    if question in ("settlement_long", "cracks"):
        return case.nature not in NOT_LASTING and not roof
    if question == "settlement_short":
        return case.nature not in NOT_IN_SERVICE and not roof
    if question in ("EQU", "UPL"):
        # what only presses down holds; left out it is on the safe side
        return lifts
    return True


def left_out(actions: Actions) -> dict[str, tuple[str, ...]]:
    """By question that some combination serves: the cases with loads that none of its combinations contains, though
    they may matter.

    Questions that no combination serves are not looked at: their checks say that themselves.
    """
    found = {question: left_out_on(actions, question, actions.load_points) for question in QUESTIONS}
    return {question: cases for question, cases in found.items() if cases}


def left_out_on(actions: Actions, question: str, points: tuple[LoadPoint, ...]) -> tuple[str, ...]:
    """Of these cases the ones that load some columns."""
    return _of_points(actions.cases, actions.combinations, question, points)


@remembered(1024)
def _of_points(
    cases: tuple[LoadCase, ...],
    combinations: tuple[Combination, ...],
    question: str,
    points: tuple[LoadPoint, ...],
) -> tuple[str, ...]:
    serving = [c for c in combinations if question in c.serves]
    if not serving:
        return ()
    used = {name for c in serving for name, factor in c.factors.items() if factor}
    return tuple(
        case.name
        for case in cases
        if case.name not in used
        and case.exclusive != IMPORTED
        and _loads(case.name, points)
        and matters(case, question, _lifts(case, points))
    )


def questions_without(actions: Actions, case: str) -> tuple[str, ...]:
    """The questions that a case is left out of."""
    return tuple(question for question, names in left_out(actions).items() if case in names)


def level_left_out(actions: Actions, water: Water | None, question: str) -> str:
    """What is said where no combination of a question of ground or concrete looks at the high water level (EN 1997-1
    2.4.6.1(6))."""
    serving = [c for c in actions.combinations if question in c.serves]
    if water is None or water.high <= water.normal or not serving or question in SERVICE:
        return ""
    if any(c.water in ("high", "worst") for c in serving):
        return ""
    return say("no combination of this question looks at the high water level")


def words(cases: Iterable[str]) -> str:
    """What is said at a check."""
    names = tuple(cases)
    if not names:
        return ""
    return say_count(
        len(names),
        "{names} acts in no combination of this question",
        "{names} act in no combination of this question",
        names=", ".join(names),
    )


def _loads(case: str, points: Iterable[LoadPoint]) -> bool:
    return any(
        case in p.loads and any(getattr(p.loads[case], q) for q in ("V", "Hx", "Hy", "Mx", "My")) for p in points
    )


def _lifts(case: LoadCase, points: Iterable[LoadPoint]) -> bool:
    return any(
        case.name in p.loads
        and (
            p.loads[case.name].V < 0
            or case.reversible
            or any(getattr(p.loads[case.name], q) for q in ("Hx", "Hy", "Mx", "My"))
        )
        for p in points
    )
