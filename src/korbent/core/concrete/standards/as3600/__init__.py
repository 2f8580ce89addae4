"""AS 3600:2018 for footings without fitments. Clause numbers and coefficients from memory; N, mm, MPa."""

from typing import Any, ClassVar

from korbent.core.concrete.standards.as3600.beams import Beams
from korbent.core.concrete.standards.en1992.cracks import Cracks
from korbent.core.model.settings import Settings
from korbent.words import say


class AS3600(Beams, Cracks):
    """The rules of AS 3600:2018 for footings."""

    name = "AS 3600:2018"
    ductile: ClassVar[str] = "AS 3600:2018 8.1.5"
    least_depth: ClassVar[tuple[float, str]] = (0.0, "")
    links_from: ClassVar[tuple[float, str]] = (0.75, "AS 3600:2018 8.2.1.6")
    least_over_needed: ClassVar[tuple[float, str]] = (4 / 3, say("own choice"))
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "AS 3600:2018 13.1.2",
        "anchorage-y": "AS 3600:2018 13.1.2",
        "punching": "AS 3600:2018 9.3",
        "punching-face": "AS 3600:2018 9.3",
        "shear-x": "AS 3600:2018 8.2.4",
        "shear-y": "AS 3600:2018 8.2.4",
        "bottom-x": "AS 3600:2018 8.1",
        "bottom-y": "AS 3600:2018 8.1",
        "top-x": "AS 3600:2018 8.1",
        "top-y": "AS 3600:2018 8.1",
        "minimum-x": say("AS 3600:2018 section 21"),
        "minimum-y": say("AS 3600:2018 section 21"),
        "spacing-x": "AS 3600:2018 9.5.1",
        "spacing-y": "AS 3600:2018 9.5.1",
        "cover": "AS 3600:2018 4.10.3",
        "side-bars": "AS 3600:2018 8.6.3",
        "bearing-concrete": "AS 3600:2018 12.6",
        "dowels": "AS 3600:2018 10.6",
        "dowels-steel": "AS 3600:2018 10.7.1",
        "dowels-anchorage": "AS 3600:2018 13.1.5",
        "plain-x": "AS 3600:2018 20.4.2",
        "plain-y": "AS 3600:2018 20.4.2",
        "plain-shear-x": "AS 3600:2018 20.4.3",
        "plain-shear-y": "AS 3600:2018 20.4.3",
        "plain-punching": "AS 3600:2018 20.4.3",
        "pedestal": "AS 3600:2018 10.6",
        "pedestal-steel": "AS 3600:2018 10.7.1",
        "pedestal-ties": "AS 3600:2018 10.7.4",
        "pedestal-slender": "AS 3600:2018 10.3.1",
        "strap-links": "AS 3600:2018 8.2.1.7, 8.3.2.2",
        "cracks-x": "EN 1992-1-1 7.3.4",
        "cracks-y": "EN 1992-1-1 7.3.4",
    }
    cracks_near_edge = False
    within_column = True
    bearing_slope = 100.0
    bearing_most = 2.0
    bar_set: ClassVar[str] = "as"
    fire: ClassVar[str] = ""

    @classmethod
    def choices(cls, settings: Settings) -> tuple[Any, ...]:
        """What of the settings it takes."""
        return ()

    @staticmethod
    def mandrel(diameter: float, tie: bool) -> float:
        """17.2.3.2: 5 diameters, ties 4."""
        return (4 if tie else 5) * diameter


STANDARD = AS3600
