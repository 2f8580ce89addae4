"""Anchorage of the bottom bars at their ends."""

from dataclasses import replace

import numpy as np

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.flexure import required_steel, section_within
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.sections import SectionForces, forces_beyond
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
    # the bars run on below the column: cracks at half the thickness from the edge or further, a face as if it were the thickness away
    sizes = np.stack([g.B, g.B, g.L, g.L])
    least = np.minimum(g.h / 2 if pad.standard.cracks_near_edge else g.h, sizes) + 0.0 * outstands
    steps = np.linspace(0.0, 1.0, CRACKS if pad.standard.cracks_near_edge else 1)
    x = np.stack([least + t * np.maximum(outstands - least, 0.0) for t in steps])
    beyond = [forces_beyond(g, pad.contact, pad.weight, outstands - at) for at in x]
    force = np.stack([np.maximum(b.shear, 0.0) / np.maximum(b.width, 1e-9) for b in beyond])
    faces = forces_beyond(g, pad.contact, pad.weight, -section_within(pad))
    own = np.ones((4, 1, 1), dtype=bool) if ends_at is None else ends_at
    return [
        _along(pad, axis, outstands, x, force, faces, own, record.scope(f"anchorage {axis}"), thin)
        for axis in "xy"
    ]


def _along(
    pad: ConcretePad, axis: str, outstands: Array, x: Array, force: Array, faces: SectionForces, own: Array, record: Recorder, thin: tuple[str, ...],
) -> Outcome:  # fmt: skip
    g, settings, standard = pad.geometry, pad.settings, pad.standard
    bars, d = pad.bars("bottom", axis), pad.depth(axis)
    column = g.face[0 if axis == "x" else 1]
    hooked = settings.bar_ends == "hooked"
    fck, fyk = settings.concrete_strength, settings.steel_strength
    parts = []
    for n, at in enumerate(SIDES[axis]):
        scope = record.scope("+ side" if n == 0 else "- side")
        moment = np.maximum(faces.moment[at], 0.0) / np.maximum(faces.width[at], 1e-9)
        required, _ = required_steel(standard, moment, d, fck, pad.fcd, pad.fyd, SILENT)
        share = np.clip(required / np.maximum(bars.area * 1e6, 1e-9), 0.0, 1.0)
        ends = BarEnds(
            bars.diameter, bars.area * 1e6, d, g.h, outstands[at], column, x[:, at], force[:, at], share, settings.concrete_cover, hooked,
        )  # fmt: skip
        needed, there = standard.anchorage(ends, fck, fyk, pad.special, SILENT)
        worst = np.argmax(needed / np.maximum(there, 1e-3) * np.ones_like(force[:, at]), axis=0)[None]

        def picked(values: Array, worst: Array = worst, shape: tuple[int, ...] = force[:, at].shape) -> Array:
            found: Array = np.take_along_axis(np.broadcast_to(values, shape), worst, axis=0)[0]
            return found

        x_worst, R = picked(x[:, at]), picked(force[:, at])
        scope("oe", "", bars.diameter, "m", note="bar diameter")
        scope("A_s", "", bars.area * 1e6, "mm²/m", note="steel provided")
        scope("d", f"d_{axis}", d, "m")
        scope("l_o", "", outstands[at], "m", note="from the face of the loaded area to the edge")
        scope("c_1", "", column, "m", note="loaded area along the bars")
        scope(
            "R",
            "",
            R,
            "kN/m",
            "",
            "net soil pressure between the edge and the crack, per width",
            "p_mid g_x g_y w_d h",
        )
        needed, there = standard.anchorage(replace(ends, x=x_worst, force=R), fck, fyk, pad.special, scope)
        counts = np.broadcast_to(own[at], R.shape)
        needed = np.where(counts, needed, 0.0)
        ratio = needed / np.maximum(there, 1e-3)
        scope(
            "k_e",
            "",
            np.where(counts, 1.0, 0.0),
            "",
            note="1 where no other column stands nearer to this edge",
        )
        scope("ratio", "k_e*l_req/max(l_av, 0.001)", ratio)
        parts.append((needed, np.maximum(there, 0.0) * np.ones_like(needed), ratio))
    needed, there, ratio = (np.concatenate(values, axis=-1) for values in zip(*parts))
    return Outcome(
        CHECKS[f"anchorage-{axis}"], 1000 * needed, 1000 * there, ratio, pad.situations, np.tile(~pad.contact.stable, 2),
        blocks=tuple(f"anchorage {axis} {s} side" for s in "+-"), why_not=thin,
        note=lambda candidate, column: ("hooked" if hooked else "straight") + (", at the + side" if column < len(pad.situations) else ", at the − side"),
    )  # fmt: skip
