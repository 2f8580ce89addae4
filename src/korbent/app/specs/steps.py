"""The tables of area loads and construction steps."""

import datetime
from typing import Any, get_args

from korbent.app.session import Session
from korbent.app.specs.common import append, changed, drop, field, listed, reordered, unique
from korbent.app.tables import Column, Spec
from korbent.core.model import AreaLoad, ConstructionStep
from korbent.core.units import UnitError, factor, parse, show_length, shown_unit


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
                raise UnitError(f"'{part.strip()}' is no corner: write x y pairs such as 0 0; 4.5 0; 4.5 3")
            corners.append(
                (parse(numbers[0], "") * factor(unit, "m"), parse(numbers[1], "") * factor(unit, "m"))
            )
        return tuple(corners)

    return read


def _area_columns(session: Session) -> list[Column]:
    path = listed("actions", "area_loads")
    units = session.project.showing
    shapes = get_args(AreaLoad.model_fields["shape"].annotation)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(AreaLoad, name, title, path, **more)

    return [
        f("name", "Area load", kind="text", width=100),
        f("shape", "Shape", kind="choice", choices=shapes, tip="set the outline before choosing polygon, the height before embankment"),
        f("x", "x", tip="middle of a rectangle, a circle or the crest of an embankment"),
        f("y", "y"),
        f("size_x", "Size x", tip="of the rectangle or the crest; the diameter of a circle"),
        f("size_y", "Size y"),
        f("rotation", "Turned"),
        f("level", "Level", tip="at which it acts"),
        f("pressure", "Pressure", tip="of rectangles, circles and polygons"),
        f("height", "Height", optional=True, tip="of an embankment"),
        f("weight", "γ fill", tip="of an embankment"),
        f("slope", "Slope 1 :", tip="horizontal to one vertical, of all sides of an embankment"),
        Column(
            "Outline", lambda a: "; ".join(f"{show_length(x, units)} {show_length(y, units)}" for x, y in a.outline),
            lambda a: ("actions", "area_loads", a.name, "outline"), kind="text", width=200, convert=corners_of(session),
            tip=f"corners of a polygon in {shown_unit('m', units)}: x y pairs divided by semicolons",
        ),
    ]  # fmt: skip


AREAS = Spec(
    "areas", lambda s: s.project.actions.area_loads, _area_columns,
    lambda s, _: changed(
        s,
        append(
            ("actions", "area_loads"),
            AreaLoad(name=unique("Area ", [a.name for a in s.project.actions.area_loads]), size_x=5.0, size_y=5.0,
                     level=s.project.ground.surfaces.finished),
        ),
    ),
    lambda s, row: changed(s, drop(("actions", "area_loads"), row)), "area load",
    "No area load yet: fills, stockpiles and embankments that load the ground beside the foundations.",
    order=reordered("actions", "area_loads"),
)  # fmt: skip


def _date(text: Any) -> datetime.date:
    typed = str(text).strip()
    for form in ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y"):
        try:
            return datetime.datetime.strptime(typed, form).date()
        except ValueError:
            continue
    raise UnitError(f"'{typed}' is no date: type year-month-day such as 2027-05-17")


def _step_columns(session: Session) -> list[Column]:
    path = listed("actions", "steps")
    actions = session.project.actions
    columns = [
        field(ConstructionStep, "name", "Step", path, "text", width=150),
        Column("From", lambda r: r.date.isoformat(), lambda r: (*path(r), "date"), kind="text", width=100, convert=_date,
               tip="the day on which the step begins"),
        field(ConstructionStep, "ramp", "Takes", path, tip="until the change is complete"),
    ]  # fmt: skip
    for name in (*(c.name for c in actions.cases), *(a.name for a in actions.area_loads)):
        columns.append(
            Column(name, lambda r, n=name: r.factors.get(n), lambda r, n=name: (*path(r), "factors", n), optional=True, width=66,
                   tip="share that acts in this step; empty: none")
        )  # fmt: skip
    return columns


def _add_step(session: Session, _: Any) -> str:
    steps = session.project.actions.steps
    last = steps[-1] if steps else None
    new = ConstructionStep(
        name=unique("Step ", [s.name for s in steps]),
        date=last.date + datetime.timedelta(days=30) if last else datetime.date.today(),
        factors=last.factors if last else {},
    )
    return changed(session, append(("actions", "steps"), new))


STEPS = Spec(
    "steps", lambda s: s.project.actions.steps, _step_columns, _add_step,
    lambda s, row: changed(s, drop(("actions", "steps"), row)), "step",
    "No construction step yet: a moment from which on load cases and area loads act, with its date.",
)  # fmt: skip
