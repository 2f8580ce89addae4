"""From a project to its results."""

from korbent.core.evaluate.effects import STEPS, Effect, effects_of, steps_of
from korbent.core.evaluate.families import FAMILIES, outcomes_for, outcomes_on
from korbent.core.evaluate.results import PadResult, Results, worst_of
from korbent.core.evaluate.road import evaluate, evaluate_pad, evaluate_pads

__all__ = [
    "FAMILIES",
    "STEPS",
    "Effect",
    "PadResult",
    "Results",
    "effects_of",
    "evaluate",
    "evaluate_pad",
    "evaluate_pads",
    "outcomes_for",
    "outcomes_on",
    "steps_of",
    "worst_of",
]
