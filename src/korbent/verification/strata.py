"""Reference cases of rafts on the strata themselves: the rigid punch on the half-space, the flexible one, area loads,
strata cut in two."""

from functools import lru_cache

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.geometry import table
from korbent.core.model import Load, Project, Stratum
from korbent.core.model.actions import AreaLoad, SettlementMark
from korbent.core.model.plate import Plate, RaftLoad
from korbent.core.plates.mesh import GridMesh
from korbent.core.plates.solve import SHAPES, PlateOnSprings
from korbent.core.rafts.layered import Strata, cells_of, layered, strata_of
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.history import mark_history
from korbent.core.settlement.marks import mark_checks
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

SIDE, MODULUS, POISSON = 4.0, 20_000.0, 0.3
PRESSURE = 100.0
CAPACITANCE = 0.3667892
"""Of a square of side 1 over that of 4 pi eps0: the charge of a conductor lies as the pressure of a rigid punch
does."""


def deep(side_x: float = SIDE, side_y: float = SIDE, depth: float = 1000.0, **plate: object) -> Project:
    """A raft at the surface of a deep elastic stratum, without weight, under 100 kPa all over; the whole depth
    counts."""
    project = one_pad(load=Load(V=1e-3), width=side_x, length=side_y, thickness=2.0, level=0.0, held="underside")
    soil = project.ground.soils[0].replaced(modulus=MODULUS, poisson=POISSON, compression="elastic")
    hole = project.ground.boreholes[0].replaced(strata=(Stratum(soil="ground", thickness=depth),))
    region = {"x_from": -side_x / 2, "x_to": side_x / 2, "y_from": -side_y / 2, "y_to": side_y / 2}
    values = {
        "ground": "layers",
        "subgrade": 1e4,
        "loads": (RaftLoad(case="G", pressure=PRESSURE, **region),),
        "mesh": side_x / 16,
        **plate,
    }
    pad = project.pads[0].replaced(kind="raft", plate=Plate(**values), pedestal=None)
    settings = project.settings.replaced(settlement_influence=0.0, concrete_weight=1e-3, settlement_embedment="none")
    ground = project.ground.replaced(
        soils=(soil,),
        boreholes=(hole,),
        water=project.ground.water.replaced(low=-990.0, normal=-990.0, high=-989.0),  # type: ignore[union-attr]
    )
    return project.replaced(pads=(pad,), settings=settings, ground=ground)


def bench_of(project: Project) -> Bench:
    """Of the raft."""
    pad = project.pads[0]
    return bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))


def raft_of(project: Project) -> SolvedRaft:
    """Under the lasting load."""
    found = solved_raft(bench_of(project), project, "settlement_long")
    assert isinstance(found, SolvedRaft), found
    return found


@lru_cache(maxsize=16)
def settled(modulus: float, side_x: float = SIDE, side_y: float = SIDE) -> tuple[float, float, float]:
    """(settlement in the middle, mean, pressure in the middle over the mean) of a plate of that modulus, m."""
    found = raft_of(deep(side_x, side_y, modulus=modulus))
    x, y = found.mesh.nodes
    middle = int(np.argmin(x**2 + y**2))
    w, p = found.solution.settlement[:, 0], found.pressure[:, 0]
    weights = found.plate.points
    mean = float((found.solution.pressure[:, :, 0] / found.plate.k[:, None] * weights).sum() / weights.sum())
    return float(w[middle]), mean, float(p[middle] / PRESSURE)


RIGID, SOFT = 1e8, 10.0


@lru_cache(maxsize=4)
def _free(along: int | None = None) -> tuple[np.ndarray, np.ndarray, Strata]:
    """(x, y, strata) of the cells below the square."""
    project = deep()
    bench = bench_of(project)
    cells = cells_of(raft_of(project).mesh, along)
    return cells.x, cells.y, strata_of(project, bench, cells, np.array([-990.0]), np.zeros(len(cells.x)))


def flexible(where: str) -> float:
    """Mean settlement under an even pressure of the cell in the middle, or the mean of all, mm."""
    x, y, strata = _free()
    s = strata.settlement(np.full(len(x), PRESSURE))
    if where == "middle":
        return float(1000 * s[np.argmin(x**2 + y**2)])
    cells = cells_of(raft_of(deep()).mesh)
    return float(1000 * (s * cells.area).sum() / cells.area.sum())


def marked(x: float, y: float) -> float:
    """The settlement stop: a mark below an area load of the same size, mm."""
    project = deep()
    area = AreaLoad(name="A", size_x=SIDE, size_y=SIDE, level=0.0, pressure=PRESSURE, x=50.0, y=0.0)
    mark = SettlementMark(name="M", x=50.0 + x, y=y, level=0.0)
    project = project.replaced(
        actions=project.actions.replaced(area_loads=(area,), marks=(mark,)),
        settings=project.settings.replaced(elastic_beside="three_stresses", neighbour_reach=1e4),
        pads=(),
    )
    assert mark_checks(project)[0].demand is not None
    return 1000 * float(mark_history(project, mark).final)


def cell_at(x: float, y: float) -> float:
    """Settlement of the cell at a place, as the mean of marks at its Gauss points, over the cell's own, minus 1."""
    at_x, at_y, strata = _free()
    cells = cells_of(raft_of(deep()).mesh)
    s = 1000 * strata.settlement(np.full(len(at_x), PRESSURE))
    i = int(np.argmin((at_x - x) ** 2 + (at_y - y) ** 2))
    d = 1 / np.sqrt(12)
    own = [
        marked(float(at_x[i] + u * d * cells.size_x[i]), float(at_y[i] + v * d * cells.size_y[i]))
        for u in (-1, 1)
        for v in (-1, 1)
    ]
    return float(np.mean(own) / s[i])


def stiff_plate_alike(k: float) -> float:
    """A plate on springs that are all alike: what the strata give back for a ground that is springs, over k."""
    plate = raft_of(deep(ground="springs", subgrade=k)).plate
    cells = cells_of(plate.mesh)
    _, _, strata = _free()
    n = len(cells.x)
    alone, none = np.eye(n)[:, None], np.zeros((n, 1, n))
    springs = Strata(
        strata.column,
        alone,
        none,
        np.zeros((n, 1)),
        np.zeros((n, 1)),
        np.zeros(n),
        lambda stress, *_: stress[:, 0] / k,
    )
    loads = plate.load(np.full((len(plate.mesh.elements), 4, 1), PRESSURE))
    found = layered(plate.on(np.full(len(plate.k), 3 * k)), loads, cells, springs, True)
    return float(found.k.mean() / k)


WIDE, K = 4.0, 10_000.0


def strip(mean: float, slope: float, most: float) -> tuple[float, float]:
    """(greatest settlement, share of the area that yields) of a stiff strip of 4 m on springs of 10 MN/m3 that press
    only, with a greatest pressure, under a pressure mean + slope x; m."""
    n = 80
    mesh = GridMesh(np.linspace(-WIDE / 2, WIDE / 2, n + 1), np.array([-0.5, 0.5]), np.ones((n, 1), dtype=bool))
    plate = PlateOnSprings(mesh, np.full(n, 2.0), 1e10, 0.2, np.full(n, K))
    x, _ = mesh.nodes
    found = plate.solve(plate.load((mean + slope * (x[mesh.elements] @ SHAPES.T))[:, :, None]), most=most)
    return float(found.settlement.max()), float(found.yielded[0])


def strip_by_hand(mean: float, slope: float, most: float) -> tuple[float, float]:
    """The same from equilibrium: in contact all over, it yields over a width y; force and moment of the triangle that
    lacks above the line give y and the slope of the settlement."""
    N, M = mean * WIDE, slope * WIDE**3 / 12

    def of(y: float) -> tuple[float, float]:
        # pressure p0 + c x up to the most at WIDE/2 - y, the most beyond: c from the force
        z = WIDE - y
        c = 2 * (most * WIDE - N) / z**2
        # what lacks below the most: a triangle over z, its middle z/3 from the far end
        moment = (c * z**2 / 2) * (WIDE / 2 - z / 3)
        return c, moment

    low, high = 0.0, WIDE * 0.999
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if of(middle)[1] < M else (low, middle)
    c, _ = of(low)
    return (most + c * low) / K, low / WIDE


_W = PRESSURE * SIDE * (1 - POISSON**2) / MODULUS
STRATA = (
    Case(
        "raft on the half-space, rigid square: settlement",
        "closed form",
        "capacitance of a square 0.3667892 (Hwang and Mascagni 2004): w = P (1 - nu²)/(pi C E)",
        1000 * _W / (np.pi * CAPACITANCE),
        lambda: 1000 * settled(RIGID)[1],
        1.5e-2,
        "mm",
    ),
    Case(
        "raft on the half-space, rigid square: middle over mean settlement",
        "closed form",
        "a rigid plate stays plane",
        1.0,
        lambda: settled(RIGID)[0] / settled(RIGID)[1],
        5e-3,
        "",
    ),
    Case(
        "half-space, flexible square: settlement of the middle",
        "closed form",
        "Boussinesq 1885: (4/pi) ln(1 + √2) q B (1 - nu²)/E",
        1000 * 4 / np.pi * np.log(1 + 2**0.5) * _W,
        lambda: flexible("middle"),
        1.5e-2,
        "mm",
    ),
    Case(
        "half-space, flexible square: mean settlement",
        "closed form",
        "its integral: (4/pi)(ln(1 + √2) + (1 - √2)/3) q B (1 - nu²)/E",
        1000 * 4 / np.pi * (np.log(1 + 2**0.5) + (1 - 2**0.5) / 3) * _W,
        lambda: flexible("mean"),
        1e-2,
        "mm",
    ),
    Case(
        "half-space, flexible square: cell in the middle",
        "second method",
        "marks below an area load at the Gauss points of the cell",
        1.0,
        lambda: cell_at(0.0, 0.0),
        5e-3,
        "",
    ),
    Case(
        "half-space, flexible square: cell in the corner",
        "second method",
        "marks below an area load at the Gauss points of the cell",
        1.0,
        lambda: cell_at(SIDE / 2, SIDE / 2),
        5e-3,
        "",
    ),
    Case(
        "raft on the half-space, very thin: pressure in the middle",
        "closed form",
        "what presses on a plate without stiffness presses on the ground",
        1.0,
        lambda: settled(SOFT)[2],
        1e-2,
        "",
    ),
    Case(
        "raft on strata that are springs: stiffness found",
        "closed form",
        "the springs themselves",
        1.0,
        lambda: stiff_plate_alike(15_000.0),
        5e-3,
        "",
    ),
    *(
        Case(
            f"stiff strip under {mean:g} kPa and {slope:g} kPa/m, at most {most:g} kPa: {what}",
            "closed form",
            "force and moment of what lacks below the greatest pressure",
            lambda case=(mean, slope, most), i=i: (1000 if i == 0 else 1) * strip_by_hand(*case)[i],
            lambda case=(mean, slope, most), i=i: (1000 if i == 0 else 1) * strip(*case)[i],
            tolerance,
            unit,
        )
        for mean, slope, most in ((100.0, 30.0, 140.0), (120.0, 24.0, 150.0))
        for i, (what, tolerance, unit) in enumerate(
            (("settlement of the lower edge", 3e-3, "mm"), ("share that yields", 3e-2, ""))
        )
    ),
)
