"""What is kept between calls never decides: warm results equal cold ones after a change of any field, undone ones the
former, in any thread."""

import os
import random
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any, get_args

import numpy as np
import pytest

from korbent.core.cache import Cache, forget_all, remembered, weigh
from korbent.core.model import Project, Water, edited
from korbent.core.model.frozen import Frozen
from korbent.core.model.plate import AddedBars, RaftLoad, Region, Rib, SubgradeZone, Thickening
from korbent.core.model.reinforcement import Bars
from korbent.core.model.site import Outline
from tests.attacks.edits import differences, results_of
from tests.core.test_rafts import raft
from tests.invariants.plans import random_project
from tests.invariants.whole import random_plan

THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
Path_ = tuple[str | int, ...]


def fields_in(value: Any, path: Path_ = ()) -> Iterator[tuple[Path_, Any, Any]]:
    """(path, value, annotation) of every field of a model that is no model itself; of rows the first two."""
    if not isinstance(value, Frozen):
        return
    for name, field in type(value).model_fields.items():
        inner = getattr(value, name)
        if name in ("notes", "expressions", "sources"):
            continue
        if isinstance(inner, Frozen):
            yield from fields_in(inner, (*path, name))
        elif isinstance(inner, tuple) and inner and isinstance(inner[0], Frozen):
            for at, row in enumerate(inner[:2]):
                key = getattr(row, "name", None) or getattr(row, "number", None) or at
                yield from fields_in(row, (*path, name, key))
        else:
            yield (*path, name), inner, field.annotation


def literals(annotation: Any) -> list[Any]:
    """The texts that an annotation allows."""
    if isinstance(annotation, str):
        return []
    found = [a for a in get_args(annotation) if isinstance(a, str)]
    return found + [t for a in get_args(annotation) for t in literals(a)]


def others(value: Any, annotation: Any) -> list[Any]:
    """Values to try instead of one."""
    if isinstance(value, bool):
        return [not value]
    if isinstance(value, (int, float)):
        return [value * 1.06 + 0.011, value * 0.93, value + 1, 0.5]
    words = [w for w in literals(annotation) if w != value]
    if value is None:
        return [*words, 0.6, 12.0, 25.0, "a word"]
    return [*words, *(["another"] if isinstance(value, str) else [])]


def changed(project: Project, path: Path_, value: Any, annotation: Any) -> Project | None:
    """The project with another value there; None where none is taken."""
    for other in others(value, annotation):
        try:
            return edited(project, path, other)
        except (ValueError, KeyError, TypeError, AttributeError):
            continue
    return None


def project_of(seed: int) -> Project:
    """Small, with steps and marks, or with walls, rings, several columns and types; with water, and an obstacle beside
    the first column."""
    project = random_plan(seed, 3) if seed % 2 else random_project(seed)
    x, y = project.load_point(project.pads[0].load_point).x, project.load_point(project.pads[0].load_point).y
    near = Outline(
        name="pipe",
        kind="obstacle",
        points=((x + 1.0, y - 9.0), (x + 1.2, y - 9.0), (x + 1.2, y + 9.0), (x + 1.0, y + 9.0)),
    )
    level = project.pads[0].level
    water = project.ground.water or Water(low=level - 3.0, normal=level + 0.2, high=level + 0.4)
    return project.replaced(site=(*project.site, near), ground=project.ground.replaced(water=water))


def raft_of(seed: int) -> Project:
    """A small raft with ribs, an opening, a thicker part, a zone, added bars and a load of its own, on springs or on
    the strata."""
    rib = Rib(name="X", axis="x", at=-1.8, width=0.5, depth=0.8)
    plate: dict[str, object] = {
        "mesh": 1.6,
        "ribs": (rib,),
        "openings": (Region(x_from=1.0, x_to=2.0, y_from=-0.5, y_to=0.5),),
        "thickenings": (Thickening(x_from=-4.6, x_to=-3.2, y_from=0.8, y_to=2.4, thickness=0.7),),
        "zones": (SubgradeZone(x_from=-4.6, x_to=0.0, y_from=-2.4, y_to=0.0, subgrade=15_000.0),),
        "added": (
            AddedBars(
                x_from=-2.0, x_to=0.0, y_from=-1.0, y_to=1.0, face="top_x", bars=Bars(diameter=0.012, spacing=0.2)
            ),
        ),
    }
    project = raft(thickness=0.4, **plate, ground="layers" if seed % 2 else "springs")
    pad = project.pads[0]
    assert pad.plate is not None
    on_it = RaftLoad(x_from=-4.0, x_to=4.0, y_from=0.0, y_to=2.0, case="G", pressure=5.0)
    return project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(loads=(on_it,))),))


@pytest.mark.long
@pytest.mark.parametrize("seed", [0, *(pytest.param(i, marks=pytest.mark.thorough) for i in range(1, 4))])
def test_a_change_of_any_field_of_a_raft_is_seen(seed: int) -> None:
    rng = random.Random(seed)
    base = raft_of(seed)
    before = results_of(base)
    own = [one for one in fields_in(base) if "plate" in one[0]]
    others = [one for one in fields_in(base) if "plate" not in one[0]]
    some = (own + others) if THOROUGH else rng.sample(own, 14) + rng.sample(others, 8)
    seen = 0
    for path, value, annotation in some:
        new = changed(base, path, value, annotation)
        if new is None:
            continue
        warm = results_of(new)
        assert not differences(before, results_of(base)), path
        forget_all()
        cold = results_of(new)
        assert not differences(cold, warm), path
        seen += bool(differences(before, warm))
        results_of(base)
    assert seen > len(some) // 4


@pytest.mark.long
@pytest.mark.parametrize("seed", range(8 if THOROUGH else 2))
def test_a_change_of_any_field_is_seen(seed: int) -> None:
    rng = random.Random(seed)
    base = project_of(seed + 11)
    before = results_of(base)
    all_fields = list(fields_in(base))
    some = all_fields if THOROUGH else rng.sample(all_fields, 28)
    seen = 0
    for path, value, annotation in some:
        new = changed(base, path, value, annotation)
        if new is None:
            continue
        warm = results_of(new)
        assert not differences(before, results_of(base)), path
        forget_all()
        cold = results_of(new)
        assert not differences(cold, warm), path
        seen += bool(differences(before, warm))
        results_of(base)  # warm again
    assert len(some) >= 28
    assert seen > len(some) // 10  # many fields do change something


@pytest.mark.long
def test_two_threads_at_once_find_the_same() -> None:
    first, second = random_plan(4, 3), random_project(6)
    projects = []
    for i in range(12):
        source = (first, second)[i % 2]
        pad = source.pads[i % len(source.pads)]
        projects.append(edited(source, ("pads", pad.name, "thickness"), pad.thickness + 0.01 * i))
    forget_all()
    expected = [results_of(p) for p in projects]
    for _ in range(3):
        forget_all()
        with ThreadPoolExecutor(4) as pool:
            found = list(pool.map(results_of, projects))
        for a, b in zip(expected, found):
            assert not differences(a, b)


def test_the_least_used_go_first_by_weight() -> None:
    kept: Cache[np.ndarray] = Cache(most=10_000)
    for i in range(5):
        kept.put((i,), None, np.zeros(300))  # 2400 bytes each
    assert kept.weight <= 10_000
    assert set(kept.those_of([(i,) for i in range(5)])) == {1, 2, 3, 4} - (
        {1} if 4 * weigh(np.zeros(300)) > 10_000 else set()
    )
    oldest = min(kept.those_of([(i,) for i in range(5)]))
    kept.of((oldest,), None, lambda: np.ones(1))  # used: not the next to go
    kept.put((9,), None, np.zeros(300))
    assert oldest in {i for i in range(5) if kept.those_of([(i,)])}
    kept.clear()
    assert (len(kept), kept.weight) == (0, 0)


def test_arguments_are_kept_alive_with_what_was_made_of_them() -> None:
    calls = []

    @remembered(4)
    def named(value: tuple[int, ...]) -> int:
        calls.append(value)
        return len(calls)

    value = tuple(range(1, 3))
    assert named(value) == named(value) == 1
    assert named(tuple(range(1, 3))) == 2  # equal, but not the very same
    with pytest.raises(TypeError):
        named(value=value)
