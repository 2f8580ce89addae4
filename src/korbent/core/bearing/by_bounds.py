"""Bearing resistance of a strip by rigorous lower bounds: V, H and M of every situation grow together until the ground
certainly bears no more.

A lower bound is slow. What is known is kept by section; first all situations on a coarse mesh, then those that govern
on finer ones, until the one that governs is as fine as any: all of them bounds, so that the ratio never claims more
than is certain."""

from dataclasses import replace

import numpy as np

from korbent.core.bearing.as_strip import NEVER_INSIDE, OUTSIDE, AsStrip, Taken, strip_on
from korbent.core.bearing.safety import NEEDED
from korbent.core.bench import Bench
from korbent.core.cache import Cache
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.model.settings import Settings
from korbent.core.plasticity.section import Section
from korbent.core.working import Array, Recorder
from korbent.words import say

SIZES = (400, 1200, 2600)
"""Triangles: of all situations, and of those that govern."""
SLENDER = 5.0
"""A base so many times as long as wide is a strip."""
WALLS = ("masonry_wall", "concrete_wall")
TAKEN = Taken(load="all", underside="friction", all_across=True)
REPLACED = tuple(f"{kind}-{drainage}" for kind in ("resistance", "safety") for drainage in NEEDED)
"""The checks by formula for which these stand."""
Known = tuple[Section, int, float]


def chosen(settings: Settings) -> bool:
    """The settings ask for bounds."""
    return settings.strip_resistance == "bounds"


def bounds_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """The lower bound of the load over the load of each situation: with design strengths, and unfactored against the
    safety factor."""
    if not chosen(bench.settings):
        return []
    return [
        one
        if isinstance(one, Outcome)
        else _one(bench.on_ground(), check, *one, record.scope(check.replace("-bounds-", " ")))
        for check, one in asked(bench).items()
    ]


def asked(bench: Bench) -> dict[str, "Outcome | tuple[str, Taken]"]:
    """By check: why it is not made, or drainage and how the base is taken."""
    ground = bench.on_ground()
    why_no_strip = not_a_strip(bench)
    found: dict[str, Outcome | tuple[str, Taken]] = {}
    ways: tuple[tuple[str, Taken, str], ...] = (
        ("resistance", replace(TAKEN, strengths="design"), "ultimate"),
        ("safety", replace(TAKEN, strengths="unfactored"), "allowable"),
    )
    for kind, taken, question in ways:
        situations = ground.situations(question)
        for drainage in NEEDED:
            check = f"{kind}-bounds-{drainage}"
            idle, why = ground.idle(drainage), ground.why_not(*NEEDED[drainage])
            if kind == "safety" and bench.settings.factor_bearing is None:
                found[check] = does_not_apply(check, say("no safety factor against bearing failure is set"))
            elif kind == "resistance" and not len(situations):
                found[check] = does_not_apply(check, say("no combination serves 'ultimate'"))
            elif not len(situations):
                found[check] = cannot(check, ground.no_combination(question))
            elif all(idle):
                found[check] = does_not_apply(check, idle)
            elif all(why) or why_no_strip:
                found[check] = cannot(check, why if all(why) else (why_no_strip,) * len(bench.index))
            else:
                found[check] = drainage, taken
    return found


def not_a_strip(bench: Bench) -> str:
    """Why a base is no strip; '' where it is one."""
    g = bench.geometry
    if all(p.kind in WALLS for p in bench.points):
        return ""
    ratio = float(np.max(np.maximum(g.B, g.L) / np.minimum(g.B, g.L)))
    if ratio >= SLENDER:
        return ""
    return say(
        "bounds are those of a strip: this base is {ratio:.1f} times as long as wide ({slender:g} are "
        "asked, or a wall)",
        ratio=ratio,
        slender=SLENDER,
    )


def _one(bench: Bench, check: str, drainage: str, taken: Taken, record: Recorder) -> Outcome:
    question = "ultimate" if taken.strengths == "design" else "allowable"
    situations = bench.situations(question)
    count = len(situations)
    strips = [strip_on(bench, drainage, taken, k) for k in range(count)]
    for why in strips:
        if isinstance(why, str) and why not in (NEVER_INSIDE, OUTSIDE):
            return cannot(check, (why,))  # a deeper stratum without strengths, a program without end
    required = np.broadcast_to(_required(bench, situations, taken), (1, count))[0]
    factor, triangles = _factors(strips, required)
    stable = np.array([isinstance(s, AsStrip) for s in strips])
    none = (0.0, 0.0, 0.0)
    V, H, M = np.array([s.force if isinstance(s, AsStrip) else none for s in strips]).T
    B = np.array([s.section.B if isinstance(s, AsStrip) else 1.0 for s in strips])
    borne = stable & (factor > 0)
    ratio = np.where(borne, required / np.where(borne, factor, 1.0), 0.0)
    demand = np.where(stable, V / B, 0.0)

    def row(values: Array) -> Array:
        return np.asarray(values, dtype=float)[None, :]

    record.given("B", row(B), "m", note=say("width of the strip, all of the base, across"))
    record.given(
        "V",
        row(V),
        "kN/m",
        note=say("per metre of the effective length; in undrained ground without the water pressure from below"),
    )
    record.given("H", row(H), "kN/m", note=say("all of it taken as acting along the width"))
    record.given("M", row(M), "kNm/m", note=say("about the middle of the underside"))
    record.given("n_t", row(triangles), note=say("triangles of the mesh"))
    record.given(
        "f_low",
        row(factor),
        reference=say("lower bound, associated flow"),
        note=say("V, H and M grow so many times together, and are borne"),
        needs="B V H M",
    )
    if taken.strengths == "design":
        record.given("gamma_R", row(required), reference="EN 1997-1 table A.5", note=say("1/φ for the set R"))
        record.step("ratio", "gamma_R/max(f_low, 1e-9)", row(ratio))
    else:
        record.given("FS_req", row(required), note=say("required safety factor"))
        record.step("ratio", "FS_req/max(f_low, 1e-9)", row(ratio))

    def note(candidate: int, column: int) -> str:
        strip = strips[column % count]
        return (
            ""
            if isinstance(strip, str)
            else say(
                "lower bound of a strip, {triangles} triangles; {said}",
                triangles=int(triangles[column % count]),
                said=strip.said,
            )
        )

    return Outcome(
        CHECKS[check],
        row(demand),
        row(np.where(borne, demand * factor / (required if taken.strengths == "design" else 1.0), 0.0)),
        row(ratio),
        situations,
        row(~borne).astype(bool),
        blocks=(check.replace("-bounds-", " "),),
        note=note,
        required_factor=bench.settings.factor_bearing if taken.strengths == "unfactored" else None,
        because=say(
            "the ground bears nothing of this load, however small, a slope beside it does not stand by itself, or the resultant lies outside the base"
        ),
    )


def _required(bench: Bench, situations: object, taken: Taken) -> Array | float:
    if taken.strengths == "unfactored":
        return float(bench.settings.factor_bearing or 1.0)
    return np.asarray(bench.on_resistance(situations, "bearing"))  # type: ignore[arg-type]


def _factors(strips: list[AsStrip | str], required: Array) -> tuple[Array, Array]:
    """(factor of each situation, triangles of its mesh): all coarse, then the one that governs finer, as long as
    another one governs."""
    factor, size = np.zeros(len(strips)), np.zeros(len(strips))
    for k, strip in enumerate(strips):
        if isinstance(strip, AsStrip):
            factor[k], size[k] = _least(strip, SIZES[0]), SIZES[0]
    there = np.array([isinstance(s, AsStrip) for s in strips])
    while there.any():
        ratio = np.where(there, required / np.maximum(factor, 1e-9), -np.inf)
        worst = int(np.argmax(ratio))
        finer = next((s for s in SIZES if s > size[worst]), None)
        strip = strips[worst]
        if finer is None or factor[worst] <= 0 or isinstance(strip, str):
            break
        factor[worst] = max(_least(strip, finer), factor[worst])
        size[worst] = finer
    return factor, size


def _least(strip: AsStrip, most: int) -> float:
    """The factor of a strip; where H holds what acts along it, the lesser of its two directions."""
    section, load = strip.section, strip.section.load
    found = factor_of(section, most)
    if not strip.either_way or load is None or not (load.growing[2] or section.slope):
        return found  # one is the mirror image of the other
    V, H, M = load.growing
    return min(found, factor_of(replace(section, load=replace(load, growing=(V, -H, M))), most))


def factor_of(section: Section, most: int) -> float:
    """How many times the load of a section is certainly borne; 0 where none of it is."""

    from korbent.core.plasticity.bounds import NotSolvedError  # loaded only where something is solved

    def make() -> Known:
        try:
            found = section, most, max(_factor(section, most), 0.0)
        except NotSolvedError:
            found = section, most, 0.0
        _new.append(found)
        return found

    return _known.of((section, most), (), make)[2]


def _factor(section: Section, most: int) -> float:
    from korbent.core.plasticity.bounds import bound  # loaded only where something is solved

    load = section.load
    assert load is not None
    V, H, M = load.growing
    if abs(H) < 1e-9 * V and abs(M) < 1e-9 * V * section.B and load.held == (0.0, 0.0, 0.0) and not section.slope:
        # central: half of the section with half of the triangles
        half = replace(section, load=None, underside=replace(section.underside, tension=True))
        return bound(half, "lower", most // 2).pressure * section.B / V
    return bound(section, "lower", most).factor


def new_ones() -> tuple[Known, ...]:
    """What was found since it was asked last, to be handed to another process."""
    found = tuple(_new)
    _new.clear()
    return found


def known_now(found: tuple[Known, ...]) -> None:
    """Takes what another process found."""
    for section, most, factor in found:
        _known.put((section, most), (), (section, most, factor))


_known: Cache[Known] = Cache(4_000_000, each=2_000)
_new: list[Known] = []
