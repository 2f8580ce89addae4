"""Punching: searched over perimeters, or at one critical section, and at the face."""

from korbent.core.checks import Outcome
from korbent.core.concrete.pad import ConcretePad
from korbent.core.concrete.punching.at_section import at_section
from korbent.core.concrete.punching.by_search import by_search
from korbent.core.concrete.standards.protocol import is_at_section, is_searching
from korbent.core.working import Recorder


def punching(pad: ConcretePad, record: Recorder, thin: tuple[str, ...], several: bool = False) -> list[Outcome]:
    """Punching as the standard has it: searched over perimeters, or at one critical section; ``several``: one column of
    several."""
    if is_searching(pad.standard):
        return by_search(pad, pad.standard, record, thin, several)
    assert is_at_section(pad.standard)
    return at_section(pad, pad.standard, record, thin, several)
