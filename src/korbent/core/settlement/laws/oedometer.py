"""e-log p: along Cr below the greatest effective stress of the past, along Cc beyond it."""

import numpy as np

from korbent.core.model.ground import Soil
from korbent.core.model.labels import label
from korbent.core.settlement.column import Column
from korbent.core.settlement.formulas import LEAST
from korbent.core.settlement.laws.law import Path
from korbent.core.working import Array
from korbent.words import say


def compression_ratio(soil: Soil) -> float | None:
    """Cc/(1 + e0): typed, or from both."""
    if soil.compression_ratio is not None:
        return soil.compression_ratio
    if soil.compression_index is None or soil.void_ratio is None:
        return None
    return soil.compression_index / (1 + soil.void_ratio)


def recompression_ratio(soil: Soil) -> float | None:
    """Cr/(1 + e0): a typed share of Cc/(1 + e0), or from both."""
    if soil.recompression_share is not None:
        ratio = compression_ratio(soil)
        return None if ratio is None else soil.recompression_share * ratio
    if soil.recompression_index is None or soil.void_ratio is None:
        return None
    return soil.recompression_index / (1 + soil.void_ratio)


def ratios(column: Column) -> tuple[Array, Array]:
    """Cc/(1 + e0) and Cr/(1 + e0) of the cells, (points, 1, cells)."""
    soils = column.profile.soils
    return (
        column.each(np.array([compression_ratio(s) or 0.0 for s in soils])),
        column.each(np.array([recompression_ratio(s) or 0.0 for s in soils])),
    )


class Oedometer:
    """The effective stress follows its own past: what is taken off again swells along Cr."""

    how = say("e-log p, Boussinesq")
    reduced = True

    def lacking(self, soil: Soil) -> str:
        names = []
        if compression_ratio(soil) is None:
            names.append("compression_index")
        if recompression_ratio(soil) is None:
            names.append("recompression_index")
        needs_void = soil.compression_ratio is None or soil.recompression_share is None
        if names and needs_void and soil.void_ratio is None:
            names = [n for n in names if getattr(soil, n) is None] + ["void_ratio"]
        return say(" and no ").join(map(label, names))

    def strain(self, column: Column, path: Path) -> Array:
        first, again = ratios(column)
        start = np.maximum(path.before, LEAST)
        after = np.maximum(path.after, LEAST)
        past = path.yielded if path.highest is None else np.maximum(path.yielded, path.highest)
        greatest = np.maximum.accumulate(np.maximum(after, past), axis=0)
        return np.asarray(again * np.log10(after / start) + (first - again) * np.log10(greatest / path.yielded))

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        first, again = ratios(column)
        past = path.yielded if path.highest is None else np.maximum(path.yielded, path.highest)
        return np.asarray(np.where(after > past, first, again) / np.log(10) / np.maximum(after, LEAST))

    def hardened(self, column: Column, stress: Array) -> Array:
        first, again = ratios(column)
        return np.asarray((first - again) * np.log10(np.maximum(stress, LEAST)))
