"""Concrete or granular replacement below a base: the area on which it presses the ground, and the forces there."""

from dataclasses import replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.geometry import PadGeometry
from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.model.foundations import Replacement
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def spread(geometry: PadGeometry, replacement: Replacement) -> PadGeometry:
    """The underside of the replacement as if it were that of the base; its top stays where that of the base is."""
    t = replacement.thickness
    wide = geometry.footprint.spread(replacement.spread * t)
    return replace(geometry, footprint=wide, h=geometry.h + t, underside=geometry.underside - t)


def below_replacement(
    forces: BaseForces,
    above: PadGeometry,
    wide: PadGeometry,
    replacement: Replacement,
    situations: Situations,
    finished: float,
    record: Recorder = SILENT,
) -> BaseForces:
    """The forces below the replacement: its weight, the water pressure further down, horizontal forces with a longer
    arm.

    The replacement between the lines of the load spread is counted by the prismoidal rule.
    """
    t = replacement.thickness
    middle = above.footprint.halfway(wide.footprint)
    weight = replacement.weight * t * (above.area + 4 * middle.area + wide.area) / 6
    water = np.minimum(situations.water_level, finished)
    head = np.maximum(0.0, water - wide.underside)
    U = situations.water_factor * WATER_WEIGHT * head * wide.area
    own = situations.weight * weight
    V = forces.V + own
    M_x, M_y = forces.Mx - t * forces.Hy, forces.My + t * forces.Hx
    centroid, before = wide.footprint.centroid, above.footprint.centroid
    aside = not isinstance(centroid, float)
    if aside:
        M_y = M_y + before * forces.U + centroid * (own - U)
    across, across_before = wide.footprint.centroid_y, above.footprint.centroid_y
    if not isinstance(across, float):
        M_x = M_x - across_before * forces.U - across * (own - U)

    def again(symbol: str, formula: str, value: Array, unit: str, note: str) -> None:
        record.step(symbol, formula, value, unit, note=note)

    again("t_r", "", np.full_like(above.B, t), "m", say("{kind} replacement below the base", kind=replacement.kind))
    again("k_r", "", np.full_like(above.B, replacement.spread), "", say("load spread, sideways for 1 down"))
    again("gamma_r", "", np.full_like(above.B, replacement.weight), "kN/m³", say("its weight"))
    again("A_0", "A", above.area, "m²", say("underside of the base"))
    again("A_1", "", middle.area, "m²", say("halfway down"))
    again("B", "B + 2*k_r*t_r", wide.B, "m", say("at its underside, along x"))
    again("L", "L + 2*k_r*t_r", wide.L, "m", say("along y"))
    again("U_0", "U", forces.U, "kN", say("water pressure at the base"))
    if aside:
        again("x_0", "x_m", np.asarray(before), "m", say("centre of the area of the base"))
    again("h", "h + t_r", wide.h, "m", say("base and replacement"))
    again("z_f", "z_f - t_r", wide.underside, "m", say("underside of the replacement"))
    wide.footprint.recorded(record)
    again("A", wide.footprint.area_formula, wide.area, "m²", say("underside of the replacement"))
    again("W_r", "gamma_r*t_r*(A_0 + 4*A_1 + A)/6", weight, "kN", say("replacement between the lines of spread"))
    again("U", "gamma_U*gamma_w*max(0, z_w - z_f)*A", U, "kN", say("water pressure there"))
    again("V", "V + gamma_G*W_r", V, "kN", say("all downward forces there"))
    again("N", "V - U", V - U, "kN", say("carried by the soil skeleton"))
    again("M_x", "M_x - t_r*H_y", M_x, "kNm", say("about x, there"))
    again(
        "M_y",
        "M_y + t_r*H_x" + (" + x_0*U_0 + x_m*(gamma_G*W_r - U)" if aside else ""),
        M_y,
        "kNm",
        say("about y, there"),
    )
    return replace(
        forces,
        V=V,
        U=U,
        even=U,
        N=V - U,
        Mx=M_x,
        My=M_y,
        weight=forces.weight + own,
        arm=forces.arm + t,
        own_x=forces.own_x + M_x - (forces.Mx - t * forces.Hy),
        own_y=forces.own_y + M_y - (forces.My + t * forces.Hx),
    )
