"""Hollin Court: four storeys of flats on a ribbed raft over soft silty clay; an invented project."""

from datetime import date
from functools import cache

from korbent.core.model import (
    Actions,
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
    Pad,
    Project,
    Reinforcement,
    Settings,
    Soil,
    Stratum,
    Surfaces,
    Title,
    Water,
)
from korbent.core.model.plate import AddedBars, Plate, Rib

GRID_X = {"A": 0.0, "B": 4.15, "C": 8.35, "D": 12.3}
GRID_Y = {"1": 11.05, "2": 7.45, "3": 3.7, "4": 0.0}

# column: permanent, imposed (kN): flats around a stair between B2 and C2
COLUMNS = {
    "A1": (143, 41),
    "B1": (241, 83),
    "C1": (237, 79),
    "D1": (138, 38),
    "A2": (228, 77),
    "B2": (416, 148),
    "C2": (431, 157),
    "D2": (219, 72),
    "A3": (233, 81),
    "B3": (398, 141),
    "C3": (387, 136),
    "D3": (226, 76),
    "A4": (151, 44),
    "B4": (249, 86),
    "C4": (244, 84),
    "D4": (147, 43),
}
LEVEL = 41.05
"""Of the columns: top of the raft."""


def _soils() -> tuple[Soil, ...]:
    return (
        Soil(
            name="Crust",
            pattern="clay",
            description="silty clay, stiff, desiccated",
            drainage="both",
            weight=18.6,
            weight_saturated=19.1,
            cohesion=6.0,
            friction_angle=27.0,
            undrained_strength=64.0,
            modulus=8_200.0,
            poisson=0.3,
        ),
        Soil(
            name="Soft silty clay",
            pattern="clay",
            description="lightly overconsolidated",
            drainage="both",
            weight=17.1,
            weight_saturated=17.4,
            cohesion=2.0,
            friction_angle=24.0,
            undrained_strength=27.0,
            undrained_strength_gradient=1.7,
            compression="oedometer",
            compression_index=0.31,
            recompression_index=0.047,
            void_ratio=1.13,
            overconsolidation_ratio=1.75,
            consolidation_coefficient=0.0038,
        ),
        Soil(
            name="Gravel",
            pattern="gravel",
            description="medium dense to dense, sandy",
            drainage="drained",
            weight=19.4,
            weight_saturated=20.9,
            cohesion=0.0,
            friction_angle=36.5,
            modulus=62_000.0,
            poisson=0.25,
        ),
    )


def _hole(
    name: str,
    x: float,
    y: float,
    level: float,
    crust: float,
    clay: float,
    tests: tuple[tuple[float, int], ...],
) -> Borehole:
    rows = (("Crust", crust), ("Soft silty clay", clay), ("Gravel", 6.5))
    return Borehole(
        name=name,
        x=x,
        y=y,
        ground_level=level,
        strata=tuple(Stratum(soil=s, thickness=t) for s, t in rows),
        tests=tuple(GroundTest(kind="SPT N", depth=depth, value=n) for depth, n in tests),
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
    add(
        "0.9 G, high water",
        {"G": 0.9},
        "EQU",
        "UPL",
        weight_unfavourable=0.9,
        weight_favourable=0.9,
        water="high",
    )
    add("G + 0.3 Q", {"G": 1.0, "Q": 0.3}, "settlement_long", "cracks")
    return tuple(rows)


def _column(name: str) -> LoadPoint:
    G, Q = COLUMNS[name]
    x, y = GRID_X[name[0]], GRID_Y[name[1]]
    lee_x, lee_y = (x - 6.15) / 6.15, (y - 5.5) / 5.5
    loads = {"G": Load(V=G), "Q": Load(V=Q)}
    for case, sx, sy in (("W+x", 1, 0), ("W-x", -1, 0), ("W+y", 0, 1), ("W-y", 0, -1)):
        loads[case] = Load(
            V=round(27.0 * (sx * lee_x + sy * lee_y), 1),
            Hx=round(7.5 * sx, 1),
            Hy=round(8.0 * sy, 1),
            Mx=round(-4.5 * sy, 1),
            My=round(4.0 * sx, 1),
        )
    size = 0.35 if G > 380 else 0.30
    return LoadPoint(name=name, x=x, y=y, size_x=size, size_y=size, level=LEVEL, loads=loads)


def _raft() -> Pad:
    first, *others = COLUMNS
    width, length = 13.0, 11.75
    # the middle of the raft in the plan, and from it the grid
    x0, y0 = 6.15, 5.525
    across = Bars(diameter=0.012, spacing=0.15)

    def rib(name: str, axis: str, at: float) -> Rib:
        return Rib(
            name=name,
            axis=axis,
            at=round(at, 3),
            width=0.45,
            depth=0.85,
            top=Bars(diameter=0.016, number={"X2": 6, "X3": 4}.get(name, 5)),
            bottom=Bars(diameter=0.016, number=4),
            links=Bars(diameter=0.010, spacing=0.175),
        )

    return Pad(
        name="R1",
        kind="raft",
        load_point=first,
        further=tuple(others),
        width=width,
        length=length,
        thickness=0.25,
        level=LEVEL - 0.25,
        offset_x=round(GRID_X["A"] - x0, 3),
        offset_y=round(GRID_Y["1"] - y0, 3),
        plate=Plate(
            ground="springs",
            ribs=(
                *(rib(f"Y{k}", "y", x - x0) for k, x in zip("ABCD", GRID_X.values())),
                *(rib(f"X{k}", "x", y - y0) for k, y in GRID_Y.items()),
            ),
            added=(
                AddedBars(
                    x_from=-2.0, x_to=2.2, y_from=-1.8, y_to=1.9, face="top_x", bars=Bars(diameter=0.010, spacing=0.15)
                ),
            ),
        ),
        reinforcement=Reinforcement(bottom_x=across, bottom_y=across, top_x=across, top_y=across),
    )


@cache
def hollin() -> Project:
    """The project as it stands: pads would cover more than half of the house, a ribbed raft carries it."""
    return Project(
        title=Title(
            project="Hollin Court",
            number="2519",
            client="Marrow Lane Homes",
            author="I. Vashti",
            checker="P. Lindqvist",
            date="2026-11-29",
            revision="B",
        ),
        settings=Settings(
            presumed_pressure=70.0,
            frost_depth=0.45,
            settlement_limit=0.025,
            concrete_cover=0.04,
            cover_above=0.0,
        ),
        ground=Ground(
            soils=_soils(),
            boreholes=(
                _hole(
                    "BH1", 1.3, 9.2, 41.30, 1.45, 5.9, ((1.0, 9), (2.4, 2), (4.0, 3), (6.1, 4), (8.2, 27), (10.1, 34))
                ),
                _hole(
                    "BH2", 11.4, 1.6, 41.25, 1.30, 6.4, ((1.0, 8), (2.3, 2), (4.2, 3), (6.4, 4), (8.4, 29), (10.6, 33))
                ),
            ),
            surfaces=Surfaces(existing=None, excavated=40.8, finished=41.05),
            water=Water(low=39.4, normal=39.9, high=40.4),
            backfill=Backfill(name="Crushed stone", weight=19.0, weight_saturated=20.5),
        ),
        actions=Actions(
            cases=(
                LoadCase(name="G", nature="permanent", description="permanent"),
                LoadCase(name="Q", nature="imposed", description="imposed, dwellings"),
                *(
                    LoadCase(name=f"W{w}", nature="wind", description=f"wind towards {w}")
                    for w in ("+x", "-x", "+y", "-y")
                ),
            ),
            combinations=_combinations(),
            steps=(
                ConstructionStep(name="Raft and frame", date=date(2027, 3, 8), ramp=150, factors={"G": 0.8}),
                ConstructionStep(name="In use", date=date(2027, 11, 15), ramp=60, factors={"G": 1.0, "Q": 0.3}),
            ),
            load_points=tuple(_column(name) for name in COLUMNS),
        ),
        pads=(_raft(),),
    )
