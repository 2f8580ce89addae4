"""Where a quick start begins: rule set, standard, names of cases and units of a place, and the figures that are round
there."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from korbent.core.units import System, factor, shown_unit
from korbent.words import say


@dataclass(frozen=True)
class Habit:
    """How work is done at one place."""

    name: str
    rules: str
    """Set of rules that makes the combinations."""
    concrete: str
    permanent: tuple[str, str]
    """Name and description of the case of permanent loads; so of imposed ones."""
    imposed: tuple[str, str]
    assumed: str
    """What is taken for granted."""
    units: System = "metric"
    strengths: tuple[float, float] = (30.0, 500.0)
    """Of concrete and of steel with which one begins, MPa."""
    steps: Mapping[str, float] = field(default_factory=dict)
    """To what figures with which one begins are rounded, in the unit shown, by the unit stored."""

    def usual(self, value: float, unit: str) -> float:
        """A figure as one would write it here, in the stored unit: the nearest step, at least one of them unless it is
        0."""
        step = self.steps.get(unit)
        if step is None or not value:
            return value
        into = factor(unit, shown_unit(unit, self.units))
        return max(round(value * into / step), 1) * step / into


HABITS = (
    Habit(
        "EN 1990, EN 1992",
        "EN 1990 (6.10), DA1",
        "EN 1992-1-1:2004",
        ("G", "permanent"),
        ("Q", "imposed"),
        say("EN 1990 (6.10) DA1 from permanent and imposed, EN 1992"),
    ),
    Habit(
        "ASCE 7, ACI 318",
        "ASCE 7-22",
        "ACI 318-19",
        ("D", "dead"),
        ("L", "live"),
        say("ASCE 7-22 from dead and live, ground by allowable stress, ACI 318-19"),
        "us",
        (4000 / factor("MPa", "psi"), 60000 / factor("MPa", "psi")),
        {"m": 0.5, "kN": 10.0, "kNm": 10.0, "kN/m": 1.0, "kPa": 0.5},
    ),
    Habit(
        "AS/NZS 1170, AS 3600",
        "AS/NZS 1170.0",
        "AS 3600:2018",
        ("G", "permanent"),
        ("Q", "imposed"),
        say("AS/NZS 1170.0 from permanent and imposed, ground by safety factors, AS 3600"),
        strengths=(32.0, 500.0),
    ),
)
"""The places known; the first is that of every new project."""


def habit_of(name: str) -> Habit:
    """The habit of that name; KeyError when there is none."""
    for one in HABITS:
        if one.name == name:
            return one
    raise KeyError(name)
