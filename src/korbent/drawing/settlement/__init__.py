"""Settlement as drawings: depth columns below one foundation, settlement against time, the plan at a moment, and methods
beside each other."""

from korbent.drawing.settlement.columns import depth_columns, sublayer_table
from korbent.drawing.settlement.over_time import SCALES, day_of, place_of, time_chart
from korbent.drawing.settlement.plan import settlement_plan
from korbent.drawing.settlement.words import NOTHING, day_words, said

__all__ = [
    "NOTHING",
    "SCALES",
    "day_of",
    "day_words",
    "depth_columns",
    "place_of",
    "said",
    "settlement_plan",
    "sublayer_table",
    "time_chart",
]
