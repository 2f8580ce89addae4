"""The map of sizes against single evaluations, and what it offers."""

import numpy as np
import pytest

from korbent.core.checks import State
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Project
from korbent.core.sizing import size_map as maps
from korbent.core.sizing.size_map import UP, raster, size_map, sized
from korbent.demo import redstem


@pytest.mark.long
@pytest.mark.parametrize("up", UP)
def test_every_place_is_what_the_pad_would_be(demo: Project, up: str) -> None:
    pad = demo.pad("P8")
    found = size_map(demo, pad, up, every=5)
    rng = np.random.default_rng(3)
    for _ in range(12):
        row, column = (int(rng.integers(n)) for n in found.ratio.shape)
        width, other = found.at(row, column)
        ratio = found.ratio[row, column]
        made = pad.resized(**{"width": width, up: other})
        if abs(made.offset_x) > width / 2:
            assert ratio == np.inf
            continue
        result = evaluate_pad(demo, made)
        if any(c.state is State.UNSTABLE or (c.state is State.FAILS and c.ratio is None) for c in result.checks):
            assert ratio == np.inf
            continue
        worst = max((c for c in result.checks if c.ratio is not None), key=lambda c: c.ratio or 0.0)
        assert ratio == pytest.approx(worst.ratio, rel=1e-9)
        assert found.checks[found.governing[row, column]] in [
            c.check.title for c in result.checks if c.ratio is not None and c.ratio > (worst.ratio or 0) - 1e-9
        ]


@pytest.mark.long
def test_the_smallest_holds_and_nothing_smaller_does(demo: Project) -> None:
    pad = demo.pad("P8")
    found = size_map(demo, pad)
    best = found.smallest
    assert best is not None
    assert found.ratio[best] <= 1.0 + 1e-9
    held = found.ratio <= 1.0 + 1e-9
    assert found.volume[best] == pytest.approx(found.volume[held].min())
    project = sized(demo, pad, "length", *found.at(*best))
    ratios = [c.ratio for c in evaluate_pad(project, project.pad("P8")).checks if c.ratio is not None]
    assert max(ratios) == pytest.approx(found.ratio[best])
    assert demo.pad("P8") is pad


def test_the_present_size_lies_on_the_raster_of_the_steps(demo: Project) -> None:
    for project, step in ((demo, 0.1), (redstem(), 0.3048 / 4)):
        pad = project.pads[0]
        found = size_map(project, pad, every=3)
        assert np.abs(found.x - pad.width).min() < 1e-6
        assert np.allclose(np.diff(found.x), 3 * step)
        assert found.x.min() > 0.4 * pad.width


def test_a_map_on_which_nothing_holds_offers_nothing(demo: Project) -> None:
    from korbent.core.model import edited

    strict = edited(demo, ("settings", "frost_depth"), 9.0)
    assert size_map(strict, strict.pad("P7"), every=4).smallest is None
    with pytest.raises(KeyError):
        size_map(demo, demo.pad("P7"), "rotation")


def test_raster_keeps_the_value_it_starts_from() -> None:
    values = raster(1.83, 0.1, 1.0, 2.5)
    assert 1.83 in values
    assert values.min() >= 1.0
    assert values.max() <= 2.5


@pytest.mark.long
def test_in_pieces_it_is_the_same_and_it_ends_when_asked(demo: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    pad = demo.pad("P8")
    whole = size_map(demo, pad, every=2)
    monkeypatch.setattr(maps, "AT_ONCE", 17)
    pieces = size_map(demo, pad, every=2)
    assert whole is not None
    assert pieces is not None
    assert pieces.ratio == pytest.approx(whole.ratio, rel=1e-9)
    assert (pieces.governing == whole.governing).all()
    assert pieces.checks == whole.checks
    asked: list[int] = []

    def stop() -> bool:
        asked.append(1)
        return len(asked) > 3

    assert size_map(demo, pad, every=2, stop=stop) is None
    assert len(asked) == 4
