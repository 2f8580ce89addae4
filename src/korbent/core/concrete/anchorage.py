"""Anchorage of the bars at their ends, below and, where there are any, above."""

from dataclasses import fields, replace

import numpy as np

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.sections import net_force_beyond
from korbent.core.concrete.standards.protocol import BarEnds
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

CRACKS = 7
"""Places of a crack between half the thickness from the edge and the face."""
SIDES = {"x": (0, 1), "y": (2, 3)}
"""In the order of forces_beyond: +x, -x, +y, -y."""


def anchorage_checks(
    pad: ConcretePad, record: Recorder, thin: tuple[str, ...], ends_at: Array | None = None
) -> list[Outcome]:
    """Length needed by the standard over the length there is, per direction, at both sides.

    Args:
        ends_at: (4, candidates, 1), in the order of SIDES: whether the edge there is this column's own; all where not
        given.
    """
    g = pad.geometry
    clear = clear_distances(g)
    outstands = np.stack([np.maximum(clear[side], 1e-6) for side in (1, 0, 3, 2)])
    sizes = np.stack([g.B, g.B, g.L, g.L])
    near = pad.standard.cracks_near_edge
    cracks: dict[str, tuple[Array, Array]] = {}
    # the bars run on below the column: a face nearer than that as if it were the thickness away; cracks by the soil from half of it on
    for face, nearest in (("bottom", g.h / 2 if near else g.h), ("top", g.h)):
        least = np.minimum(nearest, sizes) + 0.0 * outstands
        steps = np.linspace(0.0, 1.0, CRACKS if near else 1)
        x = np.stack([least + t * np.maximum(outstands - least, 0.0) for t in steps])
        beyond = net_force_beyond(g, pad.contact, pad.weight, np.moveaxis(outstands - x, 0, 1))
        cracks[face] = x, np.moveaxis(beyond, 1, 0)
        if not any((pad.bars("top", axis).diameter > 0.0).any() for axis in "xy"):
            break
    own = np.ones((4, 1, 1), dtype=bool) if ends_at is None else ends_at
    # along a wall the bars only spread the load: it bends the base across itself
    along_x = (g.one_way > 0) & (g.face[0] > g.face[1])
    along_y = (g.one_way > 0) & (g.face[1] > g.face[0])
    own = own & ~np.stack([along_x, along_x, along_y, along_y])
    found: dict[str, Lengths] = {
        face: _along_edges(pad, face, outstands, *at, own, record) for face, at in cracks.items()
    }
    return [_both_faces(pad, axis, found, thin) for axis in "xy"]


Lengths = tuple[Array, Array, Array]
"""(needed, there, ratio), each with the sides in the order of SIDES as first axis."""


def _both_faces(pad: ConcretePad, axis: str, found: dict[str, Lengths], thin: tuple[str, ...]) -> Outcome:
    """The bars along an axis at both edges; those above count where there are some."""
    blocks, parts = [], []
    for face, lengths in found.items():
        if not (pad.bars(face, axis).diameter > 0.0).any():
            continue
        name = say("anchorage {axis}", axis=axis) if face == "bottom" else say("top anchorage {axis}", axis=axis)
        parts += [tuple(values[at] for values in lengths) for at in SIDES[axis]]
        blocks += [say("{name} {sign} side", name=name, sign=sign) for sign in "+-"]
    needed, there, ratio = (np.concatenate(values, axis=-1) for values in zip(*parts))
    hooked, count = pad.settings.bar_ends == "hooked", len(pad.situations)

    def note(_: int, column: int) -> str:
        face, side = divmod(column // count, 2)
        above = "above, " if face else ""
        return say(
            "{above}{value}, at the {value_2} side",
            above=above,
            value=say("hooked") if hooked else say("straight"),
            value_2="−" if side else "+",
        )

    return Outcome(
        CHECKS[f"anchorage-{axis}"],
        1000 * needed,
        1000 * there,
        ratio,
        pad.situations,
        np.tile(~pad.contact.stable, len(blocks)),
        blocks=tuple(blocks),
        why_not=thin,
        note=note,
    )


def _along_edges(
    pad: ConcretePad, face: str, outstands: Array, places: Array, upward: Array, own: Array, record: Recorder
) -> Lengths:
    """The bars of a face at the four edges, each at its worst crack.

    Args:
        outstands, own: (sides, candidates, 1). places: of the cracks from the edge, m, (cracks, sides, candidates, 1).
        upward: net force between edge and crack per width, kN/m, (cracks, sides, candidates, situations).
    """
    g, settings, standard = pad.geometry, pad.settings, pad.standard
    bottom = face == "bottom"
    sign = 1.0 if bottom else -1.0

    def by_side(of_x: Array, of_y: Array) -> Array:
        return np.stack([of_x, of_x, of_y, of_y])

    along = {axis: pad.bars(face, axis) for axis in "xy"}
    diameter = by_side(*(bars.diameter for bars in along.values()))
    bare = diameter == 0.0
    oe = np.where(bare, 0.01, diameter)
    provided = np.where(bare, 1.0, by_side(*(bars.area * 1e6 for bars in along.values())))
    d = by_side(*((pad.depth(axis) if bottom else pad.top_depth(axis)) for axis in "xy"))
    level = g.h - d if bottom else d
    moment = np.maximum(sign * pad.faces.moment, 0.0) / np.maximum(pad.faces.width, 1e-9)
    fck, fyk = settings.concrete_strength, settings.steel_strength
    required, _ = required_steel(standard, moment, d, fck, pad.fcd, pad.fyd, SILENT)
    share = np.where(bare, 0.0, np.clip(required / np.maximum(provided, 1e-9), 0.0, 1.0))
    force = np.where(bare, 0.0, np.maximum(sign * upward, 0.0))
    ends = BarEnds(
        oe,
        provided,
        d,
        g.h,
        outstands,
        by_side(*g.face[:2]),
        places,
        force,
        share,
        settings.concrete_cover,
        settings.bar_ends == "hooked",
        level,
    )
    needed, there = standard.anchorage(ends, fck, fyk, pad.special, SILENT)
    shape = force.shape
    worst = np.argmax(np.broadcast_to(needed * (1 / np.maximum(there, 1e-3)), shape), axis=0)[None]

    def picked(values: Array) -> Array:
        found: Array = np.take_along_axis(np.broadcast_to(values, shape), worst, axis=0)[0]
        return found

    if len(places) == 1:
        needed, there = (np.broadcast_to(v, shape)[0] for v in (needed, there))
    else:
        needed, there = picked(needed), picked(there)
    counts = own & ~bare
    needed = np.where(counts, needed, 0.0)
    ratio = needed / np.maximum(there, 1e-3)
    if record is not SILENT:
        _record(pad, face, replace(ends, x=picked(places), force=picked(force)), counts, record)
    return needed, np.maximum(there, 0.0), ratio


def _record(pad: ConcretePad, face: str, ends: BarEnds, counts: Array, record: Recorder) -> None:
    """How the lengths at the worst crack came about, edge by edge."""
    settings, bottom = pad.settings, face == "bottom"
    for axis in "xy":
        if not (pad.bars(face, axis).diameter > 0.0).any():
            continue
        name = say("anchorage {axis}", axis=axis) if bottom else say("top anchorage {axis}", axis=axis)
        for at in SIDES[axis]:
            one = replace(
                ends,
                **{f.name: getattr(ends, f.name)[at] for f in fields(ends) if f.name not in ("h", "cover", "hooked")},
            )
            scope = record.scope(name).scope(say("+ side") if at == SIDES[axis][0] else say("- side"))
            scope.given("oe", one.diameter, "m", note=say("bar diameter"))
            scope.given("A_s", one.provided, "mm²/m", note=say("steel provided"))
            scope.step("d", f"d_{axis}" if bottom else "", one.d, "m", note="" if bottom else say("of the top bars"))
            scope.step("z_b", "h - d" if bottom else "d", one.level, "m", note=say("bars above the underside"))
            scope.given("l_o", one.outstand, "m", note=say("from the face of the loaded area to the edge"))
            scope.given("c_1", one.column, "m", note=say("loaded area along the bars"))
            what = (
                say("net soil pressure between the edge and the crack, per width")
                if bottom
                else say("weights less soil pressure there")
            )
            scope.given("R", one.force, "kN/m", note=what, needs="p_mid g_x g_y w_d h")
            needed, there = pad.standard.anchorage(
                one, settings.concrete_strength, settings.steel_strength, pad.special, scope
            )
            k_e = np.where(np.broadcast_to(counts[at], one.force.shape), 1.0, 0.0)
            scope.given(
                "k_e",
                k_e,
                note=say(
                    "1 where there are bars, no other column stands nearer to this edge, and no wall runs along them"
                ),
            )
            scope.step("ratio", "k_e*l_req/max(l_av, 0.001)", k_e * needed / np.maximum(there, 1e-3))
