"""What a table shows: its columns, and where its rows come from."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import (
    QWidget,
)

from korbent.app.session import Session
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.tables.panel import TablePanel

Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Column:
    """One column. ``path`` leads from a row's key to its value; ``choices`` makes a list to choose from."""

    title: str
    get: Callable[[Any], Any]
    path: Callable[[Any], Path]
    unit: str = ""
    kind: str = "number"
    """number, text, yes, choice (a name from a list), words (a comma-separated list of names), key and keys (the same
    of keys, shown by their labels)."""
    choices: Callable[[Session], Sequence[str]] | None = None
    optional: bool = False
    width: int = 0
    tip: str = ""
    unit_of: Callable[[Any], str] | None = None
    """The unit by row, where it differs."""
    kind_of: Callable[[Any], str] | None = None
    choices_of: Callable[[Any], Sequence[str]] | None = None
    convert: Callable[[Any], Any] | None = None
    convert_in: Callable[[Any, Any], Any] | None = None
    """As convert, with the row first."""
    empty: Any = None
    """What an emptied optional cell stands for."""
    derived: bool = False
    """A label or a result: nothing of it stands in the project."""
    note: Callable[[Any], str] | None = None
    """Where the value of a row comes from; such cells are set in the accent colour, the note is their tooltip."""
    strong: Callable[[Any], bool] | None = None
    """Whether the value of a row is the one in force, set in bold."""
    tint: Callable[[Any], str] | None = None
    """The colour behind the value of a row, a token of the theme; '' for none."""
    odd: Callable[[Any], str] | None = None
    """What is unusual about the value of a row; such cells are washed, the text is in their tooltip."""


@dataclass(frozen=True)
class Spec:
    """What a table shows. ``rows`` gives the row objects; ``add`` and ``remove`` change the project."""

    name: str
    rows: Callable[[Session], Sequence[Any]]
    columns: Callable[[Session], Sequence[Column]]
    add: Callable[[Session, Any], str] | None = None
    remove: Callable[[Session, Any], str] | None = None
    noun: str = say("row")
    empty: str = ""
    tools: Callable[["TablePanel"], QWidget] | None = None
    """More controls, beside the buttons."""
    order: Callable[[Session, Sequence[Any]], str] | None = None
    """Puts the rows of the project into another order."""
    wraps: bool = False
    """A text that is longer than its column is wide goes on in a second line."""
