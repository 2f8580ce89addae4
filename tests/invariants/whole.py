"""Random whole projects: bases of all kinds far apart, any concrete standard, columns, pedestals, bars, openings,
loads."""

import random
from typing import Any

from hypothesis import settings

from korbent.core.concrete.standards.registry import NAMES
from korbent.core.model import (
    Actions,
    Bars,
    Borehole,
    Combination,
    Dowels,
    Ground,
    Load,
    LoadCase,
    LoadPoint,
    Opening,
    Pad,
    Pedestal,
    Project,
    Reinforcement,
    Settings,
    Soil,
    Standards,
    Stratum,
    Surfaces,
    Water,
)
from tests.conftest import EXAMPLES

FAR = 600.0
"""Between bases, m: they do not press each other's ground."""

few = settings(max_examples=max(5, EXAMPLES // 4))
"""Whole projects are slow: fewer of them than of other random examples."""


def random_settings(rng: random.Random) -> dict[str, Any]:
    """Choices that matter to bearing, stability and concrete."""
    return {
        "factor_bearing": rng.choice((None, 2.5)),
        "presumed_pressure": rng.choice((None, 250.0)),
        "bearing_method": rng.choice(
            ("Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D")
        ),
        "squeezing": rng.random() < 0.3,
        "strip": rng.choice(("own_length", "endless")),
        "passive_angle": rng.choice((None, 28.0)),
        "passive_cohesion": rng.choice((0.0, 4.0)),
        "passive_undrained": rng.choice((None, 35.0)),
        "passive_by": rng.choice(("as_set", "strata")),
        "uplift_sides": rng.choice(("nothing", "friction_and_adhesion", "soil_wedge")),
        "uplift_angle": rng.choice((None, 25.0)),
        "uplift_adhesion": rng.choice((0.0, 2.0)),
        "surcharge_beside": rng.choice((0.0, 8.0)),
        "surcharge_on": rng.choice((0.0, 5.0)),
        "weak_over_strong": rng.choice(("weak_alone", "Meyerhof 1974")),
        "flexure_bands": rng.choice(("whole_width", "where_very_eccentric", "always")),
        "top_least": rng.choice(("not_asked_for", "by_standard")),
        "flexure_section": rng.choice(("at_face", "within_column")),
        "bar_ends": rng.choice(("hooked", "straight")),
        "cast_against": rng.choice(("blinding", "soil")),
        "seismic_overturning": rng.choice(("full", "full", "modal_less_10")),
        "concrete_weights": rng.choice(("net", "net", "left_out", "with")),
        "weight_relief": rng.choice(("own_factor", "0.9", "mean_load_factor")),
        "top_hanging": rng.choice(("as_soil_presses", "always")),
    }


def random_ground(rng: random.Random) -> Ground:
    """Three strata, two boreholes."""
    soils = []
    for i, kind in enumerate(rng.sample(("drained", "undrained", "both", "both"), 3)):
        strengths: dict[str, float] = {}
        if kind != "undrained":
            strengths |= {"friction_angle": rng.uniform(24, 38), "cohesion": rng.choice((0.0, 5.0))}
        if kind != "drained":
            strengths |= {
                "undrained_strength": rng.uniform(40, 150),
                "undrained_strength_gradient": rng.choice((0.0, 2.0)),
            }
        weight = rng.uniform(17, 20)
        soils.append(
            Soil(
                name=f"soil {i}",
                drainage=kind,
                weight=weight,
                weight_saturated=weight + 1.5,
                modulus=rng.uniform(1e4, 5e4),
                poisson=0.3,
                **strengths,  # type: ignore[arg-type]
            )
        )
    first = tuple(Stratum(soil=s.name, thickness=rng.uniform(1.0, 4.0)) for s in soils)
    second = tuple(Stratum(soil=s.name, thickness=rng.uniform(1.0, 4.0)) for s in soils)
    holes = (
        Borehole(name="BH1", x=-500.0, y=0.0, ground_level=0.0, strata=first, rigid_below=True),
        Borehole(name="BH2", x=5000.0, y=40.0, ground_level=0.0, strata=second, rigid_below=True),
    )
    return Ground(
        soils=tuple(soils),
        boreholes=holes,
        surfaces=Surfaces(finished=0.0),
        interpolation=rng.choice(("nearest", "distance_weighted")),  # type: ignore[arg-type]
        water=rng.choice((None, Water(low=-4.0, normal=-2.0, high=-0.6))),
    )


def random_bars(rng: random.Random) -> Bars:
    """By spacing or by number."""
    if rng.random() < 0.3:
        return Bars(diameter=rng.choice((0.012, 0.016, 0.02)), number=rng.randint(8, 16))
    return Bars(diameter=rng.choice((0.012, 0.016, 0.02)), spacing=rng.choice((0.1, 0.125, 0.15, 0.2)))


def random_pedestal(rng: random.Random, column: float, top_of_base: float) -> Pedestal:
    """With corners or round, with ties or a spiral, around a column of that size."""
    top, bars = top_of_base + rng.uniform(0.3, 0.6), rng.choice((4, 6, 7, 8, 12))
    if rng.random() < 0.4:
        around = rng.choice(("ties", "spiral"))
        size = 1.5 * column
        return Pedestal(
            shape="circle",
            size_x=size,
            size_y=size,
            top=top,
            bars=bars,
            diameter=0.02,
            around=around,
            tie_spacing=0.07,  # type: ignore[arg-type]
        )
    return Pedestal(size_x=column + 0.1, size_y=column + 0.2, top=top, bars=bars, diameter=0.02)


def random_base(rng: random.Random, i: int, shape: str, columns: int) -> tuple[list[LoadPoint], Pad]:
    """A base with one or two columns."""
    width = rng.uniform(1.6, 3.2)
    length = width if shape != "rectangle" else rng.uniform(1.6, 3.6)
    thickness, level = rng.uniform(0.4, 0.8), -rng.uniform(1.1, 2.2)
    kind = rng.choice(
        (
            "concrete_column",
            "concrete_column",
            "round_concrete_column",
            "steel_column",
            "concrete_wall",
            "masonry_wall",
        )
    )
    if columns > 1:
        kind, width = "concrete_column", rng.uniform(2.6, 4.0)
    size = rng.choice((0.3, 0.4, 0.5))
    sizes = (size, size) if kind == "round_concrete_column" else (size, rng.choice((0.3, 0.5)))
    if "wall" in kind:
        sizes = (0.24, length)
    pedestal = None
    if rng.random() < 0.35 and "wall" not in kind:
        pedestal = random_pedestal(rng, max(sizes), level + thickness)
    points = []
    off = rng.choice((0.0, 0.0, rng.uniform(-0.3, 0.3), width / 2 - 0.3)) if shape == "rectangle" else 0.0
    for k in range(columns):
        loads = {
            "G": Load(
                V=rng.uniform(250, 800),
                Mx=rng.uniform(-40, 40),
                My=rng.uniform(-40, 40),
                Hx=rng.uniform(-15, 15),
            ),
            "Q": Load(V=rng.uniform(50, 400)),
            "W": Load(
                V=rng.choice((0.0, rng.uniform(-700, 0))),
                Hx=rng.uniform(-60, 60),
                My=rng.uniform(-90, 90),
                Hy=rng.uniform(-20, 20),
            ),
        }
        points.append(
            LoadPoint(
                name=f"C{i}{'ab'[k]}",
                kind=kind,
                x=FAR * i + 1.2 * k,
                y=0.0,
                size_x=sizes[0],
                size_y=sizes[1],
                level=0.0,  # type: ignore[arg-type]
                rotation=rng.choice((0.0, 0.0, 90.0, 15.0)) if kind == "concrete_column" and columns == 1 else 0.0,
                plate_x=0.5 if kind == "steel_column" else None,
                plate_y=0.6 if kind == "steel_column" else None,
                loads=loads,
            )
        )
    if columns > 1 and rng.random() < 0.4:
        pedestals = {points[1].name: random_pedestal(rng, max(sizes), level + thickness)}
    else:
        pedestals = {}
    faces = {f"bottom_{a}": random_bars(rng) for a in "xy"}
    if rng.random() < 0.6:
        faces |= {f"top_{a}": random_bars(rng) for a in "xy"}
    openings = (Opening(x=0.6, y=0.5, diameter=0.15),) if rng.random() < 0.25 and shape == "rectangle" else ()
    pad = Pad(
        name=f"P{i}",
        load_point=points[0].name,
        further=tuple(p.name for p in points[1:]),
        shape=shape,
        hole=width / 3 if shape == "ring" else 0.0,  # type: ignore[arg-type]
        width=width,
        length=length,
        thickness=thickness,
        level=level,
        rotation=rng.choice((0.0, 0.0, 30.0)) if columns == 1 else 0.0,
        offset_x=-0.6 if columns > 1 else off,
        offset_y=0.0,
        pedestal=pedestal,
        pedestals=pedestals,
        reinforcement=Reinforcement(**faces),
        dowels=Dowels(number=8, diameter=0.016) if rng.random() < 0.3 else None,
        openings=openings,
    )
    return points, pad


def random_plan(seed: int, bases: int = 7) -> Project:
    """Some bases of one batch and some of others."""
    rng = random.Random(seed)
    points: list[LoadPoint] = []
    pads: list[Pad] = []
    for i in range(bases):
        shape = rng.choice(("rectangle", "rectangle", "rectangle", "circle", "ring"))
        columns = 2 if shape == "rectangle" and rng.random() < 0.3 else 1
        found, pad = random_base(rng, i, shape, columns)
        points += found
        pads.append(pad)
    combinations = (
        Combination(
            number=1,
            factors={"G": 1.0, "Q": 1.0, "W": rng.choice((0.0, 0.6))},
            serves=("allowable", "settlement_long", "cracks"),
        ),
        Combination(
            number=2,
            factors={"G": 1.35, "Q": 1.5},
            serves=("ultimate", "concrete"),
            factor_set="M1",
            weight_unfavourable=1.35,
        ),
        Combination(number=3, factors={"G": 1.0, "W": 1.5}, serves=("ultimate", "concrete"), factor_set="M2"),
        Combination(number=4, factors={"G": 1.0, "W": 0.6}, serves=("allowable",)),
        Combination(number=5, factors={"G": 1.0, "Q": 0.3, "W": 1.0}, serves=("concrete",), situation="accidental"),
    )
    if rng.random() < 0.5:
        combinations = (
            *combinations,
            Combination(number=6, factors={"G": 0.9, "W": 1.5}, serves=("EQU", "UPL"), weight_favourable=0.9),
        )
    return Project(
        settings=Settings(**random_settings(rng)),
        standards=Standards(concrete=rng.choice(NAMES)),
        ground=random_ground(rng),
        actions=Actions(
            cases=(LoadCase(name="G"), LoadCase(name="Q", nature="imposed"), LoadCase(name="W", nature="wind")),
            combinations=combinations,
            load_points=tuple(points),
        ),
        pads=tuple(pads),
    )
