"""What a bare strip on even ground bears, by all methods."""

from contextlib import suppress
from dataclasses import dataclass

import numpy as np

from korbent.core.bearing.methods import METHODS, Footing
from korbent.core.plasticity.section import Section, uniform
from korbent.core.plasticity.slip_lines import Strip, exact, n_c, n_gamma, n_q
from korbent.core.quick.starts import BareStrip
from korbent.core.working import Array, Recording

LENGTH = 1000.0
"""Of the strip over its width: without end."""


@dataclass(frozen=True)
class Borne:
    """Factors and ultimate pressure (kPa) by one method; a factor that it does not have is None."""

    method: str
    N_c: float | None
    N_q: float | None
    N_gamma: float | None
    ultimate: float


def of_all_methods(strip: BareStrip) -> tuple[Borne, ...]:
    """By every method, in the order of their publication; without friction in the undrained way, c being the undrained
    strength."""

    def one(value: float) -> Array:
        return np.array([[float(value)]])

    phi = np.deg2rad(strip.friction)
    base = Footing(
        N=one(1.0),
        H_B=one(0.0),
        H_L=one(0.0),
        B=one(strip.width),
        L=one(LENGTH * strip.width),
        depth=one(0.0),
        cohesion=one(strip.cohesion),
        phi=one(phi),
        overburden=one(strip.surcharge),
        weight=one(strip.weight),
        tilt=0.0,
        slope=0.0,
    )
    found = []
    for name, method in METHODS.items():
        recording = Recording()
        resistance = (method.drained if phi > 0 else method.undrained)(base, recording)
        values = {step.symbol: float(np.ravel(step.value)[0]) for step in recording.steps if not step.labels}
        factors = [values.get(symbol) for symbol in ("N_c", "N_q", "N_gamma")]
        ultimate = float(np.ravel(resistance.pressure)[0])
        if phi == 0.0:  # cu Nc + q
            factors = [
                (ultimate - strip.surcharge) / strip.cohesion if strip.cohesion > 0 else None,
                1.0,
                0.0,
            ]
        found.append(Borne(name, factors[0], factors[1], factors[2], ultimate))
    return tuple(found)


@dataclass(frozen=True)
class ExactStrip:
    """What a bare strip bears exactly, with the factors of its parts alone; None where slip lines are not found,
    ``why`` says why."""

    roughness: float
    N_c: float
    N_q: float
    N_gamma: float | None
    ultimate: float | None
    why: str = ""


def exactly(strip: BareStrip, roughness: float) -> ExactStrip:
    """The exact factors and the exact pressure of a bare strip below a base of some roughness: 1 rough, 0 smooth."""
    phi = strip.friction
    N_gamma: float | None = None
    with suppress(ValueError):
        N_gamma = n_gamma(phi, roughness)
    try:
        own = exact(Strip(strip.width, strip.cohesion, phi, strip.weight, strip.surcharge, roughness))
        return ExactStrip(roughness, n_c(phi), n_q(phi), N_gamma, own.pressure)
    except ValueError as error:
        return ExactStrip(roughness, n_c(phi), n_q(phi), N_gamma, None, str(error))


def section_of(strip: BareStrip) -> Section:
    """The ground of a bare strip below its base, for its bounds."""
    return uniform(strip.width, strip.cohesion, strip.friction, strip.weight, strip.surcharge, strip.roughness)


def parts_of(strip: BareStrip) -> dict[str, Section]:
    """Sections whose bounds are those of one factor: c, q and gamma alone, where there is friction."""
    B, phi, r = strip.width, strip.friction, strip.roughness
    parts = {"N_c": uniform(B, 1.0, phi, 0.0, 0.0, r)}
    if phi > 0:
        parts |= {"N_q": uniform(B, 0.0, phi, 0.0, 1.0, r), "N_gamma": uniform(B, 0.0, phi, 2.0 / B, 0.0, r)}
    return parts
