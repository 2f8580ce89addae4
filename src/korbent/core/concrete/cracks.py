"""Cracks of both faces under the combinations that serve them: crack width (EN 1992-1-1), or spacing by service stress
(ACI 318).

For AS 3600:2018 the crack width is that of EN 1992-1-1 too: its clause 8.6.2.3 has the same form with a smaller share
of the bars (from memory), so that this is on the safe side."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.pad import ConcretePad, concrete_pad, no_concrete, under_concrete
from korbent.core.concrete.sections import FACES, SIDES, forces_beyond
from korbent.core.concrete.several import beam_sections, columns_of
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say

IDS = ("cracks-x", "cracks-y")


def crack_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Cracks below and above, per direction: at the faces of the column; under several columns along the whole base."""
    situations = bench.situations("cracks")
    if not len(situations):
        return [does_not_apply(check, say("no combination serves 'cracks'")) for check in IDS]
    if bench.standards.concrete not in NAMES:
        return [does_not_apply(check, say("no concrete standard is chosen")) for check in IDS]
    if bench.settings.base_concrete == "plain":
        return [does_not_apply(check, say("the base is of plain concrete")) for check in IDS]
    why = no_concrete(bench)
    if why:
        return [cannot(check, why) for check in IDS]
    g, settings = bench.geometry, bench.settings
    forces, contact = under_concrete(bench, situations, record)
    pad = concrete_pad(
        g, situations, forces, contact, settings, bench.standards.concrete, record, len(bench.standing[0]) > 1
    )
    several = any(len(points) > 1 for points in bench.standing)
    moments = _under_several(bench, pad) if several else _at_faces(pad)
    return [_along(pad, axis, moments[axis], record) for axis in "xy"]


@dataclass(frozen=True)
class _Place:
    """Where cracks are looked at: moment per width in service (tension there positive), kNm/m."""

    name: str
    face: str
    m: Array


def _at_faces(pad: ConcretePad) -> dict[str, list[_Place]]:
    faces = forces_beyond(pad.geometry, pad.contact, pad.weight, np.zeros((4, 1, 1)))
    per_width = faces.moment / np.maximum(faces.width, 1e-9)
    found: dict[str, list[_Place]] = {"x": [], "y": []}
    for side, axis in enumerate(SIDES):
        found[axis[1]] += [
            _Place(say("at the {face}", face=FACES[side]), "bottom", np.maximum(per_width[side], 0.0)),
            _Place(say("at the {face}, top", face=FACES[side]), "top", np.maximum(-per_width[side], 0.0)),
        ]
    return found


def _under_several(bench: Bench, pad: ConcretePad) -> dict[str, list[_Place]]:
    columns = columns_of(bench, pad.situations)
    found = {}
    for axis in "xy":
        sections, moment = beam_sections(pad, columns, axis)
        across = np.maximum(sections.width, 1e-9)
        found[axis] = [
            _Place(
                say("the {face}, worst along {axis}", face=label(face), axis=axis),
                face,
                (np.maximum(sign * moment, 0.0) / across).max(axis=0),
            )
            for face, sign in (("bottom", 1.0), ("top", -1.0))
        ]
    return found


def _along(pad: ConcretePad, axis: str, places: list[_Place], record: Recorder) -> Outcome:
    by_width = pad.standard.cracks_by == "width"
    h, settings = pad.geometry.h, pad.settings
    parts = []
    for place in places:
        scope = record.scope(say("cracks {axis} {place}", axis=axis, place=place.name))
        bars = pad.bars(place.face, axis)
        # the top is looked at where it has bars; without tension there the steel is hardly stressed, so that nothing jumps
        looked_at = (place.face == "bottom") | (bars.diameter > 0)
        bare = bars.diameter <= 0
        bars = replace(bars, diameter=np.where(bare, 0.01, bars.diameter), spacing=np.where(bare, 1.0, bars.spacing))
        d = pad.depth(axis) if place.face == "bottom" else pad.top_depth(axis)
        spacing = bars.centres(settings.concrete_cover)
        scope.given("oe", bars.diameter, "m", note=say("bar diameter"))
        scope.given("s_w", bars.spacing, "m", note=say("width for each bar"))
        scope.given("s", spacing, "m", note=say("from bar to bar"))
        scope.step("A_s", "pi*oe**2/4/s_w*1e6", bars.area * 1e6, "mm²/m", note=say("steel provided"))
        scope.step("d", f"d_{axis}" if place.face == "bottom" else "", d, "m")
        scope.given("m_s", place.m, "kNm/m", note=say("moment per width in service"), needs="p_mid g_x g_y w_d B L")
        section = Cracked(place.m, bars.diameter, spacing, bars.area * 1e6, d, h)
        found, limit = pad.standard.cracks(section, settings, scope)
        scope.given("k_on", np.where(looked_at, 1.0, 0.0), note=say("1 where this face has bars"))
        scope.step("ratio", "k_on*r_c", np.where(looked_at, found / limit, 0.0))
        parts.append((np.where(looked_at, found, 0.0), limit))
    demand, capacity = (
        np.concatenate([np.broadcast_to(v, pad.contact.shape) for v in values], axis=-1) for values in zip(*parts)
    )
    count = len(pad.situations)
    more = "" if by_width else say(": greatest spacing by the service stress")
    return Outcome(
        by_clause(CHECKS[f"cracks-{axis}"], pad.standard.clauses),
        demand,
        capacity,
        demand / capacity,
        pad.situations,
        np.tile(~pad.contact.stable, len(places)),
        blocks=tuple(say("cracks {axis} {p}", axis=axis, p=p.name) for p in places),
        note=lambda i, column: places[column // count].name + more,
    )
