"""Quick starts: what is typed, and the ordinary project that comes of it.

Loads are permanent and imposed; the combinations are those of the rule set with which every new project begins. What is
left open is
proposed: the size and the bars for which every check holds, with the least concrete.
"""

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field

from korbent.core.actions.rules import combinations_for
from korbent.core.ground.library import LIBRARY
from korbent.core.model.actions import Actions, Load, LoadCase, LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.frozen import Frozen, Length, Pressure, unit_of
from korbent.core.model.ground import Borehole, Ground, Stratum, Surfaces
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.model.site import Outline, Range
from korbent.core.model.standards import Standards
from korbent.core.quick.habits import Habit, habit_of
from korbent.core.sizing.first_size import combined, placed
from korbent.core.sizing.kinds import tied_and_grown
from korbent.core.sizing.propose import proposal, taken

Force = Annotated[float, Field(ge=-1e6, le=1e6, json_schema_extra={"unit": "kN"})]
Moment = Annotated[float, Field(ge=-1e6, le=1e6, json_schema_extra={"unit": "kNm"})]
Line = Annotated[float, Field(ge=-1e5, le=1e5, json_schema_extra={"unit": "kN/m"})]
Strength = Annotated[float, Field(ge=8, le=100, json_schema_extra={"unit": "MPa"})]
DEEP = 15.0
"""How far down a soil of the library goes, m."""
LONG = 8.0
"""Length of a wall of which one metre is looked at, m."""


class Start(Frozen):
    """What all of them have."""

    pressure: Pressure = 200.0
    """Allowable pressure; without meaning where a soil is chosen that is to bear by its own strength."""
    soil: str = ""
    """Of the library; none: the allowable pressure alone."""
    founded: Length = 0.9
    """Underside below ground."""
    concrete: Strength = 30.0
    steel: Annotated[float, Field(ge=200, le=700, json_schema_extra={"unit": "MPa"})] = 500.0
    width: Length | None = None
    """As proposed where nothing is given; so with the others."""
    length: Length | None = None
    thickness: Length | None = None
    habit: Literal["EN 1990, EN 1992", "ASCE 7, ACI 318", "AS/NZS 1170, AS 3600"] = "EN 1990, EN 1992"
    """Rules, standard, names of cases and units."""
    name: ClassVar[str] = ""

    @classmethod
    def usual(cls, habit: Habit) -> Self:
        """With the figures that are round where this habit is at home."""
        values: dict[str, object] = {"habit": habit.name}
        values["concrete"], values["steel"] = habit.strengths
        for name, info in cls.model_fields.items():
            if isinstance(info.default, float) and name not in values:
                values[name] = habit.usual(info.default, unit_of(cls, name))
        return cls.model_validate(values)

    def at(self, habit: Habit) -> Self:
        """The same by another habit: what was typed stays, what was not is what is usual there."""
        before, there = self.usual(habit_of(self.habit)), self.usual(habit)
        typed = {n: getattr(self, n) for n in type(self).model_fields if getattr(self, n) != getattr(before, n)}
        return there.replaced(**typed)

    def loads(self, permanent: Load, imposed: Load) -> dict[str, Load]:
        """Loads by the names of cases that are usual."""
        habit = habit_of(self.habit)
        return {habit.permanent[0]: permanent, habit.imposed[0]: imposed}

    def points(self) -> tuple[LoadPoint, ...]:
        """What stands on it, at the level of the ground."""
        raise NotImplementedError

    def project(self) -> Project:
        """The project, with a first size where nothing is given.

        Raises:
            pydantic.ValidationError: when no base is possible with these numbers.
        """
        habit = habit_of(self.habit)
        (permanent, stays), (imposed, comes) = habit.permanent, habit.imposed
        cases = (
            LoadCase(name=permanent, nature="permanent", description=stays),
            LoadCase(name=imposed, nature="imposed", description=comes, category="" if habit.units == "us" else "B"),
        )
        points = self.points()
        soil = next((e.soil for e in LIBRARY if e.soil.name == self.soil), None)
        ground = Ground(surfaces=Surfaces(finished=0.0))
        if soil is not None:
            hole = Borehole(
                name="BH1", x=0.0, y=0.0, ground_level=0.0, strata=(Stratum(soil=soil.name, thickness=DEEP),)
            )
            ground = ground.replaced(soils=(soil,), boreholes=(hole,))
        project = Project(
            units=habit.units,
            standards=Standards(concrete=habit.concrete),
            settings=Settings(
                presumed_pressure=self.pressure,
                concrete_strength=self.concrete,
                steel_strength=self.steel,
                frost_depth=min(0.8, self.founded),
            ),
            ground=ground,
            actions=Actions(
                cases=cases,
                combinations=tuple(combinations_for(habit.rules, cases)),
                rules=habit.rules,
                load_points=points,
            ),
        )
        return self._on_bases(project, tuple(p.name for p in points))

    def _on_bases(self, project: Project, names: tuple[str, ...]) -> Project:
        """With what carries these columns."""
        project = placed(project, names)[0] if len(names) == 1 else combined(project, names)[0]
        pad = self._sized(project.pads[0])
        return project.replaced(pads=(pad,))

    def proposed(self) -> Project:
        """The project with sizes and bars proposed for what was left open.

        Raises:
            pydantic.ValidationError, ValueError: when no base is possible with these numbers.
        """
        return proposed(self.project())

    def _sized(self, pad: Pad) -> Pad:
        """With what is given, pinned; the rest is free to be proposed."""
        given = {
            n: v
            for n, v in (("width", self.width), ("length", self.length), ("thickness", self.thickness))
            if v is not None
        }
        pad = pad.resized(**given)
        free = dict.fromkeys(("bottom_x", "bottom_y"), "free")
        pinned = {n: Range(pinned=True) for n in given}
        return pad.replaced(
            level=-self.founded,
            held="underside",
            ranges=pinned,
            reinforcement=pad.reinforcement.replaced(pins=free),
        )


def proposed(project: Project) -> Project:
    """The project with the size and bars proposed for its base; as it is where no size holds."""
    found = proposal(project, project.pads[:1])
    return project if found.sizes is None and not found.bars else taken(project, [found])


class OneColumn(Start):
    """A column on a base of its own."""

    permanent: Force = 600.0
    imposed: Force = 250.0
    column_x: Length = 0.4
    column_y: Length = 0.4

    def points(self) -> tuple[LoadPoint, ...]:
        """The column."""
        loads = self.loads(self._permanent(), Load(V=self.imposed))
        return (LoadPoint(name="C1", x=0.0, y=0.0, size_x=self.column_x, size_y=self.column_y, level=0.0, loads=loads),)

    def _permanent(self) -> Load:
        return Load(V=self.permanent)


class OneBase(OneColumn):
    """One column on one base."""

    name: ClassVar[str] = "one base"
    horizontal: Force = 0.0
    """Along x, permanent and at the level of the ground."""
    moment: Moment = 0.0
    """About y, permanent."""

    def _permanent(self) -> Load:
        return Load(V=self.permanent, Hx=self.horizontal, My=self.moment)


class Corner(OneColumn):
    """A column in the corner between two boundaries, at -x and at -y; the base reaches up to both."""

    name: ClassVar[str] = "corner"
    permanent: Force = 250.0
    imposed: Force = 100.0
    edge_x: Length = 0.3
    """From the axis of the column to the boundary."""
    edge_y: Length = 0.3

    def project(self) -> Project:
        """With both boundaries."""
        found = super().project()
        far, x, y = 20.0, -self.edge_x, -self.edge_y
        lines = (
            Outline(name="West", points=((x, y), (x, far)), closed=False),
            Outline(name="South", points=((x, y), (far, y)), closed=False),
        )
        return found.replaced(site=lines)

    def _sized(self, pad: Pad) -> Pad:
        pad = super()._sized(pad)
        for side, given, size in (("-x", self.edge_x, pad.width), ("-y", self.edge_y, pad.length)):
            # the size stays, the base moves
            pad = pad.replaced(**{f"offset_{side[1]}": round(given - size / 2, 9), f"hold_{side[1]}": side})
        return pad


class Wall(Start):
    """A wall, its loads by the metre."""

    name: ClassVar[str] = "wall"
    permanent: Line = 120.0
    imposed: Line = 40.0
    wall: Length = 0.24
    masonry: bool = True

    def points(self) -> tuple[LoadPoint, ...]:
        """Some metres of it, along y."""
        loads = self.loads(Load(V=self.permanent), Load(V=self.imposed))
        kind = "masonry_wall" if self.masonry else "concrete_wall"
        return (
            LoadPoint(
                name="W1",
                kind=kind,
                per="metre",
                x=0.0,
                y=0.0,
                size_x=self.wall,
                size_y=LONG,
                level=0.0,
                loads=loads,
            ),
        )

    def _sized(self, pad: Pad) -> Pad:
        return super()._sized(pad.replaced(kind="strip"))


class Two(Start):
    """Two columns along x, the first one at the origin."""

    permanent_2: Force = 700.0
    imposed_2: Force = 300.0
    permanent: Force = 500.0
    imposed: Force = 200.0
    apart: Length = 3.0
    column_x: Length = 0.4
    column_y: Length = 0.4

    def points(self) -> tuple[LoadPoint, ...]:
        """Both."""
        return tuple(
            LoadPoint(
                name=f"C{k + 1}",
                x=k * self.apart,
                y=0.0,
                size_x=self.column_x,
                size_y=self.column_y,
                level=0.0,
                loads=self.loads(Load(V=G), Load(V=Q)),
            )
            for k, (G, Q) in enumerate(((self.permanent, self.imposed), (self.permanent_2, self.imposed_2)))
        )


class TwoColumns(Two):
    """Two columns on one rigid base, along x."""

    name: ClassVar[str] = "two on a base"
    left: Length | None = None
    """From the axis of the first column to the edge beyond it."""
    right: Length | None = None

    def _sized(self, pad: Pad) -> Pad:
        pad = super()._sized(pad)
        for side, given in (
            ("-x", self.left),
            ("+x", None if self.right is None else self.right + self.apart),
        ):
            if given is not None:
                pad = pad.with_edge(side, given)
        if self.left is not None and self.right is not None:
            pad = pad.replaced(ranges={**pad.ranges, "width": Range(pinned=True)})
        return pad


class Tied(Two):
    """A column at a boundary at -x, its base tied to that of an inner column by a strap along x."""

    name: ClassVar[str] = "strap"
    permanent: Force = 350.0
    imposed: Force = 150.0
    permanent_2: Force = 600.0
    imposed_2: Force = 250.0
    apart: Length = 5.0
    edge: Length = 0.3
    """From the axis of the first column to the boundary."""
    strap_width: Length | None = None
    strap_depth: Length | None = None

    def _on_bases(self, project: Project, names: tuple[str, ...]) -> Project:
        line = Outline(name="Boundary", points=((-self.edge, -20.0), (-self.edge, 20.0)), closed=False)
        project = placed(project, names)[0].replaced(site=(line,))
        first, second = project.pads
        if (
            self.width is None
        ):  # narrow towards the inner column: the less it stands off, the less the strap has to bring over
            area = first.width * first.length
            wide = round(max(2 * self.edge + 0.4, 0.7 * area**0.5), 1)
            first = first.resized(width=wide, length=round(area / wide + 0.05, 1))
        first = self._at_boundary(self._sized(first))
        second = second.replaced(level=-self.founded, held="underside", reinforcement=first.reinforcement)
        return project.replaced(pads=(first, second))

    def _at_boundary(self, pad: Pad) -> Pad:
        """The base reaches up to the boundary, and stays there while it grows."""
        return pad.replaced(offset_x=round(self.edge - pad.width / 2, 9), hold_x="-x")

    def proposed(self) -> Project:
        """Both bases and the strap grown until they hold; what was typed stays."""
        project = self.project()
        project = tied_and_grown(project, *project.pads)
        first = self._at_boundary(self._sized(project.pads[0]))
        given = {n: v for n, v in (("width", self.strap_width), ("depth", self.strap_depth)) if v is not None}
        straps = tuple(s.replaced(**given) for s in project.straps)
        return project.replaced(pads=(first, *project.pads[1:]), straps=straps)


STARTS: tuple[type[Start], ...] = (OneBase, Corner, Wall, TwoColumns, Tied)


class BareStrip(Frozen):
    """A bare strip on even ground."""

    cohesion: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] = 0.0
    friction: Annotated[float, Field(ge=0, le=50, json_schema_extra={"unit": "deg"})] = 30.0
    weight: Annotated[float, Field(ge=0, le=30, json_schema_extra={"unit": "kN/m3"})] = 18.0
    surcharge: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] = 18.0
    width: Length = 1.0
    roughness: Annotated[float, Field(ge=0, le=1)] = 1.0
    """Share of c and tan(phi) that acts below the base."""
    name: ClassVar[str] = "bare strip"
