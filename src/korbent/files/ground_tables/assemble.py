"""Soils, holes and site put together from what the rows of the tables say, completed from the project."""

from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, pattern_of
from korbent.core.model import Borehole, Oedometer, Problem, Soil, Water
from korbent.core.model.ground import OverLevel, Readings
from korbent.core.model.labels import label
from korbent.files.ground_import import Proposal, proposed
from korbent.files.ground_tables.rows import HOSTS, Rows
from korbent.files.project_file import problems_of
from korbent.words import say


class Assembly:
    """Makes a proposal of rows."""

    def __init__(self, rows: Rows) -> None:
        self.rows = rows

    def proposal(self) -> Proposal:
        """Holes put together from what the tables and the project know of them."""
        known = {h.name: h for h in self.rows.project.ground.boreholes}
        soils = {s.name for s in self.rows.project.ground.soils} | set(self.rows.found_soils)
        names = dict.fromkeys(
            [
                *self.rows.places,
                *self.rows.found_strata,
                *self.rows.found_tests,
                *self.rows.found_oedometers,
                *(hole for hole, *_ in self.rows.found_readings),
                *(of for kind, of, _ in self.rows.found_notes if kind not in ("soil", "ground") and of in known),
            ]
        )
        holes = []
        for name in names:
            old = known.get(name)
            place = self.rows.places.get(name) or (
                {
                    "x": old.x,
                    "y": old.y,
                    "ground_level": old.ground_level,
                    "rigid_below": old.rigid_below,
                    "water": old.water,
                }
                if old
                else None
            )
            strata = self.rows.found_strata.get(name) or (old.strata if old else ())
            if place is None:
                self.rows.problems.append(
                    Problem(
                        name,
                        say("is in no table of boreholes and not in the project: what belongs to it is left out"),
                    )
                )
                continue
            if not strata and not (name in self.rows.found_tests or (old and old.tests)):
                self.rows.problems.append(
                    Problem(
                        name,
                        say("has neither strata nor tests: give strata in a table with borehole, soil and thickness"),
                    )
                )
                continue
            if not strata and not old:
                self.rows.remarks.append(say("{name} has no strata: it is a sounding, for its tests", name=name))
            for stratum in strata:
                if stratum.soil not in soils:
                    start = next(
                        (e.soil for e in LIBRARY if e.soil.pattern == pattern_of(stratum.soil)),
                        LIBRARY[5].soil,
                    )
                    self.rows.found_soils[stratum.soil] = start.replaced(name=stratum.soil, description="")
                    soils.add(stratum.soil)
                    self.rows.remarks.append(
                        say(
                            "the soil {soil!r} is new; its parameters are those of the starter library: {start}",
                            soil=stratum.soil,
                            start=start.name.lower(),
                        )
                    )
            tests = tuple(self.rows.found_tests[name]) if name in self.rows.found_tests else (old.tests if old else ())
            holes.append(
                Borehole(
                    name=name,
                    **place,
                    strata=tuple(strata),
                    tests=tests,
                    oedometers=self._read_over_time(name, self._oedometers(name, old)),
                )
            )
        for soil in self.rows.found_lines:
            self._with_lines(soil)
        holes = self._noted(holes)
        site = self._site()
        return self._calculable(
            Proposal(
                soils=tuple(self.rows.found_soils.values()),
                boreholes=tuple(holes),
                site=site,
                remarks=tuple(self.rows.remarks),
                given=self.rows.given,
            )
        )

    def _soil(self, name: str, place: str) -> Soil | None:
        """A soil of the tables or of the project, so that something more can be said of it."""
        soil = self.rows.found_soils.get(name) or next(
            (s for s in self.rows.project.ground.soils if s.name == name), None
        )
        if soil is None:
            self.rows.problems.append(
                Problem(
                    place, say("the soil {name!r} is in no table and not in the project: it is left out", name=name)
                )
            )
        return soil

    def _with_lines(self, name: str) -> None:
        lines = self.rows.found_lines[name]
        soil = self._soil(name, next(iter(lines.values()))["place"])
        for parameter, line in lines.items():
            place = line.pop("place")
            if soil is None:
                return
            try:
                soil = soil.replaced(over_level={**soil.over_level, parameter: OverLevel(**line)})
            except ValidationError as error:
                self.rows.note(f"{place}, {name} {parameter}", error)
        if soil:
            self.rows.found_soils[name] = soil
            self.rows.given[name] = tuple(dict.fromkeys([*self.rows.given.get(name, ()), "over_level"]))

    def _site(self) -> dict[str, Any]:
        """Water, surfaces and the like, completed from the project."""
        site: dict[str, Any] = {}
        for field, inner in self.rows.found_site.items():
            old = getattr(self.rows.project.ground, field)
            try:
                if "" in inner:
                    site[field] = getattr(self.rows.project.ground.replaced(**{field: inner[""]}), field)
                elif old is None:
                    site[field] = Water(**inner)
                else:
                    site[field] = old.replaced(**inner)
            except ValidationError as error:
                self.rows.note(say("site, {replace}", replace=label(field)), error)
        return site

    def _noted(self, holes: list[Borehole]) -> list[Borehole]:
        """The holes with what the tables note on them; soils likewise, in place."""
        by_name = {h.name: h for h in holes}
        for (kind, of, number), (place, said) in self.rows.found_notes.items():
            try:
                if kind == "ground":
                    self.rows.found_site["notes"] = {"": said.get("notes", {})}
                    self.rows.found_site["expressions"] = {"": said.get("expressions", {})}
                elif kind == "soil":
                    if soil := self._soil(of, place):
                        merged = {k: {**getattr(soil, k), **v} for k, v in said.items()}
                        self.rows.found_soils[of] = soil.replaced(**merged)
                        self.rows.given[of] = tuple(dict.fromkeys([*self.rows.given.get(of, ()), *merged]))
                elif of not in by_name:
                    self.rows.problems.append(
                        Problem(
                            place,
                            say("the borehole {of!r} is in no table of boreholes or strata: it is left out", of=of),
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
                        self.rows.problems.append(
                            Problem(
                                place,
                                say(
                                    "{of} has {rows} {field}, none is number {number}: it is left out",
                                    of=of,
                                    rows=len(rows),
                                    field=field,
                                    number=number,
                                ),
                            )
                        )
                        continue
                    rows[number - 1] = rows[number - 1].replaced(**said)
                    by_name[of] = hole.replaced(**{field: tuple(rows)})
            except ValidationError as error:
                self.rows.note(place, error)
        return list(by_name.values())

    def _calculable(self, proposal: Proposal) -> Proposal:
        """Without expressions that have no value in this project: their values stay."""
        try:
            proposed(self.rows.project, proposal)
        except ValidationError as error:
            reasons = [p for p in problems_of(error) if p.place == "expressions"]
            if reasons:
                self.rows.problems += [
                    Problem(
                        p.place,
                        say("{message}: the values are taken over without their expressions", message=p.message),
                    )
                    for p in reasons
                ]
                proposal = _plain(proposal)
        return replace(proposal, problems=tuple(self.rows.problems))

    def _oedometers(self, name: str, old: Borehole | None) -> tuple[Oedometer, ...]:
        if name not in self.rows.found_oedometers:
            return old.oedometers if old else ()
        tests = []
        for (sample, depth), found in self.rows.found_oedometers[name].items():
            place = found.pop("place")
            if depth is None or "void_ratio" not in found:
                self.rows.problems.append(
                    Problem(
                        place,
                        say("{sample}: a test needs a depth and an initial void ratio: it is left out", sample=sample),
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
                self.rows.note(place, error)
        return tuple(tests)

    def _read_over_time(self, name: str, tests: tuple[Oedometer, ...]) -> tuple[Oedometer, ...]:
        """The oedometer tests of a hole with their readings over time."""
        for (hole, sample, depth, stress), found in self.rows.found_readings.items():
            if hole != name:
                continue
            place = found["place"]
            i = next((i for i, o in enumerate(tests) if o.sample == sample and depth in (None, o.depth)), None)
            if i is None:
                self.rows.problems.append(
                    Problem(
                        place,
                        say(
                            "{name} has no oedometer test of the sample {sample!r}: it is left out",
                            name=name,
                            sample=sample,
                        ),
                    )
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
                self.rows.note(place, error)
        return tests


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
