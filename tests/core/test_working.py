"""The working is the calculation: every recorded formula gives its recorded value again."""

import numpy as np
import pytest

from korbent.core.evaluate import outcomes_for
from korbent.core.explain.working import Working, working
from korbent.core.geometry import table
from korbent.core.model import Load, Project, Water, edited
from korbent.core.working import Recording, lines, names_in, number, pretty, pretty_symbol
from korbent.demo.starter import starter
from korbent.verification.layers import NEAR_SAND, SOFT, STIFF, STRONG, WEAK_SAND, layered_pad
from korbent.verification.pad import PARTIAL, one_pad


def lost(record: Recording, index: int) -> np.ndarray:
    """Situations in which the resultant lies outside the base: what rests on the pressure means nothing there."""
    outside = [record.steps[i] for i in record.leading_to(index) if record.steps[i].symbol in ("e_x", "p_s")]
    if not outside or record.steps[index].symbol in ("e_x", "e_y", "r_e", "k_e"):
        return np.array(False)
    nearest = record.nearest("r_e", record.steps[index].scope, -1)
    return np.asarray(record.steps[nearest].value) >= 0.9999


def check_formulas(project: Project) -> int:
    count = 0
    for pad in project.pads:
        record = Recording()
        outcomes_for(project, pad, table(pad), record)
        for i, step in enumerate(record.steps):
            if not step.formula:
                continue
            again = np.broadcast_to(
                record.evaluated(i), np.broadcast_shapes(np.shape(record.evaluated(i)), step.value.shape)
            )
            same = np.isclose(again, step.value, rtol=1e-9, atol=1e-9) | lost(record, i)
            assert same.all(), f"{pad.name}: {step.scope}: {step.symbol} = {step.formula}"
            count += 1
    return count


@pytest.mark.long
def test_every_formula_of_the_demo(demo: Project) -> None:
    assert check_formulas(demo) > 4000


@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"load": PARTIAL},
        {"load": Load(V=40.0, Hx=70.0, My=300.0)},
        {"load": Load(V=-900.0)},
        {"offset_x": 0.75, "offset_y": -0.9},
        {"rotation": 33.0},
        {"level": -3.0},
    ],
)
def test_every_formula_of_odd_pads(changes: dict[str, object]) -> None:
    assert check_formulas(one_pad(**changes)) > 200


def test_formulas_with_safety_factors() -> None:
    """The starter project without limit-state combinations takes the safety-factor road."""
    project = one_pad()
    kept = tuple(c for c in project.actions.combinations if "allowable" in c.serves)
    project = edited(project, ("actions", "combinations"), kept)
    assert check_formulas(project) > 100
    assert not starter().pads


def test_silent_and_recorded_results_are_the_same(demo: Project) -> None:
    pad = demo.pad("P8")
    silent = outcomes_for(demo, pad, table(pad))
    recorded = outcomes_for(demo, pad, table(pad), Recording())
    for a, b in zip(silent, recorded):
        assert a.check is b.check
        assert np.array_equal(a.ratio, b.ratio)


@pytest.mark.long
def test_every_check_with_a_ratio_opens_its_working(demo: Project) -> None:
    pad = demo.pad("P8")
    for outcome in outcomes_for(demo, pad, table(pad)):
        found = working(demo, pad, outcome.check.id)
        if not isinstance(found, Working):
            continue
        last = found.lines()[-1]
        assert last.symbol == "ratio"
        assert float(last.value.replace("−", "-")) == pytest.approx(found.result.ratio, rel=2e-3)
        assert "nan" not in "".join(line.text() for line in found.lines())


def test_a_working_holds_only_what_leads_to_it() -> None:
    record = Recording()
    record.given("a", 2.0)
    record.given("b", 3.0)
    record.step("c", "a*2", 4.0)
    assert [record.steps[i].symbol for i in record.leading_to(2)] == ["a", "c"]


def test_scopes_keep_symbols_apart_and_see_outer_ones() -> None:
    record = Recording()
    record.given("a", 2.0)
    first, second = record.scope("x"), record.scope("y")
    first.step("b", "a*2", 4.0)
    second.step("b", "a*3", 6.0)
    record.scope("x").step("c", "b + 1", 5.0)
    assert record.evaluated(record.find("c", "x")) == 5.0
    with pytest.raises(KeyError):
        record.find("c", "y")


def test_what_is_given_has_no_formula_and_words_go_by_name() -> None:
    record = Recording()
    record.given("a", 2.0, "m", note="from the drawing")
    record.step("b", "a*2", 4.0, "m", reference="EN 1", needs="a")
    first, second = record.steps
    assert (first.formula, first.note, first.inputs) == ("", "from the drawing", {})
    assert (second.reference, second.inputs) == ("EN 1", {"a": 0})
    with pytest.raises(TypeError):
        record.step("c", "a", 2.0, "m", "EN 1")  # type: ignore[misc]
    with pytest.raises(TypeError):
        record.given("c", 2.0, "m", "", "a note")  # type: ignore[misc]


def test_an_unknown_symbol_is_refused_at_once() -> None:
    with pytest.raises(KeyError):
        Recording().step("a", "b*2", 1.0)


def test_lines_put_numbers_in() -> None:
    record = Recording()
    record.given("gamma", np.array([[18.0, 20.0]]), "kN/m³")
    record.given("h", np.array([[2.0], [3.0]]), "m")
    record.step("sigma", "gamma*h**2", np.array([[72.0, 80.0], [162.0, 180.0]]), "kPa", reference="a book")
    shown = lines(record, 2, candidate=1, situation=1)[-1]
    assert (shown.formula, shown.numbers, shown.value) == ("γ·h²", "20·3²", "180")
    assert shown.text() == "σ = γ·h² = 20·3² = 180 kPa    [a book]"


def test_sums_over_cases_are_written_out() -> None:
    record = Recording()
    record.listed("f", np.array([[1.35, 0.0, 1.5]]), ("G", "W", "Q"))
    record.listed("V", np.array([400.0, 20.0, 100.0]), ("G", "W", "Q"), "kN")
    record.step("S", "total(f*V)", np.array([690.0]))
    shown = lines(record, 2, 0, 0)
    assert shown[-1].numbers == "(1.35·400 + 1.5·100)"
    assert shown[0].value == "G 1.35, Q 1.5"


@pytest.mark.parametrize(
    ("formula", "text"),
    [
        ("a/(b*c)", "a / (b·c)"),
        ("a/b*c", "a / b·c"),
        ("(a + b)*c", "(a + b)·c"),
        ("a - (b - c)", "a − (b − c)"),
        ("sqrt(a**2 + b**3)", "√(a² + b³)"),
        ("a**(b + 1)", "a^(b + 1)"),
        ("where(a > b, a, b)", "[a if a > b, else b]"),
        ("max(a, 1e-9)", "a"),
        ("max(a, 0)", "max(a; 0)"),
        ("exp(pi*t_phi_d)", "e^(π·t_φ,d)"),
        ("abs(e_x)", "|e_x|"),
    ],
)
def test_printing(formula: str, text: str) -> None:
    assert pretty(formula, {}) == text


def test_symbols_and_numbers() -> None:
    assert pretty_symbol("gammaprime") == "γ′"
    assert pretty_symbol("A_s_req") == "A_s,req"
    assert [number(v) for v in (0.0, 1234.5, 12.344, -0.004567, 1e-7)] == [
        "0",
        "1234",
        "12.34",
        "−0.004567",
        "1.000e−07",
    ]
    assert sorted(names_in("max(a, b)*pi + total(c)")) == ["a", "b", "c"]


@pytest.mark.long
@pytest.mark.parametrize(
    ("upper", "lower", "below", "settings"),
    [
        (STRONG, SOFT, 1.0, {}),
        (STRONG, WEAK_SAND, 1.0, {"layer_mechanism": "load_spread"}),
        (STRONG, NEAR_SAND, 0.6, {"bearing_method": "Vesic 1975"}),
        (SOFT, STIFF, 0.4, {"squeezing": True, "bearing_method": "Meyerhof 1963"}),
        (STIFF, SOFT, 0.8, {"bearing_method": "Brinch Hansen 1970"}),
    ],
)
def test_formulas_of_layered_ground(upper: dict, lower: dict, below: float, settings: dict) -> None:
    project = layered_pad(upper, lower, below, **settings)
    assert check_formulas(project) > 100
    check_formulas(layered_pad(upper, lower, below, SOFT, **settings))
    wet = project.replaced(ground=project.ground.replaced(water=Water(low=-1.5, normal=-0.5, high=-0.4)))
    check_formulas(wet)


@pytest.mark.parametrize("kind", ["M1", "M2", "M1+R2", "M1+R2*", "R"])
def test_formulas_of_the_safety_formats(kind: str) -> None:
    project = edited(
        one_pad(load=Load(V=700.0, Hx=90.0, Hy=40.0, My=30.0)),
        ("actions", "combinations", 2, "factor_set"),
        kind,
    )
    for path, value in (
        ("passive_angle", 32.0),
        ("prop_force", 15.0),
        ("seismic_overturning", "static_less_25"),
        ("factor_bearing", 3.0),
        ("board_strength", 300.0),
        ("base_tilt", 4.0),
    ):
        project = edited(project, ("settings", path), value)
    project = edited(project, ("actions", "cases", "E", "nature"), "seismic")
    check_formulas(project)


@pytest.mark.long
def test_a_check_comes_from_one_family_whatever_the_base() -> None:
    """Its working is made by that family alone: every base and standard agrees which one it is."""
    from korbent.core.bench import benches_for
    from korbent.core.evaluate.families import families_of, outcomes_of
    from korbent.core.working import SILENT
    from korbent.demo.coombe import coombe
    from korbent.demo.hollin import hollin
    from korbent.demo.lindmere import lindmere
    from korbent.demo.redstem import redstem

    gives: dict[str, set[str]] = {}
    for project in (lindmere(), coombe(), redstem(), hollin()):
        for _, bench in benches_for(project, project.pads):
            for family in families_of(bench):
                for outcome in outcomes_of(family, bench, project, SILENT):
                    kind = "raft " if bench.pads[0].kind == "raft" else ""
                    gives.setdefault(f"{kind}{outcome.check.id}", set()).add(family.__name__)
    assert len(gives) > 35
    assert {check: names for check, names in gives.items() if len(names) > 1} == {}
