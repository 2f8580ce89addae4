"""The checks of rafts: pressure and slopes of the plate, its bars by face and direction, punching of every column,
one-way shear, cracks."""

from dataclasses import replace

from korbent.core.bench import Bench
from korbent.core.checks import Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.detailing import cover_check, detailing, side_bars_check
from korbent.core.concrete.pad import ConcretePad, concrete_pad, too_thin, under_concrete
from korbent.core.concrete.several import Column, interfaces_of, punching_of_each, record_column
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.model.project import Project
from korbent.core.rafts.bars import OF_BARS, flexure_of_plate
from korbent.core.rafts.cracks import crack_checks
from korbent.core.rafts.ground_checks import pressure_checks, slope_checks
from korbent.core.rafts.neighbours import neighbour_checks
from korbent.core.rafts.punching import seen_by, thickened_areas
from korbent.core.rafts.rib_checks import rib_checks
from korbent.core.rafts.ribs import on_ribs
from korbent.core.rafts.said import record_plate, unsolved
from korbent.core.rafts.shear import shear_of_plate
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.working import Recorder
from korbent.words import say

OF_CONCRETE = (
    *OF_BARS,
    "punching",
    "shear-x",
    "shear-y",
    "minimum-x",
    "minimum-y",
    "spacing-x",
    "spacing-y",
    "cover",
)
LONG = 4.0
"""What is longer than so many times its thickness is a wall: it does not punch as a column does."""


def raft_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """All checks of a raft that come from its plate; none for candidate sizes, whose plates are not solved."""
    if len(bench.index) > 1 or not _is_as_modelled(bench):
        return []
    return [
        *pressure_checks(bench, project, record.scope(say("raft pressure"))),
        *slope_checks(bench, project, record.scope(say("raft slope"))),
        *neighbour_checks(bench, project, record.scope(say("raft neighbours"))),
        *_concrete(bench, project, record),
    ]


def _is_as_modelled(bench: Bench) -> bool:
    pad, g = bench.pads[0], bench.geometry
    sizes = ((g.B, pad.width), (g.L, pad.length), (g.h, pad.thickness), (g.underside, pad.underside))
    return all(abs(float(now[0, 0]) - own) < 1e-9 for now, own in sizes)


def _is_long(column: Column) -> bool:
    sizes = column.size[0].max(), column.size[1].max()
    return bool(max(sizes) > LONG * min(sizes))


def punching_columns(pad: ConcretePad, solved: SolvedRaft) -> list[tuple[Column, float | None]]:
    """Columns that may punch (none that is a wall, or stands on a rib), and thicker parts below them with the thickness
    beside each."""
    columns = [c for c in solved.columns if not _is_long(c) and not on_ribs(solved.pad, c)]
    areas = [(a, h) for a, h in thickened_areas(pad, solved, columns) if not _is_long(a)]
    return [*((c, None) for c in columns), *areas]


def _concrete(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    if bench.standards.concrete not in NAMES:
        return [
            cannot(check, say("no concrete standard is chosen: choose one in Project, Title and standards"))
            for check in OF_CONCRETE
        ]
    if bench.settings.base_concrete == "plain":
        return [
            cannot(check, say("a raft of plain concrete is not checked: choose reinforced")) for check in OF_CONCRETE
        ]
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        return [unsolved(check, solved) for check in OF_CONCRETE]
    situations = solved.situations
    forces, contact = under_concrete(bench, situations, record)
    pad = concrete_pad(
        bench.geometry, situations, forces, contact, bench.settings, bench.standards.concrete, record, True
    )
    thin = too_thin(pad)
    scope = record.scope("plate")
    record_plate(solved, scope)
    outcomes = [
        flexure_of_plate(bench, pad, solved, face, axis, record, thin) for face in ("bottom", "top") for axis in "xy"
    ]
    which = punching_columns(pad, solved)
    columns = [c for c, thickness in which if thickness is None]
    if columns:
        beside = {c.name: h for c, h in which if h is not None}
        outcomes += punching_of_each(
            pad,
            columns,
            [c for c, h in which if h is not None],
            record,
            thin,
            lambda one: seen_by(pad, solved, one, beside.get(one.name)),
        )
    elif any(on_ribs(solved.pad, c) for c in solved.columns):
        outcomes.append(does_not_apply("punching", say("every column stands on a rib, whose shear carries it")))
    else:
        outcomes.append(does_not_apply("punching", say("walls alone stand on it")))
    if columns or any(on_ribs(solved.pad, c) for c in solved.columns):
        for column in solved.columns:
            if not any(column is c for c in columns):  # what it brings was not looked at yet
                record_column(column, record.scope(column.name))
        outcomes += interfaces_of(bench, pad, list(solved.columns), record)
    outcomes += rib_checks(pad, solved, record)
    for axis in "xy":
        outcomes.append(shear_of_plate(pad, solved, axis, record.scope(say("shear {axis}", axis=axis)), thin))
        outcomes += detailing(pad, axis, record, thin)
    outcomes += [cover_check(pad, record), side_bars_check(bench, pad, record)]
    outcomes += crack_checks(bench, project, record)
    return [replace(o, check=by_clause(o.check, pad.standard.clauses)) for o in outcomes]
