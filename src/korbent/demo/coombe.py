"""The Coombe Hollow workshop: an invented workshop on stepped terraces, its pads at unlike levels beside a slope."""

from functools import cache

from korbent.core.actions.rules import combinations_for
from korbent.core.model import (
    Actions,
    Backfill,
    Bars,
    Borehole,
    Ground,
    GroundTest,
    Load,
    LoadCase,
    LoadPoint,
    Pad,
    PadType,
    Project,
    Reinforcement,
    Settings,
    Soil,
    Stratum,
    Surfaces,
    Title,
    Water,
)
from korbent.core.model.site import Outline
from korbent.core.model.standards import Standards

RULES = "AS/NZS 1170.0"

SOILS = (
    Soil(
        name="Terrace fill",
        pattern="made_ground",
        description="reworked clay and stone",
        drainage="drained",
        weight=17.6,
        weight_saturated=18.8,
        cohesion=0.0,
        friction_angle=27.0,
        modulus=8_000.0,
        poisson=0.3,
    ),
    Soil(
        name="Residual clay",
        pattern="clay",
        description="stiff, fissured",
        drainage="both",
        weight=18.9,
        weight_saturated=19.3,
        cohesion=8.0,
        friction_angle=26.0,
        undrained_strength=92.0,
        compression="mv",
        compressibility=0.11,
        undrained_modulus=24_000.0,
        consolidation_coefficient=0.012,
    ),
    Soil(
        name="Weathered siltstone",
        pattern="rock",
        description="very low strength",
        drainage="drained",
        weight=21.2,
        weight_saturated=21.8,
        cohesion=25.0,
        friction_angle=33.0,
        modulus=120_000.0,
        poisson=0.25,
    ),
)

HOLES = (
    ("TP1", 1.5, 0.6, 52.4, (0.7, 2.6, 9.0), ((1.2, 88.0), (2.4, 104.0))),
    ("TP2", 12.6, 1.1, 51.2, (0.5, 2.1, 9.0), ((1.0, 84.0), (2.0, 97.0))),
    ("TP3", 7.2, 8.3, 50.1, (0.4, 1.6, 9.0), ((0.9, 90.0),)),
)

# column: x, y, level of its foot, permanent and imposed (kN), share of the canopy's moment
COLUMNS = {
    "A1": (0.0, 0.0, 52.5, 183, 71, 0.0),
    "B1": (6.6, 0.0, 51.9, 264, 118, 0.0),
    "C1": (13.2, 0.0, 51.3, 171, 64, 0.0),
    "A2": (0.0, 7.9, 51.4, 197, 83, 1.0),
    "B2": (6.6, 7.9, 50.8, 281, 131, 1.6),
    "C2": (13.2, 7.9, 50.2, 188, 79, 1.0),
}

# pad: column, type, width, length, thickness, founding level, bars (mm)
PADS = (
    ("F1", "A1", "upper", 1.4, 1.4, 0.40, 50.90, (12, 150)),
    ("F2", "B1", "upper", 1.65, 1.65, 0.45, 50.50, (12, 150)),
    ("F3", "C1", "upper", 1.4, 1.4, 0.40, 50.00, (12, 150)),
    ("F4", "A2", "canopy", 1.4, 2.0, 0.45, 50.10, (16, 200)),
    ("F5", "B2", "canopy", 1.75, 2.4, 0.45, 49.50, (16, 175)),
    ("F6", "C2", "canopy", 1.3, 1.8, 0.45, 48.90, (16, 200)),
)


def _column(name: str) -> LoadPoint:
    x, y, level, G, Q, canopy = COLUMNS[name]
    # the canopy reaches 3.4 m out towards +y: its weight and the wind on it turn the column
    loads = {
        "G": Load(V=float(G), Mx=-31.0 * canopy),
        "Q": Load(V=float(Q), Mx=-9.0 * canopy),
        "W+y": Load(V=-14.0 * canopy, Hy=6.5, Mx=-17.0 * canopy - 4.0),
        "W-y": Load(V=9.0 * canopy, Hy=-7.5, Mx=12.0 * canopy + 5.0),
    }
    return LoadPoint(
        name=name, kind="round_concrete_column", x=x, y=y, size_x=0.35, size_y=0.35, level=level, loads=loads
    )


def _pad(row: tuple[str, str, str, float, float, float, float, tuple[int, int]]) -> Pad:
    name, column, kind, width, length, thickness, level, (diameter, spacing) = row
    bars = Bars(diameter=diameter / 1000, spacing=spacing / 1000)
    # the canopy pulls towards +y: the bases under it reach further that way
    offset = -0.25 if kind == "canopy" else 0.0
    return Pad(
        name=name,
        load_point=column,
        type=kind,
        width=width,
        length=length,
        thickness=thickness,
        level=level,
        offset_y=offset,
        reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars),
        # each stands on its own terrace; beside the lower row the ground falls away
        overrides={"finished_level": round(COLUMNS[column][2] - 0.1, 2)}
        | ({"ground_slope": 14.0} if name in ("F4", "F5", "F6") else {}),
    )


@cache
def coombe() -> Project:
    """Six pads; the canopy turns three of them, an easement keeps one short, the ground falls away beside the lower
    row."""
    cases = (
        LoadCase(name="G", nature="permanent", description="permanent"),
        LoadCase(name="Q", nature="imposed", category="storage", description="workshop floor and roof"),
        LoadCase(name="W+y", nature="wind", description="wind up the slope, under the canopy"),
        LoadCase(name="W-y", nature="wind", description="wind down the slope"),
    )
    holes = tuple(
        Borehole(
            name=name,
            x=x,
            y=y,
            ground_level=level,
            strata=tuple(Stratum(soil=s.name, thickness=t) for s, t in zip(SOILS, thick)),
            rigid_below=True,
            tests=tuple(GroundTest(kind="cu", depth=d, value=v) for d, v in tests),
        )
        for name, x, y, level, thick, tests in HOLES
    )
    return Project(
        title=Title(
            project="Coombe Hollow workshop",
            number="CH-31",
            client="Marrin Joinery",
            author="E. Tallis",
            checker="P. Brandt",
            date="2026-11-23",
            revision="B",
        ),
        standards=Standards(concrete="AS 3600:2018"),
        settings=Settings(
            presumed_pressure=200.0,
            factor_bearing=3.0,
            frost_depth=0.3,
            founding_unit="Residual clay",
            founding_embedment=0.2,
            concrete_strength=32.0,
            concrete_cover=0.06,
            settlement_limit=0.02,
            clearance=0.3,
            step_slope=1.0,
        ),
        ground=Ground(
            soils=SOILS,
            boreholes=holes,
            surfaces=Surfaces(finished=51.6),
            backfill=Backfill(name="Select fill", weight=18.5, weight_saturated=20.0),
            water=Water(low=45.0, normal=46.5, high=48.4),
            interpolation="distance_weighted",
        ),
        actions=Actions(
            cases=cases,
            combinations=tuple(combinations_for(RULES, cases)),
            load_points=tuple(_column(n) for n in COLUMNS),
            rules=RULES,
        ),
        site=(
            Outline(
                name="Drainage easement",
                kind="obstacle",
                points=((14.4, -3.0), (16.4, -3.0), (16.4, 12.0), (14.4, 12.0)),
            ),
        ),
        types=(PadType(name="upper"), PadType(name="canopy")),
        pads=tuple(_pad(row) for row in PADS),
    )
