"""What every kind of foundation answers."""

from typing import ClassVar, Protocol

from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad


class Kind(Protocol):
    """A kind of foundation."""

    word: ClassVar[str]
    """As it is called in a table."""

    def driven(self, pad: Pad, point: LoadPoint) -> tuple[str, ...]:
        """The dimensions whose steps are looked at, in the order of DRIVING."""
        ...

    def follows(self, pad: Pad, point: LoadPoint) -> str:
        """The size that is given by what stands on it, so that no proposal changes it unasked; '' where there is
        none."""
        ...

    def spans_one_way(self, point: LoadPoint) -> bool:
        """Its concrete spans across what stands on it."""
        ...
