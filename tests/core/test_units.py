"""Units at the edge."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.units import AmbiguousTonError, UnitError, parse, show, show_length, shown_unit, to_shown


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
        "0", "0.123", "2.35", "23.4", "234", "2345", "−2.35"
    ]  # fmt: skip
    assert [show_length(v) for v in (2.4, 0.65, 1.125, -0.05, -0.0001)] == [
        "2.40",
        "0.65",
        "1.125",
        "−0.05",
        "0.00",
    ]
