"""The laws by which strata settle: one file for each, and the formulas that they are made of.

A new law is a file and a line of ``LAWS``, under the name that a soil gives for how it settles.
"""

from korbent.core.model.ground import Soil
from korbent.core.settlement.laws.compressibility import Compressibility
from korbent.core.settlement.laws.elastic import Elastic
from korbent.core.settlement.laws.law import Law, Path
from korbent.core.settlement.laws.none import NotCounted
from korbent.core.settlement.laws.oedometer import Oedometer, compression_ratio, recompression_ratio
from korbent.core.settlement.laws.strain_influence import StrainInfluence
from korbent.words import say

LAWS: dict[str, Law] = {
    "elastic": Elastic(),
    "oedometer": Oedometer(),
    "mv": Compressibility(),
    "strain_influence": StrainInfluence(),
    "none": NotCounted(),
}
"""By the name that a soil gives for how it settles."""


def lacking_for(soil: Soil, kind: str | None = None) -> str:
    """What a soil lacks to settle by its law, or by another ``kind``; '' when nothing."""
    kind = kind or soil.compression
    lacks = LAWS[kind].lacking(soil)
    if lacks:
        return say("the soil '{soil}' has no {lacks}", soil=soil.name, lacks=lacks)
    if soil.pore_pressure_coefficient is not None and LAWS[kind].reduced and not soil.undrained_modulus:
        return say(
            "the soil '{soil}' has Skempton's A but no undrained modulus Eu: the reduced settlement goes "
            "with an immediate part (s = s_i + mu s_oed); give Eu, or take A out",
            soil=soil.name,
        )
    return ""


__all__ = ["LAWS", "Law", "Path", "compression_ratio", "lacking_for", "recompression_ratio"]
