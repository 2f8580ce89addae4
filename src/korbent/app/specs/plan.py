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
from korbent.words import say


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
            say("16 at 150 (mm), 12 no 16, #5 at 9 in, or a fabric such as SL82 or A393"),
        )

    def edge(side: str) -> Column:
        return Column(
            say("Edge {side}", side=side),
            lambda r: r.edge(side),
            lambda r: (*path(r), "edge", side),
            "m",
            width=62,
            tip=say(
                "from the column's axis to the {side} edge; the opposite edge stays when this is changed", side=side
            ),
        )

    def worst(row: Any) -> str:
        found = session.results.pad(row.name).worst
        return show_ratio(found.ratio) if found.ratio is not None else found.state.word

    return [
        f("name", say("Pad"), kind="text", width=56),
        Column(say("Worst"), worst, lambda r: (), kind="text", width=70, convert=computed, derived=True),
        Column(
            say("Under"),
            lambda r: r.load_point,
            lambda r: (*path(r), "load_point"),
            kind="choice",
            choices=lambda s: [p.name for p in s.project.actions.load_points],
            width=64,
        ),
        Column(
            say("Type"),
            lambda r: r.type,
            lambda r: (*path(r), "type"),
            kind="choice",
            optional=True,
            choices=lambda s: [t.name for t in s.project.types],
            width=58,
        ),
        f(
            "kind",
            say("Kind"),
            kind="key",
            choices=("pad", "strip", "raft"),
            width=52,
            tip=say("a strip stands under a wall: its length follows the wall; a raft bends"),
        ),
        f("shape", say("Shape"), kind="key", choices=("rectangle", "circle", "ring", "trapezoid"), width=74),
        f("width", "B", tip=say("along x; of a circle or ring its diameter")),
        f("length", "L", tip=say("along y; of a trapezoid that of its end at −x")),
        f("thickness", "h"),
        f("level", say("Level")),
        f("held", say("Held face"), kind="key", choices=("underside", "top"), width=84),
        f("rotation", say("Turned")),
        f("offset_x", say("Offset x"), tip=say("column from the middle of the pad")),
        f("offset_y", say("Offset y")),
        *(edge(side) for side in ("-x", "+x", "-y", "+y")),
        f(
            "hold_x",
            say("Held in x"),
            kind="key",
            choices=("middle", "-x", "+x"),
            width=66,
            tip=say("what stays when B changes: the middle, or the edge at a boundary"),
        ),
        f("hold_y", say("Held in y"), kind="key", choices=("middle", "-y", "+y"), width=66),
        f(
            "frozen",
            say("Frozen"),
            kind="key",
            choices=("", "issued", "poured"),
            width=64,
            tip=say("issued or poured: nothing resizes it"),
        ),
        f("hole", say("Hole"), tip=say("diameter of the hole of a ring")),
        f("far_length", say("Far L"), tip=say("of a trapezoid the length of its end at +x")),
        Column(
            say("Also under"),
            lambda r: r.further,
            lambda r: (*path(r), "further"),
            kind="words",
            width=84,
            tip=say("more columns and walls on the same base, such as B2, B3"),
        ),
        bars("bottom_x", say("Bottom x")),
        bars("bottom_y", say("Bottom y")),
        bars("top_x", say("Top x")),
        bars("top_y", say("Top y")),
        Column(
            say("Pedestal"),
            lambda r: pedestal_text(r.pedestal, units),
            lambda r: (*path(r), "pedestal"),
            kind="text",
            optional=True,
            convert=lambda text: pedestal_of(text, units),
            width=120,
            tip=say(
                "sizes and level of its top, its bars and ties, such as 0.6 x 0.6 to 3.2, 8 ø 16, ties 10 at 150; round: ø 0.6 to 3.2, 8 ø 16, spiral 10 at 60; if other than of the base: cover 50, concrete 35"
            ),
        ),
        Column(
            say("Pedestals of others"),
            lambda r: pedestals_text(r.pedestals, units),
            lambda r: (*path(r), "pedestals"),
            kind="text",
            optional=True,
            convert=lambda text: pedestals_of(text, units),
            empty={},
            width=140,
            tip=say(
                "under the columns of Also under, one after the other, such as B2: 0.6 x 0.6 to 3.2; B3: ø 0.6 to 3.2, 8 ø 16"
            ),
        ),
        Column(
            say("Replacement below"),
            lambda r: _replacement_text(r.replacement),
            lambda r: (*path(r), "replacement"),
            kind="text",
            optional=True,
            convert=_replacement,
            width=210,
            tip=say(
                "granular 0.8 spread 0.5 φ 38 weight 20, or concrete 0.6 spread 1 stress 5000 (m, degrees, kN/m³, kPa)"
            ),
        ),
    ]


def _replacement_text(given: Replacement | None) -> str | None:
    if given is None:
        return None
    own = (
        f"φ {given.friction_angle:g}"
        if given.kind == "granular"
        else say("stress {strength:g}", strength=given.strength)
    )
    return say(
        "{kind} {thickness:g} spread {spread:g} {own} weight {weight:g}",
        kind=given.kind,
        thickness=given.thickness,
        spread=given.spread,
        own=own,
        weight=given.weight,
    )


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
        say(
            "'{text}': type kind and thickness in m, such as granular 0.8 spread 0.5 φ 38, or concrete 0.6 "
            "spread 1 stress 5000",
            text=text,
        )
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
        return say("add a column first: a pad needs one")
    free = session.results.undesigned
    if not free:
        return say("every column and wall has a foundation")
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
    say("pad"),
    say(
        "No pad yet. Add one: it takes the next column without a foundation, with a first size from the presumed pressure."
    ),
    order=reordered("pads"),
)


def _type_columns(session: Session) -> list[Column]:
    return [
        Column(say("Type"), lambda r: r.name, lambda r: ("types", r.name, "name"), kind="text", width=90),
        Column(
            say("Pads"),
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
    say("type"),
    say("No type yet. A type is a named group of pads with common settings."),
    order=reordered("types"),
)
