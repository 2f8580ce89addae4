"""Settlement over time and over depth as a workbook or a table, in the units of the project; and as plain values for
JSON."""

import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from korbent.core.model import Project
from korbent.core.settlement.history import History, PadHistory
from korbent.core.settlement.over_time import Moment, cells, moments, points
from korbent.core.units import shown_unit, to_shown
from korbent.files.sheet import write_sheets
from korbent.words import say

Table = tuple[Sequence[str], list[list[str | float]]]


def time_header(project: Project) -> list[str]:
    """Headings of a table over time."""
    mm = shown_unit("mm", project.showing)
    return [
        say("point"),
        say("day"),
        say("date"),
        say("event"),
        say("settlement, {mm}", mm=mm),
        say("at once, {mm}", mm=mm),
        say("primary, {mm}", mm=mm),
        say("creep, {mm}", mm=mm),
        say("before it was built, {mm}", mm=mm),
        say("degree of primary, %"),
    ]


def time_rows(project: Project, found: History, own: PadHistory, every: bool = False) -> list[list[str | float]]:
    """Rows of a table over time."""

    def mm(value: float) -> float:
        return round(float(to_shown(1000 * value, "mm", project.showing)), 4)

    return [
        [
            own.name,
            round(m.day, 1) if math.isfinite(m.day) else "",
            found.date(m.day).isoformat() if found.line.dated and math.isfinite(m.day) else "",
            m.event,
            mm(m.total),
            mm(m.immediate),
            mm(m.primary),
            mm(m.creep),
            mm(m.earlier),
            round(100 * m.degree, 2),
        ]
        for m in moments(found, own, every)
    ]


def depth_header(project: Project) -> list[str]:
    """Headings of a table over depth."""
    units = project.showing
    m, kPa, mm = (shown_unit(unit, units) for unit in ("m", "kPa", "mm"))
    return [
        say("point"),
        say("day"),
        say("date"),
        say("stratum"),
        say("top, {m}", m=m),
        say("bottom, {m}", m=m),
        say("σ′ before, {kPa}", kPa=kPa),
        f"σ′p, {kPa}",
        say("added, {kPa}", kPa=kPa),
        say("excess pore pressure, {kPa}", kPa=kPa),
        f"σ′, {kPa}",
        say("strain, %"),
        say("compression, {mm}", mm=mm),
    ]


def depth_rows(project: Project, found: History, own: PadHistory, day: float) -> list[list[str | float]]:
    """Rows of a table over depth at a day."""
    units = project.showing

    def of(value: float, unit: str) -> float:
        return round(float(to_shown(value, unit, units)), 5)

    date = found.date(day).isoformat() if found.line.dated else ""
    return [
        [
            own.name,
            round(day, 3),
            date,
            c.stratum,
            of(c.top, "m"),
            of(c.bottom, "m"),
            of(c.before, "kPa"),
            "" if c.preconsolidation is None else of(c.preconsolidation, "kPa"),
            of(c.added, "kPa"),
            of(c.excess, "kPa"),
            of(c.effective, "kPa"),
            round(100 * c.strain, 6),
            of(1000 * c.compression, "mm"),
        ]
        for c in cells(own, day)
    ]


def days_shown(own: PadHistory, found: History) -> list[float]:
    """The days of the tables over depth: when each step is complete, and the end of the stated life."""
    return sorted({*(float(day) for day in found.line.ends if day < own.times[-1]), float(own.times[-1])})


def write_settlement(project: Project, path: Path) -> int:
    """Writes settlement over time of all foundations and marks; into a workbook also over depth. Returns the number of
    points.

    Raises:
        OSError: when it cannot be written.
        ValueError: when the name ends in neither .csv nor .xlsx.
    """
    if path.suffix.lower() not in (".csv", ".xlsx"):
        raise ValueError(say("the name must end in .csv or .xlsx"))
    found, known = points(project)
    some = [own for own in known if not own.why]
    tables: dict[str, Table] = {
        say("Over time"): (
            time_header(project),
            [row for own in some for row in time_rows(project, found, own, every=True)],
        )
    }
    if path.suffix.lower() == ".xlsx":
        deep = [row for own in some for day in days_shown(own, found) for row in depth_rows(project, found, own, day)]
        tables[say("Over depth")] = (depth_header(project), deep)
        tables[say("Not computed")] = ([say("point"), "why"], [[own.name, own.why] for own in known if own.why])
    write_sheets(path, tables)
    return len(some)


def as_values(project: Project) -> dict[str, Any]:
    """Settlement over time for JSON: SI units with millimetres, by point."""
    found, known = points(project)
    return {
        "start": found.start.isoformat() if found.line.dated else None,
        "steps": [
            {"name": s.name, "begins": float(b), "complete": float(e)}
            for s, b, e in zip(found.line.steps, found.line.begins, found.line.ends)
        ],
        "points": [_point(found, own) for own in known],
    }


def _point(found: History, own: PadHistory) -> dict[str, Any]:
    if own.why:
        return {"name": own.name, "why": own.why}
    days = {f"t{round(100 * share)}": own.time_to(share) for share in (0.5, 0.9, 0.95)}
    return {
        "name": own.name,
        "final_mm": 1000 * own.final,
        "immediate_mm": 1000 * own.final_immediate,
        "primary_mm": 1000 * (own.final_primary - own.final_immediate),
        "creep_mm": 1000 * own.final_creep,
        "before_it_was_built_mm": 1000 * float(own.earlier[-1]),
        "built_day": own.begins,
        "end_of_primary_day": own.end_of_primary,
        **{name: day if math.isfinite(day) else None for name, day in days.items()},
        "over_time": [_moment(m) for m in moments(found, own)],
        "over_depth": [
            {"day": day, "cells": [vars(c) for c in cells(own, day)]} for day in days_shown(own, found)[-1:]
        ],
    }


def _moment(m: Moment) -> dict[str, Any]:
    return {
        "day": m.day if math.isfinite(m.day) else None,
        "event": m.event or None,
        "settlement_mm": 1000 * m.total,
        "immediate_mm": 1000 * m.immediate,
        "primary_mm": 1000 * m.primary,
        "creep_mm": 1000 * m.creep,
        "degree": m.degree,
    }
