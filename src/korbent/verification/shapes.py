"""Reference cases of round bases, strips, common bases and replacement, as whole pads."""

import math
from typing import Any

import numpy as np

from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.state import base_state
from korbent.core.footprint.round import overlap
from korbent.core.model import Load, LoadPoint, Project, Replacement, edited
from korbent.verification.case import Case
from korbent.verification.pad import one_pad


def _round(**changes: Any) -> Project:
    return one_pad(**({"shape": "circle", "width": 2.6, "length": 2.6, "load": Load(V=900.0)} | changes))


def _capacity(project: Project, check: str) -> float:
    found = evaluate_pad(project, project.pads[0]).check(check).capacity
    return float("nan") if found is None else found


def _demand(project: Project, check: str) -> float:
    found = evaluate_pad(project, project.pads[0]).check(check).demand
    return float("nan") if found is None else found


def _strip() -> Project:
    project = one_pad(load=Load(V=600.0), width=1.2, length=5.0)
    wall = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=0.25, size_y=5.0)
    project = project.replaced(actions=project.actions.replaced(load_points=(wall,)))
    return edited(project, ("settings", "strip"), "endless")


def _common(what: str) -> float:
    project = one_pad(width=6.0, length=3.0, offset_x=-1.2, load=Load(V=600.0, Hx=40.0))
    other = LoadPoint(
        name="D",
        x=3.0,
        y=0.4,
        size_x=0.5,
        size_y=0.4,
        level=0.4,
        loads={"G": Load(V=450.0, Hy=-10.0, Mx=15.0)},
    )
    project = project.replaced(actions=project.actions.replaced(load_points=(*project.actions.load_points, other)))
    project = project.replaced(pads=(project.pads[0].replaced(further=("D",)),))
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    return {"V": state.V, "M_y": state.e_x * state.N, "M_x": -state.e_y * state.N}[what]


def _ring_area() -> float:
    project = _round(shape="ring", hole=1.2, load=Load(V=500.0))
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    return state.effective[0] * state.effective[1]


_PHI = math.atan(math.tan(math.radians(30)) / 1.25)
_NQ = math.exp(math.pi * math.tan(_PHI)) * math.tan(math.pi / 4 + _PHI / 2) ** 2
_NC, _NG = (_NQ - 1) / math.tan(_PHI), 2 * (_NQ - 1) * math.tan(_PHI)
_SIDE = 2.6 * math.sqrt(math.pi) / 2
_SQUARE = (
    5 / 1.25 * _NC * ((1 + math.sin(_PHI)) * _NQ - 1) / (_NQ - 1)
    + 21.6 * _NQ * (1 + math.sin(_PHI))
    + 0.5 * 18 * _SIDE * _NG * 0.7
)
_STRIP = 5 / 1.25 * _NC + 18 * 1.2 * _NQ + 0.5 * 18 * 1.2 * _NG
_SOIL, _AREA = 18 * 0.7, math.pi / 4 * 2.6**2
_BELOW = 20 * 0.8 * (4.8 + 4 * 2.4 * 2.8 + 2.8 * 3.2) / 6
_PAD_V = 600 + 25 * 4.8 * 0.5 + _SOIL * (4.8 - 0.16)
_CUTS = _SOIL * 0.16, _SOIL * 0.2


def _lens_by_slices() -> float:
    x = np.linspace(0.7, 2.3, 200_001)
    half = np.minimum(np.sqrt(np.maximum(2.25 - x**2, 0)), np.sqrt(np.maximum(0.64 - (x - 1.5) ** 2, 0)))
    return float(np.trapezoid(2 * half, x))


def _replaced() -> float:
    project = one_pad(replacement=Replacement(thickness=0.8, spread=0.5), load=Load(V=600.0))
    return _demand(project, "resistance-undrained")


SHAPES: tuple[Case, ...] = (
    Case(
        "circle, centred, drained: r",
        "closed form",
        "Annex D, square of equal area",
        _SQUARE,
        lambda: _capacity(_round(), "resistance-drained"),
        1e-9,
        "kPa",
    ),
    Case(
        "circle: overturning moment about the rim",
        "closed form",
        "V R + M + H h of the case that overturns",
        100 * 1.3 + 90 + 36,
        lambda: _demand(_round(load=Load(V=600.0)), "overturning"),
        1e-9,
        "kNm",
    ),
    Case(
        "circle: stabilising moment about the rim",
        "closed form",
        "0.9 (V + W) R",
        0.9 * (600 + 25 * 0.5 * _AREA + _SOIL * (_AREA - 0.16)) * 1.3,
        lambda: _capacity(_round(load=Load(V=600.0)), "overturning"),
        1e-9,
        "kNm",
    ),
    Case("ring, centred: A'", "closed form", "π (R² − r²)", math.pi / 4 * (2.6**2 - 1.2**2), _ring_area, 1e-9, "m²"),
    Case(
        "overlap of two circles",
        "second method",
        "summed in slices",
        _lens_by_slices(),
        lambda: float(overlap(np.array(1.5), np.array(0.8), np.array(1.5))),
        1e-6,
        "m²",
    ),
    Case(
        "endless strip, drained: r",
        "closed form",
        "Annex D, shape factors 1",
        _STRIP,
        lambda: _capacity(_strip(), "resistance-drained"),
        1e-3,
        "kPa",
    ),
    Case(
        "endless strip, undrained: r",
        "closed form",
        "(π + 2) cu + q",
        (math.pi + 2) * 80 / 1.4 + 21.6,
        lambda: _capacity(_strip(), "resistance-undrained"),
        1e-3,
        "kPa",
    ),
    Case(
        "two columns on one base: V",
        "closed form",
        "superposition",
        1050 + 25 * 18 * 0.5 + _SOIL * 18 - sum(_CUTS),
        lambda: _common("V"),
        1e-12,
        "kN",
    ),
    Case(
        "two columns on one base: M about y",
        "closed form",
        "superposition of r × F",
        40 * 1.2 - 1.2 * (600 - _CUTS[0]) + 1.8 * (450 - _CUTS[1]),
        lambda: _common("M_y"),
        1e-9,
        "kNm",
    ),
    Case(
        "two columns on one base: M about x",
        "closed form",
        "superposition of r × F",
        15 + 10 * 1.6 - 0.4 * (450 - _CUTS[1]),
        lambda: _common("M_x"),
        1e-9,
        "kNm",
    ),
    Case(
        "below a replacement: pressure on the wider area",
        "closed form",
        "(V + W) / A' at its underside",
        (_PAD_V + _BELOW) / (2.8 * 3.2),
        _replaced,
        1e-9,
        "kPa",
    ),
)
