"""The ground of a project as an AGS4 file."""

import csv
import io
import re
from collections.abc import Iterable
from itertools import zip_longest
from pathlib import Path
from typing import Any

from korbent.core.model import Ground, GroundTest, Project
from korbent.core.units import factor
from korbent.files.atomic import write_whole
from korbent.files.sheet import guarded


def write_ags4(project: Project, path: Path) -> None:
    """Writes holes, strata, tests and water of a project as an AGS4 file.

    Raises:
        OSError: when it cannot be written.
    """
    write_whole(path, ags4_text(project).encode())


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
        [(h.name, "CP", h.ground_level, sum(s.thickness for s in h.strata), h.x, h.y) for h in ground.boreholes],
    )
    texts = {s.name: s.description or s.name for s in ground.soils}
    geology = []
    for hole in ground.boreholes:
        depth = 0.0
        for stratum in hole.strata:
            geology.append((hole.name, depth, depth + stratum.thickness, texts[stratum.soil], codes[stratum.soil]))
            depth += stratum.thickness
    group(
        "GEOL",
        "LOCA_ID GEOL_TOP GEOL_BASE GEOL_DESC GEOL_GEOL",
        ("", "m", "m", "", ""),
        ("ID", "2DP", "2DP", "X", "PA"),
        geology,
    )

    def tests(name: str, at: str, *values: tuple[str, str, str, str]) -> None:
        """One group of tests; each value by kind, heading, unit and type. What is said of them stands under remarks."""
        rows = _at_one_depth(ground, tuple(kind for kind, *_ in values))
        headings, units, types = zip(*(v[1:] for v in values))
        remarks = any(row[-1] for row in rows)
        group(
            name,
            " ".join(["LOCA_ID", at, *headings, *[f"{name}_REM"] * remarks]),
            ("", "m", *units, *[""] * remarks),
            ("ID", "2DP", *types, *["X"] * remarks),
            [row if remarks else row[:-1] for row in rows],
        )

    tests("ISPT", "ISPT_TOP", ("SPT N", "ISPT_NVAL", "", "0DP"))
    tests(
        "SCPT",
        "SCPT_DPTH",
        ("CPT qc", "SCPT_RES", "MPa", "3DP"),
        ("CPT fs", "SCPT_FRES", "kPa", "3DP"),
        ("CPT u2", "SCPT_PWP2", "kPa", "3DP"),
    )
    tests("IVAN", "IVAN_DPTH", ("cu", "IVAN_IVAN", "kPa", "1DP"))
    tests("SHBG", "SPEC_DPTH", ("phi", "SHBG_PHI", "deg", "1DP"))
    tests("LNMC", "SPEC_DPTH", ("w", "LNMC_MC", "%", "1DP"))
    tests("LLPL", "SPEC_DPTH", ("wL", "LLPL_LL", "%", "1DP"), ("PI", "LLPL_PI", "%", "1DP"))
    tests("LDEN", "SPEC_DPTH", ("gamma", "LDEN_BDEN", "Mg/m3", "2DP"))
    consolidation: list[tuple[Any, ...]] = [
        (h.name, o.depth, o.sample, o.void_ratio, "") for h in ground.boreholes for o in h.oedometers
    ]
    known = {row[:2] + row[3:4] for row in consolidation}
    consolidation += [
        (name, depth, "", value, said)
        for name, depth, value, said in _at_one_depth(ground, ("e0",))
        if said or (name, depth, value) not in known
    ]
    group(
        "CONG",
        "LOCA_ID SPEC_DPTH SAMP_REF CONG_IVR CONG_REM",
        ("", "m", "", "", ""),
        ("ID", "2DP", "X", "3DP", "X"),
        consolidation,
    )
    steps: list[tuple[Any, ...]] = [
        (h.name, o.depth, o.sample, i, s, e, "", "", "")
        for h in ground.boreholes
        for o in h.oedometers
        for i, (s, e) in enumerate(o.points, 1)
    ]
    steps += [(name, depth, "", "", "", "", *values) for name, depth, *values in _at_one_depth(ground, ("mv", "cv"))]
    group(
        "CONS",
        "LOCA_ID SPEC_DPTH SAMP_REF CONS_INCN CONS_INCF CONS_INCE CONS_INMV CONS_INCV CONS_REM",
        ("", "m", "", "", "kPa", "", "m2/MN", "m2/day", ""),
        ("ID", "2DP", "X", "0DP", "1DP", "3DP", "4DP", "6DP", "X"),
        steps,
    )
    water = ground.water
    if water and ground.boreholes:
        first = ground.boreholes[0].name
        group(
            "MOND",
            "LOCA_ID MOND_DTIM MOND_TYPE MOND_RDNG MOND_UNIT",
            ("", "yyyy-mm-ddThh:mm", "", "", ""),
            ("ID", "DT", "PA", "XN", "PU"),
            [
                (first, f"{2000 + i}-01-01T00:00", "WLEV", level, "m")
                for i, level in enumerate((water.low, water.normal, water.high), 26)
            ],
        )
    struck = [
        (h.name, h.ground_level - h.water)
        for h in ground.boreholes
        if h.water is not None and h.water <= h.ground_level
    ]
    if struck:
        group("WSTG", "LOCA_ID WSTG_DPTH", ("", "m"), ("ID", "2DP"), struck)
    return "\r\n".join(groups)


def _at_one_depth(ground: Ground, kinds: tuple[str, ...]) -> list[tuple[Any, ...]]:
    """Rows of values of some kinds at the same hole and depth, empty where one is missing, and what is said of them at
    the end."""
    rows: list[tuple[Any, ...]] = []
    for hole in ground.boreholes:
        places: dict[float, list[list[GroundTest]]] = {}
        for test in hole.tests:
            if test.kind in kinds:
                places.setdefault(test.depth, [[] for _ in kinds])[kinds.index(test.kind)].append(test)
        for depth, several in places.items():
            for one in zip_longest(*several):
                said = " | ".join(_remark(test) for test in one if test is not None and _remark(test))
                rows.append((hole.name, depth, *("" if t is None else _in_file(t) for t in one), said))
    return rows


def _in_file(test: GroundTest) -> float:
    """The value in the unit of the file."""
    return test.value / factor("Mg/m3", "kN/m3") if test.kind == "gamma" else test.value


def _remark(test: GroundTest) -> str:
    """What is said of a test, so that :func:`korbent.files.ags4.tests.remarks_in` finds it again."""
    note = test.notes.get("value", "")
    parts = [f"{test.kind} left out: {test.left_out}"] if test.left_out else []
    parts += [f"{test.kind} note: {note}"] if note else []
    return " | ".join(part.replace("|", "/") for part in parts)


def _cell(value: object) -> str:
    if isinstance(value, float):
        return f"{value:.12g}"
    return guarded(re.sub(r"[\r\n]+", " ", str(value)))


def _codes(ground: Ground) -> dict[str, str]:
    """A short code for every soil, each its own."""
    codes: dict[str, str] = {}
    for soil in ground.soils:
        base = "".join(word[0] for word in re.findall(r"[A-Za-z0-9]+", soil.name))[:4].upper() or "S"
        codes[soil.name] = next(c for c in (base, *(f"{base}{i}" for i in range(2, 10_000))) if c not in codes.values())
    return codes
