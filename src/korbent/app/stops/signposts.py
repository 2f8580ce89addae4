"""What each stop is called, what the rail says of it, and where it is: it is made when somebody first goes there."""

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING

from korbent.app.session import Session
from korbent.core.checks import CheckResult
from korbent.words import say, say_count

if TYPE_CHECKING:
    from korbent.app.stops.stop import Stop
    from korbent.drawing.theme import Theme


@dataclass(frozen=True)
class Signpost:
    """The way to a stop."""

    key: str
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
        return say("no borehole yet")
    return f"{say_count(len(ground.boreholes), '{number} borehole', '{number} boreholes')}, {say_count(len(ground.soils), '{number} soil', '{number} soils')}"


def _actions(session: Session) -> str:
    actions = session.project.actions
    if not actions.load_points:
        return say("no column yet")
    return say(
        "{counted}, {combinations} comb.",
        counted=say_count(len(actions.load_points), "{number} column", "{number} columns"),
        combinations=len(actions.combinations),
    )


def _plan(session: Session) -> str:
    from korbent.core.plan.site import conflicts

    open_ones = len(session.results.undesigned)
    trouble = len(conflicts(session.project))
    first = (
        say_count(trouble, "{number} conflict", "{number} conflicts")
        if trouble
        else say_count(len(session.project.pads), "{number} pad", "{number} pads")
    )
    return first + (say(", {open_ones} open", open_ones=open_ones) if open_ones else "")


def _worst(group: str) -> Callable[[Session], str]:
    def line(session: Session) -> str:
        worst = session.results.worst(group)
        return say("worst {foundation}", foundation=worst.foundation) if worst else say("nothing to check yet")

    return line


def _sheets(session: Session) -> str:
    from korbent.sheets.catalogue import sets_of, ticked

    return say_count(len(ticked(sets_of(session.project)[0])), "{number} sheet", "{number} sheets")


GROUND = Signpost("ground", say("Ground"), "ground:GroundStop", _ground)
ACTIONS = Signpost("actions", say("Actions"), "actions:ActionsStop", _actions)
PLAN = Signpost("plan", say("Plan"), "plan:PlanStop", _plan)
BEARING = Signpost("bearing", say("Bearing"), "bearing:BearingStop", _worst("bearing"), "bearing")
SETTLEMENT = Signpost("settlement", say("Settlement"), "settlement:SettlementStop", _worst("settlement"), "settlement")
CONCRETE = Signpost("concrete", say("Concrete"), "concrete:ConcreteStop", _worst("concrete"), "concrete")
SHEETS = Signpost("sheets", say("Sheets"), "sheets:SheetsStop", _sheets)
PROJECT = Signpost("project", say("Project"), "project:ProjectStop")
WHOLE = Signpost("all bases", say("All bases"), "whole:WholeStop")

RAIL = (GROUND, ACTIONS, PLAN, BEARING, SETTLEMENT, CONCRETE, SHEETS)
"""In the order of the work."""
SIGNPOSTS = (*RAIL, PROJECT, WHOLE)
"""And what stands beside the rail."""
