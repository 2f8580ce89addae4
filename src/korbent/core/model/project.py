"""The project: one immutable value, consistent in itself."""

from collections import Counter
from collections.abc import Iterable, Iterator
from itertools import pairwise
from math import cos, radians, sin
from typing import Any, Literal, NamedTuple, Self

from pydantic import Field, field_validator, model_validator

from korbent.core.cache import remembered
from korbent.core.model.actions import Actions
from korbent.core.model.base import Frozen, FrozenMap, Name, Row, nothing
from korbent.core.model.edit_paths import value_at
from korbent.core.model.expressions import ExpressionError, evaluated
from korbent.core.model.foundations import Pad, PadType
from korbent.core.model.ground import Ground
from korbent.core.model.settings import Settings, resolve
from korbent.core.model.site import Grid, Outline, Rates
from korbent.core.units import OVERRIDABLE, Showing, UnitError, factor


class Title(Frozen):
    """What stands on every page."""

    project: Name = "Untitled"
    number: str = ""
    client: str = ""
    author: str = ""
    checker: str = ""
    date: str = ""
    revision: str = "A"


class Standards(Frozen):
    """The standards in force."""

    ground: Literal["EN 1997-1:2004"] = "EN 1997-1:2004"
    approach: Literal["DA1", "DA2", "DA2*", "DA3", "resistance factors"] = "DA1"
    concrete: Literal["EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018", "none"] = "EN 1992-1-1:2004"


class Problem(NamedTuple):
    """Something wrong with the data, and where."""

    place: str
    message: str

    def __str__(self) -> str:
        return f"{self.place}: {self.message}"


class InconsistentError(ValueError):
    """Parts of a project do not fit each other."""

    def __init__(self, problems: Iterable[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("\n".join(map(str, self.problems)))


QUANTITY_UNITS = ("", "m", "mm", "kN", "kNm", "kPa", "MPa", "kN/m3", "deg")


class Quantity(Row):
    """A named value that expressions can use."""

    name: str = Field(pattern=r"^[A-Za-z_][A-Za-z0-9_]*$", max_length=40)
    value: float = 0.0
    unit: Literal["", "m", "mm", "kN", "kNm", "kPa", "MPa", "kN/m3", "deg"] = ""
    description: str = ""


class Project(Row):
    """Everything the engineer describes."""

    title: Title = Title()
    units: Literal["metric", "us"] = "metric"
    unit_overrides: FrozenMap[str] = Field(default_factory=nothing)
    """Units shown instead of those of the set, by stored unit."""
    quantities: tuple[Quantity, ...] = ()
    standards: Standards = Standards()
    settings: Settings = Settings()
    ground: Ground = Field(default_factory=Ground)
    actions: Actions = Field(default_factory=Actions)
    site: tuple[Outline, ...] = ()
    grids: tuple[Grid, ...] = ()
    rates: Rates = Rates()
    types: tuple[PadType, ...] = ()
    pads: tuple[Pad, ...] = ()

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        problems = list(inconsistencies(self))
        if not problems:
            try:
                evaluated(self, value_at)
            except ExpressionError as error:
                problems.append(Problem("expressions", str(error)))
        if problems:
            raise InconsistentError(problems)
        return self

    @property
    def showing(self) -> Showing:
        """How values are shown: the unit set with its single overrides."""
        return Showing(self.units, tuple(self.unit_overrides.items()))

    @field_validator("unit_overrides")
    @classmethod
    def _known_units(cls, overrides: Any) -> Any:
        for stored, shown in overrides.items():
            if stored not in OVERRIDABLE:
                raise ValueError(
                    f"no quantity is stored in {stored!r}; these can be shown otherwise: {', '.join(OVERRIDABLE)}"
                )
            try:
                factor(stored, shown)
            except UnitError as error:
                raise ValueError(str(error)) from None
        return overrides

    def pad(self, name: str) -> Pad:
        """The pad of that name; KeyError when there is none."""
        return _named(self.pads, name)  # type: ignore[no-any-return]

    def load_point(self, name: str) -> Any:
        """The column or wall of that name; KeyError when there is none."""
        return _named(self.actions.load_points, name)

    def settings_of(self, pad: Pad) -> Settings:
        """The settings in force for a pad: its own overrides, else its type's, else the project's."""
        kind = _named(self.types, pad.type) if pad.type else None
        return _in_force(self.settings, kind, pad)

    def type_overrides(self, pad: Pad) -> Any:
        """The overrides of the pad's type (empty without a type)."""
        return _named(self.types, pad.type).overrides if pad.type else {}


@remembered(512)
def _in_force(settings: Settings, kind: PadType | None, pad: Pad) -> Settings:
    return resolve(settings, kind.overrides if kind else {}, pad.overrides)


def _named(items: tuple[Any, ...], name: str) -> Any:
    return _by_name(items)[name]


@remembered(64)
def _by_name(items: tuple[Any, ...]) -> dict[str, Any]:
    return {item.name: item for item in reversed(items)}


def inconsistencies(project: Any) -> Iterator[Problem]:
    """Names that occur twice or lead nowhere, and levels out of order.

    Works on anything shaped like a project, so that a file with other errors is read to its end too.
    """
    ground, actions = project.ground, project.actions
    soils = {s.name for s in ground.soils or ()}
    cases = {c.name for c in actions.cases or ()}
    points = {p.name: p for p in actions.load_points or ()}
    types = {t.name for t in project.types or ()}
    for label, items in (
        ("ground.soils", ground.soils),
        ("ground.boreholes", ground.boreholes),
        ("actions.cases", actions.cases),
        ("actions.load_points", actions.load_points),
        ("actions.area_loads", actions.area_loads),
        ("actions.steps", actions.steps),
        ("actions.drains", getattr(actions, "drains", ())),
        ("actions.marks", getattr(actions, "marks", ())),
        ("quantities", project.quantities),
        ("site", getattr(project, "site", ())),
        ("grids", getattr(project, "grids", ())),
        ("types", project.types),
        ("pads", project.pads),
    ):
        for name, count in Counter(i.name for i in items or ()).items():
            if count > 1:
                yield Problem(label, f"the name {name!r} is used {count} times; give each its own")
    for number, count in Counter(c.number for c in actions.combinations or ()).items():
        if count > 1:
            yield Problem("actions.combinations", f"the number {number} is used {count} times")
    for hole in ground.boreholes or ():
        for i, stratum in enumerate(hole.strata or ()):
            if stratum.soil not in soils:
                yield Problem(
                    f"ground.boreholes[{hole.name}].strata[{i + 1}].soil",
                    f"there is no soil {stratum.soil!r}; define it or name one of: {_list(soils)}",
                )
    water = ground.water
    if (
        water
        and None not in (water.low, water.normal, water.high)
        and not water.low <= water.normal <= water.high
    ):
        yield Problem(
            "ground.water", f"levels must rise: low {water.low}, normal {water.normal}, high {water.high}"
        )
    for combination in actions.combinations or ():
        place = f"actions.combinations[{combination.number}]"
        for case in combination.factors or {}:
            if case not in cases:
                yield Problem(
                    f"{place}.factors",
                    f"there is no load case {case!r}; define it or name one of: {_list(cases)}",
                )
        if "ultimate" in (combination.serves or ()) and combination.factor_set is None:
            yield Problem(
                f"{place}.factor_set",
                "a combination for ultimate ground checks names its set: M1, M2, M1+R2, M1+R2* or R",
            )
    for point in actions.load_points or ():
        for case in point.loads or {}:
            if case not in cases:
                yield Problem(
                    f"actions.load_points[{point.name}].loads",
                    f"there is no load case {case!r}; define it or name one of: {_list(cases)}",
                )
    areas = {a.name for a in actions.area_loads or ()}
    for name in sorted(areas & cases):
        yield Problem("actions.area_loads", f"{name!r} is a load case too; give the area load another name")
    steps = actions.steps or ()
    for step in steps:
        for name in step.factors or {}:
            if name not in cases and name not in areas:
                yield Problem(
                    f"actions.steps[{step.name}].factors",
                    f"there is no load case or area load {name!r}; define it or name one of: {_list(cases | areas)}",
                )
    for first, second in pairwise(steps):
        if None not in (first.date, second.date) and str(second.date) <= str(first.date):
            yield Problem(
                f"actions.steps[{second.name}].date",
                f"{second.date} is not after {first.date} of the step {first.name!r}; steps stand in the order of time",
            )
    for pad in project.pads or ():
        if pad.load_point not in points:
            yield Problem(
                f"pads[{pad.name}].load_point",
                f"there is no column or wall {pad.load_point!r}; a pad needs one of: {_list(points)}",
            )
        for name in pad.further or ():
            if name not in points:
                yield Problem(
                    f"pads[{pad.name}].further",
                    f"there is no column or wall {name!r}; name some of: {_list(points)}",
                )
            elif name == pad.load_point or (pad.further or ()).count(name) > 1:
                yield Problem(f"pads[{pad.name}].further", f"{name} stands on the base twice; name it once")
        yield from _off_the_base(pad, points)
        if pad.type is not None and pad.type not in types:
            yield Problem(f"pads[{pad.name}].type", f"there is no type {pad.type!r}; known: {_list(types)}")
        for offset, size, axis in ((pad.offset_x, pad.width, "x"), (pad.offset_y, pad.length, "y")):
            if offset is not None and size is not None and abs(offset) > size / 2 > 0:
                yield Problem(
                    f"pads[{pad.name}].offset_{axis}",
                    f"the column axis would stand {abs(offset) - size / 2:.3g} m outside the pad; "
                    f"at most half its size, {size / 2:.3g} m",
                )
        yield from _standing_on(pad, points)


def _standing_on(pad: Any, points: Any) -> Iterator[Problem]:
    """Pedestals of no column, larger than their base or below its top, and loads that act below the underside."""
    of_others = getattr(pad, "pedestals", None) or {}
    for name in of_others:
        if name not in (pad.further or ()):
            yield Problem(
                f"pads[{pad.name}].pedestals.{name}",
                f"{name} is none of the further columns on this base: name one of {_list(pad.further or ())}, or take the pedestal out",
            )
    found = [("pedestal", pad.pedestal), *((f"pedestals.{name}", one) for name, one in of_others.items())]
    for place, pedestal in found:
        if pedestal:
            yield from _pedestal_on(pad, f"pads[{pad.name}].{place}", pedestal)
    if None in (pad.level, pad.thickness):
        return
    underside = pad.level - (pad.thickness if pad.held == "top" else 0.0)
    for name in (pad.load_point, *(pad.further or ())):
        point = points.get(name)
        level = getattr(point, "level", None)
        if level is not None and level < underside - 1e-9:
            yield Problem(
                f"pads[{pad.name}].level",
                f"the loads of {name} act at {level:+g} m, below the underside of the base at {underside:+g} m: lower the base or correct "
                "the level of the loads",
            )


def _pedestal_on(pad: Any, place: str, pedestal: Any) -> Iterator[Problem]:
    """A pedestal larger than its base, or not above it."""
    for axis, size, word in ("x", pad.width, "width"), ("y", pad.length, "length"):
        own = getattr(pedestal, f"size_{axis}")
        if None not in (own, size) and own > size + 1e-9:
            yield Problem(
                f"{place}.size_{axis}",
                f"the pedestal, {own:g} m, is larger than the {word} of its base, {size:g} m: make the base larger or the pedestal smaller",
            )
    if None not in (pad.level, pad.thickness, pedestal.top):
        top = pad.level + (pad.thickness if pad.held != "top" else 0.0)
        if pedestal.top <= top:
            yield Problem(
                f"{place}.top",
                f"the pedestal ends at {pedestal.top:g} m, not above the top of the base at {top:g} m",
            )


def _off_the_base(pad: Any, points: Any) -> Iterator[Problem]:
    """Further columns whose axes stand outside the base."""
    first = points.get(pad.load_point)
    known = (pad.width, pad.length, pad.offset_x, pad.offset_y, pad.rotation)
    if first is None or None in known:
        return
    angle = radians(pad.rotation)
    for name in pad.further or ():
        other = points.get(name)
        if other is None or None in (other.x, other.y, first.x, first.y):
            continue
        dx, dy = other.x - first.x, other.y - first.y
        x = pad.offset_x + cos(angle) * dx + sin(angle) * dy
        y = pad.offset_y - sin(angle) * dx + cos(angle) * dy
        if abs(x) > pad.width / 2 + 1e-9 or abs(y) > pad.length / 2 + 1e-9:
            yield Problem(
                f"pads[{pad.name}].further",
                f"{name} stands off the base, {x:+.2f} m and {y:+.2f} m from its middle: make the base larger or move it",
            )


def _list(names: Iterable[str]) -> str:
    return ", ".join(sorted(names)[:8]) or "none yet"
