"""The ground of a project as an AGS4 file.

Written as CSV: the writer of the package that reads the format halves doubled quotation marks in some rows."""

import csv
import io
import re
from collections.abc import Callable, Iterable
from itertools import zip_longest
from pathlib import Path
from typing import Any, NamedTuple

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


Rows = Iterable[Iterable[object]]


class Group(NamedTuple):
    """A group of the format: what its columns are, and its rows in a project."""

    name: str
    headings: tuple[str, ...]
    units: tuple[str, ...]
    types: tuple[str, ...]
    rows: Callable[[Project], Rows]


def ags4_text(project: Project) -> str:
    """The text of an AGS4 file with the ground of a project; lines end as the format asks, by CR and LF."""
    before = (_group(g, g.rows(project)) for g in GROUPS)
    tests = (_tests(project.ground, name, at, values) for name, at, values in TESTS)
    after = (_group(g, g.rows(project)) for g in OF_SAMPLES_AND_WATER)
    return "\r\n".join(text for text in (*before, *tests, *after) if text)


def _group(of: Group, rows: Rows) -> str:
    """The lines of a group; none without rows."""
    rows = list(rows)
    if not rows:
        return ""
    out = io.StringIO()
    writer = csv.writer(out, quoting=csv.QUOTE_ALL, lineterminator="\r\n")
    writer.writerow(["GROUP", of.name])
    writer.writerow(["HEADING", *of.headings])
    writer.writerow(["UNIT", *of.units])
    writer.writerow(["TYPE", *of.types])
    writer.writerows(["DATA", *(_cell(v) for v in row)] for row in rows)
    return out.getvalue()


def _abbreviations(project: Project) -> Rows:
    yield from (("GEOL_GEOL", code, name) for name, code in _codes(project.ground).items())
    yield "MOND_TYPE", "WLEV", "Water level"
    yield "LOCA_TYPE", "CP", "Cable percussion"


def _transmission(project: Project) -> Rows:
    title = project.title
    return [("1", title.date, title.author or "-", "FINAL", "4.1.1", title.client or "-", "|", "+")]


def _holes(project: Project) -> Rows:
    return [
        (h.name, "CP", h.ground_level, sum(s.thickness for s in h.strata), h.x, h.y) for h in project.ground.boreholes
    ]


def _geology(project: Project) -> Rows:
    ground, codes = project.ground, _codes(project.ground)
    texts = {s.name: s.description or s.name for s in ground.soils}
    for hole in ground.boreholes:
        depth = 0.0
        for stratum in hole.strata:
            yield hole.name, depth, depth + stratum.thickness, texts[stratum.soil], codes[stratum.soil]
            depth += stratum.thickness


def _samples(project: Project) -> Rows:
    """Samples with their void ratio: those of oedometer tests, and values alone that are none of theirs."""
    found: list[tuple[Any, ...]] = [
        (h.name, o.depth, o.sample, o.void_ratio, "") for h in project.ground.boreholes for o in h.oedometers
    ]
    known = {row[:2] + row[3:4] for row in found}
    return found + [
        (name, depth, "", value, said)
        for name, depth, value, said in _at_one_depth(project.ground, ("e0",))
        if said or (name, depth, value) not in known
    ]


def _load_steps(project: Project) -> Rows:
    """Steps of oedometer tests, then values of compressibility and consolidation alone."""
    load_steps: list[tuple[Any, ...]] = [
        (h.name, o.depth, o.sample, i, s, e, "", "", "")
        for h in project.ground.boreholes
        for o in h.oedometers
        for i, (s, e) in enumerate(o.points, 1)
    ]
    alone = _at_one_depth(project.ground, ("mv", "cv"))
    return load_steps + [(name, depth, "", "", "", "", *values) for name, depth, *values in alone]


def _water_levels(project: Project) -> Rows:
    """The low, normal and high level as readings of three years in the first hole."""
    water, holes = project.ground.water, project.ground.boreholes
    levels = (water.low, water.normal, water.high) if water and holes else ()
    return [(holes[0].name, f"{2000 + i}-01-01T00:00", "WLEV", level, "m") for i, level in enumerate(levels, 26)]


def _strikes(project: Project) -> Rows:
    return [
        (h.name, h.ground_level - h.water)
        for h in project.ground.boreholes
        if h.water is not None and h.water <= h.ground_level
    ]


GROUPS = (
    Group(
        "PROJ",
        ("PROJ_ID", "PROJ_NAME", "PROJ_CLNT"),
        ("", "", ""),
        ("ID", "X", "X"),
        lambda p: [(p.title.number or "1", p.title.project, p.title.client)],
    ),
    Group(
        "TRAN",
        ("TRAN_ISNO", "TRAN_DATE", "TRAN_PROD", "TRAN_STAT", "TRAN_AGS", "TRAN_RECV", "TRAN_DLIM", "TRAN_RCON"),
        ("", "yyyy-mm-dd", "", "", "", "", "", ""),
        ("X", "DT", "X", "X", "X", "X", "X", "X"),
        _transmission,
    ),
    Group("ABBR", ("ABBR_HDNG", "ABBR_CODE", "ABBR_DESC"), ("", "", ""), ("X", "X", "X"), _abbreviations),
    Group(
        "LOCA",
        ("LOCA_ID", "LOCA_TYPE", "LOCA_GL", "LOCA_FDEP", "LOCA_LOCX", "LOCA_LOCY"),
        ("", "", "m", "m", "m", "m"),
        ("ID", "PA", "2DP", "2DP", "2DP", "2DP"),
        _holes,
    ),
    Group(
        "GEOL",
        ("LOCA_ID", "GEOL_TOP", "GEOL_BASE", "GEOL_DESC", "GEOL_GEOL"),
        ("", "m", "m", "", ""),
        ("ID", "2DP", "2DP", "X", "PA"),
        _geology,
    ),
)
TESTS: tuple[tuple[str, str, tuple[tuple[str, str, str, str], ...]], ...] = (
    ("ISPT", "ISPT_TOP", (("SPT N", "ISPT_NVAL", "", "0DP"),)),
    (
        "SCPT",
        "SCPT_DPTH",
        (
            ("CPT qc", "SCPT_RES", "MPa", "3DP"),
            ("CPT fs", "SCPT_FRES", "kPa", "3DP"),
            ("CPT u2", "SCPT_PWP2", "kPa", "3DP"),
        ),
    ),
    ("IVAN", "IVAN_DPTH", (("cu", "IVAN_IVAN", "kPa", "1DP"),)),
    ("SHBG", "SPEC_DPTH", (("phi", "SHBG_PHI", "deg", "1DP"),)),
    ("LNMC", "SPEC_DPTH", (("w", "LNMC_MC", "%", "1DP"),)),
    ("LLPL", "SPEC_DPTH", (("wL", "LLPL_LL", "%", "1DP"), ("PI", "LLPL_PI", "%", "1DP"))),
    ("LDEN", "SPEC_DPTH", (("gamma", "LDEN_BDEN", "Mg/m3", "2DP"),)),
)
"""Groups of tests: the name, the heading of the depth, and each value by kind, heading, unit and type."""
OF_SAMPLES_AND_WATER = (
    Group(
        "CONG",
        ("LOCA_ID", "SPEC_DPTH", "SAMP_REF", "CONG_IVR", "CONG_REM"),
        ("", "m", "", "", ""),
        ("ID", "2DP", "X", "3DP", "X"),
        _samples,
    ),
    Group(
        "CONS",
        (
            "LOCA_ID",
            "SPEC_DPTH",
            "SAMP_REF",
            "CONS_INCN",
            "CONS_INCF",
            "CONS_INCE",
            "CONS_INMV",
            "CONS_INCV",
            "CONS_REM",
        ),
        ("", "m", "", "", "kPa", "", "m2/MN", "m2/day", ""),
        ("ID", "2DP", "X", "0DP", "1DP", "3DP", "4DP", "6DP", "X"),
        _load_steps,
    ),
    Group(
        "MOND",
        ("LOCA_ID", "MOND_DTIM", "MOND_TYPE", "MOND_RDNG", "MOND_UNIT"),
        ("", "yyyy-mm-ddThh:mm", "", "", ""),
        ("ID", "DT", "PA", "XN", "PU"),
        _water_levels,
    ),
    Group("WSTG", ("LOCA_ID", "WSTG_DPTH"), ("", "m"), ("ID", "2DP"), _strikes),
)


def _tests(ground: Ground, name: str, at: str, values: tuple[tuple[str, str, str, str], ...]) -> str:
    """One group of tests. What is said of them stands under remarks."""
    rows = _at_one_depth(ground, tuple(kind for kind, *_ in values))
    headings, units, types = zip(*(v[1:] for v in values))
    remarks = any(row[-1] for row in rows)
    group = Group(
        name,
        ("LOCA_ID", at, *headings, *[f"{name}_REM"] * remarks),
        ("", "m", *units, *[""] * remarks),
        ("ID", "2DP", *types, *["X"] * remarks),
        lambda _: (),
    )
    return _group(group, [row if remarks else row[:-1] for row in rows])


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
