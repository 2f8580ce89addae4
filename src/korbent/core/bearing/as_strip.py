"""A base as a strip of unit length on the strata below it: what is exact, what is bracketed, and the methods as strips
beside them."""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.bearing.effective import OnArea, on_effective_area
from korbent.core.bearing.layers.adopted import MECHANISMS, Factors, layered
from korbent.core.bearing.layers.strata import strata_below, stress_at
from korbent.core.bearing.methods import METHODS, Footing, Method
from korbent.core.bearing.safety import NEEDED, base_on
from korbent.core.bench import Bench, bench_for
from korbent.core.contact.plane import Contact
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
from korbent.core.model.ground import Soil
from korbent.core.model.labels import label
from korbent.core.plasticity.envelope import Vector, carried
from korbent.core.plasticity.section import Layer, Load, Section, Underside, box
from korbent.core.plasticity.slip_lines import Strip, exact
from korbent.core.working import SILENT, Array
from korbent.words import say

NEVER_INSIDE = say("the resultant lies outside the base in every situation")
OUTSIDE = say("the resultant lies outside the base or nothing presses it down")
LENGTH = 1e6
"""Of a strip over its width: without end."""
LITTLE = 0.005
"""A horizontal force along the strip below this share of V is not spoken of."""
DEEPEST = 12.0
"""Strata are looked at to so many widths below the base."""


@dataclass(frozen=True)
class Taken:
    """How a base is taken as a strip."""

    load: Literal["central", "V", "all"] = "central"
    """V alone, in the middle of B'; V alone with H and M held, on all of B; V, H and M together, on all of B."""
    underside: Literal["rough", "smooth", "friction"] = "rough"
    """With friction: tan(delta) and the adhesion of the sliding check."""
    tension: bool = False
    """Whether the base holds the ground where it would lift off; with a central load it never does."""
    turns: bool = True
    across: Literal["governing", "x", "y"] = "governing"
    """The cut: along the shorter side of the effective area, along x or along y of the base."""
    all_across: bool = False
    """The horizontal force acts across the strip with all of its size, also what acts along it; else that is left out,
    and it is said."""
    strengths: Literal["unfactored", "design"] = "unfactored"
    psi: float | None = None
    """Angle of dilatancy of drained ground, degrees: strengths are then those of Davis (1968); None: that of friction,
    associated flow."""


@dataclass(frozen=True)
class AsStrip:
    """A base as a strip of unit length."""

    section: Section
    water: float
    """Pore pressure at the underside that adds to what the ground bears, kPa: in undrained ground all stresses are
    total."""
    drainage: str
    combination: str
    pressure: float
    """V of the situation over the width of the strip, kPa."""
    methods: tuple[tuple[str, float], ...]
    """(method, ultimate pressure as a strip with the surcharge alone beside it), on the stratum below the base
    alone."""
    said: str
    """What was taken how."""
    force: tuple[float, float, float] = (0.0, 0.0, 0.0)
    """V, H (kN/m) and M about the middle of the underside (kNm/m) of the situation."""
    others: tuple[tuple[str, float, float, float], ...] = ()
    """All situations: (combination, V, H, M)."""
    soils: tuple[Soil, ...] = ()
    """Of the layers of the section."""
    area: float = 0.0
    """Of the effective area, m2."""
    along_x: bool = True
    rigid: float | None = None
    """Depth below the underside at which ground begins that does not settle, m."""
    shift: float = 0.0
    """Of the middle of the strip from that of the base, m: the eccentricity, where only B' is looked at."""
    central: bool = True
    """V alone is looked at, in the middle of the effective width."""
    either_way: bool = False
    """What acts along the strip is counted in H, which may then push to either side."""

    @property
    def uniform(self) -> bool:
        """One stratum as far as it matters and a central load: there is an exact solution."""
        first = self.section.layers[0]
        return (
            self.section.mirrored
            and first.growth == 0
            and all(
                (x.c, x.phi, x.gamma, x.growth) == (first.c, first.phi, first.gamma, 0.0) for x in self.section.layers
            )
        )


def as_strip(project: Project, pad: Pad, drainage: str, taken: Taken = Taken(), situation: str = "") -> AsStrip | str:
    """The strip of unit length that a base is looked at as, in a situation by its name, else in the one that presses
    hardest on its effective area (unfactored) or is nearest to the resistance of the adopted method (design); or why
    there is none."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    situations = bench.situations(_question(taken))
    names = [situations.label(k) for k in range(len(situations))] if situation else []
    return strip_on(bench, drainage, taken, names.index(situation) if situation in names else None)


def as_strips(
    project: Project, pad: Pad, drainage: str, taken: Taken = Taken()
) -> tuple[tuple[str, AsStrip | str], ...] | str:
    """(name, the strip or why there is none) of every situation of a base; or why there is none at all."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    one = strip_on(bench, drainage, taken)
    if isinstance(one, str):
        return one
    situations = bench.situations(_question(taken))
    return tuple((situations.label(k), strip_on(bench, drainage, taken, k)) for k in range(len(situations)))


def _question(taken: Taken) -> str:
    return "allowable" if taken.strengths == "unfactored" else "ultimate"


def strip_on(bench: Bench, drainage: str, taken: Taken, at: int | None = None) -> AsStrip | str:
    """The same on a bench that stands on the ground; ``at``: the situation that is looked at."""
    question = _question(taken)
    situations = bench.situations(question)
    why = bench.idle(drainage)[0] or bench.why_not(*NEEDED[drainage])[0]
    if why or not len(situations):
        return why or bench.no_combination(question)
    forces = bench.forces(situations, SILENT)
    factors = _factors(situations, taken)
    base, contact = base_on(bench, situations, bench.leaning(situations, forces, SILENT), drainage)
    base = replace(
        base,
        phi=np.arctan(np.tan(base.phi) / factors[0]),
        cohesion=base.cohesion / (factors[1] if drainage == "drained" else factors[2]),
    )
    shape = np.broadcast(base.N, base.B, base.phi).shape
    # what presses is factored; where it leans (DA2*) may be that of characteristic actions; an endless strip is its base many times over
    area = on_effective_area(bench, contact, forces)
    pressing = area.forces.N if drainage == "drained" else area.forces.V
    pressure = np.broadcast_to(np.where(contact.stable, pressing / np.maximum(base.B * base.L, 1e-9), -np.inf), shape)
    if not np.isfinite(pressure).any():
        return NEVER_INSIDE
    worst = _worst(bench, base, pressure, drainage, taken) if at is None else at
    if not np.isfinite(pressure[0, worst]):
        return OUTSIDE

    def of(value: Array | float, at: int = worst) -> float:
        return float(np.broadcast_to(np.asarray(value, dtype=float), shape)[0, at])

    water = bench.water(situations)[worst : worst + 1]
    level = bench.geometry.underside
    u = max(float(water[0]) - float(level[0, 0]), 0.0) * 9.81
    pore = u if drainage == "undrained" else 0.0
    overburden = of(base.overburden) - pore
    narrow, along_x, other_H = _cut(bench, area, pressing, contact, taken, worst, shape, pore)
    B, e, turned = narrow
    one = tuple(float(np.ravel(np.broadcast_to(f, shape[1:]))[worst]) if np.ndim(f) else float(f) for f in factors)
    layers, soils, undrained, firm = _layers(bench, base, drainage, water, B, one, taken.psi, worst)
    if isinstance(layers, str):
        return layers
    V, H, M = turned(worst)
    load = _load(taken, V, H, M)
    slope = float(bench.settings.ground_slope)
    if slope:
        # it falls away to the side that the base is pushed or leans to
        slope *= -1.0 if H < 0 or (H == 0 and e < 0) else 1.0
        load = load or Load((B, 0.0, 0.0), turns=taken.turns)
    section = Section(B, layers, max(overburden, 0.0), _underside(bench, layers[0], drainage, taken), load, firm, slope)
    first = layers[0]
    own = tuple((name, value + pore) for name, value in _as_strips(section, drainage, overburden, (V, H, e), taken))
    central = load_is_central(taken)
    if central and len(layers) > 1:
        own = (*own, *_with_strata(bench, base, drainage, first, B, water, of, Factors(*one)))
    assert bench.profile is not None
    end = float(level[0, 0]) - float(np.ravel(bench.profile.end)[0])
    across = taken.load != "central" and other_H > LITTLE * abs(V)
    said = _said(taken, B, drainage, undrained, overburden, along_x, (V, H, M), taken.psi)
    said += _left_out(
        bench, taken, other_H if across else None, end if firm is None and end < box(section)[1] - 1e-6 else None, slope
    )
    return AsStrip(
        section=section,
        water=pore,
        drainage=drainage,
        combination=situations.label(worst),
        pressure=of(pressure) if central else V / B + pore,
        methods=own,
        said=said,
        force=(V, H, M),
        others=tuple((situations.label(k), *turned(k)) for k in range(shape[1]) if np.isfinite(pressure[0, k])),
        soils=soils,
        area=of(base.B * base.L),
        along_x=along_x,
        rigid=end if bench.profile.rigid_below else firm,
        shift=e if central else 0.0,
        central=central,
        either_way=taken.all_across and other_H > LITTLE * abs(V),
    )


def _worst(bench: Bench, base: Footing, pressure: Array, drainage: str, taken: Taken) -> int:
    """The situation that presses hardest, or with design strengths is nearest to what the adopted method gives."""
    if taken.strengths != "design":
        return int(np.argmax(pressure[0]))
    method = METHODS[bench.settings.bearing_method]
    found = method.drained(base, SILENT) if drainage == "drained" else method.undrained(base, SILENT)
    return int(np.argmax((pressure / np.maximum(found.pressure, 1e-9))[0]))


def _load(taken: Taken, V: float, H: float, M: float) -> Load | None:
    """What of the load grows; None where it is V alone in the middle of B'."""
    if taken.load == "central":
        return None
    if taken.load == "V":
        return Load((1.0, 0.0, 0.0), (0.0, H, M), taken.turns)
    return Load((V, H, M), turns=taken.turns)


def load_is_central(taken: Taken) -> bool:
    """V alone, in the middle of the effective width."""
    return taken.load == "central"


def _factors(situations: Situations, taken: Taken) -> tuple[Array | float, Array | float, Array | float]:
    if taken.strengths == "unfactored":
        return 1.0, 1.0, 1.0
    return situations.on_tan_phi, situations.on_cohesion, situations.on_undrained


def _cut(  # type: ignore[no-untyped-def]
    bench: Bench,
    area: OnArea,
    pressing: Array,
    contact: Contact,
    taken: Taken,
    worst: int,
    shape: tuple[int, ...],
    u: float,
):
    """((width of the strip, eccentricity along it, its V, H, M by situation), whether it runs along x, the H along the
    strip)."""
    g = bench.geometry
    whole_x, whole_y = (g.B, g.L) if g.footprint.is_round else g.footprint.equal_rectangle

    def at(value: Array | float, k: int) -> float:
        return float(np.broadcast_to(np.asarray(value, dtype=float), shape)[0, k])

    along_x = at(area.x, worst) <= at(area.y, worst) if taken.across == "governing" else taken.across == "x"
    own, other, whole = (area.x, area.y, whole_x) if along_x else (area.y, area.x, whole_y)
    H, along = (area.forces.Hx, area.forces.Hy) if along_x else (area.forces.Hy, area.forces.Hx)
    if taken.all_across:
        H = np.where(np.asarray(H) < 0, -1.0, 1.0) * np.hypot(H, along)
    e = contact.e_x if along_x else contact.e_y
    B = at(own, worst) if taken.load == "central" else at(whole, worst)

    def turned(k: int) -> tuple[float, float, float]:
        length = max(at(other, k), 1e-9)
        V = at(pressing, k) / length
        # in undrained ground all stresses are total: what the water presses from below is not for the strength to bear
        return V - u * B, at(H, k) / length, V * at(e, k)

    V, _, M = turned(worst)
    e_worst = M / max(V, 1e-9) if taken.load != "central" else at(e, worst)
    return (B, e_worst, turned), along_x, abs(at(along, worst)) / max(at(other, worst), 1e-9)


def _underside(bench: Bench, first: Layer, drainage: str, taken: Taken) -> Underside:
    """What passes below the base."""
    tension = taken.tension or taken.load == "central"
    if taken.underside == "rough":
        return Underside(tension=tension)
    if taken.underside == "smooth":
        return Underside(0.0, 0.0, tension)
    settings = bench.settings
    if drainage == "undrained":
        return Underside(0.0, first.c, tension)
    friction = settings.base_friction
    if friction is None:
        friction = settings.friction_ratio * float(np.tan(np.deg2rad(first.phi)))
    return Underside(float(np.rad2deg(np.arctan(friction))), settings.base_adhesion, tension)


LOADS = {
    "central": say("V alone grows, in the middle of B′"),
    "V": say("V alone grows, H and M held, on all of B"),
    "all": say("V, H and M grow together, on all of B"),
}
UNDERSIDES = {"rough": say("rough"), "smooth": say("smooth"), "friction": say("friction of the sliding check")}


def _said(
    taken: Taken,
    B: float,
    drainage: str,
    undrained: tuple[str, ...],
    q: float,
    along_x: bool,
    force: tuple[float, float, float],
    psi: float | None,
) -> str:
    also = say(", {undrained} undrained", undrained=", ".join(undrained)) if drainage == "drained" and undrained else ""
    name = "B′" if taken.load == "central" else "B"
    parts = [
        say(
            "{name} {B:.2f} m along {value}, {drainage}{also}, q′ {q:.1f} kPa",
            name=name,
            B=B,
            value="x" if along_x else "y",
            drainage=label(drainage),
            also=also,
            q=q,
        ),
        LOADS[taken.load],
    ]
    if taken.load != "central":
        parts.append(f"H {force[1]:.1f} kN/m, M {force[2]:.1f} kNm/m" + ("" if taken.turns else say(", held upright")))
        parts.append(say("holds the ground") if taken.tension else say("lifts off"))
    parts += [
        UNDERSIDES[taken.underside],
        say("unfactored") if taken.strengths == "unfactored" else say("design strengths"),
    ]
    if psi is not None and drainage == "drained":
        parts.append(say("ψ {psi:g}°: strengths of Davis", psi=psi))
    return "; ".join(parts).replace("-", "−")


def _left_out(bench: Bench, taken: Taken, along: float | None, end: float | None, slope: float) -> str:
    """What is not as it is: H along the strip (kN/m), strata that end (m below the base), the slope (degrees, to the
    right), the hole of a ring, a tilted underside."""
    said = ""
    if along is not None:
        said += say("; H {other_H:.1f} kN/m along the strip ", other_H=along) + (
            say("acts across it too") if taken.all_across else say("is left out")
        )
    if bench.pads[0].bore:
        said += say("; the hole of the ring counts as base")
    if end is not None:
        said += say("; known to {end:.1f} m below the base, further down its last stratum goes on", end=end)
    if slope:
        said += say(
            "; the ground falls away by {slope:g}° to the {value}, as far as it is looked at, methods have "
            "what their authors gave for it",
            slope=abs(slope),
            value=say("right") if slope > 0 else say("left"),
        )
    if bench.settings.base_tilt:
        said += say("; the underside is taken as level")
    return said


def davis(c: float, phi: float, psi: float) -> tuple[float, float]:
    """(c, phi) of associated flow that stands for a smaller angle of dilatancy psi, degrees: both c and tan(phi) times
    cos(psi) cos(phi)/(1 - sin(psi) sin(phi)) (Davis 1968).

    Raises:
        ValueError: when psi is negative or greater than phi.
    """
    if not 0 <= psi <= phi:
        raise ValueError(say("ψ must lie between 0 and φ, here {phi:g}°", phi=phi))
    f, s = np.deg2rad(phi), np.deg2rad(psi)
    share = float(np.cos(s) * np.cos(f) / (1 - np.sin(s) * np.sin(f)))
    return share * c, float(np.rad2deg(np.arctan(share * np.tan(f))))


def _layers(
    bench: Bench,
    base: Footing,
    drainage: str,
    water: Array,
    B: float,
    factors: tuple[float, ...],
    psi: float | None,
    worst: int,
) -> tuple[tuple[Layer, ...] | str, tuple[Soil, ...], tuple[str, ...], float | None]:
    """(the strata below the base with their effective weights, cut at the water level; or why not, those that answer
    undrained)."""
    strata = strata_below(bench, base, drainage, factors)
    level = float(bench.geometry.underside[0, 0])
    found: list[Layer] = []
    soils: list[Soil] = []
    undrained: dict[str, None] = {}
    firm: float | None = None

    def at(value: Array) -> float:
        """In the situation that is looked at: strengths of the stratum below the base come with their factors by
        situation."""
        flat = np.ravel(value)
        return float(flat[worst if len(flat) > worst and len(flat) > 1 else 0])

    for stratum in strata:
        top, thick = float(stratum.top[0, 0]), float(stratum.thick[0, 0])
        if thick <= 0 or level - top > DEEPEST * B:
            continue
        if bool(stratum.bears_all[0, 0]):
            firm = level - top  # rock without strengths: the section ends on it
            break
        if not bool(stratum.known[0, 0]):
            return say("{soil} lacks the strengths that it would answer by", soil=stratum.soil.name), (), (), None
        bottom = top - thick
        cuts = [top, *([float(water[0])] if bottom < float(water[0]) < top else []), bottom]
        for high, low in itertools.pairwise(cuts):
            stresses = [float(stress_at(bench, np.array([[z]]), water, "effective")[0, 0]) for z in (high, low)]
            gamma = max((stresses[1] - stresses[0]) / (high - low), 0.0)
            soils.append(stratum.soil)
            below = (level - high, level - low)
            if bool(stratum.undrained[0, 0]):
                undrained[stratum.soil.name] = None
                growth = at(stratum.gradient)
                cu = at(stratum.strength) + growth * (top - high)
                found.append(Layer(*below, cu, 0.0, gamma, growth))
            else:
                phi, c = float(np.rad2deg(np.arctan(at(stratum.tan_phi)))), at(stratum.cohesion)
                if psi is not None and phi > 0:
                    c, phi = davis(c, phi, min(psi, phi))
                found.append(Layer(*below, c, phi, gamma))
    if not found:
        return say("nothing is known of the ground below the base"), (), (), None
    # the last stratum goes on as deep as the mechanism reaches
    return (
        (*found[:-1], replace(found[-1], bottom=max(found[-1].bottom, 60.0 * B))),
        tuple(soils),
        tuple(undrained),
        firm,
    )


def _as_strips(section: Section, drainage: str, overburden: float, force: tuple[float, float, float], taken: Taken):  # type: ignore[no-untyped-def]
    """Every method for the same strip: no end, no tilt, no depth that would strengthen it; eccentric and inclined as it
    acts."""

    def one(value: float) -> Array:
        return np.array([[float(value)]])

    V, H, e = force
    B, first, slope = section.B, section.layers[0], np.deg2rad(abs(section.slope))
    acts = taken.load != "central"
    for name, method in METHODS.items():
        N = V
        for _ in range(60 if taken.load == "V" else 1):
            own = e if taken.load == "all" else V * e / N if acts else 0.0
            narrow = B - 2 * abs(own)
            if narrow <= 1e-6:
                N = 0.0
                break
            strip = Footing(
                N=one(N * LENGTH * B),
                H_B=one(abs(H) * LENGTH * B if acts else 0.0),
                H_L=one(0.0),
                B=one(narrow),
                L=one(LENGTH * B),
                depth=one(0.0),
                cohesion=one(first.c),
                phi=one(np.deg2rad(first.phi)),
                overburden=one(overburden),
                weight=one(first.gamma),
                slope=float(slope),
            )
            way = method.drained if drainage == "drained" and first.phi > 0 else method.undrained
            pressure = float(np.ravel(way(strip, SILENT).pressure)[0])
            before, N = N, max(pressure * narrow, 1e-9)
            if abs(N - before) < 1e-6 * N:
                break
        yield name, N / B


def exact_of(strip: AsStrip) -> float | None:
    """The exact pressure where the ground is uniform and the slip lines can be found, kPa; water as the bounds have
    it."""
    if not strip.uniform:
        return None
    first, section = strip.section.layers[0], strip.section
    try:
        under = section.underside
        roughness = 1.0 if under.rough else 0.0 if not under.delta and not under.adhesion else None
        if roughness is None:
            share = np.tan(np.deg2rad(under.delta or 0.0)) / max(float(np.tan(np.deg2rad(first.phi))), 1e-12)
            other = (under.adhesion or 0.0) / first.c if first.c else share
            if not (abs(share - other) < 1e-9 and share <= 1.0) and first.phi > 0:
                return None
            roughness = min(float(share if first.phi > 0 else other), 1.0)
        return exact(Strip(section.B, first.c, first.phi, first.gamma, section.q, roughness)).pressure + strip.water
    except ValueError:
        return None


def _with_strata(
    bench: Bench,
    base: Footing,
    drainage: str,
    first: Layer,
    B: float,
    water: Array,
    of: Callable[[Array | float], float],
    factors: Factors,
) -> list[tuple[str, float]]:
    """What the strata further down make of the adopted method, as a strip without depth: the mechanism that governs."""

    def one(value: float) -> Array:
        return np.array([[float(value)]])

    method = METHODS[bench.settings.bearing_method]
    strip = Footing(
        N=one(of(base.N)),
        H_B=one(0.0),
        H_L=one(0.0),
        B=one(B),
        L=one(LENGTH * B),
        depth=one(0.0),
        cohesion=one(first.c),
        phi=one(np.deg2rad(first.phi)),
        overburden=one(of(base.overburden)),
        weight=one(of(base.weight)),
        slope=base.slope,
    )
    own = method.drained(strip, SILENT) if drainage == "drained" else method.undrained(strip, SILENT)
    found = layered(bench, strip, own, drainage, method, factors, water, SILENT, "q_ult")
    if found is None or not any(found.below):
        return []
    return [(f"{method.NAME}, {MECHANISMS[int(found.mechanism[0, 0])]}", float(found.pressure[0, 0]))]


def by_method(method: Method, section: Section, loads: Sequence[Load], drainage: str) -> list[Vector]:
    """What a classical method carries along each ray: V on the effective width at the inclination there, its strip
    factors, the ground of the first stratum alone."""
    first, B = section.layers[0], section.B
    held = np.array([load.held for load in loads]).T
    growing = np.array([load.growing for load in loads]).T
    low, high = np.zeros(len(loads)), np.full(len(loads), 1.0)

    def carries(factor: Array) -> Array:
        V, H, M = held + factor * growing
        narrow = B - 2 * np.abs(M) / np.maximum(V, 1e-9)
        there = (V > 0) & (narrow > 1e-6 * B)
        width = np.where(there, narrow, B)

        def of(value: Array | float) -> Array:
            return np.broadcast_to(np.asarray(value, dtype=float), V.shape)[None, :]

        strip = Footing(
            N=of(V * LENGTH),
            H_B=of(np.abs(H) * LENGTH),
            H_L=of(0.0),
            B=of(width),
            L=of(LENGTH),
            depth=of(0.0),
            cohesion=of(first.c),
            phi=of(np.deg2rad(first.phi)),
            overburden=of(section.q),
            weight=of(first.gamma),
            slope=float(np.deg2rad(abs(section.slope))),
        )
        way = method.drained if drainage == "drained" and first.phi > 0 else method.undrained
        found = way(strip, SILENT)
        own = np.where(np.ravel(found.slides), 0.0, np.ravel(found.pressure))
        slides = np.abs(H) > (
            first.c * narrow if first.phi == 0 else V * np.tan(np.deg2rad(first.phi)) + first.c * narrow
        )
        good: Array = there & ~slides & (own * width >= V)
        return good

    tiny = 1e-6 * high
    for _ in range(60):  # as far as it takes, for all rays at once
        on = carries(high)
        if not on.any():
            break
        low, high = np.where(on, high, low), np.where(on, 2 * high, high)
    for _ in range(50):
        middle = (low + high) / 2
        on = carries(np.maximum(middle, tiny))
        low, high = np.where(on, middle, low), np.where(on, high, middle)
    return [carried(load, float(f)) for load, f in zip(loads, low)]
