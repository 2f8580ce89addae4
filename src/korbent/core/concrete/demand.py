"""For drawings: steel asked for along the width of a base, bar by bar, and shears and moments along it."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.bands import band_moments
from korbent.core.concrete.flexure import required_steel, short_share
from korbent.core.concrete.pad import ConcretePad, concrete_pad, no_concrete, under_concrete
from korbent.core.concrete.schedule import positions
from korbent.core.concrete.several import bands_of, beam_sections, columns_of, sections_at
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array


def _looked_at(project: Project, pad: Pad) -> tuple[Bench, ConcretePad] | None:
    """What the checks look at; None where they cannot be done."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("concrete")
    if bench.standards.concrete not in NAMES or not len(situations) or no_concrete(bench):
        return None
    forces, contact = under_concrete(bench, situations)
    if not contact.stable.all():
        return None
    return bench, concrete_pad(
        bench.geometry,
        situations,
        forces,
        contact,
        bench.settings,
        bench.standards.concrete,
        several=len(bench.standing[0]) > 1,
    )


@dataclass(frozen=True)
class SteelAlong:
    """The bars of one face and direction across the base, mm2/m."""

    at: tuple[float, ...]
    """Middles of the bars from the middle of the base, across, m."""
    borders: tuple[float, ...]
    """Between their widths, one more than bars."""
    required: tuple[float, ...]
    """The worst of all situations and both faces of the column."""
    provided: float
    least: float
    by_slices: bool
    """False where the whole width is taken together (round bases; several columns, besides their bands)."""


@remembered(16)
def steel_along(project: Project, pad: Pad, face: str, axis: str) -> SteelAlong | None:
    """Steel asked for at each bar of a face ("bottom", "top") along an axis; None where there is none, or nothing to
    ask by."""
    bars = pad.reinforcement.bars(f"{face}_{axis}")
    found = _looked_at(project, pad)
    if bars is None or found is None or project.settings_of(pad).base_concrete == "plain":
        return None
    bench, own = found
    across = pad.extent if axis == "x" else pad.width
    cover = own.settings.concrete_cover
    at = positions(across, cover, bars)
    borders = np.array([-across / 2, *((a + b) / 2 for a, b in pairwise(at)), across / 2])
    sign = 1.0 if face == "bottom" else -1.0
    by_slices = own.geometry.footprint.slices_alike and not pad.further
    if by_slices:
        every = np.ones(own.contact.shape, dtype=bool)
        found_moments = band_moments(own.geometry, own.contact, own.weight, -own.within, borders / across, every)
        moments = found_moments[:2] if axis == "x" else found_moments[2:]
        worst = np.maximum(sign * moments, 0.0).max(axis=(0, 2, 3))
    else:
        worst = np.full(len(at), _whole_width(bench, own, axis, sign))
        if pad.further and face == "bottom":
            for band in bands_of(own, columns_of(bench, own.situations), axis):
                near = np.abs(np.array(at) - float(band.at[0, 0])) <= float(band.width[0, 0]) / 2
                worst = np.where(near, np.maximum(worst, float(band.moment.max() / band.width[0, 0])), worst)
    if face == "top":
        worst = np.maximum(worst, _hanging(bench, own, axis))
    d = np.broadcast_to(own.depth(axis), (len(at), 1))
    fcd, fyd = (np.full((len(at), 1), float(v.min())) for v in (own.fcd, own.fyd))
    required, _ = required_steel(own.standard, worst[:, None], d, own.settings.concrete_strength, fcd, fyd, SILENT)
    share = short_share(own, axis) if by_slices else None
    if share is not None:
        required = required * float(share[0, 0])
    least = own.standard.minimum_steel(
        own.depth(axis), own.geometry.h, own.settings.concrete_strength, own.settings.steel_strength, SILENT
    )
    return SteelAlong(
        tuple(at),
        tuple(map(float, borders)),
        tuple(map(float, required[:, 0])),
        float(own.bars(face, axis).area[0, 0]) * 1e6,
        float(least[0, 0]),
        by_slices,
    )


def _whole_width(bench: Bench, own: ConcretePad, axis: str, sign: float) -> float:
    """Worst moment per width, kNm/m."""
    if len(bench.standing[0]) > 1:
        found, moment = beam_sections(own, columns_of(bench, own.situations), axis)
        return max(0.0, float((sign * moment / np.maximum(found.width, 1e-9)).max()))
    faces = own.faces
    sides = (0, 1) if axis == "x" else (2, 3)
    return max(0.0, *(float((sign * faces.moment[s] / faces.width[s]).max()) for s in sides))


def _hanging(bench: Bench, own: ConcretePad, axis: str) -> float:
    """Moment per width of weights that hang from the column, where they are asked for, kNm/m."""
    if own.settings.top_hanging != "always":
        return 0.0
    if len(bench.standing[0]) > 1:
        size = float((own.geometry.B if axis == "x" else own.geometry.L)[0, 0])
        columns, k = columns_of(bench, own.situations), 0 if axis == "x" else 1
        faces_at = [
            float((c.x if k == 0 else c.y)[0, 0]) + s * float(c.face[k][0, 0]) / 2 for c in columns for s in (-1, 1)
        ]
        reach = max(size / 2 - max(faces_at), size / 2 + min(faces_at), 0.0)
        return float((own.hanging * reach**2 / 2).max())
    faces = own.faces
    sides = [0, 1] if axis == "x" else [2, 3]
    return float((own.hanging * faces.area_moment[sides] / faces.width[sides]).max())


@dataclass(frozen=True)
class BeamLine:
    """The base as a beam along an axis: envelopes over all situations of the whole width, kN and kNm; positive moments
    pull below."""

    axis: str
    at: tuple[float, ...]
    """From the middle of the base, m."""
    shear_least: tuple[float, ...]
    shear_most: tuple[float, ...]
    moment_least: tuple[float, ...]
    moment_most: tuple[float, ...]
    columns: tuple[tuple[str, float, float], ...]
    """(name, place, size) of what stands on it."""
    checks: tuple[str, str, str] = ("", "", "")
    """By which shear and the moments that pull below and above are checked; '': those of the axis."""
    title: str = ""
    twist_least: tuple[float, ...] = ()
    """Torsion, kNm, where there is any."""
    twist_most: tuple[float, ...] = ()
    other: "BeamLine | None" = None
    """The same by another method, to compare."""

    @property
    def keys(self) -> tuple[str, str, str]:
        """The checks of shear and of the moments that pull below and above."""
        return self.checks if any(self.checks) else (f"shear-{self.axis}", f"bottom-{self.axis}", f"top-{self.axis}")

    def value(self, s: float) -> tuple[float, float, float, float] | None:
        """(least, greatest shear, least, greatest moment) at a place, kN and kNm; None off the beam."""
        if not self.at[0] <= s <= self.at[-1]:
            return None
        rows = (self.shear_least, self.shear_most, self.moment_least, self.moment_most)
        a, b, c, d = (float(np.interp(s, self.at, row)) for row in rows)
        return a, b, c, d

    def twist(self, s: float) -> tuple[float, float] | None:
        """(least, greatest torsion) at a place, kNm; None where there is none."""
        if not self.twist_most or not self.at[0] <= s <= self.at[-1]:
            return None
        return float(np.interp(s, self.at, self.twist_least)), float(np.interp(s, self.at, self.twist_most))


PLACES = 61


@remembered(16)
def along_base(project: Project, pad: Pad, axis: str) -> BeamLine | None:
    """Shears and moments along a rectangular base; None where there is nothing to work them out from."""
    found = _looked_at(project, pad)
    if found is None or pad.is_round:
        return None
    bench, own = found
    at, shear, moment, columns = _beam(bench, own, axis)
    return BeamLine(
        axis,
        tuple(map(float, at)),
        tuple(map(float, shear.min(axis=-1))),
        tuple(map(float, shear.max(axis=-1))),
        tuple(map(float, moment.min(axis=-1))),
        tuple(map(float, moment.max(axis=-1))),
        columns,
    )


def _beam(
    bench: Bench, own: ConcretePad, axis: str
) -> tuple[Array, Array, Array, tuple[tuple[str, float, float], ...]]:
    """(places, shears, moments, columns): arrays (places,) and (places, situations)."""
    columns = columns_of(bench, own.situations)
    i = 0 if axis == "x" else 1
    size = float((own.geometry.B if axis == "x" else own.geometry.L)[0, 0])
    known = tuple((c.name, float((c.x if i == 0 else c.y)[0, 0]), float(c.size[i][0, 0])) for c in columns)
    # at a column the line jumps: it is drawn on both sides of its middle
    jumps = [place + s * 1e-6 for _, place, _ in known for s in (-1, 1)]
    faces = [place + s * wide / 2 for _, place, wide in known for s in (-1, 1)]
    at = np.unique(np.clip([*np.linspace(-size / 2, size / 2, PLACES), *jumps, *faces], -size / 2, size / 2))
    line = sections_at(own, columns, axis, at[:, None, None])
    return at, line.shear[:, 0], line.moment[:, 0], known
