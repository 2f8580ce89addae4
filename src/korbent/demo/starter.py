"""The projects with which one starts from nothing: no ground and no column, but combinations that are ready."""

from korbent.core.actions.rules import combinations_for
from korbent.core.model import Actions, LoadCase, Project, Settings, Standards

RULES = "EN 1990 (6.10), DA1"
US_RULES = "ASCE 7-22"


def starter() -> Project:
    """Metric: two load cases, permanent and imposed, with their generated combinations."""
    cases = (
        LoadCase(name="G", nature="permanent", description="permanent"),
        LoadCase(name="Q", nature="imposed", description="imposed", category="B"),
    )
    return Project(
        settings=Settings(presumed_pressure=150.0),
        actions=Actions(cases=cases, combinations=tuple(combinations_for(RULES, cases)), rules=RULES),
    )


def us_starter() -> Project:
    """US customary: dead and live load with the combinations of ASCE 7."""
    cases = (
        LoadCase(name="D", nature="permanent", description="dead"),
        LoadCase(name="L", nature="imposed", description="live"),
    )
    return Project(
        units="us",
        standards=Standards(concrete="none"),
        settings=Settings(presumed_pressure=143.64, frost_depth=0.6096),
        actions=Actions(cases=cases, combinations=tuple(combinations_for(US_RULES, cases)), rules=US_RULES),
    )
