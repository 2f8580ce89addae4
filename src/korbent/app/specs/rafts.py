"""The table of rafts in Plan: what they have besides a base, each in a line of text."""

import re
from collections.abc import Callable
from typing import Any

from korbent.app.session import Session
from korbent.app.specs.construction import corners_of
from korbent.app.tables import Column, Spec
from korbent.core.concrete.bar_text import parsed, words
from korbent.core.model.foundations import Pad
from korbent.core.model.labels import key_of, label
from korbent.core.model.plate import Plate
from korbent.core.model.reinforcement import FACES
from korbent.core.quantity_text import parse
from korbent.core.units import SUBGRADE, Showing, UnitError, show_length, shown_unit
from korbent.words import say

NUMBER = r"([+\-−]?[\d.]+)"
REGION = re.compile(rf"\s*{NUMBER}\s*to\s*{NUMBER}\s*,\s*{NUMBER}\s*to\s*{NUMBER}\s*")
SIDES = ("x_from", "x_to", "y_from", "y_to")
HOW = say("from and to along x, then along y, in m from the middle, such as 0.8 to 2.6, -1 to 1")


def _region(text: str, whole: str) -> dict[str, float]:
    match = REGION.fullmatch(text)
    if not match:
        raise UnitError(say("'{whole}': type {how}", whole=whole.strip(), how=HOW))
    try:
        return {side: float(value.replace("−", "-")) for side, value in zip(SIDES, match.groups())}
    except ValueError as error:
        raise UnitError(f"'{whole.strip()}': {error}") from None


def _region_text(region: Any) -> str:
    return say(
        "{x_from:g} to {x_to:g}, {y_from:g} to {y_to:g}",
        x_from=region.x_from,
        x_to=region.x_to,
        y_from=region.y_from,
        y_to=region.y_to,
    )


def _number(text: str, whole: str) -> float:
    try:
        return float(text.strip().replace("−", "-"))
    except ValueError:
        raise UnitError(say("'{whole}': '{text}' is no number", whole=whole.strip(), text=text.strip())) from None


def _each(text: str, one: Callable[[str], dict[str, Any]]) -> tuple[dict[str, Any], ...]:
    return tuple(one(part) for part in text.split(";") if part.strip())


def _opening(part: str) -> dict[str, Any]:
    return dict(_region(part, part))


def _thickening(part: str) -> dict[str, Any]:
    region, colon, thickness = part.partition(":")
    if not colon:
        raise UnitError(
            say(
                "'{part}': after the region and a colon type the thickness in m, such as -1 to 1, -1 to 1: 0.8",
                part=part.strip(),
            )
        )
    return {**_region(region, part), "thickness": _number(thickness.removesuffix("m"), part)}


def _lower(part: str) -> dict[str, Any]:
    region, colon, rest = part.partition(":")
    drop, _, wall = rest.partition("step")
    if not (colon and drop.strip()):
        raise UnitError(
            say(
                "'{part}': after the region and a colon type by how much it lies lower, in m, such as -1 to 1, "
                "-1 to 1: 1.2 or ...: 1.2 step 0.4",
                part=part.strip(),
            )
        )
    found: dict[str, Any] = {**_region(region, part), "drop": _number(drop.strip().removesuffix("m"), part)}
    if wall.strip():
        found["wall"] = _number(wall.strip().removesuffix("m"), part)
    return found


def _lower_text(part: Any) -> str:
    step = say(" step {wall:g}", wall=part.wall) if part.wall else ""
    return f"{_region_text(part)}: {part.drop:g}{step}"


def _zone(part: str) -> dict[str, Any]:
    region, colon, k = part.partition(":")
    if not colon:
        raise UnitError(
            say(
                "'{part}': after the region and a colon type k in kN/m3, such as -5 to 0, -4 to 4: 12000",
                part=part.strip(),
            )
        )
    return {**_region(region, part), "subgrade": parse(k, SUBGRADE)}


def _added(part: str) -> dict[str, Any]:
    face, colon, rest = part.partition(":")
    region, second, bars = rest.partition(":")
    name = key_of(" ".join(face.split()), FACES)
    if not (colon and second) or name is None:
        raise UnitError(
            say(
                "'{part}': type face, region and bars, such as bottom x: -1 to 1, -2 to 2: 20 at 150", part=part.strip()
            )
        )
    try:
        return {**_region(region, part), "face": name, "bars": parsed(bars.strip())}
    except ValueError as error:
        raise UnitError(f"'{part.strip()}': {error}") from None


def _load(part: str) -> dict[str, Any]:
    case, colon, rest = part.partition(":")
    region, second, pressure = rest.partition(":")
    if not (colon and second):
        raise UnitError(
            say(
                "'{part}': type load case, region and pressure in kPa, such as Q: -1 to 1, -2 to 2: 5",
                part=part.strip(),
            )
        )
    return {
        **_region(region, part),
        "case": case.strip(),
        "pressure": _number(pressure.replace("kPa", ""), part),
    }


def _outline_text(pad: Pad, units: Showing) -> str | None:
    corners = ((x - pad.offset_x, y - pad.offset_y) for x, y in pad.outline)
    return "; ".join(f"{show_length(x, units)} {show_length(y, units)}" for x, y in corners) or None


def _outline(session: Session, pad: Pad, typed: str) -> tuple[tuple[float, float], ...]:
    return tuple((x + pad.offset_x, y + pad.offset_y) for x, y in corners_of(session)(typed))


def _columns(session: Session) -> list[Column]:
    us, showing = session.project.units == "us", session.project.showing

    def path(name: str) -> Callable[[Any], tuple[str | int, ...]]:
        return lambda r: ("pads", r.name, "plate", name)

    def lines(
        name: str, title: str, text: Callable[[Any], str], read: Callable[[str], Any], tip: str, width: int
    ) -> Column:
        return Column(
            title,
            lambda r: "; ".join(map(text, getattr(r.plate, name))) or None,
            path(name),
            kind="text",
            optional=True,
            empty=(),
            convert=lambda typed: _each(typed, read),
            width=width,
            tip=tip,
        )

    return [
        Column(say("Raft"), lambda r: r.name, lambda r: ("pads", r.name, "name"), kind="text", width=56),
        Column(
            say("Rests on"),
            lambda r: r.plate.ground,
            path("ground"),
            kind="key",
            width=92,
            choices=lambda _: ("springs", "layers"),
            tip=say(
                "springs of one stiffness, or the strata themselves: every part of the raft settles all of the ground"
            ),
        ),
        Column(
            say("Subgrade k"),
            lambda r: r.plate.subgrade,
            path("subgrade"),
            SUBGRADE,
            optional=True,
            width=92,
            tip=say(
                "modulus of subgrade reaction, of springs, such as 20000 kN/m3, 20 MPa/m or 70 pci; empty: pressure over the settlement by the strata"
            ),
        ),
        lines(
            "zones",
            say("Zones of k"),
            lambda z: f"{_region_text(z)}: {z.subgrade:g}",
            _zone,
            say("{how}: modulus of subgrade reaction, in kN/m3 or with its unit", how=HOW),
            170,
        ),
        Column(
            say("Lifts off"),
            lambda r: r.plate.lifts,
            path("lifts"),
            kind="yes",
            width=64,
            tip=say("the ground presses only; without it springs pull too"),
        ),
        Column(
            say("Greatest pressure"),
            lambda r: r.plate.greatest,
            path("greatest"),
            "kPa",
            optional=True,
            width=122,
            tip=say("of the ground, effective: it gives no more; empty: it goes on"),
        ),
        Column(
            say("Outline"),
            lambda r: _outline_text(r, showing),
            lambda r: ("pads", r.name, "outline"),
            kind="text",
            optional=True,
            empty=(),
            width=200,
            convert_in=lambda r, typed: _outline(session, r, typed),
            tip=say(
                "corners of a polygon in {unit} from the first column, along the axes of the raft: x y pairs "
                "divided by semicolons; empty: the rectangle",
                unit=shown_unit("m", showing),
            ),
        ),
        lines("openings", say("Openings"), _region_text, _opening, HOW, 190),
        lines(
            "thickenings",
            say("Thicker parts"),
            lambda t: f"{_region_text(t)}: {t.thickness:g}",
            _thickening,
            say("{how}: thickness in m", how=HOW),
            200,
        ),
        lines(
            "lower",
            say("Lower parts"),
            _lower_text,
            _lower,
            say(
                "{how}: by how much it lies lower, in m, such as a lift pit; 'step 0.4' makes the wall around "
                "it thicker than the raft",
                how=HOW,
            ),
            190,
        ),
        lines(
            "added",
            say("Added bars"),
            lambda a: f"{label(a.face)}: {_region_text(a)}: {words(a.bars, us)}",
            _added,
            say("face, region and bars, such as bottom x: -1 to 1, -2 to 2: 20 at 150; several after ;"),
            260,
        ),
        lines(
            "loads",
            say("Loads on it"),
            lambda q: f"{q.case}: {_region_text(q)}: {q.pressure:g}",
            _load,
            say("load case, region and pressure in kPa, such as Q: -1 to 1, -2 to 2: 5"),
            190,
        ),
        Column(
            say("E of concrete"),
            lambda r: r.plate.modulus,
            path("modulus"),
            "kPa",
            optional=True,
            width=100,
            tip=say("empty: by its strength"),
        ),
        Column(
            say("Walls"),
            lambda r: r.plate.walls,
            path("walls"),
            "m",
            optional=True,
            width=70,
            tip=say("height of the concrete walls on it that stiffen it; empty: they press only"),
        ),
        Column(
            say("Creep φ"),
            lambda r: r.plate.creep,
            path("creep"),
            width=76,
            tip=say(
                "of the concrete: under lasting load E/(1 + φ), such as 1.8; strength is then checked with both moduli; 0: one modulus"
            ),
        ),
        Column(
            say("Mesh"),
            lambda r: r.plate.mesh,
            path("mesh"),
            "m",
            optional=True,
            width=70,
            tip=say("greatest size of elements; empty: by the distances of the columns"),
        ),
        Column(
            say("Cells"),
            lambda r: r.plate.cells,
            path("cells"),
            kind="number",
            optional=True,
            width=62,
            tip=say(
                "of pressure along each side, where it rests on the strata: 12 to 28; empty: 16. More of them tell how exact it is, and take longer"
            ),
        ),
    ]


RAFTS = Spec(
    "rafts",
    lambda s: tuple(p for p in s.project.pads if p.kind == "raft"),
    _columns,
    noun=say("raft"),
    empty=say("No raft yet: mark columns and walls in the plan and press Raft."),
)

assert set(Plate.model_fields) >= {
    "ground",
    "subgrade",
    "lifts",
    "greatest",
    "zones",
    "openings",
    "thickenings",
    "lower",
    "added",
    "loads",
    "modulus",
    "creep",
    "walls",
    "mesh",
    "cells",
}
