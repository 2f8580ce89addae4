"""Bars of a raft by face and direction: what is asked for at every node, against what there is."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, LIMIT, Outcome
from korbent.core.concrete.flexure import required_steel, without_bars
from korbent.core.concrete.pad import ConcretePad, concrete_pad, effective_depths, under_concrete
from korbent.core.geometry import BarArrays
from korbent.core.model.reinforcement import Face
from korbent.core.plates.recover import Fields, design_moments, over_band
from korbent.core.rafts.said import lifted, record_plate
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

OF_BARS = ("bottom-x", "bottom-y", "top-x", "top-y")
BAND = 2.0
"""Moments are designed from as means over a band of so many thicknesses across the bars: what a peak is more the bars
beside carry."""


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
    x, y = solved.mesh.places
    basic = pad.reinforcement.bars(face)
    across = pad.length if face.endswith("x") else pad.width
    found = np.full(len(x), 1e6 * basic.area_in(across) if basic else 0.0)
    for added in pad.plate.added if pad.plate else ():
        if added.face == face:
            low_x, high_x, low_y, high_y = added.box
            inside = (x >= low_x - 1e-9) & (x <= high_x + 1e-9) & (y >= low_y - 1e-9) & (y <= high_y + 1e-9)
            found[inside] += 1e6 * added.bars.area_in((high_y - low_y) if face.endswith("x") else (high_x - low_x))
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
    asked = np.full(len(solved.mesh.seen), np.nan)
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


def flexure_of_plate(
    bench: Bench, pad: ConcretePad, solved: SolvedRaft, face: str, axis: str, record: Recorder, thin: tuple[str, ...]
) -> Outcome:
    check = f"{face}-{axis}"
    parts = demands_of(bench, solved, face, axis)
    part, node = _worst_nodes(pad, parts, face)
    columns = np.arange(len(part))

    def at(values: list[Array]) -> Array:
        return np.array([values[p][n, c] for p, n, c in zip(part, node, columns)])[None]

    x, y = (v[node][None] for v in solved.mesh.places)
    scope = record.scope(say("{check} plate", check=check))
    record_plate(solved, scope)
    scope.given("x_n", x, "m", note=say("where most is asked for over what there is, from the middle"), needs="n_u")
    scope.given("y_n", y, "m", needs="n_u")
    for symbol in ("m_x", "m_y", "m_xy"):
        value = at([getattr(p.fields, symbol) for p in parts])
        scope.given(symbol, value, "kNm/m", note=say("of the plate there"), needs="n_u x_n y_n")
    moment = at([p.moment for p in parts])
    scope.given(
        "m_Ed",
        moment,
        "kNm/m",
        reference="Wood 1968, Armer 1968",
        note=say("design moment, mean over a band of {band:g} h across the bars", band=BAND),
        needs="m_x m_y m_xy",
    )
    d = np.array([[parts[p].d for p in part]])
    scope.given("d", d, "m", note=say("effective depth there"), needs="x_n y_n")
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
    scope.given("A_s", provided, "mm²/m", note=say("basic bars and those added there"), needs="x_n y_n")
    ratio = required / provided
    bare = there <= 0.0
    if face == "top" and bare.any():
        thickness = np.array([[parts[p].fields.thickness for p in part]])
        scope.given("h", thickness, "m", note=say("thickness there"))
        plain = _in_plain(pad, moment, thickness, scope)
        scope.given("k_on", np.where(bare, 0.0, 1.0), note=say("1 where there are bars"))
        ratio = np.where(bare, plain, ratio)
        scope.step("ratio", "where(k_on > 0.5, A_s_req/A_s, sigma_t/f_Rd)", ratio)
        # what of bars the plain concrete stands for
        provided = np.where(bare, required / np.where(plain > 0, plain, 1.0), provided)
    else:
        scope.step("ratio", "A_s_req/A_s", ratio)
    none = bool(pad.bars(face, axis).diameter[0, 0] == 0.0)

    def note(candidate: int, column: int) -> str:
        more = say("; compression zone too deep: thicken the raft") if deep[0, column] > 1 else ""
        if bare[0, column] and face == "top":
            more += f"; {without_bars(face, ratio[0, column])}"
        elif none:
            more += say("; there are no basic bars in this face")
        short = required[0, column] - provided[0, column]
        if short > 0 and ratio[0, column] > LIMIT and not none:
            more += say("; {short:.0f} mm²/m short there", short=short)
        return say(
            "at {x:+.2f}, {y:+.2f} m from the middle{more}{lifted}",
            x=x[0, column],
            y=y[0, column],
            more=more,
            lifted=lifted(solved, column),
        )

    return Outcome(
        CHECKS[check],
        required,
        provided,
        ratio,
        solved.situations,
        blocks=(say("{check} plate", check=check),),
        why_not=thin,
        note=note,
    )


def _worst_nodes(pad: ConcretePad, parts: Sequence[Demand], face: str) -> tuple[Array, Array]:
    """(part, node) at which most is asked for over what there is, by situation."""
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
    part, node = np.divmod(stack.reshape(-1, stack.shape[-1]).argmax(axis=0), stack.shape[1])
    return part, node


def _in_plain(pad: ConcretePad, moment: Array, h: Array | float, record: Recorder) -> Array:
    """Tension of plain concrete by bending over its strength; as in pads (see korbent.core.concrete.flexure)."""
    deduction = pad.settings.plain_deduction if pad.settings.cast_against == "soil" else 0.0
    depth = pad.standard.plain_depth(np.asarray(h) + np.zeros((1, 1)), deduction, record)
    strength, _ = pad.standard.plain(pad.settings.concrete_strength, pad.special, record)
    stress = 6 * np.maximum(moment, 0.0) / depth**2 / 1000
    record.step(
        "sigma_t",
        "6*m_Ed/h_p**2/1000",
        stress,
        "MPa",
        reference=pad.standard.clauses["plain-x"],
        note=say("no bars: tension by bending in plain concrete"),
    )
    found: Array = stress / strength
    return found
