"""Random work on a project: edits of any value, rows added and taken away, undo and redo, as a careless user might do
them."""

import json
import random
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from korbent.app.session import Session
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.core.model.expressions import ExpressionError
from korbent.core.model.project import InconsistentError
from korbent.files.project_file import dumps, load

NAMED = ("number", "name")
Found = dict[str, list[Any]]


def results_of(project: Project) -> Found:
    """All that a ledger shows of a project, by foundation and check."""
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


def results_of_file(path: str) -> Found:
    """The same of a file; for a process of its own."""
    return results_of(load(Path(path)))


def differences(first: Found, second: Found, tolerance: float = 1e-7) -> list[str]:
    """Where two results are not the same."""

    def apart(a: Any, b: Any) -> bool:
        if isinstance(a, float) and isinstance(b, float):
            return abs(a - b) > tolerance * max(abs(a), abs(b), 1e-6)
        return bool(a != b)

    names = sorted({*first, *second})
    return [
        f"{name}: {first.get(name)} / {second.get(name)}"
        for name in names
        if name not in first or name not in second or any(map(apart, first[name], second[name]))
    ]


def places_in(value: Any, place: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The paths of all plain values of a project as its tables name them: rows by their names."""
    if isinstance(value, dict):
        return [p for k, v in value.items() for p in places_in(v, (*place, k))]
    if isinstance(value, list):
        found = []
        for i, one in enumerate(value):
            key = next((one[n] for n in NAMED if isinstance(one, dict) and n in one), i)
            found += places_in(one, (*place, key))
        return found
    return [place]


def value_in(content: Any, place: tuple[Any, ...]) -> Any:
    """The value at a path."""
    for step in place:
        if isinstance(content, list) and not (isinstance(step, int) and step < len(content)):
            content = next(one for one in content if any(one.get(n) == step for n in NAMED))
        elif isinstance(content, list):
            found = [one for one in content if isinstance(one, dict) and any(one.get(n) == step for n in NAMED)]
            content = found[0] if found else content[step]
        else:
            content = content[step]
    return content


def another(rng: random.Random, value: Any, texts: list[str]) -> Any:
    """Some other value for one that stands there."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, (int, float)):
        new = rng.choice((value * rng.uniform(0.5, 1.6), value + rng.uniform(-1, 1), -value, 0.0, 1e-3, 1e4, 1e8))
        return round(new) if isinstance(value, int) and rng.random() < 0.7 else new
    return rng.choice([*texts, "", "renamed", None])


def step(rng: random.Random, session: Session) -> str:
    """One random step of work; what was done. What is refused must leave the very same project behind."""
    kind = rng.random()
    if kind < 0.12:
        session.undo()
        return "undo"
    if kind < 0.17:
        session.redo()
        return "redo"
    before = session.project
    content = json.loads(dumps(before))["project"]
    if kind < 0.27:
        return _row(rng, session)
    places = [p for p in places_in(content) if p[0] not in ("expressions", "notes")]
    # of the many loads and tests as often as of the few settings
    heads = sorted({p[:2] for p in places})
    head = rng.choice(heads)
    place = rng.choice([p for p in places if p[:2] == head])
    value = value_in(content, place)
    texts = [v for p in places if p[-1] == place[-1] and isinstance(v := value_in(content, p), str)]
    new = another(rng, value, texts)
    if isinstance(new, str) and rng.random() < 0.15:
        wrong = session.express(place, "= 2 + width/2")
    else:
        wrong = session.edit(place, new)
    if wrong:
        assert session.project is before, (place, new, wrong)
    return f"{'.'.join(map(str, place))} = {new!r}{' refused' if wrong else ''}"


def _row(rng: random.Random, session: Session) -> str:
    """A row is taken away, or one comes twice under another name."""
    project = session.project
    what = rng.choice(("pads", "load_points", "combinations", "cases", "boreholes", "tests"))
    holder = project.ground if what == "boreholes" else project if what == "pads" else project.actions
    if what == "tests":
        hole = rng.choice(project.ground.boreholes) if project.ground.boreholes else None
        if hole is None or not hole.tests:
            return "nothing there"
        fewer = hole.replaced(tests=hole.tests[1:])
        holes = tuple(fewer if h is hole else h for h in project.ground.boreholes)
        session.apply(project.replaced(ground=project.ground.replaced(boreholes=holes)))
        return f"a test of {hole.name} taken away"
    rows = list(getattr(holder, what))
    if not rows:
        return "nothing there"
    at = rng.randrange(len(rows))
    if rng.random() < 0.5:
        gone = rows.pop(at)
    else:
        gone = rows[at]
        new = {"number": max(r.number for r in rows) + 1} if what == "combinations" else {"name": f"{gone.name}b"}
        rows.insert(at + 1, gone.replaced(**new))
    try:
        if holder is project:
            changed = project.replaced(**{what: tuple(rows)})
        else:
            part = holder.replaced(**{what: tuple(rows)})
            changed = project.replaced(**{"ground" if what == "boreholes" else "actions": part})
        session.apply(changed)
    except (ValidationError, InconsistentError, ExpressionError, ValueError):
        return "refused"
    return f"{what} {getattr(gone, 'name', '')}: {len(rows)} rows"
