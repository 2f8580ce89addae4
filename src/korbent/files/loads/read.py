"""Loads of a table as actions on the foundation, each row read or listed with what is wrong."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import get_args

from korbent.core.model import Load, Problem
from korbent.core.model.actions import LoadPointKind, Nature
from korbent.core.model.labels import key_of, labels
from korbent.core.quantity_text import AmbiguousNumberError, Decimal, decimal_of, parse
from korbent.core.units import UnitError, UnitSet, factor
from korbent.files.loads.recognise import LIMITS, QUANTITIES, TURNED_UP, UNITS, Reading, Sense, Up
from korbent.files.sheet import Sheet
from korbent.words import say


@dataclass(frozen=True)
class LoadTable:
    """Loads by point and case, as actions on the foundation, V down."""

    loads: Mapping[str, Mapping[str, Load]]
    places: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    problems: tuple[Problem, ...] = ()
    shapes: Mapping[str, Mapping[str, object]] = field(default_factory=dict)
    """What the table says of the columns themselves: fields of a load point by its name."""
    natures: Mapping[str, str] = field(default_factory=dict)
    """Natures of load cases, where the table has them or they were chosen."""
    reading: Reading | None = None

    @property
    def cases(self) -> tuple[str, ...]:
        """All cases, in the order in which they come."""
        return tuple(dict.fromkeys(case for cases in self.loads.values() for case in cases))


def as_action(values: Mapping[str, float], sense: Sense, swapped: bool, up: Up = "z") -> Load:
    """A row as an action on the foundation.

    With z up an action has V = -F_z. A reaction is the opposite of the action: V = R_z, and all horizontal forces and
    moments turn their sign. Where y points upwards the plan lies in x and -z. Swapped axes are a plan mirrored at its
    diagonal: forces change places, moments change places and signs."""
    if up == "y":
        values = {TURNED_UP.get(q, q): v for q, v in values.items()}
        values = {q: -v if q in ("Hy", "My") else v for q, v in values.items()}
    turn = -1.0 if sense == "reactions, z up" else 1.0
    down = {"actions, V down": 1.0, "actions, z up": -1.0, "reactions, z up": 1.0}[sense]
    v = {q: turn * values.get(q, 0.0) for q in ("Hx", "Hy", "Mx", "My", "Mz")}
    if swapped:
        v = {"Hx": v["Hy"], "Hy": v["Hx"], "Mx": -v["My"], "My": -v["Mx"], "Mz": -v["Mz"]}
    return Load(V=down * values.get("V", 0.0), **{q: value + 0.0 for q, value in v.items()})


def decimal_sign(sheet: Sheet, reading: Reading, units: UnitSet) -> tuple[Decimal | None, str]:
    """(the decimal sign of a table, '' or why it is not known): as chosen, as its numbers show, else by the unit
    set."""
    if reading.decimal:
        return reading.decimal, ""
    at = {reading.columns[r] for r in UNITS if r in reading.columns} | {int(k) for k in reading.many}
    shown = {
        decimal_of(row[i]) for row in sheet.rows for i in at if i < len(row) and re.match(r"[+\-−]?[\d.,]", row[i])
    }
    if {".", ","} <= shown:
        return None, say("some numbers have a decimal point, some a decimal comma: choose which the table means")
    if "." in shown:
        return ".", ""
    if "," in shown:
        return ",", ""
    us = units == "us" or getattr(units, "system", "") == "us"
    return ("." if us else None), ""


def read_loads(sheet: Sheet, reading: Reading, units: UnitSet = "metric") -> LoadTable:
    """Loads of a sheet. What cannot be read is listed with row and column; such a table is not to be taken over."""
    needed = ("point",) if reading.many else ("point", "V" if reading.up == "z" else "Hy")
    problems = [
        Problem("columns", say("no column is chosen for {role}", role=role))
        for role in needed
        if role not in reading.columns
    ]
    problems += [Problem(say("unit of {role}", role=role), why) for role, why in reading.unknown.items()]
    decimal, why = decimal_sign(sheet, reading, units)
    if why:
        problems.append(Problem(say("decimal sign"), why))
    if problems:
        return LoadTable({}, problems=tuple(problems), reading=reading)
    rows = _Rows(sheet, reading, decimal)
    rows.read()
    if not rows.loads and not rows.problems:
        rows.problems.append(Problem("table", say("it has no rows")))
    return LoadTable(
        rows.loads,
        rows.places,
        tuple(rows.problems),
        rows.shapes,
        {**rows.natures, **reading.natures},
        reading,
    )


class _Rows:
    """The rows of a table, one after the other."""

    def __init__(self, sheet: Sheet, reading: Reading, decimal: Decimal | None) -> None:
        self.sheet, self.reading, self.decimal = sheet, reading, decimal
        self.loads: dict[str, dict[str, Load]] = {}
        self.places: dict[str, tuple[float, float]] = {}
        self.shapes: dict[str, dict[str, object]] = {}
        self.natures: dict[str, str] = {}
        self.problems: list[Problem] = []
        self.point = ""

    def read(self) -> None:
        for i, row in enumerate(self.sheet.rows):
            if any(row):
                self._row(self.sheet.first_row + i, row)

    def _text(self, row: tuple[str, ...], role: str) -> str:
        at = self.reading.columns.get(role)
        return row[at] if at is not None and at < len(row) else ""

    def _value(self, number: int, row: tuple[str, ...], at: int, role: str) -> float | None:
        """A value in its stored unit; None where it is wrong, which is noted."""
        text = row[at] if at < len(row) else ""
        unit = UNITS[role]
        try:
            return _number(text, self.reading.units.get(role, unit), unit, self.decimal)
        except AmbiguousNumberError as error:
            self._wrong(number, at, say("{error}, or choose the decimal sign of the table", error=error))
        except UnitError as error:
            self._wrong(number, at, str(error))
        return None

    def _wrong(self, number: int, at: int, why: str) -> None:
        self.problems.append(
            Problem(say("row {number}, column {header!r}", number=number, header=self.sheet.header[at]), why)
        )

    def _row(self, number: int, row: tuple[str, ...]) -> None:
        reading = self.reading
        # a name that stands only in the first of several rows counts for those below it
        self.point = self._text(row, "point") or self.point
        by_column = {k: v for k, v in reading.many.items() if v[0] not in LIMITS}
        case = self._text(row, "case") if "case" in reading.columns else "" if by_column else "G"
        if not self.point or not (case or by_column):
            self.problems.append(
                Problem(
                    say("row {number}", number=number),
                    say("has no name") if not self.point else say("has no load case"),
                )
            )
            return
        values: dict[str, float] = {}
        for role in UNITS:
            if role in reading.columns:
                value = self._value(number, row, reading.columns[role], role)
                if value is not None:
                    values[role] = value
        for name, quantities in self._cases(number, row, case, values).items():
            if name in self.loads.setdefault(self.point, {}):
                self.problems.append(
                    Problem(
                        say("row {number}", number=number),
                        say("{point} has the case {name} a second time", point=self.point, name=name),
                    )
                )
            self.loads[self.point][name] = as_action(quantities, reading.sense, reading.swapped, reading.up)
        self._about(number, row, case, values)

    def _cases(
        self, number: int, row: tuple[str, ...], case: str, values: Mapping[str, float]
    ) -> dict[str, dict[str, float]]:
        """The quantities of each case of a row: its own, those of columns that are cases, greatest and least apart."""
        common = {q: values[q] for q in QUANTITIES if q in values}
        if not self.reading.many:
            return {case: common}
        found: dict[str, dict[str, float]] = {}
        for at, (name, role) in self.reading.many.items():
            whole = f"{case} {name}".strip() if name in LIMITS else name
            value = self._value(number, row, int(at), role)
            if value is not None:
                found.setdefault(whole, dict(common))[role] = value
        return found

    def _about(self, number: int, row: tuple[str, ...], case: str, values: Mapping[str, float]) -> None:
        """What a row says of the column itself, and of its case."""
        reading, shape = self.reading, self.shapes.setdefault(self.point, {})
        if "x" in values and "y" in values:
            x, y = values["x"], values["y"]
            self.places[self.point] = (y, x) if reading.swapped else (x, y)
        for role in ("size_x", "size_y", "level"):
            if values.get(role):
                shape[role] = values[role]
        for role, known in (("kind", get_args(LoadPointKind)), ("nature", get_args(Nature))):
            text = self._text(row, role)
            key = key_of(text, known)
            if text and key is None:
                self.problems.append(
                    Problem(
                        say("row {number}", number=number),
                        say("'{text}' is no {role}; one of: {known}", text=text, role=role, known=labels(known)),
                    )
                )
            elif key and role == "nature":
                self.natures[case] = key
            elif key:
                shape[role] = key


def _number(text: str, unit: str, wanted: str, decimal: Decimal | None) -> float:
    if not text or text in ("-", "–", "—"):
        return 0.0
    if re.search(r"[a-zA-Z'\"]", text.replace("e", "").replace("E", "")) and not re.fullmatch(r"[\d'’.,\s+\-−]+", text):
        return parse(text, wanted, decimal=decimal)
    return parse(text, "", decimal=decimal) * factor(unit, wanted)
