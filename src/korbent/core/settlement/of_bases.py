"""The settlement of bases as they are, or tried, under all that acts on the ground together."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.construction import QUESTION, timeline
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.ground.profile import effective_stress
from korbent.core.model.project import Project
from korbent.core.settlement.beside import Beside, besides
from korbent.core.settlement.column import Column, column_of, first_of_law
from korbent.core.settlement.creep import creeps
from korbent.core.settlement.final import HOW, Around, Settlement, ends_alone, settle
from korbent.core.settlement.footing import Footing
from korbent.core.settlement.formulas import peak_depth
from korbent.core.settlement.laws import lacking_for
from korbent.core.settlement.memory import Memory, at_level, memories
from korbent.core.settlement.pressing import net_pressure, pressing_of, stages_of, water_before
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say


def as_in_project(bench: Bench, project: Project) -> bool:
    """The candidates are the pads of the project themselves, none of them tried in another size."""
    if not bench.as_is:
        return False
    own = {pad.name: pad for pad in project.pads}
    return all(own.get(pad.name) is pad for pad in bench.pads)


def final(bench: Bench, project: Project, around: Mapping[str, Beside] | None = None) -> Settlement | None:
    """Settlement of the bases of a bench; None where it cannot be computed, nan where not for one of them.

    Args:
        around: what acts beside them, by name, in the place of what the project puts there.
    """
    situations = bench.situations(QUESTION)
    bench = bench.on_ground()
    if not len(situations) or bench.profile is None:
        return None
    reasons = [a or b for a, b in zip(bench.why_not(), lacking_for_settlement(bench))]
    if all(reasons):
        return None
    found = settlement_of(bench, project, situations, bench.forces(situations, SILENT), SILENT, around)
    return replace(found, total=np.where(np.array([bool(r) for r in reasons])[:, None], np.nan, found.total))


def _footing(bench: Bench, water: Array) -> Footing:
    """The bases of a bench as they press the ground."""
    assert bench.profile is not None
    g, settings = bench.geometry, bench.settings
    B, L = g.footprint.equal_rectangle
    peak = g.underside - peak_depth(np.minimum(B, L), np.maximum(B, L))
    at = [
        effective_stress(bench.profile, bench.ground.backfill, bench.profile.existing_at(z), z + 0.0 * water, water)
        for z in (g.underside, peak)
    ]
    hole = np.broadcast_to(g.footprint.hole, g.B.shape)
    ring = bool((hole > 0).all())
    return Footing(
        B,
        L,
        g.underside,
        g.B / 2 if ring else None,
        hole / 2 if ring else None,
        np.maximum(bench.finished - g.underside, 0.0) if settings.settlement_embedment == "Fox 1948" else None,
        at[0],
        at[1],
        strip=settings.pore_pressure_shape == "strip",
    )


def settlement_of(
    bench: Bench,
    project: Project | None,
    situations: Situations,
    forces: BaseForces,
    record: Recorder,
    around: Mapping[str, Beside] | None = None,
) -> Settlement:
    """The settlement of the bases with all else that the project puts on the ground, or alone where none is given; what
    leads to it is recorded. ``around``: see :func:`final`."""
    water = water_before(project, bench, situations.water_level)
    q, before = net_pressure(bench, water, forces.V)
    column, acts = _around(bench, project, q, around)
    result = settle(
        column,
        bench.ground.backfill,
        _footing(bench, water),
        q,
        water,
        bench.settings,
        acts,
        not isinstance(record, Silent),
    )
    if not isinstance(record, Silent):
        _record_pressure(bench, before, q, result, acts, record)
        shares = _record_strata(bench, result, record)
        _record_sums(bench, result, acts, shares, record)
    return result


def _record_pressure(
    bench: Bench, before: Array | float, q: Array, result: Settlement, acts: Around, record: Recorder
) -> None:
    """What presses, how deep that counts, and what acts beside."""
    settings = bench.settings
    note = say("total stress at the founding level before the excavation")
    record.given("sigma_v0", before, "kPa", note=note, needs="z_f")
    record.step("q_net", "V/A - sigma_v0", q, "kPa", note=say("net pressure"))
    limit = settings.settlement_influence
    record.given("r_lim", limit, note=say("influence depth: added over effective stress, the greatest of all steps"))
    record.given(
        "z_i",
        result.influence,
        "m",
        reference="EN 1997-1 6.6.2(6)",
        note=say("influence depth below the base"),
        needs="q_net B L r_lim",
    )
    if acts.line is not None:
        record.given(
            "sigma_b",
            acts.beside[..., 0],
            "kPa",
            reference="Boussinesq 1885",
            note=say("added below the underside by all other foundations and area loads"),
            needs="z_f",
        )
    record.given(
        "s_0",
        result.middle * 1000,
        "mm",
        note=say("middle of a flexible base, for comparison"),
        needs="q_net B L z_i",
    )


def _record_strata(bench: Bench, result: Settlement, record: Recorder) -> list[str]:
    """The share of each stratum; their symbols."""
    assert bench.profile is not None
    settings, profile = bench.settings, bench.profile
    shares = []
    first = first_of_law(profile.soils)
    for i, soil in enumerate(profile.soils):
        if first[i] != i:
            continue  # one with the stratum above
        symbol = f"s_{i + 1}"
        how = HOW[soil.compression] + (say(", after Eu") if soil.undrained_modulus else "")
        if soil.compression == "strain_influence":
            how += say(", C2 at {settlement_years:g} years", settlement_years=settings.settlement_years)
        elif soil.creep_index and soil.compression != "none":
            how += say(", creep to {settlement_years:g} years", settlement_years=settings.settlement_years)
        record.given(
            symbol,
            result.by_stratum[..., i] * 1000,
            "mm",
            reference=how,
            note=soil.name,
            needs="q_net B L z_i",
        )
        shares.append(symbol)
    return shares


def _record_sums(bench: Bench, result: Settlement, acts: Around, shares: list[str], record: Recorder) -> None:
    settings = bench.settings
    how = (
        say("characteristic point, Grasshoff 1955")
        if settings.rigid_ratio is None
        else say("a share of the middle of a flexible base")
    )
    record.step("s", " + ".join(shares), result.total * 1000, "mm", reference=how, note=say("rigid base"))
    record.given(
        "s_c",
        result.creep * 1000,
        "mm",
        reference="Bjerrum 1967, by shares of the steps",
        note=say("creep within, at {settlement_years:g} years", settlement_years=settings.settlement_years),
        needs="q_net B L z_i",
    )
    record.step(
        "s_p",
        "s - s_c",
        (result.total - result.creep) * 1000,
        "mm",
        note=say("primary within, at full dissipation after the last step"),
    )
    if acts.first is not None and (acts.first > 0).any():
        record.given(
            "s_e",
            result.earlier * 1000,
            "mm",
            note=say("settled before the base is built: not counted"),
            needs="z_i",
        )
    record.given(
        "s_b",
        result.below * 1000,
        "mm",
        note=say("what lies below the influence depth would add"),
        needs="z_i",
    )


def _around(
    bench: Bench, project: Project | None, q: Array, others: Mapping[str, Beside] | None
) -> tuple[Column, Around]:
    """The cells below the candidates, what acts in them beside the bases, and what the ground remembers."""
    assert bench.profile is not None
    underside = bench.geometry.underside[:, 0]
    known = others or (besides(project) if project is not None else {})
    parts = [known.get(pad.name) for pad in bench.pads]
    if project is None or any(p is None or p.stress.shape[0] != q.shape[1] for p in parts):
        column = column_of(bench.profile, underside)
        return column, Around(np.zeros((1, q.shape[1], column.levels.shape[1] - 1)), ends=_alone(bench, column, q))
    line = timeline(project)
    rows = _Rows(project, bench.index, [pad.name for pad in bench.pads], underside, others)
    column = column_of(bench.profile, underside, rows.feet())
    stages, first = rows.stages() if as_in_project(bench, project) else stages_of(project, bench)
    with_three = bench.settings.elastic_beside == "three_stresses"
    with_angle = any(s.undrained_modulus for s in bench.profile.soils) or with_three
    found = Around(
        rows.of(lambda b, m: b.stress + (m.water[-1] if m else 0.0)),
        rows.of(lambda b, m: b.angle) if with_angle else None,
        (rows.of(lambda b, m: b.along_x), rows.of(lambda b, m: b.along_y)),
        line,
        stages,
        np.moveaxis(rows.of(lambda b, m: b.stages + (m.water if m else 0.0)), 1, 0)[:, :, None, :],
        first=first,
        sideways=with_three,
    )
    if not len(line):
        return column, found
    found = replace(
        found,
        ends=np.moveaxis(rows.of(lambda b, m: m.ends if m else None), 1, 0)[:, :, None, :],
        strain=rows.one(lambda m: m.strain),
        immediate=rows.one(lambda m: m.immediate),
        creep=rows.one(lambda m: m.creep),
        highest=rows.one(lambda m: m.highest),
    )
    if any(m is not None and m.held is not None for _, m in rows.parts):
        found = replace(found, highest=_highest(bench, column, rows, found))
    return column, found


class _Rows:
    """What acts beside bases and what the ground below them remembers, for candidates: by base and level."""

    def __init__(
        self, project: Project, index: Array, names: Sequence[str], levels: Array, others: Mapping[str, Beside] | None
    ) -> None:
        self.parts: list[tuple[Beside, Memory | None]] = []
        known: dict[tuple[str, float], int] = {}
        which = []
        as_is = dict(zip((pad.name for pad in project.pads), pressing_of(project)))
        remembered = memories(project, names, others)
        around = others or besides(project)
        for k, level in zip(index.tolist(), levels.tolist()):
            name = names[k]
            if (name, level) not in known:
                known[name, level] = len(self.parts)
                if as_is[name].level == level:
                    self.parts.append((around[name], remembered.get(name)))
                else:
                    self.parts.append(at_level(project, name, level))
            which.append(known[name, level])
        self.which = np.array(which)
        self._pressing = [as_is[name] for name in names]

    def stages(self) -> tuple[Array, Array]:
        """Net pressure after each construction step, and the first step, of bases as they are (see
        :func:`stages_of`)."""
        return np.stack([p.stages for p in self._pressing], axis=1), np.array([p.first for p in self._pressing])

    def feet(self) -> Array:
        """Of the candidates, (points, FEET)."""
        return np.asarray(np.stack([beside.feet for beside, _ in self.parts])[self.which])

    def of(self, values: Callable[[Beside, Memory | None], Array | None]) -> Array:
        """(points, rows, cells); one point where all candidates share it."""
        parts = [value for b, m in self.parts if (value := values(b, m)) is not None]
        return parts[0][None] if len(self.parts) == 1 else np.stack(parts)[self.which]

    def one(self, values: Callable[[Memory], Array]) -> Array:
        """(points, 1, cells) of what is remembered."""
        return self.of(lambda b, m: values(m)[None] if m is not None else np.zeros((1, len(b.levels))))


def _highest(bench: Bench, column: Column, rows: "_Rows", around: Around) -> Array:
    """The greatest effective stress that the steps leave behind below each candidate: that of the base as it is, by the
    difference of what both put on the ground less what is not effective yet just before the next step."""
    assert around.stages is not None
    assert around.beside_stages is not None
    assert around.highest is not None
    unit = _footing(bench, np.zeros(1)).unit(column)
    totals = around.stages[:, :, None, None] * unit + around.beside_stages
    n = len(totals)
    held = rows.of(lambda b, m: m.held if m is not None and m.held is not None else np.zeros((n, len(b.levels))))
    as_is = rows.of(lambda b, m: m.totals if m is not None else np.zeros((n, len(b.levels))))
    held, as_is = (np.moveaxis(v, 1, 0)[:, :, None, :] for v in (held, as_is))
    found = around.highest + (totals - held).max(axis=0) - (as_is - held).max(axis=0)
    # each base by itself: only below those from which a step takes stress away
    own = rows.one(lambda m: np.full(m.levels.shape, float(m.held is not None)))
    return np.where(own > 0, found, around.highest)


def _alone(bench: Bench, column: Column, q: Array) -> Array | None:
    """Days to the end of primary below bases that stand alone, (1, points, 1, cells)."""
    if bench.profile is None or not creeps(column).any():
        return None
    return ends_alone(
        bench.profile,
        bench.ground.backfill,
        _footing(bench, np.zeros(1)),
        q,
        bench.situations(QUESTION).water_level,
        bench.settings,
    )


def lacking_for_settlement(bench: Bench) -> tuple[str, ...]:
    assert bench.profile is not None
    texts = []
    for index in bench.founding_stratum():
        parts = [lacking_for(s) for s in bench.profile.soils[max(int(index), 0) :]]
        texts.append("; ".join(dict.fromkeys(p for p in parts if p)))
    return tuple(texts)
