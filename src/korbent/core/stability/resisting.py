"""What resists sliding besides the underside: earth pressure in front of the base, and props or ties."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.ground.profile import WATER_WEIGHT, effective_stress
from korbent.core.working import Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class Layer:
    """A part of the height that resists: what it is called, its ends (levels, m), and its strengths without factors;
    arrays or numbers."""

    name: str
    upper: Array
    lower: Array
    tan_phi: Array | float
    cohesion: Array | float
    undrained: Array | float | None
    """Undrained strength at mid-height, kPa; None: it answers drained."""


def passive_forces(
    bench: Bench, situations: Situations, record: Recorder, drainage: str = "drained"
) -> tuple[Array, Array]:
    """Mobilised passive resistance (kN) on the faces across x and across y of the base, smooth wall: K_p sigma' + 2 c'
    sqrt(K_p), of clay in the undrained check sigma' + 2 c_u (Rankine 1857, Bell 1915). Water presses from both sides
    and is left out.

    From the underside up to the top of the base, or to the ignored depth below finished ground where that is lower; by
    one soil as set, or by the strata beside the base."""
    g, settings = bench.geometry, bench.settings
    if not counts_passive(bench):
        none = np.zeros_like(g.B)
        record.given("E_px", none, "kN", note=say("no passive resistance is counted"))
        record.given("E_py", none, "kN")
        return none, none
    water = bench.water(situations)
    upper = np.minimum(g.top, bench.finished - settings.passive_ignored)
    upper = np.maximum(upper, g.underside)
    record.given("h_p", upper - g.underside, "m", note=say("height that counts"))
    record.given("k_p", settings.passive_share, reference=say("setting"), note=say("share that is mobilised"))
    record.given("gamma_phip", situations.on_tan_phi, reference="EN 1997-1 table A.4")
    record.given("gamma_cp", situations.on_cohesion, reference="EN 1997-1 table A.4")
    record.given("gamma_cup", situations.on_undrained, reference="EN 1997-1 table A.4")
    parts, names = [], []
    for number, layer in enumerate(_layers(bench, upper, drainage), 1):
        if not (layer.upper > layer.lower + 1e-12).any():
            continue
        parts.append(_pressed(bench, situations, layer, number, water, record))
        names.append(f"e_{number}")
    per_width = sum(parts) if parts else np.zeros_like(g.B * water)
    divisor = bench.on_resistance(situations, "sliding")
    E_x, E_y = (settings.passive_share * per_width * size / divisor for size in (g.L, g.B))
    total = " + ".join(names) or "0"
    record.step("E_px", f"k_p*({total})*L/gamma_Rh", E_x, "kN", note=say("on the face across x"))
    record.step("E_py", f"k_p*({total})*B/gamma_Rh", E_y, "kN", note=say("on the face across y"))
    return E_x, E_y


def counts_passive(bench: Bench) -> bool:
    """Whether anything beside the base is counted on."""
    settings = bench.settings
    return settings.passive_angle is not None or settings.passive_by == "strata"


def _layers(bench: Bench, upper: Array, drainage: str) -> Iterator[Layer]:
    """What lies beside the base between the underside and ``upper``."""
    g, settings, profile = bench.geometry, bench.settings, bench.profile
    if settings.passive_by == "as_set" or profile is None:
        undrained = settings.passive_undrained if drainage == "undrained" else None
        angle = settings.passive_angle or 0.0
        yield Layer(
            say("soil beside the base"),
            upper,
            g.underside,
            float(np.tan(np.deg2rad(angle))),
            settings.passive_cohesion,
            undrained,
        )
        return
    tops, bottoms = (np.broadcast_to(v, (len(g.B), len(profile.soils))) for v in (profile.top, profile.bottom))
    highest = np.clip(tops[:, :1], g.underside, upper)
    # above the strata there is backfill, which has no strength of its own here but as it is set
    angle = settings.passive_angle or 0.0
    yield Layer(
        bench.ground.backfill.name, upper, highest, float(np.tan(np.deg2rad(angle))), settings.passive_cohesion, None
    )
    for k, soil in enumerate(profile.soils):
        high = np.clip(tops[:, k : k + 1], g.underside, highest)
        low = np.clip(bottoms[:, k : k + 1], g.underside, highest)
        as_clay = soil.drainage == "undrained" or (drainage == "undrained" and soil.drainage == "both")
        strength = None
        if as_clay:
            below_top = tops[:, k : k + 1] - (high + low) / 2
            strength = (soil.undrained_strength or 0.0) + (soil.undrained_strength_gradient or 0.0) * below_top
        yield Layer(
            soil.name, high, low, float(np.tan(np.deg2rad(soil.friction_angle or 0.0))), soil.cohesion or 0.0, strength
        )


def _pressed(bench: Bench, situations: Situations, layer: Layer, n: int, water: Array, record: Recorder) -> Array:
    """Passive force of a layer per width, kN/m."""
    at_water = np.clip(water, layer.lower, layer.upper)
    levels = (layer.upper + 0.0 * at_water, at_water, layer.lower + 0.0 * at_water)
    top, middle, bottom = (_beside(bench, level, water) for level in levels)
    dry, wet = levels[0] - levels[1], levels[1] - levels[2]
    pressed = (top + middle) / 2 * dry + (middle + bottom) / 2 * wet
    record.given(f"h_{n}", layer.upper - layer.lower, "m", note=say("of {layer}", layer=layer.name))
    record.given(
        f"S_{n}",
        pressed,
        "kN/m",
        note=say("effective stress beside the base over that height"),
        needs="z_f z_fin gamma_b",
    )
    if layer.undrained is not None:
        strength = layer.undrained / situations.on_undrained
        found: Array = pressed + 2 * strength * (layer.upper - layer.lower)
        record.given(
            f"c_up{n}",
            layer.undrained,
            "kPa",
            note=say("undrained strength of {layer} at mid-height", layer=layer.name),
        )
        record.step(f"e_{n}", f"S_{n} + 2*c_up{n}/gamma_cup*h_{n}", found, "kN/m", reference="Bell 1915")
        return found
    phi = np.arctan(layer.tan_phi / situations.on_tan_phi)
    K_p = np.tan(np.pi / 4 + phi / 2) ** 2
    cohesion = layer.cohesion / situations.on_cohesion
    found = K_p * pressed + 2 * cohesion * np.sqrt(K_p) * (layer.upper - layer.lower)
    record.given(f"t_p{n}", layer.tan_phi, note=say("tan φ′ of {layer}", layer=layer.name))
    record.given(f"c_p{n}", layer.cohesion, "kPa", note=say("its c′"))
    record.step(f"K_p{n}", f"tan(pi/4 + atan(t_p{n}/gamma_phip)/2)**2", K_p, reference="Rankine 1857")
    record.step(
        f"e_{n}",
        f"K_p{n}*S_{n} + 2*c_p{n}/gamma_cp*sqrt(K_p{n})*h_{n}",
        found,
        "kN/m",
        reference="Rankine 1857, Bell 1915",
    )
    return found


def _beside(bench: Bench, level: Array, water: Array) -> Array:
    """Effective vertical stress beside the base, kPa: by the strata where they are counted on, else of backfill
    alone."""
    backfill = bench.ground.backfill
    if bench.settings.passive_by == "strata" and bench.profile is not None:
        return effective_stress(bench.profile, backfill, np.array(bench.finished), level, water)
    depth = np.maximum(bench.finished - level, 0.0)
    wet = np.clip(water - level, 0.0, depth)
    found: Array = backfill.weight * (depth - wet) + (backfill.weight_saturated - WATER_WEIGHT) * wet
    return found


def prop_forces(bench: Bench, record: Recorder) -> tuple[float, float]:
    """What a named prop or tie can take along x and along y, kN, as a design value."""
    settings = bench.settings
    P_x, P_y = (settings.prop_force if settings.prop_direction in (axis, "both") else 0.0 for axis in "xy")
    reason = settings.prop_reason or say("no reason given")
    record.given("P_x", P_x, "kN", reference=say("setting"), note=say("prop or tie: {reason}", reason=reason))
    record.given("P_y", P_y, "kN", reference=say("setting"))
    return P_x, P_y


def prop_moments(bench: Bench, forces: BaseForces, record: Recorder) -> tuple[Array, Array]:
    """Moments (kNm) with which the prop holds back along x and along y: as much of it as the
    horizontal force calls upon, with its sign."""
    settings, g = bench.settings, bench.geometry
    if settings.prop_force == 0.0:
        return np.zeros_like(g.B), np.zeros_like(g.B)
    P_x, P_y = prop_forces(bench, record)
    level = g.top if settings.prop_level is None else np.full_like(g.top, settings.prop_level)
    arm = np.maximum(level - g.underside, 0.0)
    M_x: Array = np.clip(forces.Hx, -P_x, P_x) * arm
    M_y: Array = np.clip(forces.Hy, -P_y, P_y) * arm
    return M_x, M_y
