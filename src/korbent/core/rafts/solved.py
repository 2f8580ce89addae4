"""A raft as a plate on the ground: columns press over their footprints, the ground as springs; solved for all
situations of a question."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.concrete.several import Column, columns_of
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.plates.mesh import Mesh
from korbent.core.plates.outline_mesh import UnmeshedError
from korbent.core.plates.recover import Fields, fields_of, moment_error
from korbent.core.plates.solve import PlateOnSprings, Solution, UnsolvedError, together
from korbent.core.rafts.layered import Layered
from korbent.core.rafts.on_strata import at_once_below, layered_below
from korbent.core.rafts.plate_of import (
    box_of,
    gross_pressure,
    key_of,
    springs_of,
    subgrade_of,
    unsolved_words,
)
from korbent.core.rafts.ribs import inside
from korbent.core.working import Array
from korbent.words import say, say_count

LASTING = ("settlement_long", "cracks")
"""Questions about what lasts: the concrete has crept."""


@dataclass(frozen=True)
class SolvedRaft:
    """The raft in all situations of a question."""

    pad: Pad
    situations: Situations
    columns: tuple[Column, ...]
    plate: PlateOnSprings
    solution: Solution
    gross: Array
    """Downward pressure at the points of integration without that of the ground, (elements, 4, situations), kPa."""
    k: float
    """Of the ground, kN/m3; where it rests on the strata pressure over settlement in the mean."""
    source: str
    """Where k is from."""
    softened: Array
    """Modulus of the concrete in each situation over that of the plate, (situations,)."""

    @property
    def mesh(self) -> Mesh:
        """Of the plate."""
        return self.plate.mesh

    @cached_property
    def fields(self) -> tuple[Fields, ...]:
        """Forces at the places, by thickness."""
        return fields_of(self.plate, replace(self.solution, unknowns=self.bending))

    @property
    def bending(self) -> Array:
        """Unknowns of which the stiffness of the plate makes its forces: those of softer concrete in proportion, (nodes
        x 3, situations)."""
        found: Array = self.solution.unknowns * self.softened
        return found

    @cached_property
    def moment_error(self) -> Array:
        """Estimated error of the moments in the mean, as a share, (situations,)."""
        return moment_error(self.plate, replace(self.solution, unknowns=self.bending))

    @cached_property
    def pressure(self) -> Array:
        """Of the ground at the places, effective, kPa, (places, situations): at each node the mean of the points
        around."""
        total, count = np.zeros((len(self.mesh.used), len(self.situations))), np.zeros(len(self.mesh.used))
        np.add.at(total, self.mesh.elements, self.solution.pressure)
        np.add.at(count, self.mesh.elements, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return self.mesh.on_places(total / count[:, None])

    @cached_property
    def settlement(self) -> Array:
        """Of the plate at the places, m, (places, situations)."""
        return self.mesh.on_places(self.solution.settlement)

    @cached_property
    def subgrade(self) -> Array:
        """Stiffness of the ground at the places, kN/m3, (places,): at each node the mean of the elements around."""
        total, count = np.zeros(len(self.mesh.used)), np.zeros(len(self.mesh.used))
        np.add.at(total, self.mesh.elements, self.plate.k[:, None])
        np.add.at(count, self.mesh.elements, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return self.mesh.on_places(total / count)

    @cached_property
    def in_columns(self) -> Array:
        """Places within a column, beyond its faces: nothing is designed there, (places,)."""
        x, y = self.mesh.places
        inside = np.zeros(len(x), dtype=bool)
        for column in self.columns:
            low_x, high_x, low_y, high_y = box_of(column)
            e = 1e-6
            inside |= (x > low_x + e) & (x < high_x - e) & (y > low_y + e) & (y < high_y - e)
        return inside

    @cached_property
    def in_ribs(self) -> Array:
        """Places within a rib: its own bars are designed there, (places,)."""
        return inside(self.pad, self.mesh)

    @cached_property
    def on_edges(self) -> Array:
        """Places on the outer edge or that of an opening, (places,)."""
        return self.mesh.free


def solved_raft(bench: Bench, project: Project, question: str) -> SolvedRaft | str:
    """The raft of a bench of one candidate; or why it cannot be solved. Remembered as long as what it depends on
    stays."""
    return _known.of(*key_of(bench, project, question), lambda: _solved(bench, project, question))


def solved_already(bench: Bench, project: Project, question: str) -> SolvedRaft | str | None:
    """The raft where it is known; None where it would have to be solved first."""
    return _known.those_of([key_of(bench, project, question)[0]]).get(0)


def keep_solved(bench: Bench, project: Project, question: str, found: SolvedRaft | str) -> None:
    """Takes a raft that was solved elsewhere."""
    key, values = key_of(bench, project, question)
    _known.put(key, values, found if isinstance(found, str) else replace(found, pad=bench.pads[0]))


_known: Cache["SolvedRaft | str"] = Cache(200 * MEGABYTE, each=8 * MEGABYTE)


def _solved(bench: Bench, project: Project, question: str) -> SolvedRaft | str:
    pad = bench.pads[0]
    plate = pad.plate
    assert plate is not None
    situations = bench.situations(question)
    if not len(situations):
        return bench.no_combination(question)
    k, source = subgrade_of(bench, project)
    if k is None:
        return source
    columns = tuple(columns_of(bench, situations))
    try:
        springs, late = springs_of(bench, k, columns)
    except UnmeshedError as error:
        return str(error)
    early: PlateOnSprings | None = None
    if plate.ground == "layers":
        try:
            below = layered_below(bench, project, late)
        except UnsolvedError as error:
            return unsolved_words(error, ())
        if isinstance(below, str):
            return below
        first = at_once_below(bench, project, springs) if question == "concrete" else None
        early = springs.on(first.k) if isinstance(first, Layered) else None
        springs, late, source = springs.on(below.k), late.on(below.k), below.words()
        if isinstance(first, Layered):
            source += say("; at once {k:.0f} to {k_2:.0f} kN/m³", k=first.k.min(), k_2=first.k.max())
        elif first:
            source += say("; what comes at once is not looked at: {first}", first=first)
    elif plate.zones:
        source += say_count(
            len(plate.zones),
            "; {number} zone of other springs, {least:.0f} to {most:.0f} kN/m³; this is their mean",
            "; {number} zones of other springs, {least:.0f} to {most:.0f} kN/m³; this is their mean",
            least=springs.k.min(),
            most=springs.k.max(),
        )
    k = float((springs.points.sum(axis=1) @ springs.k) / springs.points.sum())
    gross = gross_pressure(bench, situations, springs, columns)
    plates = (
        (late,)
        if question in LASTING
        else (early or springs, late)
        if (plate.creep or early is not None) and question == "concrete"
        else (springs,)
    )
    try:
        parts = [one.solve(one.load(gross), not plate.lifts, plate.greatest) for one in plates]
    except UnsolvedError as error:
        return unsolved_words(error, tuple(situations.label(i) for i in error.loads))
    softened = np.repeat([one.E / springs.E for one in plates], len(situations))
    if len(parts) > 1:
        situations, gross = situations.twice(say(" long term")), np.concatenate([gross] * 2, axis=-1)
        columns = tuple(columns_of(bench, situations))
    return SolvedRaft(pad, situations, columns, springs, together(parts), gross, k, source, softened)
