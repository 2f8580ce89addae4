"""One pad by any standard with any settings, and a check of it."""

from typing import Any

from korbent.core.checks import CheckResult
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import (
    Project,
    edited,
)
from korbent.verification.pad import one_pad

EN, ACI, _, AS = NAMES
INCH = 25.4


def by(standard: str = EN, settings: dict[str, Any] | None = None, **changes: Any) -> Project:
    project = edited(one_pad(**changes), ("standards", "concrete"), standard)
    for name, value in (settings or {}).items():
        project = edited(project, ("settings", name), value)
    return project


def check(project: Project, name: str) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check(name)
