"""The chapter of strips: which bases, the numbers of bounds and curve, and why there is none."""

from importlib import import_module

import pytest

from korbent.core.bearing.as_strip import AsStrip, as_strip
from korbent.core.evaluate import evaluate
from korbent.core.model import Load, Project, Soil, edited
from korbent.core.plasticity.bounds import bound
from korbent.core.units import show
from korbent.sheets.calculation import calculation
from korbent.sheets.calculation.blocks import Figure, Heading, Para, Table, entry
from korbent.sheets.catalogue import KINDS, set_named, usual_sets
from korbent.verification.pad import one_pad

strips = import_module("korbent.sheets.calculation.strips")


@pytest.fixture(autouse=True)
def few(monkeypatch: pytest.MonkeyPatch) -> None:
    """Coarse meshes, so that it takes seconds."""
    monkeypatch.setattr(strips, "BOUNDS", 150)
    monkeypatch.setattr(strips, "CURVE", 100)
    strips._bound.cache_clear()
    strips._curve.cache_clear()


def two() -> Project:
    """A base that is long and one that is not."""
    project = one_pad(load=Load(V=900.0), width=1.5, length=7.5)
    first = project.actions.load_points[0]
    project = project.replaced(actions=project.actions.replaced(load_points=(first, first.replaced(name="C2", x=30.0))))
    other = project.pads[0].replaced(name="Q", load_point="C2", width=2.5, length=2.5)
    return project.replaced(pads=(*project.pads, other))


@pytest.mark.long
def test_a_long_base_is_bracketed_and_goes_to_collapse() -> None:
    project = edited(two(), ("ground", "soils", "ground", "drainage"), "drained")
    found = strips.strips(project, evaluate(project), False)
    titles = [b.text for b in found if isinstance(b, Heading)]
    assert titles == ["Strips by bounds and to collapse", "P, drained"]
    rows, points = (b for b in found if isinstance(b, Table))
    values = {entry(r[0]): entry(r[1]) for r in rows.rows}
    own = as_strip(project, project.pads[0], "drained")
    assert isinstance(own, AsStrip)
    for side, name in (("lower", "from below"), ("upper", "from above")):
        assert values[name] == show(bound(own.section, side, 150).pressure, "kPa", "metric", 4)  # type: ignore[arg-type]
    assert set(values) >= {"EN 1997-1 Annex D", "Vesic 1975", "exact"}
    assert float(values["from below"]) < float(values["from above"])
    assert values["exact"] == "–"  # the strata are cut at the water level
    pressures = [float(entry(r[1])) for r in points.rows]
    assert pressures == sorted(pressures)
    # the pressure of the situation is met, the curve ends within the bracket widened for a mesh as coarse as this
    assert min(abs(p - own.pressure) for p in pressures) < 0.01 * own.pressure
    assert 0.95 * float(values["from below"]) < pressures[-1] < 1.05 * float(values["from above"])
    assert len([b for b in found if isinstance(b, Figure)]) == 2
    said = " ".join(b.text for b in found if isinstance(b, Para))
    assert "bounds of the strip, not of a base with ends" in said
    assert "click" not in said


def unsolved(monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing is solved where only the words matter."""
    monkeypatch.setattr(strips, "_bound", lambda *_: None)
    monkeypatch.setattr(strips, "_curve", lambda *_: "none was asked for")


def test_without_a_long_base_the_one_whose_bearing_governs_is_looked_at(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    unsolved(monkeypatch)
    project = edited(two(), ("pads", "P", "length"), 2.0)
    results = evaluate(project)
    worst = max(results.pads, key=lambda r: r.worst_in("bearing").ratio or 0.0)
    titles = [b.text for b in strips.strips(project, results, False) if isinstance(b, Heading)]
    assert titles[1:] == [f"{worst.name}, drained", f"{worst.name}, undrained"]


def test_what_has_no_strengths_says_why() -> None:
    project = one_pad(width=1.5, length=7.5)
    soil = Soil(name="ground", weight=18.0, weight_saturated=20.0, modulus=2e4)
    project = project.replaced(ground=project.ground.replaced(soils=(soil,)))
    found = strips.strips(project, evaluate(project), False)
    assert any(isinstance(b, Para) and b.text.startswith("Not looked at: ") for b in found)


def test_it_goes_out_when_it_is_ticked(monkeypatch: pytest.MonkeyPatch) -> None:
    unsolved(monkeypatch)
    project = edited(two(), ("ground", "soils", "ground", "drainage"), "drained")
    assert not next(c for c in usual_sets(project)[0].sheets if c.key == "strips").on
    assert KINDS["strips"].group == "calculation"
    own = calculation(project, evaluate(project), set_named(project, ""), ("strips",))
    assert any(isinstance(b, Heading) and b.text == "P, drained" for b in own.blocks)
    assert strips.strips(project.replaced(pads=()), evaluate(project.replaced(pads=())), True) == []
