"""Reference cases of pedestals, dowels, bearing, cover, plain concrete and of bars as objects."""

import math
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from korbent.core.concrete.interaction import axial_most, bar_places, capacity, interaction
from korbent.core.concrete.standards.aci318.section import PSI
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Dowels, Load, Pedestal, Settings, edited
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

NAMES = {"EN": "EN 1992-1-1:2004", "ACI": "ACI 318-19", "AS": "AS 3600:2018"}
PEDESTAL = Pedestal(size_x=0.6, size_y=0.6, top=0.2, bars=8, diameter=0.020)
COVER = 0.05


def _found(standard: str, N: float, turn: float) -> float:
    """The moment that the section resists at N, about an axis turned by degrees from x."""
    known = standard_of(NAMES[standard], Settings())
    assert known is not None
    surface = interaction(PEDESTAL, COVER, known.column_rules(30.0, 500.0))
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return float(capacity(surface, np.array([[N]]), np.array([[s]]), np.array([[c]]))[0, 0])


def _integrated(standard: str, N: float, turn: float) -> float:
    """The same by bisection on the depth of the pressed zone over 500 x 500 fibres; on axes of symmetry the neutral
    axis is known.

    EN: block 0.8 x at fcd = 20 MPa, 0.0035; ACI: 0.836 x at 0.85 f'c, phi 0.65 to 0.9; AS: gamma x at alpha_2 f'c, phi
    by the axial force."""
    beta = min(0.85, max(0.65, 0.85 - 0.05 * (30 * PSI - 4000) / 1000))
    stress, block, crushed, fy = {
        "EN": (20.0, 0.8, 0.0035, 500 / 1.15),
        "ACI": (0.85 * 30, beta, 0.003, 500.0),
        "AS": ((0.85 - 0.045) * 30, 0.97 - 0.075, 0.003, 500.0),
    }[standard]
    n = 500
    u = ((np.arange(n) + 0.5) / n - 0.5) * 0.6
    x, y = np.meshgrid(u, u, indexing="ij")
    # a moment My turns towards +x, Mx towards -y: the direction of compression
    c, s = math.cos(math.radians(turn)), -math.sin(math.radians(turn))
    top = (abs(c) + abs(s)) * 0.3
    fibre, bars = top - (c * x + s * y), bar_places(PEDESTAL, COVER)
    bar = top - (c * bars[:, 0] + s * bars[:, 1])
    area, cell = math.pi * 0.02**2 / 4 * 1000, 0.36 / n**2 * 1000

    size = 2 * top

    def nominal(depth: float) -> tuple[float, float, float]:
        """(force, moment, greatest tension) before any capacity factor."""
        if standard == "EN" and depth > size:
            # figure 6.1: strains turn about half the depth at 1.75 per mille
            strain = 0.00175 * (depth - bar) / (depth - size / 2)
        else:
            strain = crushed * (1 - bar / depth)
        inside = fibre < block * depth
        # 3.1.7(3): towards a corner the pressed part narrows
        held = stress * (0.9 if standard == "EN" and turn % 90 and not inside.all() else 1.0)
        steel = np.clip(strain * 200_000, -fy, fy) - held * (bar < block * depth)
        force = held * cell * float(inside.sum()) + float((steel * area).sum())
        lever = held * cell * float(((top - fibre) * inside).sum()) + float((steel * area * (top - bar)).sum())
        return force, lever, float(-strain.min())

    def zone(target: Callable[[float], float]) -> float:
        low, high = 0.005, 4.0
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if target(middle) < 0 else (low, middle)
        return low

    deepest = float(bar.max())
    balanced = nominal(deepest * 0.003 / 0.0055)[0]
    bending = min(max(1.24 - 13 * zone(lambda x: nominal(x)[0]) / deepest / 12, 0.65), 0.85)

    def forces(depth: float) -> tuple[float, float]:
        force, lever, tension = nominal(depth)
        yields = 500 / (29e6 / PSI)
        phi = {
            "EN": 1.0,
            "ACI": 0.65 + 0.25 * min(max((tension - yields) / 0.003, 0.0), 1.0),
            "AS": 0.65 + (bending - 0.65) * min(max(1 - max(force, 0.0) / balanced, 0.0), 1.0),
        }[standard]
        return phi * force, phi * lever

    return forces(zone(lambda x: forces(x)[0] - N))[1]


def _value(check: str, what: str, standard: str, settings: dict[str, Any] | None = None, **changes: Any) -> float:
    project = edited(one_pad(**changes), ("standards", "concrete"), NAMES[standard])
    for name, value in (settings or {}).items():
        project = edited(project, ("settings", name), value)
    found = getattr(evaluate_pad(project, project.pads[0]).check(check), what)
    return float("nan") if found is None else float(found)


def _ends(standard: str) -> tuple[float, float]:
    """Axial forces that the pedestal resists without moment, kN."""
    known = standard_of(NAMES[standard], Settings())
    assert known is not None
    return axial_most(PEDESTAL, Settings(concrete_cover=COVER), known)


STEEL = 8 * math.pi * 0.02**2 / 4
"""Of the pedestal, m2."""
ROOT = math.sqrt(30 * PSI)
F_CTM = 0.3 * 30 ** (2 / 3)
DOWELS = Dowels(number=4, diameter=0.020)
PULLED = Load(V=100.0, My=80.0)
PLAIN: dict[str, Any] = {"width": 3.0, "length": 3.0, "thickness": 0.6, "load": Load(V=400.0)}
NET = (400.0 - 18 * 0.6 * 0.16) / 9


def _cases() -> Iterator[Case]:
    for standard in NAMES:
        for N in (200.0, 900.0, 2400.0):
            for turn in (0.0, 45.0):
                yield Case(
                    f"{standard}: interaction at {N:.0f} kN, moment turned by {turn:.0f}°",
                    "second method",
                    "500 x 500 fibres, depth by bisection",
                    lambda s=standard, f=N, t=turn: _integrated(s, f, t),
                    lambda s=standard, f=N, t=turn: _found(s, f, t),
                    1e-2,
                    "kNm",
                )
    closed: tuple[tuple[str, str, float, Any, str], ...] = (
        (
            "EN: column on the base, spread",
            "f_cd (1 + h/b), 6.7",
            20.0 * 2.25,
            lambda: _value("bearing-concrete", "capacity", "EN"),
            "MPa",
        ),
        (
            "ACI: column on the base, spread",
            "0.65 x 0.85 f'c x 2, 22.8.3.2",
            0.65 * 0.85 * 60,
            lambda: _value("bearing-concrete", "capacity", "ACI"),
            "MPa",
        ),
        (
            "AS: column on the base, spread",
            "0.6 x 0.9 f'c x 2, 12.6",
            0.6 * 0.9 * 60,
            lambda: _value("bearing-concrete", "capacity", "AS"),
            "MPa",
        ),
        (
            "ACI: hooked dowels",
            "25.4.3.1, psi_c = f'c/15000 + 0.6",
            500 * PSI * (30 * PSI / 15000 + 0.6) / (55 * ROOT) * (20 / 25.4) ** 1.5 * 25.4,
            lambda: _value("dowels-anchorage", "demand", "ACI", dowels=DOWELS, load=PULLED),
            "mm",
        ),
        (
            "EN: dowels in compression, least length",
            "10 ø, 8.4.4",
            200.0,
            lambda: _value("dowels-anchorage", "demand", "EN", dowels=DOWELS, load=Load(V=900.0)),
            "mm",
        ),
        (
            "EN: ties next to the base",
            "0.6 x 400 mm, 9.5.3(4)",
            240.0,
            lambda: _value("pedestal-ties", "capacity", "EN", pedestal=PEDESTAL),
            "mm",
        ),
        (
            "ACI: ties of a thick bar",
            "16 bars, 25.7.2.1",
            320.0,
            lambda: _value("pedestal-ties", "capacity", "ACI", pedestal=PEDESTAL.replaced(tie_diameter=0.025)),
            "mm",
        ),
        (
            "ACI: slenderness",
            "2 l/(0.3 b), 6.2.5.1",
            2 * 0.9 / 0.18,
            lambda: _value("pedestal-slender", "demand", "ACI", pedestal=PEDESTAL),
            "",
        ),
        (
            "EN: slenderness",
            "2 l √12/b, 5.8.3.2",
            2 * 0.9 * math.sqrt(12) / 0.6,
            lambda: _value("pedestal-slender", "demand", "EN", pedestal=PEDESTAL),
            "",
        ),
        (
            "EN: cover cast against soil",
            "75 mm, 4.4.1.3(4)",
            75.0,
            lambda: _value("cover", "demand", "EN", {"cast_against": "soil"}),
            "mm",
        ),
        (
            "ACI: cover cast against soil",
            "3 in., 20.5.1.3.1",
            76.2,
            lambda: _value("cover", "demand", "ACI", {"cast_against": "soil"}),
            "mm",
        ),
        (
            "EN: plain, bending",
            "6 p l²/(2 (0.85 h)²), 12.9.3",
            6 * NET * 1.3**2 / 2 / 0.51**2 / 1000,
            lambda: _value("plain-x", "demand", "EN", {"base_concrete": "plain"}, **PLAIN),
            "MPa",
        ),
        (
            "EN: plain, its strength",
            "0.8 x 0.7 f_ctm/1.5, 12.3.1",
            0.8 * 0.7 * F_CTM / 1.5,
            lambda: _value("plain-x", "capacity", "EN", {"base_concrete": "plain"}, **PLAIN),
            "MPa",
        ),
        (
            "ACI: plain on soil, bending",
            "h less 50 mm, 14.5.1.7",
            6 * NET * 1.3**2 / 2 / 0.55**2 / 1000,
            lambda: _value("plain-x", "demand", "ACI", {"base_concrete": "plain", "cast_against": "soil"}, **PLAIN),
            "MPa",
        ),
        (
            "ACI: plain, its strength",
            "0.6 x 5 √f'c, 14.5.2.1",
            0.6 * 5 * ROOT / PSI,
            lambda: _value("plain-x", "capacity", "ACI", {"base_concrete": "plain"}, **PLAIN),
            "MPa",
        ),
        (
            "ACI: plain, punching",
            "V − p (c + h)², 14.5.5",
            (400 - NET) / (4 * 0.6) / 1000,
            lambda: _value("plain-punching", "demand", "ACI", {"base_concrete": "plain"}, **PLAIN),
            "MPa",
        ),
        (
            "EN: pedestal in pure compression",
            "all at 1.75 per mille, 6.1(5)",
            20_000 * (0.36 - STEEL) + STEEL * 350_000,
            lambda: _ends("EN")[1],
            "kN",
        ),
        ("EN: pedestal in pure tension", "A_s f_yd", -STEEL * 500_000 / 1.15, lambda: _ends("EN")[0], "kN"),
        (
            "ACI: pedestal's greatest force",
            "0.65·0.8 P_o, 22.4.2.1",
            0.65 * 0.8 * (0.85 * 30_000 * (0.36 - STEEL) + STEEL * 500_000),
            lambda: _ends("ACI")[1],
            "kN",
        ),
        (
            "AS: pedestal in pure compression",
            "0.65 N_uo at 0.003",
            0.65 * ((0.85 - 0.045) * 30_000 * (0.36 - STEEL) + STEEL * 500_000),
            lambda: _ends("AS")[1],
            "kN",
        ),
        (
            "EN: greatest steel of a pedestal",
            "0.04 A_c, 9.5.2(3)",
            40 * math.pi * 25**2 / 4 / 14_400,
            lambda: _value("pedestal-steel", "ratio", "EN", pedestal=PEDESTAL.replaced(bars=40, diameter=0.025)),
            "",
        ),
        (
            "EN: least eccentricity",
            "max(h/30, 20 mm) N, 6.1(4)",
            0.03 * (900 + 25 * 0.81 * 0.9),
            lambda: _value(
                "pedestal", "demand", "EN", load=Load(V=900.0), pedestal=PEDESTAL.replaced(size_x=0.9, size_y=0.9)
            ),
            "kNm",
        ),
        (
            "AS: least eccentricity",
            "0.05 D N, 10.1.2",
            0.05 * 0.9 * (900 + 25 * 0.81 * 0.9),
            lambda: _value(
                "pedestal", "demand", "AS", load=Load(V=900.0), pedestal=PEDESTAL.replaced(size_x=0.9, size_y=0.9)
            ),
            "kNm",
        ),
        (
            "EN: cover, sea water and a century",
            "55 + 10 mm, tables 4.3N and 4.4N, from memory",
            65.0,
            lambda: _value("cover", "demand", "EN", {"exposure_en": "XS3", "design_life": 100.0}),
            "mm",
        ),
        (
            "AS: cover, B1",
            "40 + 10 mm, table 4.10.3.2, from memory",
            50.0,
            lambda: _value("cover", "demand", "AS", {"exposure_as": "B1", "concrete_strength": 32.0}),
            "mm",
        ),
    )
    for name, source, known, compute, unit in closed:
        yield Case(
            name,
            "from memory" if "from memory" in source else "closed form",
            source,
            known,
            compute,
            2e-4 if "pure compression" in name else 1e-6,
            unit,
        )


JOINTS: tuple[Case, ...] = tuple(_cases())
