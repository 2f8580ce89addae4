"""The tables of the ground as CSV and XLSX files, out and in: soils, boreholes, strata, tests, oedometer steps.

A table is recognised by its columns, whatever it is called. Numbers carry the unit of their header; those of a file
that Korbent wrote come back exactly.
"""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, get_args

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, pattern_of
from korbent.core.model import Borehole, GroundTest, Oedometer, Problem, Project, Soil, Stratum
from korbent.core.model.base import unit_of
from korbent.core.model.ground import TEST_UNITS, TestKind
from korbent.core.units import UnitError, UnitSet, factor, parse, shown_unit
from korbent.files.ground_import import Proposal
from korbent.files.project_file import problems_of
from korbent.files.sheet import Cell, Sheet, TableError, read_sheets, write_sheets

SOIL_FIELDS = tuple(
    name for name in Soil.model_fields if name not in ("notes", "expressions", "sources", "over_level")
)
TEXTS = ("name", "pattern", "description", "drainage", "compression")

# what the columns of a soil are called besides their field, in lower case without unit and signs
OTHER_NAMES = {
    "weight": ("gamma", "γ", "unitweight", "bulkunitweight"),
    "weight_saturated": ("gammasat", "γsat", "saturatedunitweight"),
    "cohesion": ("c", "cprime", "effectivecohesion"),
    "friction_angle": ("phi", "φ", "phiprime", "frictionangle"),
    "undrained_strength": ("cu", "su", "undrainedstrength"),
    "modulus": ("e", "eprime", "youngsmodulus", "stiffness"),
    "poisson": ("nu", "ν", "poissonsratio"),
    "compression_index": ("cc",),
    "recompression_index": ("cr", "cs"),
    "void_ratio": ("e0",),
    "overconsolidation_ratio": ("ocr",),
    "consolidation_coefficient": ("cv",),
    "name": ("soil", "unit", "soilname"),
}


HOLE, SOIL, TOP, BOTTOM, THICK = "borehole", "soil", "top", "bottom", "thickness"
NAMES: dict[str, tuple[str, ...]] = {
    HOLE: ("borehole", "hole", "bh", "boring", "location", "locaid", "point"),
    SOIL: ("soil", "unit", "stratum", "layer", "geology"),
    TOP: ("top", "from", "depthfrom", "depthtop"),
    BOTTOM: ("bottom", "base", "to", "depthto", "depthbase"),
    THICK: ("thickness",),
    "x": ("x", "easting", "east"),
    "y": ("y", "northing", "north"),
    "level": ("groundlevel", "level", "gl", "elevation", "z"),
    "rigid": ("rigidbelow",),
    "depth": ("depth",),
    "test": ("test", "kind", "type"),
    "value": ("value", "result", "reading"),
    "sample": ("sample",),
    "initial": ("initialvoidratio", "e0"),
    "stress": ("stress", "pressure"),
    "void": ("voidratio", "e"),
}


def _bare(header: str) -> tuple[str, str]:
    """A header's name in plain letters, and its unit."""
    match = re.match(r"^\s*(.*?)\s*[\[(]\s*(.*?)\s*[\])]\s*$", header)
    name, unit = (match[1], match[2]) if match else (header, "")
    return re.sub(r"[^a-z0-9γφν]", "", name.lower()), unit


# ---------------------------------------------------------------- writing


def ground_tables(project: Project) -> dict[str, tuple[list[str], list[list[Cell]]]]:
    """The tables of the ground by name: header and rows, numbers in the shown units."""
    units, ground = project.showing, project.ground

    def head(name: str, unit: str) -> str:
        shown = shown_unit(unit, units) if unit else ""
        return f"{name} [{shown}]" if shown else name

    def number(value: float | None, unit: str) -> Cell:
        return None if value is None else value * factor(unit, shown_unit(unit, units)) if unit else value

    soils: list[list[Cell]] = [
        [getattr(s, f) if f in TEXTS else number(getattr(s, f), unit_of(Soil, f)) for f in SOIL_FIELDS]
        for s in ground.soils
    ]
    tables: dict[str, tuple[list[str], list[list[Cell]]]] = {
        "soils": ([head(f.replace("_", " "), unit_of(Soil, f)) for f in SOIL_FIELDS], soils),
        "boreholes": (
            ["borehole", head("x", "m"), head("y", "m"), head("ground level", "m"), "rigid below"],
            [[h.name, number(h.x, "m"), number(h.y, "m"), number(h.ground_level, "m"), h.rigid_below] for h in ground.boreholes],
        ),
        "strata": (
            ["borehole", "soil", head("thickness", "m")],
            [[h.name, s.soil, number(s.thickness, "m")] for h in ground.boreholes for s in h.strata],
        ),
        "tests": (
            ["borehole", "test", head("depth", "m"), "value", "unit"],
            [[h.name, t.kind, number(t.depth, "m"), t.value, TEST_UNITS[t.kind]] for h in ground.boreholes for t in h.tests],
        ),
        "oedometer": (
            ["borehole", "sample", head("depth", "m"), "initial void ratio", head("stress", "kPa"), "void ratio"],
            [
                [h.name, o.sample, number(o.depth, "m"), o.void_ratio, number(stress, "kPa"), void]
                for h in ground.boreholes for o in h.oedometers for stress, void in o.points
            ],
        ),
    }  # fmt: skip
    return {name: table for name, table in tables.items() if table[1]}


def write_ground(project: Project, path: Path) -> list[Path]:
    """Writes the tables of the ground to a workbook, or to CSV files beside each other.

    Raises:
        OSError: when a file cannot be written.
    """
    return write_sheets(path, ground_tables(project))


# ---------------------------------------------------------------- reading


def read_ground(paths: Sequence[Path], project: Project) -> Proposal:
    """What tables say about the ground; holes and soils that they do not give whole are completed from the project.

    Raises:
        TableError: when a file cannot be read or holds no table of the ground.
    """
    sheets = [(path.name, sheet) for path in paths for sheet in read_sheets(path)]
    reader = _Reader(project)
    known = 0
    for file, sheet in sheets:
        place = f"{file} {sheet.name}".strip()
        columns = {name: i for i, h in enumerate(sheet.header) if (name := _bare(h)[0])}
        table = _Table(place, sheet, columns, project.showing, reader.problems)
        for fits, read in (
            (_is_oedometer, reader.oedometers), (_is_tests, reader.tests), (_is_strata, reader.strata),
            (_is_holes, reader.holes), (_is_soils, reader.soils),
        ):  # fmt: skip
            if fits(table):
                read(table)
                known += 1
                break
        else:
            reader.remarks.append(
                f"{place}: no table of the ground; its columns are {', '.join(h for h in sheet.header if h)[:80]}"
            )
    if not known:
        raise TableError(
            "no table of the ground was recognised: soils need the columns name and weight; boreholes x, y and ground level; "
            "strata borehole, soil and thickness (or top and bottom); tests borehole, test, depth and value"
        )
    return reader.proposal()


@dataclass
class _Table:
    place: str
    sheet: Sheet
    columns: dict[str, int]
    units: UnitSet
    problems: list[Problem]

    def column(self, role: str) -> int | None:
        names = NAMES.get(role, (role,))
        return next((self.columns[n] for n in names if n in self.columns), None)

    def has(self, *roles: str) -> bool:
        return all(self.column(r) is not None for r in roles)

    def rows(self) -> Iterable[tuple[str, tuple[str, ...]]]:
        for i, row in enumerate(self.sheet.rows):
            if any(row):
                yield f"{self.place} row {self.sheet.first_row + i}", row

    def text(self, row: tuple[str, ...], role: str) -> str:
        at = self.column(role)
        return row[at].strip() if at is not None and at < len(row) else ""

    def number(self, place: str, row: tuple[str, ...], at: int | None, unit: str) -> float | None:
        """A value in its stored unit; None where the cell is empty or wrong, which is noted."""
        if at is None or at >= len(row) or row[at] in ("", "-", "–"):
            return None
        given = _bare(self.sheet.header[at])[1]
        text = row[at]
        try:
            if unit and given and not re.search(r"[a-zA-Z]", re.sub(r"[eE]", "", text)):
                return parse(text, "") * factor(given, unit)
            return parse(text, unit, self.units)
        except UnitError as error:
            self.problems.append(Problem(f"{place}, column {self.sheet.header[at]!r}", str(error)))
            return None


def _is_soils(t: _Table) -> bool:
    parameters = [
        n for f in SOIL_FIELDS if f not in TEXTS for n in (f.replace("_", ""), *OTHER_NAMES.get(f, ()))
    ]
    return any(n in t.columns for n in ("name", *OTHER_NAMES["name"])) and any(
        n in t.columns for n in parameters
    )


def _is_holes(t: _Table) -> bool:
    return t.has(HOLE, "x", "y", "level") and not t.has(SOIL)


def _is_strata(t: _Table) -> bool:
    return t.has(HOLE, SOIL) and (t.has(THICK) or t.has(BOTTOM))


def _is_tests(t: _Table) -> bool:
    return t.has(HOLE, "test", "depth", "value")


def _is_oedometer(t: _Table) -> bool:
    return t.has(HOLE, "sample", "stress", "void")


class _Reader:
    def __init__(self, project: Project) -> None:
        self.project = project
        self.problems: list[Problem] = []
        self.remarks: list[str] = []
        self.found_soils: dict[str, Soil] = {}
        self.given: dict[str, tuple[str, ...]] = {}
        self.places: dict[str, dict[str, Any]] = {}
        self.found_strata: dict[str, list[Stratum]] = {}
        self.found_tests: dict[str, list[GroundTest]] = {}
        self.found_oedometers: dict[str, dict[str, dict[str, Any]]] = {}

    def note(self, place: str, error: ValidationError) -> None:
        for problem in problems_of(error):
            self.problems.append(Problem(f"{place}, {problem.place}", problem.message))

    def soils(self, t: _Table) -> None:
        known = {s.name: s for s in self.project.ground.soils}
        for place, row in t.rows():
            values: dict[str, Any] = {}
            for field in SOIL_FIELDS:
                names = (field.replace("_", ""), *OTHER_NAMES.get(field, ()))
                at = next((t.columns[n] for n in names if n in t.columns), None)
                if at is None:
                    continue
                if field in TEXTS:
                    if row[at] or field == "description":
                        values[field] = row[at]
                else:
                    value = t.number(place, row, at, unit_of(Soil, field))
                    if value is not None or Soil.model_fields[field].default is None:
                        values[field] = value
            name = values.get("name", "")
            if not name:
                self.problems.append(Problem(place, "the soil has no name: it is left out"))
                continue
            if name in self.found_soils:
                self.problems.append(Problem(place, f"the soil {name!r} comes a second time: it is left out"))
                continue
            start = known.get(name)
            if start is None:
                pattern = (
                    values.get("pattern") or pattern_of(f"{name} {values.get('description', '')}") or "sand"
                )
                entry = next((e.soil for e in LIBRARY if e.soil.pattern == pattern), LIBRARY[0].soil)
                start = entry.replaced(name=name, description="")
                values["pattern"] = pattern
            try:
                sources = {
                    f: f"imported from {t.place}"
                    for f, v in values.items()
                    if f not in TEXTS and v is not None
                }
                self.found_soils[name] = start.replaced(
                    **{k: v for k, v in values.items() if v != ""}, sources=sources
                )
                self.given[name] = tuple(values)
            except ValidationError as error:
                self.note(f"{place}, {name}", error)

    def holes(self, t: _Table) -> None:
        for place, row in t.rows():
            name = t.text(row, HOLE)
            x, y, z = (t.number(place, row, t.column(r), "m") for r in ("x", "y", "level"))
            if not name or x is None or y is None or z is None:
                self.problems.append(
                    Problem(place, "a borehole needs a name, x, y and a ground level: it is left out")
                )
                continue
            if name in self.places:
                self.problems.append(
                    Problem(place, f"the borehole {name!r} comes a second time: it is left out")
                )
                continue
            self.places[name] = {
                "x": x,
                "y": y,
                "ground_level": z,
                "rigid_below": t.text(row, "rigid").lower() in ("yes", "true", "1"),
            }

    def strata(self, t: _Table) -> None:
        depths: dict[str, float] = {}
        last = ""
        for place, row in t.rows():
            last = t.text(row, HOLE) or last
            soil = t.text(row, SOIL)
            thickness = t.number(place, row, t.column(THICK), "m")
            at = depths.get(last, 0.0)
            if thickness is None:
                bottom = t.number(place, row, t.column(BOTTOM), "m")
                top = t.number(place, row, t.column(TOP), "m")
                if bottom is not None:
                    if top is not None and abs(top - at) > 0.005:
                        self.problems.append(
                            Problem(
                                place,
                                f"the stratum begins at {top:g} m, the one above ends at {at:g} m: it is taken from there",
                            )
                        )
                    thickness = bottom - at
            if not last or not soil or thickness is None:
                self.problems.append(
                    Problem(place, "a stratum needs a borehole, a soil and a thickness: it is left out")
                )
                continue
            try:
                self.found_strata.setdefault(last, []).append(Stratum(soil=soil, thickness=thickness))
                depths[last] = at + thickness
            except ValidationError as error:
                self.note(place, error)

    def tests(self, t: _Table) -> None:
        unit_at = t.columns.get("unit")
        kinds = get_args(TestKind)
        last = ""
        for place, row in t.rows():
            last = t.text(row, HOLE) or last
            kind = next((k for k in kinds if k.lower() == t.text(row, "test").lower()), None)
            depth = t.number(place, row, t.column("depth"), "m")
            if kind is None:
                self.problems.append(
                    Problem(place, f"'{t.text(row, 'test')}' is no known test; one of: {', '.join(kinds)}")
                )
                continue
            text = t.text(row, "value")
            given = row[unit_at] if unit_at is not None else ""
            unit = TEST_UNITS[kind]
            try:
                value = parse(text, "")
                if unit and given and given != unit:
                    value *= factor(given, unit)
                if depth is None or not last:
                    raise UnitError("a test needs a borehole and a depth")
                test = GroundTest(kind=kind, depth=depth, value=value)
            except UnitError as error:
                self.problems.append(Problem(place, f"{error}: it is left out"))
                continue
            except ValidationError as error:
                self.note(place, error)
                continue
            self.found_tests.setdefault(last, []).append(test)

    def oedometers(self, t: _Table) -> None:
        hole = sample = ""
        for place, row in t.rows():
            hole = t.text(row, HOLE) or hole
            sample = t.text(row, "sample") or sample
            depth, initial = (
                t.number(place, row, t.column("depth"), "m"),
                t.number(place, row, t.column("initial"), ""),
            )
            stress, void = (
                t.number(place, row, t.column("stress"), "kPa"),
                t.number(place, row, t.column("void"), ""),
            )
            if not hole or not sample or stress is None or void is None:
                self.problems.append(
                    Problem(
                        place, "a step needs a borehole, a sample, a stress and a void ratio: it is left out"
                    )
                )
                continue
            test = self.found_oedometers.setdefault(hole, {}).setdefault(
                sample, {"place": place, "points": []}
            )
            test["points"].append((stress, void))
            for key, value in (("depth", depth), ("void_ratio", initial)):
                if value is not None:
                    test.setdefault(key, value)

    def proposal(self) -> Proposal:
        """Holes put together from what the tables and the project know of them."""
        known = {h.name: h for h in self.project.ground.boreholes}
        soils = {s.name for s in self.project.ground.soils} | set(self.found_soils)
        names = dict.fromkeys([*self.places, *self.found_strata, *self.found_tests, *self.found_oedometers])
        holes = []
        for name in names:
            old = known.get(name)
            place = self.places.get(name) or (
                {"x": old.x, "y": old.y, "ground_level": old.ground_level, "rigid_below": old.rigid_below}
                if old
                else None
            )
            strata = self.found_strata.get(name) or (old.strata if old else ())
            if place is None:
                self.problems.append(
                    Problem(
                        name,
                        "is in no table of boreholes and not in the project: what belongs to it is left out",
                    )
                )
                continue
            if not strata:
                self.problems.append(
                    Problem(name, "has no strata: give them in a table with borehole, soil and thickness")
                )
                continue
            for stratum in strata:
                if stratum.soil not in soils:
                    start = next(
                        (e.soil for e in LIBRARY if e.soil.pattern == pattern_of(stratum.soil)),
                        LIBRARY[5].soil,
                    )
                    self.found_soils[stratum.soil] = start.replaced(name=stratum.soil, description="")
                    soils.add(stratum.soil)
                    self.remarks.append(
                        f"the soil {stratum.soil!r} is new; its parameters are those of the starter library: {start.name.lower()}"
                    )
            tests = tuple(self.found_tests[name]) if name in self.found_tests else (old.tests if old else ())
            holes.append(
                Borehole(
                    name=name,
                    **place,
                    strata=tuple(strata),
                    tests=tests,
                    oedometers=self._oedometers(name, old),
                )
            )
        return Proposal(
            soils=tuple(self.found_soils.values()), boreholes=tuple(holes), problems=tuple(self.problems),
            remarks=tuple(self.remarks), given=self.given,
        )  # fmt: skip

    def _oedometers(self, name: str, old: Borehole | None) -> tuple[Oedometer, ...]:
        if name not in self.found_oedometers:
            return old.oedometers if old else ()
        tests = []
        for sample, found in self.found_oedometers[name].items():
            place = found.pop("place")
            if "depth" not in found or "void_ratio" not in found:
                self.problems.append(
                    Problem(
                        place, f"{sample}: a test needs a depth and an initial void ratio: it is left out"
                    )
                )
                continue
            try:
                tests.append(Oedometer(sample=sample, **found | {"points": tuple(found["points"])}))
            except ValidationError as error:
                self.note(place, error)
        return tuple(tests)


def read_any(paths: Sequence[Path], project: Project) -> Proposal:
    """What a file of any kind says about the ground: AGS4 by its ending, else tables.

    Raises:
        TableError: when it cannot be read, or holds nothing of the ground.
    """
    from korbent.files.ags4 import Ags4Error, read_ags4

    if any(p.suffix.lower() == ".ags" for p in paths):
        if len(paths) > 1:
            raise TableError("choose one AGS4 file alone, or only tables")
        try:
            return read_ags4(paths[0])
        except Ags4Error as error:
            raise TableError(str(error)) from None
    return read_ground(paths, project)
