"""The ratios of speed that matter, each against a bare kernel or a bare window of the same run, beside those that were
kept.

    tools/pace.py         prints them (under 40 s)
    tools/pace.py keep    writes them to benchmarks/pace.json

The speed of a machine varies from hour to hour; a ratio within one run hardly does. Run with the package on the path.
"""

import itertools
import json
import os
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
ROOT = Path(__file__).parents[1]
sys.path[:0] = [str(ROOT / "src"), str(ROOT / "benchmarks")]
KEPT = ROOT / "benchmarks" / "pace.json"


def least(function: Callable[[], object], count: int) -> float:
    """The least processor time of some calls, s."""
    taken = []
    for _ in range(count):
        begun = time.process_time()
        function()
        taken.append(time.process_time() - begun)
    return min(taken)


def start(script: str) -> float:
    """The least time of three starts of a program, s."""
    taken = []
    for _ in range(3):
        begun = time.perf_counter()
        subprocess.run(
            [sys.executable, "-c", script],
            check=True,
            capture_output=True,
            env=os.environ | {"PYTHONPATH": str(ROOT / "src")},
        )
        taken.append(time.perf_counter() - begun)
    return min(taken)


def measured() -> dict[str, float]:
    """The ratios by what they tell."""
    import test_speed as speed
    from plans import plan_of

    from korbent.core.evaluate import effects as kept_effects
    from korbent.core.evaluate import effects_of, evaluate, road
    from korbent.core.model import edited

    class Plain:
        """Calls a benchmark's function itself."""

        taken = 0.0

        def __call__(self, function: Callable[[], object]) -> None:
            function()
            self.taken = least(function, 5)

        def pedantic(self, function: Callable[[], object], **_: object) -> None:
            self.taken = least(function, 1)

    bare = Plain()
    speed.test_bare_arithmetic_of_the_exact_kernel(bare)
    plan, width = plan_of(50), itertools.count()

    def scratch() -> None:
        road._known.clear()
        evaluate(plan)

    def effects() -> None:
        kept_effects._effects.clear()
        effects_of(plan, plan.pad("P25"))

    def edit() -> None:
        evaluate(edited(plan, ("pads", "P25", "width"), 2.0 + 1e-6 * next(width)))

    found = {
        name: least(function, 12) / bare.taken
        for name, function in (("all of 50 pads", scratch), ("one edit", edit), ("step effects", effects))
    }
    history = Plain()
    speed.test_history_of_50_years_in_8_steps(history, 25)
    found["history of 25"] = history.taken / bare.taken
    window = start(speed.BARE)
    found["start"] = start(speed.KORBENT) / window
    found["start to results"] = start(speed.RESULTS) / window
    return found


def main() -> None:
    begun = time.perf_counter()
    found = measured()
    if sys.argv[1:] == ["keep"]:
        KEPT.write_text(json.dumps({name: round(ratio, 4) for name, ratio in found.items()}, indent=1) + "\n")
    kept = json.loads(KEPT.read_text()) if KEPT.exists() else {}
    for name, ratio in found.items():
        before = kept.get(name)
        print(
            f"{name:16s} {ratio:8.3f}"
            + (f"   kept {before:8.3f}   {100 * (ratio / before - 1):+.0f} %" if before else "")
        )
    print(f"times a bare kernel, the start times a bare window; {time.perf_counter() - begun:.0f} s")


if __name__ == "__main__":
    main()
