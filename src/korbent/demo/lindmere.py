"""The Lindmere ferry terminal: an invented two-storey ticket hall on an estuary, its pads designed in part."""

from datetime import date
from functools import cache

from korbent.core.model import (
    Actions,
    AreaLoad,
    Backfill,
    Bars,
    Borehole,
    Combination,
    ConstructionStep,
    Ground,
    GroundTest,
    Load,
    LoadCase,
    LoadPoint,
    Oedometer,
    Pad,
    PadType,
    Pedestal,
    Project,
    Readings,
    Reinforcement,
    Settings,
    Soil,
    Stratum,
    Surfaces,
    Title,
    Water,
)
from korbent.core.model.foundations import Strap
from korbent.core.model.plate import AddedBars, Plate, Region, Thickening
from korbent.core.model.site import Outline

GRID_X = {"A": 0.0, "B": 8.1, "C": 16.2, "D": 24.3, "E": 32.4}
GRID_Y = {"1": 19.2, "2": 12.8, "3": 6.4, "4": 0.0}

# column: permanent, imposed (kN), share of the wind it takes
COLUMNS = {
    "A1": (318, 141, 0.8),
    "B1": (562, 287, 1.0),
    "C1": (603, 322, 1.0),
    "D1": (447, 214, 0.9),
    "E1": (296, 127, 0.8),
    "A2": (521, 258, 1.0),
    "B2": (884, 391, 1.2),
    "C2": (912, 417, 1.2),
    "D2": (871, 462, 1.1),
    "E2": (402, 171, 0.9),
    "A3": (497, 243, 1.0),
    "B3": (861, 372, 1.2),
    "C3": (897, 408, 1.2),
    "D3": (589, 296, 1.0),
    "E3": (377, 158, 0.9),
    "A4": (273, 108, 0.8),
    "B4": (436, 197, 0.9),
    "C4": (311, 133, 0.9),
}


def _soils() -> tuple[Soil, ...]:
    return (
        Soil(
            name="Made ground",
            pattern="made_ground",
            description="sandy, with brick and ash",
            drainage="drained",
            weight=17.4,
            weight_saturated=18.9,
            cohesion=0.0,
            friction_angle=28.0,
            modulus=7_500.0,
            poisson=0.3,
        ),
        Soil(
            name="Silty sand",
            pattern="sand",
            description="loose to medium dense",
            drainage="drained",
            weight=18.1,
            weight_saturated=19.7,
            cohesion=0.0,
            friction_angle=32.5,
            modulus=21_000.0,
            poisson=0.3,
        ),
        Soil(
            name="Silty clay",
            pattern="clay",
            description="firm, slightly overconsolidated",
            drainage="both",
            weight=18.4,
            weight_saturated=18.7,
            cohesion=5.0,
            friction_angle=25.5,
            undrained_strength=58.0,
            undrained_strength_gradient=1.6,
            compression="oedometer",
            compression_index=0.23,
            recompression_index=0.036,
            void_ratio=0.91,
            overconsolidation_ratio=1.85,
            consolidation_coefficient=0.0054757015742642025,
            creep_index=0.0018,
            creep_reload=0.2,
        ),
        Soil(
            name="Silt parting",
            pattern="silt",
            description="draining",
            drainage="drained",
            weight=18.2,
            weight_saturated=19.0,
            cohesion=0.0,
            friction_angle=29.0,
            modulus=16_000.0,
            poisson=0.3,
        ),
        Soil(
            name="Sandy gravel",
            pattern="gravel",
            description="dense",
            drainage="drained",
            weight=19.6,
            weight_saturated=21.1,
            cohesion=0.0,
            friction_angle=38.0,
            modulus=85_000.0,
            poisson=0.25,
        ),
    )


# borehole: SPT as (depth, N); index tests of the clay as (depth, PI, wL, w, e0)
SPT = {
    "BH1": ((1.5, 9), (2.5, 13), (3.0, 15), (4.0, 7), (5.8, 8), (7.5, 41), (9.0, 46), (11.0, 52)),
    "BH2": ((1.3, 10), (2.2, 14), (3.0, 17), (4.2, 6), (5.6, 9), (7.2, 38), (9.5, 49)),
    "BH3": ((1.6, 8), (2.4, 12), (3.0, 14), (4.4, 7), (6.2, 8), (7.6, 40), (9.8, 47)),
}
INDEX = {
    "BH1": ((4.1, 21, 42, 33, 0.92), (5.9, 19, 39, 31, 0.87)),
    "BH3": ((4.5, 23, 44, 34, 0.94), (6.3, 20, 40, 32, 0.89)),
}


# oedometer tests of the clay: borehole, sample, depth, e0, (stress kPa, void ratio) at the end of each step
OEDOMETERS = (
    (
        "BH1",
        "U1",
        4.1,
        0.924,
        (
            (12.5, 0.921),
            (25, 0.910),
            (50, 0.900),
            (100, 0.881),
            (200, 0.820),
            (100, 0.829),
            (50, 0.841),
            (200, 0.816),
            (400, 0.742),
            (800, 0.669),
            (1600, 0.595),
        ),
    ),
    (
        "BH1",
        "U2",
        5.9,
        0.872,
        (
            (12.5, 0.869),
            (25, 0.859),
            (50, 0.849),
            (100, 0.836),
            (200, 0.791),
            (100, 0.800),
            (50, 0.812),
            (200, 0.787),
            (400, 0.719),
            (800, 0.652),
            (1600, 0.585),
        ),
    ),
    (
        "BH3",
        "U1",
        4.5,
        0.941,
        (
            (12.5, 0.937),
            (25, 0.926),
            (50, 0.915),
            (100, 0.897),
            (200, 0.834),
            (100, 0.844),
            (50, 0.857),
            (200, 0.830),
            (400, 0.752),
            (800, 0.674),
            (1600, 0.594),
        ),
    ),
)
TIMES = (0.1, 0.25, 0.5, 1, 2, 4, 8, 15, 30, 60, 120, 240, 480, 1440)
# readings: borehole, sample, step, height at its start (mm), settlements (mm) at TIMES (min)
READINGS = (
    (
        "BH1",
        "U1",
        200,
        19.2,
        (0.060, 0.077, 0.096, 0.124, 0.163, 0.218, 0.294, 0.372, 0.434, 0.453, 0.457, 0.460, 0.463, 0.470),
    ),
    (
        "BH1",
        "U1",
        400,
        18.9,
        (0.075, 0.100, 0.130, 0.171, 0.230, 0.312, 0.428, 0.558, 0.684, 0.738, 0.747, 0.750, 0.753, 0.760),
    ),
)


def _oedometers(name: str) -> tuple[Oedometer, ...]:
    return tuple(
        Oedometer(
            sample=sample,
            depth=depth,
            void_ratio=e0,
            points=points,
            readings=tuple(
                Readings(stress=stress, height=height, points=tuple(zip(TIMES, settled)))
                for at, of, stress, height, settled in READINGS
                if (at, of) == (hole, sample)
            ),
        )
        for hole, sample, depth, e0, points in OEDOMETERS
        if hole == name
    )


def _tests(name: str) -> tuple[GroundTest, ...]:
    found = [GroundTest(kind="SPT N", depth=depth, value=n) for depth, n in SPT[name]]
    for depth, *values in INDEX.get(name, ()):
        for kind, value in zip(("PI", "wL", "w", "e0"), values):
            found.append(GroundTest(kind=kind, depth=depth, value=value))
    return tuple(found)


def _hole(name: str, x: float, y: float, level: float, *thicknesses: float) -> Borehole:
    names = ("Made ground", "Silty sand", "Silty clay", "Silt parting", "Silty clay", "Sandy gravel")
    strata = tuple(Stratum(soil=s, thickness=t) for s, t in zip(names, thicknesses))
    return Borehole(
        name=name,
        x=x,
        y=y,
        ground_level=level,
        strata=strata,
        tests=_tests(name),
        oedometers=_oedometers(name),
    )


def _ground() -> Ground:
    return Ground(
        soils=_soils(),
        boreholes=(
            _hole("BH1", 2.6, 16.1, 3.15, 0.95, 2.35, 1.55, 0.15, 1.45, 6.2),
            _hole("BH2", 17.3, 4.4, 3.25, 0.80, 2.60, 1.30, 0.20, 1.40, 6.5),
            _hole("BH3", 29.8, 10.9, 3.20, 1.15, 2.05, 1.85, 0.15, 1.60, 6.0),
        ),
        surfaces=Surfaces(existing=None, excavated=2.0, finished=3.30),
        water=Water(low=0.7, normal=1.6, high=2.4),
        backfill=Backfill(name="Granular backfill", weight=18.5, weight_saturated=20.4),
    )


def _cases() -> tuple[LoadCase, ...]:
    return (
        LoadCase(name="G", nature="permanent", description="permanent"),
        LoadCase(name="Q", nature="imposed", description="imposed, assembly areas"),
        LoadCase(name="W+x", nature="wind", description="wind towards +x"),
        LoadCase(name="W-x", nature="wind", description="wind towards -x"),
        LoadCase(name="W+y", nature="wind", description="wind towards +y"),
        LoadCase(name="W-y", nature="wind", description="wind towards -y"),
        LoadCase(name="Ship", nature="accidental", description="ship impact on row 1"),
    )


def _combinations() -> tuple[Combination, ...]:
    rows: list[Combination] = []
    winds = ("W+x", "W-x", "W+y", "W-y")

    def add(name: str, factors: dict[str, float], *serves: str, **more: object) -> None:
        more = {"water": "normal" if serves[0].startswith("settlement") else "worst"} | more
        rows.append(Combination(number=len(rows) + 1, name=name, factors=factors, serves=serves, **more))

    heavy = {"weight_unfavourable": 1.35, "weight_favourable": 1.0}
    add("G + Q", {"G": 1.0, "Q": 1.0}, "allowable")
    for wind in winds:
        add(f"G + 0.7 Q + {wind}", {"G": 1.0, "Q": 0.7, wind: 1.0}, "allowable")
    add("1.35 G + 1.5 Q", {"G": 1.35, "Q": 1.5}, "ultimate", "concrete", factor_set="M1", **heavy)
    for wind in winds:
        add(
            f"1.35 G + 1.05 Q + 1.5 {wind}",
            {"G": 1.35, "Q": 1.05, wind: 1.5},
            "ultimate",
            "concrete",
            factor_set="M1",
            **heavy,
        )
    add("G + 1.3 Q", {"G": 1.0, "Q": 1.3}, "ultimate", factor_set="M2")
    for wind in winds:
        add(f"G + 0.91 Q + 1.3 {wind}", {"G": 1.0, "Q": 0.91, wind: 1.3}, "ultimate", factor_set="M2")
        add(f"G + 1.3 {wind}", {"G": 1.0, wind: 1.3}, "ultimate", factor_set="M2", water="high")
    for wind in winds:
        add(
            f"0.9 G + 1.5 {wind}",
            {"G": 0.9, wind: 1.5},
            "EQU",
            weight_unfavourable=0.9,
            weight_favourable=0.9,
            water="high",
        )
    add(
        "0.9 G, high water",
        {"G": 0.9},
        "UPL",
        weight_unfavourable=0.9,
        weight_favourable=0.9,
        water="high",
    )
    add(
        "G + 0.5 Q + Ship",
        {"G": 1.0, "Q": 0.5, "Ship": 1.0},
        "ultimate",
        "concrete",
        factor_set="M1",
        situation="accidental",
    )
    add("G + 0.3 Q", {"G": 1.0, "Q": 0.3}, "settlement_long")
    return tuple(rows)


def _column(name: str) -> LoadPoint:
    G, Q, wind = COLUMNS[name]
    x, y = GRID_X[name[0]], GRID_Y[name[1]]
    # the frame tips a little: wind presses on the lee side and lifts on the other
    lee_x = (x - 16.2) / 16.2
    lee_y = (y - 9.6) / 9.6
    loads = {
        "G": Load(V=G, Hx=round(0.011 * G * lee_x, 1), My=round(0.014 * G * lee_x, 1)),
        "Q": Load(V=Q, Hx=round(0.013 * Q * lee_x, 1), My=round(0.017 * Q * lee_x, 1)),
    }
    for case, sx, sy in (("W+x", 1, 0), ("W-x", -1, 0), ("W+y", 0, 1), ("W-y", 0, -1)):
        loads[case] = Load(
            V=round(wind * 34.0 * (sx * lee_x + sy * lee_y), 1),
            Hx=round(21.5 * wind * sx, 1),
            Hy=round(24.0 * wind * sy, 1),
            Mx=round(-38.0 * wind * sy, 1),
            My=round(33.0 * wind * sx, 1),
        )
    if name[1] == "1":
        loads["Ship"] = Load(V=-18.0, Hy=-86.0 if name in ("B1", "C1") else -54.0, Mx=47.0)
    size = 0.40 if G + Q > 800 else 0.35
    return LoadPoint(name=name, x=x, y=y, size_x=size, size_y=size, level=3.2, loads=loads)


def _wall(name: str, x: float, y: float, length: float, G: float, Q: float) -> LoadPoint:
    return LoadPoint(
        name=name,
        kind="masonry_wall",
        x=x,
        y=y,
        size_x=length,
        size_y=0.215,
        level=3.2,
        loads={"G": Load(V=G), "Q": Load(V=Q)},
    )


def _bars(diameter: float, spacing: float) -> Reinforcement:
    bars = Bars(diameter=diameter / 1000, spacing=spacing / 1000)
    return Reinforcement(bottom_x=bars, bottom_y=bars)


# pad: column, type, width, length, thickness, level, bars
PADS = (
    ("P1", "A1", "T1", 1.7, 1.7, 0.40, 2.10, (12, 150)),
    ("P2", "B1", "T2", 2.2, 2.2, 0.45, 2.05, (16, 200)),
    ("P3", "C1", "T2", 2.2, 2.2, 0.45, 2.05, (16, 200)),
    ("P4", "D1", "T1", 1.9, 1.9, 0.40, 2.10, (12, 150)),
    ("P5", "E1", "T4", 1.7, 2.3, 0.45, 2.10, (12, 100)),
    ("P6", "A2", "T2", 2.1, 2.1, 0.45, 2.05, (16, 200)),
    ("P7", "D2", "T3", 2.5, 2.5, 0.50, 2.00, (16, 175)),
    ("P8", "E2", "T4", 1.8, 2.5, 0.45, 2.05, (12, 100)),
    ("P9", "A3", "T2", 2.1, 2.1, 0.45, 2.05, (16, 200)),
    ("P10", "D3", "T2", 2.3, 2.3, 0.45, 2.05, (16, 200)),
    ("P11", "E3", "T4", 1.8, 2.5, 0.45, 2.05, (12, 100)),
    ("P12", "A4", "T1", 1.6, 1.6, 0.40, 2.10, (12, 150)),
    ("P13", "B4", "T1", 1.9, 1.9, 0.40, 2.10, (12, 150)),
    ("P14", "C4", "T1", 1.7, 1.7, 0.40, 2.10, (12, 150)),
)


def _pad(row: tuple[str, str, str, float, float, float, float, tuple[int, int]]) -> Pad:
    name, column, kind, width, length, thickness, level, bars = row
    # the quay wall holds the east column line: the pad ends 0.65 m beyond the column axis
    offset = width / 2 - 0.65 if column[0] == "E" else 0.0
    return Pad(
        name=name,
        load_point=column,
        type=kind,
        width=width,
        length=length,
        thickness=thickness,
        level=level,
        offset_x=round(offset, 3),
        hold_x="+x" if offset else "middle",
        pedestal=Pedestal(size_x=0.6, size_y=0.6, top=3.2),
        reinforcement=_bars(*bars),
    )


def _core() -> Pad:
    """The raft below the core: four columns, and a pit for the lift."""
    plinth = Pedestal(size_x=0.6, size_y=0.6, top=3.2)
    below, above = Bars(diameter=0.016, spacing=0.15), Bars(diameter=0.020, spacing=0.15)
    return Pad(
        name="R1",
        kind="raft",
        load_point="B2",
        further=("C2", "B3", "C3"),
        width=10.0,
        length=9.0,
        thickness=0.70,
        level=1.75,
        offset_x=-4.05,
        offset_y=3.2,
        pedestal=plinth,
        pedestals=dict.fromkeys(("C2", "B3", "C3"), plinth),
        plate=Plate(
            openings=(Region(x_from=0.7, x_to=2.9, y_from=-1.2, y_to=1.2),),
            thickenings=tuple(
                Thickening(
                    x_from=max(x - 1.7, -5.0),
                    x_to=min(x + 1.7, 5.0),
                    y_from=max(y - 1.9, -4.5),
                    y_to=min(y + 1.9, 4.5),
                    thickness=1.15,
                )
                for x in (-4.05, 4.05)
                for y in (-3.2, 3.2)
            ),
            added=tuple(
                AddedBars(
                    x_from=-3.0, x_to=3.4, y_from=low, y_to=high, face="top_x", bars=Bars(diameter=0.016, spacing=0.125)
                )
                for low, high in ((-4.5, -1.2), (1.2, 4.5))
            ),
        ),
        reinforcement=Reinforcement(bottom_x=below, bottom_y=below, top_x=above, top_y=above),
    )


def _strip(name: str, wall: str) -> Pad:
    """A strip below a wall of the waiting room."""
    return Pad(
        name=name,
        kind="strip",
        load_point=wall,
        width=6.7,
        length=0.45,
        thickness=0.35,
        level=2.30,
        reinforcement=_bars(10, 150),
    )


@cache
def lindmere() -> Project:
    """The project as it stands: some bases just hold, some fail."""
    return Project(
        title=Title(
            project="Lindmere ferry terminal",
            number="2407",
            client="Lindmere Harbour Board",
            author="R. Aldous",
            checker="M. Okafor",
            date="2026-11-23",
            revision="C",
        ),
        settings=Settings(
            presumed_pressure=280.0, frost_depth=0.6, cover_above=0.3, settlement_limit=0.025, clearance=0.05
        ),
        ground=_ground(),
        actions=Actions(
            cases=_cases(),
            combinations=_combinations(),
            area_loads=(
                AreaLoad(
                    name="Ramp",
                    shape="embankment",
                    x=-9.5,
                    y=9.6,
                    size_x=6.2,
                    size_y=14.0,
                    level=3.2,
                    height=2.4,
                    weight=19.5,
                    slope=2.0,
                ),
            ),
            steps=(
                ConstructionStep(name="Ramp filled", date=date(2027, 2, 15), ramp=21, factors={"Ramp": 1.0}),
                ConstructionStep(
                    name="Frame and roof", date=date(2027, 5, 17), ramp=60, factors={"Ramp": 1.0, "G": 0.7}
                ),
                ConstructionStep(
                    name="In use", date=date(2027, 11, 1), ramp=30, factors={"Ramp": 1.0, "G": 1.0, "Q": 0.3}
                ),
            ),
            load_points=(
                *(_column(name) for name in COLUMNS),
                _wall("W1", 22.2, 0.6, 6.4, 288.0, 81.0),
                _wall("W2", 29.2, 0.6, 6.4, 267.0, 74.0),
            ),
        ),
        site=(Outline(name="Quay wall", points=((33.10, -3.0), (33.10, 24.0)), closed=False),),
        types=(
            PadType(name="T1"),
            PadType(name="T2"),
            PadType(name="T3"),
            PadType(name="T4", overrides={"concrete_cover": 0.06}),
        ),
        pads=(*(_pad(row) for row in PADS), _core(), _strip("P15", "W1"), _strip("P16", "W2")),
        # the quay wall holds P8: its inner neighbour holds it down
        straps=(
            Strap(name="S1", edge="P8", inner="P7", width=0.45, depth=0.65, bottom=Bars(diameter=0.016, number=4)),
        ),
    )
