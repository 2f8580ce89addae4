"""Quick start of a settlement: a load on a stack of layers, how much it settles and how fast, and whether the layers
reach deep enough."""

from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from korbent.core.actions.construction import YEAR
from korbent.core.model.actions import Actions, AreaLoad, SettlementMark
from korbent.core.model.frozen import Consolidation, Depth, Frozen, Length, Pressure
from korbent.core.model.ground import Borehole, Ground, Soil, Stratum, Surfaces, Water
from korbent.core.model.labels import label
from korbent.core.model.project import Project, Title
from korbent.core.model.settings import Settings
from korbent.core.settlement.history import mark_history
from korbent.core.settlement.over_time import cells
from korbent.words import say

Kind = Literal["pad", "strip", "tank", "embankment"]
KINDS: tuple[Kind, ...] = ("pad", "strip", "tank", "embankment")
ENDLESS = 50.0
"""A strip is so many times as long as wide."""
FILL = 19.0
"""Unit weight of an embankment, kN/m3."""
ENOUGH = 0.2
"""The layers reach deep enough where the added stress at their end is at most this share of the effective stress there
(EN 1997-1 6.6.2(6))."""


class Layer(Frozen):
    """One layer: how thick, how stiff when it cannot give sideways, and how fast it lets its water go (none: at
    once)."""

    thickness: Length = 3.0
    stiffness: Annotated[float, Field(gt=0, le=1e6, json_schema_extra={"unit": "kPa"})] = 10_000.0
    """Constrained modulus, 1/mv."""
    consolidation: Consolidation | None = None
    """cv."""


USUAL = (
    Layer(thickness=2.0, stiffness=20_000.0),
    Layer(thickness=5.0, stiffness=5_000.0, consolidation=2.0 / YEAR),
    Layer(thickness=6.0, stiffness=40_000.0),
)


class GroundLoad(Frozen):
    """What is typed."""

    name: ClassVar[str] = "settlement"
    kind: Kind = "pad"
    size_x: Length = 3.0
    """Width; diameter of a tank; of an embankment that of its crest."""
    size_y: Length = 4.0
    """Length: of a pad, and of the crest of an embankment."""
    pressure: Pressure = 100.0
    """What it adds at its level, net; of an embankment its height times the weight of its fill counts instead."""
    height: Length = 3.0
    """Of an embankment, with slopes of 1 to 2."""
    founded: Depth = 0.0
    """Below ground."""
    water: Depth = 2.0
    """Depth of the groundwater."""
    degree: Annotated[float, Field(gt=0, lt=1, json_schema_extra={"unit": ""})] = 0.9
    layers: tuple[Layer, ...] = USUAL

    @property
    def depth(self) -> float:
        """Of all layers, m."""
        return sum(layer.thickness for layer in self.layers)

    def project(self) -> Project:
        """An ordinary project: the layers below a borehole, the load on an area, marks where its settlement is wanted.

        Raises:
            pydantic.ValidationError, ValueError: when it is not possible with these numbers.
        """
        if not self.layers:
            raise ValueError(say("type a layer: its thickness and its stiffness"))
        if self.founded >= self.depth:
            raise ValueError(
                say(
                    "the load lies {founded:g} m deep, and the layers end at {depth:g} m: make it shallower, or "
                    "type more layers",
                    founded=self.founded,
                    depth=self.depth,
                )
            )
        soils = tuple(
            Soil(
                name=say("Layer {k}", k=k + 1),
                pattern="clay" if layer.consolidation else "sand",
                drainage="undrained" if layer.consolidation else "drained",
                weight=18.0,
                weight_saturated=20.0,
                compression="mv",
                compressibility=1000.0 / layer.stiffness,
                consolidation_coefficient=layer.consolidation,
            )
            for k, layer in enumerate(self.layers)
        )
        strata = tuple(Stratum(soil=soil.name, thickness=layer.thickness) for soil, layer in zip(soils, self.layers))
        level = -self.founded
        tank, bank = self.kind == "tank", self.kind == "embankment"
        long = self.size_x if tank else ENDLESS * self.size_x if self.kind == "strip" else self.size_y
        load = AreaLoad(
            name=label(self.kind).capitalize(),
            shape="circle" if tank else "embankment" if bank else "rectangle",
            size_x=self.size_x,
            size_y=long,
            level=level,
            pressure=self.pressure,
            height=self.height if bank else None,
            weight=FILL,
        )
        half = self.size_x / 2
        marks = [("middle", 0.0, 0.0), ("edge", half, 0.0)]
        if self.kind == "pad":
            marks.append(("corner", half, self.size_y / 2))
        return Project(
            title=Title(project=say("New project")),
            settings=Settings(settlement_influence=0.0, settlement_years=1000.0),
            ground=Ground(
                soils=soils,
                boreholes=(Borehole(name="BH1", x=0.0, y=0.0, ground_level=0.0, strata=strata),),
                surfaces=Surfaces(finished=0.0),
                water=Water(low=-self.water, normal=-self.water, high=-self.water),
            ),
            actions=Actions(
                area_loads=(load,),
                marks=tuple(SettlementMark(name=name, x=x, y=y, level=level) for name, x, y in marks),
            ),
        )


@dataclass(frozen=True)
class Settled:
    """What comes of it. Lengths in m, times in days."""

    marks: tuple[tuple[str, float], ...]
    """Settlement in the end at each mark."""
    until: float
    """Until the degree is reached at the middle; inf where it never is."""
    by_layer: tuple[float, ...]
    """Of the settlement of the middle."""
    share: float
    """Added over effective stress below the middle, at the end of the layers."""

    @property
    def is_deep_enough(self) -> bool:
        """The layers reach to where the load adds little."""
        return self.share <= ENOUGH


def settled(load: GroundLoad) -> Settled:
    """The settlement of a load on layers: each by its stiffness under the stress that the load adds (Boussinesq), in
    time by one-dimensional consolidation through all of them.

    Raises:
        pydantic.ValidationError, ValueError: see :meth:`GroundLoad.project`.
    """
    project = load.project()
    known = [(mark.name, mark_history(project, mark)) for mark in project.actions.marks]
    for name, own in known:
        if own.why:
            raise ValueError(f"{name}: {own.why}")
    _, middle = known[0]
    parts = dict.fromkeys((s.name for s in project.ground.soils), 0.0)
    rows = cells(middle, float(middle.times[-1]))
    for cell in rows:
        parts[cell.stratum] += cell.compression
    last = rows[-1]
    return Settled(
        tuple((name, own.final) for name, own in known),
        middle.time_to(load.degree) - float(middle.times[0]),
        tuple(parts.values()),
        (last.added / last.before) if last.before > 0 else 1.0,
    )


def in_words(days: float) -> str:
    """A time as one says it."""
    if days == float("inf"):
        return say("never")
    if days < 1:
        return say("at once")
    if days < 60:
        return say("{days:.0f} days", days=days)
    return (
        say("{days:.1f} years", days=days / YEAR) if days >= YEAR else say("{days:.0f} months", days=days / YEAR * 12)
    )
