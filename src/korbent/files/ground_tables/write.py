"""Tables of the ground, written."""

from collections.abc import Sequence
from pathlib import Path

from korbent.core.model import Project, Soil
from korbent.core.model.frozen import Row, unit_of
from korbent.core.model.ground import TEST_UNITS
from korbent.core.units import factor, shown_unit
from korbent.files.ground_tables.columns import SITE_VALUES, SOIL_FIELDS, TEXTS
from korbent.files.sheet import Cell, write_sheets


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
            [
                "borehole",
                head("x", "m"),
                head("y", "m"),
                head("ground level", "m"),
                "rigid below",
                head("water found", "m"),
            ],
            [
                [
                    h.name,
                    number(h.x, "m"),
                    number(h.y, "m"),
                    number(h.ground_level, "m"),
                    h.rigid_below,
                    number(h.water, "m"),
                ]
                for h in ground.boreholes
            ],
        ),
        "strata": (
            ["borehole", "soil", head("thickness", "m")],
            [[h.name, s.soil, number(s.thickness, "m")] for h in ground.boreholes for s in h.strata],
        ),
        "tests": (
            ["borehole", "test", head("depth", "m"), "value", "unit", "left out because"],
            [
                [h.name, t.kind, number(t.depth, "m"), t.value, TEST_UNITS[t.kind], t.left_out]
                for h in ground.boreholes
                for t in h.tests
            ],
        ),
        "oedometer": (
            ["borehole", "sample", head("depth", "m"), "initial void ratio", head("stress", "kPa"), "void ratio"],
            [
                [h.name, o.sample, number(o.depth, "m"), o.void_ratio, number(stress, "kPa"), void]
                for h in ground.boreholes
                for o in h.oedometers
                for stress, void in o.points
            ],
        ),
        "readings": (
            [
                "borehole",
                "sample",
                head("depth", "m"),
                head("stress", "kPa"),
                "sample height [mm]",
                "time [min]",
                "settlement [mm]",
            ],
            [
                [h.name, o.sample, number(o.depth, "m"), number(r.stress, "kPa"), r.height, time, settlement]
                for h in ground.boreholes
                for o in h.oedometers
                for r in o.readings
                for time, settlement in r.points
            ],
        ),
        "lines": (
            ["soil", "parameter", "line", head("level", "m"), "value", "unit"],
            [
                [
                    s.name,
                    f,
                    line.kind,
                    number(level, "m"),
                    number(value, unit_of(Soil, f)),
                    shown_unit(unit_of(Soil, f), units),
                ]
                for s in ground.soils
                for f, line in s.over_level.items()
                for level, value in line.points
            ],
        ),
        "site": (["site item", "value", "unit"], _site(project)),
        "notes": (
            ["note on", "of", "number", "field", "note", "source", "expression", "expression units"],
            _notes(project),
        ),
    }
    return {name: table for name, table in tables.items() if table[1]}


def write_ground(project: Project, path: Path) -> list[Path]:
    """Writes the tables of the ground to a workbook, or to CSV files beside each other.

    Raises:
        OSError: when a file cannot be written.
    """
    return write_sheets(path, ground_tables(project))


def _site(project: Project) -> list[list[Cell]]:
    """Water, surfaces and the like, a row each."""
    rows: list[list[Cell]] = []
    for item, (field, inner, unit) in SITE_VALUES.items():
        value = getattr(project.ground, field)
        if value is not None and inner:
            value = getattr(value, inner)
        if value is not None:
            shown = shown_unit(unit, project.showing) if unit else ""
            rows.append([item, value * factor(unit, shown) if unit else value, shown])
    return rows


def _notes(project: Project) -> list[list[Cell]]:
    """What stands beside the values: notes, sources, expressions."""
    ground = project.ground
    hosts: list[tuple[str, str, int, Row]] = [
        ("ground", "", 0, ground),
        *(("soil", s.name, 0, s) for s in ground.soils),
    ]
    for h in ground.boreholes:
        hosts.append(("borehole", h.name, 0, h))
        parts: tuple[tuple[str, Sequence[Row]], ...] = (
            ("stratum", h.strata),
            ("test", h.tests),
            ("oedometer", h.oedometers),
        )
        hosts += [(kind, h.name, i + 1, row) for kind, rows in parts for i, row in enumerate(rows)]
    table: list[list[Cell]] = []
    for kind, of, number, row in hosts:
        sources = row.sources if isinstance(row, Soil) else {}
        for key in dict.fromkeys([*row.notes, *sources, *row.expressions]):
            said = row.expressions.get(key)
            text = [said.text.removeprefix("="), said.units] if said else ["", ""]
            table.append([kind, of, number or None, key, row.notes.get(key, ""), sources.get(key, ""), *text])
    return table
