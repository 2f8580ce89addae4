"""Settlement over time and over depth as rows: for the window, JSON, spreadsheets and the report."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.construction import YEAR
from korbent.core.model.project import Project
from korbent.core.settlement.history import History, PadHistory, history, mark_history
from korbent.words import say


@dataclass(frozen=True)
class Moment:
    """One point at one day; settlements in m. ``event`` names a step, the end of primary, the end of the stated life,
    or the end."""

    day: float
    event: str
    total: float
    immediate: float
    primary: float
    """Without what comes at once, and without creep."""
    creep: float
    earlier: float
    """Settled before the base was built: not counted in ``total``."""
    degree: float
    """Of primary consolidation with what comes at once, over its end."""


@dataclass(frozen=True)
class Cell:
    """One cell at one day: levels in m, stresses in kPa, compression in m."""

    stratum: str
    top: float
    bottom: float
    before: float
    preconsolidation: float | None
    added: float
    excess: float
    effective: float
    strain: float
    compression: float


def points(project: Project) -> tuple[History, tuple[PadHistory, ...]]:
    """The history of all foundations, and with them of all marks."""
    found = history(project)
    return found, (*found.pads, *(mark_history(project, mark) for mark in project.actions.marks))


YEARS = (1, 2, 5, 10, 20, 50, 100)


def moments(found: History, own: PadHistory, every: bool = False) -> list[Moment]:
    """Rows over time: when steps begin and are complete, the end of primary, some years, and the end; or ``every`` time
    that is known."""
    if own.why:
        return []
    life = float(own.times[-1])
    events: dict[float, str] = {}
    for step, begins, ends in zip(found.line.steps, found.line.begins, found.line.ends):
        events.setdefault(float(begins), say("{step} begins", step=step.name))
        if ends > begins:
            events.setdefault(float(ends), say("{step} complete", step=step.name))
    if own.end_of_primary < life:
        events.setdefault(own.end_of_primary, say("end of primary"))
    for years in YEARS:
        if years * YEAR < life:
            events.setdefault(years * YEAR, "")
    events.setdefault(life, say("end of the stated life"))
    days = sorted({*events, *(map(float, own.times) if every else ())})
    rows = [_at(own, day, events.get(day, "")) for day in days if day <= life]
    rows.append(
        Moment(
            np.inf,
            say("in the end"),
            own.final,
            own.final_immediate,
            own.final_primary - own.final_immediate,
            own.final_creep,
            float(own.earlier[-1]),
            1.0,
        )
    )
    return rows


def _at(own: PadHistory, day: float, event: str) -> Moment:
    total, immediate, creep, earlier = (
        float(np.interp(day, own.times, values)) for values in (own.total, own.immediate, own.creep, own.earlier)
    )
    primary = total - creep
    degree = primary / own.final_primary if abs(own.final_primary) > 1e-12 else 1.0
    return Moment(day, event, total, immediate, primary - immediate, creep, earlier, degree)


def cells(own: PadHistory, day: float) -> list[Cell]:
    """Rows over depth at a day."""
    if own.why:
        return []
    i = int(np.clip(np.searchsorted(own.times, day + 1e-9, side="right") - 1, 0, len(own.times) - 1))
    share = 0.0
    if i + 1 < len(own.times):
        share = (day - own.times[i]) / max(own.times[i + 1] - own.times[i], 1e-12)
    j = min(i + 1, len(own.times) - 1)
    added, excess, strain = (
        values[i] + share * (values[j] - values[i]) for values in (own.added, own.excess, own.strain)
    )
    rows = []
    for c, k in enumerate(own.stratum):
        top, bottom = float(own.levels[c]), float(own.levels[c + 1])
        if top <= bottom:
            continue
        past = float(own.preconsolidation[c])
        rows.append(
            Cell(
                own.strata[k],
                top,
                bottom,
                float(own.before[c]),
                past if np.isfinite(past) else None,
                float(added[c]),
                float(excess[c]),
                float(own.before[c] + added[c] - excess[c]),
                float(strain[c]),
                float(strain[c] * (top - bottom)),
            )
        )
    return rows
