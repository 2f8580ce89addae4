"""A raft under many columns and walls: to the ground a base like others, its concrete a plate that bends."""

from typing import ClassVar

from korbent.core.kinds.pad import PadKind
from korbent.core.model.actions import LoadPoint


class RaftKind(PadKind):
    """Both sizes are free; the plate looks after its concrete."""

    word: ClassVar[str] = "raft"

    def spans_one_way(self, point: LoadPoint) -> bool:
        """It spans both ways, under walls too."""
        return False
