"""Anchorage of the bars at their ends, below and, where there are any, above."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.flexure import required_steel, section_within
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.sections import SectionForces, forces_beyond, net_force_beyond
from korbent.core.concrete.standard import BarEnds
from korbent.core.working import SILENT, Array, Recorder

CRACKS = 7
"""Places of a crack between half the thickness from the edge and the face."""
SIDES = {"x": (0, 1), "y": (2, 3)}
"""In the order of forces_beyond: +x, -x, +y, -y."""


def anchorage_checks(
    pad: ConcretePad, record: Recorder, thin: tuple[str, ...], ends_at: Array | None = None
) -> list[Outcome]:
    """Length needed by the standard over the length there is, per direction, at both sides.

    Args:
        ends_at: (4, candidates, 1), in the order of SIDES: whether the edge there is this column's own; all where not given.
    """
    g = pad.geometry
    clear = clear_distances(g)
    outstands = np.stack([np.maximum(clear[side], 1e-6) for side in (1, 0, 3, 2)])
    sizes = np.stack([g.B, g.B, g.L, g.L])
    near = pad.standard.cracks_near_edge
    cracks = {}
    # the bars run on below the column: a face nearer than that as if it were the thickness away; cracks by the soil from half of it on
    for face, nearest in (("bottom", g.h / 2 if near else g.h), ("top", g.h)):
        least = np.minimum(nearest, sizes) + 0.0 * outstands
        steps = np.linspace(0.0, 1.0, CRACKS if near else 1)
        x = np.stack([least + t * np.maximum(outstands - least, 0.0) for t in steps])
        beyond = net_force_beyond(g, pad.contact, pad.weight, np.moveaxis(outstands - x, 0, 1))
        cracks[face] = x, np.moveaxis(beyond, 1, 0)
        if not any((pad.bars("top", axis).diameter > 0.0).any() for axis in "xy"):
            break
    faces = forces_beyond(g, pad.contact, pad.weight, -section_within(pad))
    own = np.ones((4, 1, 1), dtype=bool) if ends_at is None else ends_at
    ends = Ends(outstands, cracks, faces, own, thin)
    return [_both_faces(pad, axis, ends, record) for axis in "xy"]


@dataclass(frozen=True)
class Ends:
    """What the anchorage at the four edges goes by, the sides in the order of SIDES as an axis."""

    outstands: Array
    cracks: dict[str, tuple[Array, Array]]
    """By face: places of a crack from the edge, m, (cracks, sides, candidates, 1), and the net force between edge and crack per width, kN/m,
    upwards positive."""
    faces: SectionForces
    own: Array
    """Whether the edge is this column's own, (sides, candidates, 1)."""
    thin: tuple[str, ...]


def _both_faces(pad: ConcretePad, axis: str, ends: Ends, record: Recorder) -> Outcome:
    """The bars along an axis at both edges; those above count where there are some."""
    blocks, parts = [], []
    for face in ("bottom", "top"):
        if not (pad.bars(face, axis).diameter > 0.0).any():
            continue
        name = f"anchorage {axis}" if face == "bottom" else f"top anchorage {axis}"
        parts += _along(pad, axis, face, ends, record.scope(name))
        blocks += [f"{name} {sign} side" for sign in "+-"]
    needed, there, ratio = (np.concatenate(values, axis=-1) for values in zip(*parts))
    hooked, count = pad.settings.bar_ends == "hooked", len(pad.situations)

    def note(_: int, column: int) -> str:
        face, side = divmod(column // count, 2)
        above = "above, " if face else ""
        return f"{above}{'hooked' if hooked else 'straight'}, at the {'−' if side else '+'} side"

    return Outcome(
        CHECKS[f"anchorage-{axis}"], 1000 * needed, 1000 * there, ratio, pad.situations, np.tile(~pad.contact.stable, len(blocks)),
        blocks=tuple(blocks), why_not=ends.thin, note=note,
    )  # fmt: skip


def _along(
    pad: ConcretePad, axis: str, face: str, edges: Ends, record: Recorder
) -> list[tuple[Array, Array, Array]]:
    """(length needed, there, ratio) of the bars of a face along an axis, at the + and the − side."""
    g, settings, standard = pad.geometry, pad.settings, pad.standard
    bottom = face == "bottom"
    sign = 1.0 if bottom else -1.0
    bars = pad.bars(face, axis)
    bare = bars.diameter == 0.0
    oe = np.where(bare, 0.01, bars.diameter)
    d = pad.depth(axis) if bottom else pad.top_depth(axis)
    level = g.h - d if bottom else d
    column = g.face[0 if axis == "x" else 1]
    hooked = settings.bar_ends == "hooked"
    fck, fyk = settings.concrete_strength, settings.steel_strength
    provided = np.where(bare, 1.0, bars.area * 1e6)
    parts = []
    for n, at in enumerate(SIDES[axis]):
        scope = record.scope("+ side" if n == 0 else "- side")
        moment = np.maximum(sign * edges.faces.moment[at], 0.0) / np.maximum(edges.faces.width[at], 1e-9)
        required, _ = required_steel(standard, moment, d, fck, pad.fcd, pad.fyd, SILENT)
        share = np.where(bare, 0.0, np.clip(required / np.maximum(provided, 1e-9), 0.0, 1.0))
        places, upward = edges.cracks[face]
        force = np.maximum(sign * upward[:, at], 0.0)
        if bare.any():
            force = np.where(bare, 0.0, force)
        x, shape = places[:, at], force.shape
        ends = BarEnds(
            oe, provided, d, g.h, edges.outstands[at], column, x, force, share, settings.concrete_cover, hooked, level
        )  # fmt: skip
        needed, there = standard.anchorage(ends, fck, fyk, pad.special, SILENT)
        worst = np.argmax(np.broadcast_to(needed * (1 / np.maximum(there, 1e-3)), shape), axis=0)[None]

        def picked(values: Array, worst: Array = worst, shape: tuple[int, ...] = shape) -> Array:
            found: Array = np.take_along_axis(np.broadcast_to(values, shape), worst, axis=0)[0]
            return found

        x_worst, R = picked(x), picked(force)
        scope("oe", "", oe, "m", note="bar diameter")
        scope("A_s", "", provided, "mm²/m", note="steel provided")
        scope("d", f"d_{axis}" if bottom else "", d, "m", note="" if bottom else "of the top bars")
        scope("z_b", "h - d" if bottom else "d", level, "m", note="bars above the underside")
        scope("l_o", "", edges.outstands[at], "m", note="from the face of the loaded area to the edge")
        scope("c_1", "", column, "m", note="loaded area along the bars")
        scope(
            "R",
            "",
            R,
            "kN/m",
            "",
            "net soil pressure between the edge and the crack, per width"
            if bottom
            else "weights less soil pressure there",
            "p_mid g_x g_y w_d h",
        )
        needed, there = standard.anchorage(replace(ends, x=x_worst, force=R), fck, fyk, pad.special, scope)
        counts = np.broadcast_to(edges.own[at] & ~bare, R.shape)
        needed = np.where(counts, needed, 0.0)
        ratio = needed / np.maximum(there, 1e-3)
        scope(
            "k_e",
            "",
            np.where(counts, 1.0, 0.0),
            "",
            note="1 where there are bars and no other column stands nearer to this edge",
        )
        scope("ratio", "k_e*l_req/max(l_av, 0.001)", ratio)
        parts.append((needed, np.maximum(there, 0.0) * np.ones_like(needed), ratio))
    return parts
