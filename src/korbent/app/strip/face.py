"""What the faces of a strip share."""

from typing import TYPE_CHECKING

from korbent.core.bearing.as_strip import AsStrip, Taken
from korbent.core.units import Showing
from korbent.drawing.primitives import Drawing
from korbent.drawing.yielding import Below

if TYPE_CHECKING:
    from korbent.app.asked import Asked
    from korbent.app.strip.panel import StripPanel


class Face:
    """One way to look at a strip: what it asks workers for, and what is drawn of that."""

    name = ""
    tip = ""

    def __init__(self, panel: "StripPanel") -> None:
        self.panel = panel

    def taken(self, taken: Taken) -> Taken:
        """How the base is taken as a strip, from what is chosen."""
        return taken

    def ask(self, strip: AsStrip) -> None:
        """Asks for what is shown, unless it is there or on its way."""

    def came(self) -> None:
        """More is known: what follows from it is asked for."""

    def asked(self) -> "list[Asked]":
        """All that may be on its way."""
        return []

    def leave(self) -> None:
        """It is not seen: others have the workers."""
        for one in self.asked():
            one.leave()

    def picked(self, key: str) -> None:
        """A click on a shape of the drawing."""

    def over(self, key: str) -> str:
        """What the shape under the mouse says, in place of the words; '' where it says nothing."""
        return ""

    def words(self, strip: AsStrip, units: Showing) -> str:
        """What is shown, below it."""
        return ""

    def drawn(self, strip: AsStrip | str, units: Showing, aspect: float) -> Drawing:
        """The chart."""
        raise NotImplementedError

    def below(self, strip: AsStrip) -> Below | None:
        """Of the ground below the base, what the section shows; None: nothing."""
        return None
