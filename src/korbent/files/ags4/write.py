"""The ground of a project as an AGS4 file."""

import csv
import io
import re
from collections.abc import Iterable
from itertools import zip_longest
from pathlib import Path

from korbent.core.model import (
    Ground,
    Project,
)
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
    group("SHBG", "LOCA_ID SPEC_DPTH SHBG_PHI", ("", "m", "deg"), ("ID", "2DP", "1DP"), tests("phi"))
    group("LNMC", "LOCA_ID SPEC_DPTH LNMC_MC", ("", "m", "%"), ("ID", "2DP", "1DP"), tests("w"))
    group(
        "LLPL", "LOCA_ID SPEC_DPTH LLPL_LL LLPL_PI", ("", "m", "%", "%"), ("ID", "2DP", "1DP", "1DP"), _paired(tests("wL"), tests("PI")),
    )  # fmt: skip
    group(
        "LDEN",
        "LOCA_ID SPEC_DPTH LDEN_BDEN",
        ("", "m", "Mg/m3"),
        ("ID", "2DP", "2DP"),
        [(name, depth, value / factor("Mg/m3", "kN/m3")) for name, depth, value in tests("gamma")],
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
    struck = [
        (h.name, h.ground_level - h.water)
        for h in ground.boreholes
        if h.water is not None and h.water <= h.ground_level
    ]
    if struck:
        group("WSTG", "LOCA_ID WSTG_DPTH", ("", "m"), ("ID", "2DP"), struck)
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
    return guarded(re.sub(r"[\r\n]+", " ", str(value)))


def _codes(ground: Ground) -> dict[str, str]:
    """A short code for every soil, each its own."""
    codes: dict[str, str] = {}
    for soil in ground.soils:
        base = "".join(word[0] for word in re.findall(r"[A-Za-z0-9]+", soil.name))[:4].upper() or "S"
        codes[soil.name] = next(
            c for c in (base, *(f"{base}{i}" for i in range(2, 10_000))) if c not in codes.values()
        )
    return codes
