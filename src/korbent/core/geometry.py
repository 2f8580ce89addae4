"""The sizes of one pad, or of many candidate sizes of it, as arrays of shape (candidates, 1)."""

from dataclasses import dataclass

import numpy as np

from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.working import Array

DRIVING = ("width", "length", "thickness", "level", "offset_x", "offset_y")
"""The dimensions that candidates vary, in the order of the columns of a candidate table."""


@dataclass(frozen=True)
class PadGeometry:
    """Driving dimensions as arrays (candidates, 1) in m; what does not vary as numbers."""

    B: Array
    L: Array
    h: Array
    underside: Array
    top: Array
    offset_x: Array
    offset_y: Array
    turn: float
    """Angle from the axes of the loads to the pad axes, rad."""
    footprint: tuple[float, float]
    """Sizes of what stands on the base along the pad axes (pedestal, else column), m."""
    face: tuple[float, float]
    """Sizes at which the critical sections start (EN 1992-1-1 5.3.2.2, or halfway to the plate's edge), m."""
    pedestal: tuple[float, float]
    pedestal_top: float
    load_level: float
    askew: bool
    """The column is turned against the pad by other than quarter turns: a square of equal area is used."""
    monolithic: bool


def table(pad: Pad, steps: tuple[tuple[str, float], ...] = ()) -> Array:
    """Candidate sizes, one row each: the pad as it is, then with one dimension changed by each step."""
    rows = np.tile([float(getattr(pad, name)) for name in DRIVING], (1 + len(steps), 1))
    for row, (name, change) in enumerate(steps, 1):
        rows[row, DRIVING.index(name)] += change
    return rows


def pad_geometry(pad: Pad, point: LoadPoint, candidates: Array) -> PadGeometry:
    """Geometry of a pad for candidates of shape (candidates, len(DRIVING))."""
    B, L, h, level, offset_x, offset_y = (candidates[:, i : i + 1] for i in range(len(DRIVING)))
    underside = level if pad.held == "underside" else level - h
    relative = (point.rotation - pad.rotation) % 180.0
    askew = min(relative % 90.0, 90.0 - relative % 90.0) > 0.01
    quarter = not askew and 45.0 < relative < 135.0

    def along(x: float, y: float) -> tuple[float, float]:
        if askew:
            return (x * y) ** 0.5, (x * y) ** 0.5
        return (y, x) if quarter else (x, y)

    column = along(point.size_x, point.size_y)
    plate = along(point.plate_x or point.size_x, point.plate_y or point.size_y)
    pedestal = (pad.pedestal.size_x, pad.pedestal.size_y) if pad.pedestal else (0.0, 0.0)
    if pad.pedestal:
        face = footprint = pedestal
    elif point.kind == "steel column":
        footprint = plate
        face = ((column[0] + plate[0]) / 2, (column[1] + plate[1]) / 2)
    elif point.kind == "masonry wall":
        footprint, face = column, (column[0] / 2, column[1] / 2)
    else:
        footprint = face = column
    axes_of_loads = 0.0 if point.axes == "plan" else point.rotation
    return PadGeometry(
        B=B,
        L=L,
        h=h,
        underside=underside,
        top=underside + h,
        offset_x=offset_x,
        offset_y=offset_y,
        turn=float(np.deg2rad(pad.rotation - axes_of_loads)),
        footprint=footprint,
        face=face,
        pedestal=pedestal,
        pedestal_top=pad.pedestal.top if pad.pedestal else pad.underside,
        load_level=point.level,
        askew=askew,
        monolithic=bool(pad.pedestal) or point.kind in ("concrete column", "concrete wall"),
    )
