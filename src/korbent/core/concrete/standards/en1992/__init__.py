"""EN 1992-1-1:2004 with corrigendum AC:2010 and amendment A1:2014, recommended values."""

from typing import Any, ClassVar

from korbent.core.concrete.standards.en1992.beams import Beams
from korbent.core.concrete.standards.en1992.cracks import Cracks
from korbent.core.concrete.standards.en1992.section import REFERENCE, NationalValues
from korbent.core.model.settings import Settings


class EN1992(Beams, Cracks):
    """The rules of EN 1992-1-1 for bases without links."""

    name = "EN 1992-1-1:2004"
    ductile: ClassVar[str] = ""
    least_depth: ClassVar[tuple[float, str]] = (0.0, "")
    links_from: ClassVar[tuple[float, str]] = (0.0, "")
    least_over_needed: ClassVar[tuple[float, str]] = (1.2, "EN 1992-1-1 9.2.1.1(1)")
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": f"{REFERENCE} 9.8.2.2",
        "anchorage-y": f"{REFERENCE} 9.8.2.2",
        "punching": f"{REFERENCE} 6.4.4(2)",
        "punching-face": f"{REFERENCE} 6.4.5(3)",
        "shear-x": f"{REFERENCE} 6.2.2(1)",
        "shear-y": f"{REFERENCE} 6.2.2(1)",
        "bottom-x": f"{REFERENCE} 6.1",
        "bottom-y": f"{REFERENCE} 6.1",
        "top-x": f"{REFERENCE} 6.1",
        "top-y": f"{REFERENCE} 6.1",
        "minimum-x": f"{REFERENCE} 9.2.1.1(1)",
        "minimum-y": f"{REFERENCE} 9.2.1.1(1)",
        "spacing-x": f"{REFERENCE} 9.3.1.1(3)",
        "spacing-y": f"{REFERENCE} 9.3.1.1(3)",
        "cover": "EN 1992-1-1 4.4.1",
        "side-bars": "EN 1992-1-1 7.3.3(3)",
        "bearing-concrete": "EN 1992-1-1 6.7",
        "dowels": "EN 1992-1-1 6.1",
        "dowels-steel": "EN 1992-1-1 9.5.2(2)",
        "dowels-anchorage": "EN 1992-1-1 8.4.4",
        "plain-x": "EN 1992-1-1 12.9.3",
        "plain-y": "EN 1992-1-1 12.9.3",
        "plain-shear-x": "EN 1992-1-1 12.6.3",
        "plain-shear-y": "EN 1992-1-1 12.6.3",
        "plain-punching": "EN 1992-1-1 12.6.3",
        "pedestal": "EN 1992-1-1 6.1",
        "pedestal-steel": "EN 1992-1-1 9.5.2(2)",
        "pedestal-ties": "EN 1992-1-1 9.5.3",
        "pedestal-slender": "EN 1992-1-1 5.8.3.1",
        "strap-links": f"{REFERENCE} 9.2.2",
        "cracks-x": "EN 1992-1-1 7.3.4",
        "cracks-y": "EN 1992-1-1 7.3.4",
    }
    cracks_near_edge = True
    within_column = True
    bearing_slope = 0.5
    bearing_most = 3.0
    bar_set: ClassVar[str] = "metric"
    fire: ClassVar[str] = ""

    @classmethod
    def choices(cls, settings: Settings) -> tuple[Any, ...]:
        """What of the settings it takes."""
        national = NationalValues(
            settings.gamma_concrete,
            settings.gamma_steel,
            settings.alpha_cc,
            settings.shear_coefficient,
            settings.shear_least,
            settings.face_share,
            settings.alpha_ct,
            settings.anchorage_e,
        )
        return national, settings.hooks_count == "always", settings.anchorage_least == "acting_stress"

    @staticmethod
    def mandrel(diameter: float, tie: bool) -> float:
        """Table 8.1N: 4 diameters up to 16 mm, 7 beyond."""
        return (4 if diameter <= 0.016 + 1e-9 else 7) * diameter


STANDARD = EN1992
