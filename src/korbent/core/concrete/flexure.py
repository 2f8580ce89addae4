"""Flexure: steel required at the faces of the column, below and above."""

from dataclasses import replace

import numpy as np

from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.bands import band_moments
from korbent.core.concrete.block import steel_for_moment
from korbent.core.concrete.pad import ConcretePad, first_moment, section_width
from korbent.core.concrete.sections import FACES
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say


def flexure(pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    faces, by_bands = pad.faces, banded_moments(pad, pad.within)
    outcomes = []
    for axis in "xy":
        sides = (0, 1) if axis == "x" else (2, 3)
        short = short_share(pad, axis)
        bottom: list[tuple[Array, Array, Array, Array]] = []
        top: list[tuple[Array, Array, Array, Array]] = []
        for side in sides:
            # a bottom and a top scope for each face, with the same forces
            scope = record.scope(say("at the {faces}", faces=FACES[side]))
            width = section_width(pad, axis, faces, side, scope)
            scope.given(
                "l",
                faces.outstand[side],
                "m",
                note=say("from the section to the edge"),
                needs="B L o_x o_y f_x1 f_y1",
            )
            scope.step(
                "S_b",
                *first_moment(pad, faces, side),
                "m³",
                note=say("first moment of the base beyond the section"),
            )
            scope.given(
                "M_p",
                faces.pressed_moment[side],
                "kNm",
                note=say("soil pressure beyond the section, integrated, about it"),
                needs="p_mid g_x g_y l b",
            )
            scope.step("M_Ed", "M_p - w_d*S_b", faces.moment[side], "kNm", note=say("positive: tension below"))
            own = None if by_bands is None else by_bands[side]
            bottom.append(steel_at(pad, axis, "bottom", faces.moment[side], width, scope.scope("bottom"), own, short))
            above, hangs = scope.scope("top"), faces.moment[side]
            if pad.settings.top_hanging == "always":
                hangs = np.minimum(hangs, -pad.hanging * faces.area_moment[side])
                above.given(
                    "w_h",
                    pad.hanging,
                    "kPa",
                    reference=say("setting"),
                    note=say("base and backfill less water pressure"),
                    needs="w_d",
                )
                above.step("M_Ed", "min(M_p - w_d*S_b, -w_h*S_b)", hangs, "kNm", note=say("as if no soil pressed"))
            top.append(steel_at(pad, axis, "top", hangs, width, above, share=short))
        blocks = tuple(say("at the {face}", face=FACES[s]) for s in sides)
        outcomes.append(
            _steel_outcome(pad, f"bottom-{axis}", bottom, tuple(say("{b} bottom", b=b) for b in blocks), thin)
        )
        idle = never_in_tension(pad, *(required for required, _, _, _ in top))
        if all(idle):
            outcomes.append(does_not_apply(f"top-{axis}", idle))
        else:
            found = _steel_outcome(pad, f"top-{axis}", top, tuple(say("{b} top", b=b) for b in blocks), thin)
            outcomes.append(replace(found, not_applicable=idle))
    return outcomes


def never_in_tension(pad: ConcretePad, *required: Array) -> tuple[str, ...]:
    """By candidate why its top needs no steel, '' where some situation asks for it; an unstable one says nothing of the
    moments."""
    some = np.max([steel.max(axis=-1) for steel in required], axis=0) > 0.0
    unknown = ~pad.contact.stable.all(axis=-1)
    return tuple("" if one else say("no situation puts the top in tension") for one in some | unknown)


def required_steel(
    standard: ConcreteStandard,
    moment: Array,
    d: Array,
    fck: float,
    fcd: Array,
    fyd: Array,
    record: Recorder,
    clause: str = "",
) -> tuple[Array, Array]:
    """(steel for a moment in kNm/m, mm2/m; moment over the greatest that a ductile section carries)."""
    stress, deepest, phi = standard.block(fck, fcd, fyd)
    return steel_for_moment(moment, d, stress, fyd, deepest, phi, clause, record)


def banded_moments(pad: ConcretePad, inside: Array) -> Array | None:
    """Moment per width of bands over the width, (sides, bands, candidates, situations), kNm/m; None where they are not
    looked at.

    Where the contact is whole they count only when they are asked for always; elsewhere they are tiny and never govern.
    """
    how, g = pad.settings.flexure_bands, pad.geometry
    partial = pad.contact.stable & (pad.contact.share < 1.0 - 1e-9)
    if how == "whole_width" or g.footprint.is_round or (how != "always" and not partial.any()):
        return None
    count = pad.settings.flexure_band_count
    shares = np.linspace(-0.5, 0.5, count + 1)
    wanted = partial if how != "always" else np.ones_like(partial)
    return band_moments(g, pad.contact, pad.weight, -inside, shares, wanted)


def short_share(pad: ConcretePad, axis: str) -> Array | None:
    """What the standard adds to evenly spaced bars of the short direction under one column; None where it adds
    nothing."""
    g = pad.geometry
    if g.footprint.is_round:
        return None
    mine, other = (g.B, g.L) if axis == "x" else (g.L, g.B)
    share = np.where(mine < other, pad.standard.band_share(other / mine), 1.0)
    return share if (share > 1.0 + 1e-12).any() else None


def steel_at(
    pad: ConcretePad,
    axis: str,
    face: str,
    moment: Array,
    width: Array,
    record: Recorder,
    bands: Array | None = None,
    share: Array | None = None,
) -> tuple[Array, Array, Array, Array]:
    """(required, provided, ratio, use of the compression zone) of the steel along an axis at one section.

    Args:
        bands: moment per width of each band (bands, candidates, situations), where they count too (below only), kNm/m.
        share: what the standard adds to evenly spaced bars of the short direction (see :func:`short_share`).
    """
    bars = pad.bars(face, axis)
    m, d = _asked_of(pad, axis, face, moment, width, record, bands)
    required, depth_ratio = _required(pad, axis, face, m, d, record, share)
    provided = np.broadcast_to(bars.area * 1e6, required.shape)
    record.given("oe", bars.diameter, "m", note=say("bar diameter"))
    record.given("s", bars.spacing, "m", note=say("width for each bar"))
    record.step("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note=say("steel provided"))
    ratio = np.maximum(required / np.maximum(provided, 1e-9), np.where(depth_ratio > 1.0, depth_ratio, 0.0))
    formula = "A_s_req/max(A_s, 1e-9), where(K > K_lim, K/K_lim, 0)"
    if pad.standard.ductile:
        ratio = np.maximum(ratio, _beyond_ductile(pad, d, required, provided, record))
        formula += ", where(A_s_req > 0, where(A_s > A_s_lim, A_s/A_s_lim, 0), 0)"
    bare = bars.diameter == 0.0
    if face == "bottom" or not bare.any():
        record.step("ratio", f"max({formula})", ratio)
        return required, provided, ratio, depth_ratio
    used = _tension_in_plain(pad, m, record)
    record.given("k_on", np.where(bare, 0.0, 1.0), note=say("1 where there are bars"))
    ratio = np.where(bare, used, ratio)
    record.step("ratio", f"where(k_on > 0.5, max({formula}), sigma_t/f_Rd)", ratio)
    stands_for = required / np.where(used > 0.0, used, 1.0)
    return required, np.where(bare, stands_for, provided), ratio, np.where(bare, 0.0, depth_ratio)


def _asked_of(
    pad: ConcretePad,
    axis: str,
    face: str,
    moment: Array,
    width: Array,
    record: Recorder,
    bands: Array | None,
) -> tuple[Array, Array]:
    """(design moment per width that pulls at the face, kNm/m; effective depth, m)."""
    bottom = face == "bottom"
    m = np.maximum(moment if bottom else -moment, 0.0) / width
    d = pad.depth(axis) if bottom else pad.top_depth(axis)
    record.step(
        "d", f"d_{axis}" if bottom else "", d, "m", note="" if bottom else say("effective depth of the top bars")
    )
    formula = "max(M_Ed, 0)/b" if bottom else "max(-M_Ed, 0)/b"
    if bands is not None:
        worst = np.maximum(bands.max(axis=0), 0.0)
        record.given(
            "m_band",
            worst,
            "kNm/m",
            note=say("greatest of the bands, where the base is very eccentric"),
            needs="p_mid g_x g_y w_d",
        )
        m, formula = np.maximum(m, worst), f"max({formula}, m_band)"
    record.step("m_Ed", formula, m, "kNm/m", note=say("design moment per width"))
    return m, d


def _required(
    pad: ConcretePad, axis: str, face: str, m: Array, d: Array, record: Recorder, share: Array | None
) -> tuple[Array, Array]:
    """(steel required, mm²/m; use of the compression zone), with what the standard adds."""
    required, depth_ratio = required_steel(
        pad.standard,
        m,
        d,
        pad.settings.concrete_strength,
        pad.fcd,
        pad.fyd,
        record,
        pad.standard.clauses[f"{face}-{axis}"],
    )
    if share is not None:
        record.step("A_s1", "A_s_req", required, "mm²/m")
        record.given(
            "k_b",
            share,
            reference="ACI 318-19 13.3.3.3",
            note=say("evenly spaced bars of the short direction, for its band"),
            needs="B L",
        )
        required = required * share
        record.step("A_s_req", "A_s1*k_b", required, "mm²/m", note=say("steel required"))
    if face == "top" and pad.settings.top_least == "by_standard":
        record.step("A_s2", "A_s_req", required, "mm²/m")
        least = pad.standard.minimum_steel(
            d, pad.geometry.h, pad.settings.concrete_strength, pad.settings.steel_strength, record
        )
        more, clause = pad.standard.least_over_needed
        required = np.maximum(required, np.minimum(least, more * required))
        record.step(
            "A_s_req",
            f"max(A_s2, min(A_s_min, {more}*A_s2))",
            required,
            "mm²/m",
            reference=clause,
            note=say("the least steel, but no more than that share above what is needed"),
        )
    return required, depth_ratio


def _beyond_ductile(pad: ConcretePad, d: Array, required: Array, provided: Array, record: Recorder) -> Array:
    """The steel that is there over the most that yields well before the concrete crushes; 0 up to that, and where the
    face is not in tension."""
    stress, deepest, _ = pad.standard.block(pad.settings.concrete_strength, pad.fcd, pad.fyd)
    most = deepest * d * 1e6 * stress / pad.fyd
    record.step(
        "A_s_lim",
        "a_d*d*1e6*f_b/f_yd",
        most,
        "mm²/m",
        reference=pad.standard.ductile,
        note=say("most steel of a ductile section"),
    )
    return np.where((required > 0) & (provided > most), provided / most, 0.0)


def _tension_in_plain(pad: ConcretePad, m: Array, record: Recorder) -> Array:
    """A face without bars carries what plain concrete does: its tension by bending over the strength."""
    deduction = pad.settings.plain_deduction if pad.settings.cast_against == "soil" else 0.0
    depth = pad.standard.plain_depth(pad.geometry.h, deduction, record)
    strength, _ = pad.standard.plain(pad.settings.concrete_strength, pad.special, record)
    stress_t = 6 * m / depth**2 / 1000
    record.step(
        "sigma_t",
        "6*m_Ed/h_p**2/1000",
        stress_t,
        "MPa",
        reference=pad.standard.clauses["plain-x"],
        note=say("no bars: tension by bending in plain concrete"),
    )
    return np.asarray(stress_t / strength)


def without_bars(face: str, ratio: float) -> str:
    """Words of a face that has none."""
    if ratio > 1.0:
        return say("the {face} has no bars, and more tension than plain concrete carries", face=label(face))
    return say("the {face} has no bars: plain concrete carries its tension", face=label(face))


def _steel_outcome(
    pad: ConcretePad,
    check: str,
    parts: list[tuple[Array, Array, Array, Array]],
    scopes: tuple[str, ...],
    thin: tuple[str, ...],
) -> Outcome:
    required, provided, ratio, compression = (np.concatenate(values, axis=-1) for values in zip(*parts))
    count = len(pad.situations)
    bars = pad.bars(*check.split("-"))

    def note(candidate: int, column: int) -> str:
        where = scopes[column // count].rsplit(" ", 1)[0]
        diameter, spacing = 1000 * bars.diameter[candidate, 0], 1000 * bars.spacing[candidate, 0]
        if diameter == 0.0:
            return f"{where}: {without_bars(check.split('-')[0], ratio[candidate, column])}"
        deep = compression[candidate, column] > 1
        extra = say("; compression zone too deep: thicken the base") if deep else ""
        return say(
            "{where}, ø{diameter:g} at {spacing:g} mm{extra}",
            where=where,
            diameter=diameter,
            spacing=spacing,
            extra=extra,
        )

    return Outcome(
        CHECKS[check],
        required,
        provided,
        ratio,
        pad.situations,
        np.tile(~pad.contact.stable, 2),
        blocks=scopes,
        why_not=thin,
        note=note,
    )
