"""Holes and strata of an AGS4 file."""

from collections.abc import Iterable
from typing import NamedTuple

from korbent.core.ground.library import LIBRARY, entry_for, pattern_of
from korbent.core.model import Soil, Stratum
from korbent.files.ags4.form import Row
from korbent.files.ags4.reader import Hole, Reader
from korbent.words import say, say_count

NATIONAL, LOCAL = ("LOCA_NATE", "LOCA_NATN"), ("LOCA_LOCX", "LOCA_LOCY")
NOT_DESCRIBED = say("Not described")
SAME = 0.005
"""Depths this close are one, m."""


def holes_of(reader: Reader, shift: tuple[float, float] | None) -> tuple[dict[str, Hole], tuple[float, float]]:
    """(the holes by name, what was subtracted from their coordinates)."""
    rows: dict[str, tuple[str, Row]] = {}
    for place, row in reader.rows("LOCA", "LOCA_ID"):
        name = row["LOCA_ID"]
        if not name:
            reader.bad(place, say("the hole has no LOCA_ID"))
        elif name in rows:
            reader.bad(place, say("the hole '{name}' comes a second time; this row is left out", name=name))
        else:
            rows[name] = place, row
    national, local = (
        {
            name: (x, y)
            for name, (place, row) in rows.items()
            if (x := reader.number(place, row, "LOCA", system[0], "m")) is not None
            and (y := reader.number(place, row, "LOCA", system[1], "m")) is not None
        }
        for system in (NATIONAL, LOCAL)
    )
    places, is_local = _one_system(reader, national, local)
    found: dict[str, Hole] = {}
    for name, (place, row) in rows.items():
        level = reader.number(place, row, "LOCA", "LOCA_GL", "m")
        depth = reader.number(place, row, "LOCA", "LOCA_FDEP", "m")
        if level is None:
            reader.bad(place, say("{name} has no ground level (LOCA_GL): it is left out", name=name))
        elif name not in places:
            reader.bad(
                place,
                say(
                    "{name} has no coordinates ({local}): it is left out",
                    name=name,
                    local=" and ".join(LOCAL if is_local else NATIONAL),
                ),
            )
        else:
            found[name] = Hole(*places[name], level, depth)
    if found and shift is None:
        low = [min(h.x for h in found.values()), min(h.y for h in found.values())]
        far = max(map(abs, low)) > 5_000.0 and not is_local
        shift = (100.0 * (low[0] // 100.0), 100.0 * (low[1] // 100.0)) if far else (0.0, 0.0)
    dx, dy = shift or (0.0, 0.0)
    moved = {n: h._replace(x=round(h.x - dx, 6), y=round(h.y - dy, 6)) for n, h in found.items()}
    return moved, (dx, dy)


Places = dict[str, tuple[float, float]]


def _one_system(reader: Reader, national: Places, local: Places) -> tuple[Places, bool]:
    """(coordinates of all holes in one system, whether that is the local one).

    The system that more holes have, the local one of two alike; holes that have only the other come over by those that
    have both, where these agree on a shift."""
    if not national or not local:
        return (local, True) if local else (national, False)
    is_local = len(local) >= len(national)
    places, other = (dict(local), national) if is_local else (dict(national), local)
    lacking = sorted(other.keys() - places.keys())
    both = sorted(places.keys() & other.keys())
    if not lacking:
        return places, is_local
    shifts = [(places[n][0] - other[n][0], places[n][1] - other[n][1]) for n in both]
    spread = max((abs(s[i] - shifts[0][i]) for s in shifts for i in (0, 1)), default=float("inf"))
    names = (
        say("{lacking}: national coordinates only", lacking=", ".join(lacking))
        if is_local
        else say("{lacking}: local coordinates only", lacking=", ".join(lacking))
    )
    if spread <= 0.5:
        places |= {n: (other[n][0] + shifts[0][0], other[n][1] + shifts[0][1]) for n in lacking}
        reader.remarks.append(
            say_count(
                len(both),
                "{names}, brought over by {both}, which has both",
                "{names}, brought over by {both}, which have both",
                names=names,
                both=", ".join(both),
            )
        )
    elif both:
        reader.bad("LOCA", say("{names}, and the holes with both differ by more than a shift", names=names))
    return places, is_local


class _Described(NamedTuple):
    hole: str
    top: float
    base: float
    place: str
    row: Row


def strata_of(reader: Reader, holes: dict[str, Hole]) -> tuple[dict[str, list[Stratum]], list[Soil]]:
    """(strata by hole from above, the soils in the order in which they come)."""
    described = sorted(_described(reader, holes), key=lambda d: (d.hole, d.top))
    soil_of = _soils(reader, described)
    strata: dict[str, list[Stratum]] = {}
    soils: dict[str, Soil] = {}
    depths: dict[str, float] = {}
    for one in described:
        at = depths.get(one.hole, 0.0)
        into = strata.setdefault(one.hole, [])
        if one.top > at + SAME:
            reader.bad(
                one.place,
                say(
                    "between {at:g} and {top:g} m of {hole} nothing is described: a stratum '{not_described}' "
                    "without parameters stands there",
                    at=at,
                    top=one.top,
                    hole=one.hole,
                    not_described=NOT_DESCRIBED,
                ),
            )
            unknown = soils.setdefault(NOT_DESCRIBED, _not_described())
            into.append(Stratum(soil=unknown.name, thickness=round(one.top - at, 6)))
            at = one.top
        elif one.top < at - SAME:
            reader.bad(
                one.place,
                say(
                    "the stratum begins at {top:g} m, inside the one above that ends at {at:g} m: it is taken from there",
                    top=one.top,
                    at=at,
                ),
            )
        if one.base <= at + SAME:
            depths[one.hole] = at
            continue
        soil = soil_of[one.place]
        soils.setdefault(soil.name, soil)
        into.append(Stratum(soil=soil.name, thickness=round(one.base - at, 6)))
        depths[one.hole] = one.base
    for name, hole in holes.items():
        if name in depths and hole.depth is not None and depths[name] > hole.depth + SAME:
            reader.remarks.append(
                say(
                    "{name}: strata are described to {depths:g} m, the hole is {depth:g} m deep (LOCA_FDEP)",
                    name=name,
                    depths=depths[name],
                    depth=hole.depth,
                )
            )
    return {n: s for n, s in strata.items() if s}, list(soils.values())


def _described(reader: Reader, holes: dict[str, Hole]) -> Iterable[_Described]:
    """The rows with a hole and a top; a base that is missing is the next top, or the end of the hole."""
    rows: dict[str, list[tuple[float, float | None, str, Row]]] = {}
    for place, row in reader.rows("GEOL", "LOCA_ID", "GEOL_TOP", "GEOL_BASE"):
        name = reader.hole(place, row, holes)
        top, base = (reader.number(place, row, "GEOL", h, "m") for h in ("GEOL_TOP", "GEOL_BASE"))
        if name is None:
            continue
        if top is None:
            reader.bad(place, say("a stratum needs GEOL_TOP: it is left out"))
        else:
            rows.setdefault(name, []).append((top, base, place, row))
    for name, several in rows.items():
        several.sort(key=lambda r: r[0])
        ends = [*(r[0] for r in several[1:]), holes[name].depth]
        for (top, base, place, row), end in zip(several, ends):
            if base is None:
                base = end
                if base is None:
                    reader.bad(
                        place,
                        say(
                            "the last stratum of {name} has no GEOL_BASE and the hole no final depth (LOCA_FDEP): it is left out",
                            name=name,
                        ),
                    )
                    continue
            if base <= top:
                reader.bad(
                    place,
                    say(
                        "the stratum ends at {base:g} m, not below its top at {top:g} m: it is left out",
                        base=base,
                        top=top,
                    ),
                )
            else:
                yield _Described(name, top, base, place, row)


def _soils(reader: Reader, described: list[_Described]) -> dict[str, Soil]:
    """The soil of each row. A code under which clay and sand are described is two soils."""
    names = {one.place: _named(reader, one.row) for one in described}
    patterns: dict[str, set[str]] = {}
    for name, pattern in names.values():
        patterns.setdefault(name, set()).add(pattern)
    split = sorted(name for name, several in patterns.items() if len(several) > 1)
    for name in split:
        reader.remarks.append(
            say(
                "{name} is described as {patterns}: soils of their own",
                name=name,
                patterns=say(" and as ").join(sorted(patterns[name])),
            )
        )
    found = {}
    first: dict[str, Soil] = {}
    for one in described:
        name, pattern = names[one.place]
        own = f"{name[:68]}, {pattern}" if name in split else name
        if own not in first:
            first[own] = _soil(own, pattern, one.row.get("GEOL_DESC", ""))
        found[one.place] = first[own]
    return found


def _named(reader: Reader, row: Row) -> tuple[str, str]:
    """(name of the soil of a row, its pattern): by the description, else by what the codes stand for."""
    description = row.get("GEOL_DESC", "")
    code = row.get("GEOL_GEOL", "")
    legend = _meaning(reader, "GEOL_LEG", row.get("GEOL_LEG", ""))
    named = _meaning(reader, "GEOL_GEOL", code) or code
    pattern = pattern_of(description) or pattern_of(named) or pattern_of(legend) or "sand"
    return (named or description.split(".")[0] or pattern)[:80].strip() or pattern, pattern


def _meaning(reader: Reader, heading: str, code: str) -> str:
    for _, row in reader.rows("ABBR", "ABBR_HDNG", "ABBR_CODE", "ABBR_DESC"):
        if row["ABBR_HDNG"] == heading and row["ABBR_CODE"] == code:
            return row["ABBR_DESC"]
    return ""


def _soil(name: str, pattern: str, description: str) -> Soil:
    plain = Soil(name=name, pattern=pattern, description=description[:300], weight=18.0, weight_saturated=20.0)
    entry = entry_for(plain)
    start = entry.soil if entry else next(e.soil for e in LIBRARY if e.soil.pattern == pattern)
    return start.replaced(name=name, description=description[:300])


def _not_described() -> Soil:
    return Soil(
        name=NOT_DESCRIBED,
        pattern="made_ground",
        description=say("no description in the file"),
        weight=18.0,
        weight_saturated=20.0,
    )
