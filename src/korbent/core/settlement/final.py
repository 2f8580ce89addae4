"""Final settlement of rigid bases on layered ground: primary at full dissipation, and creep at the stated life."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.construction import YEAR, Timeline
from korbent.core.ground.profile import Profile, effective_stress
from korbent.core.model.ground import Backfill
from korbent.core.model.settings import Settings
from korbent.core.settlement.column import Column, column_of
from korbent.core.settlement.creep import creep_strain, creeps, slow_factor
from korbent.core.settlement.drainage import drainage, ends_of_primary
from korbent.core.settlement.footing import Footing
from korbent.core.settlement.formulas import peak_depth
from korbent.core.settlement.integration import immediate_strain, primary_strain, reach
from korbent.core.settlement.laws import LAWS, Path
from korbent.core.settlement.laws.strain_influence import StrainInfluence
from korbent.core.working import Array

HOW = {name: law.how for name, law in LAWS.items()}
"""The law of a stratum, as it is named where its settlement is shown."""


@dataclass(frozen=True)
class Settlement:
    """Results of shape (candidates, situations), m, unless said otherwise. Heave is negative."""

    total: Array
    by_stratum: Array
    """Shape (candidates, situations, strata), m; of strata that are one the first has it all."""
    immediate: Array
    """Part of it that comes at once, undrained (Eu), m."""
    creep: Array
    """Part of it that comes after primary consolidation, until the end of the stated life, m."""
    below: Array
    """What the strata below the influence depth would add, m."""
    middle: Array
    """Settlement of the middle of a flexible base, m; nan where it was not asked for."""
    influence: Array
    """Depth below the base to which strata are counted, m."""
    end_ratio: Array
    """Added stress over effective stress where the profile ends; above the limit, the profile is too shallow."""
    strain: Array
    """The greatest strain of a cell that counts."""
    earlier: Array
    """What the ground had settled before the base was built, m."""
    tilt_x: Array
    """Change of the settlement along x of the plan by what acts beside, m/m."""
    tilt_y: Array

    def row(self, candidate: int) -> "Settlement":
        """One candidate alone."""
        return Settlement(*(getattr(self, f)[candidate : candidate + 1].copy() for f in FIELDS))


FIELDS = (
    "total",
    "by_stratum",
    "immediate",
    "creep",
    "below",
    "middle",
    "influence",
    "end_ratio",
    "strain",
    "earlier",
    "tilt_x",
    "tilt_y",
)


def together(rows: Sequence[Settlement]) -> Settlement:
    """Candidates one after the other."""
    return Settlement(*(np.concatenate([getattr(row, f) for row in rows]) for f in FIELDS))


@dataclass(frozen=True)
class Around:
    """What acts in the cells besides the bases themselves, and what the ground remembers; (..., points, 1 or
    situations, cells)."""

    beside: Array
    """In the last state, kPa, (points, situations, cells)."""
    angle: Array | None = None
    along: tuple[Array, Array] | None = None
    """Change of ``beside`` along x and y of the plan, kPa/m."""
    line: Timeline | None = None
    stages: Array | None = None
    """Net pressure of the bases after each step, (steps, points)."""
    beside_stages: Array | None = None
    """(steps, points, 1, cells), with what changes of the water come to."""
    ends: Array | None = None
    """Days to the end of primary, (steps, points, 1, cells)."""
    strain: Array | float = 0.0
    """Primary strain when the bases are built, and the other parts."""
    immediate: Array | float = 0.0
    creep: Array | float = 0.0
    highest: Array | None = None
    """Greatest effective stress that the steps leave behind, (points, 1, cells)."""
    first: Array | None = None
    """The first step in which each base presses, (points,)."""
    sideways: bool = False
    """Elastic strata strain with three stresses beside the base too."""


def settle(
    column: Column,
    backfill: Backfill,
    footing: Footing,
    q: Array,
    water: Array,
    settings: Settings,
    around: Around,
    middle: bool = False,
) -> Settlement:
    """Settlement of rigid bases under a net pressure and all that acts beside them.

    Args:
        q: net pressure in the last state, kPa, (points, situations); negative where the ground is relieved.
        water: groundwater before anything is built, m, (situations,).
        middle: the middle of a flexible base is asked for too.
    """
    before = column.before(backfill, water)
    yielded = column.yielded(before)
    path = Path(
        before,
        yielded,
        q[None],
        footing.unit(column),
        around.beside[None],
        footing,
        None if around.angle is None else around.angle[None],
        None,
        around.highest,
        around.sideways,
    )
    primary = primary_strain(column, path)[0]
    if settings.rigid_ratio is not None:
        primary = _by_ratio(column, path, settings.rigid_ratio)
    primary = primary - around.strain
    immediate = immediate_strain(column, path)[0] - around.immediate
    added = path.total
    if around.stages is not None and around.beside_stages is not None:
        staged = around.stages[:, :, None, None] * path.unit + around.beside_stages
        added = np.concatenate([staged + 0.0 * added, added])
    found = reach(column, added, before, settings.settlement_influence)
    slow = _creep(column, path, added, settings, around) - around.creep
    strain = primary + immediate + slow
    by_stratum = column.by_stratum(strain * found.counted)
    middles = np.full(q.shape, np.nan)
    if middle:
        of_middle = replace(
            path, unit=replace(footing, middle=True).unit(column), footing=replace(footing, middle=True)
        )
        whole = (
            primary_strain(column, of_middle)[0]
            - around.strain
            + immediate_strain(column, of_middle)[0]
            - around.immediate
            + slow
        )
        middles = column.by_stratum(whole * found.counted).sum(axis=-1)
    tilts = [np.zeros(q.shape), np.zeros(q.shape)]
    if around.along is not None:
        tangent = _tangent(column, path)
        tilts = [(tangent * slope * column.thickness * found.counted).sum(axis=-1) for slope in around.along]
    earlier = (around.strain + around.immediate + around.creep) * found.counted * column.thickness
    shape = q.shape
    return Settlement(
        by_stratum.sum(axis=-1),
        np.broadcast_to(by_stratum, (*shape, by_stratum.shape[-1])),
        _sum(immediate * found.counted, column, shape),
        _sum(slow * found.counted, column, shape),
        _sum(strain * (1 - found.counted), column, shape),
        middles,
        np.broadcast_to(found.depth + (footing.level - column.levels[:, :1]), shape),
        np.broadcast_to(found.end_ratio, shape),
        np.broadcast_to((np.abs(strain) * (found.counted > 0) * (column.thickness > 0)).max(axis=-1), shape),
        np.broadcast_to(earlier.sum(axis=-1), shape),
        *tilts,
    )


def _sum(strain: Array, column: Column, shape: tuple[int, ...]) -> Array:
    return np.broadcast_to((strain * column.thickness).sum(axis=-1), shape)


def _by_ratio(column: Column, path: Path, ratio: float) -> Array:
    """Primary strain where a rigid base settles a typed share of the middle of a flexible one; what acts beside stays
    whole."""
    assert path.footing is not None
    middle = replace(path.footing, middle=True)
    whole = primary_strain(column, replace(path, unit=middle.unit(column), footing=middle))[0]
    without = primary_strain(column, replace(path, pressure=0.0 * path.pressure))[0]
    found: Array = without + ratio * (whole - without)
    return found


def _tangent(column: Column, path: Path) -> Array:
    """How much more each cell would be compressed by a little more stress, as it is in the end, 1/kPa."""
    after = path.after[0]
    found = np.zeros(after.shape)
    for kind, law in LAWS.items():
        where = column.follows(kind)
        if where.any():
            found = np.where(where, law.tangent(column, path, after), found)
    return found


def _creep(column: Column, path: Path, added: Array, settings: Settings, around: Around) -> Array:
    """Creep at the end of the stated life, (points, situations, cells)."""
    line = around.line
    clocks = np.append(line.clocks, line.ends[-1]) if line is not None and len(line) else np.zeros(1)
    life = line.life(settings) if line is not None else settings.settlement_years * YEAR
    found = np.zeros(added.shape[1:])
    if creeps(column).any() and around.ends is not None:
        ends = around.ends
        ends = np.concatenate([ends, ends[-1:]]) if len(ends) < len(added) else ends
        found = creep_strain(
            column, [life], clocks[-len(added) :], ends, path.before + added, path.before, path.yielded
        )[0]
    influenced = column.follows("strain_influence")
    if influenced.any():
        pressures = path.pressure
        if around.stages is not None:
            pressures = np.concatenate([around.stages[:, :, None] + 0.0 * pressures, pressures])
        factor = slow_factor(np.array([life]), clocks[-len(pressures) :], pressures)[0]
        under = StrainInfluence.under(column, path)[0]
        found = np.where(influenced, found + factor[..., None] * np.maximum(under, 0.0), found)
    return found


def footing_for(
    profile: Profile,
    backfill: Backfill,
    B: Array,
    L: Array,
    founding: Array,
    water: Array,
    embedment: Array | None,
    settings: Settings,
) -> Footing:
    """Rectangular bases, or squares of equal area, as they press: arrays (points, 1), water (situations,)."""
    peak = founding - peak_depth(np.minimum(B, L), np.maximum(B, L))
    at = [effective_stress(profile, backfill, profile.existing_at(z), z, water) for z in (founding, peak)]
    return Footing(B, L, founding, None, None, embedment, at[0], at[1], strip=settings.pore_pressure_shape == "strip")


def final_settlement(
    profile: Profile,
    backfill: Backfill,
    q: Array,
    B: Array,
    L: Array,
    founding: Array,
    water: Array,
    settings: Settings,
    embedment: Array | None = None,
    place: tuple[float, float] | None = None,
) -> Settlement:
    """Settlement of rigid rectangles that stand alone, loaded at once; of flexible ones at a ``place`` (see
    :class:`Footing`).

    Args:
        q: net pressure, kPa, (points, situations). B, L, founding: (points, 1), m. water: levels (situations,).
        embedment: depth below the ground, m, (points, 1): with it the elastic part is reduced (Fox 1948).
    """
    column = column_of(profile, founding[:, 0])
    footing = replace(footing_for(profile, backfill, B, L, founding, water, embedment, settings), place=place)
    if place is not None:
        settings = settings.replaced(rigid_ratio=None)
    cells = column.levels.shape[1] - 1
    ends = ends_alone(profile, backfill, footing, q, water, settings) if creeps(column).any() else None
    return settle(
        column,
        backfill,
        footing,
        q,
        water,
        settings,
        Around(np.zeros((1, q.shape[1], cells)), ends=ends),
        middle=place is None,
    )


def ends_alone(
    profile: Profile, backfill: Backfill, footing: Footing, q: Array, water: Array, settings: Settings
) -> Array:
    """Days to the end of primary below bases that stand alone, under the first situation, (1, points, 1, cells)."""
    found = []
    line = Timeline((), np.zeros(1), np.zeros(1), np.zeros((1, 0)), False)
    for p in range(len(footing.level)):
        some = slice(p, p + 1)
        one = (
            profile
            if profile.top.ndim == 1
            else replace(profile, top=profile.top[p], bottom=profile.bottom[p], existing=profile.existing[p])
        )
        column = column_of(one, footing.level[some, 0])
        own = Footing(
            footing.B[some],
            footing.L[some],
            footing.level[some],
            at_base=np.zeros((1, 1)),
            at_peak=np.ones((1, 1)),
        )
        before = column.before(backfill, water[:1])
        path = Path(
            before,
            column.yielded(before),
            q[None, some, :1],
            own.unit(column),
            np.zeros((1, *before.shape)),
            own,
        )
        drained = drainage(column, path, (), (0.0, 0.0), settings) if any(s.consolidates for s in one.soils) else None
        found.append(ends_of_primary([column], [drained], [path.total[:, 0, 0]], line, settings)[0])
    return np.stack(found, axis=1)[:, :, None, :]
