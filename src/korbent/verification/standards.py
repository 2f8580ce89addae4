"""Reference cases of ACI 318-19 and AS 3600:2018, of anchorage, of bases under several columns, and of bars as
objects."""

import math
from typing import Any

import numpy as np

from korbent.core.concrete.critical_section import critical_section
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.schedule import centre_line
from korbent.core.concrete.standards.aci318 import ACI318
from korbent.core.concrete.standards.aci318.section import PSI
from korbent.core.concrete.standards.as3600 import AS3600
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Bars, Load, LoadPoint, Reinforcement, edited
from korbent.core.working import SILENT, Array
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

NO = np.array([False])


def _a(value: float) -> Array:
    return np.array([[value]])


def _fibres(standard: Any, moment: float, d: float, fck: float, fyk: float, block: float, phi: float) -> float:
    """The moment (kNm/m) that the steel asked for resists: 4000 fibres of the stress block in equilibrium with it."""
    fcd, fyd = standard.strengths(fck, fyk, NO, SILENT)
    steel = float(required_steel(standard, np.array([moment]), np.array([d]), fck, fcd, fyd, SILENT)[0][0])
    depth = steel * fyk / (block * fck * 1e6) * 1000 / 1000
    fibres = (np.arange(4000) + 0.5) / 4000 * depth
    return phi * float((block * fck * 1000 * depth / 4000 * (d - fibres)).sum())


def _pad(standard: str, check: str, what: str, load: Load, **changes: Any) -> float:
    settings = changes.pop("settings", {})
    project = edited(one_pad(load=load, **changes), ("standards", "concrete"), standard)
    for name, value in settings.items():
        project = edited(project, ("settings", name), value)
    found = getattr(evaluate_pad(project, project.pads[0]).check(check), what)
    return float("nan") if found is None else float(found)


def _pair(check: str) -> float:
    """Two columns of 600 kN on 5.0 x 2.2 x 0.6 m: steel (mm2/m) times lever arm and strength gives the moment back."""
    steel = Bars(diameter=0.02, spacing=0.15)
    project = one_pad(
        load=Load(V=600.0),
        width=5.0,
        length=2.2,
        thickness=0.6,
        offset_x=-1.5,
        reinforcement=Reinforcement(bottom_x=steel, bottom_y=steel, top_x=steel, top_y=steel),
    )
    other = LoadPoint(name="D", x=3.0, y=0.0, size_x=0.4, size_y=0.4, level=0.0, loads={"G": Load(V=600.0)})
    project = project.replaced(actions=project.actions.replaced(load_points=(*project.actions.load_points, other)))
    project = project.replaced(pads=(project.pads[0].replaced(further=("D",)),))
    demand = evaluate_pad(project, project.pads[0]).check(check).demand or 0.0
    return _moment(demand, 0.54) * 2.2


def _moment(steel: float, d: float) -> float:
    block = steel * 500 / 1.15 / 20.0 / 1e6 * 1.0
    return steel * 500 / 1.15 / 1000 * (d - block / 2)


def _walked(a: float, b: float, d: float, D: float) -> float:
    """The centre line of a bar with two bends, walked in small steps."""
    R, corner = (D + d) / 2, (D + d) / 2 + d / 2
    t = np.linspace(math.pi, 1.5 * math.pi, 2001)
    x = np.concatenate([[d / 2], corner + R * np.cos(t), b - corner + R * np.cos(t + math.pi / 2), [b - d / 2]])
    y = np.concatenate([[a], corner + R * np.sin(t), corner + R * np.sin(t + math.pi / 2), [a]])
    return float(np.hypot(np.diff(x), np.diff(y)).sum())


_NET = 900.0 / 4.8 - 18 * 0.7 * 0.16 / 4.8
_D = (0.442 + 0.426) / 2
_ROOT = math.sqrt(30 * PSI)
_RHO = math.pi * 0.016**2 / 4 / 0.2 / 0.442
_B = 0.4 + _D
_V = 900 - _B**2 * _NET
_DISPLACED = 18 * 0.6 * 0.16
_STRIP = (1200 - 2 * _DISPLACED) / 5.0
_C = Load(V=900.0)
_ACI, _AS = "ACI 318-19", "AS 3600:2018"


def _transfer() -> float:
    s = critical_section(_a(0.4), _a(0.4), (_a(9.0),) * 4, _a(0.25))
    return float(ACI318().section_demand(_a(800.0), _a(0.0), _a(60.0), s, _a(0.5), SILENT)[0, 0])


STANDARDS: tuple[Case, ...] = (
    Case(
        "ACI: flexure, 220 kNm/m, d = 0.5 m, f'c 28",
        "second method",
        "fibres in equilibrium give the moment back",
        220.0,
        lambda: _fibres(ACI318(), 220.0, 0.5, 28.0, 420.0, 0.85, 0.9),
        1e-5,
        "kNm/m",
    ),
    Case(
        "AS: flexure, 220 kNm/m, d = 0.5 m, f'c 32",
        "second method",
        "fibres in equilibrium give the moment back",
        220.0,
        lambda: _fibres(AS3600(), 220.0, 0.5, 32.0, 500.0, 0.85 - 0.0015 * 32, 0.85),
        1e-5,
        "kNm/m",
    ),
    Case(
        "ACI pad: one-way shear stress at d",
        "closed form",
        "p (l − d)/d",
        _NET * (0.8 - 0.442) / 0.442 / 1000,
        lambda: _pad(_ACI, "shear-x", "demand", _C),
        1e-6,
        "MPa",
    ),
    Case(
        "ACI pad: one-way shear strength",
        "from memory",
        "0.75·8 ρ^(1/3) √f'c, psi",
        0.75 * 8 * _RHO ** (1 / 3) * _ROOT / PSI,
        lambda: _pad(_ACI, "shear-x", "capacity", _C),
        1e-9,
        "MPa",
    ),
    Case(
        "ACI pad: with the size effect",
        "from memory",
        "√(2/(1 + d/10 in))",
        0.75 * 8 * _RHO ** (1 / 3) * _ROOT / PSI * math.sqrt(2 / (1 + 0.442 / 0.254)),
        lambda: _pad(_ACI, "shear-x", "capacity", _C, settings={"shear_size_effect": True}),
        1e-9,
        "MPa",
    ),
    Case(
        "ACI pad: punching stress at d/2",
        "closed form",
        "(V − p b²)/(4 b d)",
        _V / (4 * _B * _D) / 1000,
        lambda: _pad(_ACI, "punching", "demand", _C),
        1e-6,
        "MPa",
    ),
    Case(
        "ACI pad: punching strength",
        "from memory",
        "0.75·4 √f'c, psi",
        0.75 * 4 * _ROOT / PSI,
        lambda: _pad(_ACI, "punching", "capacity", _C),
        1e-9,
        "MPa",
    ),
    Case(
        "ACI: moment transfer, interior column",
        "closed form",
        "R8.4.4.2.3: J = d b³/6 + b d³/6 + d b³/2",
        (800 / (4 * 0.9 * 0.5) + 0.4 * 60 * 0.45 / (0.5 * 0.9**3 / 6 + 0.9 * 0.5**3 / 6 + 0.5 * 0.9**3 / 2)) / 1000,
        _transfer,
        1e-12,
        "MPa",
    ),
    Case(
        "ACI: development of a straight #5, 4000 psi, 60 ksi, fully used",
        "from memory",
        "(25.4.2.4a): 3/40·60000/√4000·0.8/2.5·0.625 in",
        3 / 40 * 60_000 / math.sqrt(4000) * 0.8 / 2.5 * 0.625 * 25.4,
        lambda: _pad(
            _ACI,
            "anchorage-x",
            "demand",
            Load(V=2500.0),
            settings={"bar_ends": "straight", "concrete_strength": 4000 / PSI, "steel_strength": 60_000 / PSI},
            reinforcement=Reinforcement(
                bottom_x=Bars(diameter=0.015875, spacing=0.2), bottom_y=Bars(diameter=0.015875, spacing=0.2)
            ),
        ),
        1e-9,
        "mm",
    ),
    Case(
        "AS pad: punching stress with a moment",
        "closed form",
        "V/(u d)·(1 + u M/(8 V a d))",
        _V / (4 * _B * _D) / 1000 * (1 + 4 * _B * 40 / (8 * _V * _B * _D)),
        lambda: _pad(_AS, "punching", "demand", Load(V=900.0, My=40.0)),
        1e-6,
        "MPa",
    ),
    Case(
        "AS pad: punching strength",
        "from memory",
        "0.7·0.34 √f'c",
        0.7 * 0.34 * math.sqrt(30),
        lambda: _pad(_AS, "punching", "capacity", _C),
        1e-9,
        "MPa",
    ),
    Case(
        "AS pad: one-way shear strength",
        "from memory",
        "0.7 kv √f'c",
        0.7 * min(200 / (1000 + 1300 * 0.3978), 0.1) * math.sqrt(30),
        lambda: _pad(_AS, "shear-x", "capacity", _C),
        1e-9,
        "MPa",
    ),
    Case(
        "two columns: moment at the outer face",
        "closed form",
        "p l²/2",
        _STRIP * 0.8**2 / 2,
        lambda: _pair("bottom-x"),
        1e-6,
        "kNm",
    ),
    Case(
        "two columns: moment between them",
        "closed form",
        "V a − p L²/8",
        (600 - _DISPLACED) * 1.5 - _STRIP * 2.5**2 / 2,
        lambda: _pair("top-x"),
        1e-6,
        "kNm",
    ),
    Case(
        "bar with two bends: length",
        "second method",
        "the centre line walked",
        _walked(0.4, 1.9, 0.016, 0.064),
        lambda: centre_line(("21", 0.016, 0.4, 1.9, 0.4), 0.064),
        1e-6,
        "m",
    ),
)
"""Cases of the other standards."""
