"""The beam of a strap: moments and shears by statics, its bars and links. It is looked at with the base at the
boundary."""

from dataclasses import replace
from typing import NamedTuple

import numpy as np

from korbent.core.actions.base_forces import loads_of_all
from korbent.core.actions.situations import Situations
from korbent.core.actions.tied import Tie, direction, in_plan, middle_of, moved, size_along, strap_shares
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot
from korbent.core.concrete.beam import BeamSection, shear_of_beam
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.concrete.standards.registry import NAMES, standard_of
from korbent.core.geometry import pad_geometry, table
from korbent.core.model.labels import label
from korbent.core.model.reinforcement import Bars
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder
from korbent.words import say

IDS = ("strap-top", "strap-bottom", "strap-shear", "strap-links")
PLACES = 121
"""Sections from the outer end of the base at the boundary to the face of the inner one."""


def strap_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Bars above and below and links of the strap that ties these bases, where they are the ones at the boundary;
    nothing else."""
    tie = bench.stands[0].edge_tie if bench.stands else None
    if tie is None:
        return []
    if bench.standards.concrete not in NAMES:
        return [
            cannot(check, say("no concrete standard is chosen: choose one in Project, Title and standards"))
            for check in IDS
        ]
    situations = bench.situations("concrete")
    if not len(situations):
        return [cannot(check, bench.no_combination("concrete")) for check in IDS]
    standard = standard_of(bench.standards.concrete, bench.settings)
    assert standard is not None
    at, moment, shear = beam_of(bench, tie)
    clear = at >= size_along(bench.geometry, direction(bench.points[0], tie.points[0]))[..., None] / 2 - 1e-9
    strap, settings = tie.strap, bench.settings
    cover = strap.cover if strap.cover is not None else settings.concrete_cover
    b, h = strap.width, strap.depth
    special = situations.is_special()
    outcomes = []
    scope = record.scope("strap")
    R = reactions(bench, tie)
    scope.given("S_L", R[2], "m", note=say("middle of this base to that of the other, along the strap"))
    scope.given("R_1", R[0], "kN", note=say("below this base of its column and strap, by statics"), needs="S_L")
    scope.given("R_2", R[1], "kN", note=say("below the other"), needs="S_L")
    scope.given("b", b, "m", note=say("width of the strap"))
    scope.given("h", h, "m", note=say("its depth"))
    fcd, fyd = standard.strengths(settings.concrete_strength, settings.steel_strength, special, scope)
    link = strap.links.diameter if strap.links else 0.0
    beam = _Beam(standard, b, h, cover + link, at, moment, clear, (fcd, fyd))
    for face, bars in (("top", strap.top), ("bottom", strap.bottom)):
        outcomes.append(_face(beam, face, bars, tie.partner.name, settings, situations, scope.scope(face)))
    deep = max(h - cover - link - strap.top.diameter / 2, h / 10)
    section = BeamSection(b, h, deep, strap.top.area_in(b) * b, strap.links, strap.legs, cover)
    outcomes += shear_of_beam(
        section,
        np.abs(shear).max(axis=-2),
        settings,
        bench.standards.concrete,
        situations,
        "strap",
        scope.scope("shear"),
        say("greatest between the faces of the bases"),
        "R_1 R_2",
    )
    clauses = {
        "strap-top": standard.clauses["top-x"],
        "strap-bottom": standard.clauses["bottom-x"],
        "strap-shear": standard.clauses["shear-x"],
        "strap-links": standard.clauses["strap-links"],
    }
    return [replace(o, check=by_clause(o.check, clauses)) for o in outcomes]


class _Beam(NamedTuple):
    """A strap as a beam: its section, m, and its moments along it (..., places, situations)."""

    standard: ConcreteStandard
    b: float
    h: float
    inset: float
    """From a face to its bars."""
    at: Array
    moment: Array
    clear: Array
    """Where it lies between the bases."""
    strengths: tuple[Array, Array]


def _face(
    beam: _Beam, face: str, bars: Bars, partner: str, settings: Settings, situations: Situations, part: Recorder
) -> Outcome:
    """The bars of one face where they are pulled most."""
    b, h, moment = beam.b, beam.h, (-1.0 if face == "top" else 1.0) * beam.moment
    worst = moment.argmax(axis=-2)
    M = np.maximum(np.take_along_axis(moment, worst[..., None, :], axis=-2)[..., 0, :], 0.0)
    place = np.take_along_axis(beam.at[..., 0], worst, axis=-1)
    d = np.full((len(M), 1), max(h - beam.inset - bars.diameter / 2, h / 10))
    part.given("x_s", place, "m", note=say("from the middle of this base towards the other"), needs="R_1")
    part.given("M_Ed", M, "kNm", note=say("of the strap there"), needs="R_1 R_2 x_s")
    part.given("d", d, "m", note=say("effective depth"))
    part.step("m_Ed", "M_Ed/b", M / b, "kNm/m")
    required, _ = required_steel(
        beam.standard, M / b, d, settings.concrete_strength, *beam.strengths, part, beam.standard.clauses["top-x"]
    )
    provided = bars.area_in(b) * 1e6
    part.given("A_s", provided, "mm²/m", note=say("its bars, over its width"))
    least = beam.standard.least_in_beam(
        d, np.full_like(d, h), settings.concrete_strength, settings.steel_strength, required, part
    )
    between = np.where(beam.clear, moment, 0.0).max(axis=-2)
    part.given("M_b", between, "kNm", note=say("greatest between the bases"), needs="R_1 R_2")
    asked = np.maximum(required, np.where(between > 1e-6, least, 0.0))
    part.step(
        "A_s_ask",
        "max(A_s_req, where(M_b > 1e-6, A_s_least, 0))",
        asked,
        "mm²/m",
        note=say("the least where the beam between the bases has tension"),
    )
    part.step("ratio", "A_s_ask/A_s", asked / provided)
    return Outcome(
        CHECKS[f"strap-{face}"],
        asked,
        np.full_like(asked, provided),
        asked / provided,
        situations,
        blocks=(say("strap {face}", face=label(face)),),
        note=lambda i, j: say("{place:+.2f} m from the middle towards {partner}", place=place[i, j], partner=partner),
    )


def reactions(bench: Bench, tie: Tie) -> tuple[Array, Array, Array]:
    """(R1, R2, distance of the middles): below this base and the other, of columns and strap, (candidates, situations),
    kN; where straps run in line at a base of that share of its column which goes with this one."""
    situations = bench.situations("concrete")
    plan = in_plan(bench.untied(situations), bench.points[0])
    found = moved(bench.geometry, bench.standing[0], plan, situations.cases, tie)
    own = situations.factors @ plan
    theirs = situations.factors @ in_plan(_partner_loads(tie, situations.cases), tie.points[0])
    change = found.force @ situations.factors.T
    here, there = (situations.weight * w for w in strap_weight(bench, tie))
    return (
        tie.share * own[..., 0] + change + here,
        tie.far_share * theirs[None, :, 0] - change + there,
        found.apart,
    )


def _partner_loads(tie: Tie, cases: tuple[str, ...]) -> Array:
    return loads_of_all(tie.points, cases)


def strap_weight(bench: Bench, tie: Tie) -> tuple[Array, Array]:
    """(what of the beam rests on this base, on the other), kN, (candidates, 1)."""
    near, far = strap_shares(bench.geometry, bench.points[0], tie)
    return bench.settings.concrete_weight * near, bench.settings.concrete_weight * far


def beam_of(bench: Bench, tie: Tie) -> tuple[Array, Array, Array]:
    """(places from the middle of this base towards the other (candidates, places, 1), moments (candidates, places,
    situations) kNm, shears between the faces): columns down, reactions up evenly over their bases, the strap's weight
    evenly over its length. Sagging positive.

    The beam ends at the face of the inner base: what bends that below its own column is carried by its own bars.
    """
    situations = bench.situations("concrete")
    first, far = bench.points[0], tie.points[0]
    d = direction(first, far)
    x, y = middle_of(bench.geometry)
    other = pad_geometry([tie.partner], [far], np.zeros(1, dtype=int), table(tie.partner))
    px, py = middle_of(other)
    apart = (px - x) * d[0] + (py - y) * d[1]
    size = size_along(bench.geometry, d)
    face = apart - size_along(other, d) / 2
    column = (first.x - x) * d[0] + (first.y - y) * d[1]
    R1, _, _ = reactions(bench, tie)
    plan = tie.share * (situations.factors @ in_plan(bench.untied(situations), first))[:, None]
    arm = (bench.geometry.load_level - bench.geometry.underside)[..., None]
    # moment of the column along the strap at the underside, without its force
    turning = plan[..., 4] * d[0] - plan[..., 3] * d[1] + (plan[..., 1] * d[0] + plan[..., 2] * d[1]) * arm
    start = np.minimum(-size / 2, column)
    s = np.sort(np.concatenate([start + (face - start) * np.linspace(0.0, 1.0, PLACES), size / 2], axis=1), axis=1)[
        ..., None
    ]
    size, column, face = size[..., None], column[..., None], face[..., None]

    def spread(force: Array, begin: Array, length: Array) -> tuple[Array, Array]:
        """(force, moment about s) of an even load to the left of s."""
        covered = np.clip(s - begin, 0.0, length)
        return force * covered / length, force * covered / length * (s - begin - covered / 2)

    near, there = strap_weight(bench, tie)
    weight = situations.weight * (near + there)[..., None]
    up = spread(R1[:, None], -size / 2, size)
    down = spread(weight, size / 2, np.maximum(face - size / 2, 1e-9))
    beyond = s > column + 1e-9
    shear = up[0] - down[0] - beyond * plan[..., 0]
    moment = up[1] - down[1] - beyond * (plan[..., 0] * (s - column) - turning)
    return s, moment, np.where(s >= size / 2 - 1e-9, shear, 0.0)
