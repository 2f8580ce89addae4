"""Reference cases of what an engineer may choose: surcharges, passive resistance, uplift, weak over strong ground,
weights in concrete, plain concrete above, common perimeters, round pedestals; each by hand."""

import math
from typing import Any

from korbent.core.evaluate import evaluate_pad
from korbent.core.model import (
    Bars,
    Borehole,
    Dowels,
    Load,
    LoadPoint,
    Pedestal,
    Reinforcement,
    Soil,
    Stratum,
    edited,
)
from korbent.verification.case import Case
from korbent.verification.layers import SOFT, STIFF, layered_pad, resistance
from korbent.verification.pad import one_pad
from korbent.verification.stability import WEIGHTS, B, D, H, L, N, _by_factor, _found

FRICTION = math.tan(math.radians(30.0))


def _kp(phi: float) -> float:
    return math.tan(math.radians(45 + phi / 2)) ** 2


def _sliding(check: str = "sliding-drained", **settings: Any) -> float:
    """Resistance to sliding along x, kN, of a pad with H along x; nothing is ignored below ground, all is mobilised."""
    chosen = {"passive_share": 1.0, "passive_ignored": 0.0, **settings}
    return _found(_by_factor({"G": Load(V=400.0, Hx=40.0)}, chosen), check, "capacity")


def _over_strata() -> float:
    """Passive on 0.4 m of sand over 0.1 m of another, the upper 0.7 m is not in front of the base."""
    project = _by_factor(
        {"G": Load(V=400.0, Hx=40.0)},
        {"passive_share": 1.0, "passive_ignored": 0.0, "passive_by": "strata"},
    )
    upper = Soil(
        name="upper",
        drainage="drained",
        weight=17.0,
        weight_saturated=19.0,
        friction_angle=28.0,
        cohesion=0.0,
    )
    lower = Soil(
        name="lower",
        drainage="drained",
        weight=20.0,
        weight_saturated=21.0,
        friction_angle=30.0,
        cohesion=6.0,
    )
    strata = (Stratum(soil="upper", thickness=1.1), Stratum(soil="lower", thickness=20.0))
    ground = project.ground.replaced(
        soils=(upper, lower), boreholes=(Borehole(name="BH", x=0, y=0, ground_level=0.0, strata=strata),)
    )
    return _found(project.replaced(ground=ground), "sliding-drained", "capacity")


def _lifted(**settings: Any) -> float:
    """Safety against uplift of a pad whose column pulls with 40 kN."""
    return _found(_by_factor({"G": Load(V=-40.0)}, settings), "uplift")


def _weighted(**settings: Any) -> float:
    """Bottom steel along x of a central pad, mm2/m."""
    project = one_pad(load=Load(V=900.0), width=2.4, length=2.4)
    for name, value in settings.items():
        project = edited(project, ("settings", name), value)
    return float(evaluate_pad(project, project.pads[0]).check("bottom-x").demand or 0.0)


def _steel(pressure: float) -> float:
    """Steel for a net pressure on the cantilever beyond the face, EN 1992: the rectangular block, mm2/m."""
    m, d, fcd, fyd = pressure * 1.0**2 / 2, 0.5 - 0.05 - 0.008, 20.0, 500 / 1.15
    K = m / 1000 / (d**2 * fcd)
    return d * (1 - math.sqrt(1 - 2 * K)) * fcd / fyd * 1e6


A_24, C_04 = 2.4**2, 0.4**2
SOIL = 18 * (D - H)
OWN = 25 * H + SOIL
NET = (900 - SOIL * C_04) / A_24


def _bare_top(standard: str) -> float:
    """Use of a top without bars: a pad of 4 x 4 x 0.3 m hangs from its column."""
    project = one_pad(load=Load(V=-200.0), width=4.0, length=4.0, thickness=0.3)
    project = project.replaced(standards=project.standards.replaced(concrete=standard))
    return float(evaluate_pad(project, project.pads[0]).check("top-x").ratio or 0.0)


# the weights press on the soil where the pull leaves them: their difference to what presses is the pull over the area
HUNG = (200 + 18 * (D - 0.3) * C_04) / 16 * (2 - 0.2) ** 2 / 2


def _halves(standard: str) -> float:
    """Punching of two columns of 0.4 m side by side."""
    project = one_pad(width=5.0, length=2.2, thickness=0.6, load=Load(V=700.0), offset_x=-0.2, further=())
    first = project.actions.load_points[0]
    second = LoadPoint(name="D", x=0.4, y=0, size_x=0.4, size_y=0.4, level=first.level, loads={"G": Load(V=700.0)})
    project = project.replaced(
        actions=project.actions.replaced(load_points=(first.replaced(loads={"G": Load(V=700.0)}), second)),
        standards=project.standards.replaced(concrete=standard),
    )
    project = project.replaced(pads=(project.pads[0].replaced(further=("D",)),))
    return float(evaluate_pad(project, project.pads[0]).check("punching").ratio or 0.0)


def _whole(standard: str) -> float:
    """Punching of one column of 0.8 x 0.4 m with all of it."""
    project = one_pad(width=5.0, length=2.2, thickness=0.6, load=Load(V=1400.0))
    point = project.actions.load_points[0].replaced(size_x=0.8, size_y=0.4, loads={"G": Load(V=1400.0)})
    project = project.replaced(
        actions=project.actions.replaced(load_points=(point,)),
        standards=project.standards.replaced(concrete=standard),
    )
    return float(evaluate_pad(project, project.pads[0]).check("punching").ratio or 0.0)


ROUND = Pedestal(shape="circle", size_x=0.6, size_y=0.6, top=0.2, bars=8, diameter=0.020)


def _pedestal(check: str, what: str, standard: str, pedestal: Pedestal = ROUND, V: float = 900.0) -> float:
    project = one_pad(load=Load(V=V), pedestal=pedestal)
    project = project.replaced(standards=project.standards.replaced(concrete=standard))
    value = getattr(evaluate_pad(project, project.pads[0]).check(check), what)
    return float("nan") if value is None else float(value)


def _cover(standard: str, **settings: Any) -> float:
    project = one_pad()
    project = project.replaced(
        standards=project.standards.replaced(concrete=standard),
        settings=project.settings.replaced(**settings),
    )
    return float(evaluate_pad(project, project.pads[0]).check("cover").demand or 0.0)


def _dowels(V: float) -> float:
    project = one_pad(load=Load(V=V), width=3.0, length=3.0, dowels=Dowels(number=8, diameter=0.020))
    return float(evaluate_pad(project, project.pads[0]).check("dowels-steel").demand or 0.0)


def _short_wall(thickness: float) -> float:
    """AS 3600: shear of a base under a wall with hardly any load."""
    project = one_pad(
        load=Load(V=50.0),
        width=1.6,
        length=2.4,
        thickness=thickness,
        level=-1.2,
        reinforcement=Reinforcement(
            bottom_x=Bars(diameter=0.016, spacing=0.15), bottom_y=Bars(diameter=0.016, spacing=0.15)
        ),
    )
    point = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=0.3, size_y=2.4)
    project = project.replaced(
        actions=project.actions.replaced(load_points=(point,)),
        standards=project.standards.replaced(concrete="AS 3600:2018"),
    )
    return float(evaluate_pad(project, project.pads[0]).check("shear-x").ratio or 0.0)


def _nq(phi: float) -> float:
    return math.exp(math.pi * math.tan(math.radians(phi))) * _kp(phi)


def _safe(**settings: Any) -> float:
    chosen = {"factor_bearing": 3.0, "bearing_method": "EN 1997-1 Annex D", **settings}
    return _found(_by_factor({"G": Load(V=400.0)}, chosen), "safety-drained", "capacity")


P_SIDE = 18 * (1.2**2 - 0.7**2) / 2
"""Stress over the height of the base beside it, kN/m, per K_p."""
PLANES = 2 * (B + L)


def _cases() -> tuple[Case, ...]:
    EN, ACI, AS = "EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"
    wedge = PLANES * math.tan(math.radians(20)) * 0.7**2 / 2 + math.pi * math.tan(math.radians(20)) ** 2 * 0.7**3 / 3
    # the depth factors of the base count on both sides; the strengths differ alone
    stiff, soft = ((math.pi + 2) * cu * (1 + 0.2 * B / L) + 17 * D for cu in (120.0, 30.0))
    c_hung = 6 * HUNG / 1000
    given: tuple[tuple[str, str, str, float, Any, float, str], ...] = (
        (
            "surcharge beside a base",
            "closed form",
            "N_q s_q q_s more",
            10 * _nq(30) * (1 + B / L * 0.5),
            lambda: _safe(surcharge_beside=10.0) - _safe(),
            1e-9,
            "kPa",
        ),
        (
            "surcharge on a base: sliding",
            "closed form",
            "(V + W + q A') tan φ'",
            (N + 10 * (B * L - C_04)) * FRICTION,
            lambda: _sliding(surcharge_on=10.0),
            1e-9,
            "kN",
        ),
        (
            "passive with cohesion",
            "closed form",
            "K_p σ' h + 2 c' √K_p h",
            N * FRICTION + L * (_kp(32) * P_SIDE + 2 * 5 * math.sqrt(_kp(32)) * H),
            lambda: _sliding(passive_angle=32.0, passive_cohesion=5.0),
            1e-9,
            "kN",
        ),
        (
            "passive of clay, undrained",
            "closed form",
            "σ' h + 2 c_u h",
            L * (P_SIDE + 2 * 40 * H),
            lambda: _undrained_more(),
            1e-9,
            "kN",
        ),
        (
            "passive over two strata",
            "second method",
            "stratum by stratum, stresses at their middles",
            (400 + 25 * H * B * L + 18 * 0.7 * (B * L - C_04)) * FRICTION
            + L
            * (_kp(28) * 17 * 0.9 * 0.4 + _kp(30) * (17 * 1.1 + 20 * 0.05) * 0.1 + 2 * 6 * math.sqrt(_kp(30)) * 0.1),
            _over_strata,
            1e-9,
            "kN",
        ),
        (
            "uplift: friction on the planes",
            "closed form",
            "U K γ z²/2 tan φ'",
            (WEIGHTS + PLANES * 0.5 * 18 * D**2 / 2 * math.tan(math.radians(25))) / 40,
            lambda: _lifted(uplift_sides="friction_and_adhesion", uplift_angle=25.0),
            1e-9,
            "",
        ),
        (
            "uplift: adhesion on the planes",
            "closed form",
            "U a z",
            (WEIGHTS + PLANES * 4 * D) / 40,
            lambda: _lifted(uplift_sides="friction_and_adhesion", uplift_adhesion=4.0),
            1e-9,
            "",
        ),
        (
            "uplift: wedge of soil",
            "closed form",
            "prisms along the sides, quarters of a cone at the corners",
            (WEIGHTS + 18 * wedge) / 40,
            lambda: _lifted(uplift_sides="soil_wedge"),
            1e-9,
            "",
        ),
        (
            "weak clay over strong, half a width",
            "closed form",
            "q_t + (q_b − q_t)(1 − t/B)², at most as it is squeezed: not at all",
            soft,
            lambda: resistance(layered_pad(SOFT, STIFF, 1.0, weak_over_strong="Meyerhof 1974"), "undrained"),
            1e-9,
            "kPa",
        ),
        (
            "weak clay over strong, a quarter of a width",
            "closed form",
            "q_t + (q_b − q_t)(1 − t/B)², at most q_t + c_u (1/2 − s/6)(B/t − 2)",
            min(soft + (stiff - soft) * 0.75**2, soft + 30 * (0.5 - B / 2.4 / 6) * (B / 0.5 - 2)),
            lambda: resistance(layered_pad(SOFT, STIFF, 0.5, weak_over_strong="Meyerhof 1974"), "undrained"),
            1e-9,
            "kPa",
        ),
        ("weights net", "closed form", "block, p l²/2", _steel(NET), _weighted, 1e-9, "mm²/m"),
        (
            "weights left out",
            "closed form",
            "block, V/A l²/2",
            _steel(900 / A_24),
            lambda: _weighted(concrete_weights="left_out"),
            1e-9,
            "mm²/m",
        ),
        (
            "weights not deducted",
            "closed form",
            "block, (p + w) l²/2",
            _steel(NET + OWN),
            lambda: _weighted(concrete_weights="with"),
            1e-9,
            "mm²/m",
        ),
        (
            "weights deducted by 0.9",
            "closed form",
            "block, (p + 0.1 w) l²/2",
            _steel(NET + 0.1 * OWN),
            lambda: _weighted(weight_relief="0.9"),
            1e-9,
            "mm²/m",
        ),
        (
            "top without bars, EN",
            "closed form",
            "6 m/(0.85 h)² over f_ctd,pl",
            c_hung / (0.85 * 0.3) ** 2 / (0.8 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5),
            lambda: _bare_top(EN),
            1e-9,
            "",
        ),
        (
            "top without bars, ACI",
            "closed form",
            "6 m/h² over 0.6 · 5 √f'c",
            c_hung / 0.3**2 / (0.6 * 5 * math.sqrt(30 * 145.0377377) / 145.0377377),
            lambda: _bare_top(ACI),
            1e-9,
            "",
        ),
        (
            "top without bars, AS",
            "closed form",
            "6 m/D² over 0.6 · 0.6 √f'c",
            c_hung / 0.3**2 / (0.36 * math.sqrt(30)),
            lambda: _bare_top(AS),
            1e-9,
            "",
        ),
        *(
            (
                f"two columns that touch, {name[:3].strip()}",
                "second method",
                "the column that they make",
                lambda name=name: _whole(name),
                lambda name=name: _halves(name),
                1e-9,
                "",
            )
            for name in (EN, ACI, AS)
        ),
        (
            "round pedestal, weight",
            "closed form",
            "axial force over 22.4.2: V + γ π D²/4 h",
            900 + 25 * math.pi * 0.09 * 0.9,
            lambda: _axial(),
            1e-9,
            "kN",
        ),
        (
            "round pedestal, slenderness, EN",
            "closed form",
            "2 l 4/D",
            2 * 0.9 * 4 / 0.6,
            lambda: _pedestal("pedestal-slender", "demand", EN),
            1e-9,
            "",
        ),
        (
            "round pedestal, slenderness, ACI",
            "closed form",
            "2 l/(0.25 D)",
            2 * 0.9 / 0.15,
            lambda: _pedestal("pedestal-slender", "demand", ACI),
            1e-9,
            "",
        ),
        (
            "round pedestal, least steel, EN",
            "closed form",
            "0.002 A_c",
            0.002 * math.pi * 300**2,
            lambda: _pedestal("pedestal-steel", "demand", EN),
            1e-9,
            "mm²",
        ),
        (
            "spiral, ACI: its share",
            "closed form",
            "0.45 (A_g/A_ch − 1) f'c/f_yt over 4 A (D_ch − d)/(s D_ch²)",
            0.45 * ((0.6 / 0.5) ** 2 - 1) * 30 / 500 / (4 * math.pi * 0.005**2 * 0.49 / (0.06 * 0.25)),
            lambda: _pedestal("pedestal-ties", "ratio", ACI, ROUND.replaced(around="spiral", tie_spacing=0.06)),
            1e-9,
            "",
        ),
        ("dowels by tension", "closed form", "N/f_yd", 200 * 1000 / (500 / 1.15), lambda: _dowels(-200.0), 1e-9, "mm²"),
        ("cover by fire, EN", "closed form", "65 − ø/2", 57.0, lambda: _cover(EN, fire_resistance="240"), 1e-9, "mm"),
        (
            "cover, corrosive, ACI",
            "closed form",
            "2.5 in.",
            63.5,
            lambda: _cover(ACI, exposure_aci="corrosive"),
            1e-9,
            "mm",
        ),
        ("links from 750 mm under walls, AS", "closed form", "h/0.75", 0.9 / 0.75, lambda: _short_wall(0.9), 1e-9, ""),
    )
    return tuple(
        Case(f"by choice: {name}", kind, source, known, compute, tolerance, unit)
        for name, kind, source, known, compute, tolerance, unit in given
    )


def _undrained_more() -> float:
    """What the clay in front adds in undrained sliding, kN."""
    project = one_pad(load=Load(V=400.0, Hx=40.0))

    def capacity(**settings: Any) -> float:
        changed = project.replaced(
            settings=project.settings.replaced(passive_ignored=0.0, passive_share=1.0, **settings)
        )
        changed = changed.replaced(
            actions=changed.actions.replaced(
                combinations=tuple(
                    c.replaced(factor_set="M1") if c.factor_set else c for c in changed.actions.combinations
                )
            )
        )
        return float(evaluate_pad(changed, changed.pads[0]).check("sliding-undrained").capacity or 0.0)

    return capacity(passive_angle=20.0, passive_undrained=40.0) - capacity()


def _axial() -> float:
    """Axial force at the foot of the round pedestal, from its working, kN."""
    from korbent.core.explain.working import working

    project = one_pad(load=Load(V=900.0), pedestal=ROUND)
    steps = working(project, project.pads[0], "pedestal").recording.steps  # type: ignore[union-attr]
    return float(next(s.value for s in steps if s.symbol == "N_Ed" and s.scope.startswith("pedestal")).ravel()[0])


CHOICES: tuple[Case, ...] = _cases()
