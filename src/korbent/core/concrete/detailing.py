"""Least steel, greatest spacing, cover, and bars along the sides."""

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.pad import ConcretePad
from korbent.core.working import Recorder


def detailing(pad: ConcretePad, axis: str, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """Least steel and greatest spacing of the bottom bars along an axis."""
    bars, settings = pad.bars("bottom", axis), pad.settings
    scope = record.scope(f"detailing {axis}")
    scope("d", f"d_{axis}", pad.depth(axis), "m")
    least = pad.standard.minimum_steel(
        pad.depth(axis), pad.geometry.h, settings.concrete_strength, settings.steel_strength, scope
    )
    provided = bars.area * 1e6
    scope("oe", "", bars.diameter, "m", note="bar diameter")
    scope("s", "", bars.spacing, "m", note="width for each bar")
    scope("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note="steel provided")
    steel = scope.scope("steel")
    steel("ratio", "A_s_min/A_s", least / provided)
    greatest = pad.standard.greatest_spacing(pad.geometry.h, scope)
    spacing = bars.centres(settings.concrete_cover)
    gap = np.maximum(spacing - bars.diameter, 1e-4)
    least_gap = pad.standard.least_gap(bars.diameter, scope)
    apart = scope.scope("spacing")
    apart("s_c", "", spacing, "m", note="from bar to bar", needs="s")
    apart("g_s", "max(s_c - oe, 0.0001)", gap, "m", note="clear")
    ratio = np.maximum(spacing / greatest, least_gap / gap)
    apart("ratio", "max(s_c/s_max, g_min/g_s)", ratio)
    close = least_gap / gap > spacing / greatest
    return [
        Outcome(
            CHECKS[f"minimum-{axis}"], least, provided, least / provided, blocks=(f"detailing {axis} steel",), why_not=thin,
        ),
        Outcome(
            CHECKS[f"spacing-{axis}"], 1000 * np.where(close, least_gap, spacing), 1000 * np.where(close, gap, greatest), ratio,
            blocks=(f"detailing {axis} spacing",), why_not=thin, note=lambda i, j: "clear distance" if close[i, 0] else "",
        ),
    ]  # fmt: skip


def cover_check(pad: ConcretePad, record: Recorder) -> Outcome:
    """Cover of the outermost bottom bars against what the ground and their bond ask for."""
    settings = pad.settings
    scope = record.scope("cover")
    outer = pad.bars("bottom", settings.outer_bars)
    scope("oe_l", "", outer.diameter, "m", note="bars of the outer layer")
    needed = pad.standard.least_cover(
        outer.diameter, settings.concrete_strength, settings.cast_against, settings.cover_tolerance, scope
    )
    there = np.full_like(needed, settings.concrete_cover)
    scope("c", "", there, "m", note="cover")
    scope("ratio", "c_req/c", needed / there)
    return Outcome(
        CHECKS["cover"], 1000 * needed, 1000 * there, needed / there, blocks=("cover",), note=lambda i, j: f"cast against {settings.cast_against}"
    )  # fmt: skip


def side_bars_check(bench: Bench, pad: ConcretePad, record: Recorder) -> Outcome:
    """Bars along the side faces of thick bases: steel per height, and spacing."""
    settings, h = pad.settings, pad.geometry.h
    scope = record.scope("sides")
    given = [bench.pads[i].reinforcement.sides for i in bench.index]
    diameter = np.array([b.diameter if b else 0.016 for b in given])[:, None]
    spacing = np.array(
        [b.centres(float(t), settings.concrete_cover) if b else 1.0 for b, t in zip(given, h[:, 0])]
    )[:, None]
    none = np.array([b is None for b in given])[:, None]
    steel = np.where(none, 0.0, np.pi * diameter**2 / 4 / spacing * 1e6)
    scope("oe", "", diameter, "m", note="bars along the sides")
    scope("s", "", spacing, "m", note="from bar to bar")
    scope("A_s", "", steel, "mm²/m", note="steel provided, per height of the face", needs="oe s")
    least, greatest = pad.standard.side_bars(
        h, diameter, settings.concrete_cover, settings.concrete_strength, settings.steel_strength, scope
    )
    thick = least > 0
    ratio = np.where(thick & ~none, np.maximum(least / np.maximum(steel, 1e-9), spacing / greatest), 0.0)
    scope("ratio", "where(A_s_min > 0, where(A_s > 0, max(A_s_min/max(A_s, 1e-9), s/s_max), 0), 0)", ratio)
    idle = tuple("" if t else "the base is not thick enough to ask for them" for t in thick[:, 0])
    bare = tuple(
        "thick, and no bars along its sides" if t and n else "" for t, n in zip(thick[:, 0], none[:, 0])
    )
    if all(idle):
        return does_not_apply("side-bars", idle)
    return Outcome(
        CHECKS["side-bars"],
        np.where(thick, least, 0.0),
        steel,
        ratio,
        blocks=("sides",),
        not_applicable=idle,
        warnings=bare,
    )
