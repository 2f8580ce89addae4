"""Settlement marks as results: the final settlement of points of the plan, against their limits."""

import numpy as np

from korbent.core.cache import Cache
from korbent.core.checks import LIMIT, Check, CheckResult, State
from korbent.core.model.actions import SettlementMark
from korbent.core.model.project import Project
from korbent.core.settlement.history import mark_history, staged_mark
from korbent.core.settlement.memory import Staged
from korbent.words import say

MARK = Check("mark", say("Settlement of a mark"), "settlement", "mm", "EN 1997-1 6.6.2", "strata")


def mark_checks(project: Project) -> tuple[CheckResult, ...]:
    """One result for each mark: checked where it has a limit, else only said."""
    return tuple(_checked(project, mark) for mark in project.actions.marks)


def _checked(project: Project, mark: SettlementMark) -> CheckResult:
    found = _final(project, mark)
    if isinstance(found, str):
        return CheckResult(mark.name, MARK, State.CANNOT, message=found)
    total, creep, below = (1000 * v for v in found)
    texts = (
        [say("primary {total:.1f} mm, creep {creep:.1f} mm", total=total - creep, creep=creep)]
        if abs(creep) > 0.05
        else []
    )
    if total < 0:
        texts.insert(0, say("the ground heaves"))
    more = (
        say("below the influence depth the ground would settle {below:.1f} mm more", below=below)
        if abs(below) > max(2.0, 0.05 * abs(total))
        else ""
    )
    if mark.limit is None:
        message = "; ".join((*texts, say("no limit is given: not checked")))
        return CheckResult(mark.name, MARK, State.NOT_APPLICABLE, demand=total, message=message)
    ratio = abs(total) / (1000 * mark.limit)
    state = State.FAILS if ratio > LIMIT else State.WARNS if more else State.HOLDS
    message = "; ".join(text for text in (*texts, more) if text)
    return CheckResult(mark.name, MARK, state, ratio=ratio, demand=total, capacity=1000 * mark.limit, message=message)


_known: Cache[tuple[float, float, float] | str] = Cache()


def _final(project: Project, mark: SettlementMark) -> tuple[float, float, float] | str:
    """Final settlement, creep within and what lies below the influence depth, m; or why there is none. Kept by what
    acts there."""
    staged = staged_mark(project, mark)
    if isinstance(staged, str):
        return staged
    key = _key(project, staged)

    def made() -> tuple[float, float, float] | str:
        found = mark_history(project, mark)
        return found.why or (found.final, found.final_creep, found.below)

    return _known.of(key, (staged, project.actions.drains), made)


def _key(project: Project, staged: Staged) -> tuple[object, ...]:
    soils = staged.column.profile.soils
    return (
        np.round(staged.beside, 9).tobytes(),
        b"" if staged.angle is None else np.round(staged.angle, 9).tobytes(),
        staged.column.levels.tobytes(),
        staged.before.tobytes(),
        staged.place,
        id(staged.line),
        id(staged.settings),
        *map(id, soils),
        *map(id, project.actions.drains),
    )
