"""The project: one immutable value, consistent in itself."""

from collections.abc import Iterable
from typing import Any, Literal, Self

from pydantic import Field, field_validator, model_validator

from korbent.core.cache import remembered
from korbent.core.model.actions import Actions
from korbent.core.model.consistency import inconsistencies
from korbent.core.model.edit_paths import value_at
from korbent.core.model.expressions import ExpressionError, evaluated
from korbent.core.model.foundations import Pad, PadType, Strap
from korbent.core.model.frozen import Frozen, FrozenMap, Name, Row, nothing
from korbent.core.model.ground import Ground
from korbent.core.model.problem import Problem
from korbent.core.model.settings import Settings, resolve
from korbent.core.model.sheets import Revision, SheetSet
from korbent.core.model.site import Grid, Outline, Rates
from korbent.core.model.standards import Standards
from korbent.core.units import FEET_AND_INCHES, OVERRIDABLE, Showing, UnitError, factor
from korbent.words import say


class Title(Frozen):
    """What stands on every page."""

    project: Name = say("Untitled")
    number: str = ""
    office: str = ""
    client: str = ""
    author: str = ""
    checker: str = ""
    date: str = ""
    revision: str = "A"


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
    straps: tuple[Strap, ...] = ()
    sheet_sets: tuple[SheetSet, ...] = ()
    revisions: tuple[Revision, ...] = ()

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
                    say(
                        "no quantity is stored in {stored!r}; these can be shown otherwise: {overridable}",
                        stored=stored,
                        overridable=", ".join(OVERRIDABLE),
                    )
                )
            if (stored, shown) == ("m", FEET_AND_INCHES):
                continue
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
