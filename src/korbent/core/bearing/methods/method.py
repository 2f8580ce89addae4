"""What the methods of bearing resistance share: the base as they see it, and factors that several of them use."""

from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol

import numpy as np

from korbent.core.working import Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class Footing:
    """A base on its effective area; arrays that broadcast against each other. Forces in kN, stresses in kPa.

    ``B`` is the shorter effective size, ``L`` the longer; ``H_B`` and ``H_L`` the horizontal force along each (not
    negative). ``depth``: of the founding level below the lowest adjacent ground, m. ``tilt`` of the base and ``slope``
    of the ground falling away beside it, rad. ``circle`` is 1 where the base is round: its sizes are then those of the
    rectangle of equal area."""

    N: Array
    H_B: Array
    H_L: Array
    B: Array
    L: Array
    depth: Array
    cohesion: Array
    phi: Array
    """Effective friction angle, rad; not used undrained, where ``cohesion`` is the undrained strength."""
    overburden: Array
    weight: Array
    """Effective unit weight below the base, kN/m3."""
    tilt: Array | float = 0.0
    slope: Array | float = 0.0
    circle: Array | float = 0.0
    full_B: Array | None = None
    full_L: Array | None = None
    """Widths over which the depth is taken in depth factors: of the axis that gives B', and of the other; B and L where
    not given."""
    arctan: bool = False
    """Whether depth factors take the arctangent of depth over width throughout, or only beyond 1."""

    def wider(self, spread: Array | float) -> "Footing":
        """The base spread by so many metres along and across."""
        full_B, full_L = (None if v is None else v + spread for v in (self.full_B, self.full_L))
        return self.but(B=self.B + spread, L=self.L + spread, full_B=full_B, full_L=full_L)

    def but(self, **changes: Any) -> "Footing":
        """The base with some values changed; what was derived from others is kept."""
        found = object.__new__(Footing)
        stale = {"H"} if changes.keys() & {"H_B", "H_L"} else set()
        stale |= {"shape"} if changes.keys() & {"B", "L"} else set()
        stale |= {"exponent"} if changes.keys() & {"B", "L", "H_B", "H_L"} else set()
        vars(found).update((k, v) for k, v in vars(self).items() if k not in stale)
        vars(found).update(changes)
        return found

    @cached_property
    def H(self) -> Array:
        """The horizontal force, kN."""
        return np.hypot(self.H_B, self.H_L)

    @cached_property
    def shape(self) -> Array:
        """B/L."""
        return np.asarray(self.B / np.maximum(self.L, 1e-12))

    @cached_property
    def exponent(self) -> Array:
        """m for the direction of the horizontal force: m_L cos2 + m_B sin2 of its angle to L'."""
        shape = self.shape
        m_B = (2 + shape) / (1 + shape)
        inverse = 1 / np.maximum(shape, 1e-12)
        m_L = (2 + inverse) / (1 + inverse)
        some = self.H > 0
        cos2 = np.where(some, (self.H_L / np.where(some, self.H, 1.0)) ** 2, 0.0)
        m: Array = m_B + (m_L - m_B) * cos2
        return m


@dataclass(frozen=True)
class Ultimate:
    """Ultimate resistance per effective area, kPa; ``slides``: the horizontal force alone is too great for it."""

    pressure: Array
    slides: Array


class Method(Protocol):
    """A method of bearing resistance."""

    NAME: str
    REFERENCE: str
    TAKES: frozenset[str]
    """Of inclination, tilt and slope those for which the author gave factors."""

    def drained(self, base: Footing, record: Recorder = ...) -> Ultimate:
        """Drained ultimate resistance."""

    def undrained(self, base: Footing, record: Recorder = ...) -> Ultimate:
        """Undrained ultimate resistance, total stresses."""


def prandtl(phi: Array) -> tuple[Array, Array]:
    """N_q (Reissner 1924) and N_c (Prandtl 1920) for phi > 0 in rad."""
    N_q = np.exp(np.pi * np.tan(phi)) * np.tan(np.pi / 4 + phi / 2) ** 2
    return N_q, (N_q - 1) / np.tan(phi)


def record_base(base: Footing, record: Recorder, drained: bool) -> None:
    """Records what a method starts from."""
    record.given("B_eff", base.B, "m", note=say("B′, the shorter effective size"))
    record.given("L_eff", base.L, "m", note="L′")
    record.given("D", base.depth, "m", note=say("depth of the founding level"))
    record.given("N", base.N, "kN", note=say("vertical force"))
    record.given("H", base.H, "kN", note=say("horizontal force"))
    record.given("q_0", base.overburden, "kPa", note=say("overburden at the founding level"))
    if drained:
        record.given("cprime", base.cohesion, "kPa")
        record.given("phi", base.phi, "rad", note=say("friction angle"))
        record.given("gammaprime", base.weight, "kN/m³", note=say("effective weight below the base"))
    else:
        record.given("c_u", base.cohesion, "kPa", note=say("undrained strength"))
    record.step("s_BL", "B_eff/max(L_eff, 1e-12)", base.shape, note="B′/L′")


def deep(base: Footing, axis: str, record: Recorder) -> Array:
    """Depth over the width of an axis ("B", "L"), recorded as D/B or D/L of the full width."""
    size, full = (base.B, base.full_B) if axis == "B" else (base.L, base.full_L)
    size = size if full is None else full
    record.given(f"W_{axis}", size, "m", note=say("width along {axis}′ for depth factors", axis=axis))
    ratio: Array = base.depth / np.maximum(size, 1e-12)
    return ratio


def depth_measure(base: Footing, axis: str, record: Recorder, symbol: str) -> Array:
    """k of Hansen and Vesic: D/B up to 1, beyond it arctan(D/B); or the arctangent throughout."""
    ratio = deep(base, axis, record)
    name = f"D/max(W_{axis}, 1e-12)"
    k = np.arctan(ratio) if base.arctan else np.where(ratio <= 1.0, ratio, np.arctan(ratio))
    record.step(symbol, f"atan({name})" if base.arctan else f"where({name} > 1, atan({name}), {name})", k)
    return k
