"""Tests in the ground and in the laboratory of an AGS4 file."""

import re
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from korbent.core.model import GroundTest, Oedometer
from korbent.files.ags4.form import Row
from korbent.files.ags4.reader import Hole, Reader
from korbent.words import say, say_count

LABORATORY = ("SPEC_DPTH", "SAMP_TOP")
# group, depth headings in order, value heading, kind, unit
PLAIN: tuple[tuple[str, tuple[str, ...], str, str, str], ...] = (
    ("SCPT", ("SCPT_DPTH",), "SCPT_RES", "CPT qc", "MPa"),
    ("SCPT", ("SCPT_DPTH",), "SCPT_FRES", "CPT fs", "kPa"),
    ("SCPT", ("SCPT_DPTH",), "SCPT_PWP2", "CPT u2", "kPa"),
    ("IVAN", ("IVAN_DPTH",), "IVAN_IVAN", "cu", "kPa"),
    ("LVAN", LABORATORY, "LVAN_VNPK", "cu", "kPa"),
    ("TREG", LABORATORY, "TREG_PHI", "phi", "deg"),
    ("SHBG", LABORATORY, "SHBG_PHI", "phi", "deg"),
    ("LNMC", LABORATORY, "LNMC_MC", "w", ""),
    ("LLPL", LABORATORY, "LLPL_LL", "wL", ""),
    ("LLPL", LABORATORY, "LLPL_PI", "PI", ""),
    ("LDEN", LABORATORY, "LDEN_BDEN", "gamma", "kN/m3"),
    ("CONG", LABORATORY, "CONG_IVR", "e0", ""),
)
SPECIMEN = ("LOCA_ID", "SAMP_TOP", "SAMP_REF", "SAMP_ID", "SPEC_REF", "SPEC_DPTH")
"""What tells the specimens of the laboratory apart."""
USUAL_ENERGY = 60.0
"""Percent: what blow counts of several hammers are brought to."""
Tests = dict[str, list[GroundTest]]


def tests_of(reader: Reader, holes: dict[str, Hole]) -> tuple[Tests, dict[str, Any]]:
    """(tests by hole, other fields of the ground that they say: the energy of the hammer)."""
    found: Tests = {}
    for group, at, heading, kind, unit in PLAIN:
        for place, row in _rows_with(reader, group, heading):
            value = reader.number(place, row, group, heading, unit)
            if value is not None:
                _kept(reader, found, holes, place, row, group, at, kind, value)
    site = _blow_counts(reader, found, holes)
    _stages(reader, found, holes)
    for place, row in _rows_with(reader, "IPEN", "IPEN_IPEN"):
        value = reader.number(place, row, "IPEN", "IPEN_IPEN", "kPa")
        if value is not None:
            note = say("hand penetrometer {value:g} kPa, half of it", value=value)
            _kept(reader, found, holes, place, row, "IPEN", ("IPEN_DPTH",), "cu", value / 2, note)
    return {name: _once(reader, name, tests) for name, tests in found.items()}, site


def _rows_with(reader: Reader, group: str, heading: str) -> list[tuple[str, Row]]:
    """The rows of a group that have something under a heading."""
    return [(place, row) for place, row in reader.rows(group, "LOCA_ID") if row.get(heading)]


def _kept(
    reader: Reader,
    found: Tests,
    holes: dict[str, Hole],
    place: str,
    row: Row,
    group: str,
    at: tuple[str, ...],
    kind: str,
    value: float,
    note: str = "",
    left_out: str = "",
) -> None:
    name = reader.hole(place, row, holes)
    if name is None:
        return
    depth = reader.first(place, row, group, at, "m")
    if depth is None:
        reader.bad(place, say("has no depth ({at}): it is left out", at=" or ".join(at)))
        return
    said = remarks_in(row.get(f"{group}_REM", ""), kind)
    note, left_out = said.get("note", note), said.get("left out", left_out)
    notes: Mapping[str, str] = {"value": note} if note else {}
    try:
        test = GroundTest(kind=kind, depth=depth, value=round(value, 9), notes=notes, left_out=left_out)
    except ValidationError as error:
        reader.bad(place, say("{kind}: {errors}; it is left out", kind=kind, errors=error.errors()[0]["msg"].lower()))
        return
    found.setdefault(name, []).append(test)


def remarks_in(text: str, kind: str) -> dict[str, str]:
    """What our own export says of a test of a kind under remarks: "left out", "note"; of other texts nothing."""
    found = {}
    for part in text.split(" | "):
        for word in (say("left out"), "note"):
            if part.startswith(f"{kind} {word}: "):
                found[word] = part.removeprefix(f"{kind} {word}: ").strip()
    return found


def _once(reader: Reader, hole: str, tests: list[GroundTest]) -> list[GroundTest]:
    """What comes twice is kept once; two values at one depth are both kept, and it is asked which of them counts."""
    kept: dict[tuple[str, float, float], GroundTest] = {}
    twice = 0
    for test in tests:
        key = (test.kind, test.depth, test.value)
        twice += key in kept
        kept.setdefault(key, test)
    if twice:
        reader.remarks.append(
            say_count(
                twice,
                "{hole}: {number} test given twice, kept once",
                "{hole}: {number} tests given twice, kept once",
                hole=hole,
            )
        )
    by_depth: dict[tuple[str, float], list[float]] = {}
    for kind, depth, value in kept:
        by_depth.setdefault((kind, depth), []).append(value)
    for (kind, depth), values in by_depth.items():
        if len(values) > 1 and kind not in ("mv", "cv", "e0"):
            text = " and ".join(f"{v:g}" for v in values)
            reader.bad(
                f"{hole}, {kind}",
                say(
                    "at {depth:g} m there are {text}: all are kept; under Tests, leave out the one that does not count",
                    depth=depth,
                    text=text,
                ),
            )
    return list(kept.values())


# ---------------------------------------------------------------- blow counts


LONGEST_COUNT = 200


def blows(text: str) -> tuple[float, str] | None:
    """(N, how it was taken where that is not a plain count): ``22``, ``N=22``, ``>17``, ``50/75mm``, ``1,1/2,3,4,4
    N=13``; None for anything else.

    More than a number, and a refusal, count as that number.
    """
    plain = text.strip()
    if len(plain) > LONGEST_COUNT:
        return None
    if re.fullmatch(r"\d+(\.\d+)?", plain):
        return float(plain), ""
    found = re.search(r"N\s*=?\s*(>?)\s*(\d+)(?:\s*/\s*(\d+)\s*(?:mm)?)?\s*$", plain, re.IGNORECASE)
    found = found or re.fullmatch(r"(>?)\s*(\d+)\s*(?:/\s*(\d+)\s*mm)?\+?", plain)
    if found is None:
        return None
    more, count, penetration = found.groups()
    if penetration and float(penetration) < 300:
        return float(count), say("refusal: {count} blows for {penetration} mm", count=count, penetration=penetration)
    return float(count), say("more than {count}", count=count) if more or plain.endswith("+") else say(
        "reported as {plain}", plain=plain
    )


def _blow_counts(reader: Reader, found: Tests, holes: dict[str, Hole]) -> dict[str, Any]:
    rows = []
    for place, row in reader.rows("ISPT", "LOCA_ID"):
        text = row.get("ISPT_NVAL") or row.get("ISPT_REP", "")
        taken = blows(text) or blows(row.get("ISPT_REP", ""))
        if taken is None:
            what = say("'{text}' is no blow count", text=text) if text else say("has no N value")
            reader.bad(place, say("{what}: it is left out", what=what))
            continue
        energy = reader.number(place, row, "ISPT", "ISPT_ERAT", "")
        if energy is not None and not 0 < energy <= 100:
            reader.bad(
                f"{place}, ISPT_ERAT",
                say("an energy ratio of {energy:g} % is not possible: it is not used", energy=energy),
            )
            energy = None
        rows.append((place, row, *taken, energy))
    ratios = {energy for *_, energy in rows}
    alike = ratios.pop() if len(ratios) == 1 else None
    for place, row, value, note, energy in rows:
        if alike is None and energy is not None:
            # several hammers: all counts are brought to one energy
            note = f"{note}; " * bool(note) + say("N {value:g} at {energy:g} % energy", value=value, energy=energy)
            value = value * energy / USUAL_ENERGY
        _kept(reader, found, holes, place, row, "ISPT", ("ISPT_TOP",), "SPT N", value, note)
    if alike is not None:
        reader.remarks.append(say("energy ratio of the SPT hammer {alike:g} % (ISPT_ERAT)", alike=alike))
        return {"spt_energy": alike}
    if len(ratios) > 1:
        reader.remarks.append(
            say(
                "hammers of several energies (ISPT_ERAT): blow counts brought to {usual_energy:g} %, those without stay",
                usual_energy=USUAL_ENERGY,
            )
        )
        return {"spt_energy": USUAL_ENERGY}
    return {}


# ---------------------------------------------------------------- triaxial tests and oedometers


def _stages(reader: Reader, found: Tests, holes: dict[str, Hole]) -> None:
    """Undrained strengths of triaxial tests; the stages of one specimen are one test."""
    stages: dict[tuple[str, ...], list[tuple[str, Row, float]]] = {}
    for place, row in _rows_with(reader, "TRIT", "TRIT_CU"):
        value = reader.number(place, row, "TRIT", "TRIT_CU", "kPa")
        if value is not None:
            stages.setdefault(tuple(row.get(k, "") for k in SPECIMEN), []).append((place, row, value))
    for several in stages.values():
        place, row, _ = several[0]
        values = [v for *_, v in several]
        note = (
            say("mean of {values} stages: {value} kPa", values=len(values), value=", ".join(f"{v:g}" for v in values))
            if len(values) > 1
            else ""
        )
        _kept(reader, found, holes, place, row, "TRIT", LABORATORY, "cu", sum(values) / len(values), note)


def oedometers_of(reader: Reader, holes: dict[str, Hole], tests: Tests) -> dict[str, list[Oedometer]]:
    """Oedometer tests by hole; m_v and c_v of their load steps are added to the tests."""
    load_steps: dict[tuple[str, ...], list[tuple[float, float, float]]] = {}
    for i, (place, row) in enumerate(reader.rows("CONS", "LOCA_ID", "CONS_INCF", "CONS_INCE")):
        stress = reader.number(place, row, "CONS", "CONS_INCF", "kPa")
        void = reader.number(place, row, "CONS", "CONS_INCE", "")
        order = reader.number(place, row, "CONS", "CONS_INCN", "")
        if stress is None and void is None and (row.get("CONS_INMV") or row.get("CONS_INCV")):
            continue  # a measured coefficient without a step
        if stress is None or void is None:
            reader.bad(place, say("a step needs CONS_INCF and CONS_INCE: it is left out"))
            continue
        if stress <= 0 or void <= 0:
            reader.bad(place, say("stress and void ratio must be above zero: the step is left out"))
            continue
        key = tuple(row.get(k, "") for k in SPECIMEN)
        load_steps.setdefault(key, []).append((order if order is not None else float(i), stress, void))
    _load_step_values(reader, holes, tests)
    found: dict[str, list[Oedometer]] = {}
    for place, row in reader.rows("CONG", "LOCA_ID"):
        name = reader.hole(place, row, holes)
        points = sorted(load_steps.pop(tuple(row.get(k, "") for k in SPECIMEN), []))
        if name is None:
            continue
        depth = reader.first(place, row, "CONG", LABORATORY, "m")
        initial = reader.number(place, row, "CONG", "CONG_IVR", "")
        if not points:
            continue  # an initial void ratio alone is an index test
        if depth is None or initial is None or len(points) < 2:
            reader.bad(
                place,
                say("an oedometer test needs a depth, an initial void ratio and two steps in CONS: it is left out"),
            )
            continue
        sample = " ".join(part for part in (row.get("SAMP_REF", ""), row.get("SAMP_ID", "")) if part) or say(
            "at {depth:g} m", depth=depth
        )
        try:
            test = Oedometer(
                sample=sample[:80],
                depth=depth,
                void_ratio=initial,
                points=tuple((s, e) for _, s, e in points),
            )
        except ValidationError as error:
            reader.bad(place, say("{errors}; the test is left out", errors=error.errors()[0]["msg"].lower()))
            continue
        found.setdefault(name, []).append(test)
    for key in load_steps:
        reader.bad(
            "CONS",
            say(
                "steps of the hole '{key}' at {key_2} m have no test in CONG: they are left out",
                key=key[0],
                key_2=key[5] or key[1] or "?",
            ),
        )
    return found


ABOUT = 9.0
"""Effective stress in the ground over the depth, kPa/m, to tell which step of an oedometer test is at it."""


def _load_step_values(reader: Reader, holes: dict[str, Hole], tests: Tests) -> None:
    """m_v and c_v of the load steps; those that are not at the stress in the ground are left out, with that reason."""
    before: dict[tuple[str, ...], float] = {}
    for place, row in reader.rows("CONS", "LOCA_ID", "CONS_INCF"):
        stress = reader.number(place, row, "CONS", "CONS_INCF", "kPa", quiet=True)
        depth = reader.first(place, row, "CONS", LABORATORY, "m")
        step, there = "", True  # without a stress as if measured at that in the ground
        if stress is not None:
            key = tuple(row.get(k, "") for k in SPECIMEN)
            last, before[key] = before.get(key, 0.0), stress
            if depth is None or stress <= last:
                continue
            step = say("step from {last:g} to {stress:g} kPa", last=last, stress=stress)
            there = last <= ABOUT * depth < stress
        for heading, kind, unit in (("CONS_INMV", "mv", "1/MPa"), ("CONS_INCV", "cv", "m2/day")):
            value = reader.number(place, row, "CONS", heading, unit)
            if value is not None:
                out = "" if there else say("{step}, not at the stress in the ground", step=step)
                _kept(reader, tests, holes, place, row, "CONS", LABORATORY, kind, value, step, out)
