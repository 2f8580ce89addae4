"""A raft at a day: its plate under the loads that are there then, on the ground as it has settled until then."""

import numpy as np

from korbent.core.actions.construction import situation_at, timeline
from korbent.core.bench import Bench
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.concrete.several import columns_of
from korbent.core.model.project import Project
from korbent.core.plates.outline_mesh import UnmeshedError
from korbent.core.plates.solve import PlateOnSprings, UnsolvedError
from korbent.core.rafts.layered import STIFFEST
from korbent.core.rafts.on_strata import coupled, layered_below, strata_and_loads
from korbent.core.rafts.plate_of import gross_pressure, key_of, springs_of, subgrade_of, unsolved_words
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.settlement.history import base_history, column_history
from korbent.core.working import Array
from korbent.words import say


def raft_at(bench: Bench, project: Project, day: float) -> SolvedRaft | str:
    """The raft at a day from the first construction step, with concrete that has crept; or why there is none.

    On the strata the pressures of the steps settle the ground below each cell as below a mark of the Settlement stop,
    and the springs of the day are those pressures over these settlements: one look, without turns. Springs of the whole
    raft are its gross pressure over its settlement at the day; typed ones know no time."""
    pad, plate = bench.pads[0], bench.pads[0].plate
    assert plate is not None
    now = situation_at(project, day)
    own = base_history(project, pad.name)
    if own.why:
        return own.why
    if now is None or day < own.begins:
        return say("{pad} is not built yet on day {day:.0f}", pad=pad.name, day=day)
    k, source = subgrade_of(bench, project)
    if k is None:
        return source
    columns = tuple(columns_of(bench, now))
    try:
        springs, late = springs_of(bench, k, columns)
        gross = gross_pressure(bench, now, springs, columns)
        if plate.ground == "layers":
            found = _on_strata(bench, project, late, day)
            if isinstance(found, str):
                return found
            below, source = found, say("the strata as they have settled until the day")
        elif plate.subgrade is None:
            pressed = float((gross[:, :, 0] * springs.points).sum() / springs.points.sum())
            settled = own.at(day)
            if not settled > 1e-6:
                return say("the ground has not settled yet: type the modulus of subgrade reaction")
            # those of zones are typed
            below = np.where(np.isclose(springs.k, k), springs.k * (pressed / settled / k), springs.k)
            source = say("gross pressure over the settlement of the whole raft until the day")
        else:
            below, source = springs.k, say("typed: springs know no time")
        solution = late.on(below).solve(late.load(gross), not plate.lifts, plate.greatest)
    except UnmeshedError as error:
        return str(error)
    except UnsolvedError as error:
        return unsolved_words(error, ())
    on = springs.on(below)
    mean = float((on.points.sum(axis=1) @ on.k) / on.points.sum())
    return SolvedRaft(pad, now, columns, on, solution, gross, mean, source, np.array([late.E / springs.E]))


def _on_strata(bench: Bench, project: Project, late: PlateOnSprings, day: float) -> Array | str:
    """Stiffness of the ground below each element at a day, kN/m3."""
    below = layered_below(bench, project, late)
    if isinstance(below, str):
        return below
    if below.stages is None:
        return below.k
    stages = below.stages
    key, values = key_of(bench, project, "settlement_long")

    def followed() -> tuple[Array, Array, Array]:
        name = bench.pads[0].name
        parts = strata_and_loads(bench, project, late, uneven=coupled(project).beside(name))
        assert parts.strata.steps is not None
        columns = parts.strata.steps.staged(*parts.strata.below(stages))
        each = [column_history(project, name, column) for column in columns]
        return each[0].times, np.stack([one.total for one in each]), parts.cells.of

    times, settled, of = _followed.of((*key, round(late.E, 6), late.nu), values, followed)
    line = timeline(project)
    changes = np.diff(np.concatenate([np.zeros((1, stages.shape[1])), stages]), axis=0)
    pressure = (line.shares_at(np.array([day])) @ changes)[0]
    w = np.array([np.interp(day, times, row) for row in settled])
    mean = max(float(np.abs(w).mean()), 1e-9)
    k = np.maximum(pressure, 0.0) / np.maximum(w, mean / STIFFEST)
    # where nothing presses the spring says nothing
    k = np.where(k > 0, k, k[k > 0].mean() if (k > 0).any() else late.k.mean())
    return np.asarray(k[of])


_followed: Cache[tuple[Array, Array, Array]] = Cache(32 * MEGABYTE)
