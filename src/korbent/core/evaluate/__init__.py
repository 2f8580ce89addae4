"""From a project to its results."""

from korbent.core.evaluate.effects import Effect, effects_of, increments_of
from korbent.core.evaluate.families import FAMILIES, outcomes_for, outcomes_on
from korbent.core.evaluate.road import evaluate, evaluate_pad, evaluate_pads
from korbent.core.results import PadResult, Results, worst_of

__all__ = [
    "FAMILIES",
    "Effect",
    "PadResult",
    "Results",
    "effects_of",
    "evaluate",
    "evaluate_pad",
    "evaluate_pads",
    "increments_of",
    "outcomes_for",
    "outcomes_on",
    "worst_of",
]
