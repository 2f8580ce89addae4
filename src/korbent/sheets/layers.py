"""The layers of drawing files: names after ISO 13567-2 (agent, element, presentation), colours, line weights; an office
may name its own."""

from collections.abc import Mapping
from dataclasses import dataclass

from korbent.words import say

AGENT = "S-"
"""Agent responsible: structure."""
GEOMETRY, TEXT, DIMENSION, HATCH = "E-", "T-", "D-", "H-"
"""Presentation: element, text, dimension, hatch."""


@dataclass(frozen=True)
class Layer:
    """What lies together: an element of six characters, its colour (index of the colour table), line weight (1/100 mm),
    what it holds."""

    element: str
    colour: int
    weight: int
    says: str


LAYERS = {
    "site": Layer("SITE--", 1, 35, say("boundaries, obstacles, existing foundations")),
    "grid": Layer("GRID--", 8, 18, say("grid lines and their bubbles")),
    "ground": Layer("GROUND", 34, 18, say("strata, boreholes")),
    "water": Layer("WATER-", 5, 18, say("levels of water")),
    "fill": Layer("EXCAV-", 8, 18, say("edges of excavation, backfill")),
    "foundations": Layer("FOUND-", 7, 50, say("bases, straps, rafts, pedestals, blinding")),
    "columns": Layer("COLUMN", 7, 35, say("columns and walls")),
    "bars": Layer("REBAR-", 6, 50, "reinforcement"),
    "sections": Layer("SECTIO", 7, 35, say("section marks")),
    "loads": Layer("LOADS-", 8, 18, say("area loads")),
    "levels": Layer("LEVELS", 7, 18, say("level marks")),
    "results": Layer("RESULT", 3, 18, "results"),
    "dimensions": Layer("DIMENS", 8, 18, "dimensions"),
    "texts": Layer("ANNOTA", 7, 18, say("texts, tables, north")),
    "changes": Layer("REVISI", 1, 35, say("clouds and triangles of revisions")),
    "frame": Layer("FRAME-", 7, 35, say("frame and title block")),
    "": Layer("VARIOU", 7, 18, say("all else")),
}


def layer_name(layer: str, presentation: str, own: Mapping[str, str] | None = None) -> str:
    """The name in the file: that of the office where it has one, with the presentation behind it, else after ISO
    13567-2."""
    named = (own or {}).get(f"layer.{layer}")
    if named:
        return named if presentation == GEOMETRY else f"{named}-{presentation.strip('-')}"
    return f"{AGENT}{LAYERS.get(layer, LAYERS['']).element}{presentation}"
