"""The reserve of a base as a table: what may be added to each component, and which check would fail first."""

from korbent.core.sizing.reserve import UNITS, Reserve
from korbent.core.units import UnitSet, show, shown_unit
from korbent.drawing.primitives import Drawing, Line, Sketch, Text
from korbent.words import say

WIDE = 10.0
MEANING = {
    ("V", 1.0): say("more V, downwards"),
    ("V", -1.0): say("less V, upwards"),
    ("Hx", 1.0): say("Hx towards +x"),
    ("Hx", -1.0): say("Hx towards −x"),
    ("Hy", 1.0): say("Hy towards +y"),
    ("Hy", -1.0): say("Hy towards −y"),
    ("Mx", 1.0): say("Mx, right-handed"),
    ("Mx", -1.0): say("Mx, the other way"),
    ("My", 1.0): say("My, right-handed"),
    ("My", -1.0): say("My, the other way"),
}


def reserve_table(found: tuple[Reserve, ...], case: str, units: UnitSet, aspect: float) -> Drawing:
    """A line for each component and direction."""
    if not found:
        text = say("a check fails already, or cannot be done: there is no reserve to speak of")
        return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    row = high / (len(found) + 1)
    sketch = Sketch()
    for x, text, anchor in (
        (0.0, say("added to {case}, one at a time", case=case), "left"),
        (5.4, say("up to"), "right"),
        (5.9, say("then fails"), "left"),
    ):
        sketch.add(Text((x, high - 0.65 * row), text, 10, "soft", anchor))  # type: ignore[arg-type]
    for i, reserve in enumerate(found):
        y = high - (i + 1.7) * row
        unit = UNITS[reserve.quantity]
        amount = (
            say("no limit")
            if reserve.amount is None
            else f"{show(reserve.amount, unit, units)} {shown_unit(unit, units)}"
        )
        sketch.add(
            Line(((0, y + 0.75 * row), (WIDE, y + 0.75 * row)), "faint", 1.0),
            Text((0, y), MEANING[(reserve.quantity, reserve.direction)], 11, "ink"),
            Text((5.4, y), amount, 11, "ink", "right", bold=True),
            Text((5.9, y), reserve.check, 11, "soft", room=4.1),
        )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
