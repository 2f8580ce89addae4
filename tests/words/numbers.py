"""All numbers of the demonstration projects: those of checks, and the step at which each working begins.

Run as a program of its own, in one language and in another."""

import json
import sys

from korbent.core.checks import CheckResult
from korbent.core.evaluate import evaluate
from korbent.core.explain.working import working
from korbent.demo import DEMOS


def numbers(demo: str) -> list[list[object]]:
    """(base, check, state, demand, capacity, ratio, step, its symbol) of every check."""
    project = DEMOS[demo]()
    found: list[list[object]] = []
    for pad in project.pads:
        for check in evaluate(project).pad(pad.name).checks:
            own = working(project, pad, check.check.id) if pad.kind != "raft" else check
            step = (-1, "") if isinstance(own, CheckResult) else (own.step, own.recording.steps[own.step].symbol)
            values = [None if v is None else f"{v:.9g}" for v in (check.demand, check.capacity, check.ratio)]
            found.append([pad.name, check.check.id, check.state.value, *values, *step])
    return found


if __name__ == "__main__":
    json.dump({demo: numbers(demo) for demo in sys.argv[1:]}, sys.stdout)
