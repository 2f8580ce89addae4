"""Anchorage of the bottom bars at their ends."""

import numpy as np

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.sections import SectionForces, forces_beyond
from korbent.core.concrete.standard import BarEnds
from korbent.core.working import Array, Recorder


def anchorage_checks(pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """Length needed by the standard over the length there is, per direction, at the shorter side."""
    clear = clear_distances(pad.geometry)
    # in the order of forces_beyond: +x, -x, +y, -y
    outstands = [np.maximum(clear[side], 1e-6) for side in (1, 0, 3, 2)]
    within = [np.minimum(pad.geometry.h / 2, outstand) for outstand in outstands]
    away = np.stack([outstand - x for outstand, x in zip(outstands, within)])
    beyond = forces_beyond(pad.geometry, pad.contact, pad.weight, away)
    return [
        _along(pad, axis, outstands, within, beyond, record.scope(f"anchorage {axis}"), thin) for axis in "xy"
    ]


def _along(
    pad: ConcretePad, axis: str, outstands: list[Array], within: list[Array], beyond: SectionForces, record: Recorder, thin: tuple[str, ...]
) -> Outcome:  # fmt: skip
    g, settings, standard = pad.geometry, pad.settings, pad.standard
    bars, d = pad.bars("bottom", axis), pad.depth(axis)
    column = g.face[0 if axis == "x" else 1]
    hooked = settings.bar_ends == "hooked"
    parts = []
    for n, at in enumerate((0, 1) if axis == "x" else (2, 3)):
        outstand, x = outstands[at], within[at]
        force = np.maximum(beyond.shear[at], 0.0) / np.maximum(beyond.width[at], 1e-9)
        scope = record.scope("+ side" if n == 0 else "- side")
        scope("oe", "", bars.diameter, "m", note="bar diameter")
        scope("A_s", "", bars.area * 1e6, "mm²/m", note="steel provided")
        scope("d", f"d_{axis}", d, "m")
        scope("l_o", "", outstand, "m", note="from the face of the loaded area to the edge")
        scope("c_1", "", column, "m", note="loaded area along the bars")
        scope(
            "R",
            "",
            force,
            "kN/m",
            "",
            "net soil pressure within half the thickness of the edge, per width",
            "p_mid g_x g_y w_d h",
        )
        ends = BarEnds(
            bars.diameter,
            bars.area * 1e6,
            d,
            g.h,
            outstand,
            column,
            x,
            force,
            settings.concrete_cover,
            hooked,
        )
        needed, there = standard.anchorage(
            ends, settings.concrete_strength, settings.steel_strength, pad.special, scope
        )
        ratio = needed / np.maximum(there, 1e-3)
        scope("ratio", "l_req/max(l_av, 0.001)", ratio)
        parts.append((needed, np.maximum(there, 0.0) * np.ones_like(needed), ratio))
    needed, there, ratio = (np.concatenate(values, axis=-1) for values in zip(*parts))
    return Outcome(
        CHECKS[f"anchorage-{axis}"], 1000 * needed, 1000 * there, ratio, pad.situations, np.tile(~pad.contact.stable, 2),
        blocks=tuple(f"anchorage {axis} {s} side" for s in "+-"), why_not=thin,
        note=lambda candidate, column: ("hooked" if hooked else "straight") + (", at the + side" if column < len(pad.situations) else ", at the − side"),
    )  # fmt: skip
