"""What stands on a sheet."""

from korbent.drawing.primitives import Shape
from korbent.sheets.composition import Sheet


def shapes_of(sheet: Sheet) -> tuple[Shape, ...]:
    """All shapes of its views."""
    return tuple(shape for view in sheet.whole for shape in view.drawing.shapes)
