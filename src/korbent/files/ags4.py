"""Ground investigation data in the AGS4 exchange format: what comes in, what does not and why, and writing it.

The format's own rules are read by the package python-ags4; lines that it could not read are set aside first, each
with its number. What the groups mean is decided here.
"""

import csv
import io
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import zip_longest
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, entry_for, pattern_of
from korbent.core.model import (
    Borehole,
    Ground,
    GroundTest,
    Oedometer,
    Problem,
    Project,
    Soil,
    Stratum,
    Water,
)
from korbent.core.units import UnitError, factor
from korbent.files.ground_import import Proposal

Row = dict[str, str]

READ = {
    "PROJ": "project", "LOCA": "holes", "GEOL": "strata", "ABBR": "abbreviations", "ISPT": "SPT", "SCPT": "CPT",
    "IVAN": "vane", "LVAN": "laboratory vane", "TRIT": "triaxial strength", "LNMC": "moisture", "LLPL": "plasticity",
    "LDEN": "density", "CONG": "oedometer", "CONS": "oedometer steps", "MOND": "water readings", "WSTG": "water strikes",
}  # fmt: skip
QUIET = ("TRAN", "UNIT", "TYPE", "DICT", "SAMP", "MONG", "SCPG", "TRIG", "WSTD", "FILE")
"""Groups that carry the others: nothing in them is missed."""


class Ags4Error(Exception):
    """A file that is no AGS4 file."""


@dataclass(frozen=True)
class Table:
    """A group: its rows with their lines in the file, and the units of its headings."""

    name: str
    units: Row
    rows: tuple[tuple[int, Row], ...]


def read_ags4(path: Path, shift: tuple[float, float] | None = None) -> Proposal:
    """What an AGS4 file says about the ground. Nothing in it stops the rest from being read.

    Args:
        shift: subtracted from the coordinates; None: none for local coordinates, else the nearest hundred metres below.

    Raises:
        Ags4Error: when the file cannot be read, or is no AGS4 file at all.
    """
    try:
        raw = path.read_bytes()
    except OSError as error:
        raise Ags4Error(f"{path.name} cannot be read: {error.strerror or error}") from None
    if b"\0" in raw[:4096]:
        raise Ags4Error(f"{path.name} is no text file; an AGS4 file is expected")
    tables, problems = tables_of(raw.decode("utf-8-sig", errors="replace"))
    if not tables:
        raise Ags4Error(
            f'{path.name} has no group of the AGS4 format: its first line should read "GROUP","PROJ"'
        )
    reader = _Reader(tables, problems, shift)
    return reader.proposal()


def tables_of(text: str) -> tuple[dict[str, Table], list[Problem]]:
    """The groups of a file's text, and all that is wrong with its form, with group and line."""
    import logging

    from python_ags4.AGS4 import AGS4_to_dict, AGS4Error

    logging.getLogger("python_ags4").setLevel(logging.CRITICAL)
    clean, problems = _sorted_out(text)
    try:
        data, _, lines = AGS4_to_dict(io.StringIO(clean), get_line_numbers=True)
    except (AGS4Error, KeyError, IndexError, ValueError, TypeError, csv.Error) as error:
        return {}, [*problems, Problem("file", str(error))]
    tables = {}
    for name, columns in data.items():
        if "HEADING" not in columns:
            continue
        kinds = columns["HEADING"]
        numbers = columns["line_number"]
        headings = [h for h in columns if h not in ("HEADING", "line_number")]
        units: Row = {}
        rows = []
        for i, kind in enumerate(kinds):
            row = {h: str(columns[h][i]).strip() for h in headings}
            if kind == "UNIT":
                units = row
            elif kind == "DATA":
                rows.append((int(numbers[i]), row))
        if "UNIT" not in kinds:
            problems.append(
                Problem(
                    f"{name} line {lines[name]['GROUP']}",
                    "the group has no UNIT row: the units of the format are taken",
                )
            )
        tables[name] = Table(name, units, tuple(rows))
    return tables, problems


def _sorted_out(text: str) -> tuple[str, list[Problem]]:
    """The text with unreadable lines made harmless in place, so that line numbers stay; and what is wrong with them."""
    problems: list[Problem] = []
    kept: list[str] = []
    group, headings, seen = "", 0, set()
    skip = '"SKIPPED"'
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            kept.append(skip)  # a blank line inside a group is a fault of form only
            continue
        try:
            cells = next(csv.reader([line], strict=True), [])
        except csv.Error as error:
            problems.append(Problem(f"{group or 'file'} line {number}", f"cannot be read: {error}"))
            kept.append(skip)
            continue
        kind = cells[0].strip() if cells else ""
        why = ""
        if kind == "GROUP":
            name = cells[1].strip() if len(cells) > 1 else ""
            if not re.fullmatch(r"[A-Z0-9]{4}", name):
                why = f"'{name}' is no name of a group; what follows is left out until the next group"
                group, headings = "", 0
            elif name in seen:
                why = f"the group {name} comes a second time; its rows here are left out"
                group, headings = "", 0
            else:
                group, headings = name, 0
                seen.add(name)
        elif not group:
            if kind in ("HEADING", "UNIT", "TYPE", "DATA"):
                kept.append(skip)
                if not problems:
                    problems.append(Problem(f"line {number}", "a row stands before any group"))
                continue
        elif kind == "HEADING":
            if headings:
                why = "a second HEADING row in the group is left out"
            elif len(set(cells)) != len(cells):
                twice = next(c for c in cells if cells.count(c) > 1)
                why = f"the heading {twice} stands twice; the group is left out"
                group = ""
            else:
                headings = len(cells)
        elif kind in ("UNIT", "TYPE", "DATA"):
            if not headings:
                why = f"a {kind} row stands before the HEADING row"
            elif len(cells) != headings:
                why = f"has {len(cells) - 1} values for {headings - 1} headings; the row is left out"
        else:
            why = f"begins with '{kind[:20]}' instead of GROUP, HEADING, UNIT, TYPE or DATA"
        if why:
            problems.append(Problem(f"{group or 'file'} line {number}", why))
            kept.append(skip)
        else:
            kept.append(line)
    return "\n".join(kept), problems


# typical units of the format, by heading, for files without a UNIT row
UNITS = {
    "LOCA_GL": "m", "LOCA_NATE": "m", "LOCA_NATN": "m", "LOCA_LOCX": "m", "LOCA_LOCY": "m", "GEOL_TOP": "m", "GEOL_BASE": "m",
    "ISPT_TOP": "m", "SCPT_DPTH": "m", "SCPT_RES": "MPa", "SCPT_FRES": "MPa", "IVAN_DPTH": "m", "IVAN_IVAN": "kPa", "LVAN_VNPK": "kPa",
    "TRIT_CU": "kPa", "LDEN_BDEN": "Mg/m3", "CONS_INCF": "kPa", "SPEC_DPTH": "m", "SAMP_TOP": "m", "MOND_RDNG": "m", "WSTG_DPTH": "m",
}  # fmt: skip
NAMES = {"Mg/m3": "kN/m3", "g/cm3": "kN/m3", "t/m3": "kN/m3"}
"""Densities become unit weights by 9.81 m/s²."""


class _Reader:
    """Gathers holes, strata and tests from the groups, with the problems met on the way."""

    def __init__(
        self, tables: dict[str, Table], problems: list[Problem], shift: tuple[float, float] | None
    ) -> None:
        self.tables, self.problems, self.shift = tables, problems, shift
        self.remarks: list[str] = []
        self.used: dict[str, int] = {}

    # ------------------------------------------------------------ reading rows

    def rows(self, group: str, *needed: str) -> Iterator[tuple[str, Row]]:
        """(place, row) of a group; without the headings that are needed, none."""
        table = self.tables.get(group)
        if table is None:
            return
        missing = [h for h in needed if table.rows and h not in table.rows[0][1]]
        if missing:
            self.problems.append(
                Problem(group, f"has no heading {' and no '.join(missing)}: the group is left out")
            )
            return
        for line, row in table.rows:
            yield f"{group} line {line}", row

    def bad(self, place: str, message: str) -> None:
        self.problems.append(Problem(place, message))

    def number(self, place: str, row: Row, group: str, heading: str, unit: str) -> float | None:
        """A value in ``unit``; None where there is none or it is wrong (which is noted)."""
        text = row.get(heading, "")
        if not text:
            return None
        try:
            value = float(text.replace(",", "."))
        except ValueError:
            self.bad(f"{place}, {heading}", f"'{text}' is not a number")
            return None
        if not -1e9 < value < 1e9:
            self.bad(f"{place}, {heading}", f"'{text}' is no value that can be meant")
            return None
        given = self.tables[group].units.get(heading, "") or UNITS.get(heading, unit)
        if not unit or given in (unit, "%", "-", ""):
            return value
        if given in NAMES and unit == "kN/m3":
            return value * 9.81
        try:
            return value * factor(given, unit)
        except UnitError as error:
            self.bad(f"{place}, {heading}", str(error))
            return None

    def hole(self, place: str, row: Row, holes: dict[str, Any]) -> str | None:
        """The hole that a row belongs to."""
        name = row.get("LOCA_ID", "")
        if name not in holes:
            self.bad(place, f"belongs to the hole '{name}', which LOCA does not have")
            return None
        return name

    # ------------------------------------------------------------ groups

    def proposal(self) -> Proposal:
        holes = self._holes()
        strata, soils = self._strata(holes)
        tests = self._tests(holes)
        oedometers = self._oedometers(holes)
        for name, found in oedometers.items():
            own = {(o.depth, o.void_ratio) for o in found}
            tests[name] = [t for t in tests.get(name, []) if t.kind != "e0" or (t.depth, t.value) not in own]
        kept = []
        for name, (x, y, level) in holes.items():
            if not strata.get(name):
                self.bad(f"LOCA {name}", "has no strata in GEOL: a hole needs at least one")
                continue
            end = sum(s.thickness for s in strata[name])
            for test in tests.get(name, ()):
                if test.depth > end + 1e-9:
                    self.remarks.append(
                        f"{name}: {test.kind} at {test.depth:g} m lies below the described strata"
                    )
            kept.append(
                Borehole(
                    name=name, x=x, y=y, ground_level=level, strata=tuple(strata[name]),
                    tests=tuple(sorted(tests.get(name, ()), key=lambda t: t.depth)), oedometers=tuple(oedometers.get(name, ())),
                )
            )  # fmt: skip
        used = {s.soil for h in kept for s in h.strata}
        unread = [g for g in self.tables if g not in READ and g not in QUIET]
        if unread:
            self.remarks.append(f"groups without use here: {', '.join(sorted(unread))}")
        project = next((row.get("PROJ_NAME", "") for _, row in self.rows("PROJ")), "")
        return Proposal(
            soils=tuple(s for s in soils if s.name in used), boreholes=tuple(kept), water=self._water(holes),
            title=project, problems=tuple(self.problems), remarks=tuple(self.remarks), shift=self.shift or (0.0, 0.0),
        )  # fmt: skip

    def _holes(self) -> dict[str, tuple[float, float, float]]:
        found: dict[str, tuple[float, float, float]] = {}
        local = any(row.get("LOCA_LOCX") for _, row in self.rows("LOCA", "LOCA_ID"))
        columns = ("LOCA_LOCX", "LOCA_LOCY") if local else ("LOCA_NATE", "LOCA_NATN")
        for place, row in self.rows("LOCA", "LOCA_ID"):
            name = row["LOCA_ID"]
            if not name:
                self.bad(place, "the hole has no LOCA_ID")
                continue
            if name in found:
                self.bad(place, f"the hole '{name}' comes a second time; this row is left out")
                continue
            x, y = (self.number(place, row, "LOCA", c, "m") for c in columns)
            level = self.number(place, row, "LOCA", "LOCA_GL", "m")
            if level is None:
                self.bad(place, f"{name} has no ground level (LOCA_GL): it is left out")
                continue
            if x is None or y is None:
                self.bad(place, f"{name} has no coordinates ({' and '.join(columns)}): it is left out")
                continue
            found[name] = (x, y, level)
        if found and self.shift is None:
            low = [min(h[i] for h in found.values()) for i in (0, 1)]
            far = max(map(abs, low)) > 5_000.0 and not local
            self.shift = tuple(100.0 * (v // 100.0) for v in low) if far else (0.0, 0.0)  # type: ignore[assignment]
        dx, dy = self.shift or (0.0, 0.0)
        return {n: (round(x - dx, 6), round(y - dy, 6), z) for n, (x, y, z) in found.items()}

    def _named(self, heading: str, code: str) -> str:
        for _, row in self.rows("ABBR", "ABBR_HDNG", "ABBR_CODE", "ABBR_DESC"):
            if row["ABBR_HDNG"] == heading and row["ABBR_CODE"] == code:
                return row["ABBR_DESC"]
        return ""

    def _strata(self, holes: dict[str, Any]) -> tuple[dict[str, list[Stratum]], list[Soil]]:
        strata: dict[str, list[Stratum]] = {}
        soils: dict[str, Soil] = {}
        depths: dict[str, float] = {}
        rows = [(place, row) for place, row in self.rows("GEOL", "LOCA_ID", "GEOL_TOP", "GEOL_BASE")]
        parsed: list[tuple[str, float, float, str, Row]] = []
        for place, row in rows:
            name = self.hole(place, row, holes)
            top, base = (self.number(place, row, "GEOL", h, "m") for h in ("GEOL_TOP", "GEOL_BASE"))
            if name is None:
                continue
            if top is None or base is None:
                self.bad(place, "a stratum needs GEOL_TOP and GEOL_BASE: it is left out")
            elif base <= top:
                self.bad(
                    place, f"the stratum ends at {base:g} m, not below its top at {top:g} m: it is left out"
                )
            else:
                parsed.append((name, top, base, place, row))
        for name, top, base, place, row in sorted(parsed, key=lambda p: (p[0], p[1])):
            soil = self._soil(row)
            soils.setdefault(soil.name, soil)
            at = depths.get(name, 0.0)
            if top > at + 0.005:
                self.bad(
                    place,
                    f"between {at:g} and {top:g} m of {name} nothing is described: the stratum below is taken from {at:g} m",
                )
            elif top < at - 0.005:
                self.bad(
                    place,
                    f"the stratum begins at {top:g} m, inside the one above that ends at {at:g} m: it is taken from there",
                )
            if base <= at + 0.005:
                continue
            strata.setdefault(name, []).append(Stratum(soil=soil.name, thickness=round(base - at, 6)))
            depths[name] = base
        return strata, list(soils.values())

    def _soil(self, row: Row) -> Soil:
        description = row.get("GEOL_DESC", "")
        code = row.get("GEOL_GEOL", "")
        legend = self._named("GEOL_LEG", row.get("GEOL_LEG", ""))
        named = self._named("GEOL_GEOL", code) or code
        pattern = pattern_of(description) or pattern_of(named) or pattern_of(legend) or "sand"
        name = (named or description.split(".")[0] or pattern)[:80].strip() or pattern
        plain = Soil(
            name=name, pattern=pattern, description=description[:300], weight=18.0, weight_saturated=20.0
        )  # type: ignore[arg-type]
        entry = entry_for(plain)
        start = entry.soil if entry else next(e.soil for e in LIBRARY if e.soil.pattern == pattern)
        return start.replaced(name=name, description=description[:300])

    def _tests(self, holes: dict[str, Any]) -> dict[str, list[GroundTest]]:
        found: dict[str, list[GroundTest]] = {}
        # group, depth headings in order, value heading, kind, unit
        for group, at, heading, kind, unit in (
            ("ISPT", ("ISPT_TOP",), "ISPT_NVAL", "SPT N", ""),
            ("SCPT", ("SCPT_DPTH",), "SCPT_RES", "CPT qc", "MPa"),
            ("SCPT", ("SCPT_DPTH",), "SCPT_FRES", "CPT fs", "kPa"),
            ("IVAN", ("IVAN_DPTH",), "IVAN_IVAN", "cu", "kPa"),
            ("LVAN", ("SPEC_DPTH", "SAMP_TOP"), "LVAN_VNPK", "cu", "kPa"),
            ("TRIT", ("SPEC_DPTH", "SAMP_TOP"), "TRIT_CU", "cu", "kPa"),
            ("LNMC", ("SPEC_DPTH", "SAMP_TOP"), "LNMC_MC", "w", ""),
            ("LLPL", ("SPEC_DPTH", "SAMP_TOP"), "LLPL_LL", "wL", ""),
            ("LLPL", ("SPEC_DPTH", "SAMP_TOP"), "LLPL_PI", "PI", ""),
            ("LDEN", ("SPEC_DPTH", "SAMP_TOP"), "LDEN_BDEN", "gamma", "kN/m3"),
            ("CONG", ("SPEC_DPTH", "SAMP_TOP"), "CONG_IVR", "e0", ""),
        ):
            table = self.tables.get(group)
            if table is None or not table.rows:
                continue
            if heading not in table.rows[0][1]:
                continue
            for place, row in self.rows(group, "LOCA_ID"):
                if not row[heading]:
                    if kind == "SPT N":
                        self.bad(
                            place,
                            f"has no N value{', reported as ' + row['ISPT_REP'] if row.get('ISPT_REP') else ''}: it is left out",
                        )
                    continue
                name = self.hole(place, row, holes)
                depth = next(
                    (d for h in at if (d := self.number(place, row, group, h, "m")) is not None), None
                )
                value = self.number(place, row, group, heading, unit)
                if name is None or value is None:
                    continue
                if depth is None:
                    self.bad(place, f"has no depth ({' or '.join(at)}): it is left out")
                    continue
                try:
                    test = GroundTest(kind=kind, depth=depth, value=round(value, 9))  # type: ignore[arg-type]
                except ValidationError as error:
                    self.bad(place, f"{kind}: {error.errors()[0]['msg'].lower()}; it is left out")
                    continue
                found.setdefault(name, []).append(test)
        return found

    def _oedometers(self, holes: dict[str, Any]) -> dict[str, list[Oedometer]]:
        steps: dict[tuple[str, ...], list[tuple[float, float, float]]] = {}
        keys = ("LOCA_ID", "SAMP_TOP", "SAMP_REF", "SAMP_ID", "SPEC_REF", "SPEC_DPTH")
        for i, (place, row) in enumerate(self.rows("CONS", "LOCA_ID", "CONS_INCF", "CONS_INCE")):
            stress = self.number(place, row, "CONS", "CONS_INCF", "kPa")
            void = self.number(place, row, "CONS", "CONS_INCE", "")
            order = self.number(place, row, "CONS", "CONS_INCN", "")
            if stress is None or void is None:
                self.bad(place, "a step needs CONS_INCF and CONS_INCE: it is left out")
                continue
            if stress <= 0 or void <= 0:
                self.bad(place, "stress and void ratio must be above zero: the step is left out")
                continue
            key = tuple(row.get(k, "") for k in keys)
            steps.setdefault(key, []).append((order if order is not None else float(i), stress, void))
        found: dict[str, list[Oedometer]] = {}
        for place, row in self.rows("CONG", "LOCA_ID"):
            name = self.hole(place, row, holes)
            key = tuple(row.get(k, "") for k in keys)
            points = sorted(steps.pop(key, []))
            if name is None:
                continue
            depth = next(
                (
                    d
                    for h in ("SPEC_DPTH", "SAMP_TOP")
                    if (d := self.number(place, row, "CONG", h, "m")) is not None
                ),
                None,
            )
            initial = self.number(place, row, "CONG", "CONG_IVR", "")
            if not points:
                continue  # an initial void ratio alone is an index test
            if depth is None or initial is None or len(points) < 2:
                self.bad(
                    place,
                    "an oedometer test needs a depth, an initial void ratio and two steps in CONS: it is left out",
                )
                continue
            sample = (
                " ".join(part for part in (row.get("SAMP_REF", ""), row.get("SAMP_ID", "")) if part)
                or f"at {depth:g} m"
            )
            try:
                test = Oedometer(
                    sample=sample[:80],
                    depth=depth,
                    void_ratio=initial,
                    points=tuple((s, e) for _, s, e in points),
                )
            except ValidationError as error:
                self.bad(place, f"{error.errors()[0]['msg'].lower()}; the test is left out")
                continue
            found.setdefault(name, []).append(test)
        for key in steps:
            self.bad(
                "CONS",
                f"steps of the hole '{key[0]}' at {key[5] or key[1] or '?'} m have no test in CONG: they are left out",
            )
        return found

    def _water(self, holes: dict[str, tuple[float, float, float]]) -> Water | None:
        levels: list[float] = []
        for place, row in self.rows("MOND", "LOCA_ID", "MOND_TYPE", "MOND_RDNG"):
            kind = row["MOND_TYPE"].upper()
            if kind not in ("WDEP", "WLEV"):
                continue
            name = self.hole(place, row, holes)
            reading = self.number(place, row, "MOND", "MOND_RDNG", "m")
            if name is not None and reading is not None:
                levels.append(reading if kind == "WLEV" else holes[name][2] - reading)
        source = "readings in standpipes (MOND)"
        if not levels:
            source = "water strikes while boring (WSTG)"
            for place, row in self.rows("WSTG", "LOCA_ID", "WSTG_DPTH"):
                name = self.hole(place, row, holes)
                depth = self.number(place, row, "WSTG", "WSTG_DPTH", "m")
                if name is not None and depth is not None:
                    levels.append(holes[name][2] - depth)
        if not levels:
            return None
        levels.sort()
        middle = (
            levels[len(levels) // 2]
            if len(levels) % 2
            else (levels[len(levels) // 2 - 1] + levels[len(levels) // 2]) / 2
        )
        low, normal, high = (round(v, 3) for v in (levels[0], middle, levels[-1]))
        self.remarks.append(
            f"water from {len(levels)} {source}: lowest {low:+.2f} m, median {normal:+.2f} m, highest {high:+.2f} m"
        )
        return Water(low=low, normal=normal, high=high)


# ---------------------------------------------------------------- writing


def write_ags4(project: Project, path: Path) -> None:
    """Writes holes, strata, tests and water of a project as an AGS4 file.

    Raises:
        OSError: when it cannot be written.
    """
    path.write_text(ags4_text(project), encoding="utf-8", newline="")


def ags4_text(project: Project) -> str:
    """The text of an AGS4 file with the ground of a project; lines end as the format asks, by CR and LF."""
    ground = project.ground
    groups: list[str] = []

    def group(
        name: str, headings: str, units: Iterable[str], types: Iterable[str], rows: Iterable[Iterable[object]]
    ) -> None:
        rows = list(rows)
        if not rows:
            return
        out = io.StringIO()
        writer = csv.writer(out, quoting=csv.QUOTE_ALL, lineterminator="\r\n")
        writer.writerow(["GROUP", name])
        writer.writerow(["HEADING", *headings.split()])
        writer.writerow(["UNIT", *units])
        writer.writerow(["TYPE", *types])
        writer.writerows(["DATA", *(_cell(v) for v in row)] for row in rows)
        groups.append(out.getvalue())

    codes = _codes(ground)
    group(
        "PROJ",
        "PROJ_ID PROJ_NAME PROJ_CLNT",
        ("", "", ""),
        ("ID", "X", "X"),
        [(project.title.number or "1", project.title.project, project.title.client)],
    )
    group(
        "TRAN",
        "TRAN_ISNO TRAN_DATE TRAN_PROD TRAN_STAT TRAN_AGS TRAN_RECV TRAN_DLIM TRAN_RCON",
        ("", "yyyy-mm-dd", "", "", "", "", "", ""),
        ("X", "DT", "X", "X", "X", "X", "X", "X"),
        [
            (
                "1",
                project.title.date,
                project.title.author or "-",
                "FINAL",
                "4.1.1",
                project.title.client or "-",
                "|",
                "+",
            )
        ],
    )
    group(
        "ABBR",
        "ABBR_HDNG ABBR_CODE ABBR_DESC",
        ("", "", ""),
        ("X", "X", "X"),
        [
            *(("GEOL_GEOL", code, name) for name, code in codes.items()),
            ("MOND_TYPE", "WLEV", "Water level"),
            ("LOCA_TYPE", "CP", "Cable percussion"),
        ],
    )
    group(
        "LOCA",
        "LOCA_ID LOCA_TYPE LOCA_GL LOCA_FDEP LOCA_LOCX LOCA_LOCY",
        ("", "", "m", "m", "m", "m"),
        ("ID", "PA", "2DP", "2DP", "2DP", "2DP"),
        [
            (h.name, "CP", h.ground_level, sum(s.thickness for s in h.strata), h.x, h.y)
            for h in ground.boreholes
        ],
    )
    texts = {s.name: s.description or s.name for s in ground.soils}
    geology = []
    for hole in ground.boreholes:
        depth = 0.0
        for stratum in hole.strata:
            geology.append(
                (hole.name, depth, depth + stratum.thickness, texts[stratum.soil], codes[stratum.soil])
            )
            depth += stratum.thickness
    group(
        "GEOL",
        "LOCA_ID GEOL_TOP GEOL_BASE GEOL_DESC GEOL_GEOL",
        ("", "m", "m", "", ""),
        ("ID", "2DP", "2DP", "X", "PA"),
        geology,
    )

    def tests(kind: str) -> list[tuple[str, float, float]]:
        return [(h.name, t.depth, t.value) for h in ground.boreholes for t in h.tests if t.kind == kind]

    group("ISPT", "LOCA_ID ISPT_TOP ISPT_NVAL", ("", "m", ""), ("ID", "2DP", "0DP"), tests("SPT N"))
    group(
        "SCPT", "LOCA_ID SCPT_DPTH SCPT_RES SCPT_FRES", ("", "m", "MPa", "kPa"), ("ID", "2DP", "3DP", "3DP"),
        _paired(tests("CPT qc"), tests("CPT fs")),
    )  # fmt: skip
    group("IVAN", "LOCA_ID IVAN_DPTH IVAN_IVAN", ("", "m", "kPa"), ("ID", "2DP", "1DP"), tests("cu"))
    group("LNMC", "LOCA_ID SPEC_DPTH LNMC_MC", ("", "m", "%"), ("ID", "2DP", "1DP"), tests("w"))
    group(
        "LLPL", "LOCA_ID SPEC_DPTH LLPL_LL LLPL_PI", ("", "m", "%", "%"), ("ID", "2DP", "1DP", "1DP"), _paired(tests("wL"), tests("PI")),
    )  # fmt: skip
    group(
        "LDEN",
        "LOCA_ID SPEC_DPTH LDEN_BDEN",
        ("", "m", "Mg/m3"),
        ("ID", "2DP", "2DP"),
        [(name, depth, value / 9.81) for name, depth, value in tests("gamma")],
    )
    consolidation = [
        (h.name, o.depth, o.sample, o.void_ratio) for h in ground.boreholes for o in h.oedometers
    ]
    consolidation += [
        (name, depth, "", value)
        for name, depth, value in tests("e0")
        if (name, depth, value) not in {(n, d, e) for n, d, _, e in consolidation}
    ]
    group(
        "CONG",
        "LOCA_ID SPEC_DPTH SAMP_REF CONG_IVR",
        ("", "m", "", ""),
        ("ID", "2DP", "X", "3DP"),
        consolidation,
    )
    group(
        "CONS",
        "LOCA_ID SPEC_DPTH SAMP_REF CONS_INCN CONS_INCF CONS_INCE",
        ("", "m", "", "", "kPa", ""),
        ("ID", "2DP", "X", "0DP", "1DP", "3DP"),
        [
            (h.name, o.depth, o.sample, i, s, e)
            for h in ground.boreholes
            for o in h.oedometers
            for i, (s, e) in enumerate(o.points, 1)
        ],
    )
    water = ground.water
    if water and ground.boreholes:
        hole = ground.boreholes[0].name
        group(
            "MOND",
            "LOCA_ID MOND_DTIM MOND_TYPE MOND_RDNG MOND_UNIT",
            ("", "yyyy-mm-ddThh:mm", "", "", ""),
            ("ID", "DT", "PA", "XN", "PU"),
            [
                (hole, f"{2000 + i}-01-01T00:00", "WLEV", level, "m")
                for i, level in enumerate((water.low, water.normal, water.high), 26)
            ],
        )
    return "\r\n".join(groups)  # fmt: skip


def _paired(
    first: list[tuple[str, float, float]], second: list[tuple[str, float, float]]
) -> list[tuple[str, float, object, object]]:
    """Rows of two kinds of values at the same hole and depth; where one is missing, an empty cell."""
    places: dict[tuple[str, float], tuple[list[float], list[float]]] = {}
    for kind, values in enumerate((first, second)):
        for name, depth, value in values:
            places.setdefault((name, depth), ([], []))[kind].append(value)
    return [
        (*place, a, b)
        for place, (many, others) in places.items()
        for a, b in zip_longest(many, others, fillvalue="")
    ]


def _cell(value: object) -> str:
    if isinstance(value, float):
        return f"{round(value, 9):.12g}"
    return re.sub(r"[\r\n]+", " ", str(value))


def _codes(ground: Ground) -> dict[str, str]:
    """A short code for every soil, each its own."""
    codes: dict[str, str] = {}
    for soil in ground.soils:
        base = "".join(word[0] for word in re.findall(r"[A-Za-z0-9]+", soil.name))[:4].upper() or "S"
        codes[soil.name] = next(
            c for c in (base, *(f"{base}{i}" for i in range(2, 10_000))) if c not in codes.values()
        )
    return codes
