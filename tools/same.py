"""Results before and after a redesign: the demos and random whole projects, kept as files with all their check results.

    tools/same.py keep FOLDER [COUNT]   writes the projects and what the code finds for them now
    tools/same.py compare FOLDER        reads the same projects and lists what differs by more than 1e-9

Run it with the package and the tests on the path. Ends with 1 where something differs.
"""

import json
import sys
from pathlib import Path

from tests.attacks.edits import Found, differences, results_of

from korbent.demo import DEMOS
from korbent.files.project_file import load, save

TOLERANCE = 1e-9


def keep(folder: Path, count: int) -> None:
    from tests.invariants.plans import random_project
    from tests.invariants.whole import random_plan

    folder.mkdir(parents=True, exist_ok=True)
    made = {name: example() for name, example in DEMOS.items()}
    made |= {f"whole{seed}": random_plan(seed) for seed in range(count // 2)}
    made |= {f"plan{seed}": random_project(seed) for seed in range(count - count // 2)}
    for name, project in made.items():
        save(project, folder / f"{name}.korbent")
        (folder / f"{name}.json").write_text(json.dumps(results_of(project)))
    print(f"{len(made)} projects kept")


def compare(folder: Path) -> int:
    """The number of projects that differ, each told with its first differences."""
    bad, checks = 0, 0
    for file in sorted(folder.glob("*.korbent")):
        before: Found = json.loads(file.with_suffix(".json").read_text())
        now = json.loads(json.dumps(results_of(load(file))))
        checks += len(before)
        other = differences(before, now, TOLERANCE)
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
