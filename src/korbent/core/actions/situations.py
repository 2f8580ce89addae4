"""Design situations: a combination with its factors, in the order of the last axis of every array."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from korbent.core.cache import Cache, remembered
from korbent.core.ground.profile import DRY
from korbent.core.model.actions import Actions, Combination, LoadCase, WaterLevel
from korbent.core.model.ground import Water
from korbent.core.model.labels import label
from korbent.core.working import Array
from korbent.words import say

MATERIAL_FACTORS = {
    # EN 1997-1:2004 table A.4: on tan(phi'), c', cu
    "M1": (1.0, 1.0, 1.0),
    "M2": (1.25, 1.25, 1.4),
    "M1+R2": (1.0, 1.0, 1.0),
    "M1+R2*": (1.0, 1.0, 1.0),
    "R": (1.0, 1.0, 1.0),
    None: (1.0, 1.0, 1.0),
}


RESISTANCE_FACTORS = {
    # EN 1997-1:2004 table A.5: bearing, sliding
    "M1+R2": (1.4, 1.1),
    "M1+R2*": (1.4, 1.1),
}
VARIABLE = 1.5
"""EN 1997-1 table A.3, set A1: what a factored variable action is divided by to find its characteristic value
(DA2*)."""


VARIABLE_NATURES = ("imposed", "snow", "wind", "temperature", "fluid", "rain")
CONSTRUCTION = say("construction step")
"""The origin of a row that is not a combination of the project but one of its construction steps."""


BY_SITUATION = (
    "factors",
    "weight",
    "water_factor",
    "water_level",
    "on_tan_phi",
    "on_cohesion",
    "on_undrained",
    "on_bearing",
    "on_sliding",
    "starred",
    "by_setting",
)
"""Arrays of :class:`Situations` with one row for each of them."""


@dataclass(frozen=True)
class Situations:
    """The situations that serve one question. Arrays of shape (situations,) unless said otherwise."""

    question: str
    combinations: tuple[Combination, ...]
    variants: tuple[str, ...]
    cases: tuple[str, ...]
    permanent: Array
    """1 for permanent cases, shape (cases,)."""
    variable: Array
    """True for imposed, snow and wind cases, shape (cases,)."""
    lasting: Array
    """True for permanent, soil and water cases."""
    factors: Array
    """Factors of the cases, shape (situations, cases)."""
    weight: Array
    water_factor: Array
    water_level: Array
    on_tan_phi: Array
    on_cohesion: Array
    on_undrained: Array
    on_bearing: Array
    """What the bearing resistance is divided by (R2)."""
    on_sliding: Array
    overturning: Array
    """What remains of the moments of each case at the ground (ASCE 7 12.13.4), shape (cases,)."""
    starred: Array
    """True where eccentricity and inclination are those of characteristic actions (DA2*)."""
    by_setting: Array
    """True where the resistance factors of the settings apply (set R)."""

    def __len__(self) -> int:
        return len(self.combinations)

    def label(self, index: int) -> str:
        """How the situation is named: the combination's number, and whether the weights are light; a step by its
        name."""
        if self.combinations[index].origin == CONSTRUCTION:
            return self.combinations[index].name
        return f"{self.combinations[index].number}{self.variants[index]}"

    def twice(self, named: str) -> "Situations":
        """All of them, and all of them once more under labels that end so."""
        double: dict[str, Any] = {name: np.concatenate([getattr(self, name)] * 2) for name in BY_SITUATION}
        variants = (*self.variants, *(f"{v}{named}" for v in self.variants))
        return replace(self, combinations=self.combinations * 2, variants=variants, **double)

    def characteristic(self) -> "Situations":
        """The same situations with characteristic actions: factors of set A1 taken off.

        What is permanent acts once, imposed, snow and wind loads over 1.5; accidental and seismic actions have no such
        factor."""
        divided = np.where(
            self.variable,
            self.factors / VARIABLE,
            np.where(self.lasting, np.sign(self.factors), self.factors),
        )
        ones = np.ones_like(self.weight)
        return replace(self, factors=divided, weight=ones, water_factor=ones)

    def with_less_overturning(self, actions: Actions, share: float) -> "Situations":
        """The same with the overturning moments of seismic cases reduced to a share."""
        kept = np.array([share if c.nature == "seismic" else 1.0 for c in actions.cases])
        return replace(self, overturning=kept)

    def is_special(self) -> Array:
        """True where the situation is accidental or seismic."""
        return np.array([c.situation in ("accidental", "seismic") for c in self.combinations])


def actions_on(actions: Actions, base: str) -> Actions:
    """The actions with the combinations that are looked at for a base; the very same ones for all that share them."""
    out = not_for(actions, base)
    if not out:
        return actions
    kept = tuple(c for c in actions.combinations if c.number not in out)
    return _of_some.of((id(actions), out), actions, lambda: actions.replaced(combinations=kept))


def not_for(actions: Actions, base: str) -> tuple[int, ...]:
    """The numbers of the combinations that are looked at for others only."""
    return tuple(c.number for c in _limited(actions.combinations) if base not in c.only)


@remembered(64)
def _limited(combinations: tuple[Combination, ...]) -> tuple[Combination, ...]:
    return tuple(c for c in combinations if c.only)


_of_some: Cache[Actions] = Cache(64, each=1)


@remembered(16)
def case_names(cases: tuple[LoadCase, ...]) -> tuple[str, ...]:
    """The names of load cases; the very same object for the same cases, so that what is remembered by it is found
    again."""
    return tuple(c.name for c in cases)


@remembered(64)
def situations_for(actions: Actions, water: Water | None, question: str) -> Situations:
    """All situations of the combinations that serve ``question``.

    A combination whose weights have two factors gives two situations: heavy and light; one that is looked at with the
    worst water level gives those for each level."""
    rows = [
        (at, factor, f"{heavy}," * bool(heavy and wet) + (wet or heavy))
        for combination in actions.combinations
        if question in combination.serves
        for at, wet in _levels(combination, water, question)
        for factor, heavy in _weights(combination)
    ]
    names = case_names(actions.cases)
    material = np.array([MATERIAL_FACTORS[c.factor_set] for c, _, _ in rows]).reshape(len(rows), 3)
    resistance = np.array([RESISTANCE_FACTORS.get(c.factor_set or "", (1.0, 1.0)) for c, _, _ in rows]).reshape(
        len(rows), 2
    )
    return Situations(
        question=question,
        combinations=tuple(c for c, _, _ in rows),
        variants=tuple(v for _, _, v in rows),
        cases=names,
        variable=np.array([c.nature in VARIABLE_NATURES for c in actions.cases], dtype=bool),
        lasting=np.array([c.nature in ("permanent", "soil", "water") for c in actions.cases], dtype=bool),
        permanent=np.array([float(c.nature == "permanent") for c in actions.cases]),
        factors=np.array([[c.factors.get(n, 0.0) for n in names] for c, _, _ in rows]).reshape(len(rows), len(names)),
        weight=np.array([f for _, f, _ in rows]),
        water_factor=np.array([c.water_factor for c, _, _ in rows]),
        water_level=np.array([getattr(water, c.water) if water else DRY for c, _, _ in rows]),
        on_tan_phi=material[:, 0],
        on_cohesion=material[:, 1],
        on_undrained=material[:, 2],
        on_bearing=resistance[:, 0],
        on_sliding=resistance[:, 1],
        overturning=np.ones(len(names)),
        starred=np.array([c.factor_set == "M1+R2*" for c, _, _ in rows], dtype=bool),
        by_setting=np.array([c.factor_set == "R" for c, _, _ in rows], dtype=bool),
    )


def _levels(combination: Combination, water: Water | None, question: str) -> list[tuple[Combination, str]]:
    """A combination with the water levels that it is looked at with, and how its situations are told apart by them."""
    if combination.water != "worst":
        return [(combination, "")]
    names: tuple[WaterLevel, ...] = ("normal", "low", "high")
    # of levels that are the same, and of settlement, which goes by what is usual, the normal one
    by_level = {getattr(water, name): name for name in ("low", "high", "normal")} if water else {}
    if len(by_level) < 2 or question.startswith("settlement"):
        return [(combination.replaced(water="normal"), "")]
    return [
        (combination.replaced(water=name), "" if name == "normal" else say(" {level} water", level=label(name)))
        for name in names
        if name in by_level.values()
    ]


def _weights(combination: Combination) -> list[tuple[float, str]]:
    heavy, light = combination.weight_unfavourable, combination.weight_favourable
    return [(heavy, "")] if heavy == light else [(heavy, say(" heavy")), (light, say(" light"))]
