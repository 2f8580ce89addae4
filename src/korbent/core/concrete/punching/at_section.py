"""Punching at the critical section half the effective depth from the column, closed or open to edges."""

from typing import NamedTuple

import numpy as np

from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.critical_section import (
    VARIANTS,
    CriticalSection,
    critical_section,
    critical_sections,
)
from korbent.core.concrete.openings import weakened_section
from korbent.core.concrete.pad import ConcretePad, clear_distances, top_moments
from korbent.core.concrete.punching.applies import cannot_fit, idle_because, links_say, pulled_warning
from korbent.core.concrete.punching.around import about_middle, opening_reach, soil_within
from korbent.core.concrete.standards.protocol import AtSection
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array, Recorder
from korbent.words import say

PASSAGE = 0.2
"""An open section at d/2 counts with its whole moments from a mean stress of so much more than that of the closed one
on."""


def at_section(
    pad: ConcretePad, standard: AtSection, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g = pad.geometry
    d = (pad.d_x + pad.d_y) / 2
    reach, clear = opening_reach(pad, d), clear_distances(g)
    column, lifted = pad.forces.column, pad.forces.column <= 0.0
    scope = record.scope("punching")
    M_x, M_y = top_moments(pad, scope, several)
    scope.step("d", "(d_x + d_y)/2", d, "m", note=say("mean effective depth"))
    no_face = say("{standard} has no check at the face", standard=standard.name)
    parts: list[_Section] = []
    # greatest mean stress of the sections that exist with fewer open sides
    means = {open_sides: np.zeros(column.shape) for open_sides in range(3)}
    sections = critical_sections(*_sides(g, standard, d), clear, d / 2)
    # a round base has one distance to its rim: what fits there is closed
    for number, (section, there) in enumerate(sections[:1] if g.footprint.is_round else sections):
        r = scope.scope(say("section {number}", number=number + 1))
        section = weakened_section(section, there, g, reach)
        open_sides = int(4 - sum(VARIANTS[number]))
        one = _one(pad, standard, d, section, there, (M_x, M_y), means[open_sides] if open_sides else None, r)
        for more in range(open_sides + 1, 3):
            means[more] = np.maximum(means[more], np.where(section.exists, one.mean, 0.0))
        parts.append(one)
    fits = np.any(np.stack([np.broadcast_to(p.exists, g.B.shape) for p in parts]), axis=0)[:, 0]
    idle = idle_because(pad, fits, lifted)
    if all(idle):
        return [does_not_apply("punching", idle), does_not_apply("punching-face", no_face)]
    demand, capacity, ratio = (np.concatenate([p[k] for p in parts], axis=-1) for k in range(3))
    count = len(pad.situations)

    def note(i: int, j: int) -> str:
        sides = _open_to(VARIANTS[j // count])
        return say("at d/2{sides}", sides=sides and ", " + sides) + links_say(ratio[i, j])

    outcome = Outcome(
        CHECKS["punching"],
        demand,
        capacity,
        ratio,
        pad.situations,
        np.tile(~pad.contact.stable, len(parts)),
        blocks=tuple(say("punching section {n}", n=n + 1) for n in range(len(parts))),
        why_not=cannot_fit(pad, fits, thin),
        not_applicable=idle,
        place=np.full(ratio.shape, 0.5),
        note=note,
        warnings=pulled_warning(lifted),
    )
    return [outcome, does_not_apply("punching-face", no_face)]


class _Section(NamedTuple):
    """What is found at one section, (candidates, situations)."""

    demand: Array
    capacity: Array
    ratio: Array
    mean: Array
    """Stress without moments, kPa."""
    exists: Array


def _one(
    pad: ConcretePad,
    standard: AtSection,
    d: Array,
    section: CriticalSection,
    there: tuple[Array, ...],
    moments: tuple[Array, Array],
    fewer: Array | None,
    r: Recorder,
) -> _Section:
    """At one section; ``there``: its sides, ``fewer``: the greatest mean stress of those with fewer open sides, kPa,
    where it is open."""
    g, column = pad.geometry, pad.forces.column
    inside, first_x, first_y = soil_within(pad, section)
    V = np.maximum(column - inside, 0.0)
    mean = V / (section.length * d)
    r.given(
        "b_o",
        section.length,
        "m",
        reference=standard.clauses["punching"],
        note=_open_to(there),
        needs="d f_x1 f_y1",
    )
    r.given("R_in", inside, "kN", note=say("net soil pressure within it, integrated"), needs="p_mid g_x g_y w_d d")
    r.step("V_red", "max(V_col - R_in, 0)", V, "kN")
    M_xu, M_yu = about_middle(*moments, V, column, inside, first_x, first_y, section, fewer is not None, r)
    if fewer is not None:
        share = np.where(fewer > 0.0, np.clip((mean / np.maximum(fewer, 1e-12) - 1) / PASSAGE, 0.0, 1.0), 1.0)
        M_xu, M_yu = _in_passage(share, fewer, M_xu, M_yu, r)
    aspect = np.maximum(g.face[0], g.face[1]) / np.minimum(g.face[0], g.face[1])
    demand = standard.section_demand(V, M_xu, M_yu, section, d, r)
    capacity = standard.section_strength(d, pad.settings.concrete_strength, aspect, section, np.asarray(sum(there)), r)
    applies = section.exists & (column > 0.0)
    r.given("k_on", np.where(applies, 1.0, 0.0), note=say("1 where this section counts and the column presses down"))
    demand, capacity = np.where(applies, demand, 0.0), np.broadcast_to(capacity, applies.shape)
    ratio = demand / capacity
    r.step("ratio", "where(k_on > 0.5, v_Ed/v_Rd, 0)", ratio)
    return _Section(demand, capacity, ratio, mean, section.exists)


def direct_stress(pad: ConcretePad, standard: AtSection) -> tuple[Array, CriticalSection, Array]:
    """(stress without moments at d/2, the worst of all situations, MPa; the section that fits; its sides), (candidates,
    1)."""
    g, d = pad.geometry, (pad.d_x + pad.d_y) / 2
    clear = clear_distances(g)
    section = critical_section(*_sides(g, standard, d), clear, d / 2)
    sides = np.sum([(d / 2 <= np.maximum(edge, 0.0) + 1e-9).astype(float) for edge in clear], axis=0)
    inside, _, _ = soil_within(pad, section)
    stress = np.where(section.exists, np.maximum(pad.forces.column - inside, 0.0) / (section.length * d) / 1000, 0.0)
    return np.where(pad.contact.stable, stress, 0.0).max(axis=-1, keepdims=True), section, sides


def _sides(g: PadGeometry, standard: AtSection, d: Array) -> tuple[Array, Array]:
    """Sides of the loaded area at which the critical section starts; of a round column those of a square."""
    side = standard.round_side(g.diameter, d)
    return np.where(g.diameter > 0, side, g.face[0]), np.where(g.diameter > 0, side, g.face[1])


def _in_passage(share: Array, fewer: Array, M_xu: Array, M_yu: Array, record: Recorder) -> tuple[Array, Array]:
    """The moments about an open section, as far as it counts: fully from a mean stress of a fifth more than that of the
    sections with fewer open sides on, not at all where it has less; so that nothing jumps where a column nears an
    edge."""
    record.given("v_f", fewer, "kPa", note=say("greatest mean stress of the sections with fewer open sides"))
    record.step(
        "k_p",
        f"where(v_f > 0, min(max((V_red/(b_o*d)/max(v_f, 1e-12) - 1)/{PASSAGE}, 0), 1), 1)",
        share,
        note=say("0 to 1: from where its mean stress is the greater one to a fifth more (our own passage)"),
    )
    for symbol, value in (("M_xu", M_xu), ("M_yu", M_yu)):
        record.step(f"{symbol}0", symbol, value, "kNm")
        record.step(symbol, f"k_p*{symbol}0", share * value, "kNm")
    return share * M_xu, share * M_yu


def _open_to(variant: tuple[float, ...] | tuple[Array, ...]) -> str:
    """At which edges a section is open, in words; '' where it is closed."""
    names = [name for name, side in zip(("−x", "+x", "−y", "+y"), variant) if float(np.asarray(side).flat[0]) == 0.0]
    return say("open to the {names} edge", names=" and ".join(names)) if names else ""
