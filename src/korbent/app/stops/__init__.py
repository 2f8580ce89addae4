"""The stops of the window, each made when it is first gone to."""

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING

from korbent.app.stops.signposts import RAIL, SIGNPOSTS, Signpost

if TYPE_CHECKING:
    from korbent.app.stops.stop import Stop


class Stops:
    """By their number; whoever asks for one has it made."""

    def __init__(self, make: "Callable[[int], Stop]") -> None:
        self._make = make
        self._made: dict[int, Stop] = {}

    def __len__(self) -> int:
        return len(SIGNPOSTS)

    def __getitem__(self, index: int) -> "Stop":
        if index not in self._made:
            self._made[index] = self._make(range(len(self))[index])
        return self._made[index]

    def __iter__(self) -> "Iterator[Stop]":
        return (self[i] for i in range(len(self)))

    def made(self, index: int) -> "Stop | None":
        """That stop, where somebody was there before."""
        return self._made.get(index)


__all__ = ["RAIL", "SIGNPOSTS", "Signpost", "Stops"]
