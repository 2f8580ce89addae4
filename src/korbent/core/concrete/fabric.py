"""Welded fabrics with the same wires both ways, by region."""

from math import pi, sqrt

from korbent.core.model.reinforcement import Bars

INCH = 0.0254


def _wire(hundredths: float) -> float:
    """Diameter of a wire whose area is so many hundredths of a square inch (ASTM A1064), m."""
    return sqrt(4 * hundredths / 100 / pi) * INCH


def _sheets(rows: dict[str, tuple[float, float]]) -> dict[str, Bars]:
    return {name: Bars(diameter=round(d, 6), spacing=round(s, 6), fabric=name) for name, (d, s) in rows.items()}


FABRICS: dict[str, dict[str, Bars]] = {
    "metric": _sheets(
        {
            "A142": (0.006, 0.2),
            "A193": (0.007, 0.2),
            "A252": (0.008, 0.2),
            "A393": (0.010, 0.2),
        }
    ),
    "as": _sheets(
        {
            "SL62": (0.006, 0.2),
            "SL72": (0.00675, 0.2),
            "SL82": (0.0076, 0.2),
            "SL92": (0.0086, 0.2),
            "SL102": (0.0095, 0.2),
            "SL81": (0.0076, 0.1),
        }
    ),
    "us": _sheets(
        {
            "6x6-D4": (_wire(4), 6 * INCH),
            "6x6-D8": (_wire(8), 6 * INCH),
            "6x6-D12": (_wire(12), 6 * INCH),
            "4x4-D8": (_wire(8), 4 * INCH),
            "4x4-D12": (_wire(12), 4 * INCH),
            "4x4-D20": (_wire(20), 4 * INCH),
        }
    ),
}
"""BS 4483, AS/NZS 4671 and ASTM A1064 (square meshes; wire numbers are areas in 0.01 in2)."""

BY_NAME = {name: bars for sheets in FABRICS.values() for name, bars in sheets.items()}
