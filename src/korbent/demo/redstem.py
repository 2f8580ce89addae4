"""The Redstem packing shed: an invented light portal-frame shed in US units, on ground that is hardly known.

Loads in kip, sizes in feet, as its engineer would write them; ground checks by allowable stress, combinations by ASCE
7."""

from functools import cache

from korbent.core.actions.rules import combinations_for
from korbent.core.model import (
    Actions,
    Anchors,
    Backfill,
    Bars,
    Ground,
    Load,
    LoadCase,
    LoadPoint,
    Pad,
    PadType,
    Pedestal,
    Project,
    Reinforcement,
    Settings,
    Standards,
    Surfaces,
    Title,
)

FOOT = 0.3048
KIP = 4.4482216152605
RULES = "ASCE 7-16"
FRAMES = 5
BAY = 24 + 8 / 12
SPAN = 31.0

# thrust of the frames at the column feet (kip), pressing outwards on the +y side
DEAD, ROOF, SNOW = (7.4, 0.9), (6.1, 1.4), (12.6, 2.8)


def _ft(value: float) -> float:
    return round(value * FOOT, 9)


def _load(V: float = 0.0, Hx: float = 0.0, Hy: float = 0.0, Mx: float = 0.0, My: float = 0.0) -> Load:
    force, moment = KIP, KIP * FOOT
    return Load(V=V * force, Hx=Hx * force, Hy=Hy * force, Mx=Mx * moment, My=My * moment)


def _column(frame: int, side: int) -> LoadPoint:
    """The foot of a frame: ``side`` -1 on the south line, +1 on the north line."""
    tributary = 0.56 if frame in (1, FRAMES) else 1.0
    braced = frame in (2, 4)
    loads = {
        "D": _load(DEAD[0] * tributary + 1.6, Hy=DEAD[1] * side * tributary),
        "Lr": _load(ROOF[0] * tributary, Hy=ROOF[1] * side * tributary),
        "S": _load(SNOW[0] * tributary, Hy=SNOW[1] * side * tributary),
    }
    for case, along, across in (("W+x", 1, 0), ("W-x", -1, 0), ("W+y", 0, 1), ("W-y", 0, -1)):
        if across:
            windward = side != across
            loads[case] = _load(
                (-9.2 if windward else -5.1) * tributary,
                Hy=(4.9 if windward else 2.1) * across * tributary,
                Mx=(-3.5 if windward else -1.8) * across * tributary,
            )
        else:
            # bracing brings the wind on the gables to two frames
            pull = 3.1 * along * (1 if frame == 2 else -1) if braced else 0.0
            loads[case] = _load(-6.4 * tributary + pull, Hx=4.2 * along if braced else 0.3 * along)
    return LoadPoint(
        name=f"{'S' if side < 0 else 'N'}{frame}",
        kind="steel_column",
        x=_ft((frame - 1) * BAY),
        y=_ft(SPAN if side > 0 else 0.0),
        size_x=_ft(8 / 12),
        size_y=_ft(10 / 12),
        plate_x=_ft(12 / 12),
        plate_y=_ft(14 / 12),
        anchors=Anchors(diameter=_ft(1 / 12), apart_x=_ft(8 / 12), apart_y=_ft(10 / 12), depth=_ft(20 / 12)),
        level=_ft(0.5),
        loads=loads,
    )


# pad: size, thickness, founding level (ft)
SIZES = {
    "S1": (5.0, 1.25, -3.0),
    "S2": (6.5, 1.5, -3.5),
    "S3": (6.0, 1.5, -3.0),
    "S4": (7.0, 1.5, -3.5),
    "S5": (5.0, 1.25, -3.0),
    "N1": (5.0, 1.25, -3.0),
    "N2": (7.0, 1.5, -3.5),
    "N3": (6.5, 1.5, -3.5),
    "N4": (6.0, 1.25, -3.0),
    "N5": (4.0, 1.0, -2.25),
}


def _pad(index: int, column: str) -> Pad:
    size, thickness, level = SIZES[column]
    bars = Bars(diameter=0.625 * FOOT / 12, spacing=0.75 * FOOT)
    top = Bars(diameter=0.5 * FOOT / 12, spacing=1.0 * FOOT)
    return Pad(
        name=f"F{index}",
        load_point=column,
        type="shed",
        width=_ft(size),
        length=_ft(size),
        thickness=_ft(thickness),
        level=_ft(level),
        pedestal=Pedestal(
            size_x=_ft(1.5),
            size_y=_ft(1.5),
            top=_ft(0.5),
            diameter=0.625 * FOOT / 12,
            tie_diameter=0.5 * FOOT / 12,
            tie_spacing=2 * FOOT / 3,
        ),
        reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars, top_x=top, top_y=top),
    )


@cache
def redstem() -> Project:
    """Ten pads with pedestals; wind lifts and pushes them, so that stability governs."""
    cases = (
        LoadCase(name="D", nature="permanent", description="dead"),
        LoadCase(name="Lr", nature="imposed", category="roof", description="roof live"),
        LoadCase(name="S", nature="snow", description="snow"),
        LoadCase(name="W+x", nature="wind", description="wind along the shed, towards +x"),
        LoadCase(name="W-x", nature="wind", description="wind along the shed, towards -x"),
        LoadCase(name="W+y", nature="wind", description="wind across the shed, towards +y"),
        LoadCase(name="W-y", nature="wind", description="wind across the shed, towards -y"),
    )
    points = tuple(_column(frame, side) for side in (-1, 1) for frame in range(1, FRAMES + 1))
    psf, pcf = 0.001 * KIP / FOOT**2, 0.001 * KIP / FOOT**3
    return Project(
        title=Title(
            project="Redstem packing shed",
            number="R-118",
            client="Redstem Orchards",
            author="L. Whitcomb",
            checker="D. Sato",
            date="2026-11-23",
            revision="A",
        ),
        units="us",
        standards=Standards(concrete="ACI 318-19"),
        settings=Settings(
            presumed_table=tuple(
                (_ft(depth), 0.0, round(p * psf, 9)) for depth, p in ((1, 1500), (2, 2000), (3, 2400), (5, 3000))
            ),
            presumed_short=4 / 3,
            base_friction=0.40,
            frost_depth=_ft(2.5),
            cover_above=_ft(0.5),
            contact_share_least=0.4,
            concrete_weight=150 * pcf,
            concrete_strength=round(4000 * KIP / FOOT**2 * 0.144 / 1e3, 6),
            steel_strength=round(60_000 * KIP / FOOT**2 * 0.144 / 1e3, 6),
            concrete_cover=_ft(0.25),
            factor_uplift=1.0,
            factor_overturning=1.5,
        ),
        ground=Ground(
            surfaces=Surfaces(finished=0.0),
            backfill=Backfill(name="Compacted site fill", weight=110 * pcf, weight_saturated=125 * pcf),
        ),
        actions=Actions(
            cases=cases, combinations=tuple(combinations_for(RULES, cases)), load_points=points, rules=RULES
        ),
        types=(PadType(name="shed"),),
        pads=tuple(_pad(i, p.name) for i, p in enumerate(points, 1)),
    )
