"""ACI 318-19 for footings without shear reinforcement, in its own pounds and inches."""

from typing import Any, ClassVar

from korbent.core.concrete.standards.aci318.beams import Beams
from korbent.core.concrete.standards.aci318.section import INCH
from korbent.core.model.settings import Settings
from korbent.words import say


class ACI318(Beams):
    """The rules of ACI 318-19 for footings (chapter 13). Normal-weight concrete."""

    name = "ACI 318-19"
    ductile: ClassVar[str] = "ACI 318-19 9.3.3.1"
    least_depth: ClassVar[tuple[float, str]] = (6 * INCH, "ACI 318-19 13.3.1.2")
    links_from: ClassVar[tuple[float, str]] = (0.0, "")
    least_over_needed: ClassVar[tuple[float, str]] = (4 / 3, "ACI 318-19 9.6.1.3")
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "ACI 318-19 13.2.8",
        "anchorage-y": "ACI 318-19 13.2.8",
        "punching": "ACI 318-19 22.6",
        "punching-face": "ACI 318-19 22.6",
        "shear-x": "ACI 318-19 22.5.5.1",
        "shear-y": "ACI 318-19 22.5.5.1",
        "bottom-x": "ACI 318-19 22.2",
        "bottom-y": "ACI 318-19 22.2",
        "top-x": "ACI 318-19 22.2",
        "top-y": "ACI 318-19 22.2",
        "minimum-x": "ACI 318-19 8.6.1.1",
        "minimum-y": "ACI 318-19 8.6.1.1",
        "spacing-x": "ACI 318-19 7.7.2.3",
        "spacing-y": "ACI 318-19 7.7.2.3",
        "cover": "ACI 318-19 20.5.1.3",
        "side-bars": "ACI 318-19 9.7.2.3",
        "bearing-concrete": "ACI 318-19 22.8.3",
        "dowels": "ACI 318-19 22.4",
        "dowels-steel": "ACI 318-19 16.3.4.1",
        "dowels-anchorage": "ACI 318-19 25.4.9",
        "plain-x": "ACI 318-19 14.5.2",
        "plain-y": "ACI 318-19 14.5.2",
        "plain-shear-x": "ACI 318-19 14.5.5",
        "plain-shear-y": "ACI 318-19 14.5.5",
        "plain-punching": "ACI 318-19 14.5.5",
        "pedestal": "ACI 318-19 22.4",
        "pedestal-steel": "ACI 318-19 16.3.4.1",
        "pedestal-ties": "ACI 318-19 25.7.2",
        "pedestal-slender": "ACI 318-19 6.2.5.1",
        "strap-links": "ACI 318-19 9.6.3, 9.7.6.2.2",
        "cracks-x": "ACI 318-19 24.3.2",
        "cracks-y": "ACI 318-19 24.3.2",
    }
    cracks_near_edge = False
    within_column = False
    bearing_slope = 2.0
    bearing_most = 2.0
    bar_set: ClassVar[str] = "metric"
    fire: ClassVar[str] = say("ACI 318 leaves cover for fire to ACI 216.1, which is not here: type the cover asked for")

    @classmethod
    def choices(cls, settings: Settings) -> tuple[Any, ...]:
        """What of the settings it takes."""
        return (settings.shear_size_effect,)

    @staticmethod
    def mandrel(diameter: float, tie: bool) -> float:
        """Tables 25.3.1 and 25.3.2: 6 diameters up to #8, 8 beyond, ties 4 up to #5."""
        return (4 if tie and diameter <= 0.64 * INCH else 6 if diameter <= 1.01 * INCH else 8) * diameter


STANDARD = ACI318
