"""What the concrete checks of a base share: depths, strengths, weights, places."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.concrete.sections import SectionForces, forces_beyond
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.contact.plane import Contact
from korbent.core.geometry import BarArrays, PadGeometry
from korbent.core.model.settings import Settings
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class ConcretePad:
    """What the concrete checks of one pad share."""

    geometry: PadGeometry
    situations: Situations
    forces: BaseForces
    contact: Contact
    weight: Array
    """Net downward load of base, backfill and (negative) water pressure that the soil pressure is less by, kPa."""
    hanging: Array
    """What hangs from the column where no soil presses: base and backfill less water pressure, kPa."""
    settings: Settings
    d_x: Array
    d_y: Array
    fcd: Array
    fyd: Array
    special: Array
    standard: ConcreteStandard

    @cached_property
    def within(self) -> Array:
        """How far within the column the section for flexure lies at each side, m, (4, candidates, 1)."""
        inner = self.settings.flexure_section == "within_column" and self.standard.within_column
        x, y = ((0.15 if inner else 0.0) * size for size in self.geometry.face)
        return np.stack([x, x, y, y])

    @cached_property
    def faces(self) -> SectionForces:
        """Forces on the sections for flexure."""
        return forces_beyond(self.geometry, self.contact, self.weight, -self.within)

    def depth(self, axis: str) -> Array:
        """Effective depth of the bottom bars along an axis, m."""
        return self.d_x if axis == "x" else self.d_y

    def top_depth(self, axis: str) -> Array:
        """Effective depth of the top bars along an axis, m."""
        found = effective_depths(
            self.geometry.h,
            self.settings.concrete_cover,
            self.settings.outer_bars,
            self.bars("top", "x"),
            self.bars("top", "y"),
        )
        return found[0 if axis == "x" else 1]

    def bars(self, face: str, axis: str) -> BarArrays:
        """Bars of a face (bottom, top) along an axis."""
        return self.geometry.bars[f"{face}_{axis}"]


def effective_depths(
    h: Array, cover: float, outer: str, x: BarArrays, y: BarArrays, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """Depths of the bars along x and y from the opposite face, m; at least a tenth of h (see :func:`too_thin`)."""
    first, second = (x, y) if outer == "x" else (y, x)
    outer_d = h - cover - first.diameter / 2
    inner_d = h - cover - first.diameter - second.diameter / 2
    d_x, d_y = (outer_d, inner_d) if outer == "x" else (inner_d, outer_d)
    record.given("c", cover, "m", note=say("cover"))
    record.given("oe_x", x.diameter, "m", note=say("bars along x"))
    record.given("oe_y", y.diameter, "m", note=say("bars along y"))
    below_x = "" if outer == "x" else " - oe_y"
    below_y = " - oe_x" if outer == "x" else ""
    least = h / 10
    record.step(
        "d_x",
        f"max(h - c{below_x} - oe_x/2, h/10)",
        np.maximum(d_x, least),
        "m",
        note=say("effective depth, bars along x"),
    )
    record.step(
        "d_y",
        f"max(h - c{below_y} - oe_y/2, h/10)",
        np.maximum(d_y, least),
        "m",
        note=say("effective depth, bars along y"),
    )
    return np.maximum(d_x, least), np.maximum(d_y, least)


def concrete_pad(
    geometry: PadGeometry,
    situations: Situations,
    forces: BaseForces,
    contact: Contact,
    settings: Settings,
    standard_name: str,
    record: Recorder = SILENT,
    several: bool = False,
) -> ConcretePad:
    """Gathers effective depths, design strengths and the net weight of a pad."""
    standard = standard_of(standard_name, settings)
    if standard is None:
        raise KeyError(standard_name)
    special = situations.is_special()
    record.given("f_x1", geometry.face[0], "m", note=say("loaded area along x"))
    record.given("f_y1", geometry.face[1], "m", note=say("loaded area along y"))
    fcd, fyd = standard.strengths(settings.concrete_strength, settings.steel_strength, special, record)
    d_x, d_y = effective_depths(
        geometry.h,
        settings.concrete_cover,
        settings.outer_bars,
        geometry.bars["bottom_x"],
        geometry.bars["bottom_y"],
        record,
    )
    weight, hanging = _weights(geometry, situations, forces, settings, several, record)
    return ConcretePad(
        geometry,
        situations,
        forces,
        contact,
        weight,
        hanging,
        settings,
        d_x,
        d_y,
        fcd,
        fyd,
        special,
        standard,
    )


def _weights(
    geometry: PadGeometry,
    situations: Situations,
    forces: BaseForces,
    settings: Settings,
    several: bool,
    record: Recorder,
) -> tuple[Array, Array]:
    """(what is deducted from the soil pressure, what hangs where none presses), kPa.

    A beam under several columns must be in equilibrium: there the weights count as they press on the soil.
    """
    own = settings.concrete_weight * geometry.h + forces.backfill
    lifted = forces.even / geometry.area
    at_limit = situations.question == "concrete"
    if at_limit and settings.concrete_weights == "left_out":
        weight = np.zeros_like(lifted * own)
        record.given(
            "w_d",
            weight,
            "kPa",
            reference=say("setting"),
            note=say("own weight, backfill and water pressure are left out"),
        )
        return weight, np.maximum(situations.weight * own, 0.0) + 0.0 * weight
    factor, formula = situations.weight, "gamma_G"
    if at_limit and not several and settings.concrete_weights == "with":
        factor, formula = 0.0 * situations.weight, "0*gamma_G"
    elif at_limit and not several and settings.weight_relief == "0.9":
        factor, formula = np.full_like(situations.weight, 0.9), "0.9"
    elif at_limit and not several and settings.weight_relief == "mean_load_factor":
        loads = np.abs(forces.cases[:, None, :, 0])
        all_of_it = (loads * situations.factors).sum(-1)
        without = (loads * (situations.factors != 0.0)).sum(-1)
        factor = np.where(without > 1e-9, all_of_it / np.maximum(without, 1e-9), situations.weight)
        record.given(
            "gamma_m",
            factor,
            reference=say("setting"),
            note=say("mean load factor of the cases that act: sum of |gamma_F V_k| over sum of |V_k|"),
            needs="gamma_F V_k",
        )
        formula = "gamma_m"
    weight = factor * own - lifted
    record.step(
        "w_d",
        f"{formula}*(gamma_c*h + q_b) - U/A",
        weight,
        "kPa",
        note=say("base and backfill, less water pressure: deducted from the soil pressure"),
    )
    return weight, np.maximum(situations.weight * own - lifted, 0.0)


def under_concrete(bench: Bench, situations: Situations, record: Recorder = SILENT) -> tuple[BaseForces, Contact]:
    """The forces and the soil pressure by which the concrete is checked: by the settings without own weight, backfill
    and water."""
    forces, g = bench.forces(situations, record), bench.geometry
    if bench.settings.concrete_weights == "left_out" and situations.question == "concrete":
        none = np.zeros_like(forces.N)
        M_x = forces.Mx - g.cut_y * forces.backfill_cut - forces.own_x
        M_y = forces.My + g.cut_x * forces.backfill_cut - forces.own_y
        own_x, own_y = (
            (" - M_xW", " - M_yW") if np.any(forces.own_x != 0.0) or np.any(forces.own_y != 0.0) else ("", "")
        )
        record.step("M_x0", "M_x", forces.Mx, "kNm")
        record.step("M_y0", "M_y", forces.My, "kNm")
        forces = replace(
            forces,
            V=forces.column,
            N=forces.column,
            U=none,
            weight=none,
            backfill=np.zeros_like(forces.backfill),
            backfill_cut=none,
            Mx=M_x,
            My=M_y,
        )
        record.step(
            "N",
            "V_c + gamma_G*W_ped",
            forces.N,
            "kN",
            reference=say("setting"),
            note=say("without own weight, backfill and water pressure"),
        )
        record.step("M_x", f"M_x0 - y_f*V_f{own_x}", forces.Mx, "kNm")
        record.step("M_y", f"M_y0 + x_f*V_f{own_y}", forces.My, "kNm")
    return forces, g.footprint.contact(forces.N, forces.Mx, forces.My, record)


def too_thin(pad: ConcretePad) -> tuple[str, ...]:
    """Per candidate: why the base is too thin for its cover and bars, or ''."""
    used = pad.settings.concrete_cover + pad.bars("bottom", "x").diameter + pad.bars("bottom", "y").diameter
    return tuple(
        say("the base is {h:.3g} m thick; cover and two layers of bars leave no effective depth", h=h)
        if h <= 1.2 * u
        else ""
        for h, u in zip(pad.geometry.h[:, 0], used[:, 0])
    )


def steel_ratio(bars: BarArrays, d: Array) -> Array:
    ratio: Array = bars.area / d
    return ratio


def column_moments(pad: ConcretePad) -> tuple[Array, Array]:
    """Moments of the column at the top of the base, about x and y, kNm."""
    g = pad.geometry
    _, Hx, Hy, Mx, My = np.moveaxis(pad.forces.factored, -1, 0)
    arm = g.load_level - g.top
    return Mx - arm * Hy, My + arm * Hx


def section_width(pad: ConcretePad, axis: str, sections: SectionForces, side: int, record: Recorder) -> Array:
    """Width of a section across an axis, m: the whole base, or the chord of a round one."""
    g = pad.geometry
    if g.footprint.slices_alike:
        width = g.L if axis == "x" else g.B
        record.step("b", "L" if axis == "x" else "B", width, "m", note=say("width of the section"))
        return width
    chord: Array = sections.width[side][..., :1]
    record.given("b", chord, "m", note=say("width of the base at the section"), needs="B o_x o_y f_x1 f_y1")
    return chord


def first_moment(pad: ConcretePad, sections: SectionForces, side: int) -> tuple[str, Array]:
    """(formula, value) of the first moment of the base beyond a section, m3."""
    return "l**2/2*b" if pad.geometry.footprint.slices_alike else "", sections.area_moment[side]


def clear_distances(geometry: PadGeometry) -> tuple[Array, Array, Array, Array]:
    """From the faces of the loaded area to the edges at -x, +x, -y, +y, m."""
    return geometry.footprint.clear(geometry.offset_x, geometry.offset_y, *geometry.face)


def no_concrete(bench: Bench) -> str:
    """Why the concrete of these bases is not checked."""
    footprint = bench.geometry.footprint
    if footprint.hole.any():
        return say("the concrete of a ring is not checked yet: check it by hand")
    if footprint.is_round and any(len(points) > 1 for points in bench.standing):
        return say("the concrete of a round base with several columns is not checked: check it by hand")
    return ""


def top_moments(pad: ConcretePad, record: Recorder, several: bool) -> tuple[Array, Array]:
    """Moments of the column at the top of the base, kNm, and its force, recorded."""
    M_x, M_y = column_moments(pad)
    at_x, at_y = ("M_xk0", "M_yk0") if several else ("total(gamma_F*M_xk)", "total(gamma_F*M_yk)")
    if several:
        record.given("z_L", pad.geometry.load_level, "m", note=say("level of its loads"))
    record.step("M_xt", f"{at_x} - (z_L - z_f - h)*H_y", M_x, "kNm", note=say("column, at the top of the base"))
    record.step("M_yt", f"{at_y} + (z_L - z_f - h)*H_x", M_y, "kNm")
    force = "V_c" if several else "V_c + gamma_G*W_ped"
    record.step("V_col", force, pad.forces.column, "kN", note=say("column") if several else say("column and pedestal"))
    return M_x, M_y
