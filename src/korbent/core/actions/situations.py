"""Design situations: a combination with its factors, in the order of the last axis of every array."""

from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import DRY
from korbent.core.identity import remembered
from korbent.core.model.actions import Actions, Combination
from korbent.core.model.ground import Water
from korbent.core.working import Array

MATERIAL_FACTORS = {
    # EN 1997-1:2004 table A.4: on tan(phi'), c', cu
    "M1": (1.0, 1.0, 1.0),
    "M2": (1.25, 1.25, 1.4),
    None: (1.0, 1.0, 1.0),
}


@dataclass(frozen=True)
class Situations:
    """The situations that serve one question. Arrays of shape (situations,) unless said otherwise."""

    question: str
    combinations: tuple[Combination, ...]
    variants: tuple[str, ...]
    cases: tuple[str, ...]
    permanent: Array
    """1 for permanent cases, shape (cases,)."""
    factors: Array
    """Factors of the cases, shape (situations, cases)."""
    weight: Array
    water_factor: Array
    water_level: Array
    on_tan_phi: Array
    on_cohesion: Array
    on_undrained: Array

    def __len__(self) -> int:
        return len(self.combinations)

    def label(self, index: int) -> str:
        """How the situation is named: the combination's number, and whether the weights are light."""
        return f"{self.combinations[index].number}{self.variants[index]}"

    def is_special(self) -> Array:
        """True where the situation is accidental or seismic."""
        return np.array([c.situation in ("accidental", "seismic") for c in self.combinations])


@remembered(64)
def situations_for(actions: Actions, water: Water | None, question: str) -> Situations:
    """All situations of the combinations that serve ``question``.

    A combination whose weights have two factors gives two situations: heavy and light.
    """
    rows = [
        (combination, factor, variant)
        for combination in actions.combinations
        if question in combination.serves
        for factor, variant in _weights(combination)
    ]
    names = tuple(c.name for c in actions.cases)
    material = np.array([MATERIAL_FACTORS[c.factor_set] for c, _, _ in rows]).reshape(len(rows), 3)
    return Situations(
        question=question,
        combinations=tuple(c for c, _, _ in rows),
        variants=tuple(v for _, _, v in rows),
        cases=names,
        permanent=np.array([float(c.nature == "permanent") for c in actions.cases]),
        factors=np.array([[c.factors.get(n, 0.0) for n in names] for c, _, _ in rows]).reshape(
            len(rows), len(names)
        ),
        weight=np.array([f for _, f, _ in rows]),
        water_factor=np.array([c.water_factor for c, _, _ in rows]),
        water_level=np.array([getattr(water, c.water) if water else DRY for c, _, _ in rows]),
        on_tan_phi=material[:, 0],
        on_cohesion=material[:, 1],
        on_undrained=material[:, 2],
    )


def _weights(combination: Combination) -> list[tuple[float, str]]:
    heavy, light = combination.weight_unfavourable, combination.weight_favourable
    return [(heavy, "")] if heavy == light else [(heavy, " heavy"), (light, " light")]
