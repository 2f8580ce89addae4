"""Whether punching has a meaning, fits and is looked at as a whole."""

import numpy as np

from korbent.core.checks import LIMIT
from korbent.core.concrete.pad import ConcretePad
from korbent.core.working import Array
from korbent.words import say


def links_say(ratio: float) -> str:
    """What to say where the standard would go on with links."""
    return say("; links in bases are not covered: thicken the base") if ratio > LIMIT else ""


def idle_because(pad: ConcretePad, fits: Array, lifted: Array) -> tuple[str, ...]:
    """Per candidate: why punching has no meaning."""
    g = pad.geometry
    middle = np.hypot(g.offset_x, g.offset_y)[:, 0] <= 1e-9
    up = np.broadcast_to(lifted.all(axis=-1), fits.shape)
    narrow = fits | ~(middle if g.footprint.is_round else np.ones_like(fits))
    return tuple(
        say("the column presses down in no situation")
        if u
        else ""
        if n
        else say("no section fits within the base: one-way shear governs")
        for u, n in zip(up, narrow)
    )


def cannot_fit(pad: ConcretePad, fits: Array, thin: tuple[str, ...]) -> tuple[str, ...]:
    """Per candidate: why punching cannot be checked, besides a base that is too thin."""
    why = say(
        "no critical section around a column off the middle fits within the round base: move the column or make the base larger"
    )
    return tuple(t or (why if pad.geometry.footprint.is_round and not f else "") for t, f in zip(thin, fits))


def pulled_warning(lifted: Array) -> tuple[str, ...]:
    """Per candidate: what is not looked at where the column pulls."""
    text = say("in some situations the column pulls: the cone that it would pull out of the base is not checked")
    return tuple(text if up else "" for up in np.atleast_1d(lifted.any(axis=-1)))
