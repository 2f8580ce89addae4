"""Results before and after a redesign: the demos and random whole projects, kept as files with all their check results.

    tools/same.py keep FOLDER [COUNT]   writes the projects and what the code finds for them now
    tools/same.py compare FOLDER        reads the same projects and lists what differs by more than 1e-9

Run it with the package and the tests on the path. Ends with 1 where something differs.
"""

import json
import sys
from pathlib import Path

from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.demo import DEMOS
from korbent.files.project_file import load, save

TOLERANCE = 1e-9
Found = dict[str, list[object]]


def results(project: Project) -> Found:
    """By foundation and check: state, ratio, demand, capacity, combination, message."""
    return {
        f"{c.foundation} {c.check.id}": [
            c.state.name,
            c.ratio,
            c.demand,
            c.capacity,
            c.combination,
            c.message,
        ]
        for c in evaluate(project).all_checks
    }


def keep(folder: Path, count: int) -> None:
    from tests.invariants.plans import random_project
    from tests.invariants.whole import random_plan

    folder.mkdir(parents=True, exist_ok=True)
    made = {name: example() for name, example in DEMOS.items()}
    made |= {f"whole{seed}": random_plan(seed) for seed in range(count // 2)}
    made |= {f"plan{seed}": random_project(seed) for seed in range(count - count // 2)}
    for name, project in made.items():
        save(project, folder / f"{name}.korbent")
        (folder / f"{name}.json").write_text(json.dumps(results(project)))
    print(f"{len(made)} projects kept")


def differs(a: object, b: object) -> bool:
    if isinstance(a, float) and isinstance(b, float):
        return abs(a - b) > TOLERANCE * max(abs(a), abs(b), 1e-6)
    return a != b


def compare(folder: Path) -> int:
    """The number of projects that differ, each told with its first differences."""
    bad, checks = 0, 0
    for file in sorted(folder.glob("*.korbent")):
        before: Found = json.loads(file.with_suffix(".json").read_text())
        now = json.loads(json.dumps(results(load(file))))
        checks += len(before)
        other = [
            f"  {name}: {before.get(name)} -> {now.get(name)}"
            for name in sorted({*before, *now})
            if len(before.get(name, [])) != len(now.get(name, []))
            or any(differs(a, b) for a, b in zip(before.get(name, []), now.get(name, [])))
        ]
        if other:
            bad += 1
            print(f"{file.stem}: {len(other)} differ", *other[:4], sep="\n")
    print(f"{checks} checks, {bad} projects differ")
    return bad


if __name__ == "__main__":
    if len(sys.argv) >= 3 and sys.argv[1] == "keep":
        keep(Path(sys.argv[2]), int(sys.argv[3]) if len(sys.argv) > 3 else 200)
    elif len(sys.argv) == 3 and sys.argv[1] == "compare":
        sys.exit(1 if compare(Path(sys.argv[2])) else 0)
    else:
        sys.exit(__doc__)
