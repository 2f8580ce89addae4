"""Editing tables: one row a thing, one column a field, with units and validation in place."""

from korbent.app.tables.column import Column, Path, Spec
from korbent.app.tables.editing import ChoiceDelegate, Reading
from korbent.app.tables.model import TableModel
from korbent.app.tables.panel import TablePanel
from korbent.app.tables.view import TableView

__all__ = ["ChoiceDelegate", "Column", "Path", "Reading", "Spec", "TableModel", "TablePanel", "TableView"]
