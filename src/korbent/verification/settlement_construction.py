"""Reference cases of settlement in steps and time: whole small projects against scalars worked out by another road."""

import datetime
import math
from itertools import pairwise
from typing import Any

import numpy as np

from korbent.core.evaluate import evaluate
from korbent.core.model import (
    Actions,
    AreaLoad,
    Borehole,
    ConstructionStep,
    Ground,
    Load,
    Project,
    Settings,
    SettlementMark,
    Soil,
    Stratum,
    Surfaces,
    Water,
)
from korbent.core.settlement.consolidation import terzaghi
from korbent.core.settlement.formulas import oedometer_strain, skempton_bjerrum_strip
from korbent.core.settlement.history import PadHistory, history, mark_history
from korbent.core.settlement.stress.area_loads import area_load_stress
from korbent.core.settlement.stress.below import displacement_below, stress_below
from korbent.core.settlement.stress.rectangle import rectangle_angle, rectangle_slope, rectangle_stress
from korbent.core.settlement.stress.round import disc_angle, disc_displacement, disc_stress
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

DAY = datetime.date(2027, 1, 4)
H, GAMMA, P, WATER = 6.0, 18.0, 80.0, 9.81
CLAY: dict[str, Any] = {
    "compression": "oedometer",
    "compression_index": 0.28,
    "recompression_index": 0.04,
    "void_ratio": 0.95,
}
WIDE = AreaLoad(name="Fill", size_x=4000.0, size_y=4000.0, level=0.0, pressure=P)
Step = tuple[float, float, dict[str, float]]
"""Day, ramp in days, factors."""


def steps(*rows: Step, water: tuple[str, ...] = ()) -> tuple[ConstructionStep, ...]:
    """Construction steps by day, ramp and factors."""
    return tuple(
        ConstructionStep(
            name=f"step {i + 1}",
            date=DAY + datetime.timedelta(days=day),
            ramp=ramp,
            factors=factors,
            water=water[i] if water else "normal",
        )
        for i, (day, ramp, factors) in enumerate(rows)
    )


def filled(*rows: Step, soil: dict[str, Any] | None = None, load: AreaLoad = WIDE, **settings: Any) -> Project:
    """A layer of clay, 6 m over rigid ground, dry, under an area load in steps; no foundation."""
    own = {**CLAY, **(soil or {})}
    clay = Soil(name="clay", pattern="clay", weight=GAMMA, weight_saturated=GAMMA, **own)
    hole = Borehole(
        name="BH",
        x=0.0,
        y=0.0,
        ground_level=0.0,
        strata=(Stratum(soil="clay", thickness=H),),
        rigid_below=True,
    )
    return Project(
        ground=Ground(soils=(clay,), boreholes=(hole,), surfaces=Surfaces(finished=0.0)),
        actions=Actions(area_loads=(load,), steps=steps(*rows)),
        settings=Settings(settlement_influence=0.0, **settings),
    )


def mark(project: Project, x: float = 0.0, y: float = 0.0, level: float = 0.0) -> PadHistory:
    """The settlement over time of a point."""
    return mark_history(project, SettlementMark(name="M", x=x, y=y, level=level))


ON: Step = (0.0, 0.0, {"Fill": 1.0})
Z = (np.arange(6000) + 0.5) / 6000 * H
BEFORE = GAMMA * Z
CR, CRR = 0.28 / 1.95, 0.04 / 1.95


def _mm(strain: np.ndarray) -> float:
    return float(strain.mean() * H * 1000)


def _first(added: float = P, past: np.ndarray | float = 0.0) -> float:
    """Compression (mm) of the layer by e-log p, by 6000 even slices."""
    yielded = np.maximum(BEFORE, past)
    strain = CRR * np.log10(np.minimum(BEFORE + added, yielded) / BEFORE)
    return _mm(strain + CR * np.log10(np.maximum(BEFORE + added, yielded) / yielded))


def _swell(kept: float) -> float:
    """Loaded for good, then relieved to ``kept`` kPa: back along Cr (mm)."""
    return _first() - _mm(CRR * np.log10((BEFORE + P) / (BEFORE + kept)))


def _end(project: Project) -> float:
    return 1000 * mark(project).final


DRAIN = {"consolidation_coefficient": 0.02}
MV = {"compression": "mv", "compressibility": 0.4}


def _average_by_hand(day: float) -> float:
    """Average degree with the fill taken off at 100 days: the law on the mean effective stress, its greatest value
    kept; scalars."""

    def degree(t: float) -> float:
        return float(terzaghi(np.array(0.02 * max(t, 0.0) / H**2))) if t > 0 else 0.0

    times = np.linspace(0.0, day, 4001)
    stress = P * np.array([degree(t) - degree(t - 100.0) for t in times])
    now, most = stress[-1], stress.max()
    return _mm(CR * np.log10((BEFORE + most) / BEFORE) - CRR * np.log10((BEFORE + most) / (BEFORE + now)))


def _creep_by_small_steps(more: float) -> float:
    """Creep (mm) at 50 years of a layer whose load grows once more after 25 years, by its age in 200 000 small steps of
    time.

    The age grows with time, and the load makes it younger by 10^(-d/C), d the strain by which it hardens the slice
    (isotaches)."""
    C, tp, life, later = 0.006, 365.0, 50 * 365.25, 25 * 365.25
    edges = np.geomspace(tp, life, 200_001)
    edges = np.unique(np.append(edges, later))
    d = (CR - CRR) * np.log10((BEFORE[::60] + P * (1 + more)) / (BEFORE[::60] + P))
    age, crept = np.full(len(d), tp), np.zeros(len(d))
    for a, b in pairwise(edges):
        if a == later:
            age = age * 10 ** (-d / C)
        grown = age + (b - a)
        crept += C * np.log10(np.maximum(grown, tp) / np.maximum(age, tp))
        age = grown
    return _mm(crept)


def _creep_of(more: float) -> float:
    soil = {"creep_index": 0.006}
    how = {"creep_from": "typed", "creep_days": 365.0, "settlement_years": 50.0}
    rows = [ON, *([(9131.0, 0.0, {"Fill": 1.0 + more})] if more else [])]
    return 1000 * mark(filled(*rows, soil=soil, **how)).final_creep


def _circle(R: float = 5.0, **soil: Any) -> Project:
    tank = AreaLoad(name="Fill", shape="circle", size_x=2 * R, level=0.0, pressure=P)
    project = filled(ON, soil=soil, load=tank)
    hole = project.ground.boreholes[0].replaced(strata=(Stratum(soil="clay", thickness=3000.0),))
    return project.replaced(ground=project.ground.replaced(boreholes=(hole,)))


ELASTIC = {"compression": "elastic", "modulus": 12_000.0, "poisson": 0.3}


def _corner(x: float, y: float) -> tuple[float, float]:
    """Any point of a loaded rectangle 6 x 4 m over the 6 m layer: (by the program, by Steinbrenner's corners), mm."""
    load = AreaLoad(name="Fill", size_x=6.0, size_y=4.0, level=0.0, pressure=P)
    found = 1000 * mark(filled(ON, soil=ELASTIC, load=load), x, y).final
    sides = [(a, b) for a in (3 + x, 3 - x) for b in (2 + y, 2 - y)]
    whole = 0.0
    for a, b in sides:
        # a corner of a rectangle a x b is a quarter of the middle of one twice as large
        whole += float(displacement_below(np.array(2 * a), np.array(2 * b), np.array(H), np.array(0.3), 0.0)) / 4
    return found, 1000 * P * whole / 12_000


def _points(x: float, y: float, z: float, power: str) -> float:
    """A rectangle 2 x 3 m as point loads: the stress, the solid angle over pi, or the stress a little further along
    x."""
    n = 1200
    u, v = (np.arange(n) + 0.5) / n * 2 - 1, (np.arange(n) + 0.5) / n * 3 - 1.5
    R = np.sqrt((x - u[:, None]) ** 2 + (y - v) ** 2 + z * z)
    kernel = {
        "stress": 1.5 / math.pi * z**3 / R**5,
        "angle": z / R**3 / math.pi,
        "slope": -7.5 / math.pi * z**3 * (x - u[:, None]) / R**7,
    }
    return float(kernel[power].sum() * 6.0 / n**2)


def _disc_by_points(r: float, z: float) -> float:
    n = 1500
    rho = (np.arange(n) + 0.5) / n
    phi = (np.arange(n) + 0.5) / n * 2 * math.pi
    R2 = rho[:, None] ** 2 + r * r - 2 * r * rho[:, None] * np.cos(phi) + z * z
    return float((1.5 / math.pi * z**3 / R2**2.5 * rho[:, None]).sum() * 2 * math.pi / n / n)


def _long_bank(x: float, z: float) -> float:
    """A long embankment, 8 m at its crest, 3 m high, 1 : 2, of 20 kN/m3, as strips of line loads (Flamant 1892)."""
    u = (np.arange(400_000) + 0.5) / 400_000 * 20 - 10
    p = 60 * np.clip((10 - np.abs(u)) / 6, 0, 1)
    return float((2 / math.pi * p * z**3 / ((x - u) ** 2 + z * z) ** 2).sum() * 20 / 400_000)


def _bank(x: float, z: float) -> float:
    load = AreaLoad(name="E", shape="embankment", size_x=8.0, size_y=6000.0, height=3.0, weight=20.0, slope=2.0)
    return float(area_load_stress(load, *(np.array(v) for v in (x, 0.0, -z))))


def _pad(level: float = -1.2, V: float = 500.0, soil: dict[str, Any] | None = None, **settings: Any) -> Project:
    project = one_pad(load=Load(V=V), level=level)
    own = project.ground.soils[0].replaced(**(soil or {}))
    return project.replaced(
        ground=project.ground.replaced(soils=(own,)),
        settings=project.settings.replaced(settlement_influence=0.0, **settings),
    )


def _settled(project: Project) -> float:
    return evaluate(project).pad("P").check("settlement").demand or 0.0


def _net(level: float = -1.2, V: float = 500.0) -> float:
    """Net pressure of the pad, kPa: column, concrete and backfill less the excavated ground; scalars."""
    area, h, column = 2.0 * 2.4, 0.5, 0.4**2
    fill = max(0.0 - (level + h), 0.0)
    return (V + area * h * 25.0 + (area - column) * fill * 18.0) / area - max(-level, 0.0) * 18.0


def _mv_below(q: float, top: float = 1.2, gap: float = 0.0) -> float:
    """mv 0.4 below the pad from ``top`` to 30 m, the base ``gap`` above: Boussinesq at 40 000 even depths, mm."""
    z = (np.arange(40_000) + 0.5) / 40_000 * (30.0 - top)
    unit = stress_below(np.array(2.0), np.array(2.4), z + gap, 0.74)
    return float((q * unit * 0.4).mean() * (30.0 - top))


def _lowered() -> float:
    """mv 0.4 on the 6 m layer: the water falls from 1 m to 4 m below ground, saturated weight as dry."""
    project = filled((0.0, 0.0, {}), (300.0, 0.0, {}), soil=MV)
    ground = project.ground.replaced(water=Water(low=-4.0, normal=-1.0, high=-0.5))
    project = project.replaced(
        ground=ground,
        actions=project.actions.replaced(steps=steps((0.0, 0.0, {}), (300.0, 0.0, {}), water=("normal", "low"))),
    )
    return _end(project)


LOWERED = 0.4 * (WATER * 3.0**2 / 2 + WATER * 3.0 * 2.0)


def _after_preload(days: float) -> float:
    """A pad on clay that was loaded by 100 kPa over a wide area for ``days`` and relieved again long before it is
    built, mm."""
    soil = {
        "compression": "oedometer",
        "compression_index": 0.3,
        "recompression_index": 0.03,
        "void_ratio": 0.9,
        "drainage": "both",
    }
    project = _pad(V=500.0, soil=soil)
    fill = WIDE.replaced(pressure=100.0)
    rows: tuple[Step, ...] = ((0.0, 0.0, {"Fill": 1.0}), (days, 0.0, {}), (2 * days, 0.0, {"G": 1.0}))
    return _settled(project.replaced(actions=project.actions.replaced(area_loads=(fill,), steps=steps(*rows))))


def _after_preload_by_hand() -> float:
    z = 1.2 + (np.arange(40_000) + 0.5) / 40_000 * 28.8
    before = np.where(z < 8.0, 18.0 * z, 18.0 * 8.0 + (20.0 - WATER) * (z - 8.0))
    added = _net() * stress_below(np.array(2.0), np.array(2.4), z - 1.2, 0.74)
    strain = oedometer_strain(before, added, before + 100.0, *(np.array(v) for v in (0.3, 0.03, 0.9)))
    return float(strain.mean() * 28.8 * 1000)


def _touching() -> float:
    """What comes at once below a pad that another one touches, mm."""
    project = _pad(V=500.0, soil={**MV, "undrained_modulus": 20_000.0})
    point = project.actions.load_points[0]
    project = project.replaced(actions=project.actions.replaced(load_points=(point, point.replaced(name="D", x=2.0))))
    project = project.replaced(pads=(project.pads[0], project.pads[0].replaced(name="Q", load_point="D")))
    return 1000 * history(project).pads[0].final_immediate


def _touching_by_hand() -> float:
    """Its own part by Steinbrenner, that of the other by Hooke's law from its stresses at 60 000 depths, mm."""
    z = (np.arange(60_000) + 0.5) / 60_000 * 28.8
    own = float(displacement_below(np.array(2.0), np.array(2.4), np.array(28.8), np.array(0.5), 0.74))
    n = (np.array(-2.0), np.array(0.0), np.array(2.0), np.array(2.4), z)
    other = float((1.5 * (rectangle_stress(*n) - 0.5 * rectangle_angle(*n))).mean() * 28.8)
    return _net() * (own + other) / 20_000.0 * 1000


def _strip_by_stresses(A: float, z: float, B: float) -> float:
    """Skempton and Bjerrum below a strip, its stresses summed from line loads (Flamant 1892)."""
    u = (np.arange(200_000) + 0.5) / 200_000 * B - B / 2
    R4 = (u * u + z * z) ** 2
    vertical, sideways = float((z**3 / R4).sum()), float((u * u * z / R4).sum())
    N = math.sqrt(3) / 2 * (A - 1 / 3) + 0.5
    return N + (1 - N) * sideways / vertical


def _k_typed() -> float:
    """Degree after 60 days where k is typed: cv = k/(mv gamma_w) = 1e-9 m/s/(4e-4 1/kPa 9.81) in m2/day."""
    return mark(filled(ON, soil={**MV, "permeability": 1e-9})).degree(60.0)


CV_K = 1e-9 * 86_400 / (4e-4 * WATER)


def _share_of_c2() -> float:
    """Strain influence in two halves, the second after 5 years: C2 - 1 by shares of the load, over the primary part."""
    project = _pad(soil={"compression": "strain_influence"}, settlement_years=30.0)
    rows = ((0.0, 0.0, {"G": 0.4}), (1826.0, 0.0, {"G": 1.0}))
    found = history(project.replaced(actions=project.actions.replaced(steps=steps(*rows)))).pads[0]
    return found.final_creep / found.final_primary


def _share_by_hand() -> float:
    first, last = _net(V=200.0), _net()
    return (first * 0.2 * math.log10(300) + (last - first) * 0.2 * math.log10((30 * 365.25 - 1826) / 36.525)) / last


def _quarters(direction: float) -> float:
    """Tilt (per mille) of a pad by a neighbour 2.9 m away, both turned into a direction of the plan."""
    project = _pad(V=300.0, settlement_years=50.0)
    point = project.actions.load_points[0]
    c, s = math.cos(math.radians(direction)), math.sin(math.radians(direction))
    other = point.replaced(name="D", x=2.9 * c, y=2.9 * s, loads={"G": Load(V=900.0)})
    pad = project.pads[0].replaced(rotation=direction)
    project = project.replaced(actions=project.actions.replaced(load_points=(point, other)))
    project = project.replaced(pads=(pad, pad.replaced(name="Q", load_point="D")))
    return evaluate(project).pad("P").check("tilt").demand or 0.0


SETTLEMENT_CONSTRUCTION: tuple[Case, ...] = (
    Case(
        "below the middle of a circle by its boundary, z = R",
        "closed form",
        "1 − (1 + (R/z)²)^−1.5",
        1 - 2**-1.5,
        lambda: float(disc_stress(*(np.array(v) for v in (1.0, 0.0, 1.0)))),
        1e-8,
    ),
    Case(
        "below a circle at 0.85 R, z = 0.4 R",
        "second method",
        "point loads in rings",
        lambda: _disc_by_points(0.85, 0.4),
        lambda: float(disc_stress(*(np.array(v) for v in (1.0, 0.85, 0.4)))),
        1e-5,
    ),
    Case(
        "beside a circle at 1.6 R, z = 0.7 R",
        "second method",
        "point loads in rings",
        lambda: _disc_by_points(1.6, 0.7),
        lambda: float(disc_stress(*(np.array(v) for v in (1.0, 1.6, 0.7)))),
        1e-5,
    ),
    Case(
        "solid angle of a circle on its axis",
        "closed form",
        "2 (1 − z/√(R² + z²))",
        2 * (1 - 0.6 / math.hypot(1, 0.6)),
        lambda: float(disc_angle(*(np.array(v) for v in (1.0, 0.0, 0.6)))),
        1e-8,
    ),
    Case(
        "middle of a flexible circle on the half-space",
        "closed form",
        "2 p R (1 − ν²)/E (Boussinesq 1885)",
        2 * 0.91,
        lambda: float(disc_displacement(*(np.array(v) for v in (1.0, 0.0, 0.0, 0.3)))),
        1e-8,
    ),
    Case(
        "edge of a flexible circle on the half-space",
        "closed form",
        "4 p R (1 − ν²)/(π E) (Boussinesq 1885)",
        4 / math.pi * 0.91,
        lambda: float(disc_displacement(*(np.array(v) for v in (1.0, 1.0, 0.0, 0.3)))),
        1e-6,
    ),
    Case(
        "solid angle of a rectangle from beside it",
        "second method",
        "points summed",
        lambda: _points(1.3, -0.4, 0.8, "angle"),
        lambda: float(rectangle_angle(*(np.array(v) for v in (1.3, -0.4, 2.0, 3.0, 0.8)))),
        1e-6,
    ),
    Case(
        "change of the stress beside a rectangle",
        "second method",
        "derivative of point loads, summed",
        lambda: _points(1.3, -0.4, 0.8, "slope"),
        lambda: float(rectangle_slope(*(np.array(v) for v in (1.3, -0.4, 2.0, 3.0, 0.8)))[0]),
        1e-6,
        "1/m",
    ),
    *(
        Case(
            f"long embankment at {x:g} m from its middle, {z:g} m below",
            "second method",
            "line loads, Flamant 1892",
            lambda x=x, z=z: _long_bank(x, z),
            lambda x=x, z=z: _bank(x, z),
            1e-5,
            "kPa",
        )
        for x, z in ((6.0, 0.05), (7.5, 0.3), (9.9, 0.2), (12.0, 2.0))
    ),
    Case(
        "Skempton and Bjerrum below a strip, A = 0.4",
        "second method",
        "stresses of line loads; N by Scott 1963 from memory: not checked against the printed text",
        lambda: _strip_by_stresses(0.4, 2.0, 3.0),
        lambda: float(skempton_bjerrum_strip(*(np.array(v) for v in (0.4, 2.0, 3.0)))),
        1e-6,
    ),
    Case(
        "wide fill on clay, e-log p, normally consolidated",
        "second method",
        "6000 even slices",
        _first(),
        lambda: _end(filled(ON)),
        2e-3,
        "mm",
    ),
    Case(
        "the same with OCR 1.6",
        "second method",
        "6000 even slices",
        _first(past=1.6 * BEFORE),
        lambda: _end(filled(ON, soil={"overconsolidation_ratio": 1.6})),
        2e-3,
        "mm",
    ),
    Case(
        "the same with σ′p = 70 kPa",
        "second method",
        "6000 even slices",
        _first(past=70.0),
        lambda: _end(filled(ON, soil={"preconsolidation": 70.0})),
        2e-3,
        "mm",
    ),
    Case(
        "the same with σ′p − σ′v0 = 30 kPa",
        "second method",
        "6000 even slices",
        _first(past=BEFORE + 30.0),
        lambda: _end(filled(ON, soil={"preconsolidation_margin": 30.0})),
        2e-3,
        "mm",
    ),
    Case(
        "the same by Cc/(1 + e0) and Cr/Cc alone",
        "second method",
        "6000 even slices",
        _first(past=1.6 * BEFORE),
        lambda: _end(
            filled(
                ON,
                soil={
                    "compression_index": None,
                    "recompression_index": None,
                    "void_ratio": None,
                    "compression_ratio": CR,
                    "recompression_share": 1 / 7,
                    "overconsolidation_ratio": 1.6,
                },
            )
        ),
        2e-3,
        "mm",
    ),
    Case(
        "loaded for good, then relieved to a quarter",
        "second method",
        "back along Cr, 6000 even slices",
        lambda: _swell(P / 4),
        lambda: _end(filled(ON, (50_000.0, 0.0, {"Fill": 0.25}), soil=DRAIN)),
        2e-3,
        "mm",
    ),
    Case(
        "average degree 40 days after the fill is off",
        "second method",
        "mean effective stress in 4000 moments, Terzaghi's series",
        lambda: _average_by_hand(140.0),
        lambda: (
            1000
            * mark(
                filled(ON, (100.0, 0.0, {}), soil={"consolidation_coefficient": 0.02}, settlement_time="average_degree")
            ).at(140.0)
        ),
        0.01,
        "mm",
    ),
    Case(
        "time to 90 % of one layer",
        "closed form",
        "0.848 H²/cv (Terzaghi 1943)",
        0.848 * H**2 / 0.02,
        lambda: mark(filled(ON, soil={**MV, **DRAIN})).time_to(0.9),
        2e-3,
        "d",
    ),
    Case(
        "time to 30 % of one layer",
        "closed form",
        "π/4 · 0.3² H²/cv",
        math.pi / 4 * 0.09 * H**2 / 0.02,
        lambda: mark(filled(ON, soil={**MV, **DRAIN})).time_to(0.3),
        0.01,
        "d",
    ),
    Case(
        "a closed top over rigid ground keeps all",
        "closed form",
        "no water leaves: degree 0",
        0.0,
        lambda: mark(filled(ON, soil={**MV, **DRAIN}, drainage_top="closed")).degree(5000.0),
        1e-6,
    ),
    Case(
        "drained below too",
        "closed form",
        "Terzaghi's series with half the way",
        float(terzaghi(np.array(0.02 * 200 / (H / 2) ** 2))),
        lambda: mark(filled(ON, soil={**MV, **DRAIN}, drainage_bottom="drains")).degree(200.0),
        2e-3,
    ),
    Case(
        "degree after 60 days by a typed k",
        "closed form",
        "cv = k/(mv γw), Terzaghi's series",
        float(terzaghi(np.array(CV_K * 60 / H**2))),
        _k_typed,
        5e-3,
    ),
    Case(
        "creep of one step, 1 to 50 years",
        "closed form",
        "Cα log(t/tp) H",
        0.006 * math.log10(50 * 365.25 / 365.0) * H * 1000,
        lambda: _creep_of(0.0),
        5e-3,
        "mm",
    ),
    Case(
        "creep with 2 % more load after 25 years",
        "second method",
        "the age in 200 000 small steps (isotaches)",
        lambda: _creep_by_small_steps(0.02),
        lambda: _creep_of(0.02),
        5e-3,
        "mm",
    ),
    Case(
        "creep with 15 % more load after 25 years",
        "second method",
        "the age in 200 000 small steps (isotaches)",
        lambda: _creep_by_small_steps(0.15),
        lambda: _creep_of(0.15),
        0.015,
        "mm",
    ),
    Case(
        "C2 of two steps by their share of the load",
        "second method",
        "scalars",
        lambda: _share_by_hand(),
        _share_of_c2,
        1e-6,
    ),
    Case("the water falls by 3 m", "closed form", "mv (γw 3²/2 + γw 3 · 2)", LOWERED, _lowered, 2e-3, "mm"),
    Case(
        "net unloading: heave by mv",
        "second method",
        "Boussinesq, 40 000 even depths",
        lambda: _mv_below(_net(-3.0, 50.0), 3.0),
        lambda: _settled(_pad(-3.0, 50.0, MV)),
        3e-3,
        "mm",
    ),
    Case(
        "a base half a metre above the ground",
        "second method",
        "stress from the ground on, 40 000 even depths",
        lambda: _mv_below(_net(0.5), 0.0, 0.5),
        lambda: _settled(_pad(0.5, 500.0, MV)),
        3e-3,
        "mm",
    ),
    Case(
        "clay that was preloaded before the pad is built",
        "second method",
        "σ′p = σ′v0 + 100 kPa, 40 000 even depths",
        lambda: _after_preload_by_hand(),
        lambda: _after_preload(100.0),
        5e-3,
        "mm",
    ),
    Case(
        "middle of a tank, undrained",
        "closed form",
        "1.5 p R/Eu, half-space",
        1.5 * P * 5.0 / 20_000 * 1000,
        lambda: 1000 * mark(_circle(**MV, undrained_modulus=20_000.0)).final_immediate,
        5e-3,
        "mm",
    ),
    Case(
        "middle of a tank by E′, half-space",
        "closed form",
        "2 p R (1 − ν²)/E",
        2 * P * 5.0 * 0.91 / 12_000 * 1000,
        lambda: 1000 * mark(_circle(**ELASTIC)).final,
        5e-3,
        "mm",
    ),
    *(
        Case(
            f"a rectangle of 6 x 4 m by E′ at ({x:g}, {y:g})",
            "second method",
            "Steinbrenner 1934 at the corners",
            lambda x=x, y=y: _corner(x, y)[1],
            lambda x=x, y=y: _corner(x, y)[0],
            3e-3,
            "mm",
        )
        for x, y in ((0.0, 0.0), (3.0, 2.0), (1.7, -0.8))
    ),
    Case(
        "at once below a pad that another one touches",
        "second method",
        "Steinbrenner, and Hooke's law at 60 000 depths",
        lambda: _touching_by_hand(),
        _touching,
        3e-3,
        "mm",
    ),
    Case(
        "tilt by a neighbour does not depend on the direction in plan",
        "second method",
        "the same turned by 45°",
        lambda: _quarters(0.0),
        lambda: _quarters(45.0),
        1e-6,
        "‰",
    ),
)
"""Cases of settlement in steps and time."""
