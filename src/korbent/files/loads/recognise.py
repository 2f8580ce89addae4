"""How a table of loads is to be read: its columns by their many names, units, the sense of its values; and what it
leaves open."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from korbent.core.quantity_text import AmbiguousTonError, Decimal, ton_unit
from korbent.core.units import UnitError, UnitSet, factor, shown_unit
from korbent.files.sheet import LONGEST_HEADING, Sheet, name_and_unit
from korbent.words import say

Sense = Literal["actions, V down", "actions, z up", "reactions, z up"]
SENSES: tuple[Sense, ...] = ("actions, V down", "actions, z up", "reactions, z up")
Up = Literal["z", "y"]

ROLES = ("point", "case", "V", "Hx", "Hy", "Mx", "My", "Mz", "x", "y")
MORE_ROLES = ("size_x", "size_y", "level", "kind", "nature")
"""Columns that are taken where a table has them, without being asked for."""
QUANTITIES = ("V", "Hx", "Hy", "Mx", "My", "Mz")
UNITS = {
    "V": "kN",
    "Hx": "kN",
    "Hy": "kN",
    "Mx": "kNm",
    "My": "kNm",
    "Mz": "kNm",
    "x": "m",
    "y": "m",
    "size_x": "m",
    "size_y": "m",
    "level": "m",
}
TURNED_UP: dict[str, str] = {"V": "Hy", "Hy": "V", "My": "Mz", "Mz": "My"}
"""Which column holds what where y points upwards: the vertical force is along y, the plan lies in x and z."""

# what headers are called, in lower case without unit, blanks and signs
NAMES: dict[str, tuple[str, ...]] = {
    "point": (
        "point",
        "column",
        "col",
        "node",
        "joint",
        "support",
        "loadpoint",
        "name",
        "label",
        "mark",
        "id",
        "wall",
    ),
    "case": ("case", "loadcase", "lc", "load", "action", "combination"),
    "V": ("v", "fz", "rz", "n", "p", "vertical", "axial", "verticalload", "f3"),
    "Hx": ("hx", "fx", "rx", "vx", "f1", "horizontalx"),
    "Hy": ("hy", "fy", "ry", "vy", "f2", "horizontaly"),
    "Mx": ("mx", "mxx", "rmx", "m1", "momentx"),
    "My": ("my", "myy", "rmy", "m2", "momenty"),
    "Mz": ("mz", "mzz", "rmz", "m3", "torsion"),
    "x": ("x", "xcoordinate", "coordinatex", "easting", "east"),
    "size_x": ("sizex", "columnx", "cx"),
    "size_y": ("sizey", "columny", "cy"),
    "level": ("level", "elevation", "z"),
    "kind": ("kind", "material", "type"),
    "nature": ("nature",),
    "y": ("y", "ycoordinate", "coordinatey", "northing", "north"),
}


LIMITS = ("max", "min")


@dataclass(frozen=True)
class Reading:
    """How a table is to be read."""

    columns: Mapping[str, int]
    """Column of each role."""
    units: Mapping[str, str]
    """Unit of each role's values where the cell has none."""
    sense: Sense = "actions, V down"
    swapped: bool = False
    """The table's x is the plan's y and the other way round."""
    up: Up = "z"
    """Which axis of the table points upwards."""
    decimal: Decimal | None = None
    """Its decimal sign; None: as its numbers show."""
    many: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    """Columns, by their number as text, that hold a quantity of one case each: (case or limit, role)."""
    unknown: Mapping[str, str] = field(default_factory=dict)
    """By role: a unit of its heading that is not understood, and why."""
    assumed: tuple[str, ...] = ()
    """Roles whose headings name no unit: that of the project is proposed."""
    natures: Mapping[str, str] = field(default_factory=dict)
    """What kind of action each case is, as chosen."""
    answers: tuple[str, ...] = ()
    """What was asked and confirmed."""


def heading(text: str) -> tuple[str, str]:
    """(name, unit) of a heading: Fz [kN], Fz (kN), Fz, kN, Fz kN."""
    text = text[:LONGEST_HEADING]
    found = name_and_unit(text)
    if found:
        return found
    words = re.split(r"[\s,;_/]+", text.strip())
    for count in (2, 1):
        unit = " ".join(words[-count:])
        name = " ".join(words[:-count])
        if name and len(words) > count and _role(name) and _measures(unit, _role(name) or ""):
            return name, unit
    return text.strip(), ""


def _plain(name: str) -> str:
    return re.sub(r"[^a-z0-9]", "", name.lower())


def _role(name: str) -> str | None:
    return next((r for r in (*ROLES, *MORE_ROLES) if _plain(name) in NAMES[r]), None)


def _measures(unit: str, role: str) -> bool:
    if role not in UNITS:
        return False
    try:
        factor(ton_unit(unit, "metric"), UNITS[role])
    except UnitError:
        return False
    return True


def recognised(sheet: Sheet | Sequence[str], units: UnitSet = "metric") -> Reading:
    """The reading that the title, the names and the units of a table suggest; units that are not named are those of the
    project."""
    header = sheet.header if isinstance(sheet, Sheet) else tuple(sheet)
    title = f"{sheet.title} {sheet.name}" if isinstance(sheet, Sheet) else ""
    columns: dict[str, int] = {}
    found: dict[str, str] = {role: shown_unit(unit, units) for role, unit in UNITS.items()}
    named: set[str] = set()
    unknown: dict[str, str] = {}
    many: dict[str, tuple[str, str]] = {}
    split = [heading(text) for text in header]
    for i, (name, unit) in enumerate(split):
        limited = re.fullmatch(r"(.*?)[\s_.\-]*\(?(max|min)\)?[\s_.\-]*(.*)", name, re.IGNORECASE)
        role = _role(name)
        if role is None and limited and (inner := _role(limited[1] or limited[3])) in QUANTITIES:
            role = inner
            many[str(i)] = (limited[2].lower(), str(role))
        elif role is None or role in columns:
            continue
        else:
            columns[role] = i
        assert role is not None
        if role in UNITS and unit:
            _take_unit(unit, role, found, named, unknown)
    if "case" not in columns and "V" not in columns and not many and "point" in columns:
        many = _cases_by_column(sheet, split, columns, found, named, unknown)
    lower = {_plain(name) for name, _ in split} | {_plain(_limit_of(name)) for name, _ in split}
    sense: Sense = "actions, V down"
    words = f"{title} {' '.join(header)}".lower()
    if lower & {"rz", "rx", "ry"} or re.search(r"\breactions?\b", words):
        sense = "reactions, z up"
    elif lower & {"fz", "f3"}:
        sense = "actions, z up"
    used = [r for r in UNITS if r in columns or any(role == r for _, role in many.values())]
    assumed = tuple(r for r in used if r not in named and r not in unknown)
    up: Up = "y" if re.search(r"\by[\s\-]*(axis)?[\s\-]*(is\s*)?up", words) else "z"
    return Reading(columns, found, sense, up=up, many=many, unknown=unknown, assumed=assumed)


def _limit_of(name: str) -> str:
    return re.sub(r"[\s_.\-]*\(?(max|min)\)?", "", name, flags=re.IGNORECASE)


def _take_unit(unit: str, role: str, found: dict[str, str], named: set[str], unknown: dict[str, str]) -> None:
    try:
        factor(ton_unit(unit, None), UNITS[role])
    except AmbiguousTonError:
        unknown[role] = say("'{unit}' may be short or metric tons: choose the unit", unit=unit)
    except UnitError:
        unknown[role] = say("'{unit}' is not a unit of this quantity that is known here: choose the unit", unit=unit)
    else:
        found[role] = unit
        named.add(role)


def _cases_by_column(
    sheet: Sheet | Sequence[str],
    split: list[tuple[str, str]],
    columns: dict[str, int],
    found: dict[str, str],
    named: set[str],
    unknown: dict[str, str],
) -> dict[str, tuple[str, str]]:
    """One column a case: what is left and holds numbers; a heading may name the quantity too (G V, G Hx), else it is
    V."""
    rows = sheet.rows if isinstance(sheet, Sheet) else ()
    many: dict[str, tuple[str, str]] = {}
    for i, (name, unit) in enumerate(split):
        texts = [row[i] for row in rows if i < len(row) and row[i]]
        if (
            i in columns.values()
            or not name
            or not texts
            or not all(re.match(r"[+\-−]?[\d.,]|[-–]$", t) for t in texts)
        ):
            continue
        words = re.split(r"[\s_.:]+", name)
        role = _role(words[-1]) if len(words) > 1 else None
        case = " ".join(words[:-1]) if role in QUANTITIES else name
        role = role if role in QUANTITIES else "V"
        many[str(i)] = (case, str(role))
        if unit:
            _take_unit(unit, str(role), found, named, unknown)
    return many
