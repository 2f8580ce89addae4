"""One base by other methods: settlement side by side, the load-settlement curve, and the ground as springs."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bearing.methods import METHODS
from korbent.core.bearing.safety import base_on
from korbent.core.bench import Bench, bench_for
from korbent.core.evaluate import evaluate_pad
from korbent.core.geometry import table
from korbent.core.ground.profile import effective_stress, total_stress
from korbent.core.model.foundations import Pad
from korbent.core.model.ground import Borehole, Soil
from korbent.core.model.project import Project
from korbent.core.settlement.beside import besides
from korbent.core.settlement.final import Settlement, final_settlement
from korbent.core.settlement.formulas import burland_burbidge, oedometer_strain
from korbent.core.settlement.laws import compression_ratio, lacking_for, recompression_ratio
from korbent.core.settlement.stress.rectangle import spread_stress
from korbent.core.units import SUBGRADE
from korbent.core.working import SILENT, Array
from korbent.words import say

QUESTION = "settlement_long"


@dataclass(frozen=True)
class Row:
    """One method: its settlement in m, or why there is none."""

    name: str
    settlement: float | None
    remark: str = ""
    adopted: bool = False


@dataclass(frozen=True)
class Alone:
    """A base in its greatest sustained situation, for methods that look at one base. Pressures in kPa, lengths in m."""

    bench: Bench
    situation: int
    gross: float
    net: float
    B: float
    L: float
    founding: float
    water: Array
    vertical: float


def alone(project: Project, pad: Pad) -> Alone | str:
    """What the methods start from, or why there is nothing to compare."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    situations = bench.situations(QUESTION)
    if not len(situations):
        return bench.no_combination(QUESTION)
    why = bench.why_not()[0]
    if why or bench.profile is None:
        return why
    g = bench.geometry
    forces = bench.forces(situations, SILENT)
    surface = bench.profile.existing_at(g.underside)
    water = np.minimum(situations.water_level, surface)
    before = total_stress(bench.profile, bench.ground.backfill, surface, g.underside, water)
    q = forces.V / g.area
    net = np.broadcast_to(q - before, forces.V.shape)
    i = int(net[0].argmax())
    B, L = g.footprint.equal_rectangle
    return Alone(
        bench,
        i,
        float(q[0, i]),
        float(net[0, i]),
        float(B[0, 0]),
        float(L[0, 0]),
        float(g.underside[0, 0]),
        situations.water_level[i : i + 1],
        float(forces.V[0, i]),
    )


def settle(
    one: Alone,
    soils: tuple[Soil, ...] | None = None,
    net: float | None = None,
    place: tuple[float, float] | None = None,
) -> Settlement:
    """Final settlement of the base alone, the strata by other laws where ``soils`` are given; of a flexible one at a
    ``place``."""
    bench = one.bench
    assert bench.profile is not None
    profile = bench.profile if soils is None else replace(bench.profile, soils=soils)
    settings = bench.settings
    q, B, L, founding = (np.array([[v]]) for v in (one.net if net is None else net, one.B, one.L, one.founding))
    deep = np.maximum(bench.finished - founding, 0.0) if settings.settlement_embedment == "Fox 1948" else None
    return final_settlement(profile, bench.ground.backfill, q, B, L, founding, one.water, settings, deep, place)


def flexible(one: Alone) -> tuple[float, float, float]:
    """Settlement (m) of a flexible base: in its middle, the mean over its area (4 x 4 Gauss points of a quarter), at
    its corner."""
    nodes, weights = np.polynomial.legendre.leggauss(4)
    places = [
        (float(x), float(y), float(u * v) / 4)
        for x, u in zip((nodes + 1) / 2, weights)
        for y, v in zip((nodes + 1) / 2, weights)
    ]

    def at(x: float, y: float) -> float:
        return float(settle(one, place=(x, y)).total[0, 0])

    return at(0.0, 0.0), sum(w * at(x, y) for x, y, w in places), at(1.0, 1.0)


GRANULAR = ("sand", "gravel", "made_ground", "silt")


def methods(project: Project, pad: Pad) -> tuple[tuple[Row, ...], str]:
    """Settlement of the base alone by every method for which the strata have what is needed; and why, where nothing can
    be compared."""
    one = alone(project, pad)
    if isinstance(one, str):
        return (), one
    bench = one.bench
    assert bench.profile is not None
    soils, below = (
        bench.profile.soils,
        [i for i in range(len(bench.profile.soils)) if float(np.ravel(bench.profile.bottom)[i]) < one.founding],
    )
    lacking = "; ".join(dict.fromkeys(t for i in below if (t := lacking_for(soils[i]))))
    if lacking:
        return (), lacking
    adopted = float(settle(one).total[0, 0])
    rows = [Row(say("as adopted, all strata"), adopted, adopted=True)]

    together = evaluate_pad(project, pad).check("settlement").demand
    if together is not None and besides(project):
        rows.append(Row(say("with all other loads"), together / 1000, say("the check in the ledger")))
    for name, kind, patterns in (
        (say("E′ and ν where known"), "elastic", None),
        (say("strain influence, granular"), "strain_influence", GRANULAR),
        (say("mv where known"), "mv", None),
        (say("e-log p where known"), "oedometer", None),
    ):
        able = [
            i for i in below if not lacking_for(soils[i], kind) and (patterns is None or soils[i].pattern in patterns)
        ]
        changed = tuple(s.replaced(compression=kind) if i in able else s for i, s in enumerate(soils))
        if not able:
            rows.append(Row(name, None, say("no stratum has what it needs")))
        elif any(a.compression != b.compression for a, b in zip(changed, soils)):
            rows.append(Row(name, float(settle(one, changed).total[0, 0]), say("other strata as adopted")))
    middle, mean, corner = flexible(one)
    rigid = say("; the rigid one is {adopted:.2f} of it", adopted=adopted / middle) if middle > 1e-9 else ""
    rows += [
        Row(say("flexible base, middle"), middle, say("no stiffness of its own") + rigid),
        Row(say("flexible base, mean over its area"), mean),
        Row(say("flexible base, corner"), corner),
    ]
    rows += [_by_penetration(project, pad, one, below), _by_spread(one, below)]
    return tuple(rows), ""


def _by_penetration(project: Project, pad: Pad, one: Alone, below: list[int]) -> Row:
    """Burland and Burbidge 1985 with the mean N of the tests of the founding stratum."""
    name = say("penetration, Burland and Burbidge 1985")
    bench = one.bench
    assert bench.profile is not None
    first = int(bench.founding_stratum()[0])
    soil = bench.profile.soils[first]
    if soil.pattern not in GRANULAR:
        return Row(name, None, say("{soil} is not granular", soil=soil.name))
    blows = [
        test.value
        for hole in project.ground.boreholes
        for test in hole.tests
        if test.kind == "SPT N" and _in_soil(hole, test.depth, soil.name)
    ]
    if not blows:
        return Row(name, None, say("no SPT in {soil}", soil=soil.name))
    bottoms = np.ravel(bench.profile.bottom)
    last = first
    while last + 1 < len(bottoms) and bench.profile.soils[last + 1].pattern in GRANULAR:
        last += 1
    thickness = one.founding - float(bottoms[last])
    level, surface = np.array([[one.founding]]), bench.profile.existing_at(bench.geometry.underside)
    preload = float(effective_stress(bench.profile, bench.ground.backfill, surface, level, one.water)[0, 0])
    effective = one.gross - 9.81 * max(float(one.water[0]) - one.founding, 0.0)
    N = float(np.mean(blows))
    mm = burland_burbidge(
        min(one.B, one.L),
        max(one.B, one.L),
        N,
        effective,
        preload,
        thickness,
        bench.settings.settlement_years,
    )
    return Row(name, mm / 1000, say("N {N:.0f}, {thickness:.1f} m of it", N=N, thickness=thickness))


def _in_soil(hole: Borehole, depth: float, name: str) -> bool:
    level = 0.0
    for stratum in hole.strata:
        if level <= depth < level + stratum.thickness:
            return bool(stratum.soil == name)
        level += stratum.thickness
    return False


SPREAD_SLICES = 24


def _by_spread(one: Alone, below: list[int]) -> Row:
    """Every stratum compressed in one dimension under the load spread 2 down to 1."""
    bench = one.bench
    profile = bench.profile
    assert profile is not None
    total = 0.0
    tops, bottoms = np.ravel(profile.top), np.ravel(profile.bottom)
    surface = float(np.ravel(profile.existing)[0])
    for i in below:
        soil = profile.soils[i]
        edges = np.linspace(min(float(tops[i]), one.founding), float(bottoms[i]), SPREAD_SLICES + 1)
        middle, h = (edges[1:] + edges[:-1]) / 2, -np.diff(edges)
        added = one.net * spread_stress(np.array(one.B), np.array(one.L), one.founding - middle)
        before = effective_stress(
            profile, bench.ground.backfill, np.array(surface), middle[None], one.water[0] * np.ones((1, 1))
        )[0]
        added = np.where(added > bench.settings.settlement_influence * before, added, 0.0)
        if soil.compression == "oedometer":
            first, again = compression_ratio(soil) or 0.0, recompression_ratio(soil) or 0.0
            past = np.maximum(
                before * soil.overconsolidation_ratio + (soil.preconsolidation_margin or 0.0),
                soil.preconsolidation or 0.0,
            )
            strain = oedometer_strain(before, added, past, *(np.array(v) for v in (first, again, 0.0)))
        elif soil.compression == "mv":
            strain = added * (soil.compressibility or 0.0) / 1000
        elif soil.modulus:
            strain = added / soil.modulus
        else:
            strain = np.zeros_like(added)
        total += float((strain * h).sum())
    return Row(say("spread 2 : 1, one-dimensional"), total, say("no creep"))


@dataclass(frozen=True)
class Curve:
    """Settlement (m) of centre, rigid base and edge over the gross pressure (kPa), up to the ultimate pressure."""

    pressure: Array
    rigid: Array
    centre: Array
    edge: Array
    ultimate: float
    working: float
    why: str = ""


def curve(project: Project, pad: Pad, points: int = 60) -> Curve:
    """The load-settlement curve with a stiffness that falls with the load: E/E0 = 1 - f (p/p_ult)^g (Fahey and Carter
    1993).

    Scaled so that under the sustained load the settlement is the one that the strata give; it ends at the ultimate
    pressure by the method of the settings.
    """
    one = alone(project, pad)
    none = np.zeros(0)
    if isinstance(one, str):
        return Curve(none, none, none, none, 0.0, 0.0, one)
    bench = one.bench
    situations = bench.situations(QUESTION)
    forces = bench.forces(situations, SILENT)
    drainage = "undrained" if bench.idle("drained")[0] else "drained"
    needed = ("undrained_strength",) if drainage == "undrained" else ("friction_angle", "cohesion")
    why = bench.why_not(*needed)[0]
    if why:
        return Curve(none, none, none, none, 0.0, 0.0, why)
    base, _ = base_on(bench, situations, forces, drainage)
    found = getattr(METHODS[bench.settings.bearing_method], drainage)(base, SILENT)
    ultimate = float(np.broadcast_to(found.pressure, forces.V.shape)[0, one.situation])
    settings = bench.settings
    working = settle(one)
    if ultimate <= one.gross:
        return Curve(
            none,
            none,
            none,
            none,
            ultimate,
            one.gross,
            say(
                "the sustained pressure {gross:.0f} kPa is beyond the ultimate one, {ultimate:.0f} kPa",
                gross=one.gross,
                ultimate=ultimate,
            ),
        )
    f, g = settings.stiffness_f, settings.stiffness_g
    shares = np.linspace(0.0, 0.995, points)
    pressure = shares * ultimate
    softened = 1 - f * shares**g
    at_work = 1 - f * (one.gross / ultimate) ** g
    rigid = float(working.total[0, 0]) * pressure / one.gross * at_work / np.maximum(softened, 1e-9)
    from korbent.core.settlement.stress.below import CHARACTERISTIC, displacement_below

    deep = np.array(20.0 * max(one.B, one.L))
    nu = np.array(0.3)
    B, L = np.array(one.B), np.array(one.L)
    point = float(displacement_below(B, L, deep, nu, CHARACTERISTIC))
    centre = float(displacement_below(B, L, deep, nu, 0.0)) / point
    corner = float(displacement_below(B, L, deep, nu, 1.0)) / point
    return Curve(pressure, rigid, centre * rigid, corner * rigid, ultimate, one.gross)


@dataclass(frozen=True)
class Spring:
    """One stiffness: its name, value and unit, where it comes from, and whether it lies far from what the ground
    implies."""

    name: str
    value: float
    unit: str
    source: str
    far: bool = False


FAR = 2.0
"""A spring stiffness that differs by more than this factor from what the ground implies is marked."""


def springs(project: Project, pad: Pad) -> tuple[tuple[Spring, ...], str]:
    """The stiffness that the strata imply at the sustained load, and the usual rules beside it; and why, where there is
    none."""
    one = alone(project, pad)
    if isinstance(one, str):
        return (), one
    found = settle(one)
    s = float(found.total[0, 0])
    if s <= 0:
        return (), say("the base does not settle under the sustained load")
    bench = one.bench
    modulus = one.gross / s
    R_a = np.sqrt(one.B * one.L / np.pi)
    rows = [
        Spring(
            say("vertical, per area"), modulus, SUBGRADE, say("gross pressure over the settlement of the base alone")
        ),
        Spring(say("vertical"), one.vertical / s, "kN/m", say("sustained load over settlement")),
    ]
    for axis, inertia in zip("xy", bench.geometry.footprint.inertia):
        R = float(4 * inertia[0, 0] / np.pi) ** 0.25
        rows.append(
            Spring(
                say("rocking along {axis}", axis=axis),
                one.vertical / s * R**3 / (1.5 * R_a),
                "kNm/rad",
                say("the same strata, rigid circle of equal second moment (Borowicka 1943)"),
            )
        )
    assert bench.profile is not None
    soil = bench.profile.soils[int(bench.founding_stratum()[0])]
    B = min(one.B, one.L)

    def beside(name: str, value: float, source: str) -> None:
        rows.append(Spring(name, value, SUBGRADE, source, not 1 / FAR <= value / modulus <= FAR))

    if soil.modulus:
        beside(
            "k = E/(B (1 − ν²))", soil.modulus / (B * (1 - soil.poisson**2)), say("E′ of {soil} alone", soil=soil.name)
        )
    limit = curve(project, pad, 2)
    if not limit.why or limit.ultimate:
        beside(say("40 q ult"), 40.0 * limit.ultimate, say("Bowles 1996: at 25 mm, with the ultimate pressure"))
    if bench.settings.spring_modulus:
        beside("typed", bench.settings.spring_modulus, "settings")
    return tuple(rows), ""
