"""No mechanism of layered ground bears more of the stratum below the base than a rigorous upper bound of a strip, 5 %
allowed."""

from random import Random

import pytest

from korbent.core.bearing.as_strip import as_strip
from korbent.core.plasticity.bounds import bound
from korbent.core.plasticity.slip_lines import Strip, exact
from korbent.verification.layers import layered_pad

ALLOWED = 1.05


def sand(phi: float) -> dict[str, object]:
    return {"weight": 18.0, "weight_saturated": 20.0, "friction_angle": phi, "cohesion": 0.0}


def clay(cu: float) -> dict[str, object]:
    return {"drainage": "undrained", "weight": 18.0, "weight_saturated": 19.0, "undrained_strength": cu}


def ratios(
    upper: dict[str, object], lower: dict[str, object], below: float, drainage: str, **settings: object
) -> tuple[float, float]:
    """(with the strata over the upper stratum alone, by the adopted method; the same of the upper bound over the exact
    value)."""
    project = layered_pad(upper, lower, below, **settings)
    strip = as_strip(project, project.pads[0], drainage)
    assert not isinstance(strip, str), strip
    name = project.settings.bearing_method
    values = dict(strip.methods)
    with_strata = next(v for n, v in strip.methods if n.startswith(f"{name}, "))
    first, section = strip.section.layers[0], strip.section
    alone = exact(Strip(section.B, first.c, first.phi, first.gamma, section.q)).pressure
    return with_strata / values[name], bound(section, "upper", 600).pressure / alone


@pytest.mark.long
@pytest.mark.parametrize("below", [0.6, *(pytest.param(t, marks=pytest.mark.long) for t in (0.3, 0.9))])
@pytest.mark.parametrize("weak_over_strong", ["Meyerhof 1974", pytest.param("weak_alone", marks=pytest.mark.long)])
def test_weak_clay_over_strong_is_no_stronger_than_squeezed(below: float, weak_over_strong: str) -> None:
    mechanism, most = ratios(
        clay(20.0), clay(200.0), below, "undrained", weak_over_strong=weak_over_strong, squeezing=True
    )
    assert 1.0 <= mechanism <= ALLOWED * most
    plain, _ = ratios(clay(20.0), clay(200.0), below, "undrained", weak_over_strong="Meyerhof 1974")
    assert plain == pytest.approx(mechanism, rel=1e-9)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(16))
def test_random_grounds(seed: int) -> None:
    random = Random(seed)
    kinds = (
        (sand(random.uniform(28, 38)), clay(random.uniform(15, 60)), "drained"),
        (clay(random.uniform(50, 120)), clay(random.uniform(15, 45)), "undrained"),
        (clay(random.uniform(15, 40)), clay(random.uniform(50, 120)), "undrained"),
        (sand(random.uniform(28, 38)), sand(random.uniform(28, 38)), "drained"),
    )
    upper, lower, drainage = kinds[seed % 4]
    mechanism, most = ratios(
        upper,
        lower,
        random.uniform(0.3, 1.4) * 2.0,
        drainage,
        squeezing=random.random() < 0.5,
        bearing_method=random.choice(("Vesic 1975", "EN 1997-1 Annex D", "Meyerhof 1963")),
        weak_over_strong=random.choice(("weak_alone", "Meyerhof 1974")),
    )
    assert mechanism <= ALLOWED * most


@pytest.mark.long
@pytest.mark.parametrize(("weak", "strong"), [(28.0, 42.0), (32.0, 38.0)])
@pytest.mark.parametrize("below", [0.5, 1.0, 2.0])
def test_weak_sand_over_dense(weak: float, strong: float, below: float) -> None:
    mechanism, most = ratios(sand(weak), sand(strong), below, "drained", weak_over_strong="Meyerhof 1974")
    assert 1.0 <= mechanism <= ALLOWED * most
