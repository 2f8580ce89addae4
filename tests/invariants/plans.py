"""Random small projects for properties of settlement: layered ground, several pads, a fill, construction steps."""

import datetime
import random
from typing import Any

from korbent.core.model import (
    Actions,
    AreaLoad,
    Borehole,
    Combination,
    ConstructionStep,
    Ground,
    Load,
    LoadCase,
    LoadPoint,
    Pad,
    Project,
    Settings,
    Soil,
    Stratum,
    Surfaces,
    Water,
)

DAY = datetime.date(2027, 1, 4)


def random_soil(rng: random.Random, name: str) -> Soil:
    """A soil with one of the laws and what it needs."""
    law = rng.choice(("elastic", "oedometer", "oedometer", "mv", "strain_influence"))
    values: dict[str, Any] = {"modulus": rng.uniform(6e3, 60e3), "poisson": rng.uniform(0.15, 0.35)}
    if law == "oedometer":
        Cc = rng.uniform(0.12, 0.4)
        values |= {
            "compression_index": Cc,
            "recompression_index": Cc / rng.uniform(5, 9),
            "void_ratio": rng.uniform(0.6, 1.2),
        }
        values |= rng.choice(
            (
                {"overconsolidation_ratio": rng.uniform(1.0, 2.5)},
                {"preconsolidation_margin": rng.uniform(0, 60)},
                {"preconsolidation": rng.uniform(60, 200)},
            )
        )
    if law == "mv":
        values |= {"compressibility": rng.uniform(0.05, 0.5)}
    if law in ("oedometer", "mv"):
        values |= {"consolidation_coefficient": rng.choice((None, rng.uniform(0.002, 0.03)))}
        values |= {"undrained_modulus": rng.choice((None, rng.uniform(8e3, 30e3)))}
    if law != "strain_influence" and rng.random() < 0.5:
        values |= {"creep_index": rng.uniform(0.001, 0.008), "creep_reload": rng.uniform(0.05, 0.3)}
    weight = rng.uniform(16.5, 20.0)
    return Soil(
        name=name,
        drainage="both",
        weight=weight,
        weight_saturated=weight + 1.2,
        cohesion=4.0,
        friction_angle=28.0,
        undrained_strength=60.0,
        compression=law,
        **values,
    )


def random_project(seed: int, unload: bool = False, one_day: bool = False) -> Project:
    """Three to five pads on three strata beside a fill, in up to three steps."""
    rng = random.Random(seed)
    soils = tuple(random_soil(rng, f"soil {i}") for i in range(3))
    strata = tuple(Stratum(soil=s.name, thickness=rng.uniform(2.0, 5.0)) for s in soils)
    hole = Borehole(name="BH1", x=0.0, y=0.0, ground_level=0.0, strata=strata, rigid_below=rng.random() < 0.5)
    other = hole.replaced(name="BH2", x=400.0, y=300.0)
    points, pads = [], []
    for i in range(rng.randint(3, 5)):
        x, y = 5.5 * (i % 3) + rng.uniform(-0.6, 0.6), 6.0 * (i // 3) + rng.uniform(-0.6, 0.6)
        loads = {
            "G": Load(V=rng.uniform(200, 900), Mx=rng.uniform(-40, 40), My=rng.uniform(-40, 40)),
            "Q": Load(V=rng.uniform(20, 200)),
        }
        points.append(LoadPoint(name=f"C{i}", x=x, y=y, size_x=0.4, size_y=0.4, level=0.0, loads=loads))
        pads.append(
            Pad(
                name=f"P{i}",
                load_point=f"C{i}",
                width=rng.uniform(1.4, 2.6),
                length=rng.uniform(1.4, 3.0),
                thickness=0.5,
                level=rng.uniform(-2.0, -1.0),
                rotation=rng.uniform(0, 60),
            )
        )
    fill = AreaLoad(
        name="Fill",
        shape=rng.choice(("rectangle", "embankment", "circle")),
        x=rng.uniform(14, 20),
        y=3.0,
        size_x=9.0,
        size_y=7.0,
        height=1.6,
        pressure=rng.uniform(15, 45),
        rotation=20.0,
    )
    rows: list[tuple[int, dict[str, float]]] = rng.choice(
        (
            [],
            [(0, {"Fill": 1.0}), (120, {"Fill": 1.0, "G": 0.6}), (400, {"Fill": 1.0, "G": 1.0, "Q": 0.3})],
            [(0, {"G": 1.0, "Q": 0.3, "Fill": 1.0})],
        )
    )
    if unload:
        rows = [(0, {"Fill": 1.5}), (150, {}), (200, {"G": 1.0, "Q": 0.3}), (2000, {"G": 0.7, "Q": 0.3})]
    steps = tuple(
        ConstructionStep(
            name=f"S{i}",
            date=DAY + datetime.timedelta(days=day),
            ramp=0.0 if one_day else rng.choice((0.0, 30.0)),
            factors=f,
        )
        for i, (day, f) in enumerate(rows)
    )
    combinations = (Combination(number=1, factors={"G": 1.0, "Q": 0.3}, serves=("settlement_long",)),)
    return Project(
        settings=Settings(settlement_influence=rng.choice((0.0, 0.1, 0.2)), settlement_years=rng.uniform(10, 60)),
        ground=Ground(
            soils=soils,
            boreholes=(hole, other),
            surfaces=Surfaces(finished=0.0),
            water=Water(low=-4.0, normal=-1.5, high=-0.5),
        ),
        actions=Actions(
            cases=(LoadCase(name="G"), LoadCase(name="Q", nature="imposed")),
            combinations=combinations,
            load_points=tuple(points),
            area_loads=(fill,),
            steps=steps,
        ),
        pads=tuple(pads),
    )


def moved(project: Project, levels: float) -> Project:
    """Every level higher by so much."""
    g, a = project.ground, project.actions
    ground = g.replaced(
        boreholes=tuple(h.replaced(ground_level=h.ground_level + levels) for h in g.boreholes),
        surfaces=g.surfaces.replaced(finished=g.surfaces.finished + levels),
        water=None
        if g.water is None
        else Water(low=g.water.low + levels, normal=g.water.normal + levels, high=g.water.high + levels),
    )
    actions = a.replaced(
        load_points=tuple(p.replaced(level=p.level + levels) for p in a.load_points),
        area_loads=tuple(x.replaced(level=x.level + levels) for x in a.area_loads),
    )
    pads = tuple(
        p.replaced(
            level=p.level + levels,
            pedestal=p.pedestal and p.pedestal.replaced(top=p.pedestal.top + levels),
            pedestals={n: one.replaced(top=one.top + levels) for n, one in p.pedestals.items()},
        )
        for p in project.pads
    )
    return project.replaced(ground=ground, actions=actions, pads=pads)


def mirrored(project: Project) -> Project:
    """The plan seen in a mirror: x becomes -x."""
    a = project.actions
    points = tuple(
        p.replaced(
            x=-p.x,
            rotation=-p.rotation,
            loads={n: f.replaced(Hx=-f.Hx, My=-f.My) for n, f in p.loads.items()},
        )
        for p in a.load_points
    )
    areas = tuple(x.replaced(x=-x.x, rotation=-x.rotation) for x in a.area_loads)
    holes = tuple(h.replaced(x=-h.x) for h in project.ground.boreholes)
    return project.replaced(
        ground=project.ground.replaced(boreholes=holes),
        actions=a.replaced(load_points=points, area_loads=areas),
        pads=tuple(p.replaced(rotation=-p.rotation, offset_x=-p.offset_x) for p in project.pads),
    )


def turned(project: Project) -> Project:
    """The plan turned by 90 degrees: (x, y) becomes (-y, x)."""
    a = project.actions

    def load(f: Load) -> Load:
        return f.replaced(Hx=-f.Hy, Hy=f.Hx, Mx=-f.My, My=f.Mx)

    points = tuple(
        p.replaced(x=-p.y, y=p.x, rotation=p.rotation + 90, loads={n: load(f) for n, f in p.loads.items()})
        for p in a.load_points
    )
    areas = tuple(x.replaced(x=-x.y, y=x.x, rotation=x.rotation + 90) for x in a.area_loads)
    holes = tuple(h.replaced(x=-h.y, y=h.x) for h in project.ground.boreholes)
    return project.replaced(
        ground=project.ground.replaced(boreholes=holes),
        actions=a.replaced(load_points=points, area_loads=areas),
        pads=tuple(p.replaced(rotation=p.rotation + 90) for p in project.pads),
    )
