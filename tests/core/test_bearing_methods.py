"""The named methods of bearing resistance: factors, limits, every recorded formula, and each other."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.bearing.methods import METHODS, Footing, Method, hansen, meyerhof, terzaghi, vesic
from korbent.core.working import Array, Recording

THIRTY = math.radians(30)
ALL = list(METHODS.values())


def a(value: float) -> Array:
    return np.array([[value]])


def base(**changes: float) -> Footing:
    values: dict[str, float] = {
        "N": 900.0,
        "H_B": 0.0,
        "H_L": 0.0,
        "B": 1.8,
        "L": 2.4,
        "depth": 1.0,
        "cohesion": 5.0,
        "phi": THIRTY,
        "overburden": 18.0,
        "weight": 19.0,
        "tilt": 0.0,
        "slope": 0.0,
        "circle": 0.0,
    }
    return Footing(**{k: a(v) for k, v in (values | changes).items()})


def value(found: object) -> float:
    return float(found.pressure[0, 0])  # type: ignore[attr-defined]


def test_bearing_capacity_factors_at_thirty_degrees() -> None:
    """Prandtl and Reissner 18.40 and 30.14; Terzaghi 22.5 and 37.2 (as printed in methods' tables, from memory)."""
    N_q, N_c, N_gamma = (float(v) for v in terzaghi.factors(np.array(THIRTY)))
    assert (N_q, N_c) == (pytest.approx(22.46, abs=0.02), pytest.approx(37.16, abs=0.03))
    assert N_gamma == pytest.approx(19.7, abs=0.1)
    recording = Recording()
    meyerhof.drained(base(), recording)
    assert float(np.ravel(recording.steps[recording.find("N_gamma")].value)[0]) == pytest.approx(15.67, abs=0.01)
    for method, expected in ((hansen, 15.07), (vesic, 22.40)):
        recording = Recording()
        method.drained(base(), recording)
        assert float(np.ravel(recording.steps[recording.find("N_gamma")].value)[0]) == pytest.approx(expected, abs=0.01)


@pytest.mark.parametrize(("phi", "N_gamma"), [(20, 5.0), (40, 100.4), (45, 297.5)])
def test_terzaghi_weight_factor_as_tabulated(phi: float, N_gamma: float) -> None:
    assert float(terzaghi.factors(np.array(math.radians(phi)))[2]) == pytest.approx(N_gamma, rel=0.01)


def test_undrained_strips_on_the_surface() -> None:
    """(pi + 2) cu of Prandtl for all but Terzaghi, whose rough base gives (1.5 pi + 1) cu."""
    strip = base(L=1e9, depth=0.0, cohesion=40.0, overburden=0.0, weight=0.0)
    for name, method in METHODS.items():
        expected = 1.5 * math.pi + 1 if name.startswith("Terzaghi") else math.pi + 2
        assert value(method.undrained(strip)) == pytest.approx(40 * expected, rel=1e-6), name


@pytest.mark.parametrize("method", ALL, ids=list(METHODS))
@given(
    H_B=st.floats(0, 250),
    H_L=st.floats(0, 250),
    B=st.floats(0.5, 3),
    more=st.floats(0, 4),
    depth=st.floats(0, 5),
    cohesion=st.floats(0.5, 80),
    phi=st.floats(12, 45),
    tilt=st.floats(0, 0.3),
    slope=st.floats(0, 0.35),
    circle=st.sampled_from([0.0, 1.0]),
)
def test_every_recorded_formula_gives_its_value(
    method: Method, H_B: float, H_L: float, B: float, more: float, **rest: float
) -> None:
    rest["phi"] = math.radians(rest["phi"])
    case = base(H_B=H_B, H_L=H_L, B=B, L=B + more, N=700.0, **rest)
    for compute in (method.drained, method.undrained):
        recording = Recording()
        found = compute(case, recording)
        if found.slides.any():
            continue
        for i, step in enumerate(recording.steps):
            if step.formula:
                assert np.allclose(recording.evaluated(i), step.value, rtol=1e-9, atol=1e-9), (
                    method.NAME,
                    step.symbol,
                )
        assert np.ravel(recording.steps[recording.find("q_ult")].value)[0] == pytest.approx(value(found), rel=1e-9)


@pytest.mark.parametrize("method", ALL, ids=list(METHODS))
def test_what_helps_and_what_harms(method: Method) -> None:
    for compute in (method.drained, method.undrained):
        usual = value(compute(base()))
        for name, more in (("cohesion", 9.0), ("overburden", 30.0)):
            assert value(compute(base(**{name: more}))) > usual
        for name in ("tilt", "slope"):
            changed = value(compute(base(**{name: 0.15})))
            assert changed < usual if name in method.TAKES else changed == pytest.approx(usual)
        pushed = value(compute(base(H_B=3.0)))
        assert pushed < usual if "inclination" in method.TAKES else pushed == pytest.approx(usual)
    assert value(method.drained(base(weight=12.0))) < value(method.drained(base()))


def test_hansen_against_plain_scalars() -> None:
    """Worked by hand with the full set of influences, along B'."""
    B, L, D, c, phi, q, gamma, N, H = 1.8, 2.4, 1.0, 5.0, THIRTY, 18.0, 19.0, 900.0, 60.0
    Nq = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
    Nc = (Nq - 1) / math.tan(phi)
    F = N + B * L * c / math.tan(phi)

    def one(b: float, l: float, h: float, other: float) -> float:  # noqa: E741
        iq, ig, ig_o = (1 - 0.5 * h / F) ** 5, (1 - 0.7 * h / F) ** 5, (1 - 0.7 * other / F) ** 5
        ic = iq - (1 - iq) / (Nq - 1)
        k = D / b if b >= D else math.atan(D / b)
        terms = (
            c * Nc * (1 + b / l * ic * Nq / Nc) * (1 + 0.4 * k) * ic,
            q * Nq * (1 + b / l * iq * math.sin(phi)) * (1 + 2 * math.tan(phi) * (1 - math.sin(phi)) ** 2 * k) * iq,
            0.5 * gamma * b * 1.5 * (Nq - 1) * math.tan(phi) * max(1 - 0.4 * b / l * ig / ig_o, 0.6) * ig,
        )
        return sum(terms)

    expected = min(one(B, L, H, 0.0), one(L, B, 0.0, H))
    assert value(hansen.drained(base(H_B=H))) == pytest.approx(expected, rel=1e-12)


def test_vesic_against_plain_scalars() -> None:
    """Tilt and slope together, H along L'."""
    B, L, D, c, phi, q, gamma, N, H, eta, beta = 1.8, 2.4, 1.0, 5.0, THIRTY, 18.0, 19.0, 900.0, 70.0, 0.1, 0.2
    t = math.tan(phi)
    Nq = math.exp(math.pi * t) * math.tan(math.pi / 4 + phi / 2) ** 2
    Nc, Ng = (Nq - 1) / t, 2 * (Nq + 1) * t
    m = (2 + L / B) / (1 + L / B)
    left = 1 - H / (N + B * L * c / t)
    iq, ig = left**m, left ** (m + 1)
    ic = iq - (1 - iq) / (Nc * t)
    bq, gq = (1 - eta * t) ** 2, (1 - math.tan(beta)) ** 2
    bc, gc = bq - (1 - bq) / (Nc * t), gq - (1 - gq) / (Nc * t)
    k = D / B
    expected = (
        c * Nc * (1 + B / L * Nq / Nc) * (1 + 0.4 * k) * ic * bc * gc
        + q * Nq * (1 + B / L * t) * (1 + 2 * t * (1 - math.sin(phi)) ** 2 * k) * iq * bq * gq
        + 0.5 * gamma * B * Ng * (1 - 0.4 * B / L) * ig * bq * gq
    )
    assert value(vesic.drained(base(H_L=H, tilt=eta, slope=beta))) == pytest.approx(expected, rel=1e-12)


def test_hansen_undrained_adds_its_influences() -> None:
    H, c = 100.0, 40.0
    i = 0.5 - 0.5 * math.sqrt(1 - H / (1.8 * 2.4 * c))
    expected = (math.pi + 2) * c * (1 + 0.2 * 0.75 + 0.4 / 1.8 - i - 5 / 147 - 10 / 147) + 18.0
    found = hansen.undrained(base(H_B=H, cohesion=c, tilt=math.radians(5), slope=math.radians(10)))
    assert value(found) == pytest.approx(expected, rel=1e-12)


def test_the_named_annex_d_is_that_of_the_checks() -> None:
    from korbent.core.bearing.annex_d import drained, effective_sizes

    B, L, _, H, m = effective_sizes(a(1.8), a(2.4), a(50.0), a(20.0))
    expected = drained(a(900.0), H, m, B, L, a(5.0), np.tan(a(THIRTY)), a(18.0), a(19.0)).pressure
    found = METHODS["EN 1997-1 Annex D"].drained(base(H_B=50.0, H_L=20.0))
    assert value(found) == pytest.approx(float(expected[0, 0]), rel=1e-12)


@given(st.floats(20, 40), st.floats(0.8, 3.0))
def test_the_methods_lie_together(phi: float, B: float) -> None:
    """Vertical load on a square: all within a factor of two and a half of each other."""
    case = base(phi=math.radians(phi), B=B, L=B)
    values = [value(m.drained(case)) for m in ALL]
    assert max(values) / min(values) < 2.5


def test_depth_over_the_effective_width_is_a_choice_that_tends_to_safety() -> None:
    """As the resultant nears the edge, D/B' grows without end; D over the full width does not, so that the resistance
    goes to nothing."""
    from korbent.core.evaluate import evaluate_pad
    from korbent.core.model import Load, edited
    from korbent.verification.pad import one_pad

    def factor(e: float, width: str) -> float:
        project = edited(one_pad(load=Load(V=600.0, My=600.0 * e), level=-2.0), ("settings", "factor_bearing"), 3.0)
        project = edited(project, ("settings", "depth_width"), width)
        project = edited(project, ("settings", "bearing_method"), "Meyerhof 1963")
        return evaluate_pad(project, project.pads[0]).check("safety-undrained").factor or 0.0

    full, effective = ([factor(e, w) for e in (0.5, 1.0, 1.2)] for w in ("full", "effective"))
    assert full == sorted(full, reverse=True)
    assert full[-1] < 0.4 * full[0]
    assert all(b > a for a, b in zip(full, effective))


def test_the_arctangent_throughout_has_no_jump() -> None:
    from dataclasses import replace

    for method in ("Vesic 1975", "Brinch Hansen 1970"):
        values = []
        for depth in (1.9999999, 2.0000001):
            here = replace(base(depth=depth), full_B=a(2.0), full_L=a(2.0))
            values.append([value(METHODS[method].drained(replace(here, arctan=t))) for t in (False, True)])
        jump, none = (abs(values[1][k] / values[0][k] - 1) for k in (0, 1))
        assert jump > 1e-3
        assert none < 1e-6
