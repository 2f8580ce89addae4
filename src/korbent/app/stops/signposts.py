"""What each stop is called, what the rail says of it, and where it is: it is made when somebody first goes there."""

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING

from korbent.app.session import Session
from korbent.app.words import counted
from korbent.core.checks import CheckResult

if TYPE_CHECKING:
    from korbent.app.stops.base import Stop
    from korbent.drawing.theme import Theme


@dataclass(frozen=True)
class Signpost:
    """The way to a stop."""

    title: str
    leads_to: str
    """Its class, as ``module:name`` in this package."""
    line: Callable[[Session], str] = lambda _: ""
    """Its state in a line, for the rail."""
    group: str | None = None
    """The checks whose worst ratio the rail shows."""

    def make(self, session: Session, theme: "Theme") -> "Stop":
        """The stop, not built yet."""
        module, _, name = self.leads_to.partition(":")
        made: Stop = getattr(import_module(f"korbent.app.stops.{module}"), name)(session, theme)
        return made

    def worst(self, session: Session) -> CheckResult | None:
        """The worst check of the stop, for the bar in the rail."""
        return session.results.worst(self.group) if self.group else None


def _ground(session: Session) -> str:
    ground = session.project.ground
    if not ground.boreholes:
        return "no borehole yet"
    return f"{counted(len(ground.boreholes), 'borehole')}, {counted(len(ground.soils), 'soil')}"


def _actions(session: Session) -> str:
    actions = session.project.actions
    if not actions.load_points:
        return "no column yet"
    return f"{counted(len(actions.load_points), 'column')}, {len(actions.combinations)} comb."


def _plan(session: Session) -> str:
    from korbent.core.plan.site import conflicts

    open_ones = len(session.results.undesigned)
    trouble = len(conflicts(session.project))
    first = counted(trouble, "conflict") if trouble else counted(len(session.project.pads), "pad")
    return first + (f", {open_ones} open" if open_ones else "")


def _worst(group: str) -> Callable[[Session], str]:
    def line(session: Session) -> str:
        worst = session.results.worst(group)
        return f"worst {worst.foundation}" if worst else "nothing to check yet"

    return line


def _sheets(session: Session) -> str:
    from korbent.sheets.catalogue import sets_of, ticked

    return counted(len(ticked(sets_of(session.project)[0])), "sheet")


GROUND = Signpost("Ground", "ground:GroundStop", _ground)
ACTIONS = Signpost("Actions", "actions:ActionsStop", _actions)
PLAN = Signpost("Plan", "plan:PlanStop", _plan)
BEARING = Signpost("Bearing", "bearing:BearingStop", _worst("bearing"), "bearing")
SETTLEMENT = Signpost("Settlement", "settlement:SettlementStop", _worst("settlement"), "settlement")
CONCRETE = Signpost("Concrete", "concrete:ConcreteStop", _worst("concrete"), "concrete")
SHEETS = Signpost("Sheets", "sheets:SheetsStop", _sheets)
PROJECT = Signpost("Project", "project:ProjectStop")
WHOLE = Signpost("All bases", "whole:WholeStop")

RAIL = (GROUND, ACTIONS, PLAN, BEARING, SETTLEMENT, CONCRETE, SHEETS)
"""In the order of the work."""
SIGNPOSTS = (*RAIL, PROJECT, WHOLE)
"""And what stands beside the rail."""
