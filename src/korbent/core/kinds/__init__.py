"""What makes a kind of foundation different; everything else asks the kind."""

from korbent.core.kinds.kind import Kind
from korbent.core.kinds.pad import PadKind
from korbent.core.kinds.raft import RaftKind
from korbent.core.kinds.strip import StripKind
from korbent.core.model.foundations import Pad

__all__ = ["KINDS", "Kind", "kind_of"]

KINDS: dict[str, Kind] = {"pad": PadKind(), "strip": StripKind(), "raft": RaftKind()}
"""By the ``kind`` of a foundation in the model."""


def kind_of(pad: Pad) -> Kind:
    """The kind of a foundation."""
    return KINDS[pad.kind]
