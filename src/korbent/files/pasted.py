"""Pairs of numbers pasted from a spreadsheet or a paper."""

import re

from korbent.words import say

UNITS = {
    "mm": ("u", 1e-3),
    "m": ("u", 1.0),
    "cm": ("u", 1e-2),
    "in": ("u", 0.0254),
    "kPa": ("p", 1.0),
    "MPa": ("p", 1000.0),
    "kN/m2": ("p", 1.0),
    "kN/m²": ("p", 1.0),
    "ksf": ("p", 47.88026),
    "psf": ("p", 0.04788026),
    "kN": ("V", 1.0),
    "MN": ("V", 1000.0),
    "kip": ("V", 4.4482216),
}


def pairs_of(text: str, area: float = 0.0) -> tuple[tuple[float, float], ...]:
    """(settlement in m, pressure in kPa) of every line with two numbers, in rising settlement.

    A line without numbers may name the units of both columns, in either order: mm, m, cm, in; kPa, MPa, ksf, psf, or a
    force, that is divided by ``area`` (m2). Without it: mm, kPa.

    Raises:
        ValueError: what cannot be read, and where.
    """
    kinds = [("u", 1e-3), ("p", 1.0)]
    found = []
    for number, line in enumerate(text.splitlines(), 1):
        cells = [c.strip() for c in re.split(r"[\t;]|,(?=\s)|\s{2,}", line.strip()) if c.strip()]
        if len(cells) == 1:
            cells = line.split()
        values = []
        for cell in cells[:2]:
            try:
                values.append(float(cell.replace(",", ".").replace("−", "-")))
            except ValueError:
                break
        if len(values) == 2:
            pair = dict(zip((kind for kind, _ in kinds), (v * k for v, (_, k) in zip(values, kinds))))
            if "V" in pair:
                if area <= 0:
                    raise ValueError(say("forces need the area of the base: give pressures"))
                pair["p"] = pair["V"] / area
            found.append((pair["u"], pair["p"]))
        elif values or (found and line.strip()):
            raise ValueError(
                say(
                    "line {number} of what was copied has no two numbers: {line}", number=number, line=line.strip()[:40]
                )
            )
        elif line.strip():
            units = [re.search(r"[(\[,]\s*([^)\]]+?)\s*[)\]]?$", c) for c in cells[:2]]
            named = [UNITS[u.group(1)] for u in units if u and u.group(1) in UNITS]
            if len(named) == 2 and {"u"} < {k for k, _ in named}:
                kinds = named
    if len(found) < 2:
        raise ValueError(say("copy two columns, settlement and pressure, with two lines at least"))
    return tuple(sorted(found))
