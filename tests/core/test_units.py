"""Units at the edge."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CHECKS
from korbent.core.quantity_text import AmbiguousNumberError, AmbiguousTonError, decimal_of, parse
from korbent.core.units import (
    FEET_AND_INCHES,
    NAMES,
    SUBGRADE,
    Showing,
    UnitError,
    _registry,
    factor,
    in_eighths,
    length_text,
    show,
    show_length,
    shown_unit,
    sizes_text,
    to_shown,
    understood,
)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("2.4", "m", 2.4),
        ("2,4", "m", 2.4),
        ("−3.2", "m", -3.2),
        ("1 234,5", "kN", 1234.5),
        ("1\u00a0234.5 kN", "kN", 1234.5),
        ("240 cm", "m", 2.4),
        ("8 ft", "m", 2.4384),
        ("3'-6\"", "m", 1.0668),
        ("-2'", "m", -0.6096),
        ("6 in", "m", 0.1524),
        ("2 kip", "kN", 8.896443),
        ("1 ksf", "kPa", 47.880259),
        ("2000 psf", "kPa", 95.760518),
        ("4000 psi", "MPa", 27.579029),
        ("120 pcf", "kN/m3", 18.850496),
        ("0.5 MN", "kN", 500.0),
        ("2 bar", "kPa", 200.0),
        ("12 kip ft", "kNm", 16.269815),
        ("30 %", "", 0.3),
        ("1e3", "kN", 1000.0),
    ],
)
def test_what_is_typed(text: str, unit: str, value: float) -> None:
    assert parse(text, unit) == pytest.approx(value, rel=1e-6)


@pytest.mark.parametrize("text", ["", "abc", "2.4.1", "3 kN", "1 furlong per", "--2", "2 m m m"])
def test_what_is_refused(text: str) -> None:
    with pytest.raises(UnitError):
        parse(text, "m")


def test_a_ton_is_asked_for() -> None:
    with pytest.raises(AmbiguousTonError, match="type 'short tsf' or 'metric tsf'"):
        parse("1.6 tsf", "kPa")
    assert parse("1.6 short tsf", "kPa") == pytest.approx(153.2168, rel=1e-5)
    assert parse("1.6 metric tsf", "kPa", ton="short") == pytest.approx(168.89, rel=1e-3)
    assert parse("2 short tons", "kN") == pytest.approx(17.7929, rel=1e-4)
    assert parse("2 metric ton", "kN") == pytest.approx(19.6133, rel=1e-4)
    assert parse("1.6 tsf", "kPa", ton="short") == pytest.approx(153.2168, rel=1e-5)
    assert parse("1.6 tsf", "kPa", ton="metric") == pytest.approx(168.89, rel=1e-3)


def test_a_plain_number_is_in_the_shown_unit() -> None:
    assert parse("10", "m", "us") == pytest.approx(3.048)
    assert parse("10 m", "m", "us") == 10.0
    assert shown_unit("kPa", "us") == "ksf"


@given(st.floats(0.001, 1e5))
def test_shown_values_come_back(value: float) -> None:
    for unit in ("m", "kN", "kPa", "kNm", "kN/m3", "MPa"):
        assert parse(repr(to_shown(value, unit, "us")), unit, "us") == pytest.approx(value, rel=1e-12)


def test_shown_digits() -> None:
    assert [show(v, "kPa") for v in (0.0, 0.1234, 2.345, 23.45, 234.5, 2345.0, -2.345)] == [
        "0",
        "0.123",
        "2.35",
        "23.4",
        "234",
        "2345",
        "−2.35",
    ]
    assert [show_length(v) for v in (2.4, 0.65, 1.125, -0.05, -0.0001)] == [
        "2.40",
        "0.65",
        "1.125",
        "−0.05",
        "0.00",
    ]


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("120 kN/m2", "kPa", 120.0),
        ("120 kN/m²", "kPa", 120.0),
        ("0.12 MN/m2", "kPa", 120.0),
        ("30 N/mm2", "MPa", 30.0),
        ("30 N/mm²", "MPa", 30.0),
        ("0.07 pci", "kN/m3", 0.07 * 4.4482216e-3 / 0.0254**3),
        ("0.12 kcf", "kN/m3", 0.12 * 4.4482216 / 0.3048**3),
        ("0.02 MN/m3", "kN/m3", 20.0),
        ("2 Mg/m3", "kN/m3", 2 * 9.80665),
        ("1900 kg/m3", "kN/m3", 1.9 * 9.80665),
        ("1e-7 m2/s", "m²/day", 0.00864),
        ("2 m2/yr", "m²/day", 2 / 365.25),
        ("2 m²/year", "m²/day", 2 / 365.25),
        ("12 k", "kN", 53.378659),
        ("12 Kip", "kN", 53.378659),
        ("12 KIPS", "kN", 53.378659),
        ("120 kip-in", "kNm", 13.558179),
        ("120 kip·in", "kNm", 13.558179),
        ("10 ft-kip", "kNm", 13.558179),
        ("10 k-ft", "kNm", 13.558179),
        ("10 kip ft", "kNm", 13.558179),
        ("10 KN-m", "kNm", 10.0),
        ("10 N-m", "kNm", 0.01),
        ("10000 Nmm", "kNm", 0.01),
        ("2 tf", "kN", 19.6133),
        ("3'-6 1/2\"", "m", 1.0795),
        ("3' 6 1/2\"", "m", 1.0795),
        ("3'6\"", "m", 1.0668),
        ("3 ft 6 in", "m", 1.0668),
        ("3 ft 6 1/2 in", "m", 1.0795),
        ("3 ft", "m", 0.9144),
        ('18"', "m", 0.4572),
        ('1/2"', "mm", 12.7),
        ("6 1/2 in", "mm", 165.1),
        ("-1'-6\"", "m", -0.4572),
        ("1,250.5", "kN", 1250.5),
        ("1.250,5", "kN", 1250.5),
        ("1 250", "kN", 1250.0),
        ("1'250", "kN", 1250.0),
        ("1’250.5", "kN", 1250.5),
        ("1,250,000", "kN", 1.25e6),
        ("0,250", "kN", 0.25),
        ("12,5", "kN", 12.5),
        ("1.250", "kN", 1.25),
        ("2.5e−3", "", 0.0025),
        (".5", "m", 0.5),
        (",5", "m", 0.5),
    ],
)
def test_as_people_type(text: str, unit: str, value: float) -> None:
    assert parse(text, unit) == pytest.approx(value, rel=1e-6)


def test_a_comma_and_three_digits_is_asked_for() -> None:
    with pytest.raises(AmbiguousNumberError, match=r"1\.25 or 1250"):
        parse("1,250", "kN")
    with pytest.raises(AmbiguousNumberError):
        parse("12,500 kN", "kN")
    assert parse("1,250", "kN", decimal=",") == 1.25
    assert parse("1,250", "kN", decimal=".") == 1250.0
    assert parse("1,250 kip", "kN", "us") == pytest.approx(1250 * 4.4482216)
    assert [decimal_of(t) for t in ("1,250", "1,25", "1.5", "1,250.5", "1.250,5", "0,250", "12", "1,250,000")] == [
        None,
        ",",
        ".",
        ".",
        ",",
        ",",
        None,
        ".",
    ]


@pytest.mark.parametrize(
    "text",
    ["1,2,3", "1.2.3", "1,25,000.5.1", "12 34", "1 25", "1.250,5,5", "1''2", "3'-6 1/0\"", "6 1/2", "9" * 80, "1e999"],
)
def test_numbers_that_are_none(text: str) -> None:
    with pytest.raises(UnitError):
        parse(text, "m")


@pytest.mark.parametrize("text", ["tonf", "ton/ft2", "tons", "tsf", "ton ft"])
def test_tons_in_any_unit_are_asked_for(text: str) -> None:
    unit = {"tonf": "kN", "tons": "kN", "ton ft": "kNm"}.get(text, "kPa")
    with pytest.raises(AmbiguousTonError):
        parse(f"2 {text}", unit)
    short, metric = (parse(f"2 {text}", unit, ton=t) for t in ("short", "metric"))  # type: ignore[arg-type]
    assert short / metric == pytest.approx(2000 * 0.45359237 / 1000, rel=1e-9)


@pytest.mark.parametrize(
    "unit",
    [
        "m*9**9**9",
        "kN/m/m/m/m/m/m/m",
        "",
        "1",
        "/",
        "kN//m",
        "x",
        "__import__('os')",
        "m" * 50,
        "kN m kN m kN m kN m",
        "K",
        "T",
        "µ",
        "m9",
        "kN+m",
        "(kN)",
        "kN%",
    ],
)
def test_only_units_of_the_list_are_understood(unit: str) -> None:
    with pytest.raises(UnitError):
        factor(unit, "kN")


@given(st.text(alphabet="kNmftipsa/*^·- 23()9'\"", max_size=40))
def test_any_text_is_a_unit_or_refused(text: str) -> None:
    try:
        words = understood(text)
    except UnitError:
        return
    assert len(words) < 400


@given(st.text(alphabet="0123456789.,' -−eE/\"", max_size=70))
def test_any_digits_are_a_number_or_refused(text: str) -> None:
    try:
        value = parse(text, "m")
    except UnitError:
        return
    assert abs(value) < 1e15


def test_the_short_list_of_units_says_what_the_long_one_of_the_library_says() -> None:
    import pint

    every = pint.UnitRegistry()
    for name in NAMES:
        words = understood(name)
        own = _registry().Quantity(1.0, words).to_root_units()
        known = every.Quantity(1.0, words).to_root_units()
        assert dict(own.unit_items()) == dict(known.unit_items()), name
        assert own.magnitude == pytest.approx(known.magnitude, rel=1e-14), name


def test_what_is_shown_all_the_time_is_what_the_library_says() -> None:
    """The fast list against the registry, each pair of one kind both ways."""
    from korbent.core import units

    compared = 0
    for a, (kind, _) in units.EXACT.items():
        for b, (other, _) in units.EXACT.items():
            if a == b or kind != other:
                continue
            registry = units._registry()
            told = registry.Quantity(1.0, units.understood(a)).to(units.understood(b)).magnitude
            assert units.factor(a, b) == pytest.approx(told, rel=1e-12), (a, b)
            compared += 1
    assert compared > 40


def test_every_pair_of_a_unit_set_is_in_the_fast_list() -> None:
    from korbent.core import units

    for system in units.SHOWN.values():
        for stored, shown in system.items():
            assert units.EXACT[stored][0] == units.EXACT[shown][0], (stored, shown)


FEET = Showing("us", (("m", FEET_AND_INCHES),))


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (1.524, "5'-0\""),
        (0.3048 * 3 + 0.0254 * 6.5, "3'-6 1/2\""),
        (-0.9144, "−3'-0\""),
        (0.0254 * 1.5, '1 1/2"'),
        (0.0, '0"'),
        (0.3048 - 1e-6, "1'-0\""),
        (10 * 0.3048 + 0.0254 * 11.99, "11'-0\""),
    ],
)
def test_sizes_in_feet_and_inches(value: float, text: str) -> None:
    assert length_text(value, FEET) == text
    if in_eighths(value):
        assert parse(text, "m", FEET) == pytest.approx(value, abs=4e-6)


@given(st.integers(min_value=-20_000, max_value=20_000))
def test_feet_and_inches_come_back_as_they_were(eighths: int) -> None:
    value = eighths * 0.0254 / 8
    assert in_eighths(value)
    assert parse(length_text(value, FEET), "m", FEET) == pytest.approx(value, abs=1e-9)


def test_sizes_with_their_unit_once() -> None:
    assert sizes_text((1.5, 2.0), "metric") == "1.50 × 2.00 m"
    assert sizes_text((1.5, 2.0), FEET) == "4'-11\" × 6'-6 3/4\""
    assert shown_unit("m", FEET) == "ft"
    assert show_length(1.5, Showing("metric", (("m", "mm"),))) == "1500"
    assert show_length(1.5005, Showing("metric", (("m", "mm"),))) == "1500.5"
    assert show_length(-0.00001) == "0.00"


def test_volumes_are_in_cubic_yards() -> None:
    assert to_shown(1.0, "m³", "us") == pytest.approx(1 / 0.9144**3)
    assert shown_unit("m³", "us") == "yd³"


def test_a_modulus_of_subgrade_reaction_is_never_a_unit_weight() -> None:
    """kN/m³ with metric units, pci with US ones; typed in any of its own units; pcf is refused."""
    us = Showing("us")
    assert shown_unit(SUBGRADE, Showing("metric")) == "kN/m³"
    assert shown_unit(SUBGRADE, us) == "pci"
    assert show(27_144.7, SUBGRADE, us) == "100.0"
    for text, value in (
        ("100 pci", 27_144.7),
        ("172.8 kcf", 27_144.7),
        ("27.1447 MN/m3", 27_144.7),
        ("27144.7 kPa/m", 27_144.7),
    ):
        assert parse(text, SUBGRADE) == pytest.approx(value, rel=1e-5)
    assert parse("100", SUBGRADE, us) == pytest.approx(27_144.7, rel=1e-5)
    for units in (Showing("metric"), us):
        with pytest.raises(UnitError, match="weight of a volume"):
            parse("120 pcf", SUBGRADE, units)
    assert shown_unit("kN/m3", us) == "pcf"


def test_every_check_is_shown_in_units_of_its_place() -> None:
    for check in CHECKS.values():
        if check.unit not in ("", "%", "‰"):
            other = shown_unit(check.unit, "us")
            assert other != check.unit, check.id
            assert factor(check.unit, other) > 0
    assert float(show(645.16, "mm²", "us")) == 1.0
    assert shown_unit("mm²", "us") == "in²"
