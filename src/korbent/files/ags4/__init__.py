"""Ground investigation data in the AGS4 exchange format: what comes in, what does not and why, and writing it."""

from korbent.files.ags4.form import tables_of
from korbent.files.ags4.read import Ags4Error, read_ags4
from korbent.files.ags4.write import ags4_text, write_ags4

__all__ = ["Ags4Error", "ags4_text", "read_ags4", "tables_of", "write_ags4"]
