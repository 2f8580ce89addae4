"""The project with which one starts from nothing: no ground and no column, but combinations that are ready."""

from korbent.core.actions.rules import combinations_for
from korbent.core.model import Actions, LoadCase, Project, Settings

RULES = "EN 1990 (6.10), DA1"


def starter() -> Project:
    """Two load cases, permanent and imposed, with their generated combinations."""
    cases = (
        LoadCase(name="G", nature="permanent", description="permanent"),
        LoadCase(name="Q", nature="imposed", description="imposed", category="B"),
    )
    return Project(
        settings=Settings(presumed_pressure=150.0),
        actions=Actions(cases=cases, combinations=tuple(combinations_for(RULES, cases)), rules=RULES),
    )
