"""The rows of the tables of the ground, each read or left out with its reason."""

import re
from typing import Any, get_args

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, pattern_of
from korbent.core.model import GroundTest, Problem, Project, Soil, Stratum
from korbent.core.model.frozen import unit_of
from korbent.core.model.ground import LINES, TEST_UNITS, TestKind
from korbent.core.model.labels import key_of
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError, factor
from korbent.files.ground_tables.columns import (
    BOTTOM,
    CHOSEN,
    HOLE,
    OTHER_NAMES,
    SITE_VALUES,
    SOIL,
    SOIL_FIELDS,
    TESTS,
    TEXTS,
    THICK,
    TOP,
    bare,
)
from korbent.files.ground_tables.recognise import Table
from korbent.files.project_file import problems_of
from korbent.words import say

KINDS: tuple[TestKind, ...] = get_args(TestKind)
HOSTS = {
    "ground": "",
    "soil": "",
    "borehole": "",
    "stratum": "strata",
    "test": "tests",
    "oedometer": "oedometers",
}
"""What a note may be on, and where it stands within a borehole."""


class Rows:
    """What the rows of the tables say, kept apart until it is known which holes and soils there are."""

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

    def soils(self, t: Table) -> None:
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
                        values[field] = key_of(row[at], CHOSEN.get(field, ())) or row[at]
                else:
                    value = t.number(place, row, at, unit_of(Soil, field))
                    if value is not None or Soil.model_fields[field].default is None:
                        values[field] = value
            name = values.get("name", "")
            if not name:
                self.problems.append(Problem(place, say("the soil has no name: it is left out")))
                continue
            if name in self.found_soils:
                self.problems.append(
                    Problem(place, say("the soil {name!r} comes a second time: it is left out", name=name))
                )
                continue
            try:
                start = known.get(name)
                if start is None:
                    pattern = values.get("pattern") or pattern_of(f"{name} {values.get('description', '')}") or "sand"
                    entry = next((e.soil for e in LIBRARY if e.soil.pattern == pattern), LIBRARY[0].soil)
                    start = entry.replaced(name=name, description="")
                    values["pattern"] = pattern
                sources = {
                    f: say("imported from {place}", place=t.place)
                    for f, v in values.items()
                    if f not in TEXTS and v is not None
                }
                self.found_soils[name] = start.replaced(**{k: v for k, v in values.items() if v != ""}, sources=sources)
                self.given[name] = tuple(values)
            except ValidationError as error:
                self.note(f"{place}, {name}", error)

    def holes(self, t: Table) -> None:
        for place, row in t.rows():
            name = t.text(row, HOLE)
            x, y, z = (t.number(place, row, t.column(r), "m") for r in ("x", "y", "level"))
            if not name or x is None or y is None or z is None:
                self.problems.append(
                    Problem(place, say("a borehole needs a name, x, y and a ground level: it is left out"))
                )
                continue
            if name in self.places:
                self.problems.append(
                    Problem(place, say("the borehole {name!r} comes a second time: it is left out", name=name))
                )
                continue
            self.places[name] = {
                "x": x,
                "y": y,
                "ground_level": z,
                "rigid_below": t.text(row, "rigid").lower() in ("yes", "true", "1"),
                "water": t.number(place, row, t.column("water"), "m"),
            }

    def strata(self, t: Table) -> None:
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
                                say(
                                    "the stratum begins at {top:g} m, the one above ends at {at:g} m: it is taken from there",
                                    top=top,
                                    at=at,
                                ),
                            )
                        )
                    thickness = bottom - at
            if not last or not soil or thickness is None:
                self.problems.append(
                    Problem(place, say("a stratum needs a borehole, a soil and a thickness: it is left out"))
                )
                continue
            try:
                self.found_strata.setdefault(last, []).append(Stratum(soil=soil, thickness=thickness))
                depths[last] = at + thickness
            except ValidationError as error:
                self.note(place, error)

    def tests(self, t: Table) -> None:
        unit_at = t.columns.get("unit")
        last = ""
        for place, row in t.rows():
            last = t.text(row, HOLE) or last
            name = t.text(row, "test")
            kind = next((k for k in KINDS if k.lower() == name.lower()), None) or TESTS.get(bare(name)[0])
            depth = t.number(place, row, t.column("depth"), "m")
            if kind is None:
                self.problems.append(
                    Problem(place, say("'{name}' is no known test; one of: {kinds}", name=name, kinds=", ".join(KINDS)))
                )
                continue
            given = row[unit_at] if unit_at is not None else ""
            notes = {"value": t.text(row, "taken")} if t.text(row, "taken") else {}
            self._test(place, last, kind, depth, t.text(row, "value"), given, t.text(row, say("left out")), notes)

    def wide_tests(self, t: Table) -> None:
        """A row for each depth, with a column for each test; empty cells are no tests."""
        columns = [(TESTS[name], at) for name, at in t.columns.items() if name in TESTS]
        last = ""
        for place, row in t.rows():
            last = t.text(row, HOLE) or last
            depth = t.number(place, row, t.column("depth"), "m")
            for kind, at in columns:
                text = row[at].strip() if at < len(row) else ""
                if text in ("", "-", "–"):
                    continue
                heading = t.sheet.header[at]
                self._test(
                    say("{place}, column {heading!r}", place=place, heading=heading),
                    last,
                    kind,
                    depth,
                    text,
                    bare(heading)[1],
                )

    def _test(
        self,
        place: str,
        hole: str,
        kind: TestKind,
        depth: float | None,
        text: str,
        given: str,
        left_out: str = "",
        notes: dict[str, str] | None = None,
    ) -> None:
        unit = TEST_UNITS[kind]
        try:
            value = parse(text, "")
            if unit and given and given != unit:
                value *= factor(given, unit)
            if depth is None or not hole:
                raise UnitError(say("a test needs a borehole and a depth"))
            test = GroundTest(kind=kind, depth=depth, value=value, left_out=left_out, notes=notes or {})
        except UnitError as error:
            self.problems.append(Problem(place, say("{error}: it is left out", error=error)))
            return
        except ValidationError as error:
            self.note(place, error)
            return
        self.found_tests.setdefault(hole, []).append(test)

    def oedometers(self, t: Table) -> None:
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
                    Problem(place, say("a step needs a borehole, a sample, a stress and a void ratio: it is left out"))
                )
                continue
            last = depth if depth is not None else last
            test = self.found_oedometers.setdefault(hole, {}).setdefault((sample, last), {"place": place, "points": []})
            test["points"].append((stress, void))
            if initial is not None:
                test.setdefault("void_ratio", initial)

    def readings(self, t: Table) -> None:
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
                        say("a reading needs a borehole, a sample, a stress, a time and a settlement: it is left out"),
                    )
                )
                continue
            step = self.found_readings.setdefault((hole, sample, depth, stress), {"place": place, "points": []})
            step["points"].append((time, settlement))
            if height is not None:
                step.setdefault("height", height)

    def lines(self, t: Table) -> None:
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
                        say(
                            "a point of a line needs a soil, a level and a parameter, one of: {lines}: it is left out",
                            lines=", ".join(LINES),
                        ),
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

    def site(self, t: Table) -> None:
        unit_at = t.columns.get("unit")
        for place, row in t.rows():
            item = " ".join(t.text(row, "site").split())
            if item not in SITE_VALUES:
                self.problems.append(
                    Problem(
                        place,
                        say(
                            "{item!r} is nothing of the site; one of: {site_values}",
                            item=item,
                            site_values=", ".join(SITE_VALUES),
                        ),
                    )
                )
                continue
            field, inner, unit = SITE_VALUES[item]
            text = t.text(row, "value")
            value: Any = key_of(text, CHOSEN.get(field, ())) or text
            if unit:
                value = self._value(place, text, unit, row[unit_at] if unit_at is not None else "")
            if value not in (None, ""):
                self.found_site.setdefault(field, {})[inner] = value

    def notes(self, t: Table) -> None:
        for place, row in t.rows():
            kind, of = t.text(row, "about").lower(), t.text(row, "of")
            number = t.number(place, row, t.column("number"), "")
            key = t.text(row, "key")
            if kind not in HOSTS or not key:
                self.problems.append(
                    Problem(
                        place,
                        say("a note needs a field, and what it is on: {hosts}: it is left out", hosts=", ".join(HOSTS)),
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
            self.problems.append(Problem(place, say("{error}: it is left out", error=error)))
            return None


def _given(value: float | None, last: float | None) -> float | None:
    """The value of this row, or where its cell is empty that of the row above."""
    return last if value is None else value
