"""Least steel and greatest spacing of the bars."""

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.pad import ConcretePad
from korbent.core.working import Recorder


def detailing(pad: ConcretePad, axis: str, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """Least steel and greatest spacing of the bottom bars along an axis."""
    bars, settings = pad.bars("bottom", axis), pad.settings
    scope = record.scope(f"detailing {axis}")
    scope("d", f"d_{axis}", pad.depth(axis), "m")
    least = pad.standard.minimum_steel(
        pad.depth(axis), pad.geometry.h, settings.concrete_strength, settings.steel_strength, scope
    )
    provided = bars.area * 1e6
    scope("oe", "", bars.diameter, "m", note="bar diameter")
    scope("s", "", bars.spacing, "m", note="width for each bar")
    scope("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note="steel provided")
    steel = scope.scope("steel")
    steel("ratio", "A_s_min/A_s", least / provided)
    greatest = pad.standard.greatest_spacing(pad.geometry.h, scope)
    spacing = bars.centres(settings.concrete_cover)
    apart = scope.scope("spacing")
    apart("s_c", "", spacing, "m", note="from bar to bar", needs="s")
    apart("ratio", "s_c/s_max", spacing / greatest)
    return [
        Outcome(
            CHECKS[f"minimum-{axis}"], least, provided, least / provided,
            blocks=(f"detailing {axis} steel",), why_not=thin,
        ),
        Outcome(
            CHECKS[f"spacing-{axis}"], spacing * 1000, greatest * 1000, spacing / greatest,
            blocks=(f"detailing {axis} spacing",), why_not=thin,
        ),
    ]  # fmt: skip
