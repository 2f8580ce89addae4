"""Shear and links of a beam of reinforced concrete: of a strap, or of a rib of a raft."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.model.labels import label
from korbent.core.model.reinforcement import Bars
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class BeamSection:
    """Of a beam: m, its bars in tension (m2), its links."""

    width: float
    depth: float
    d: float
    tension: float
    links: Bars | None
    legs: int
    cover: float


def shear_of_beam(
    section: BeamSection,
    V: Array,
    settings: Settings,
    standard_name: str,
    situations: Situations,
    kind: str,
    record: Recorder,
    what: str,
    needs: str,
    place: Callable[[int, int], str] = lambda i, j: "",
) -> list[Outcome]:
    """Shear of its concrete and links, and the least of those, by the standard.

    Args:
        V: the greatest shear, (candidates, situations), kN. kind: of its checks, before -shear and -links. what: where
        V is from.
    """
    b, h = section.width, section.depth
    given = section.links if section.links and section.links.spacing else None
    # without links it is a beam like others, not a base
    own = settings if given else settings.replaced(shear_size_effect=True)
    standard = standard_of(standard_name, own)
    assert standard is not None
    d = np.full((len(V), 1), section.d)
    _, depth = standard.shear_section(d, np.full_like(d, h))
    rho = section.tension / b / d
    special = situations.is_special()
    record.given("V_Ed", V, "kN", note=what, needs=needs)
    record.given("d_s", d, "m", note=say("effective depth"))
    record.given("d", depth, "m", note=say("depth over which the stress is taken"))
    record.step("v_Ed", "V_Ed/(b*d)/1000", V / (b * depth) / 1000, "MPa")
    record.given("rho_l", rho, note=say("bars in tension over b d"))
    fcd, fyd = standard.strengths(settings.concrete_strength, settings.steel_strength, special, record)
    concrete = standard.shear_strength(depth, settings.concrete_strength, rho, special, record)
    area = section.legs * np.pi * given.diameter**2 / 4 if given else 0.0
    apart = given.spacing if given and given.spacing else 1.0
    record.given("A_sw", area, "m²", note=say("legs of a link"))
    record.given("s_w", apart, "m", note=say("from link to link"))
    record.step("rho_w", "A_sw/(s_w*b)", area / (apart * b))
    capacity = standard.shear_with_links(
        concrete,
        settings.concrete_strength,
        fcd,
        settings.steel_strength,
        fyd,
        area / (apart * b),
        record,
    )
    demand = V / (b * depth) / 1000
    capacity = np.broadcast_to(capacity, demand.shape)
    record.step("ratio", "v_Ed/v_Rd_all", demand / capacity)
    bears = Outcome(
        CHECKS[f"{kind}-shear"],
        demand,
        capacity,
        demand / capacity,
        situations,
        blocks=(say("{kind} shear", kind=label(kind)),),
        note=place,
    )
    return [bears, _links(section, standard, demand, concrete, d, settings, situations, kind, record.scope("links"))]


def _links(
    section: BeamSection,
    standard: ConcreteStandard,
    stress: Array,
    concrete: Array,
    d: Array,
    settings: Settings,
    situations: Situations,
    kind: str,
    record: Recorder,
) -> Outcome:
    """The least area of links and their greatest distances; ``concrete``: the stress that it bears without them."""
    b, given = section.width, section.links if section.links and section.links.spacing else None
    least, along, across = standard.links_in_beam(
        stress,
        concrete,
        d,
        np.full_like(d, section.depth),
        settings.concrete_strength,
        settings.steel_strength,
        record,
    )
    if given is None:
        record.given("ratio", np.zeros_like(stress), note=say("none are needed"))
        return _without_links(f"{kind}-links", kind, least, 0.0, situations)
    apart = given.spacing or 1.0
    provided = section.legs * np.pi * given.diameter**2 / 4 / (apart * b)
    legs = (b - 2 * section.cover - given.diameter) / max(section.legs - 1, 1)
    shares = [least / provided, apart / along]
    record.given("s_t", legs, "m", note=say("from leg to leg across the width"))
    if across is not None:
        shares.append(legs / across)
    formula = "max(rho_w_min/rho_w, s_w/s_w_max" + (", s_t/s_t_max)" if across is not None else ")")
    # said as the area of links over their distance: what would do with these legs
    ratio = np.maximum.reduce(shares)
    demand = ratio * provided * b * 1e6
    record.step("ratio", formula, ratio, note=say("area and distances of links"))
    named = (say("too little area"), say("too far apart along it"), say("legs too far apart across it"))

    def why(i: int, j: int) -> str:
        return named[int(np.argmax([s[i, j] for s in shares]))] if ratio[i, j] > 1.0 else ""

    return Outcome(
        CHECKS[f"{kind}-links"],
        demand,
        np.full_like(demand, provided * b * 1e6),
        ratio,
        situations,
        blocks=(say("{kind} shear links", kind=label(kind)),),
        note=why,
    )


def _without_links(check: str, kind: str, least: Array, provided: float, situations: Situations) -> Outcome:
    """Where it has none, none may be asked for."""
    return Outcome(
        CHECKS[check],
        least,
        np.full_like(least, provided),
        np.zeros_like(least),
        situations,
        unresisted=least > 0.0,
        blocks=(say("{kind} shear links", kind=label(kind)),),
        note=lambda i, j: (
            say("it has no links, and the standard asks for some") if least[i, j] > 0.0 else say("none are needed")
        ),
    )
