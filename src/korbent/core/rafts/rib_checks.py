"""What the ribs of a raft carry with the plate beside them, and their checks: bars above and below, shear, links."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.checks import CHECKS, Outcome, by_clause
from korbent.core.concrete.beam import BeamSection, shear_of_beam
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.pad import ConcretePad
from korbent.core.concrete.schedule import positions
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.model.labels import label
from korbent.core.model.plate import Rib
from korbent.core.plates.recover import over_band
from korbent.core.rafts.plate_of import box_of
from korbent.core.rafts.ribs import Flange, flange_of, nodes_of
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

IDS = ("rib-top", "rib-bottom", "rib-shear", "rib-links")
SOURCE = "EN 1992-1-1 (5.7), (5.7a)"


@dataclass(frozen=True)
class Along:
    """Forces of a rib as a T-section along it."""

    rib: Rib
    flange: Flange
    place: Array
    """Of its nodes along its axis, from the middle of the raft, m, (places,)."""
    moment: Array
    """Of the T: its beam and what of the plate lies in its flange, kNm, (places, situations); sagging positive."""
    shear: Array
    """As well, kN."""
    torsion: Array
    """Of its web, kNm."""
    hidden: Array
    """Within a column, (places,)."""


def along_ribs(solved: SolvedRaft) -> tuple[Along, ...]:
    """All ribs of a solved raft."""
    pad, mesh, beams = solved.pad, solved.mesh, solved.plate.beams
    if beams is None or pad.plate is None:
        return ()
    ends, shear, torsion = beams.forces(solved.bending)
    found = []
    for k, rib in enumerate(pad.plate.ribs):
        mine, line = np.flatnonzero(beams.rib == k), nodes_of(pad, mesh, rib)
        flange = flange_of(pad, rib, solved.columns)
        m, v = (_in_plate(solved, rib, name) for name in ("m", "v"))
        x, y = mesh.nodes
        m, v = (mesh.at(_over_flange(solved, values, rib, flange), x[line], y[line]) for values in (m, v))
        place = (x if rib.axis == "x" else y)[line]
        hidden = np.zeros(len(line), dtype=bool)
        for column in solved.columns:
            x0, x1, y0, y1 = box_of(column)
            e = 1e-6
            within = (x[line] > x0 - e) & (x[line] < x1 + e) & (y[line] > y0 - e) & (y[line] < y1 + e)
            low, high = (x0, x1) if rib.axis == "x" else (y0, y1)
            hidden |= within & (place > low + e) & (place < high - e)
        found.append(
            Along(
                rib,
                flange,
                place,
                _at_nodes(ends[mine, 0], ends[mine, 1]) + m,
                _at_nodes(shear[mine], shear[mine]) + v,
                _at_nodes(torsion[mine], torsion[mine]),
                hidden,
            )
        )
    return tuple(found)


def _at_nodes(first: Array, last: Array) -> Array:
    """Of stretches in a row the mean at each node of the two that meet there."""
    total = np.zeros((len(first) + 1, first.shape[1]))
    total[:-1] += first
    total[1:] += last
    total[1:-1] /= 2
    return total


def _in_plate(solved: SolvedRaft, rib: Rib, kind: str) -> Array:
    """Moments or shears of the plate along a rib at the places, whatever its thickness there."""
    found = np.full((len(solved.mesh.seen), len(solved.situations)), np.nan)
    for fields in solved.fields:
        own = getattr(fields, f"{kind}_{rib.axis}")
        found = np.where(np.isnan(found), own, found)
    return found


def _over_flange(solved: SolvedRaft, values: Array, rib: Rib, flange: Flange) -> Array:
    """Their sum over the width of the flange about each place."""
    total: Array = over_band(solved.mesh, values, rib.axis, flange.width) * flange.width
    return np.where(np.isnan(total), 0.0, total)


def rib_checks(pad: ConcretePad, solved: SolvedRaft, record: Recorder) -> list[Outcome]:
    """The four checks, each over all ribs; none without ribs."""
    ribs = along_ribs(solved)
    if not ribs:
        return []
    scope = record.scope("ribs")
    count = len(solved.plate.beams.nodes) if solved.plate.beams is not None else 0
    scope.given("n_r", float(count), note=say("stretches of beam in the mesh"))
    parts: dict[str, list[Outcome]] = {name: [] for name in IDS}
    for one in ribs:
        own = scope.scope(one.rib.name)
        own.given("b", one.rib.width, "m", note=say("width of the rib"))
        own.given("h", one.rib.depth, "m", note=say("its depth, with the plate"))
        own.given(
            "l_0",
            one.flange.zero_to_zero,
            "m",
            reference=SOURCE,
            note=say("between points of zero moment"),
            needs="n_r",
        )
        own.given(
            "b_eff",
            one.flange.width,
            "m",
            reference=SOURCE,
            note=say("effective width of its flange"),
            needs="l_0",
        )
        for outcome in checks_of_rib(pad, solved, one, own):
            parts[outcome.check.id].append(outcome)
    clauses = {
        "rib-top": pad.standard.clauses["top-x"],
        "rib-bottom": pad.standard.clauses["bottom-x"],
        "rib-shear": pad.standard.clauses["shear-x"],
        "rib-links": pad.standard.clauses["strap-links"],
    }
    return [_joined(by, [r.rib.name for r in ribs], clauses) for by in parts.values()]


def checks_of_rib(pad: ConcretePad, solved: SolvedRaft, one: Along, record: Recorder) -> list[Outcome]:
    """The four checks of one rib."""
    faces = [_flexure(pad, solved, one, face, record.scope(face)) for face in ("top", "bottom")]
    return [*faces, *_shear(pad, solved, one, record.scope("shear"))]


def _joined(found: list[Outcome], names: list[str], clauses: dict[str, str]) -> Outcome:
    """One outcome of all ribs, block by block."""
    first, count = found[0], found[0].ratio.shape[-1]

    def note(i: int, j: int) -> str:
        own = found[j // count]
        words = own.note(i, j % count) if own.note else ""
        return f"{names[j // count]} {words}".strip()

    def joined(name: str) -> Array:
        return np.concatenate([getattr(o, name) for o in found], axis=-1)

    return replace(
        first,
        check=by_clause(first.check, clauses),
        note=note,
        blocks=tuple(say("ribs {name} {blocks}", name=name, blocks=one.blocks[0]) for name, one in zip(names, found)),
        demand=joined("demand"),
        capacity=joined("capacity"),
        ratio=joined("ratio"),
        unresisted=joined("bare"),
    )


def rib_cracks(pad: ConcretePad, solved: SolvedRaft, record: Recorder) -> list[Outcome]:
    """Cracks of both faces of all ribs in service, each where it bends most; none without ribs.

    Per width of the web: what of the flange is pressed with it is left out.
    """
    ribs = along_ribs(solved)
    if not ribs:
        return []
    scope = record.scope("ribs")
    scope.given("n_c", float(len(ribs)), note=say("ribs of the mesh, in service"))
    found, names = [], []
    for one in ribs:
        for face in ("top", "bottom"):
            found.append(
                _crack(pad, solved, one, face, scope.scope(one.rib.name).scope(say("{face} cracks", face=label(face))))
            )
            names.append(one.rib.name)
    return [_joined(found, names, {"rib-cracks": pad.standard.clauses["cracks-x"]})]


def crack_checks_of_rib(pad: ConcretePad, solved: SolvedRaft, one: Along) -> list[Outcome]:
    """Cracks of both faces of one rib."""
    return [_crack(pad, solved, one, face, SILENT) for face in ("top", "bottom")]


def _crack(pad: ConcretePad, solved: SolvedRaft, one: Along, face: str, record: Recorder) -> Outcome:
    rib, settings = one.rib, pad.settings
    sign = 1.0 if face == "bottom" else -1.0
    bars = rib.bottom if face == "bottom" else rib.top
    moment = np.where(one.hidden[:, None], 0.0, np.maximum(sign * one.moment, 0.0))
    worst = moment.argmax(axis=0)
    m = moment.max(axis=0)[None] / rib.width
    place = one.place[worst][None]
    link = rib.links.diameter if rib.links else 0.0
    d = max(rib.depth - settings.concrete_cover - link - bars.diameter / 2, rib.depth / 10)
    count = bars.number or len(positions(rib.width, settings.concrete_cover, bars))
    apart = (rib.width - 2 * (settings.concrete_cover + link) - bars.diameter) / max(count - 1, 1)
    steel = bars.area_in(rib.width) * 1e6
    record.given("x_r", place, "m", note=say("along {axis}, from the middle of the raft", axis=rib.axis), needs="n_c")
    record.given("m_s", m, "kNm/m", note=say("moment of the T in service over the width of the rib"), needs="n_c x_r")
    record.given("oe", bars.diameter, "m", note=say("bar diameter"))
    record.given("s", apart, "m", note=say("from bar to bar"))
    record.given("A_s", steel, "mm²/m", note=say("its bars over its width"))
    record.given("d", d, "m", note=say("effective depth"))
    record.given("h", rib.depth, "m")
    section = Cracked(m, *(np.full_like(m, v) for v in (bars.diameter, apart, steel, d, rib.depth)))
    width, limit = pad.standard.cracks(section, settings, record)
    record.step("ratio", "r_c", width / limit)
    return Outcome(
        CHECKS["rib-cracks"],
        width,
        limit + 0.0 * width,
        width / limit,
        solved.situations,
        blocks=(say("{face} cracks", face=label(face)),),
        note=lambda i, j: say(
            "{face}, at {place:+.2f} m along {axis}", face=label(face), place=place[i, j], axis=rib.axis
        ),
    )


def _flexure(pad: ConcretePad, solved: SolvedRaft, one: Along, face: str, record: Recorder) -> Outcome:
    rib, settings, standard = one.rib, pad.settings, pad.standard
    sign = 1.0 if face == "bottom" else -1.0
    bars = rib.bottom if face == "bottom" else rib.top
    moment = np.where(one.hidden[:, None], 0.0, np.maximum(sign * one.moment, 0.0))
    worst = moment.argmax(axis=0)
    M = moment.max(axis=0)[None]
    place = one.place[worst][None]
    link = rib.links.diameter if rib.links else 0.0
    d = np.full((1, 1), max(rib.depth - settings.concrete_cover - link - bars.diameter / 2, rib.depth / 10))
    # pressed is the face of the flange, or that of the web
    on_flange = (face == "bottom") == (rib.side == "below")
    width = np.full_like(M, one.flange.width if on_flange else rib.width)
    args = (d, settings.concrete_strength, pad.fcd, pad.fyd)
    if on_flange:
        steel, _ = required_steel(standard, M / width, *args, SILENT)
        stress, _, _ = standard.block(settings.concrete_strength, pad.fcd, pad.fyd)
        block = steel * pad.fyd / np.maximum(stress, 1e-9) / 1e6
        # where the stress block leaves the flange the web alone is pressed: on the safe side
        width = np.where(block > solved.pad.thickness, rib.width, width)
    record.given("x_r", place, "m", note=say("along {axis}, from the middle of the raft", axis=rib.axis), needs="b_eff")
    record.given(
        "M_Ed",
        M,
        "kNm",
        note=say("of the T there: its beam and what of the plate lies in its flange"),
        needs="n_r b_eff x_r",
    )
    record.given("d", d, "m", note=say("effective depth"))
    record.given("b_c", width, "m", note=say("width that is pressed"), needs="b_eff b")
    record.step("m_Ed", "M_Ed/b_c", M / width, "kNm/m")
    required, deep = required_steel(standard, M / width, *args, record, standard.clauses[f"{face}-x"])
    provided = bars.area_in(rib.width) * rib.width * 1e6
    record.given("A_s", provided, "mm²", note=say("its bars"))
    least = standard.least_in_beam(
        d, np.full_like(d, rib.depth), settings.concrete_strength, settings.steel_strength, required, record
    )
    asked = np.maximum(required * width, np.where(M > 1e-6, least * rib.width, 0.0))
    record.step(
        "A_s_ask",
        "max(A_s_req*b_c, where(M_Ed > 1e-6, A_s_least*b, 0))",
        asked,
        "mm²",
        note=say("at least that of a beam where there is tension"),
    )
    record.step("ratio", "A_s_ask/A_s", asked / provided)

    def note(i: int, j: int) -> str:
        more = say("; compression zone too deep: deepen or widen it") if deep[i, j] > 1 else ""
        return say("at {place:+.2f} m along {axis}{more}", place=place[i, j], axis=rib.axis, more=more)

    return Outcome(
        CHECKS[f"rib-{face}"],
        asked,
        np.full_like(asked, provided),
        asked / provided,
        solved.situations,
        blocks=(face,),
        note=note,
    )


def _shear(pad: ConcretePad, solved: SolvedRaft, one: Along, record: Recorder) -> list[Outcome]:
    """At the distance of the standard from the faces of columns and beyond."""
    rib, settings = one.rib, pad.settings
    link = rib.links.diameter if rib.links else 0.0
    thick = max(rib.bottom.diameter, rib.top.diameter)  # either face may pull
    deep = max(rib.depth - settings.concrete_cover - link - thick / 2, rib.depth / 10)
    away = float(pad.standard.shear_section(np.full((1, 1), deep), np.full((1, 1), rib.depth))[0][0, 0])
    places, shear = sections_of(solved, one, away)
    shear = np.abs(shear)
    place = places[shear.argmax(axis=0)][None]
    V = shear.max(axis=0)[None]
    record.given("x_r", place, "m", note=say("along {axis}, from the middle of the raft", axis=rib.axis), needs="b_eff")
    section = BeamSection(
        rib.width,
        rib.depth,
        deep,
        min(rib.bottom.area_in(rib.width), rib.top.area_in(rib.width)) * rib.width,
        rib.links,
        rib.legs,
        settings.concrete_cover,
    )
    found = shear_of_beam(
        section,
        V,
        settings,
        pad.standard.name,
        solved.situations,
        "rib",
        record,
        say("of the T, at the distance of the standard from columns and beyond"),
        "n_r b_eff x_r",
        lambda i, j: say("at {place:+.2f} m along {axis}", place=place[i, j], axis=rib.axis),
    )
    return [replace(found[0], blocks=("shear",)), replace(found[1], blocks=("shear links",))]


def sections_of(solved: SolvedRaft, one: Along, away: float) -> tuple[Array, Array]:
    """Where shear is looked at, (places,), and the shear there, (places, situations): right at a distance from the
    faces of the columns on the rib, between nodes too, and all nodes beyond; where columns stand so near that nothing
    is beyond, from their faces on."""
    rib = one.rib
    near = []
    for column in solved.columns:
        x0, x1, y0, y1 = box_of(column)
        low, high, across = (x0, x1, (y0, y1)) if rib.axis == "x" else (y0, y1, (x0, x1))
        if across[0] - 1e-6 <= rib.at <= across[1] + 1e-6:
            near.append((low - away, high + away))
    first, last = one.place[[0, -1]]
    right_at = [p for pair in near for p in pair if first < p < last]
    places = np.concatenate([one.place, right_at])
    shear = np.stack([np.interp(places, one.place, v) for v in one.shear.T], axis=-1)
    beyond = np.ones(len(places), dtype=bool)
    for low, high in near:
        beyond &= (places < low + 1e-6) | (places > high - 1e-6)
    if not beyond.any():
        return one.place[~one.hidden], one.shear[~one.hidden]
    return places[beyond], shear[beyond]
