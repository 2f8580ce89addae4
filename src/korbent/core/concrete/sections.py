"""Forces on vertical sections through a base, from the soil pressure and the weights beyond the section."""

from dataclasses import dataclass

import numpy as np

from korbent.core.contact.plane import Contact
from korbent.core.contact.polygon import clipped_moments
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array
from korbent.words import say

SIDES = ("+x", "−x", "+y", "−y")
FACES = tuple(say("{side} face", side=side) for side in SIDES)


@dataclass(frozen=True)
class SectionForces:
    """Per side (first axis, in the order of SIDES), candidate and situation."""

    outstand: Array
    """Length of the base beyond the section, m."""
    pressed: Array
    """Soil force beyond the section, kN."""
    pressed_moment: Array
    """Its moment about the section, kNm."""
    shear: Array
    """Soil force less weights beyond the section, kN (up positive)."""
    moment: Array
    """Moment about the section, kNm (positive: tension at the bottom)."""
    width: Array
    """Width of the section, m: of a round base its chord there."""
    area: Array
    """Area of the base beyond the section, m2."""
    area_moment: Array
    """Its first moment about the section, m3."""


def forces_beyond(geometry: PadGeometry, contact: Contact, weight: Array, away: Array) -> SectionForces:
    """Forces on the four sections at the distance ``away`` from the faces of the loaded area.

    Args:
        contact: pressure on the underside.
        weight: net downward load of base, backfill and (negative) water pressure, kPa.
        away: m, shape (sides, 1 or candidates, 1), or broadcastable to it; (sides, sections, candidates, 1) for many at
        each side.
    """
    if not geometry.footprint.slices_alike:
        return _beyond_sections(geometry, contact, weight, away)
    outstand, across, half, bounds = _slices(geometry, contact.shape, away)
    integrals = contact.on_rectangles(*bounds)
    first = np.stack([integrals.x[0], -integrals.x[1], integrals.y[2], -integrals.y[3]])
    pressed_moment = first - (half - outstand) * integrals.force
    return SectionForces(
        outstand=outstand,
        pressed=integrals.force,
        pressed_moment=pressed_moment,
        shear=integrals.force - weight * outstand * across,
        moment=pressed_moment - weight * outstand**2 / 2 * across,
        width=across,
        area=outstand * across,
        area_moment=outstand**2 / 2 * across,
    )


def net_force_beyond(geometry: PadGeometry, contact: Contact, weight: Array, away: Array) -> Array:
    """The ``shear`` of :func:`forces_beyond` per width of the section alone, kN/m."""
    if not geometry.footprint.slices_alike:
        found = _beyond_sections(geometry, contact, weight, away)
        return found.shear / np.maximum(found.width, 1e-9)
    outstand, across, _, bounds = _slices(geometry, contact.shape, away)
    pressed = contact.force_on_rectangles(*bounds)
    force: Array = pressed / np.maximum(across, 1e-9) - weight * outstand
    return force


def _slices(
    g: PadGeometry, shape: tuple[int, ...], away: Array
) -> tuple[Array, Array, Array, tuple[Array, Array, Array, Array]]:
    """(outstand, width, half the length of the base, x from, to, y from, to) of the parts of a rectangular base beyond
    sections, m."""
    count, _ = shape
    many = away.shape[1:-2]
    outstand = np.empty((4, *many, count, 1))
    bounds = np.empty((4, 4, *many, count, 1))
    across = np.empty_like(outstand)
    half = np.empty_like(outstand)
    for side, name in enumerate(SIDES):
        sign = 1.0 if name[0] == "+" else -1.0
        along_x = name[1] == "x"
        half[side] = (g.B if along_x else g.L) / 2
        across[side] = g.L if along_x else g.B
        offset = g.offset_x if along_x else g.offset_y
        end = (g.B if along_x else g.L) / 2
        start = np.clip(sign * offset + g.face[0 if along_x else 1] / 2 + away[side], -end, end)
        outstand[side] = end - start
        low, high = (start, end) if sign > 0 else (-end, -start)
        beside = (g.L if along_x else g.B) / 2
        ends = (low, high, -beside, beside) if along_x else (-beside, beside, low, high)
        for k, end_at in enumerate(ends):
            bounds[k, side] = end_at
    return outstand, across, half, (bounds[0], bounds[1], bounds[2], bounds[3])


def _beyond_sections(geometry: PadGeometry, contact: Contact, weight: Array, away: Array) -> SectionForces:
    """As :func:`forces_beyond` for a base of any footprint."""
    g = geometry
    parts = []
    for side, name in enumerate(("+x", "-x", "+y", "-y")):
        sign = 1.0 if name[0] == "+" else -1.0
        along_x = name[1] == "x"
        offset = g.offset_x if along_x else g.offset_y
        part = g.footprint.beyond(name, sign * offset + g.face[0 if along_x else 1] / 2 + away[side])
        start = part.start
        pressed = contact.on_polygons(part.x, part.y)
        whole = clipped_moments(
            part.x, part.y, np.ones(contact.shape), np.zeros(contact.shape), np.zeros(contact.shape)
        )
        first = sign * (pressed.x if along_x else pressed.y) - start * pressed.force
        area_first = sign * (whole.Sx if along_x else whole.Sy) - start * whole.A
        full = np.ones(contact.shape)
        parts.append(
            (
                part.outstand * full,
                pressed.force,
                first,
                pressed.force - weight * whole.A,
                first - weight * area_first,
                part.chord * full,
                whole.A,
                area_first,
            )
        )
    return SectionForces(*(np.stack(values) for values in zip(*parts)))
