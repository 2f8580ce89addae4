"""Least steel, greatest spacing, cover, and bars along the sides."""

from collections.abc import Sequence

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, LIMIT, Outcome, does_not_apply
from korbent.core.concrete.pad import ConcretePad
from korbent.core.concrete.punching.at_section import direct_stress
from korbent.core.concrete.standards.protocol import CoverAsked, is_at_section
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say


def detailing(
    pad: ConcretePad, axis: str, record: Recorder, thin: tuple[str, ...], columns: Sequence[ConcretePad] = ()
) -> list[Outcome]:
    """Least steel and greatest spacing of the bottom bars along an axis; ``columns``: the base as each of several
    columns sees it."""
    bars, settings = pad.bars("bottom", axis), pad.settings
    scope = record.scope(say("detailing {axis}", axis=axis))
    scope.step("d", f"d_{axis}", pad.depth(axis), "m")
    least = pad.standard.minimum_steel(
        pad.depth(axis), pad.geometry.h, settings.concrete_strength, settings.steel_strength, scope
    )
    provided = bars.area * 1e6
    scope.given("oe", bars.diameter, "m", note=say("bar diameter"))
    scope.given("s", bars.spacing, "m", note=say("width for each bar"))
    scope.step("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note=say("steel provided"))
    steel = scope.scope("steel")
    near = [
        _near_column(own, steel.scope(say("near column {k}", k=k + 1) if columns else say("near the column")))
        for k, own in enumerate(columns or (pad,))
    ]
    least_all = least
    for found in near:
        least = np.maximum(least, found)
    if any(found.any() for found in near):
        steel.given(
            "A_s_c",
            np.max(near, axis=0),
            "mm²/m",
            note=say("near the column by the punching stress, worst situation"),
        )
        steel.step("A_s_all", "A_s_min", least_all, "mm²/m")
        steel.step("A_s_min", "max(A_s_all, A_s_c)", least, "mm²/m")
    deep, clause = pad.standard.least_depth
    shallow = np.maximum(deep / np.maximum(pad.depth(axis), 1e-9), 0.0)
    ratio = np.maximum(least / provided, shallow)
    if deep:
        steel.given("d_min", deep, "m", reference=clause, note=say("least effective depth"))
        steel.step("ratio", "max(A_s_min/A_s, d_min/d)", ratio)
    else:
        steel.step("ratio", "A_s_min/A_s", ratio)
    thin_base = shallow > least / provided
    return [
        Outcome(
            CHECKS[f"minimum-{axis}"],
            least,
            provided,
            ratio,
            blocks=(say("detailing {axis} steel", axis=axis),),
            why_not=thin,
            note=lambda i, j: (
                say("effective depth less than {deep:.0f} mm", deep=1000 * deep)
                if thin_base[i, 0] and ratio[i, 0] > LIMIT
                else ""
            ),
        ),
        _spacing(pad, axis, scope, thin),
    ]


def _near_column(pad: ConcretePad, record: Recorder) -> Array:
    """Least steel near a column of a base that spans both ways, worst of all situations, mm2/m, (candidates, 1)."""
    if not is_at_section(pad.standard):
        return np.zeros_like(pad.geometry.h)
    stress, section, sides = direct_stress(pad, pad.standard)
    d = (pad.d_x + pad.d_y) / 2
    record.given("d", d, "m", note=say("mean effective depth"))
    record.given(
        "v_uv",
        stress,
        "MPa",
        note=say("direct punching stress at d/2 from the column, worst situation"),
        needs="p_mid",
    )
    record.given("b_o", section.length, "m", note=say("its section"))
    record.given("h_1w", pad.geometry.one_way, note=say("1: spans one way"))
    settings = pad.settings
    least = pad.standard.steel_at_column(
        stress, section.length, sides, d, settings.concrete_strength, settings.steel_strength, record
    )
    return np.where(pad.geometry.one_way > 0.0, 0.0, least)


def _spacing(pad: ConcretePad, axis: str, record: Recorder, thin: tuple[str, ...]) -> Outcome:
    """Distance from bar to bar, at most and at least, below and above where there are bars."""
    parts = []
    for face in ("bottom", "top"):
        bars = pad.bars(face, axis)
        there = bars.diameter > 0.0
        scope = record.scope("spacing" if face == "bottom" else say("top spacing"))
        oe = np.where(there, bars.diameter, 0.01)
        spacing = np.where(there, bars.centres(pad.settings.concrete_cover), 1.0)
        scope.given("oe", oe, "m", note=say("{face} bars", face=label(face)))
        greatest = pad.standard.greatest_spacing(pad.geometry.h, pad.geometry.one_way, scope)
        gap = np.maximum(spacing - oe, 1e-4)
        least_gap = pad.standard.least_gap(oe, scope)
        scope.given("s_c", spacing, "m", note=say("from bar to bar"))
        scope.step("g_s", "max(s_c - oe, 0.0001)", gap, "m", note=say("clear"))
        scope.given("k_on", np.where(there, 1.0, 0.0), note=say("1 where there are bars"))
        ratio = np.where(there, np.maximum(spacing / greatest, least_gap / gap), 0.0)
        scope.step("ratio", "k_on*max(s_c/s_max, g_min/g_s)", ratio)
        close = least_gap / gap > spacing / greatest
        parts.append((1000 * np.where(close, least_gap, spacing), 1000 * np.where(close, gap, greatest), ratio, close))
    demand, capacity, ratio, close = (
        np.concatenate([np.broadcast_to(v, pad.geometry.h.shape) for v in values], axis=-1) for values in zip(*parts)
    )

    def note(i: int, j: int) -> str:
        return ", ".join(
            text for text in (say("top bars") if j else "", say("clear distance") if close[i, j] else "") if text
        )

    return Outcome(
        CHECKS[f"spacing-{axis}"],
        demand,
        capacity,
        ratio,
        blocks=(say("detailing {axis} spacing", axis=axis), say("detailing {axis} top spacing", axis=axis)),
        why_not=thin,
        note=note,
    )


def cover_check(pad: ConcretePad, record: Recorder) -> Outcome:
    """Cover of the outermost bottom bars against what the ground and their bond ask for."""
    settings = pad.settings
    scope = record.scope("cover")
    outer = pad.bars("bottom", settings.outer_bars)
    scope.given("oe_l", outer.diameter, "m", note=say("bars of the outer layer"))
    asked = CoverAsked(
        settings.concrete_strength,
        settings.cast_against,
        settings.cover_tolerance,
        settings.exposure_en,
        settings.exposure_aci,
        settings.exposure_as,
        settings.design_life,
        settings.fire_resistance,
    )
    needed = pad.standard.least_cover(outer.diameter, asked, scope)
    typed = settings.cover_required
    if typed is not None:
        scope.step("c_std", "c_req", needed, "m", note=say("by the standard"))
        needed = np.full_like(needed, typed)
        scope.given(
            "c_req",
            needed,
            "m",
            reference=say("setting"),
            note=say("typed: it stands instead of that of the standard"),
            needs="c_std",
        )
    exposure = {
        "EN": f", {settings.exposure_en}" if settings.exposure_en else "",
        "AS": f", {settings.exposure_as}",
        "AC": "" if settings.exposure_aci == "by_casting" else f", {label(settings.exposure_aci)}",
    }.get(pad.standard.name[:2], "")
    there = np.full_like(needed, settings.concrete_cover)
    scope.given("c", there, "m", note=say("cover"))
    scope.step("ratio", "c_req/c", needed / there)
    return Outcome(
        CHECKS["cover"],
        1000 * needed,
        1000 * there,
        needed / there,
        blocks=(say("cover"),),
        note=lambda i, j: (
            say("as typed")
            if typed is not None
            else say(
                "cast against {cast_against}{exposure}", cast_against=label(settings.cast_against), exposure=exposure
            )
        ),
        warnings=(pad.standard.fire,) if settings.fire_resistance and typed is None and pad.standard.fire else (),
    )


def side_bars_check(bench: Bench, pad: ConcretePad, record: Recorder) -> Outcome:
    """Bars along the side faces of thick bases: steel per height, and spacing."""
    settings, h = pad.settings, pad.geometry.h
    scope = record.scope("sides")
    given = [bench.pads[i].reinforcement.sides for i in bench.index]
    diameter = np.array([b.diameter if b else 0.016 for b in given])[:, None]
    spacing = np.array([b.centres(float(t), settings.concrete_cover) if b else 1.0 for b, t in zip(given, h[:, 0])])[
        :, None
    ]
    none = np.array([b is None for b in given])[:, None]
    steel = np.where(none, 0.0, np.pi * diameter**2 / 4 / spacing * 1e6)
    scope.given("oe", diameter, "m", note=say("bars along the sides"))
    scope.given("s", spacing, "m", note=say("from bar to bar"))
    scope.given("A_s", steel, "mm²/m", note=say("steel provided, per height of the face"), needs="oe s")
    least, greatest = pad.standard.side_bars(
        h, diameter, settings.concrete_cover, settings.concrete_strength, settings.steel_strength, scope
    )
    thick = least > 0
    ratio = np.where(thick & ~none, np.maximum(least / np.maximum(steel, 1e-9), spacing / greatest), 0.0)
    scope.step("ratio", "where(A_s_min > 0, where(A_s > 0, max(A_s_min/max(A_s, 1e-9), s/s_max), 0), 0)", ratio)
    idle = tuple("" if t else say("the base is not thick enough to ask for them") for t in thick[:, 0])
    bare = tuple(say("thick, and no bars along its sides") if t and n else "" for t, n in zip(thick[:, 0], none[:, 0]))
    if all(idle):
        return does_not_apply("side-bars", idle)
    return Outcome(
        CHECKS["side-bars"],
        np.where(thick, least, 0.0),
        steel,
        ratio,
        blocks=(say("sides"),),
        not_applicable=idle,
        warnings=bare,
    )
