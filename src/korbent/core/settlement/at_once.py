"""The ground as it is at once: granular strata by their law, the others by their undrained modulus alone, none with
creep."""

from dataclasses import replace

from korbent.core.bench import Bench
from korbent.words import say

SLOW = ("oedometer", "mv")
"""Laws of strata whose water leaves them in time."""


def at_once(bench: Bench) -> Bench:
    """The bench on the ground as it is at once; of strata that lack an undrained modulus nothing is known (see
    :func:`lacking_at_once`)."""
    assert bench.profile is not None
    soils = tuple(
        soil.replaced(compression="none", creep_index=None, pore_pressure_coefficient=None)
        if soil.compression in SLOW
        else soil.replaced(creep_index=None)
        for soil in bench.profile.soils
    )
    return replace(bench, profile=replace(bench.profile, soils=soils))


def lacking_at_once(bench: Bench) -> tuple[str, ...]:
    """Of each base which stratum below it lacks what is asked for, '' where none does."""
    assert bench.profile is not None
    slow = [
        say("the soil '{soil}' has no undrained modulus for what comes at once", soil=soil.name)
        if soil.compression in SLOW and soil.undrained_modulus is None
        else ""
        for soil in bench.profile.soils
    ]
    return tuple(
        next((slow[k] for k in range(max(int(index), 0), len(slow)) if slow[k]), "")
        for index in bench.founding_stratum()
    )
