"""The tables of area loads and construction steps."""

import datetime
from typing import Any, get_args

from korbent.app.session import Session
from korbent.app.specs.common import append, changed, computed, drop, field, listed, reordered, unique
from korbent.app.tables import Column, Spec
from korbent.core.model import AreaLoad, BandDrains, ConstructionStep, SettlementMark
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError, factor, show, show_length, shown_unit
from korbent.words import say


def corners_of(session: Session) -> Any:
    """Reads an outline: corners as x, y pairs divided by semicolons, in the shown unit of length."""
    unit = shown_unit("m", session.project.showing)

    def read(text: Any) -> tuple[tuple[float, float], ...]:
        corners = []
        for part in str(text).split(";"):
            numbers = part.replace("(", " ").replace(")", " ").replace(",", " ").split()
            if not numbers:
                continue
            if len(numbers) != 2:
                raise UnitError(
                    say("'{part}' is no corner: write x y pairs such as 0 0; 4.5 0; 4.5 3", part=part.strip())
                )
            corners.append((parse(numbers[0], "") * factor(unit, "m"), parse(numbers[1], "") * factor(unit, "m")))
        return tuple(corners)

    return read


def _area_columns(session: Session) -> list[Column]:
    path = listed("actions", "area_loads")
    units = session.project.showing
    shapes = get_args(AreaLoad.model_fields["shape"].annotation)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(AreaLoad, name, title, path, **more)

    return [
        f("name", say("Area load"), kind="text", width=100),
        f(
            "shape",
            say("Shape"),
            kind="key",
            choices=shapes,
            tip=say("set the outline before choosing polygon, the height before embankment"),
        ),
        f("x", "x", tip=say("middle of a rectangle, a circle or the crest of an embankment")),
        f("y", "y"),
        f("size_x", say("Size x"), tip=say("of the rectangle or the crest; the diameter of a circle")),
        f("size_y", say("Size y")),
        f("rotation", say("Turned")),
        f("level", say("Level"), tip=say("at which it acts")),
        f("pressure", say("Pressure"), tip=say("of rectangles, circles and polygons")),
        f("height", say("Height"), optional=True, tip=say("of an embankment")),
        f("weight", say("γ fill"), tip=say("of an embankment")),
        f("slope", say("Slope 1 :"), tip=say("horizontal to one vertical, of all sides of an embankment")),
        Column(
            say("Outline"),
            lambda a: "; ".join(f"{show_length(x, units)} {show_length(y, units)}" for x, y in a.outline),
            lambda a: ("actions", "area_loads", a.name, "outline"),
            kind="text",
            width=200,
            convert=corners_of(session),
            tip=say("corners of a polygon in {unit}: x y pairs divided by semicolons", unit=shown_unit("m", units)),
        ),
    ]


AREAS = Spec(
    "areas",
    lambda s: s.project.actions.area_loads,
    _area_columns,
    lambda s, _: changed(
        s,
        append(
            ("actions", "area_loads"),
            AreaLoad(
                name=unique(say("Area "), [a.name for a in s.project.actions.area_loads]),
                size_x=5.0,
                size_y=5.0,
                level=s.project.ground.surfaces.finished,
            ),
        ),
    ),
    lambda s, row: changed(s, drop(("actions", "area_loads"), row)),
    say("area load"),
    say("No area load yet: fills, stockpiles and embankments that load the ground beside the foundations."),
    order=reordered("actions", "area_loads"),
)


def _drain_columns(session: Session) -> list[Column]:
    path = listed("actions", "drains")

    def f(name: str, title: str, **more: Any) -> Column:
        return field(BandDrains, name, title, path, **more)

    return [
        f("name", say("Drains"), kind="text", width=90),
        f("x", "x", tip=say("middle of the rectangle in which they stand")),
        f("y", "y"),
        f("size_x", say("Size x")),
        f("size_y", say("Size y")),
        f("rotation", say("Turned")),
        f("level", say("Down to")),
        f("pattern", say("Pattern"), kind="key", choices=("triangular", "square"), width=84),
        f("spacing", say("Spacing")),
        f("drain", "d w", tip=say("equivalent diameter; of a band b x t it is 2 (b + t)/π")),
        f("smear", "d s / d w", tip=say("smear zone over drain")),
        f("smear_permeability", "kh / ks", tip=say("permeability of the ground over that of the smear zone")),
        f("discharge", "q w, m³/d", optional=True, tip=say("capacity of a drain; empty: no well resistance"), width=74),
    ]


DRAINS = Spec(
    "drains",
    lambda s: s.project.actions.drains,
    _drain_columns,
    lambda s, _: changed(
        s,
        append(
            ("actions", "drains"), BandDrains(name=unique(say("Drains "), [d.name for d in s.project.actions.drains]))
        ),
    ),
    lambda s, row: changed(s, drop(("actions", "drains"), row)),
    say("field of drains"),
    say(
        "No band drains yet: vertical drains over a rectangle of the plan that hasten consolidation; Settlement shows it with and without."
    ),
    order=reordered("actions", "drains"),
)


def _mark_columns(session: Session) -> list[Column]:
    path = listed("actions", "marks")

    def settled(row: Any) -> str:
        from korbent.core.settlement.history import mark_history

        found = mark_history(session.project, row)
        if found.why:
            return found.why
        units = session.project.showing
        day = session.day if session.day is not None else float(found.times[-1])
        return f"{show(1000 * found.at(day), 'mm', units)} {shown_unit('mm', units)}"

    def f(name: str, title: str, **more: Any) -> Column:
        return field(SettlementMark, name, title, path, **more)

    return [
        f("name", say("Settlement mark"), kind="text", width=110),
        f("x", "x"),
        f("y", "y"),
        f("level", say("Level"), optional=True, tip=say("empty: at the excavated, else finished ground")),
        f("limit", say("Limit"), optional=True, tip=say("settlement, at most; empty: it is said, not checked")),
        Column(
            say("Settlement"),
            settled,
            lambda r: (),
            kind="text",
            width=220,
            convert=computed,
            derived=True,
            tip=say(
                "of the ground at its level, at the moment shown in Settlement; of the end and against its limit in the list of checks"
            ),
        ),
    ]


MARKS = Spec(
    "marks",
    lambda s: s.project.actions.marks,
    _mark_columns,
    lambda s, _: changed(
        s, append(("actions", "marks"), SettlementMark(name=unique("M", [m.name for m in s.project.actions.marks])))
    ),
    lambda s, row: changed(s, drop(("actions", "marks"), row)),
    say("mark"),
    say("No settlement mark yet: a point of the plan whose settlement is wanted, beside the foundations."),
    order=reordered("actions", "marks"),
)


def _date(text: Any) -> datetime.date:
    typed = str(text).strip()
    for form in ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y"):
        try:
            return datetime.datetime.strptime(typed, form).date()
        except ValueError:
            continue
    raise UnitError(say("'{typed}' is no date: type year-month-day such as 2027-05-17", typed=typed))


def _construction_columns(session: Session) -> list[Column]:
    path = listed("actions", "steps")
    actions = session.project.actions
    columns = [
        field(ConstructionStep, "name", say("Step"), path, "text", width=150),
        Column(
            say("From"),
            lambda r: r.date.isoformat(),
            lambda r: (*path(r), "date"),
            kind="text",
            width=100,
            convert=_date,
            tip=say("the day on which the step begins"),
        ),
        field(ConstructionStep, "ramp", say("Takes"), path, tip=say("until the change is complete")),
        field(
            ConstructionStep,
            "water",
            say("Water"),
            path,
            kind="key",
            choices=("low", "normal", "high"),
            width=70,
            tip=say("the water level from then on"),
        ),
    ]

    def share_of(name: str) -> Column:
        return Column(
            name,
            lambda r: r.factors.get(name),
            lambda r: (*path(r), "factors", name),
            optional=True,
            width=66,
            tip=say("share that acts in this step; empty: none"),
        )

    for name in (*(c.name for c in actions.cases), *(a.name for a in actions.area_loads)):
        columns.append(share_of(name))
    return columns


def _add_construction_step(session: Session, _: Any) -> str:
    steps = session.project.actions.steps
    last = steps[-1] if steps else None
    new = ConstructionStep(
        name=unique(say("Step "), [s.name for s in steps]),
        date=last.date + datetime.timedelta(days=30) if last else datetime.date.today(),
        factors=last.factors if last else {},
    )
    return changed(session, append(("actions", "steps"), new))


CONSTRUCTION = Spec(
    "steps",
    lambda s: s.project.actions.steps,
    _construction_columns,
    _add_construction_step,
    lambda s, row: changed(s, drop(("actions", "steps"), row)),
    say("step"),
    say("No construction step yet: a moment from which on load cases and area loads act, with its date."),
)
