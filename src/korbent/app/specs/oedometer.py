"""The tables of oedometer tests: load steps, and readings over time."""

from typing import Any

from korbent.app.session import Session
from korbent.app.specs.common import changed
from korbent.app.tables import Column, Spec
from korbent.core.model import Borehole, Oedometer, Readings, edited
from korbent.core.units import UnitError
from korbent.words import say

LoadStep = tuple[Borehole, int, int]


def _with(row: Any, test: Oedometer | None) -> tuple[Oedometer, ...]:
    """The tests of the row's borehole with its own exchanged (None: without it)."""
    hole, at = row[0], row[1]
    kept = () if test is None else (test,)
    return (*hole.oedometers[:at], *kept, *hole.oedometers[at + 1 :])


def _put(session: Session, hole: Borehole, tests: tuple[Oedometer, ...]) -> str:
    return changed(session, lambda p: edited(p, ("ground", "boreholes", hole.name, "oedometers"), tests))


def _load_steps(session: Session) -> list[LoadStep]:
    return [
        (h, i, k)
        for h in session.project.ground.boreholes
        for i, test in enumerate(h.oedometers)
        for k in range(len(test.points))
    ]


def _load_step_columns(_: Session) -> list[Column]:
    def test(row: LoadStep) -> Oedometer:
        return row[0].oedometers[row[1]]

    def path(row: LoadStep, *rest: str | int) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "oedometers", row[1], *rest)

    def point(position: int) -> Any:
        return lambda row: (*path(row, "points"), row[2], position)

    return [
        Column(say("Borehole"), lambda r: r[0].name, lambda r: (), kind="text", convert=_label, derived=True, width=90),
        Column(say("Sample"), lambda r: test(r).sample, lambda r: path(r, "sample"), kind="text", width=90),
        Column(
            say("Depth"),
            lambda r: test(r).depth,
            lambda r: path(r, "depth"),
            "m",
            tip=say("below the ground level of the borehole"),
        ),
        Column("e0", lambda r: test(r).void_ratio, lambda r: path(r, "void_ratio"), tip=say("void ratio at the start")),
        Column(say("Step"), lambda r: r[2] + 1, lambda r: (), convert=_label, derived=True, width=50),
        Column(
            say("Stress"),
            lambda r: test(r).points[r[2]][0],
            point(0),
            "kPa",
            tip=say("effective stress at the end of the step"),
        ),
        Column("e", lambda r: test(r).points[r[2]][1], point(1), tip=say("void ratio at the end of the step")),
    ]


def _label(_: Any) -> Any:
    raise UnitError(say("this is a label: the values stand to the right of it"))


def _add_load_step(session: Session, row: Any) -> str:
    holes = session.project.ground.boreholes
    if not holes:
        return say("add a borehole first")
    if row is None:
        names = {o.sample for h in holes for o in h.oedometers}
        name = next(f"S{i}" for i in range(1, 10_000) if f"S{i}" not in names)
        new = Oedometer(sample=name, depth=2.0, void_ratio=0.9, points=((25.0, 0.88), (50.0, 0.86), (100.0, 0.82)))
        return _put(session, holes[0], (*holes[0].oedometers, new))
    hole, at, k = row
    test = hole.oedometers[at]
    stress, void = test.points[k]
    points = (*test.points[: k + 1], (2 * stress, round(void * 0.95, 3)), *test.points[k + 1 :])
    return _put(session, hole, _with(row, test.replaced(points=points)))


def _remove_load_step(session: Session, row: Any) -> str:
    hole, at, k = row
    test = hole.oedometers[at]
    if len(test.points) <= 2:
        return _put(session, hole, _with(row, None))
    return _put(session, hole, _with(row, test.replaced(points=test.points[:k] + test.points[k + 1 :])))


OEDOMETERS = Spec(
    "oedometers",
    _load_steps,
    _load_step_columns,
    _add_load_step,
    _remove_load_step,
    say("step"),
    say(
        "No oedometer test yet. Each row is one step: effective stress and void ratio at its end, unloading steps too."
    ),
)


def _readings(session: Session) -> list[tuple[Borehole, int, int, int]]:
    return [
        (h, i, k, j)
        for h in session.project.ground.boreholes
        for i, test in enumerate(h.oedometers)
        for k, each in enumerate(test.readings)
        for j in range(len(each.points))
    ]


def _reading_columns(_: Session) -> list[Column]:
    def readings_of(row: Any) -> Readings:
        return row[0].oedometers[row[1]].readings[row[2]]  # type: ignore[no-any-return]

    def path(row: Any, *rest: str | int) -> tuple[str | int, ...]:
        return ("ground", "boreholes", row[0].name, "oedometers", row[1], "readings", row[2], *rest)

    return [
        Column(say("Borehole"), lambda r: r[0].name, lambda r: (), kind="text", convert=_label, derived=True, width=90),
        Column(
            say("Sample"),
            lambda r: r[0].oedometers[r[1]].sample,
            lambda r: (),
            kind="text",
            convert=_label,
            derived=True,
            width=90,
        ),
        Column(say("Step to"), lambda r: readings_of(r).stress, lambda r: path(r, "stress"), "kPa"),
        Column(
            say("Height"),
            lambda r: readings_of(r).height,
            lambda r: path(r, "height"),
            "mm",
            tip=say("of the sample at the start of the step"),
        ),
        Column(say("Time"), lambda r: readings_of(r).points[r[3]][0], lambda r: (*path(r, "points"), r[3], 0), "min"),
        Column(
            say("Settlement"),
            lambda r: readings_of(r).points[r[3]][1],
            lambda r: (*path(r, "points"), r[3], 1),
            "mm",
            tip=say("of the sample since the step began"),
        ),
    ]


def _add_reading(session: Session, row: Any) -> str:
    if row is None:
        found = [(h, i) for h in session.project.ground.boreholes for i in range(len(h.oedometers))]
        if not found:
            return say("add an oedometer test first")
        hole, at = found[0]
        test = hole.oedometers[at]
        new = Readings(stress=test.points[-1][0], points=((0.25, 0.05), (1.0, 0.10), (4.0, 0.20)))
        return _put(session, hole, _with((hole, at), test.replaced(readings=(*test.readings, new))))
    hole, at, k, j = row
    test = hole.oedometers[at]
    each = test.readings[k]
    time, settled = each.points[j]
    following = each.points[j + 1][0] if j + 1 < len(each.points) else 4 * max(time, 0.25)
    points = (
        *each.points[: j + 1],
        ((time + following) / 2 if j + 1 < len(each.points) else following, settled),
        *each.points[j + 1 :],
    )
    readings = (*test.readings[:k], each.replaced(points=points), *test.readings[k + 1 :])
    return _put(session, hole, _with(row, test.replaced(readings=readings)))


def _remove_reading(session: Session, row: Any) -> str:
    hole, at, k, j = row
    test = hole.oedometers[at]
    each = test.readings[k]
    kept = () if len(each.points) == 1 else (each.replaced(points=each.points[:j] + each.points[j + 1 :]),)
    readings = (*test.readings[:k], *kept, *test.readings[k + 1 :])
    return _put(session, hole, _with(row, test.replaced(readings=readings)))


READINGS = Spec(
    "readings",
    _readings,
    _reading_columns,
    _add_reading,
    _remove_reading,
    say("reading"),
    say("No readings over time yet. Time and settlement of one step give cv, by the logarithm or by the root of time."),
)
