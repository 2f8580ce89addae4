"""The tables of the site: boundaries and obstacles, grids, ranges of sizes, rates, and what is in conflict."""

from typing import Any, get_args

from korbent.app.session import Session
from korbent.app.specs.common import (
    append,
    changed,
    computed,
    drop,
    field,
    label_only,
    reordered,
    unique,
)
from korbent.app.specs.construction import corners_of
from korbent.app.tables import Column, Spec
from korbent.core.concrete.pedestal_dimensions import FIELDS as PEDESTAL
from korbent.core.concrete.pedestal_dimensions import range_of as pedestal_range
from korbent.core.dimensions import dimensions_of
from korbent.core.kinds import kind_of
from korbent.core.model.foundations import RANGED, Pad
from korbent.core.model.site import Grid, Outline, Range, Rates
from korbent.core.plan.site import conflicts
from korbent.core.quantity_text import parse
from korbent.core.sizing.propose import range_of
from korbent.core.sizing.straps import range_of as strap_range
from korbent.core.straps.dimensions import NAMES as STRAP
from korbent.core.straps.dimensions import strap_of
from korbent.core.units import factor, show_length, shown_unit
from korbent.words import say


def _outline_columns(session: Session) -> list[Column]:
    units = session.project.showing

    def path(row: Outline) -> tuple[str, str]:
        return ("site", row.name)

    kinds = get_args(Outline.model_fields["kind"].annotation)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Outline, name, title, path, **more)

    return [
        f("name", say("Outline"), kind="text", width=120),
        f(
            "kind",
            say("Kind"),
            kind="key",
            choices=kinds,
            width=130,
            tip=say("no base may cross a boundary or touch an obstacle; an underlay is only drawn"),
        ),
        f("closed", say("Closed"), kind="yes", width=60, tip=say("a closed boundary holds the bases inside")),
        Column(
            say("Points"),
            lambda o: "; ".join(f"{show_length(x, units)} {show_length(y, units)}" for x, y in o.points),
            lambda o: ("site", o.name, "points"),
            kind="text",
            width=420,
            convert=corners_of(session),
            tip=say("in {unit}: x y pairs divided by semicolons", unit=shown_unit("m", units)),
        ),
    ]


def _around(session: Session) -> tuple[tuple[float, float], ...]:
    """A first boundary: 3 m around all columns."""
    points = session.project.actions.load_points
    xs, ys = [p.x for p in points] or [0.0, 10.0], [p.y for p in points] or [0.0, 10.0]
    x0, x1, y0, y1 = min(xs) - 3, max(xs) + 3, min(ys) - 3, max(ys) + 3
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


SITE = Spec(
    "site",
    lambda s: s.project.site,
    _outline_columns,
    lambda s, _: changed(
        s,
        append(("site",), Outline(name=unique(say("Boundary "), [o.name for o in s.project.site]), points=_around(s))),
    ),
    lambda s, row: changed(s, drop(("site",), row)),
    say("outline"),
    say(
        "No boundary yet. One that is added goes 3 m around the columns; obstacles and existing foundations are outlines too."
    ),
    order=reordered("site"),
)


def _positions(session: Session) -> Any:
    """Reads positions of grid lines: numbers in the shown unit, divided by blanks or semicolons."""
    unit = shown_unit("m", session.project.showing)

    def read(text: Any) -> Any:
        return tuple(parse(part, "") * factor(unit, "m") for part in str(text).replace(";", " ").split())

    return read


def _grid_columns(session: Session) -> list[Column]:
    units = session.project.showing

    def path(row: Grid) -> tuple[str, str]:
        return ("grids", row.name)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Grid, name, title, path, **more)

    def lines(name: str, title: str) -> Column:
        return Column(
            title,
            lambda g: " ".join(show_length(v, units) for v in getattr(g, name)),
            lambda g: ("grids", g.name, name),
            kind="text",
            width=240,
            convert=_positions(session),
            tip=say("distances from the origin in {unit}, divided by blanks", unit=shown_unit("m", units)),
        )

    return [
        f("name", say("Grid"), kind="text", width=90),
        f("x", say("Origin x")),
        f("y", say("Origin y")),
        f("rotation", say("Turned")),
        lines("along_x", say("Lines across x")),
        lines("along_y", say("Lines across y")),
    ]


GRIDS = Spec(
    "grids",
    lambda s: s.project.grids,
    _grid_columns,
    lambda s, _: changed(
        s,
        append(
            ("grids",),
            Grid(
                name=unique(say("Grid "), [g.name for g in s.project.grids]),
                along_x=tuple(sorted({round(p.x, 3) for p in s.project.actions.load_points})),
                along_y=tuple(sorted({round(p.y, 3) for p in s.project.actions.load_points})),
            ),
        ),
    ),
    lambda s, row: changed(s, drop(("grids",), row)),
    say("grid"),
    say("No grid yet. One that is added goes through the columns; it can be turned."),
    order=reordered("grids"),
)

RANGE_LABELS = {
    "width": say("Width B"),
    "length": say("Length L"),
    "thickness": say("Thickness h"),
    "level": say("Level"),
    "pedestal_x": say("Pedestal x"),
    "pedestal_y": say("Pedestal y"),
    "strap_width": say("Strap width"),
    "strap_depth": say("Strap depth"),
}


def _range_columns(session: Session) -> list[Column]:
    pad = session.pad
    if pad is None:
        return []
    units = session.project.units

    follows = kind_of(pad).follows(pad, session.project.load_point(pad.load_point))

    strap = strap_of(session.project, pad)

    def owner(name: str) -> tuple[str, str, str]:
        """Where a range is kept: (table, whose, of what)."""
        if strap is not None and name in STRAP:
            return "straps", strap.name, name.removeprefix("strap_")
        return "pads", pad.name, name

    def path(name: str, part: str) -> tuple[str | int, ...]:
        table, whose, what = owner(name)
        return (table, whose, "ranges", what, part)

    def of(name: str) -> Range:
        if strap is not None and name in STRAP:
            what = owner(name)[2]
            return strap.ranges.get(what) or Range(pinned=what == "width")
        return pad.ranges.get(name) or Range(pinned=name in ("level", follows))

    def now(name: str) -> tuple[Any, tuple[str | int, ...]]:
        """The size as it is, and where it stands."""
        if strap is not None and name in STRAP:
            table, whose, what = owner(name)
            return getattr(strap, what), (table, whose, what)
        if name in PEDESTAL:
            return getattr(pad.pedestal, PEDESTAL[name]), ("pads", pad.name, "pedestal", PEDESTAL[name])
        return getattr(pad, name), ("pads", pad.name, name)

    def number(title: str, part: str, tip: str) -> Column:
        return Column(
            title,
            lambda n: getattr(of(n), part),
            lambda n: path(n, part),
            "m",
            optional=True,
            width=100,
            tip=tip,
        )

    return [
        Column(
            f"{pad.name}",
            lambda n: RANGE_LABELS[n],
            lambda n: (),
            kind="text",
            width=110,
            convert=label_only,
            derived=True,
        ),
        Column(say("Now"), lambda n: now(n)[0], lambda n: now(n)[1], "m", width=90),
        Column(
            say("Pinned"),
            lambda n: of(n).pinned,
            lambda n: path(n, "pinned"),
            kind="yes",
            width=64,
            tip=say("a proposal leaves it as it is"),
        ),
        number(say("At least"), "low", say("empty: no limit of its own")),
        number(say("At most"), "high", say("empty: no limit of its own")),
        number(say("Raster"), "step", say("empty: the usual step")),
        Column(
            say("Proposals look at"),
            lambda n: (
                say("as it is")
                if (r := _looked_at(session, pad, n, units, follows))[0] == r[1]
                else say(
                    "{length} to {show_length_2}",
                    length=show_length(r[0], session.project.showing),
                    show_length_2=show_length(r[1], session.project.showing),
                )
            ),
            lambda n: (),
            kind="text",
            width=140,
            convert=computed,
            derived=True,
        ),
    ]


def _looked_at(session: Session, pad: Pad, name: str, units: str, follows: str) -> tuple[float, float]:
    strap = strap_of(session.project, pad)
    if strap is not None and name in STRAP:
        low, high, _ = strap_range(session.project, strap, name.removeprefix("strap_"))
        return low, high
    if name in PEDESTAL:
        column = session.project.load_point(pad.load_point)
        return pedestal_range(pad, name, column.size_x if name == "pedestal_x" else column.size_y)
    return range_of(pad, name, units, follows)[:2]


def _ranged(session: Session) -> tuple[str, ...]:
    pad = session.pad
    if pad is None:
        return ()
    own = (n for n in RANGED if n not in PEDESTAL or n in dimensions_of(session.project, pad, "pedestal"))
    return (*own, *(STRAP if strap_of(session.project, pad) is not None else ()))


RANGES = Spec("ranges", _ranged, _range_columns)


def _rate_columns(session: Session) -> list[Column]:
    rates = session.project.rates
    return [
        Column(
            say("Rate"),
            lambda n: Rates.model_fields[n].title,
            lambda n: (),
            kind="text",
            width=260,
            convert=label_only,
            derived=True,
        ),
        Column(
            say("Value"),
            lambda n: getattr(rates, n),
            lambda n: ("rates", n),
            width=110,
            tip=say("cost in your own currency; carbon in kg CO₂e"),
        ),
    ]


RATES = Spec("rates", lambda _: tuple(Rates.model_fields), _rate_columns)


def _conflict_columns(session: Session) -> list[Column]:
    def result(title: str, get: Any, width: int) -> Column:
        return Column(title, get, lambda r: (), kind="text", width=width, convert=computed, derived=True)

    return [
        result(say("What"), lambda c: c.kind, 70),
        result(say("Base"), lambda c: c.first, 70),
        result(say("and"), lambda c: c.second, 70),
        result(say("Why, and what to do"), lambda c: c.text, 640),
    ]


CONFLICTS = Spec("conflicts", lambda s: conflicts(s.project), _conflict_columns)
