"""Pedestals: axial force with two moments by strain compatibility, least steel, slenderness."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.concrete.standard import ColumnRules, ConcreteStandard, standard_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array, Recorder

STEEL_MODULUS = 200_000.0
"""MPa."""
ANGLES, DEPTHS, STRIPS = 48, 64, 36
IDS = ("pedestal", "pedestal-steel")
SLENDER = 3.0
"""Height over least size up to which it counts as a pedestal (ACI 318-19 2.3)."""


@dataclass(frozen=True)
class Surface:
    """Points of the interaction surface by direction of the neutral axis (angles, depths): kN, compression positive, and kNm."""

    N: Array
    Mx: Array
    My: Array


def bar_places(pedestal: Pedestal, cover: float) -> Array:
    """Places of the bars from the middle, evenly around the perimeter from a corner on, (bars, 2), m."""
    a, b = (
        pedestal.size_x / 2 - cover - pedestal.diameter / 2,
        pedestal.size_y / 2 - cover - pedestal.diameter / 2,
    )
    corners = np.array([(-a, -b), (a, -b), (a, b), (-a, b), (-a, -b)])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
    at = np.linspace(0.0, along[-1], pedestal.bars, endpoint=False)
    return np.stack([np.interp(at, along, corners[:, i]) for i in (0, 1)], axis=-1)


def interaction(pedestal: Pedestal, cover: float, rules: ColumnRules) -> Surface:
    """The surface of design resistances: for each direction the compressed zone grows from nothing to all of the section.

    Plane sections, no tension in the concrete, its compression as a block over a share of the compressed depth, steel elastic to its yield. Moments about x and y
    as on the base: My turns towards +x.
    """
    B, L = pedestal.size_x, pedestal.size_y
    u, v = ((np.arange(STRIPS) + 0.5) / STRIPS - 0.5) * B, ((np.arange(STRIPS) + 0.5) / STRIPS - 0.5) * L
    x, y = (m.ravel() for m in np.meshgrid(u, v, indexing="ij"))
    cell = B * L / STRIPS**2
    places = bar_places(pedestal, cover)
    area = np.pi * pedestal.diameter**2 / 4
    angles = 2 * np.pi * np.arange(ANGLES) / ANGLES
    c, s = np.cos(angles)[:, None], np.sin(angles)[:, None]
    # distance of a point from the most compressed corner, along the direction of compression
    top = np.abs(c) * B / 2 + np.abs(s) * L / 2
    fibre, bar = top - (c * x + s * y), top - (c * places[:, 0] + s * places[:, 1])
    deepest = bar.max(axis=1)[:, None]
    depths = deepest * np.geomspace(0.02, 8.0, DEPTHS)[None, :]
    pressed = np.clip(
        (rules.block * depths[..., None] - fibre[:, None]) / (2 * top[..., None] / STRIPS) + 0.5, 0.0, 1.0
    )
    concrete = pressed * rules.stress * cell * 1000
    strain = rules.strain * (1 - bar[:, None] / depths[..., None])
    steel = np.clip(strain * STEEL_MODULUS, -rules.yield_stress, rules.yield_stress)
    # where the block covers a bar, its concrete is not there
    steel = (steel - rules.stress * (bar[:, None] < rules.block * depths[..., None])) * area * 1000
    tension = -strain.min(axis=-1)
    phi = rules.reduction(tension)
    N = phi * (concrete.sum(-1) + steel.sum(-1))
    My = phi * ((concrete * x).sum(-1) + (steel * places[:, 0]).sum(-1))
    Mx = -phi * ((concrete * y).sum(-1) + (steel * places[:, 1]).sum(-1))
    return Surface(np.minimum(N, rules.most * float(N.max())), Mx, My)


def capacity(surface: Surface, N: Array, Mx: Array, My: Array) -> Array:
    """How often the moment may grow at the force N until the surface is met; 0 where N alone is too much. Any one shape."""
    shape = N.shape
    n, mx, my = N.ravel(), Mx.ravel(), My.ravel()
    curve = np.empty((2, ANGLES, n.size))
    for k in range(ANGLES):
        # N grows with the compressed depth, up to its greatest value
        row = surface.N[k]
        last = int(np.argmax(row >= row.max() - 1e-9)) + 1
        curve[0, k] = np.interp(n, row[:last], surface.Mx[k, :last])
        curve[1, k] = np.interp(n, row[:last], surface.My[k, :last])
    size = np.maximum(np.hypot(mx, my), 1e-9)
    # the ray along the moment meets the closed curve through the points
    direction = np.stack([mx, my]) / size
    edge = np.roll(curve, -1, axis=1) - curve
    cross = direction[0] * edge[1] - direction[1] * edge[0]
    safe = np.where(np.abs(cross) < 1e-12, 1.0, cross)
    far = (curve[0] * edge[1] - curve[1] * edge[0]) / safe
    along = (curve[0] * direction[1] - curve[1] * direction[0]) / safe
    meets = (np.abs(cross) >= 1e-12) & (far > 0) & (along >= -1e-9) & (along <= 1 + 1e-9)
    often = np.where(meets, far, 0.0).max(axis=0) / size
    often = np.where(np.hypot(mx, my) < 1e-9, 1e9, often)
    beyond = (n > surface.N.max(axis=1).min()) | (n < surface.N.min(axis=1).max())
    found: Array = np.where(beyond, 0.0, often).reshape(shape)
    return found


@lru_cache(maxsize=64)
def _surface(pedestal: Pedestal, cover: float, standard: ConcreteStandard, fck: float, fyk: float) -> Surface:
    return interaction(pedestal, cover, standard.column_rules(fck, fyk))


def pedestal_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """The pedestal under axial force and two moments at the top of the base, and its least steel."""
    standard = standard_of(bench.standards.concrete, bench.settings)
    if not any(pad.pedestal for pad in bench.pads):
        return [does_not_apply(check, "there is no pedestal") for check in IDS]
    if standard is None:
        return [does_not_apply(check, "no concrete standard is chosen") for check in IDS]
    situations = bench.situations("concrete")
    if not len(situations):
        return [cannot(check, bench.no_combination("concrete")) for check in IDS]
    settings, g = bench.settings, bench.geometry
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    forces = bench.forces(situations, record)
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored, -1, 0)
    arm = g.load_level - g.top
    N, M_x, M_y = forces.column, Mx - arm * Hy, My + arm * Hx
    M = np.hypot(M_x, M_y)
    often = np.ones(N.shape)
    by_pedestal: dict[Pedestal, list[int]] = {}
    for row, which in enumerate(bench.index):
        pedestal = bench.pads[which].pedestal
        if pedestal is not None:
            by_pedestal.setdefault(pedestal, []).append(row)
    for pedestal, rows in by_pedestal.items():
        surface = _surface(
            pedestal,
            settings.concrete_cover,
            standard,
            settings.concrete_strength,
            settings.steel_strength,
        )
        # sizes in plan leave the forces of a pedestal alone: each row is worked out once
        forces_of = np.concatenate([N[rows], M_x[rows], M_y[rows]], axis=-1)
        _, first, back = np.unique(forces_of, axis=0, return_index=True, return_inverse=True)
        alone = [rows[k] for k in first]
        often[rows] = capacity(surface, N[alone], M_x[alone], M_y[alone])[back.ravel()]
    none = tuple("" if bench.pads[i].pedestal else "there is no pedestal" for i in bench.index)
    lost = often <= 0
    ratio = np.where(lost, 0.0, 1 / np.maximum(often, 1e-12))
    record("N_Ed", "V_c + gamma_G*W_ped", N, "kN", note="at the top of the base")
    record("M_xp", "total(gamma_F*M_xk) - (z_L - z_f - h)*H_y", M_x, "kNm")
    record("M_yp", "total(gamma_F*M_yk) + (z_L - z_f - h)*H_x", M_y, "kNm")
    record("M_Ed", "sqrt(M_xp**2 + M_yp**2)", M, "kNm")
    record(
        "k_M",
        "",
        np.maximum(often, 1e-12),
        "",
        "interaction by strain compatibility",
        "how often the moment may grow at N",
        "N_Ed M_xp M_yp",
    )
    scope = record.scope("interaction")
    scope("ratio", "1/k_M", 1 / np.maximum(often, 1e-12))
    slender = tuple(
        "slender: second-order effects are not looked at"
        if pad.pedestal and pad.pedestal.top - pad.top > SLENDER * min(pad.pedestal.size_x, pad.pedestal.size_y) else ""
        for pad in (bench.pads[i] for i in bench.index)
    )  # fmt: skip
    outcome = Outcome(
        CHECKS["pedestal"], M, np.where(lost, 0.0, M * np.minimum(often, 1e6)), ratio, situations, unresisted=lost, blocks=("interaction",),
        not_applicable=none, warnings=slender, note=lambda i, j: "the axial force alone is too much" if lost[i, j] else f"N {N[i, j]:.0f} kN",
    )  # fmt: skip
    return [outcome, _least_steel(bench, rules, N, none, record.scope("steel"))]


@dataclass(frozen=True)
class Line:
    """The resistance through the acting moment direction, and the situations as points. kN, kNm."""

    N: Array
    M: Array
    acting_N: Array
    acting_M: Array
    labels: tuple[str, ...]
    direction: float
    """Of the moment, degrees from a moment that turns towards +x."""


def interaction_line(project: Project, pad: Pad) -> Line | None:
    """For a drawing; None where the pad has no pedestal or nothing to check it by."""
    standard = standard_of(project.standards.concrete, project.settings_of(pad))
    if pad.pedestal is None or standard is None:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("concrete")
    if not len(situations):
        return None
    settings, g = bench.settings, bench.geometry
    forces = bench.forces(situations, SILENT)
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored[0], -1, 0)
    arm = float((g.load_level - g.top)[0, 0])
    N, M_x, M_y = forces.column[0], Mx - arm * Hy, My + arm * Hx
    surface = _surface(
        pad.pedestal,
        settings.concrete_cover,
        standard,
        settings.concrete_strength,
        settings.steel_strength,
    )
    often = capacity(surface, N, M_x, M_y)
    worst = int(np.argmin(often))
    angle = float(np.arctan2(M_x[worst], M_y[worst]))
    levels = np.linspace(float(surface.N.min(axis=1).max()), float(surface.N.max(axis=1).min()), 61)[1:-1]
    there = capacity(
        surface, levels, np.full_like(levels, np.sin(angle)), np.full_like(levels, np.cos(angle))
    )
    labels = tuple(situations.label(i) for i in range(len(situations)))
    return Line(levels, there, N, np.hypot(M_x, M_y), labels, float(np.rad2deg(angle)))


def _least_steel(
    bench: Bench, rules: ColumnRules, N: Array, none: tuple[str, ...], record: Recorder
) -> Outcome:
    steel = np.array(
        [
            p.pedestal.bars * np.pi * p.pedestal.diameter**2 / 4 * 1e6 if p.pedestal else 1.0
            for p in bench.pads
        ]
    )[bench.index][:, None]
    gross = np.array(
        [p.pedestal.size_x * p.pedestal.size_y * 1e6 if p.pedestal else 0.0 for p in bench.pads]
    )[bench.index][:, None]
    pressing = np.maximum(N, 0.0).max(axis=-1, keepdims=True)
    least = np.maximum(rules.least_share * gross, rules.least_force * pressing * 1000 / rules.yield_stress)
    record("A_c", "", gross, "mm²", note="section of the pedestal")
    record("A_sp", "", steel, "mm²", note="its bars")
    record("N_max", "", pressing, "kN", note="greatest axial force")
    record(
        "A_s_min",
        f"max({rules.least_share}*A_c, {rules.least_force}*N_max*1000/{rules.yield_stress})",
        least,
        "mm²",
        rules.least_clause,
    )
    record("ratio", "A_s_min/A_sp", least / steel)
    return Outcome(
        CHECKS["pedestal-steel"], least, steel, least / steel, blocks=("steel",), not_applicable=none
    )
