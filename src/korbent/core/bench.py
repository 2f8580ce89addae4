"""Everything the checks of pads look at."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.actions.base_forces import BaseForces, base_forces, loads_of_all, on_regions
from korbent.core.actions.construction import QUESTION, lasting_situations
from korbent.core.actions.replacement import below_replacement, spread
from korbent.core.actions.situations import Situations, actions_on, not_for, situations_for
from korbent.core.actions.tied import Tie, direction, share_of, strap_shares, tied_loads
from korbent.core.cache import remembered
from korbent.core.geometry import PadGeometry, pad_geometry, table
from korbent.core.ground.below import profile_below
from korbent.core.ground.profile import (
    Profile,
    effective_stress,
    missing,
    next_other,
    parameter,
    stacked,
    stratum_below,
    total_stress,
)
from korbent.core.model.actions import Actions, LoadPoint
from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.ground import Ground
from korbent.core.model.labels import label
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.model.site import Outline
from korbent.core.model.standards import Standards
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say

OVERTURNING = {"full": 1.0, "static_less_25": 0.75, "modal_less_10": 0.9}
"""ASCE 7 12.13.4: what remains of the seismic overturning at the ground, by kind of analysis; not for cantilevered
columns."""


@dataclass(frozen=True)
class Bench:
    """Everything the checks look at, for candidate sizes of pads that stand on one profile with the same settings."""

    pads: tuple[Pad, ...]
    points: tuple[LoadPoint, ...]
    index: Array
    """Which pad each candidate belongs to, shape (candidates,)."""
    geometry: PadGeometry
    ground: Ground
    actions: Actions
    settings: Settings
    standards: Standards
    profile: Profile | None
    finished: float
    site: tuple[Outline, ...] = ()
    standing: tuple[tuple[LoadPoint, ...], ...] = ()
    """All load points of each pad, the first one first."""
    stands: "tuple[Stand, ...]" = ()
    """Of each pad."""
    as_is: bool = False
    """One candidate for each pad: the pad as it is in the project."""
    base: PadGeometry | None = None
    """The base itself, where ``geometry`` is the area on which its replacement presses the ground (see
    :meth:`on_ground`)."""

    @property
    def tilt(self) -> float:
        """Tilt of the underside, rad."""
        return float(np.deg2rad(self.settings.base_tilt))

    def situations(self, question: str) -> Situations:
        """The situations that serve a question."""
        if question == QUESTION:
            found = lasting_situations(self.actions, self.ground.water)
        else:
            found = situations_for(self.actions, self.ground.water, question)
        share = OVERTURNING[self.settings.seismic_overturning]
        return found if share == 1.0 or question == "concrete" else found.with_less_overturning(self.actions, share)

    def forces(self, situations: Situations, record: Recorder) -> BaseForces:
        """Forces at the underside in these situations; the very same ones again where nothing is recorded."""
        if not isinstance(record, Silent):
            return self._forces(situations, record)
        if id(situations) not in self._known_forces:
            self._known_forces[id(situations)] = (situations, self._forces(situations, SILENT))
        return self._known_forces[id(situations)][1]

    @cached_property
    def _known_forces(self) -> dict[int, tuple[Situations, BaseForces]]:
        return {}

    def _forces(self, situations: Situations, record: Recorder) -> BaseForces:
        loads = self.untied(situations)
        ties = self.stands[0].ties if self.stands else ()
        # one raft stands alone on its bench
        volume, x, y = self.pads[0].added_concrete
        resting: Array | float = self.settings.concrete_weight * volume
        first, g = self.pads[0], self.geometry
        at = (x - first.offset_x + g.offset_x, y - first.offset_y + g.offset_y) if volume else None
        if ties:
            loads = tied_loads(self.base or self.geometry, self.standing[0], loads, situations.cases, ties)
            near = sum(strap_shares(self.base or self.geometry, self.points[0], tie)[0] for tie in ties)
            resting, at = self.settings.concrete_weight * near, None
        forces = base_forces(
            self.base or self.geometry,
            loads,
            situations,
            self.ground.backfill,
            self.finished,
            self.settings.concrete_weight,
            record,
            self.settings.surcharge_on,
            resting,
            at,
        )
        replacement = self.pads[0].replacement
        if self.base is None or replacement is None:
            return forces
        return below_replacement(forces, self.base, self.geometry, replacement, situations, self.finished, record)

    @cached_property
    def alone(self) -> "Bench":
        """The bench without straps: on it what the columns themselves bring to their pedestals and dowels is found."""
        if not self.stands or not self.stands[0].ties:
            return self
        return replace(self, stands=tuple(replace(stand, ties=()) for stand in self.stands))

    def untied(self, situations: Situations) -> Array:
        """Loads of the bases by case in the axes of their loads, as their own columns bring them, (candidates, cases,
        5)."""
        by_pad = np.stack(
            [
                loads_of_all(points, situations.cases) + on_regions(pad, points[0], situations.cases)
                for pad, points in zip(self.pads, self.standing)
            ]
        )
        return by_pad[self.index]

    def on_ground(self) -> "Bench":
        """The bench on which the ground is checked: where a replacement lies below, it presses on a wider area further
        down."""
        replacement = self.pads[0].replacement
        if replacement is None or self.base is not None:
            return self
        return replace(self, base=self.geometry, geometry=spread(self.geometry, replacement))

    def leaning(self, situations: Situations, forces: BaseForces, record: Recorder) -> BaseForces:
        """The forces whose eccentricity and inclination count: by DA2* those of characteristic actions."""
        if not situations.starred.any():
            return forces
        own = self.forces(situations.characteristic(), SILENT)
        star = situations.starred
        changed = {
            name: np.where(star, getattr(own, name), getattr(forces, name))
            for name in ("V", "U", "N", "Hx", "Hy", "Mx", "My")
        }
        for symbol, name, unit in (
            ("V", "V", "kN"),
            ("N", "N", "kN"),
            ("H_x", "Hx", "kN"),
            ("H_y", "Hy", "kN"),
            ("M_x", "Mx", "kNm"),
            ("M_y", "My", "kNm"),
        ):
            record.given(symbol, changed[name], unit, reference="DA2*", note=say("of characteristic actions"))
        return replace(forces, **changed)

    def on_resistance(self, situations: Situations, kind: str) -> Array:
        """What a resistance is divided by: 'bearing' or 'sliding' (R2, or the settings' resistance factor)."""
        given = situations.on_bearing if kind == "bearing" else situations.on_sliding
        phi = self.settings.resistance_bearing if kind == "bearing" else self.settings.resistance_sliding
        return np.where(situations.by_setting, 1.0 / phi, given)

    def founding_stratum(self) -> Array:
        """Index of the stratum below the base for each candidate, shape (candidates,); -1: below the profile."""
        return self._founding

    @cached_property
    def _founding(self) -> Array:
        if self.profile is None:
            return np.full(len(self.geometry.B), -1)
        return stratum_below(self.profile, self.geometry.underside)[:, 0]

    def nearest_other(self) -> Array:
        """Depth below the base (m) at which a soil of another name begins, shape (candidates,); very large where none
        does."""
        if self.profile is None:
            return np.full(len(self.index), 1e9)
        n = len(self.profile.soils)
        next_ = next_other(self.profile)[np.maximum(self.founding_stratum(), 0)]
        tops = np.broadcast_to(self.profile.top, (len(self.index), n))
        level = np.take_along_axis(tops, np.minimum(next_, n - 1)[:, None], axis=-1)[:, 0]
        return np.where(next_ < n, self.geometry.underside[:, 0] - level, 1e9)

    def why_not(self, *names: str) -> tuple[str, ...]:
        """Per candidate: why a check that needs these soil parameters cannot be done ('' where it can)."""
        if self.profile is None:
            return tuple(say("there is no borehole: describe the ground first") for _ in self.geometry.B)
        founding = self.founding_stratum().tolist()
        lacks = {i: missing(self.profile.soils[i], names) for i in set(founding) if i >= 0}
        levels, ends = self.geometry.underside[:, 0], np.broadcast_to(self.profile.end, self.index.shape)
        return tuple(
            lacks[i]
            if i >= 0
            else say(
                "the base at {levels:+.2f} m lies below the known ground, which ends at {ends:+.2f} m",
                levels=levels[row],
                ends=ends[row],
            )
            for row, i in enumerate(founding)
        )

    def soil(self, name: str) -> Array:
        """A parameter of the stratum below the base, shape (candidates, 1); 0 where there is none."""
        if self.profile is None:
            return np.zeros_like(self.geometry.B)
        index = self.founding_stratum()
        values = parameter(self.profile, name)[np.maximum(index, 0)]
        return np.where(index >= 0, values, 0.0)[:, None]

    def overburden(self, kind: str, water: Array, record: Recorder) -> Array:
        """Stress beside the base at its underside, "effective" or "total", with the permanent surcharge there, kPa."""
        assert self.profile is not None
        stress = effective_stress if kind == "effective" else total_stress
        g = self.geometry
        found: Array = stress(self.profile, self.ground.backfill, np.array(self.finished), g.underside, water)
        symbol = "qprime" if kind == "effective" else "q_t"
        what = say("{kind} overburden at the founding level, from the strata up to finished ground", kind=label(kind))
        surcharge = self.settings.surcharge_beside
        if not surcharge:
            record.given(symbol, found, "kPa", note=what, needs="z_f z_fin z_w")
            return found
        record.given("q_z", found, "kPa", note=what, needs="z_f z_fin z_w")
        record.given("q_s", surcharge, "kPa", reference=say("setting"), note=say("permanent surcharge beside"))
        record.step(symbol, "q_z + q_s", found + surcharge, "kPa")
        return np.asarray(found + surcharge)

    def no_combination(self, question: str) -> str:
        """What a check says when nothing serves its question."""
        return say("no combination serves '{question}': mark one in Actions", question=label(question))

    def undrained_strength_typed(self) -> Array:
        """Undrained strength at the founding level, not factored, kPa (tiny where there is none)."""
        return np.maximum(self._strength(), 1e-9)

    def _strength(self) -> Array:
        c_k = self.soil("undrained_strength")
        if self.profile is not None:
            tops = np.broadcast_to(self.profile.top, (len(self.index), len(self.profile.soils)))
            top = np.take_along_axis(tops, np.maximum(self.founding_stratum(), 0)[:, None], axis=-1)
            c_k = c_k + self.soil("undrained_strength_gradient") * np.maximum(top - self.geometry.underside, 0.0)
        return c_k

    def undrained_strength(self, situations: Situations, record: Recorder) -> Array:
        """Design undrained strength at the founding level, kPa (tiny where there is none)."""
        c_k = self._strength()
        strength = np.maximum(c_k, 1e-9) / situations.on_undrained
        record.given("c_uk", np.maximum(c_k, 1e-9), "kPa", note=say("undrained strength at the founding level"))
        record.given("gamma_cu", situations.on_undrained, reference="EN 1997-1 table A.4")
        record.step("c_ud", "c_uk/gamma_cu", strength, "kPa")
        return strength

    def idle(self, drainage: str) -> tuple[str, ...]:
        """Per candidate: why a drained (or undrained) check has no meaning in the stratum below ('' where it has)."""
        why = {
            "drained": say("the stratum below the base is checked undrained"),
            "undrained": say("the stratum below the base drains"),
        }[drainage]
        other = "undrained" if drainage == "drained" else "drained"
        founding = self.founding_stratum().tolist()
        soils = self.profile.soils if self.profile else ()
        texts = {i: why if i >= 0 and soils[i].drainage == other else "" for i in set(founding)}
        return tuple(texts[i] for i in founding)

    def water(self, situations: Situations) -> Array:
        """Water levels (m), at most finished ground: free water above it adds as much weight as pressure."""
        return np.minimum(situations.water_level, self.finished)


def benches_for(project: Project, pads: Sequence[Pad]) -> Iterator[tuple[Array, Bench]]:
    """Groups pads that share the sequence of strata, the settings and the combinations: (positions in ``pads``, bench
    with each as it is)."""
    groups: dict[object, list[int]] = {}
    for i, pad in enumerate(pads):
        groups.setdefault(shared_key(project, pad), []).append(i)
    for positions in groups.values():
        chosen = tuple(pads[i] for i in positions)
        sizes = np.concatenate([table(pad) for pad in chosen])
        yield (
            np.array(positions),
            replace(bench_for(project, chosen, np.arange(len(chosen)), sizes), as_is=True),
        )


def shared_key(project: Project, pad: Pad) -> tuple[object, ...]:
    """What pads must share to stand on one bench: the sequence of strata, the settings and the combinations."""
    stand = stand_of(project, pad)
    profile = stand.profile
    strata = (*map(id, profile.soils), profile.rigid_below) if profile else ()
    return (
        strata,
        stand.settings,
        pad.shape,
        pad.replacement,
        len(pad.further),
        not_for(project.actions, pad.name),
        pad.name if pad.kind == "raft" or stand.ties else "",
    )


def bench_for(project: Project, pads: Sequence[Pad], index: Array, candidates: Array) -> Bench:
    """Gathers what the checks need; the pads share profile and settings (see :func:`benches_for`).

    Args:
        index: which pad each candidate belongs to, shape (candidates,).
        candidates: sizes, rows as :func:`korbent.core.geometry.table` makes them.
    """
    stands = [stand_of(project, pad) for pad in pads]
    standing = tuple(stand.points for stand in stands)
    points = tuple(found[0] for found in standing)
    profiles = [stand.profile for stand in stands if stand.profile is not None]
    return Bench(
        pads=tuple(pads),
        points=points,
        index=index,
        geometry=pad_geometry(pads, points, index, candidates, [found[1:] for found in standing]),
        standing=standing,
        stands=tuple(stands),
        ground=project.ground,
        actions=actions_on(project.actions, pads[0].name),
        settings=stands[0].settings,
        standards=project.standards,
        profile=stacked(profiles, index) if profiles else None,
        finished=finished_at(project, stands[0].settings),
        site=project.site,
    )


@dataclass(frozen=True, slots=True)
class Stand:
    """What a pad of a project stands under, on and by."""

    pad: Pad
    points: tuple[LoadPoint, ...]
    """All its load points, the first one first."""
    settings: Settings
    """In force for it."""
    profile: Profile | None
    """The strata below its middle."""
    ties: tuple[Tie, ...] = ()
    """What ties it to other bases."""

    @property
    def edge_tie(self) -> Tie | None:
        """The strap of which it is the base at the boundary."""
        return next((tie for tie in self.ties if tie.at_edge), None)


def stand_of(project: Project, pad: Pad) -> Stand:
    """Of a pad of the project, or of one that is tried in it."""
    known = stands_of(project).get(pad.name)
    return known if known is not None and known.pad is pad else _stand(project, pad)


@remembered(8)
def stands_of(project: Project) -> dict[str, Stand]:
    """Of all pads, by name."""
    return {pad.name: _stand(project, pad) for pad in project.pads}


def _stand(project: Project, pad: Pad) -> Stand:
    points = standing_on(project, pad)
    return Stand(
        pad,
        points,
        project.settings_of(pad),
        profile_below(project.ground, pad, points[0]),
        _ties_of(project, pad),
    )


def _ties_of(project: Project, pad: Pad) -> tuple[Tie, ...]:
    def ways(name: str) -> list[tuple[float, float]]:
        """In which directions the straps of a base run."""
        own = project.load_point(project.pad(name).load_point)
        ends = ((s.inner if s.edge == name else s.edge) for s in project.straps if name in (s.edge, s.inner))
        return [direction(own, project.load_point(project.pad(end).load_point)) for end in ends]

    found = []
    for strap in project.straps:
        if pad.name in (strap.edge, strap.inner):
            at_edge = pad.name == strap.edge
            partner = project.pad(strap.inner if at_edge else strap.edge)
            points = standing_on(project, partner)
            way = direction(project.load_point(pad.load_point), points[0])
            shares = (share_of(way, ways(name)) for name in (pad.name, partner.name))
            found.append(_tied(strap, partner, points, at_edge, *shares))
    return _ties(*found)


@remembered(512)
def _tied(
    strap: Strap, partner: Pad, points: tuple[LoadPoint, ...], at_edge: bool, share: float, far_share: float
) -> Tie:
    """The very same tie as long as what it is of stays the same."""
    return Tie(strap, partner, points, at_edge, share, far_share)


@remembered(512)
def _ties(*ties: Tie) -> tuple[Tie, ...]:
    """The very same tuple for the same ties."""
    return ties


def finished_at(project: Project, settings: Settings) -> float:
    """Finished ground at a base with these settings: on terraces its own, else that of the project, m."""
    own = settings.finished_level
    return project.ground.surfaces.finished if own is None else own


def standing_on(project: Project, pad: Pad) -> tuple[LoadPoint, ...]:
    """The load points of a pad, the first one first; the very same tuple as long as they stay the same."""
    return _together(*(project.load_point(name) for name in pad.carries))


@remembered(4096)
def _together(*points: LoadPoint) -> tuple[LoadPoint, ...]:
    return points
