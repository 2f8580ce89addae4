"""The tables of Plan: pads and types."""

import re
from typing import Any

from korbent.app.session import Session
from korbent.app.specs.common import (
    append,
    bar_cell,
    changed,
    computed,
    drop,
    field,
    reordered,
    unique,
)
from korbent.app.specs.standing import pedestal_of, pedestal_text, pedestals_of, pedestals_text
from korbent.app.tables import Column, Spec
from korbent.core.model import (
    Pad,
    PadType,
    Replacement,
    edited,
)
from korbent.core.sizing.first_size import first_size
from korbent.core.units import UnitError, show_ratio


def _pad_columns(session: Session) -> list[Column]:
    units = session.project.showing

    def path(row: Any) -> tuple[str | int, ...]:
        return ("pads", row.name)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Pad, name, title, path, **more)

    def bars(face: str, title: str) -> Column:
        return bar_cell(
            session,
            title,
            lambda r: getattr(r.reinforcement, face),
            lambda r: ("pads", r.name, "reinforcement", face),
            "16 at 150 (mm), 12 no 16, #5 at 9 in, or a fabric such as SL82 or A393",
        )

    def edge(side: str) -> Column:
        return Column(
            f"Edge {side}",
            lambda r: r.edge(side),
            lambda r: (*path(r), "edge", side),
            "m",
            width=62,
            tip=f"from the column's axis to the {side} edge; the opposite edge stays when this is changed",
        )

    def worst(row: Any) -> str:
        found = session.results.pad(row.name).worst
        return show_ratio(found.ratio) if found.ratio is not None else found.state.value

    return [
        f("name", "Pad", kind="text", width=56),
        Column("Worst", worst, lambda r: (), kind="text", width=70, convert=computed, derived=True),
        Column(
            "Under",
            lambda r: r.load_point,
            lambda r: (*path(r), "load_point"),
            kind="choice",
            choices=lambda s: [p.name for p in s.project.actions.load_points],
            width=64,
        ),
        Column(
            "Type",
            lambda r: r.type,
            lambda r: (*path(r), "type"),
            kind="choice",
            optional=True,
            choices=lambda s: [t.name for t in s.project.types],
            width=58,
        ),
        f(
            "kind",
            "Kind",
            kind="choice",
            choices=("pad", "strip", "raft"),
            width=52,
            tip="a strip stands under a wall: its length follows the wall; a raft bends",
        ),
        f("shape", "Shape", kind="choice", choices=("rectangle", "circle", "ring", "trapezoid"), width=74),
        f("width", "B", tip="along x; of a circle or ring its diameter"),
        f("length", "L", tip="along y; of a trapezoid that of its end at −x"),
        f("thickness", "h"),
        f("level", "Level"),
        f("held", "Held face", kind="choice", choices=("underside", "top"), width=84),
        f("rotation", "Turned"),
        f("offset_x", "Offset x", tip="column from the middle of the pad"),
        f("offset_y", "Offset y"),
        *(edge(side) for side in ("-x", "+x", "-y", "+y")),
        f(
            "hold_x",
            "Held in x",
            kind="choice",
            choices=("middle", "-x", "+x"),
            width=66,
            tip="what stays when B changes: the middle, or the edge at a boundary",
        ),
        f("hold_y", "Held in y", kind="choice", choices=("middle", "-y", "+y"), width=66),
        f(
            "frozen",
            "Frozen",
            kind="choice",
            choices=("", "issued", "poured"),
            width=64,
            tip="issued or poured: nothing resizes it",
        ),
        f("hole", "Hole", tip="diameter of the hole of a ring"),
        f("far_length", "Far L", tip="of a trapezoid the length of its end at +x"),
        Column(
            "Also under",
            lambda r: r.further,
            lambda r: (*path(r), "further"),
            kind="words",
            width=84,
            tip="more columns and walls on the same base, such as B2, B3",
        ),
        bars("bottom_x", "Bottom x"),
        bars("bottom_y", "Bottom y"),
        bars("top_x", "Top x"),
        bars("top_y", "Top y"),
        Column(
            "Pedestal",
            lambda r: pedestal_text(r.pedestal, units),
            lambda r: (*path(r), "pedestal"),
            kind="text",
            optional=True,
            convert=lambda text: pedestal_of(text, units),
            width=120,
            tip="sizes and level of its top, its bars and ties, such as 0.6 x 0.6 to 3.2, 8 ø 16, ties 10 at 150; round: ø 0.6 to 3.2, 8 ø 16, spiral 10 at 60; if other than of the base: cover 50, concrete 35",
        ),
        Column(
            "Pedestals of others",
            lambda r: pedestals_text(r.pedestals, units),
            lambda r: (*path(r), "pedestals"),
            kind="text",
            optional=True,
            convert=lambda text: pedestals_of(text, units),
            empty={},
            width=140,
            tip="under the columns of Also under, one after the other, such as B2: 0.6 x 0.6 to 3.2; B3: ø 0.6 to 3.2, 8 ø 16",
        ),
        Column(
            "Replacement below",
            lambda r: _replacement_text(r.replacement),
            lambda r: (*path(r), "replacement"),
            kind="text",
            optional=True,
            convert=_replacement,
            width=210,
            tip="granular 0.8 spread 0.5 φ 38 weight 20, or concrete 0.6 spread 1 stress 5000 (m, degrees, kN/m³, kPa)",
        ),
    ]


def _replacement_text(given: Replacement | None) -> str | None:
    if given is None:
        return None
    own = f"φ {given.friction_angle:g}" if given.kind == "granular" else f"stress {given.strength:g}"
    return f"{given.kind} {given.thickness:g} spread {given.spread:g} {own} weight {given.weight:g}"


WORDS = {
    "spread": "spread",
    "φ": "friction_angle",
    "phi": "friction_angle",
    "stress": "strength",
    "weight": "weight",
}


def _replacement(text: str) -> Any:
    words = re.findall(r"[A-Za-zφ]+|[\d.]+", re.sub(r"(\d),(\d)", r"\1.\2", text.lower()))
    wrong = UnitError(
        f"'{text}': type kind and thickness in m, such as granular 0.8 spread 0.5 φ 38, or concrete 0.6 spread 1 stress 5000"
    )
    if len(words) < 2 or words[0] not in ("granular", "concrete") or len(words) % 2:
        raise wrong
    try:
        found: dict[str, Any] = {"kind": words[0], "thickness": float(words[1])}
        for name, value in zip(words[2::2], words[3::2]):
            found[WORDS[name]] = float(value)
    except (KeyError, ValueError):
        raise wrong from None
    return found


def _add_pad(session: Session, _: Any) -> str:
    project = session.project
    if not project.actions.load_points:
        return "add a column first: a pad needs one"
    free = session.results.undesigned
    if not free:
        return "every column and wall has a foundation"
    first = first_size(project, free[0])
    why = changed(session, lambda p: edited(p, ("pads",), (*p.pads, first.pad)), first.words())
    if not why:
        session.select(first.pad.name)
    return why


PADS = Spec(
    "pads",
    lambda s: s.project.pads,
    _pad_columns,
    _add_pad,
    lambda s, row: changed(s, drop(("pads",), row)),
    "pad",
    "No pad yet. Add one: it takes the next column without a foundation, with a first size from the presumed pressure.",
    order=reordered("pads"),
)


def _type_columns(session: Session) -> list[Column]:
    return [
        Column("Type", lambda r: r.name, lambda r: ("types", r.name, "name"), kind="text", width=90),
        Column(
            "Pads",
            lambda r: ", ".join(p.name for p in session.project.pads if p.type == r.name),
            lambda r: (),
            kind="text",
            width=260,
            convert=computed,
            derived=True,
        ),
    ]


TYPES = Spec(
    "types",
    lambda s: s.project.types,
    _type_columns,
    lambda s, _: changed(s, append(("types",), PadType(name=unique("T", [t.name for t in s.project.types])))),
    lambda s, row: changed(s, drop(("types",), row)),
    "type",
    "No type yet. A type is a named group of pads with common settings.",
    order=reordered("types"),
)
