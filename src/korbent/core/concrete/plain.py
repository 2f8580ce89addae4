"""Bases of plain concrete: bending by the tensile strength, one-way shear and punching, no steel counted on.

Sections: bending at the face of the column, shear at the thickness that counts beyond it, punching at half of it.
"""

import numpy as np

from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.critical_section import critical_section
from korbent.core.concrete.pad import ConcretePad, clear_distances, first_moment, section_width
from korbent.core.concrete.punching.around import soil_within
from korbent.core.concrete.sections import FACES, forces_beyond
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

IDS = ("plain-x", "plain-y", "plain-shear-x", "plain-shear-y", "plain-punching")


def plain_checks(pad: ConcretePad, record: Recorder) -> list[Outcome]:
    """All checks of a base of plain concrete."""
    scope = record.scope("plain")
    fck = pad.settings.concrete_strength
    deduction = pad.settings.plain_deduction if pad.settings.cast_against == "soil" else 0.0
    depth = pad.standard.plain_depth(pad.geometry.h, deduction, scope)
    flexure, shear = pad.standard.plain(fck, pad.special, scope)
    outcomes = []
    for axis in "xy":
        outcomes.append(_bending(pad, axis, depth, flexure, scope))
    for axis in "xy":
        outcomes.append(_shear(pad, axis, depth, shear, scope))
    return [*outcomes, _punching(pad, depth, scope)]


def plain_depth_of(project: Project, pad: Pad) -> float:
    """Thickness of a plain base that counts, m; all of it without a standard."""
    settings = project.settings_of(pad)
    standard = standard_of(project.standards.concrete, settings)
    deduction = settings.plain_deduction if settings.cast_against == "soil" else 0.0
    h = np.full((1, 1), pad.thickness)
    return float((standard.plain_depth(h, deduction, SILENT) if standard else h)[0, 0])


def _along(axis: str) -> tuple[int, int]:
    return (0, 1) if axis == "x" else (2, 3)


def _bending(pad: ConcretePad, axis: str, depth: Array, strength: Array, record: Recorder) -> Outcome:
    faces = forces_beyond(pad.geometry, pad.contact, pad.weight, np.zeros((4, 1, 1)))
    parts, blocks = [], []
    for side in _along(axis):
        scope = record.scope(say("bending at the {faces}", faces=FACES[side]))
        width = section_width(pad, axis, faces, side, scope)
        scope.given(
            "l", faces.outstand[side], "m", note=say("from the face to the edge"), needs="B L o_x o_y f_x1 f_y1"
        )
        scope.step("S_b", *first_moment(pad, faces, side), "m³", note=say("first moment of the base beyond the face"))
        scope.given(
            "M_p",
            faces.pressed_moment[side],
            "kNm",
            note=say("soil pressure beyond the face, integrated"),
            needs="p_mid g_x g_y l b",
        )
        scope.step("M_Ed", "M_p - w_d*S_b", faces.moment[side], "kNm")
        stress = 6 * np.abs(faces.moment[side]) / (width * depth**2) / 1000
        scope.step(
            "sigma_t",
            "6*abs(M_Ed)/(b*h_p**2)/1000",
            stress,
            "MPa",
            reference=pad.standard.clauses[f"plain-{axis}"],
            note=say("tension by bending"),
        )
        scope.step("ratio", "sigma_t/f_Rd", stress / strength)
        parts.append(stress)
        blocks.append(say("plain bending at the {face}", face=FACES[side]))
    demand = np.concatenate(parts, axis=-1)
    capacity = np.tile(np.broadcast_to(strength, parts[0].shape), 2)
    return Outcome(
        CHECKS[f"plain-{axis}"],
        demand,
        capacity,
        demand / capacity,
        pad.situations,
        np.tile(~pad.contact.stable, 2),
        blocks=tuple(blocks),
        note=lambda i, j: say("at the {face}", face=FACES[_along(axis)[j // len(pad.situations)]]),
    )


def _shear(pad: ConcretePad, axis: str, depth: Array, strength: Array, record: Recorder) -> Outcome:
    sections = forces_beyond(pad.geometry, pad.contact, pad.weight, np.stack([depth] * 4))
    parts, blocks = [], []
    for side in _along(axis):
        scope = record.scope(say("shear beyond the {faces}", faces=FACES[side]))
        width = section_width(pad, axis, sections, side, scope)
        scope.given(
            "V_Ed",
            sections.shear[side],
            "kN",
            note=say("soil pressure less weights beyond the section"),
            needs="p_mid g_x g_y w_d h_p",
        )
        stress = np.abs(sections.shear[side]) / (width * depth) / 1000
        scope.step(
            "v_Ed",
            "abs(V_Ed)/(b*h_p)/1000",
            stress,
            "MPa",
            reference=pad.standard.clauses[f"plain-shear-{axis}"],
        )
        scope.step("ratio", "v_Ed/v_Rd", stress / strength)
        parts.append(stress)
        blocks.append(say("plain shear beyond the {face}", face=FACES[side]))
    demand = np.concatenate(parts, axis=-1)
    capacity = np.tile(np.broadcast_to(strength, parts[0].shape), 2)
    return Outcome(
        CHECKS[f"plain-shear-{axis}"],
        demand,
        capacity,
        demand / capacity,
        pad.situations,
        np.tile(~pad.contact.stable, 2),
        blocks=tuple(blocks),
        note=lambda i, j: say("its thickness beyond the {face}", face=FACES[_along(axis)[j // len(pad.situations)]]),
    )


def _punching(pad: ConcretePad, depth: Array, record: Recorder) -> Outcome:
    g = pad.geometry
    aspect = np.maximum(*g.face) / np.minimum(*g.face)
    scope = record.scope("punching")
    capacity = pad.standard.plain_punching(pad.settings.concrete_strength, aspect, scope)
    if capacity is None:
        return does_not_apply(
            "plain-punching", say("{standard} has no punching of plain bases", standard=pad.standard.name)
        )
    section = critical_section(g.face[0], g.face[1], clear_distances(g), depth / 2)
    inside, _, _ = soil_within(pad, section)
    V = np.maximum(pad.forces.column - inside, 0.0)
    scope.given("b_o", section.length, "m", note=say("at half the thickness from the column"), needs="h_p f_x1 f_y1")
    scope.given("R_in", inside, "kN", note=say("net soil pressure within it"), needs="p_mid g_x g_y w_d h_p")
    scope.step("V_red", "max(V_c + gamma_G*W_ped - R_in, 0)", V, "kN")
    demand = V / (section.length * depth) / 1000
    scope.step("v_Ed", "V_red/(b_o*h_p)/1000", demand, "MPa", reference=pad.standard.clauses["plain-punching"])
    scope.step("ratio", "v_Ed/v_Rd", demand / capacity)
    demand = np.where(section.exists, demand, 0.0)
    strength = np.broadcast_to(capacity, demand.shape)
    return Outcome(
        CHECKS["plain-punching"],
        demand,
        strength,
        demand / strength,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("plain punching"),),
        note=lambda i, j: (
            say("at half the thickness")
            if section.exists[i, 0]
            else say("no section fits within the base: one-way shear governs")
        ),
    )
