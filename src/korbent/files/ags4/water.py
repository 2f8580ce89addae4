"""Groundwater of an AGS4 file: readings in standpipes, else strikes while boring."""

from korbent.core.model import Water
from korbent.core.units import UnitError, factor
from korbent.files.ags4.form import Row
from korbent.files.ags4.reader import LENGTHS, Hole, Reader
from korbent.words import say

READINGS = say("readings in standpipes (MOND)")
STRIKES = say("water strikes while boring (WSTG)")


Levels = dict[str, list[float]]


def water_of(reader: Reader, holes: dict[str, Hole]) -> tuple[Water | None, dict[str, float]]:
    """(lowest, median and highest of the levels that were found, None without any; the levels of holes that have
    another median)."""
    readings, strikes = _readings(reader, holes), _strikes(reader, holes)
    by_hole, source = (readings, READINGS) if readings else (strikes, STRIKES)
    levels = sorted(level for several in by_hole.values() for level in several)
    if not levels:
        return None, {}
    low, normal, high = (round(v, 3) for v in (levels[0], _median(levels), levels[-1]))
    reader.remarks.append(
        say(
            "water from {levels} {source}: lowest {low:+.2f} m, median {normal:+.2f} m, highest {high:+.2f} m",
            levels=len(levels),
            source=source,
            low=low,
            normal=normal,
            high=high,
        )
    )
    own = {name: round(_median(sorted(several)), 3) for name, several in (strikes | readings).items()}
    return Water(low=low, normal=normal, high=high), {n: v for n, v in own.items() if abs(v - normal) > 0.001}


def _median(levels: list[float]) -> float:
    at = len(levels) // 2
    return levels[at] if len(levels) % 2 else (levels[at - 1] + levels[at]) / 2


def _readings(reader: Reader, holes: dict[str, Hole]) -> Levels:
    levels: Levels = {}
    for place, row in reader.rows("MOND", "LOCA_ID", "MOND_TYPE", "MOND_RDNG"):
        kind = row["MOND_TYPE"].upper()
        if kind not in ("WDEP", "WLEV", "WATL", "GWL"):
            continue
        name = reader.hole(place, row, holes)
        reading = _in_metres(reader, place, row)
        if name is None or reading is None:
            continue
        # what the unit says goes before the type: levels above a datum, depths below the ground
        unit = row.get("MOND_UNIT", "").strip().lower().replace(" ", "")
        is_level = unit in ("maod", "mod", "mad") or (kind != "WDEP" and unit not in ("mbgl", "mbgs"))
        levels.setdefault(name, []).append(reading if is_level else holes[name].level - reading)
    return levels


def _in_metres(reader: Reader, place: str, row: Row) -> float | None:
    """A reading; each has its own unit under MOND_UNIT."""
    own = row.get("MOND_UNIT", "").strip()
    if not own:
        return reader.number(place, row, "MOND", "MOND_RDNG", "m")
    value = reader.number(place, row, "MOND", "MOND_RDNG", "")
    if value is None:
        return None
    unit = LENGTHS.get(own.lower(), own)
    try:
        return value * (1.0 if unit == "m" else factor(unit, "m"))
    except UnitError:
        reader.bad(f"{place}, MOND_UNIT", say("'{own}' is no length: the reading is left out", own=own))
        return None


def _strikes(reader: Reader, holes: dict[str, Hole]) -> Levels:
    """The levels to which water rose after each strike (WSTD_POST, the latest reading), else those of the strikes."""
    risen: dict[tuple[str, float], tuple[float, float]] = {}
    for place, row in reader.rows("WSTD", "LOCA_ID", "WSTG_DPTH", "WSTD_POST"):
        name = reader.hole(place, row, holes)
        strike = reader.number(place, row, "WSTD", "WSTG_DPTH", "m")
        depth = reader.number(place, row, "WSTD", "WSTD_POST", "m")
        minutes = reader.number(place, row, "WSTD", "WSTD_NMIN", "", quiet=True) or 0.0
        if name is not None and strike is not None and depth is not None:
            key = (name, round(strike, 3))
            risen[key] = max(risen.get(key, (-1.0, 0.0)), (minutes, depth))
    levels: Levels = {}
    for place, row in reader.rows("WSTG", "LOCA_ID", "WSTG_DPTH"):
        name = reader.hole(place, row, holes)
        strike = reader.number(place, row, "WSTG", "WSTG_DPTH", "m")
        if name is not None and strike is not None:
            _, depth = risen.get((name, round(strike, 3)), (0.0, strike))
            levels.setdefault(name, []).append(holes[name].level - depth)
    return levels
