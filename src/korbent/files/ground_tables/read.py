"""Tables of the ground, read: a proposal with all problems at their place."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, get_args

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, pattern_of
from korbent.core.model import Borehole, GroundTest, Oedometer, Problem, Project, Soil, Stratum, Water
from korbent.core.model.base import unit_of
from korbent.core.model.ground import LINES, TEST_UNITS, OverLevel, Readings, TestKind
from korbent.core.units import UnitError, UnitSet, factor, parse
from korbent.files.ground_import import Proposal, proposed
from korbent.files.ground_tables.columns import (
    BOTTOM,
    HOLE,
    NAMES,
    OTHER_NAMES,
    SITE_VALUES,
    SOIL,
    SOIL_FIELDS,
    TEXTS,
    THICK,
    TOP,
    bare,
)
from korbent.files.project_file import problems_of
from korbent.files.sheet import Sheet, TableError, read_sheets

HOSTS = {
    "ground": "",
    "soil": "",
    "borehole": "",
    "stratum": "strata",
    "test": "tests",
    "oedometer": "oedometers",
}
"""What a note may be on, and where it stands within a borehole."""


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
        columns = {name: i for i, h in enumerate(sheet.header) if (name := bare(h)[0])}
        table = _Table(place, sheet, columns, project.showing, reader.problems)
        for fits, read in (
            (_is_notes, reader.notes), (_is_site, reader.site), (_is_readings, reader.readings),
            (_is_lines, reader.lines), (_is_oedometer, reader.oedometers), (_is_tests, reader.tests), (_is_strata, reader.strata),
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
        given = bare(self.sheet.header[at])[1]
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


def _is_readings(t: _Table) -> bool:
    return t.has(HOLE, "sample", "stress", "time", "settlement")


def _is_lines(t: _Table) -> bool:
    return t.has(SOIL, "parameter", "level", "value")


def _is_site(t: _Table) -> bool:
    return t.has("site", "value")


def _is_notes(t: _Table) -> bool:
    return t.has("about", "key") and (t.has("note") or t.has("source") or t.has("expression"))


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
        self.found_oedometers: dict[str, dict[tuple[str, float | None], dict[str, Any]]] = {}
        self.found_readings: dict[tuple[str, str, float | None, float], dict[str, Any]] = {}
        self.found_lines: dict[str, dict[str, dict[str, Any]]] = {}
        self.found_site: dict[str, dict[str, Any]] = {}
        self.found_notes: dict[tuple[str, str, int], tuple[str, dict[str, dict[str, Any]]]] = {}

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
        last: float | None = None
        for place, row in t.rows():
            new = (t.text(row, HOLE) or hole, t.text(row, "sample") or sample)
            if new != (hole, sample):
                (hole, sample), last = new, None
            depth = t.number(place, row, t.column("depth"), "m")
            initial = t.number(place, row, t.column("initial"), "")
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
            last = depth if depth is not None else last
            test = self.found_oedometers.setdefault(hole, {}).setdefault(
                (sample, last), {"place": place, "points": []}
            )
            test["points"].append((stress, void))
            if initial is not None:
                test.setdefault("void_ratio", initial)

    def readings(self, t: _Table) -> None:
        hole = sample = ""
        depth = stress = height = None
        for place, row in t.rows():
            new = (t.text(row, HOLE) or hole, t.text(row, "sample") or sample)
            if new != (hole, sample):
                (hole, sample), depth, stress, height = new, None, None, None
            depth = _given(t.number(place, row, t.column("depth"), "m"), depth)
            stress = _given(t.number(place, row, t.column("stress"), "kPa"), stress)
            height = _given(t.number(place, row, t.column("height"), "mm"), height)
            time = t.number(place, row, t.column("time"), "min")
            settlement = t.number(place, row, t.column("settlement"), "mm")
            if not hole or not sample or stress is None or time is None or settlement is None:
                self.problems.append(
                    Problem(
                        place,
                        "a reading needs a borehole, a sample, a stress, a time and a settlement: it is left out",
                    )
                )
                continue
            step = self.found_readings.setdefault(
                (hole, sample, depth, stress), {"place": place, "points": []}
            )
            step["points"].append((time, settlement))
            if height is not None:
                step.setdefault("height", height)

    def lines(self, t: _Table) -> None:
        soil = parameter = ""
        unit_at = t.columns.get("unit")
        for place, row in t.rows():
            soil = t.text(row, SOIL) if t.text(row, SOIL) else soil
            parameter = t.text(row, "parameter").lower().replace(" ", "_") or parameter
            level = t.number(place, row, t.column("level"), "m")
            if not soil or parameter not in LINES or level is None:
                self.problems.append(
                    Problem(
                        place,
                        f"a point of a line needs a soil, a level and a parameter, one of: {', '.join(LINES)}: it is left out",
                    )
                )
                continue
            value = self._value(
                place,
                t.text(row, "value"),
                unit_of(Soil, parameter),
                row[unit_at] if unit_at is not None else "",
            )
            if value is None:
                continue
            line = self.found_lines.setdefault(soil, {}).setdefault(
                parameter, {"place": place, "kind": t.text(row, "line") or "linear", "points": []}
            )
            line["points"].append((level, value))

    def site(self, t: _Table) -> None:
        unit_at = t.columns.get("unit")
        for place, row in t.rows():
            item = " ".join(t.text(row, "site").split())
            if item not in SITE_VALUES:
                self.problems.append(
                    Problem(place, f"{item!r} is nothing of the site; one of: {', '.join(SITE_VALUES)}")
                )
                continue
            field, inner, unit = SITE_VALUES[item]
            text = t.text(row, "value")
            value: Any = text
            if unit:
                value = self._value(place, text, unit, row[unit_at] if unit_at is not None else "")
            if value not in (None, ""):
                self.found_site.setdefault(field, {})[inner] = value

    def notes(self, t: _Table) -> None:
        for place, row in t.rows():
            kind, of = t.text(row, "about").lower(), t.text(row, "of")
            number = t.number(place, row, t.column("number"), "")
            key = t.text(row, "key")
            if kind not in HOSTS or not key:
                self.problems.append(
                    Problem(
                        place, f"a note needs a field, and what it is on: {', '.join(HOSTS)}: it is left out"
                    )
                )
                continue
            _, found = self.found_notes.setdefault((kind, of, int(number or 0)), (place, {}))
            if t.text(row, "note"):
                found.setdefault("notes", {})[key] = t.text(row, "note")
            if t.text(row, "source"):
                found.setdefault("sources", {})[key] = t.text(row, "source")
            if t.text(row, "expression"):
                units = t.text(row, "units") or self.project.units
                found.setdefault("expressions", {})[key] = {
                    "text": "=" + t.text(row, "expression").removeprefix("="),
                    "units": units,
                }

    def _value(self, place: str, text: str, unit: str, given: str) -> float | None:
        """A value whose unit stands in a column beside it."""
        try:
            if unit and given and not re.search(r"[a-zA-Z]", re.sub(r"[eE]", "", text)):
                return parse(text, "") * factor(given.strip(), unit)
            return parse(text, unit, self.project.showing)
        except UnitError as error:
            self.problems.append(Problem(place, f"{error}: it is left out"))
            return None

    def proposal(self) -> Proposal:
        """Holes put together from what the tables and the project know of them."""
        known = {h.name: h for h in self.project.ground.boreholes}
        soils = {s.name for s in self.project.ground.soils} | set(self.found_soils)
        names = dict.fromkeys(
            [
                *self.places, *self.found_strata, *self.found_tests, *self.found_oedometers,
                *(hole for hole, *_ in self.found_readings),
                *(of for kind, of, _ in self.found_notes if kind not in ("soil", "ground") and of in known),
            ]
        )  # fmt: skip
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
                    oedometers=self._read_over_time(name, self._oedometers(name, old)),
                )
            )
        for soil in self.found_lines:
            self._with_lines(soil)
        holes = self._noted(holes)
        site = self._site()
        return self._calculable(
            Proposal(
                soils=tuple(self.found_soils.values()),
                boreholes=tuple(holes),
                site=site,
                remarks=tuple(self.remarks),
                given=self.given,
            )
        )

    def _soil(self, name: str, place: str) -> Soil | None:
        """A soil of the tables or of the project, so that something more can be said of it."""
        soil = self.found_soils.get(name) or next(
            (s for s in self.project.ground.soils if s.name == name), None
        )
        if soil is None:
            self.problems.append(
                Problem(place, f"the soil {name!r} is in no table and not in the project: it is left out")
            )
        return soil

    def _with_lines(self, name: str) -> None:
        lines = self.found_lines[name]
        soil = self._soil(name, next(iter(lines.values()))["place"])
        for parameter, line in lines.items() if soil else ():
            place = line.pop("place")
            try:
                soil = soil.replaced(over_level={**soil.over_level, parameter: OverLevel(**line)})
            except ValidationError as error:
                self.note(f"{place}, {name} {parameter}", error)
        if soil:
            self.found_soils[name] = soil
            self.given[name] = tuple(dict.fromkeys([*self.given.get(name, ()), "over_level"]))

    def _site(self) -> dict[str, Any]:
        """Water, surfaces and the like, completed from the project."""
        site: dict[str, Any] = {}
        for field, inner in self.found_site.items():
            old = getattr(self.project.ground, field)
            try:
                if "" in inner:
                    site[field] = getattr(self.project.ground.replaced(**{field: inner[""]}), field)
                elif old is None:
                    site[field] = Water(**inner)
                else:
                    site[field] = old.replaced(**inner)
            except ValidationError as error:
                self.note(f"site, {field.replace('_', ' ')}", error)
        return site

    def _noted(self, holes: list[Borehole]) -> list[Borehole]:
        """The holes with what the tables note on them; soils likewise, in place."""
        by_name = {h.name: h for h in holes}
        for (kind, of, number), (place, said) in self.found_notes.items():
            try:
                if kind == "ground":
                    self.found_site["notes"] = {"": said.get("notes", {})}
                    self.found_site["expressions"] = {"": said.get("expressions", {})}
                elif kind == "soil":
                    if soil := self._soil(of, place):
                        merged = {k: {**getattr(soil, k), **v} for k, v in said.items()}
                        self.found_soils[of] = soil.replaced(**merged)
                        self.given[of] = tuple(dict.fromkeys([*self.given.get(of, ()), *merged]))
                elif of not in by_name:
                    self.problems.append(
                        Problem(
                            place,
                            f"the borehole {of!r} is in no table of boreholes or strata: it is left out",
                        )
                    )
                else:
                    hole = by_name[of]
                    said.pop("sources", None)
                    if kind == "borehole":
                        by_name[of] = hole.replaced(**said)
                        continue
                    field = HOSTS[kind]
                    rows = list(getattr(hole, field))
                    if not 1 <= number <= len(rows):
                        self.problems.append(
                            Problem(
                                place,
                                f"{of} has {len(rows)} {field}, none is number {number}: it is left out",
                            )
                        )
                        continue
                    rows[number - 1] = rows[number - 1].replaced(**said)
                    by_name[of] = hole.replaced(**{field: tuple(rows)})
            except ValidationError as error:
                self.note(place, error)
        return list(by_name.values())

    def _calculable(self, proposal: Proposal) -> Proposal:
        """Without expressions that have no value in this project: their values stay."""
        try:
            proposed(self.project, proposal)
        except ValidationError as error:
            reasons = [p for p in problems_of(error) if p.place == "expressions"]
            if reasons:
                self.problems += [
                    Problem(p.place, f"{p.message}: the values are taken over without their expressions")
                    for p in reasons
                ]
                proposal = _plain(proposal)
        return replace(proposal, problems=tuple(self.problems))

    def _oedometers(self, name: str, old: Borehole | None) -> tuple[Oedometer, ...]:
        if name not in self.found_oedometers:
            return old.oedometers if old else ()
        tests = []
        for (sample, depth), found in self.found_oedometers[name].items():
            place = found.pop("place")
            if depth is None or "void_ratio" not in found:
                self.problems.append(
                    Problem(
                        place, f"{sample}: a test needs a depth and an initial void ratio: it is left out"
                    )
                )
                continue
            try:
                tests.append(
                    Oedometer(
                        sample=sample,
                        depth=depth,
                        void_ratio=found["void_ratio"],
                        points=tuple(found["points"]),
                    )
                )
            except ValidationError as error:
                self.note(place, error)
        return tuple(tests)

    def _read_over_time(self, name: str, tests: tuple[Oedometer, ...]) -> tuple[Oedometer, ...]:
        """The oedometer tests of a hole with their readings over time."""
        for (hole, sample, depth, stress), found in self.found_readings.items():
            if hole != name:
                continue
            place = found["place"]
            i = next(
                (i for i, o in enumerate(tests) if o.sample == sample and depth in (None, o.depth)), None
            )
            if i is None:
                self.problems.append(
                    Problem(place, f"{name} has no oedometer test of the sample {sample!r}: it is left out")
                )
                continue
            try:
                made = Readings(
                    stress=stress,
                    points=tuple(found["points"]),
                    **{k: found[k] for k in ("height",) if k in found},
                )
                others = tuple(r for r in tests[i].readings if r.stress != stress)
                tests = (*tests[:i], tests[i].replaced(readings=(*others, made)), *tests[i + 1 :])
            except ValidationError as error:
                self.note(place, error)
        return tests


def _given(value: float | None, last: float | None) -> float | None:
    """The value of this row, or where its cell is empty that of the row above."""
    return last if value is None else value


def _plain(proposal: Proposal) -> Proposal:
    """Without any expression."""
    holes = tuple(
        h.replaced(
            expressions={},
            **{f: tuple(r.replaced(expressions={}) for r in getattr(h, f)) for f in HOSTS.values() if f},
        )
        for h in proposal.boreholes
    )
    return replace(
        proposal,
        soils=tuple(s.replaced(expressions={}) for s in proposal.soils),
        boreholes=holes,
        site={k: v for k, v in proposal.site.items() if k != "expressions"},
    )


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
