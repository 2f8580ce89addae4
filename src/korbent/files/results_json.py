"""All results of a project as plain values, as ``check --json`` writes them."""

from typing import Any

from korbent.core.checks import CheckResult
from korbent.core.evaluate import Results
from korbent.files.settlement_tables import as_values


def as_json(results: Results) -> dict[str, Any]:
    """The results as written by ``check --json``."""
    checks = [_entry(check) for check in results.all_checks]
    worst = results.worst()
    return {
        "project": results.project.title.project,
        "checks": checks,
        "worst": _entry(worst) if worst else None,
        "settlement": as_values(results.project),
    }


def _entry(check: CheckResult) -> dict[str, Any]:
    return {
        "foundation": check.foundation,
        "group": check.check.group,
        "check": check.check.id,
        "state": check.state.value,
        "ratio": check.ratio,
        "demand": check.demand,
        "capacity": check.capacity,
        "unit": check.check.unit,
        "combination": check.combination or None,
        "reference": check.check.reference,
        "message": check.message,
    }
