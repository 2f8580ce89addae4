"""Cracks of a raft in service, where they are worst."""

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.pad import ConcretePad, concrete_pad, under_concrete
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.model.labels import label
from korbent.core.model.project import Project
from korbent.core.rafts.bars import demands_of
from korbent.core.rafts.rib_checks import rib_cracks
from korbent.core.rafts.said import record_plate, unsolved
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def crack_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """Cracks of both faces in service, at the node where they are worst."""
    ids = ("cracks-x", "cracks-y")
    if not len(bench.situations("cracks")):
        return [does_not_apply(check, say("no combination serves 'cracks'")) for check in ids]
    solved = solved_raft(bench, project, "cracks")
    if isinstance(solved, str):
        return [unsolved(check, solved) for check in ids]
    situations = solved.situations
    forces, contact = under_concrete(bench, situations, SILENT)
    pad = concrete_pad(
        bench.geometry, situations, forces, contact, bench.settings, bench.standards.concrete, SILENT, True
    )
    own = [_crack(bench, pad, solved, axis, record.scope(say("cracks {axis} plate", axis=axis))) for axis in "xy"]
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
                *(getattr(section, f)[node, column][None] for f in ("m", "diameter", "spacing", "steel", "d", "h"))
            )
            at = np.stack([v[node] for v in solved.mesh.places])
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
                np.maximum(best[0], ratio.max(axis=0)[None]),
                merged,
                np.where(more, at[:1], best[2]),
                np.where(more, at[1:], best[3]),
                [face if b else old for b, old in zip(more[0], best[4])],
            )
    if best is None:
        return does_not_apply(f"cracks-{axis}", say("it has no bars in this direction"))
    _, at_worst, x, y, faces = best
    record_plate(solved, record)
    record.given("x_n", x, "m", note=say("where, from the middle"), needs="n_u")
    record.given("y_n", y, "m", needs="n_u")
    record.given("oe", at_worst.diameter, "m", note=say("bar diameter"))
    record.given("s", at_worst.spacing, "m", note=say("from bar to bar"))
    record.given("A_s", at_worst.steel, "mm²/m", note=say("steel provided there"), needs="x_n y_n")
    record.given("d", at_worst.d, "m", needs="x_n y_n")
    record.given("h", at_worst.h, "m", needs="x_n y_n")
    record.given("m_s", at_worst.m, "kNm/m", note=say("moment in service, mean over a band"), needs="n_u x_n y_n")
    found, limit = pad.standard.cracks(at_worst, pad.settings, record)
    record.step("ratio", "r_c", found / limit)
    return Outcome(
        CHECKS[f"cracks-{axis}"],
        found,
        limit,
        found / limit,
        solved.situations,
        blocks=(say("cracks {axis} plate", axis=axis),),
        note=lambda i, j: say(
            "{faces}, at {x:+.2f}, {y:+.2f} m from the middle", faces=label(faces[j]), x=x[0, j], y=y[0, j]
        ),
    )
