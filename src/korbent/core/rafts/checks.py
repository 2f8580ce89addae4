"""The checks of rafts: pressure and slopes of the plate, its bars by face and direction, punching of every column, one-way shear, cracks."""

from dataclasses import dataclass, replace
from itertools import combinations, pairwise

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, LIMIT, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.detailing import cover_check, detailing, side_bars_check
from korbent.core.concrete.flexure import required_steel, without_bars
from korbent.core.concrete.pad import ConcretePad, concrete_pad, effective_depths, too_thin, under_concrete
from korbent.core.concrete.several import Column, alone, interfaces_of, punching_of_each, record_column
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.contact.plane import Contact
from korbent.core.footprint import Rectangle
from korbent.core.geometry import BarArrays
from korbent.core.model.foundations import Face
from korbent.core.model.project import Project
from korbent.core.plates.element import POINTS, shape
from korbent.core.plates.recover import Fields, design_moments, over_band
from korbent.core.rafts.rib_checks import rib_checks, rib_cracks
from korbent.core.rafts.ribs import on_ribs, places_on
from korbent.core.rafts.solved import SolvedRaft, box_of, solved_raft
from korbent.core.settlement.limits import limits_of
from korbent.core.working import SILENT, Array, Recorder

OF_BARS = ("bottom-x", "bottom-y", "top-x", "top-y")
OF_CONCRETE = (
    *OF_BARS,
    "punching",
    "shear-x",
    "shear-y",
    "minimum-x",
    "minimum-y",
    "spacing-x",
    "spacing-y",
    "cover",
)
BAND = 2.0
"""Moments are designed from as means over a band of so many thicknesses across the bars: what a peak is more the bars beside carry."""
LONG = 4.0
"""What is longer than so many times its thickness is a wall: it does not punch as a column does."""
NEEDS = "k_s h E_c nu"


def raft_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """All checks of a raft that come from its plate; none for candidate sizes, whose plates are not solved."""
    if len(bench.index) > 1 or not _is_as_modelled(bench):
        return []
    return [
        *_pressure(bench, project, record.scope("raft pressure")),
        *_slopes(bench, project, record.scope("raft slope")),
        *_concrete(bench, project, record),
    ]


def _is_as_modelled(bench: Bench) -> bool:
    pad, g = bench.pads[0], bench.geometry
    sizes = ((g.B, pad.width), (g.L, pad.length), (g.h, pad.thickness), (g.underside, pad.underside))
    return all(abs(float(now[0, 0]) - own) < 1e-9 for now, own in sizes)


# ---------------------------------------------------------------- ground


def _pressure(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """The greatest pressure of the plate against the presumed one: where the raft bends it is more than that of a rigid base."""
    presumed = bench.settings.presumed_pressure
    if presumed is None:
        return [does_not_apply("raft-pressure", "no presumed pressure is set")]
    solved = solved_raft(bench, project, "allowable")
    if isinstance(solved, str):
        return [_unsolved("raft-pressure", solved)]
    _record_plate(solved, record)
    water = (bench.forces(solved.situations, SILENT).U / bench.geometry.area)[0]
    plate = bench.pads[0].plate
    on_strata = plate is not None and plate.ground == "layers"
    # at the edge of a stiff plate on a half-space the pressure has no limit but that of the mesh
    pressure = around_each(solved, 2 * bench.pads[0].thickness) if on_strata else solved.pressure
    found = np.where(np.isnan(pressure), -np.inf, pressure + water)
    node = found.argmax(axis=0)
    demand = found.max(axis=0)[None]
    x, y = (v[node][None] for v in solved.mesh.nodes)
    record("x_n", "", x, "m", "", "where, from the middle", NEEDS)
    record("y_n", "", y, "m", "", "", NEEDS)
    record(
        "p_dem",
        "",
        demand,
        "kPa",
        "",
        "greatest pressure below the plate, with that of the water"
        + (", mean over a square of twice the thickness" if on_strata else ""),
        "k_s x_n y_n",
    )
    record("q_pres", "", presumed, "kPa", "setting", "presumed pressure")
    record("ratio", "p_dem/q_pres", demand / presumed)
    return [
        Outcome(
            CHECKS["raft-pressure"], demand, np.full_like(demand, presumed), demand / presumed, solved.situations, blocks=("raft pressure",),
            note=lambda i, j: f"at {x[0, j]:+.2f}, {y[0, j]:+.2f} m from the middle{_lifted(solved, j)}",
        )
    ]  # fmt: skip


def around_each(solved: SolvedRaft, side: float) -> Array:
    """Mean pressure over the part of a square about each node that lies on the raft, kPa, (nodes, situations)."""
    mesh = solved.mesh
    x, y = mesh.nodes
    mid_x, mid_y = mesh.middles
    size_x, size_y = mesh.sizes
    force = np.einsum("eps,ep->es", solved.solution.pressure, solved.plate.points)
    pressure = force / solved.plate.points.sum(axis=1)[:, None]

    def overlap(at: Array, middle: Array, size: Array) -> Array:
        low, high = at[:, None] - side / 2, at[:, None] + side / 2
        return np.asarray(np.minimum(high, middle + size / 2) - np.maximum(low, middle - size / 2)).clip(0.0)

    area = overlap(x, mid_x, size_x) * overlap(y, mid_y, size_y)
    total = area.sum(axis=1, keepdims=True)
    found: Array = np.where(mesh.used[:, None], area @ pressure / np.where(total > 0, total, 1.0), np.nan)
    return found


def _lifted(solved: SolvedRaft, situation: int) -> str:
    share = float(solved.solution.yielded[situation])
    yields = f"; the ground yields below {100 * share:.0f} %" if share else ""
    return ("; a part lifts" if solved.solution.lifted[situation] else "") + yields


def _slopes(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """The greatest slope between two columns that stand beside each other, by the settlements of the plate."""
    solved = solved_raft(bench, project, "settlement long")
    if isinstance(solved, str):
        return [_unsolved("raft-slope", solved)]
    columns = solved.columns
    if len(columns) < 2:
        return [does_not_apply("raft-slope", "it carries one column")]
    _record_plate(solved, record)
    at = np.array([_node_at(solved, c) for c in columns])
    w = solved.solution.settlement[at]
    places = np.array([(float(c.x[0, 0]), float(c.y[0, 0])) for c in columns])
    pairs = neighbours_of(places)
    apart = np.array([np.hypot(*(places[i] - places[j])) for i, j in pairs])
    slopes = np.abs(w[[i for i, _ in pairs]] - w[[j for _, j in pairs]]) / apart[:, None]
    worst = slopes.argmax(axis=0)
    limit = limits_of(bench.settings).slope
    first, second = (w[[p[k] for p in pairs]][worst, np.arange(w.shape[1])][None] for k in (0, 1))
    distance = apart[worst][None]
    demand = 1000 * slopes.max(axis=0)[None]
    record("s_1", "", 1000 * first, "mm", "", "settlement of the plate below one column", NEEDS)
    record("s_2", "", 1000 * second, "mm", "", "below the other", NEEDS)
    record("a", "", distance, "m", note="between them")
    record("theta", "abs(s_1 - s_2)/a", demand, "‰")
    record("theta_max", "", 1000 * limit, "‰", note=f"limit, 1/{1 / limit:.0f}")
    record("ratio", "theta/theta_max", demand / (1000 * limit))
    names = [c.name for c in columns]
    return [
        Outcome(
            CHECKS["raft-slope"], demand, np.full_like(demand, 1000 * limit), demand / (1000 * limit), solved.situations, blocks=("raft slope",),
            note=lambda i, j: f"{names[pairs[worst[j]][0]]} to {names[pairs[worst[j]][1]]}, 1/{1000 / max(demand[0, j], 1e-9):.0f}",
        )
    ]  # fmt: skip


def neighbours_of(places: Array) -> list[tuple[int, int]]:
    """Pairs of points beside each other: no third one lies in or on the circle over the two."""
    pairs = []
    for i, j in combinations(range(len(places)), 2):
        middle, radius = (places[i] + places[j]) / 2, np.hypot(*(places[i] - places[j])) / 2
        others = np.delete(np.arange(len(places)), [i, j])
        if not len(others) or (np.hypot(*(places[others] - middle).T) > radius * (1 + 1e-6)).all():
            pairs.append((i, j))
    return pairs or [(0, 1)]


def _node_at(solved: SolvedRaft, column: Column) -> int:
    x, y = solved.mesh.nodes
    far = (x - float(column.x[0, 0])) ** 2 + (y - float(column.y[0, 0])) ** 2
    return int(np.where(solved.mesh.used, far, np.inf).argmin())


def _unsolved(check: str, why: str) -> Outcome:
    """A plate that floats up or tips over is unstable; one that lacks something cannot be looked at."""
    if "floats" not in why:
        return cannot(check, why)
    one = np.ones((1, 1))
    return Outcome(CHECKS[check], one, one, one, unstable=one > 0, because=why)


def _record_plate(solved: SolvedRaft, record: Recorder) -> None:
    plate = solved.plate
    record("k_s", "", solved.k, "kN/m³", "", f"modulus of subgrade reaction: {solved.source}")
    record("h", "", solved.pad.thickness, "m", note="thickness")
    softened = solved.softened[None] if (solved.softened < 1).any() else 1.0
    record("E_c", "", plate.E * softened / 1000, "MPa", note="of the concrete; crept where the load lasts")
    record("nu", "", plate.nu, "", note="Poisson's ratio")
    record(
        "n_u",
        "",
        plate.count,
        "",
        "",
        f"unknowns, in {len(solved.mesh.elements)} elements (DKMQ, Katili 1993)",
    )
    record(
        "r_o", "", solved.solution.residual, "", "", "out of balance over the load, of all situations", "n_u"
    )


# ---------------------------------------------------------------- concrete


def _concrete(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    if bench.standards.concrete not in NAMES:
        return [
            cannot(check, "no concrete standard is chosen: choose one in Plan, under Title")
            for check in OF_CONCRETE
        ]
    if bench.settings.base_concrete == "plain":
        return [
            cannot(check, "a raft of plain concrete is not checked: choose reinforced")
            for check in OF_CONCRETE
        ]
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        return [_unsolved(check, solved) for check in OF_CONCRETE]
    situations = solved.situations
    forces, contact = under_concrete(bench, situations, record)
    pad = concrete_pad(
        bench.geometry, situations, forces, contact, bench.settings, bench.standards.concrete, record, True
    )
    thin = too_thin(pad)
    scope = record.scope("plate")
    _record_plate(solved, scope)
    outcomes = [
        _flexure(bench, pad, solved, face, axis, record, thin) for face in ("bottom", "top") for axis in "xy"
    ]
    columns = [
        c
        for c in solved.columns
        if max(c.size[0].max(), c.size[1].max()) <= LONG * min(c.size[0].min(), c.size[1].min())
        and not on_ribs(solved.pad, c)
    ]
    if columns:
        outcomes += punching_of_each(
            pad, columns, [], record, thin, lambda column: _seen(pad, solved, column)
        )
    elif any(on_ribs(solved.pad, c) for c in solved.columns):
        outcomes.append(does_not_apply("punching", "every column stands on a rib, whose shear carries it"))
    else:
        outcomes.append(does_not_apply("punching", "walls alone stand on it"))
    if columns or any(on_ribs(solved.pad, c) for c in solved.columns):
        for column in solved.columns:
            if not any(column is c for c in columns):  # what it brings was not looked at yet
                record_column(column, record.scope(column.name))
        outcomes += interfaces_of(bench, pad, list(solved.columns), record)
    outcomes += rib_checks(pad, solved, record)
    for axis in "xy":
        outcomes.append(_shear(pad, solved, axis, record.scope(f"shear {axis}"), thin))
        outcomes += detailing(pad, axis, record, thin)
    outcomes += [cover_check(pad, record), side_bars_check(bench, pad, record)]
    outcomes += _cracks(bench, project, record)
    return [replace(o, check=by_clause(o.check, pad.standard.clauses)) for o in outcomes]


@dataclass(frozen=True)
class Demand:
    """What bars of a face and direction are asked for at the nodes of parts of one thickness."""

    fields: Fields
    moment: Array
    """Design moment, the mean over a band, (nodes, situations), kNm/m; nan where nothing is designed."""
    d: float
    provided: Array
    """mm2/m, (nodes,)."""


def demands_of(bench: Bench, solved: SolvedRaft, face: str, axis: str) -> list[Demand]:
    """The design moments of a face and direction, by thickness."""
    g, settings = bench.geometry, bench.settings
    found = []
    steel = provided_at(solved, f"{face}_{axis}")  # type: ignore[arg-type]
    for fields in solved.fields:
        # what the twist is along a free edge its own bars carry
        twist = np.where(solved.on_edges[:, None], 0.0, fields.m_xy)
        with np.errstate(invalid="ignore"):
            four = design_moments(fields.m_x, fields.m_y, twist)
        own = four[OF_BARS.index(f"{face}-{axis}")]
        hidden = solved.in_columns | solved.in_ribs
        own = np.where(hidden[:, None] | np.isnan(fields.m_x), np.nan, own)
        h = np.array([[fields.thickness]])
        depths = effective_depths(
            h,
            settings.concrete_cover,
            settings.outer_bars,
            _basic(g.bars, face, "x"),
            _basic(g.bars, face, "y"),
        )
        d = float(depths[0 if axis == "x" else 1][0, 0])
        found.append(Demand(fields, over_band(solved.mesh, own, axis, BAND * fields.thickness), d, steel))
    return found


def _basic(bars: dict[str, BarArrays], face: str, axis: str) -> BarArrays:
    return bars[f"{face}_{axis}"]


def provided_at(solved: SolvedRaft, face: Face) -> Array:
    """Steel at the nodes, the basic bars and those added there, mm2/m."""
    pad = solved.pad
    x, y = solved.mesh.nodes
    basic = pad.reinforcement.bars(face)
    across = pad.length if face.endswith("x") else pad.width
    found = np.full(len(x), 1e6 * basic.area_in(across) if basic else 0.0)
    for added in pad.plate.added if pad.plate else ():
        if added.face == face:
            low_x, high_x, low_y, high_y = added.box
            inside = (x >= low_x - 1e-9) & (x <= high_x + 1e-9) & (y >= low_y - 1e-9) & (y <= high_y + 1e-9)
            found[inside] += 1e6 * added.bars.area_in(
                (high_y - low_y) if face.endswith("x") else (high_x - low_x)
            )
    return found


def steel_field(bench: Bench, solved: SolvedRaft, face: str, axis: str) -> tuple[Array, Array]:
    """(steel asked for in the worst situation, provided) at the nodes, mm2/m; nan where nothing is designed."""
    pad = concrete_pad(
        bench.geometry,
        solved.situations,
        *under_concrete(bench, solved.situations),
        bench.settings,
        bench.standards.concrete,
        SILENT,
        True,
    )
    asked = np.full(len(solved.mesh.used), np.nan)
    provided = np.zeros(len(asked))
    for one in demands_of(bench, solved, face, axis):
        required = _required(pad, one, SILENT).max(axis=-1)
        asked, provided = np.fmax(asked, required), one.provided
    return asked, provided


def _required(pad: ConcretePad, one: Demand, record: Recorder) -> Array:
    moment = np.where(np.isnan(one.moment), 0.0, one.moment)
    steel, _ = required_steel(
        pad.standard,
        moment,
        np.full((len(moment), 1), one.d),
        pad.settings.concrete_strength,
        pad.fcd,
        pad.fyd,
        record,
    )
    return np.where(np.isnan(one.moment), np.nan, steel)


def _flexure(
    bench: Bench, pad: ConcretePad, solved: SolvedRaft, face: str, axis: str, record: Recorder, thin: tuple[str, ...]
) -> Outcome:  # fmt: skip
    check = f"{face}-{axis}"
    parts = demands_of(bench, solved, face, axis)
    ratios = []
    for one in parts:
        required = _required(pad, one, SILENT)
        bare = (one.provided <= 0.0)[:, None]
        against = required / np.where(bare, 1.0, one.provided[:, None])
        if face == "top" and bare.any():
            # as in a pad, plain concrete carries the tension of a top without bars
            moment = np.where(np.isnan(one.moment), 0.0, one.moment)
            against = np.where(bare, _in_plain(pad, moment, one.fields.thickness, SILENT), against)
        ratios.append(np.where(np.isnan(required), -np.inf, against))
    stack = np.stack(ratios)
    count = stack.shape[-1]
    flat = stack.reshape(-1, count).argmax(axis=0)
    part, node = np.divmod(flat, stack.shape[1])
    columns = np.arange(count)

    def at(values: list[Array]) -> Array:
        return np.array([values[p][n, c] for p, n, c in zip(part, node, columns)])[None]

    x, y = (v[node][None] for v in solved.mesh.nodes)
    scope = record.scope(f"{check} plate")
    _record_plate(solved, scope)
    scope("x_n", "", x, "m", "", "where most is asked for over what there is, from the middle", "n_u")
    scope("y_n", "", y, "m", "", "", "n_u")
    for symbol, name in (("m_x", "m_x"), ("m_y", "m_y"), ("m_xy", "m_xy")):
        scope(
            symbol,
            "",
            at([getattr(p.fields, name) for p in parts]),
            "kNm/m",
            "",
            "of the plate there",
            "n_u x_n y_n",
        )
    moment = at([p.moment for p in parts])
    scope(
        "m_Ed", "", moment, "kNm/m", "Wood 1968, Armer 1968", f"design moment, mean over a band of {BAND:g} h across the bars", "m_x m_y m_xy",
    )  # fmt: skip
    d = np.array([[parts[p].d for p in part]])
    scope("d", "", d, "m", "", "effective depth there", "x_n y_n")
    required, deep = required_steel(
        pad.standard,
        moment,
        d,
        pad.settings.concrete_strength,
        pad.fcd,
        pad.fyd,
        scope,
        pad.standard.clauses[check],
    )
    there = np.array([[parts[p].provided[n] for p, n in zip(part, node)]])
    provided = np.maximum(there, 1.0)
    scope("A_s", "", provided, "mm²/m", "", "basic bars and those added there", "x_n y_n")
    ratio = required / provided
    bare = there <= 0.0
    if face == "top" and bare.any():
        scope("h", "", np.array([[parts[p].fields.thickness for p in part]]), "m", note="thickness there")
        plain = _in_plain(pad, moment, np.array([[parts[p].fields.thickness for p in part]]), scope)
        scope("k_on", "", np.where(bare, 0.0, 1.0), "", note="1 where there are bars")
        ratio = np.where(bare, plain, ratio)
        scope("ratio", "where(k_on > 0.5, A_s_req/A_s, sigma_t/f_Rd)", ratio)
        # what of bars the plain concrete stands for
        provided = np.where(bare, required / np.where(plain > 0, plain, 1.0), provided)
    else:
        scope("ratio", "A_s_req/A_s", ratio)
    none = pad.bars(face, axis).diameter[0, 0] == 0.0

    def note(candidate: int, column: int) -> str:
        more = "; compression zone too deep: thicken the raft" if deep[0, column] > 1 else ""
        if bare[0, column] and face == "top":
            more += f"; {without_bars(face, ratio[0, column])}"
        elif none:
            more += "; there are no basic bars in this face"
        short = required[0, column] - provided[0, column]
        if short > 0 and ratio[0, column] > LIMIT and not none:
            more += f"; {short:.0f} mm²/m short there"
        return f"at {x[0, column]:+.2f}, {y[0, column]:+.2f} m from the middle{more}{_lifted(solved, column)}"

    return Outcome(
        CHECKS[check],
        required,
        provided,
        ratio,
        solved.situations,
        blocks=(f"{check} plate",),
        why_not=thin,
        note=note,
    )


def _in_plain(pad: ConcretePad, moment: Array, h: Array | float, record: Recorder) -> Array:
    """Tension of plain concrete by bending over its strength; as in pads (see korbent.core.concrete.flexure)."""
    deduction = pad.settings.plain_deduction if pad.settings.cast_against == "soil" else 0.0
    depth = pad.standard.plain_depth(np.asarray(h) + np.zeros((1, 1)), deduction, record)
    strength, _ = pad.standard.plain(pad.settings.concrete_strength, pad.special, record)
    stress = 6 * np.maximum(moment, 0.0) / depth**2 / 1000
    record(
        "sigma_t", "6*m_Ed/h_p**2/1000", stress, "MPa", pad.standard.clauses["plain-x"], "no bars: tension by bending in plain concrete",
    )  # fmt: skip
    found: Array = stress / strength
    return found


def _thickness_at(solved: SolvedRaft, column: Column) -> float:
    """Of the raft below a column: the greatest of its elements there."""
    low_x, high_x, low_y, high_y = box_of(column)
    x, y = solved.mesh.middles
    mine = (x > low_x) & (x < high_x) & (y > low_y) & (y < high_y)
    return float(solved.plate.h[mine].max()) if mine.any() else solved.pad.thickness


def _room(solved: SolvedRaft, column: Column) -> tuple[float, float, float, float]:
    """From the faces of a column to the edge of the raft or of an opening that lies beside it, at -x, +x, -y, +y, m."""
    pad = solved.pad
    low_x, high_x, low_y, high_y = box_of(column)
    west, east = low_x + pad.width / 2, pad.width / 2 - high_x
    south, north = low_y + pad.length / 2, pad.length / 2 - high_y
    for hole in pad.plate.openings if pad.plate else ():
        x0, x1, y0, y1 = hole.box
        if y0 < high_y and low_y < y1:
            west = min(west, low_x - x1) if x1 <= low_x else west
            east = min(east, x0 - high_x) if x0 >= high_x else east
        if x0 < high_x and low_x < x1:
            south = min(south, low_y - y1) if y1 <= low_y else south
            north = min(north, y0 - high_y) if y0 >= high_y else north
    return west, east, south, north


def _seen(pad: ConcretePad, solved: SolvedRaft, column: Column) -> ConcretePad:
    """The raft as one of its columns sees it: to edges and openings, its thickness there, the pressure around it as a plane."""
    own = alone(pad, column)
    g, settings = own.geometry, pad.settings
    west, east, south, north = _room(solved, column)
    size_x, size_y = (float(s[0, 0]) for s in column.size)
    B, L = west + size_x + east, south + size_y + north
    off_x, off_y = west + size_x / 2 - B / 2, south + size_y / 2 - L / 2
    h = np.array([[_thickness_at(solved, column)]])
    d_x, d_y = effective_depths(
        h, settings.concrete_cover, settings.outer_bars, g.bars["bottom_x"], g.bars["bottom_y"]
    )
    a, b, c, share = _pressure_around(solved, column, float((d_x + d_y)[0, 0]))
    contact = replace(
        pad.contact, a=a - b * off_x - c * off_y, b=b, c=c, stable=np.ones_like(a, dtype=bool), share=share,
        corners=np.zeros((*a.shape, 4)),
    )  # fmt: skip
    geometry = replace(
        g, footprint=Rectangle(np.array([[B]]), np.array([[L]])), h=h, offset_x=np.array([[off_x]]), offset_y=np.array([[off_y]]),
        underside=g.top - h,
    )  # fmt: skip
    assert isinstance(contact, Contact)
    return replace(own, geometry=geometry, contact=contact, d_x=d_x, d_y=d_y)


def _pressure_around(solved: SolvedRaft, column: Column, reach: float) -> tuple[Array, Array, Array, Array]:
    """(a, b, c, share pressed), (1, situations): the plane about the middle of a column nearest to the pressures within a reach of it."""
    mesh = solved.mesh
    shapes = np.stack([shape(xi, eta)[0] for xi, eta in POINTS])
    x, y = ((v[mesh.elements] @ shapes.T).ravel() for v in mesh.nodes)
    low_x, high_x, low_y, high_y = box_of(column)
    dx, dy = x - (low_x + high_x) / 2, y - (low_y + high_y) / 2
    near = (np.abs(dx) <= (high_x - low_x) / 2 + reach) & (np.abs(dy) <= (high_y - low_y) / 2 + reach)
    p = solved.solution.pressure.reshape(-1, len(solved.situations))[near]
    terms = np.stack([np.ones(int(near.sum())), dx[near], dy[near]], axis=-1)
    weighed = terms * solved.plate.plates.weights().ravel()[near][:, None]
    plane = np.linalg.solve(weighed.T @ terms, weighed.T @ p)
    share = np.where((p <= 0).any(axis=0), 0.99, 1.0)
    return plane[0][None], plane[1][None], plane[2][None], share[None]


def _shear(
    pad: ConcretePad, solved: SolvedRaft, axis: str, record: Recorder, thin: tuple[str, ...]
) -> Outcome:
    """One-way shear beside each column, at the distance of the standard from its faces, as the mean over the strip that belongs to it:
    halfway to the columns beside it, or to the edges."""
    mesh, situations = solved.mesh, solved.situations
    along, across = (0, 1) if axis == "x" else (1, 0)
    lines, others = (mesh.lines_x, mesh.lines_y) if axis == "x" else (mesh.lines_y, mesh.lines_x)
    v = np.full((len(mesh.used), len(situations)), np.nan)
    thickness = np.full(len(mesh.used), np.nan)
    for fields in solved.fields:
        own = fields.v_x if axis == "x" else fields.v_y
        fresh = np.isnan(v) & ~np.isnan(own)
        v = np.where(fresh, own, v)
        thickness = np.where(np.isnan(thickness) & ~np.isnan(own[:, 0]), fields.thickness, thickness)
    grid = v.reshape(len(mesh.lines_x), len(mesh.lines_y), -1)
    deep = thickness.reshape(len(mesh.lines_x), len(mesh.lines_y))
    if axis == "y":
        grid, deep = grid.swapaxes(0, 1), deep.T
    bars = pad.bars("bottom", axis)
    rows: list[tuple[Array, str, float]] = []
    edges = (float(others[0]), float(others[-1]))
    boxes = [box_of(c) for c in solved.columns]
    for column, box in zip(solved.columns, boxes):
        if any(rib.axis == axis for rib in on_ribs(solved.pad, column)):
            continue  # that section lies on the rib
        middle = (box[2 * across] + box[2 * across + 1]) / 2
        low, high = edges
        for other in boxes:
            there = (other[2 * across] + other[2 * across + 1]) / 2
            if there < middle - 0.3:
                low = max(low, (middle + there) / 2)
            elif there > middle + 0.3:
                high = min(high, (middle + there) / 2)
        h = _thickness_at(solved, column)
        d = float(_depth_of(pad, h, axis))
        away = float(pad.standard.shear_section(np.array([[d]]), np.array([[h]]))[0][0, 0])
        for sign, face in ((1, box[2 * along + 1]), (-1, box[2 * along])):
            at = face + sign * away
            if not lines[0] + 1e-6 < at < lines[-1] - 1e-6:
                continue
            force, width = _over_strip(lines, others, grid, at, low, high)
            if width > 1e-6:
                rows.append(
                    (np.abs(force) / width, f"{column.name}, {'+' if sign > 0 else '−'}{axis} side", d)
                )
    rows += _beside_ribs(pad, solved, axis, lines, others, grid)
    if not rows:
        return does_not_apply(f"shear-{axis}", "no section at that distance from a column lies on the raft")
    stack = np.stack([force / (d * 1000) for force, _, d in rows])
    worst = stack.argmax(axis=0)
    demand = stack.max(axis=0)[None]
    d_worst = np.array([[rows[i][2] for i in worst]])
    rho = bars.area / d_worst
    _record_plate(solved, record)
    record("d", "", d_worst, "m", "", "effective depth there", "n_u")
    record(
        "v_s",
        "",
        demand * d_worst * 1000,
        "kN/m",
        "",
        "shear of the plate, mean over the strip of the column",
        "n_u d",
    )
    record("v_Ed", "v_s/d/1000", demand, "MPa", pad.standard.clauses[f"shear-{axis}"])
    record("rho_l", "", rho, "", "", f"basic bars along {axis} below", "d")
    capacity = np.broadcast_to(
        pad.standard.shear_strength(d_worst, pad.settings.concrete_strength, rho, pad.special, record),
        demand.shape,
    )
    record("ratio", "v_Ed/v_Rd", demand / capacity)
    return Outcome(
        CHECKS[f"shear-{axis}"], demand, capacity, demand / capacity, situations, blocks=(f"shear {axis}",), why_not=thin,
        note=lambda i, j: f"at {rows[worst[j]][1]}{_lifted(solved, j)}",
    )  # fmt: skip


def _beside_ribs(
    pad: ConcretePad, solved: SolvedRaft, axis: str, lines: Array, others: Array, grid: Array
) -> list[tuple[Array, str, float]]:
    """Shear of the plate towards the ribs across an axis, at the distance of the standard from their faces, as means over the bays between
    ribs that run the other way, or the columns on them."""
    plate, h = solved.pad.plate, solved.pad.thickness
    d = float(_depth_of(pad, h, axis))
    away = float(pad.standard.shear_section(np.array([[d]]), np.array([[h]]))[0][0, 0])
    rows = []
    for rib in plate.ribs if plate else ():
        if rib.axis == axis:
            continue
        box = solved.pad.rib_box(rib)
        low, high = box[2:] if rib.axis == "y" else box[:2]
        stops = (
            {low, high, *(o.at for o in plate.ribs if o.axis == axis and low < o.at < high)}
            if plate
            else {low, high}
        )
        stops |= {p for p in places_on(solved.pad, rib, solved.columns) if low < p < high}
        for sign, face in ((1, rib.at + rib.width / 2), (-1, rib.at - rib.width / 2)):
            at = face + sign * away
            if not lines[0] + 1e-6 < at < lines[-1] - 1e-6:
                continue
            for begin, end in pairwise(sorted(stops)):
                force, width = _over_strip(lines, others, grid, at, begin, end)
                if width > 0.2:
                    rows.append(
                        (np.abs(force) / width, f"rib {rib.name}, {'+' if sign > 0 else '−'}{axis} side", d)
                    )
    return rows


def _depth_of(pad: ConcretePad, h: float, axis: str) -> float:
    s, bars = pad.settings, pad.geometry.bars
    found = effective_depths(
        np.array([[h]]), s.concrete_cover, s.outer_bars, bars["bottom_x"], bars["bottom_y"]
    )
    return float(found[0 if axis == "x" else 1][0, 0])


def _over_strip(
    lines: Array, others: Array, grid: Array, at: float, low: float, high: float
) -> tuple[Array, float]:
    """(force, length) of nodal values (lines, others, situations) along a place between two lines, from low to high across."""
    k = int(np.clip(np.searchsorted(lines, at) - 1, 0, len(lines) - 2))
    t = (at - lines[k]) / (lines[k + 1] - lines[k])
    values = (1 - t) * grid[k] + t * grid[k + 1]
    gaps = np.diff(others)
    before, after = np.concatenate([[0.0], gaps / 2]), np.concatenate([gaps / 2, [0.0]])
    share = np.clip(np.minimum(others + after, high) - np.maximum(others - before, low), 0.0, None)
    known = ~np.isnan(values)
    return (np.where(known, values, 0.0) * share[:, None]).sum(axis=0), float((share * known[:, 0]).sum())


def _cracks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """Cracks of both faces in service, at the node where they are worst."""
    ids = ("cracks-x", "cracks-y")
    solved = solved_raft(bench, project, "cracks")
    if isinstance(solved, str):
        if "no combination" in solved:
            return [does_not_apply(check, "no combination serves 'cracks'") for check in ids]
        return [_unsolved(check, solved) for check in ids]
    situations = solved.situations
    forces, contact = under_concrete(bench, situations, SILENT)
    pad = concrete_pad(
        bench.geometry, situations, forces, contact, bench.settings, bench.standards.concrete, SILENT, True
    )
    own = [_crack(bench, pad, solved, axis, record.scope(f"cracks {axis} plate")) for axis in "xy"]
    return [*own, *rib_cracks(pad, solved, record)]


def _crack(bench: Bench, pad: ConcretePad, solved: SolvedRaft, axis: str, record: Recorder) -> Outcome:
    best: tuple[Array, Cracked, Array, Array, list[str]] | None = None
    for face in ("bottom", "top"):
        bars = pad.bars(face, axis)
        if float(bars.diameter[0, 0]) == 0.0:
            continue
        spacing = float(bars.centres(pad.settings.concrete_cover)[0, 0])
        for one in demands_of(bench, solved, face, axis):
            m = np.where(np.isnan(one.moment), 0.0, one.moment)
            steel = np.maximum(one.provided, 1.0)[:, None] + 0.0 * m
            section = Cracked(
                m,
                bars.diameter + 0.0 * m,
                np.full_like(m, spacing),
                steel,
                np.full_like(m, one.d),
                np.full_like(m, one.fields.thickness),
            )
            found, limit = pad.standard.cracks(section, pad.settings, SILENT)
            ratio = found / limit
            node = ratio.argmax(axis=0)
            column = np.arange(ratio.shape[1])
            picked = Cracked(
                *(
                    getattr(section, f)[node, column][None]
                    for f in ("m", "diameter", "spacing", "steel", "d", "h")
                )
            )
            at = np.stack([v[node] for v in solved.mesh.nodes])
            if best is None:
                best = (ratio.max(axis=0)[None], picked, at[:1], at[1:], [face] * len(column))
                continue
            more = ratio.max(axis=0)[None] > best[0]
            merged = Cracked(
                *(
                    np.where(more, getattr(picked, f), getattr(best[1], f))
                    for f in ("m", "diameter", "spacing", "steel", "d", "h")
                )
            )
            best = (
                np.maximum(best[0], ratio.max(axis=0)[None]), merged, np.where(more, at[:1], best[2]), np.where(more, at[1:], best[3]),
                [face if b else old for b, old in zip(more[0], best[4])],
            )  # fmt: skip
    if best is None:
        return does_not_apply(f"cracks-{axis}", "it has no bars in this direction")
    _, at_worst, x, y, faces = best
    _record_plate(solved, record)
    record("x_n", "", x, "m", "", "where, from the middle", "n_u")
    record("y_n", "", y, "m", "", "", "n_u")
    record("oe", "", at_worst.diameter, "m", note="bar diameter")
    record("s", "", at_worst.spacing, "m", note="from bar to bar")
    record("A_s", "", at_worst.steel, "mm²/m", "", "steel provided there", "x_n y_n")
    record("d", "", at_worst.d, "m", "", "", "x_n y_n")
    record("h", "", at_worst.h, "m", "", "", "x_n y_n")
    record("m_s", "", at_worst.m, "kNm/m", "", "moment in service, mean over a band", "n_u x_n y_n")
    found, limit = pad.standard.cracks(at_worst, pad.settings, record)
    record("ratio", "r_c", found / limit)
    return Outcome(
        CHECKS[f"cracks-{axis}"], found, limit, found / limit, solved.situations, blocks=(f"cracks {axis} plate",),
        note=lambda i, j: f"{faces[j]}, at {x[0, j]:+.2f}, {y[0, j]:+.2f} m from the middle",
    )  # fmt: skip
