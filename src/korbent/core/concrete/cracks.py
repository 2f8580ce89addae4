"""Cracks of both faces under the combinations that serve them: crack width (EN 1992-1-1), or spacing by service stress (ACI 318).

For AS 3600:2018 the crack width is that of EN 1992-1-1 too: its clause 8.6.2.3 has the same form with a smaller share of the bars
(from memory), so that this is on the safe side.
"""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.pad import ConcretePad, concrete_pad, no_concrete, under_concrete
from korbent.core.concrete.sections import SIDES, forces_beyond
from korbent.core.concrete.several import beam_sections, columns_of
from korbent.core.concrete.standard import NAMES
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder

STEEL_MODULUS = 200_000.0
"""MPa."""
INCH, PSI = 0.0254, 145.0377377
IDS = ("cracks-x", "cracks-y")


def crack_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Cracks below and above, per direction: at the faces of the column; under several columns along the whole base."""
    situations = bench.situations("cracks")
    if not len(situations):
        return [does_not_apply(check, "no combination serves 'cracks'") for check in IDS]
    if bench.standards.concrete not in NAMES:
        return [does_not_apply(check, "no concrete standard is chosen") for check in IDS]
    if bench.settings.base_concrete == "plain":
        return [does_not_apply(check, "the base is of plain concrete") for check in IDS]
    why = no_concrete(bench)
    if why:
        return [cannot(check, why) for check in IDS]
    g, settings = bench.geometry, bench.settings
    forces, contact = under_concrete(bench, situations, record)
    pad = concrete_pad(
        g, situations, forces, contact, settings, bench.standards.concrete, record, len(bench.standing[0]) > 1
    )
    several = any(len(points) > 1 for points in bench.standing)
    moments = _under_several(bench, pad) if several else _at_faces(pad)
    return [_along(pad, axis, moments[axis], record) for axis in "xy"]


@dataclass(frozen=True)
class _Place:
    """Where cracks are looked at: moment per width in service (tension there positive), kNm/m."""

    name: str
    face: str
    m: Array


def _at_faces(pad: ConcretePad) -> dict[str, list[_Place]]:
    faces = forces_beyond(pad.geometry, pad.contact, pad.weight, np.zeros((4, 1, 1)))
    per_width = faces.moment / np.maximum(faces.width, 1e-9)
    found: dict[str, list[_Place]] = {"x": [], "y": []}
    for side, name in enumerate(SIDES):
        found[name[1]] += [
            _Place(f"at the {name}", "bottom", np.maximum(per_width[side], 0.0)),
            _Place(f"at the {name}, top", "top", np.maximum(-per_width[side], 0.0)),
        ]
    return found


def _under_several(bench: Bench, pad: ConcretePad) -> dict[str, list[_Place]]:
    columns = columns_of(bench, pad.situations)
    found = {}
    for axis in "xy":
        sections, moment = beam_sections(pad, columns, axis)
        across = np.maximum(sections.width, 1e-9)
        found[axis] = [
            _Place(
                f"the {face}, worst along {axis}", face, (np.maximum(sign * moment, 0.0) / across).max(axis=0)
            )
            for face, sign in (("bottom", 1.0), ("top", -1.0))
        ]
    return found


def _along(pad: ConcretePad, axis: str, places: list[_Place], record: Recorder) -> Outcome:
    by_width = not pad.standard.name.startswith("ACI")
    h, settings = pad.geometry.h, pad.settings
    parts = []
    for place in places:
        scope = record.scope(f"cracks {axis} {place.name}")
        bars = pad.bars(place.face, axis)
        # the top is looked at where it has bars; without tension there the steel is hardly stressed, so that nothing jumps
        looked_at = (place.face == "bottom") | (bars.diameter > 0)
        bare = bars.diameter <= 0
        bars = replace(
            bars, diameter=np.where(bare, 0.01, bars.diameter), spacing=np.where(bare, 1.0, bars.spacing)
        )
        d = pad.depth(axis) if place.face == "bottom" else pad.top_depth(axis)
        spacing = bars.centres(settings.concrete_cover)
        scope("oe", "", bars.diameter, "m", note="bar diameter")
        scope("s_w", "", bars.spacing, "m", note="width for each bar")
        scope("s", "", spacing, "m", note="from bar to bar")
        scope("A_s", "pi*oe**2/4/s_w*1e6", bars.area * 1e6, "mm²/m", note="steel provided")
        scope("d", f"d_{axis}" if place.face == "bottom" else "", d, "m")
        scope("m_s", "", place.m, "kNm/m", "", "moment per width in service", "p_mid g_x g_y w_d B L")
        by = _width if by_width else _spacing
        found, limit = by(_Cracked(place.m, bars.diameter, spacing, bars.area * 1e6, d, h), settings, scope)
        scope("k_on", "", np.where(looked_at, 1.0, 0.0), "", note="1 where this face has bars")
        scope("ratio", "k_on*r_c", np.where(looked_at, found / limit, 0.0))
        parts.append((np.where(looked_at, found, 0.0), limit))
    demand, capacity = (
        np.concatenate([np.broadcast_to(v, pad.contact.a.shape) for v in values], axis=-1)
        for values in zip(*parts)
    )
    count = len(pad.situations)
    more = "" if by_width else ": greatest spacing by the service stress"
    return Outcome(
        by_clause(CHECKS[f"cracks-{axis}"], pad.standard.clauses), demand, capacity, demand / capacity, pad.situations, np.tile(~pad.contact.stable, len(places)),
        blocks=tuple(f"cracks {axis} {p.name}" for p in places), note=lambda i, column: places[column // count].name + more,
    )  # fmt: skip


@dataclass(frozen=True)
class _Cracked:
    """A section in service: moment per width (kNm/m), bars (m) with their steel (mm2/m), effective depth and thickness (m)."""

    m: Array
    diameter: Array
    spacing: Array
    steel: Array
    d: Array
    h: Array

    @property
    def cover(self) -> Array:
        """Of these bars, m."""
        found: Array = self.h - self.d - self.diameter / 2
        return found


def _stress(at: _Cracked, ratio: float, record: Recorder) -> tuple[Array, Array]:
    """(stress of the steel in MPa, depth of the pressed zone in m) of the cracked elastic section."""
    n = ratio * at.steel / (1e6 * at.d)
    x = at.d * (np.sqrt(n**2 + 2 * n) - n)
    stress = at.m * 1000 / (at.steel * (at.d - x / 3))
    record("alpha_e", "", ratio, "", note="modular ratio")
    record("n_rho", "alpha_e*A_s/(1e6*d)", n)
    record("x", "d*(sqrt(n_rho**2 + 2*n_rho) - n_rho)", x, "m", note="pressed zone, cracked")
    record("sigma_s", "m_s*1000/(A_s*(d - x/3))", stress, "MPa", note="steel")
    return stress, x


def _width(at: _Cracked, settings: Settings, record: Recorder) -> tuple[Array, Array]:
    """(w_k, w_max) in mm by EN 1992-1-1 7.3.4, long term (k_t = 0.4), ribbed bars in bending."""
    fck = settings.concrete_strength
    tension = 0.3 * fck ** (2 / 3) if fck <= 50 else 2.12 * np.log(1 + (fck + 8) / 10)
    modulus = 22_000 * ((fck + 8) / 10) ** 0.3
    ratio = STEEL_MODULUS / modulus
    record("f_ctm", "", tension, "MPa", "EN 1992-1-1 table 3.1")
    stress, x = _stress(at, ratio, record)
    around = np.minimum(np.minimum(2.5 * (at.h - at.d), (at.h - x) / 3), at.h / 2)
    rho = at.steel / (1e6 * around)
    strain = np.maximum(
        (stress - 0.4 * tension / rho * (1 + ratio * rho)) / STEEL_MODULUS, 0.6 * stress / STEEL_MODULUS
    )
    cover = at.cover
    near = at.spacing <= 5 * (cover + at.diameter / 2)
    apart = np.where(near, 3.4 * cover + 0.425 * 0.8 * 0.5 * at.diameter / rho, 1.3 * (at.h - x))
    width = 1000 * apart * strain
    limit = np.full_like(width, 1000 * settings.crack_width)
    record("c", "h - d - oe/2", cover, "m", note="cover of these bars")
    record("h_c", "min(min(2.5*(h - d), (h - x)/3), h/2)", around, "m", "EN 1992-1-1 7.3.2(3)")
    record("rho_p", "A_s/(1e6*h_c)", rho, "", "EN 1992-1-1 (7.10)")
    record(
        "epsilon",
        f"max((sigma_s - 0.4*f_ctm/rho_p*(1 + alpha_e*rho_p))/{STEEL_MODULUS}, 0.6*sigma_s/{STEEL_MODULUS})",
        strain,
        "",
        "EN 1992-1-1 (7.9)",
    )
    record(
        "s_r",
        "where(s <= 5*(c + oe/2), 3.4*c + 0.425*0.8*0.5*oe/rho_p, 1.3*(h - x))",
        apart,
        "m",
        "EN 1992-1-1 (7.11), (7.14)",
    )
    record("w_k", "1000*s_r*epsilon", width, "mm", "EN 1992-1-1 (7.8)", "crack width")
    record("w_max", "", limit, "mm", "EN 1992-1-1 table 7.1N", "limit")
    record("r_c", "w_k/w_max", width / limit)
    return width, limit


def _spacing(at: _Cracked, settings: Settings, record: Recorder) -> tuple[Array, Array]:
    """(spacing, greatest spacing) in mm by ACI 318-19 table 24.3.2, with the calculated service stress, not less than a tenth of 2/3 fy."""
    ratio = STEEL_MODULUS / (4700 * np.sqrt(settings.concrete_strength))
    stress, _ = _stress(at, float(ratio), record)
    used = np.maximum(stress, settings.steel_strength / 15)
    cover = at.cover
    allowed = np.minimum(15 * 40_000 / (used * PSI) - 2.5 * cover / INCH, 12 * 40_000 / (used * PSI)) * INCH
    allowed = np.maximum(allowed, 1e-3)
    record(
        "f_s",
        f"max(sigma_s, {settings.steel_strength}/15)",
        used,
        "MPa",
        "ACI 318-19 24.3.2.1",
        "service stress",
    )
    record("c_c", "h - d - oe/2", cover, "m", note="clear cover of these bars")
    record(
        "s_lim",
        f"max(min(15*40000/(f_s*{PSI}) - 2.5*c_c/{INCH}, 12*40000/(f_s*{PSI}))*{INCH}, 0.001)",
        allowed,
        "m",
        "ACI 318-19 table 24.3.2",
    )
    record("r_c", "s/s_lim", at.spacing / allowed * np.ones_like(at.m))
    return 1000 * at.spacing * np.ones_like(at.m), 1000 * allowed
