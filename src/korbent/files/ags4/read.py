"""What the groups of an AGS4 file say about the ground."""

from pathlib import Path

from korbent.core.model import Borehole
from korbent.files.ags4.form import tables_of
from korbent.files.ags4.reader import Reader, gathered
from korbent.files.ags4.strata import holes_of, strata_of
from korbent.files.ags4.tests import oedometers_of, tests_of
from korbent.files.ags4.water import water_of
from korbent.files.ground_import import Proposal
from korbent.words import say, say_count

READ = {
    "PROJ": "project",
    "LOCA": "holes",
    "GEOL": "strata",
    "ABBR": "abbreviations",
    "ISPT": "SPT",
    "SCPT": "CPT",
    "IVAN": "vane",
    "IPEN": "hand penetrometer",
    "LVAN": "laboratory vane",
    "TRIT": "triaxial strength",
    "TREG": "effective triaxial strength",
    "SHBG": "shear box",
    "LNMC": "moisture",
    "LLPL": "plasticity",
    "LDEN": "density",
    "CONG": "oedometer",
    "CONS": "oedometer steps",
    "MOND": "water readings",
    "WSTG": "water strikes",
    "WSTD": "water after strikes",
}
QUIET = ("TRAN", "UNIT", "TYPE", "DICT", "SAMP", "MONG", "SCPG", "TRIG", "FILE")
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
        raise Ags4Error(say("{path} cannot be read: {why}", path=path.name, why=error.strerror or error)) from None
    if b"\0" in raw[:4096]:
        raise Ags4Error(say("{path} is no text file; an AGS4 file is expected", path=path.name))
    tables, problems = tables_of(_decoded(raw))
    if not tables:
        raise Ags4Error(
            say('{path} has no group of the AGS4 format: its first line should read "GROUP","PROJ"', path=path.name)
        )
    return _proposal(Reader(tables, problems), shift)


def _decoded(raw: bytes) -> str:
    """UTF-8, else what Western Europe writes."""
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        return raw.decode("cp1252", errors="replace")


def _proposal(reader: Reader, shift: tuple[float, float] | None) -> Proposal:
    holes, moved = holes_of(reader, shift)
    strata, soils = strata_of(reader, holes)
    tests, site = tests_of(reader, holes)
    oedometers = oedometers_of(reader, holes, tests)
    for name, found in oedometers.items():
        own = {(o.depth, o.void_ratio) for o in found}
        tests[name] = [t for t in tests.get(name, []) if t.kind != "e0" or (t.depth, t.value) not in own]
    water, found_in = water_of(reader, holes)
    kept = []
    for name, hole in holes.items():
        own_tests = sorted(tests.get(name, ()), key=lambda t: t.depth)
        if not strata.get(name):
            if not own_tests:
                reader.bad(f"LOCA {name}", say("has neither strata in GEOL nor tests: it is left out"))
                continue
            reader.remarks.append(
                say(
                    "{name} has no strata in GEOL: it is kept as a sounding, for its {own_tests} tests",
                    name=name,
                    own_tests=len(own_tests),
                )
            )
        end = sum(s.thickness for s in strata.get(name, ()))
        below = [t for t in own_tests if end and t.depth > end + 1e-9]
        if below:
            reader.remarks.append(
                say_count(
                    len(below),
                    "{name}: {number} test from {kind} at {depth:g} m on below the described strata",
                    "{name}: {number} tests from {kind} at {depth:g} m on below the described strata",
                    name=name,
                    kind=below[0].kind,
                    depth=below[0].depth,
                )
            )
        kept.append(
            Borehole(
                name=name,
                x=hole.x,
                y=hole.y,
                ground_level=hole.level,
                strata=tuple(strata.get(name, ())),
                tests=tuple(own_tests),
                oedometers=tuple(oedometers.get(name, ())),
                water=found_in.get(name),
            )
        )
    used = {s.soil for h in kept for s in h.strata}
    unread = [g for g in reader.tables if g not in READ and g not in QUIET]
    if unread:
        reader.remarks.append(say("groups without use here: {unread}", unread=", ".join(sorted(unread))))
    project = next((row.get("PROJ_NAME", "") for _, row in reader.rows("PROJ")), "")
    return Proposal(
        soils=tuple(s for s in soils if s.name in used),
        boreholes=tuple(kept),
        water=water,
        site=site,
        title=project,
        problems=gathered(reader.problems),
        remarks=tuple(reader.remarks),
        shift=moved,
    )
