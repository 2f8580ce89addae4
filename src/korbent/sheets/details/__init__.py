"""Details of a base that it is built from: bars from above by face, sections with hooks, laps, dowels, ties, cover,
blinding and levels; elevations of straps, sections of ribs, sketches of bent bars."""

from korbent.sheets.details.from_above import from_above
from korbent.sheets.details.marks import Marks, marks_of
from korbent.sheets.details.rib import rib_section
from korbent.sheets.details.section import BLINDING, section
from korbent.sheets.details.shape import shape_sketch
from korbent.sheets.details.strap import strap_elevation

__all__ = ["BLINDING", "Marks", "from_above", "marks_of", "rib_section", "section", "shape_sketch", "strap_elevation"]
