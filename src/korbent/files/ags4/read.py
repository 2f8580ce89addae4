"""What the groups of an AGS4 file say about the ground."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from korbent.core.ground.library import LIBRARY, entry_for, pattern_of
from korbent.core.model import (
    Borehole,
    GroundTest,
    Oedometer,
    Problem,
    Soil,
    Stratum,
    Water,
)
from korbent.core.units import UnitError, factor
from korbent.files.ags4.form import Row, Table, tables_of
from korbent.files.ground_import import Proposal

READ = {
    "PROJ": "project", "LOCA": "holes", "GEOL": "strata", "ABBR": "abbreviations", "ISPT": "SPT", "SCPT": "CPT",
    "IVAN": "vane", "LVAN": "laboratory vane", "TRIT": "triaxial strength", "LNMC": "moisture", "LLPL": "plasticity",
    "LDEN": "density", "CONG": "oedometer", "CONS": "oedometer steps", "MOND": "water readings", "WSTG": "water strikes",
}  # fmt: skip
QUIET = ("TRAN", "UNIT", "TYPE", "DICT", "SAMP", "MONG", "SCPG", "TRIG", "WSTD", "FILE")
"""Groups that carry the others: nothing in them is missed."""


class Ags4Error(Exception):
    """A file that is no AGS4 file."""


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
