"""Colours are told apart: whatever is written reads on whatever it is written on."""

import pytest

from korbent.drawing.theme import RATIO_WASH, THEMES, Theme, mixed

WRITTEN = ("ink", "soft", "accent", "beyond", "good", "water", "steel_x", "steel_y", "pressure")
UNDER = ("paper", "desk", "raised", "accent_wash", "beyond_wash", "odd_wash")
FILLS = ("fill", "made_ground", "topsoil", "clay", "silt", "sand", "gravel", "peat", "rock")
LEAST = 4.5
"""Web Content Accessibility Guidelines 2.1, success criterion 1.4.3, for text of ordinary size."""


def luminance(colour: str) -> float:
    """Relative luminance, as the guidelines define it."""
    shares = (int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
    red, green, blue = (s / 12.92 if s <= 0.04045 else ((s + 0.055) / 1.055) ** 2.4 for s in shares)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(first: str, second: str) -> float:
    """From 1 (the same) to 21 (black on white)."""
    dark, light = sorted((luminance(first), luminance(second)))
    return (light + 0.05) / (dark + 0.05)


def test_the_measure() -> None:
    assert contrast("#000000", "#ffffff") == pytest.approx(21.0)
    assert contrast("#777777", "#ffffff") == pytest.approx(4.48, abs=0.005)  # the known grey that just fails


@pytest.mark.parametrize("theme", THEMES.values(), ids=THEMES)
def test_text_reads_on_every_ground(theme: Theme) -> None:
    poor = {
        f"{text} on {ground}": round(contrast(theme.colour(text), theme.colour(ground)), 2)
        for text in WRITTEN
        for ground in UNDER
        if contrast(theme.colour(text), theme.colour(ground)) < LEAST
    }
    assert not poor


@pytest.mark.parametrize("theme", THEMES.values(), ids=THEMES)
def test_ink_reads_on_soils_and_paper_on_what_is_chosen(theme: Theme) -> None:
    poor = {soil for soil in FILLS if contrast(theme.ink, theme.colour(soil)) < LEAST}
    assert not poor
    assert contrast(theme.paper, theme.accent) >= LEAST


@pytest.mark.parametrize("theme", THEMES.values(), ids=THEMES)
def test_a_ratio_reads_on_its_colour(theme: Theme) -> None:
    """As the ledger of all bases writes it."""
    poor = {
        step / 20: round(contrast(theme.ink, mixed(theme.paper, theme.ratio(step / 20), RATIO_WASH)), 2)
        for step in range(21)
        if contrast(theme.ink, mixed(theme.paper, theme.ratio(step / 20), RATIO_WASH)) < LEAST
    }
    assert not poor
    assert contrast(theme.paper, theme.beyond) >= LEAST
