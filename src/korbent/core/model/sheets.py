"""What leaves the office: sets of sheets, and the record of revisions."""

from typing import Annotated, Literal

from pydantic import Field

from korbent.core.model.frozen import Frozen, Name, Row

Workings = Literal["none", "governing", "failing", "all"]
"""Of which checks the calculation has the working: of none, of the worst of each group, also of all that fail or are
accepted, of all."""


class SheetChoice(Frozen):
    """A sheet of a set: whether it goes out, on which paper and at which scale (1 to so many; 0: what fits)."""

    key: Annotated[str, Field(pattern=r"^[a-z][a-z-]*$", max_length=40)]
    on: bool = True
    paper: Annotated[str, Field(max_length=20)] = ""
    upright: bool = False
    scale: Annotated[float, Field(ge=0.0, le=10_000.0)] = 0.0


class SheetSet(Row):
    """Sheets that go out together, in their order."""

    name: Name
    sheets: tuple[SheetChoice, ...] = ()
    workings: Workings = "governing"
    by_type: bool = True
    """One page for a type, by its worst member; else one for each base."""
    paper: Annotated[str, Field(max_length=20)] = ""
    """Of the calculation; '' the usual one of the region."""
    lying: bool = False
    """The calculation on paper that lies; else it stands."""
    hidden: tuple[str, ...] = ()
    """What the drawings leave out, by name (see korbent.sheets.catalogue.SHOWN)."""


class Revision(Row):
    """A line of the revision table."""

    name: Name
    date: str = ""
    reason: str = ""
    by: str = ""
