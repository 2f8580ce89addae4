"""Loads from a table in a CSV or XLSX file: columns recognised, values read with their units, compared, taken over."""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal, get_args

from pydantic import ValidationError

from korbent.core.model import Load, LoadCase, LoadPoint, Problem, Project
from korbent.core.model.actions import LoadPointKind, Nature
from korbent.core.units import UnitError, factor, parse
from korbent.files.sheet import Sheet, TableError

Sense = Literal["actions, V down", "actions, z up", "reactions, z up"]
SENSES: tuple[Sense, ...] = ("actions, V down", "actions, z up", "reactions, z up")

ROLES = ("point", "case", "V", "Hx", "Hy", "Mx", "My", "Mz", "x", "y")
MORE_ROLES = ("size_x", "size_y", "level", "kind", "nature")
"""Columns that are taken where a table has them, without being asked for."""
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


@dataclass(frozen=True)
class LoadTable:
    """Loads by point and case, as actions on the foundation, V down."""

    loads: Mapping[str, Mapping[str, Load]]
    places: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    problems: tuple[Problem, ...] = ()
    shapes: Mapping[str, Mapping[str, object]] = field(default_factory=dict)
    """What the table says of the columns themselves: fields of a load point by its name."""
    natures: Mapping[str, str] = field(default_factory=dict)
    """Natures of load cases, where the table has them."""

    @property
    def cases(self) -> tuple[str, ...]:
        """All cases, in the order in which they come."""
        return tuple(dict.fromkeys(case for cases in self.loads.values() for case in cases))


def recognised(header: Sequence[str]) -> Reading:
    """The reading that the names and units in a header suggest."""
    columns: dict[str, int] = {}
    units = dict(UNITS)
    for i, text in enumerate(header):
        match = re.match(r"^\s*(.*?)\s*[\[(]\s*(.*?)\s*[\])]\s*$", text)
        name, unit = (match[1], match[2]) if match else (text, "")
        plain = re.sub(r"[^a-z0-9]", "", name.lower())
        role = next((r for r in (*ROLES, *MORE_ROLES) if plain in NAMES[r] and r not in columns), None)
        if role is None:
            continue
        columns[role] = i
        if unit and role in UNITS and _is_unit(unit, UNITS[role]):
            units[role] = unit
    lower = {re.sub(r"[^a-z0-9]", "", h.lower().split("[")[0].split("(")[0]) for h in header}
    sense: Sense = "actions, V down"
    if lower & {"rz", "rx", "ry"}:
        sense = "reactions, z up"
    elif "fz" in lower or "f3" in lower:
        sense = "actions, z up"
    return Reading(columns, units, sense)


def _is_unit(unit: str, wanted: str) -> bool:
    try:
        factor(unit, wanted)
    except UnitError:
        return False
    return True


def as_action(values: Mapping[str, float], sense: Sense, swapped: bool) -> Load:
    """A row as an action on the foundation.

    With z up an action has V = -F_z. A reaction is the opposite of the action: V = R_z, and all horizontal forces
    and moments turn their sign. Swapped axes are a plan mirrored at its diagonal: forces change places, moments
    change places and signs.
    """
    turn = -1.0 if sense == "reactions, z up" else 1.0
    down = {"actions, V down": 1.0, "actions, z up": -1.0, "reactions, z up": 1.0}[sense]
    v = {q: turn * values.get(q, 0.0) for q in ("Hx", "Hy", "Mx", "My", "Mz")}
    if swapped:
        v = {"Hx": v["Hy"], "Hy": v["Hx"], "Mx": -v["My"], "My": -v["Mx"], "Mz": -v["Mz"]}
    return Load(V=down * values.get("V", 0.0), **{q: value + 0.0 for q, value in v.items()})


def read_loads(sheet: Sheet, reading: Reading) -> LoadTable:
    """Loads of a sheet. What cannot be read is listed with row and column; such a table is not to be taken over."""
    problems = [
        Problem("columns", f"no column is chosen for {role}")
        for role in ("point", "V")
        if role not in reading.columns
    ]
    loads: dict[str, dict[str, Load]] = {}
    places: dict[str, tuple[float, float]] = {}
    shapes: dict[str, dict[str, object]] = {}
    natures: dict[str, str] = {}
    if problems:
        return LoadTable(loads, places, tuple(problems))
    point = ""
    for i, row in enumerate(sheet.rows):
        number = sheet.first_row + i
        if not any(row):
            continue
        # a name that stands only in the first of several rows counts for those below it
        point = row[reading.columns["point"]] or point
        case = row[reading.columns["case"]] if "case" in reading.columns else "G"
        if not point or not case:
            problems.append(Problem(f"row {number}", f"has no {'name' if not point else 'load case'}"))
            continue
        values: dict[str, float] = {}
        for role, unit in UNITS.items():
            if role not in reading.columns:
                continue
            text = row[reading.columns[role]]
            try:
                values[role] = _number(text, reading.units.get(role, unit), unit)
            except UnitError as error:
                head = sheet.header[reading.columns[role]]
                problems.append(Problem(f"row {number}, column {head!r}", str(error)))
        if case in loads.setdefault(point, {}):
            problems.append(Problem(f"row {number}", f"{point} has the case {case} a second time"))
        loads[point][case] = as_action(values, reading.sense, reading.swapped)
        if "x" in reading.columns and "y" in reading.columns and "x" in values and "y" in values:
            x, y = values["x"], values["y"]
            places[point] = (y, x) if reading.swapped else (x, y)
        for role in ("size_x", "size_y", "level"):
            if values.get(role):
                shapes.setdefault(point, {})[role] = values[role]
        for role, known, into in (
            ("kind", get_args(LoadPointKind), shapes.setdefault(point, {})),
            ("nature", get_args(Nature), {}),
        ):
            text = row[reading.columns[role]].lower() if role in reading.columns else ""
            if text and text not in known:
                problems.append(
                    Problem(f"row {number}", f"'{text}' is no {role}; one of: {', '.join(known)}")
                )
            elif text and role == "nature":
                natures[case] = text
            elif text:
                into[role] = text
    if not loads and not problems:
        problems.append(Problem("table", "it has no rows"))
    return LoadTable(loads, places, tuple(problems), shapes, natures)


def _number(text: str, unit: str, wanted: str) -> float:
    if not text or text in ("-", "–"):
        return 0.0
    if re.search(r"[a-zA-Z]", text.replace("e", "").replace("E", "")):
        return parse(text, wanted)
    return parse(text, "") * factor(unit, wanted)


@dataclass(frozen=True)
class Change:
    """One quantity of one case at one load point that differs."""

    point: str
    case: str
    quantity: str
    old: float
    new: float


@dataclass(frozen=True)
class Differences:
    """What taking over a table would change."""

    new_points: tuple[str, ...]
    gone: tuple[str, ...]
    """Columns of the project with loads that the table does not have; they stay as they are."""
    new_cases: tuple[str, ...]
    changes: tuple[Change, ...]
    problems: tuple[Problem, ...]


def differences(project: Project, table: LoadTable) -> Differences:
    """Compares a table with a project, load point by load point."""
    points = {p.name: p for p in project.actions.load_points}
    cases = {c.name for c in project.actions.cases}
    changes = []
    for name, by_case in table.loads.items():
        old = points[name].loads if name in points else {}
        for case, load in by_case.items():
            before = old.get(case, Load())
            for quantity in Load.model_fields:
                a, b = getattr(before, quantity), getattr(load, quantity)
                if abs(a - b) > 1e-6 * max(1.0, abs(a)):
                    changes.append(Change(name, case, quantity, a, b))
    new_points = tuple(name for name in table.loads if name not in points)
    problems = tuple(
        Problem(
            name,
            "is not in the project and the table gives no x and y for it: add the column first, or map x and y",
        )
        for name in new_points
        if name not in table.places
    )
    problems += tuple(_impossible(table, new_points))
    new_cases = tuple(case for case in table.cases if case not in cases)
    problems += tuple(
        Problem(f"case {case[:30]}…", "the name is longer than 80 characters")
        for case in new_cases
        if len(case) > 80
    )
    return Differences(
        new_points,
        tuple(p.name for p in points.values() if p.loads and p.name not in table.loads),
        new_cases,
        tuple(changes),
        (*table.problems, *problems),
    )


def _impossible(table: LoadTable, names: Sequence[str]) -> Iterator[Problem]:
    """What makes new columns impossible: a size that is none, a name that is too long."""
    for name in names:
        if name in table.places:
            try:
                _new_point(table, name, 0.0)
            except ValidationError as error:
                first = error.errors()[0]
                yield Problem(f"{name[:40]}, {'.'.join(map(str, first['loc']))}", first["msg"].lower())


def taken_over(project: Project, table: LoadTable) -> Project:
    """The project with the loads of a table: cases of a point that the table does not have stay.

    Imported values are remembered beside the loads, so that a later change by hand can be seen and taken back.

    Raises:
        TableError: when the table has problems.
    """
    found = differences(project, table)
    if found.problems:
        raise TableError("; ".join(map(str, found.problems)))
    actions = project.actions
    cases = actions.cases + tuple(
        LoadCase(name=name, nature=table.natures.get(name) or _nature(name)) for name in found.new_cases
    )
    points = []
    for point in actions.load_points:
        fresh = table.loads.get(point.name)
        if fresh is None:
            points.append(point)
        else:
            points.append(
                point.replaced(loads={**point.loads, **fresh}, imported={**point.imported, **fresh})
            )
    level = project.ground.surfaces.finished
    for name in found.new_points:
        points.append(_new_point(table, name, level))
    return project.replaced(actions=actions.replaced(cases=cases, load_points=tuple(points)))


def _new_point(table: LoadTable, name: str, level: float) -> LoadPoint:
    """A column that the project does not have yet, as the table describes it."""
    x, y = table.places[name]
    fresh = table.loads[name]
    shape: dict[str, object] = {"size_x": 0.4, "size_y": 0.4, "level": level, **table.shapes.get(name, {})}
    return LoadPoint(name=name, x=x, y=y, loads=fresh, imported=fresh, **shape)  # type: ignore[arg-type]


def _nature(case: str) -> Nature:
    """A first guess from how a case is called; it stands in the table of cases to be corrected."""
    name = case.lower()
    if re.match(r"(g|d|dl|sdl|perm|dead|self|sw)\b|(g|dl|dead|perm)", name):
        return "permanent"
    if re.match(r"(a|acc|impact|collision|ship)\b", name):
        return "accidental"
    if name.startswith("w"):
        return "wind"
    if re.match(r"s(\b|now)", name):
        return "snow"
    if re.match(r"e(\b|q|x|y|arth)", name):
        return "seismic"
    return "imposed"


def totals(loads: Mapping[str, Mapping[str, Load]]) -> dict[str, Load]:
    """Sums of all points by case, to hold against the source."""
    sums: dict[str, dict[str, float]] = {}
    for by_case in loads.values():
        for case, load in by_case.items():
            total = sums.setdefault(case, dict.fromkeys(Load.model_fields, 0.0))
            for quantity in total:
                total[quantity] += getattr(load, quantity)
    return {case: Load(**total) for case, total in sums.items()}
