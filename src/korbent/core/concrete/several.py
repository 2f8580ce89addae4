"""The concrete of a rigid base under several columns: a beam along and across on its linear pressure, punching of each
column.

Sections run over the whole width. Across a row of columns the load of each also spreads in a band of its own, the
column and half an effective depth to either side; the greater demand counts."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import combinations, pairwise

import numpy as np

from korbent.core.actions.base_forces import case_loads, turned
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.anchorage import anchorage_checks
from korbent.core.concrete.detailing import detailing
from korbent.core.concrete.flexure import never_in_tension, steel_at, without_bars
from korbent.core.concrete.interface import interface_checks
from korbent.core.concrete.pad import ConcretePad
from korbent.core.concrete.punching import punching
from korbent.core.concrete.shear import wants_links, without_links
from korbent.core.concrete.standards.protocol import is_searching
from korbent.core.contact.polygon import clipped_moments
from korbent.core.geometry import footprint_area, local_place, standing_diameter, standing_face, standing_size
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say

BETWEEN = 9
"""Sections in each gap between two columns."""
ROW = 0.2
"""Columns stand in a row where their places across differ by less than this share of the size across."""


@dataclass(frozen=True)
class Column:
    """One column on the base: place from its middle (candidates, 1), sizes of its critical section, and its factored
    loads in pad axes at their level, (candidates, situations, 5)."""

    name: str
    """In scopes of the working."""
    names: tuple[str, ...]
    """By candidate."""
    x: Array
    y: Array
    face: tuple[Array, Array]
    size: tuple[Array, Array]
    """Sizes of what stands on the base: pedestal, plate or column."""
    diameter: Array
    """Of a round column, else 0."""
    level: Array
    loads: Array
    footprint: Array
    """Area that it takes of the backfill, m2, (candidates, 1)."""

    @property
    def V(self) -> Array:
        """Vertical force, kN."""
        force: Array = self.loads[..., 0]
        return force


def columns_of(bench: Bench, situations: Situations) -> list[Column]:
    """The columns of bases that carry the same number of them."""
    g = bench.geometry
    count = len(bench.standing[0])
    found = []
    for k in range(count):
        places, faces, sizes, levels, loads, names, feet, rounds = [], [], [], [], [], [], [], []
        for pad, standing in zip(bench.pads, bench.standing):
            point = standing[k]
            x, y = local_place(pad, standing[0], point)
            places.append((x - pad.offset_x, y - pad.offset_y))
            faces.append(standing_face(pad, point))
            rounds.append(standing_diameter(pad, point))
            sizes.append(standing_size(pad, point))
            levels.append(point.level)
            own = np.deg2rad(0.0 if point.axes == "plan" else point.rotation)
            loads.append(turned(case_loads(point, situations.cases), np.array(np.deg2rad(pad.rotation) - own)))
            names.append(point.name)
            feet.append(footprint_area(pad, point))
        index = bench.index
        factored = situations.factors @ np.stack(loads)[index]
        plinth = g.pedestal_volumes[:, k : k + 1] * bench.settings.concrete_weight
        factored[..., 0] += situations.weight * plinth
        place, face, size = np.array(places)[index], np.array(faces)[index], np.array(sizes)[index]
        found.append(
            Column(
                names[0] if len(bench.pads) == 1 else say("column {k}", k=k + 1),
                tuple(names[i] for i in index),
                g.offset_x + place[:, :1],
                g.offset_y + place[:, 1:],
                (face[:, :1], face[:, 1:]),
                (size[:, :1], size[:, 1:]),
                np.array(rounds)[index][:, None],
                np.array(levels)[index][:, None],
                factored,
                np.array(feet)[index][:, None],
            )
        )
    return found


def several_outcomes(bench: Bench, pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """All concrete checks of bases under several columns."""
    columns = columns_of(bench, pad.situations)
    groups = common_areas(pad, columns)
    outcomes = punching_of_each(pad, columns, groups, record, thin, lambda column: alone(pad, column))
    for axis in "xy":
        outcomes += _beam(pad, columns, axis, record.scope(say("along {axis}", axis=axis)), thin)
        outcomes += detailing(pad, axis, record, thin, [alone(pad, column) for column in columns])
    return [*outcomes, *_anchored(pad, columns, record, thin), *interfaces_of(bench, pad, columns, record)]


def interfaces_of(bench: Bench, pad: ConcretePad, columns: list[Column], record: Recorder) -> list[Outcome]:
    """Each column on the base, and its dowels."""
    found: dict[str, list[tuple[Column, Outcome]]] = {}
    for k, column in enumerate(columns):
        own = alone(pad, column)
        for outcome in interface_checks(bench, own, record.scope(column.name), k):
            found.setdefault(outcome.check.id, []).append((column, outcome))
    return [together(check, parts, pad.situations) for check, parts in found.items()]


def alone(pad: ConcretePad, column: Column) -> ConcretePad:
    """The base as one of its columns sees it."""
    geometry = replace(
        pad.geometry,
        offset_x=column.x,
        offset_y=column.y,
        face=column.face,
        standing=column.size,
        diameter=column.diameter,
        load_level=column.level,
    )
    return replace(pad, geometry=geometry, forces=replace(pad.forces, column=column.V, factored=column.loads))


def _anchored(pad: ConcretePad, columns: list[Column], record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """Anchorage at the edges, each seen from the column that stands nearest to it: the worse of all columns."""
    found: dict[str, list[Outcome]] = {}
    for column in columns:
        own = replace(pad, geometry=replace(pad.geometry, offset_x=column.x, offset_y=column.y, face=column.face))
        # an edge belongs to the columns that stand nearest to it
        ends_at = np.stack(
            [
                np.all(
                    np.stack(
                        [
                            sign * (c.x if k == 0 else c.y) <= sign * (column.x if k == 0 else column.y) + 1e-6
                            for c in columns
                        ]
                    ),
                    axis=0,
                )
                for k, sign in ((0, 1), (0, -1), (1, 1), (1, -1))
            ]
        )
        for outcome in anchorage_checks(own, record.scope(column.name), thin, ends_at):
            blocks = tuple(say("{name} {block}", name=column.name, block=block) for block in outcome.blocks)
            found.setdefault(outcome.check.id, []).append(replace(outcome, blocks=blocks))
    joined = []
    for check, parts in found.items():
        demand, capacity, ratio = (
            np.concatenate([getattr(p, n) for p in parts], axis=-1) for n in ("demand", "capacity", "ratio")
        )
        joined.append(
            Outcome(
                CHECKS[check],
                demand,
                capacity,
                ratio,
                pad.situations,
                np.concatenate([p.unstable for p in parts if p.unstable is not None], axis=-1),
                blocks=tuple(b for p in parts for b in p.blocks),
                why_not=thin,
            )
        )
    return joined


def punching_of_each(
    pad: ConcretePad,
    columns: list[Column],
    groups: list[Column],
    record: Recorder,
    thin: tuple[str, ...],
    seen: Callable[[Column], ConcretePad],
) -> list[Outcome]:
    """Each column by its own position, and groups that may punch through together; they are blocks one after the other.

    Args:
        seen: the base as a column sees it.
    """
    by_check: dict[str, list[tuple[Column, Outcome]]] = {"punching": [], "punching-face": []}
    for column in (*columns, *groups):
        own = seen(column)
        scope = record.scope(column.name)
        record_column(column, scope)
        for outcome in punching(own, scope, thin, several=True):
            # the face of one column is no matter of another
            if outcome.check.id == "punching" or column in columns:
                by_check[outcome.check.id].append((column, outcome))
    return [together(check, found, pad.situations) for check, found in by_check.items()]


def record_column(column: Column, record: Recorder) -> None:
    """What a column brings, and over which area."""
    record.given("f_x1", column.face[0], "m", note=say("loaded area of {column} along x", column=column.name))
    record.given("f_y1", column.face[1], "m", note=say("along y"))
    for symbol, at in (("V_c", 0), ("H_x", 1), ("H_y", 2), ("M_xk0", 3), ("M_yk0", 4)):
        record.given(
            symbol,
            column.loads[..., at],
            "kNm" if at > 2 else "kN",
            note=say("{column}, factored, with its pedestal", column=column.name)
            if at == 0
            else say("{column}, factored", column=column.name),
        )


PAIRED = 6
"""Up to so many columns every two are looked at together; of more those that are named one after the other."""


def common_areas(pad: ConcretePad, columns: list[Column]) -> list[Column]:
    """Columns that may punch through together, as one loaded area each: the rectangle around two of them, and around
    all.

    It carries what stands within it; its forces act at its middle, at the top of the base. Its moments count fully
    where the perimeters of its columns overlap, less beyond that and not at all from twice that distance on, where the
    base carries them as a beam; its force always does, as far apart the soil within the perimeter carries nearly all of
    it."""
    count = len(columns)
    pairs = combinations(range(count), 2) if count <= PAIRED else pairwise(range(count))
    groups = [*pairs, *([tuple(range(count))] if count > 2 else [])]
    return [_around(pad, columns, [columns[k] for k in group]) for group in groups]


def _closeness(pad: ConcretePad, group: list[Column]) -> Array:
    """1 where the perimeters of a group overlap, 0 from twice that distance on, by its column that is farthest from its
    nearest."""
    d = (pad.d_x + pad.d_y) / 2
    overlap = (4.0 if is_searching(pad.standard) else 1.0) * d
    farthest = np.zeros_like(overlap)
    for one in group:
        gaps = [
            np.hypot(
                *(
                    np.maximum(np.abs(p - q) - (one.face[k] + other.face[k]) / 2, 0.0)
                    for k, (p, q) in enumerate(((one.x, other.x), (one.y, other.y)))
                )
            )
            for other in group
            if other is not one
        ]
        farthest = np.maximum(farthest, np.min(gaps, axis=0))
    found: Array = np.clip(2.0 - farthest / overlap, 0.0, 1.0)
    return found


def _around(pad: ConcretePad, columns: list[Column], group: list[Column]) -> Column:
    """The rectangle around some columns with the loads of all that stand within it."""

    def ends(place: Callable[[Column], Array], size: Callable[[Column], Array]) -> tuple[Array, Array]:
        low = np.min(np.stack([place(c) - size(c) / 2 for c in group]), axis=0)
        high = np.max(np.stack([place(c) + size(c) / 2 for c in group]), axis=0)
        return (low + high) / 2, high - low

    x, size_x = ends(lambda c: c.x, lambda c: c.face[0])
    y, size_y = ends(lambda c: c.y, lambda c: c.face[1])
    loads = _loads_within(pad, columns, x, y, size_x, size_y)
    loads[..., 3:] *= _closeness(pad, group)[..., None]
    names = tuple("+".join(c.names[i] for c in group) for i in range(len(group[0].names)))
    return Column(
        "+".join(c.name for c in group),
        names,
        x,
        y,
        (size_x, size_y),
        (size_x, size_y),
        np.zeros_like(x),
        pad.geometry.top + 0.0 * x,
        loads,
        size_x * size_y,
    )


def _loads_within(pad: ConcretePad, columns: list[Column], x: Array, y: Array, size_x: Array, size_y: Array) -> Array:
    """Loads of all columns that stand within a rectangle, at its middle and the top of the base."""
    loads = np.zeros_like(columns[0].loads)
    for column in columns:
        inside = (np.abs(column.x - x) <= size_x / 2 + 1e-9) & (np.abs(column.y - y) <= size_y / 2 + 1e-9)
        V, Hx, Hy, Mx, My = np.moveaxis(column.loads, -1, 0)
        arm = column.level - pad.geometry.top
        moved = np.stack(
            [
                V,
                Hx,
                Hy,
                Mx - arm * Hy - (column.y - y) * V,
                My + arm * Hx + (column.x - x) * V,
            ],
            axis=-1,
        )
        loads = loads + np.where(inside[..., None], moved, 0.0)
    return loads


def area_of(pad: ConcretePad, columns: list[Column], name: str, box: tuple[float, float, float, float]) -> Column:
    """A rectangle of one base (x from, to, y from, to, m from its middle) as a loaded area with what stands within
    it."""
    x, y, size_x, size_y = (
        np.array([[v]]) for v in ((box[0] + box[1]) / 2, (box[2] + box[3]) / 2, box[1] - box[0], box[3] - box[2])
    )
    loads = _loads_within(pad, columns, x, y, size_x, size_y)
    return Column(
        name,
        (name,),
        x,
        y,
        (size_x, size_y),
        (size_x, size_y),
        np.zeros_like(x),
        pad.geometry.top + 0.0 * x,
        loads,
        size_x * size_y,
    )


def together(check: str, found: list[tuple[Column, Outcome]], situations: Situations) -> Outcome:
    """One outcome of the outcomes of all columns, blocks one after the other; a column counts where its check
    applies."""
    count = len(found[0][0].names)
    idle = [[_text(o.not_applicable, i) for i in range(count)] for _, o in found]
    whole = tuple(next((t[i] for t in idle), "") if all(t[i] for t in idle) else "" for i in range(count))
    live = [(c, o, np.array([bool(t) for t in texts])[:, None]) for (c, o), texts in zip(found, idle) if not all(texts)]
    if not live:
        return does_not_apply(check, whole)

    def joined(pick: Callable[[Outcome], Array | None]) -> Array:
        parts = []
        for _, o, off in live:
            values = pick(o)
            shape = (count, len(o.blocks) * len(situations))
            parts.append(np.where(off, 0.0, 0.0 if values is None else np.broadcast_to(values, shape)))
        return np.concatenate(parts, axis=-1)

    # which column and which of its blocks
    owners = [(one, o, k) for one, o, _ in live for k in range(len(o.blocks))]

    def note(candidate: int, column: int) -> str:
        one, outcome, k = owners[column // len(situations)]
        words = outcome.note(candidate, k * len(situations) + column % len(situations)) if outcome.note else ""
        return f"{one.names[candidate]} {words}".strip()

    def warning(candidate: int) -> str:
        texts = {
            f"{one.names[candidate]}: {t}"
            for one, o, _ in live
            if isinstance(o.warnings, tuple) and (t := _text(o.warnings, candidate))
        }
        return "; ".join(sorted(texts))

    placed = all(o.place is not None for _, o, _ in live)
    return Outcome(
        CHECKS[check],
        joined(lambda o: o.demand),
        joined(lambda o: o.capacity),
        joined(lambda o: o.ratio),
        situations,
        joined(lambda o: o.lost).astype(bool),
        unresisted=joined(lambda o: o.bare).astype(bool),
        blocks=tuple(say("{name} {block}", name=one.name, block=block) for one, o, _ in live for block in o.blocks),
        why_not=tuple(next((t for _, o, _ in live if (t := o.reason(i))), "") for i in range(count)),
        not_applicable=whole,
        note=note,
        place=joined(lambda o: o.place) if placed else None,
        warnings=warning,
    )


def _text(texts: tuple[str, ...], candidate: int) -> str:
    return texts[min(candidate, len(texts) - 1)] if texts else ""


@dataclass(frozen=True)
class Sections:
    """Sections across an axis: places (sections, candidates, 1), and what acts beyond them (sections, candidates,
    situations)."""

    at: Array
    shear: Array
    moment: Array
    """Positive: tension below."""
    width: Array
    """Of the base there, m."""


def sections_at(pad: ConcretePad, columns: list[Column], axis: str, at: Array) -> Sections:
    """Shear and moment of the base as a beam at the places ``at``: pressure, weights and columns beyond the section.

    M = integral of p (x - s) - w A (x_A - s) - sum of V (x_c - s) + M_c over the columns beyond, M_c at the underside.
    """
    g, contact = pad.geometry, pad.contact
    along_x = axis == "x"
    at = np.broadcast_to(at, (*at.shape[:-2], contact.shape[0], at.shape[-1]))
    if g.footprint.slices_alike:
        size, across = (g.B, g.L) if along_x else (g.L, g.B)
        start = np.clip(at, -size / 2, size / 2)
        end, half = np.broadcast_to(size / 2, start.shape), np.broadcast_to(across / 2, start.shape)
        pressed = contact.on_rectangles(*((start, end, -half, half) if along_x else (-half, half, start, end)))
        length = end - start
        area, area_first, width = (
            length * across,
            length**2 / 2 * across,
            np.broadcast_to(across, start.shape),
        )
    else:
        part = g.footprint.beyond(f"+{axis}", at)
        start, width = part.start, part.chord
        pressed = contact.on_polygons(part.x, part.y)
        one = np.ones(part.x.shape[:-1])
        whole = clipped_moments(part.x, part.y, one, 0.0 * one, 0.0 * one)
        area, area_first = whole.A, (whole.Sx if along_x else whole.Sy) - start * whole.A
    first = (pressed.x if along_x else pressed.y) - start * pressed.force
    shear = pressed.force - pad.weight * area
    moment = first - pad.weight * area_first
    for column in columns:
        place = column.x if along_x else column.y
        V, Hx, Hy, Mx, My = np.moveaxis(column.loads, -1, 0)
        arm = column.level - g.underside
        own = My + arm * Hx if along_x else arm * Hy - Mx
        beyond = (place > start).astype(float)
        # the backfill that it displaces is not there
        force = V - pad.situations.weight * pad.forces.backfill * column.footprint
        shear = shear - beyond * force
        moment = moment - beyond * (force * (place - start) + own)
    return Sections(start, shear, moment, width)


def beam_sections(pad: ConcretePad, columns: list[Column], axis: str) -> tuple[Sections, Array]:
    """Sections at the faces of the columns and between them, and the moments there; none within a column: its face
    stands for it."""
    at = 0 if axis == "x" else 1
    places = [c.x if axis == "x" else c.y for c in columns]
    halves = [c.face[at] / 2 for c in columns]
    faces = [p + s * h for p, h in zip(places, halves) for s in (-1, 1)]
    order = np.sort(np.stack(places), axis=0)
    between = [
        order[k] + (order[k + 1] - order[k]) * t for k in range(len(places) - 1) for t in np.linspace(0.1, 0.9, BETWEEN)
    ]
    stack = np.stack([*faces, *between])
    inside = np.any(np.stack([np.abs(stack - p) < h - 1e-9 for p, h in zip(places, halves)]), axis=0)
    found = sections_at(pad, columns, axis, stack)
    moment = np.where(inside, 0.0, found.moment)
    # between two columns the moment is greatest where the shear is nothing, at a place of its own in each situation
    first = len(faces)
    peaks = [
        sections_at(pad, columns, axis, _without_shear(found, first + k * BETWEEN, first + (k + 1) * BETWEEN)[None])
        for k in range(len(places) - 1)
    ]
    where = np.concatenate([np.broadcast_to(found.at, found.shear.shape), *(p.at for p in peaks)])
    shear, moment, width = (
        np.concatenate([found.shear, *(p.shear for p in peaks)]),
        np.concatenate([moment, *(p.moment for p in peaks)]),
        np.concatenate([np.broadcast_to(s.width, s.shear.shape) for s in (found, *peaks)]),
    )
    held = np.any(np.stack([np.abs(where - p) < h - 1e-9 for p, h in zip(places, halves)]), axis=0)
    moment = np.where(held, 0.0, moment)
    return Sections(where, shear, moment, width), moment


def _without_shear(found: Sections, first: int, last: int) -> Array:
    """Where, among some sections in order, the shear changes its sign, by the line between the two; the first one where
    it does not."""
    shear = found.shear[first:last]
    at = np.broadcast_to(found.at[first:last], shear.shape)
    turns = np.signbit(shear[:-1]) != np.signbit(shear[1:])
    which = turns.argmax(axis=0)[None]
    a, b, v, w = (np.take_along_axis(x, which, axis=0)[0] for x in (at[:-1], at[1:], shear[:-1], shear[1:]))
    fall = np.where(np.abs(v - w) > 1e-12, v - w, 1.0)
    place: Array = np.where(turns.any(axis=0), a + np.clip(v / fall, 0.0, 1.0) * (b - a), at[0])
    return place


def _beam(pad: ConcretePad, columns: list[Column], axis: str, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    g = pad.geometry
    at = 0 if axis == "x" else 1
    size = g.B if axis == "x" else g.L
    places = [c.x if axis == "x" else c.y for c in columns]
    halves = [c.face[at] / 2 for c in columns]
    found, moment = beam_sections(pad, columns, axis)
    outcomes = []
    hung = moment
    if pad.settings.top_hanging == "always":
        # beyond the outer columns the base hangs from them
        ends = [np.stack([p + s * h for p, h in zip(places, halves)]) for s in (1, -1)]
        outside = (found.at >= ends[0].max(axis=0) - 1e-9) | (found.at <= ends[1].min(axis=0) + 1e-9)
        alone = -pad.hanging * found.width * (size / 2 - np.abs(found.at)) ** 2 / 2
        hung = np.where(outside, np.minimum(moment, alone), moment)
    for face, sign in (("bottom", 1.0), ("top", -1.0)):
        acting = moment if face == "bottom" else hung
        outcomes.append(
            _flexure(pad, columns, axis, face, found.at, sign * acting, found.width, record.scope(face), thin)
        )
    outcomes.append(_shear(pad, columns, axis, places, halves, size, record.scope("shear"), thin))
    return outcomes


def _picked(values: Array, which: Array, shape: tuple[int, ...]) -> Array:
    found: Array = np.take_along_axis(np.broadcast_to(values, shape), which[None], axis=0)[0]
    return found


def _flexure(
    pad: ConcretePad,
    columns: list[Column],
    axis: str,
    face: str,
    at: Array,
    moment: Array,
    across: Array,
    record: Recorder,
    thin: tuple[str, ...],
) -> Outcome:
    per_width = moment / np.maximum(across, 1e-9)
    worst = per_width.argmax(axis=0)
    greatest = np.maximum(_picked(moment, worst, moment.shape), 0.0)
    place, width = _picked(at, worst, moment.shape), np.maximum(_picked(across, worst, moment.shape), 1e-9)
    if face == "bottom":
        bands, band_width = _bands(pad, columns, axis)
        # per width, the band asks for more than the whole section
        more = bands / band_width > greatest / width
        greatest, width = np.where(more, bands, greatest), np.where(more, band_width, width)
        record.given("in_band", more.astype(float), note=say("1: the band under one column governs"))
    sign = 1.0 if face == "bottom" else -1.0
    record.given(
        "x_s", place, "m", note=say("place of the section along {axis}, from the middle", axis=axis), needs="B L"
    )
    record.given("b", width, "m", note=say("whole width, or that of the band"), needs="x_s")
    record.given(
        "M_Ed",
        sign * greatest,
        "kNm",
        note=say("pressure, weights and columns beyond the section; positive: tension below"),
        needs="p_mid g_x g_y w_d x_s",
    )
    required, provided, ratio, deep = steel_at(pad, axis, face, sign * greatest, width, record)
    check = f"{face}-{axis}"
    bars = pad.bars(face, axis)

    def note(candidate: int, column: int) -> str:
        if float(bars.diameter[candidate, 0]) == 0.0:
            return without_bars(face, ratio[candidate, column])
        extra = say("; compression zone too deep: thicken the base") if deep[candidate, column] > 1 else ""
        return say("at {place:+.2f} m from the middle{extra}", place=place[candidate, column], extra=extra)

    outcome = Outcome(
        CHECKS[check],
        required,
        provided,
        ratio,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("along {axis} {face}", axis=axis, face=label(face)),),
        why_not=thin,
        note=note,
    )
    if face == "top":
        idle = never_in_tension(pad, required)
        return does_not_apply(check, idle) if all(idle) else replace(outcome, not_applicable=idle)
    return outcome


@dataclass(frozen=True)
class Band:
    """The band under one column of a row, across it: its middle and width (candidates, 1), m, and its moment at the
    face, kNm."""

    at: Array
    width: Array
    moment: Array


def bands_of(pad: ConcretePad, columns: list[Column], axis: str) -> list[Band]:
    """Bands across a row of columns, for bars along an axis; their moments are zero where the columns stand in no row.

    In the band the load of the column spreads evenly over the size across.
    """
    g = pad.geometry
    mine, other = (0, 1) if axis == "x" else (1, 0)
    size = g.B if axis == "x" else g.L
    places = np.stack([c.x if axis == "x" else c.y for c in columns])
    in_row = places.max(axis=0) - places.min(axis=0) < ROW * size
    d = pad.depth(axis)
    found = []
    for column, place in zip(columns, places):
        band = np.minimum(column.face[other] + d, g.footprint.chord(axis, place))
        # across a row the base is as long as it is at the column
        long = g.footprint.chord("y" if axis == "x" else "x", column.y if axis == "x" else column.x)
        reach = np.maximum(long / 2 + np.abs(place) - column.face[mine] / 2, 0.0)
        moment = np.maximum(column.V, 0.0) / long * reach**2 / 2 * in_row
        found.append(Band(column.y if axis == "x" else column.x, band, moment))
    return found


def _bands(pad: ConcretePad, columns: list[Column], axis: str) -> tuple[Array, Array]:
    """(moment in kNm, width in m) of the band under the column that asks for most steel, across a row; zero where there
    is no row."""
    most, width = np.zeros(pad.contact.shape), np.ones(pad.contact.shape)
    for band in bands_of(pad, columns, axis):
        more = band.moment / band.width > most / width
        most, width = (
            np.where(more, band.moment, most),
            np.where(more, band.width * np.ones_like(most), width),
        )
    return most, width


def _shear(
    pad: ConcretePad,
    columns: list[Column],
    axis: str,
    places: list[Array],
    halves: list[Array],
    size: Array,
    record: Recorder,
    thin: tuple[str, ...],
) -> Outcome:
    away, depth = pad.standard.shear_section(pad.depth(axis), pad.geometry.h)
    stack = np.stack([p + s * (h + away) for p, h in zip(places, halves) for s in (-1, 1)])
    # beyond the edge, or nearer than that to another column, there is no section
    outside = np.abs(stack) >= size / 2
    near = np.any(np.stack([np.abs(stack - p) < h + away - 1e-6 for p, h in zip(places, halves)]), axis=0)
    found = sections_at(pad, columns, axis, stack)
    shear = np.where(outside | near, 0.0, np.abs(found.shear))
    wide = np.broadcast_to(np.maximum(found.width, 1e-9), shear.shape)
    worst = (shear / wide).argmax(axis=0)
    greatest, place, across = (_picked(v, worst, shear.shape) for v in (shear, found.at, wide))
    demand = greatest / (across * depth) / 1000.0
    bending = _picked(found.moment, worst, shear.shape)
    above = pad.bars("top", axis)
    rho_below = pad.bars("bottom", axis).area / pad.depth(axis)
    rho_above = np.where(above.diameter > 0.0, above.area / pad.top_depth(axis), rho_below)
    # nearer than d to where the moment changes its sign either face may be pulled: there the lesser of both counts more and more
    own = np.where(bending < 0.0, rho_above, rho_below)
    sure = np.clip(np.abs(bending) / np.maximum(greatest * depth, 1e-9), 0.0, 1.0)
    rho = sure * own + (1 - sure) * np.minimum(rho_above, rho_below)
    record.given("d", depth * np.ones_like(pad.geometry.h), "m", note=say("depth over which the stress is taken"))
    record.given(
        "x_s", place, "m", note=say("place of the section along {axis}, from the middle", axis=axis), needs="B L d"
    )
    record.given(
        "V_Ed",
        greatest,
        "kN",
        note=say("pressure less weights and columns beyond the section"),
        needs="p_mid g_x g_y w_d x_s",
    )
    record.given("b", across, "m", note=say("width of the section"), needs="x_s")
    record.step("v_Ed", "abs(V_Ed)/(b*d)/1000", demand, "MPa", reference=pad.standard.clauses[f"shear-{axis}"])
    record.given(
        "rho_l",
        rho,
        note=say("bars along {axis} of the face in tension; where that may be either the lesser", axis=axis),
        needs="x_s",
    )
    capacity = np.broadcast_to(
        pad.standard.shear_strength(depth, pad.settings.concrete_strength, rho, pad.special, record),
        demand.shape,
    )
    as_beam = np.ones_like(pad.geometry.h)
    ratio = without_links(pad, as_beam, demand, capacity, record)
    links = wants_links(pad, as_beam)
    return Outcome(
        CHECKS[f"shear-{axis}"],
        demand,
        capacity,
        ratio,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("along {axis} shear", axis=axis),),
        why_not=thin,
        note=lambda i, j: say(
            "at {place:+.2f} m from the middle{value}",
            place=place[i, j],
            value=say("; its thickness asks for links") if links[i, 0] else "",
        ),
    )
