"""Safety against bearing failure with a global factor, by the chosen method, and all methods side by side."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bearing.checks import layers_left_out
from korbent.core.bearing.effective import as_seen, on_effective_area
from korbent.core.bearing.layers.adopted import (
    ALONE,
    FILM,
    MECHANISMS,
    PARABOLA,
    SQUEEZING,
    WEAK,
    Factors,
    Layered,
    layered,
    place_of,
)
from korbent.core.bearing.layers.strata import weight_below
from korbent.core.bearing.methods import METHODS, Footing, Method, Ultimate
from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.contact.plane import Contact
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.settings import Settings
from korbent.core.working import SILENT, Array, Recorder, Recording
from korbent.words import say

CHECK = {"drained": "safety-drained", "undrained": "safety-undrained"}
NEEDED = {"drained": ("friction_angle", "cohesion"), "undrained": ("undrained_strength",)}


def safety_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Ultimate resistance over the pressure on the effective area, from unfactored combinations."""
    if bench.settings.factor_bearing is None:
        return [does_not_apply(c, say("no safety factor against bearing failure is set")) for c in CHECK.values()]
    situations = bench.situations("allowable")
    if not len(situations):
        return [cannot(c, bench.no_combination("allowable")) for c in CHECK.values()]
    bench = bench.on_ground()
    forces = bench.forces(situations, record)
    return [_safety(bench, situations, forces, drainage, record.scope(drainage)) for drainage in CHECK]


def _safety(bench: Bench, situations: Situations, forces: BaseForces, drainage: str, record: Recorder) -> Outcome:
    check = CHECK[drainage]
    idle, why = bench.idle(drainage), bench.why_not(*NEEDED[drainage])
    if all(idle):
        return does_not_apply(check, idle)
    if all(why):
        return cannot(check, why)
    settings = bench.settings
    assert settings.factor_bearing is not None
    method = METHODS[settings.bearing_method]
    base, contact = base_on(bench, situations, forces, drainage, record)
    found = _computed(method, base, drainage, record)
    with_all = layered(bench, base, found, drainage, method, Factors(), bench.water(situations), record, "q_ult")
    block = drainage
    if with_all is not None:
        found = Ultimate(with_all.pressure, with_all.slides)
        if any(with_all.below):
            record, block = record.scope("layers"), say("{drainage} layers", drainage=label(drainage))
            # the calculation of the strata below named its own forces and sizes: those of the base again
            record.given("N", base.N, "kN", note=say("vertical force on the underside"))
            record.step("B_eff", "B_1", base.B, "m")
            record.step("L_eff", "L_1", base.L, "m")
    ratio, demand, usable = _against(base, contact, found, settings, record)
    inclined = np.broadcast_to((0.02 * np.abs(base.N) < base.H).any(axis=-1), bench.index.shape)
    left_out = layers_left_out(bench, with_all) or ("",) * len(bench.index)
    warnings = tuple(
        "; ".join(p for p in (_without(method, settings, bool(leans)), text) if p)
        for leans, text in zip(inclined, left_out)
    )

    def note(candidate: int, column: int) -> str:
        reason = with_all.reason(candidate, column) if with_all else ""
        name = say("{name}, net", name=method.NAME) if settings.safety_basis == "net" else method.NAME
        return f"{name}; {reason}" if reason else name

    return Outcome(
        CHECKS[check],
        demand,
        np.where(usable, found.pressure - (base.overburden if settings.safety_basis == "net" else 0.0), 0.0),
        ratio,
        situations,
        ~usable,
        blocks=(block,),
        why_not=why,
        not_applicable=idle,
        required_factor=settings.factor_bearing,
        note=note,
        warnings=warnings,
        place=place_of(with_all.mechanism, with_all.reached) if with_all else None,
        because=say("the resultant lies outside the base, or the horizontal force is too great for the ground"),
    )


def _without(method: Method, settings: Settings, leans: bool) -> str:
    """What acts and has no factor in a method."""
    left = [
        words
        for name, words, acts in (
            ("inclination", say("the inclination of the load"), leans),
            ("tilt", say("a tilted underside"), settings.base_tilt > 0),
            ("slope", say("sloping ground"), settings.ground_slope > 0),
        )
        if acts and name not in method.TAKES
    ]
    return (
        say("{name} has no factor for {left}: it is left out", name=method.NAME, left=" and ".join(left))
        if left
        else ""
    )


def _computed(method: Method, base: Footing, drainage: str, record: Recorder) -> Ultimate:
    return method.drained(base, record) if drainage == "drained" else method.undrained(base, record)


def _against(
    base: Footing, contact: Contact, found: Ultimate, settings: Settings, record: Recorder
) -> tuple[Array, Array, Array]:
    """(ratio, demand, usable): the pressure on the effective area, times the factor, over the ultimate resistance;
    gross, or both less the overburden."""
    factor = settings.factor_bearing
    assert factor is not None
    net = settings.safety_basis == "net"
    off = base.overburden if net else np.zeros_like(base.overburden)
    usable = contact.stable & ~found.slides & (found.pressure - off > 0.0)
    pressure = base.N / np.maximum(base.B * base.L, 1e-9)
    demand = np.where(contact.stable, pressure - off, 0.0)
    record.step("p_0", "N/max(B_eff*L_eff, 1e-9)", pressure, "kPa", note=say("pressure on the effective area"))
    record.given("FS_req", factor, note=say("required safety factor"))
    safe = np.where(usable, found.pressure - off, 1.0)
    ratio = np.where(usable, np.maximum(factor * demand / safe, 0.0), 0.0)
    if net:
        record.given("sigma_n", off, "kPa", note=say("overburden, deducted on both sides: net"))
    less = " - sigma_n" if net else ""
    record.step(
        "ratio",
        f"max(FS_req*(p_0{less})/max(q_ult{less}, 1e-9), 0)" if net else "FS_req*p_0/max(q_ult, 1e-9)",
        np.maximum(factor * (pressure - off) / np.maximum(found.pressure - off, 1e-9), 0.0),
    )
    return ratio, demand, usable


def base_on(
    bench: Bench, situations: Situations, forces: BaseForces, drainage: str, record: Recorder = SILENT
) -> tuple[Footing, Contact]:
    """The base as the methods see it, unfactored: effective sizes, forces along them, stresses beside and weight
    below."""
    assert bench.profile is not None
    g = bench.geometry
    vertical = forces.N if drainage == "drained" else forces.V
    contact = g.footprint.contact(vertical, forces.Mx, forces.My)
    on_area = on_effective_area(bench, contact, forces)
    vertical = on_area.forces.N if drainage == "drained" else on_area.forces.V
    water = bench.water(situations)
    if drainage == "drained":
        phi = np.deg2rad(np.where(bench.soil("friction_angle") > 0, bench.soil("friction_angle"), 30.0))
        cohesion, overburden = bench.soil("cohesion"), bench.overburden("effective", water, SILENT)
    else:
        phi = np.zeros_like(g.B)
        cohesion, overburden = bench.undrained_strength_typed(), bench.overburden("total", water, SILENT)
    kind = "effective" if drainage == "drained" else "total"
    weight = weight_below(bench, g.underside, np.minimum(on_area.x, on_area.y), water, kind)
    base = as_seen(bench, on_area, vertical, cohesion, phi, overburden, weight)
    return replace(base, slope=float(np.deg2rad(bench.settings.ground_slope))), contact


@dataclass(frozen=True)
class Compared:
    """One method in the worst situation of a comparison. Pressures in kPa; without an ultimate one, ``why`` says
    why."""

    method: str
    ultimate: float | None
    factor: float | None
    """Ultimate resistance over the pressure on the effective area."""
    remark: str
    recording: Recording
    layered: bool = False
    """A mechanism of the adopted method with the strata further down."""
    adopted: bool = False


@dataclass(frozen=True)
class Comparison:
    """All methods for one base in one situation; ``why`` where there is nothing to compare."""

    drainage: str
    combination: str = ""
    pressure: float = 0.0
    methods: tuple[Compared, ...] = ()
    why: str = ""


def compare(project: Project, pad: Pad, drainage: str) -> Comparison:
    """All methods side by side in the unfactored situation that presses hardest on the effective area."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    situations = bench.situations("allowable")
    why = bench.idle(drainage)[0] or bench.why_not(*NEEDED[drainage])[0]
    if not len(situations):
        why = why or bench.no_combination("allowable")
    if why:
        return Comparison(drainage, why=why)
    forces = bench.forces(situations, SILENT)
    base, contact = base_on(bench, situations, forces, drainage)
    shape = np.broadcast(base.N, base.B).shape
    pressure = np.where(contact.stable, base.N / np.maximum(base.B * base.L, 1e-9), -np.inf)
    if not np.isfinite(pressure).any():
        return Comparison(drainage, why=say("the resultant lies outside the base in every situation"))
    worst = int(np.argmax(np.broadcast_to(pressure, shape)[0]))
    arrays = {
        n: np.broadcast_to(np.asarray(v, dtype=float), shape)[:1, worst : worst + 1]
        for n, v in vars(base).items()
        if n != "arctan"
    }
    one = Footing(**arrays, arctan=base.arctan)
    found = []
    for name, method in METHODS.items():
        recording = Recording()
        result = _computed(method, one, drainage, recording)
        ultimate = float(result.pressure[0, 0])
        bad = bool(result.slides[0, 0]) or ultimate <= 0
        left_out = "inclination" not in method.TAKES and float(one.H[0, 0]) > 0.02 * float(one.N[0, 0])
        remark = say("the horizontal force is too great") if bad else say("inclination left out") if left_out else ""
        found.append(
            Compared(
                name,
                None if bad else ultimate,
                None if bad else ultimate / float(pressure[0, worst]),
                remark,
                recording,
            )
        )
    found += _mechanisms(bench, one, drainage, bench.water(situations)[worst : worst + 1], float(pressure[0, worst]))
    return Comparison(drainage, situations.label(worst), float(pressure[0, worst]), tuple(found))


def _mechanisms(bench: Bench, base: Footing, drainage: str, water: Array, pressure: float) -> list[Compared]:
    """What the strata further down make of the adopted method: every mechanism, possible or not, with the reason."""
    method = METHODS[bench.settings.bearing_method]
    recording = Recording()
    own = _computed(method, base, drainage, recording)
    with_all = layered(bench, base, own, drainage, method, Factors(), water, recording, "q_ult")
    if with_all is None or not any(with_all.below):
        return []
    governing = int(with_all.mechanism[0, 0])
    rows = []
    for code, values in with_all.values.items():
        value = with_all.at(values, 0, 0)
        possible = bool(np.isfinite(value)) or code == governing
        if code in (ALONE, FILM, PARABOLA) and code != governing:
            continue
        value = float(with_all.pressure[0, 0]) if code == governing else value
        rows.append(
            Compared(
                MECHANISMS[code],
                value if possible else None,
                value / pressure if possible else None,
                with_all.why(code, 0, 0)
                if code == governing
                else ""
                if possible
                else _not_possible(with_all, code, drainage),
                recording,
                layered=True,
                adopted=code == governing,
            )
        )
    return rows


def _not_possible(with_all: Layered, code: int, drainage: str) -> str:
    """Why a mechanism is left out."""
    if code == SQUEEZING:
        if drainage == "drained":
            return say("only of an undrained clay")
        return say("not chosen in the settings, or the clay is thick")
    return say("weak over strong only") if code == WEAK else say("nothing further down is known")
