"""Where columns stand on a base, and how far what stands on it is drawn."""

from korbent.core.geometry import local_place
from korbent.core.model import Pad, Project

STUMP = 0.45
"""How much of a column is drawn above the base, m."""


def place_of(project: Project, pad: Pad, name: str) -> tuple[float, float]:
    first = project.load_point(pad.load_point)
    if name == pad.load_point:
        return pad.offset_x, pad.offset_y
    return local_place(pad, first, project.load_point(name))


def level_above(project: Project, pad: Pad) -> float:
    """How high the labels of top bars reach above the base, mm."""
    if project.settings_of(pad).base_concrete != "reinforced":
        return 0.0
    count = sum(pad.reinforcement.bars(f"top_{axis}") is not None for axis in ("x", "y"))
    return 5.5 * count + 4.0 if count else 0.0
