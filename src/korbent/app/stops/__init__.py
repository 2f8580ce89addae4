"""The stops of the rail, in the order of the work."""

from korbent.app.stops.actions import ActionsStop
from korbent.app.stops.bearing import BearingStop
from korbent.app.stops.concrete import ConcreteStop
from korbent.app.stops.ground import GroundStop
from korbent.app.stops.plan import PlanStop
from korbent.app.stops.project import ProjectStop
from korbent.app.stops.settlement import SettlementStop
from korbent.app.stops.sheets import SheetsStop
from korbent.app.stops.whole import WholeStop

STOPS = (GroundStop, ActionsStop, PlanStop, BearingStop, SettlementStop, ConcreteStop, SheetsStop)

__all__ = [
    "STOPS",
    "ActionsStop",
    "BearingStop",
    "ConcreteStop",
    "GroundStop",
    "PlanStop",
    "ProjectStop",
    "SettlementStop",
    "SheetsStop",
    "WholeStop",
]
