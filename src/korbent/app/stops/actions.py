"""Actions: columns and walls, their loads by case, and the combinations."""

from PySide6.QtWidgets import QVBoxLayout

from korbent.app import specs
from korbent.app.stops.base import Stop, TableDeck, counted


class ActionsStop(Stop):
    """Loads and how they combine."""

    title = "Actions"

    def build(self) -> None:
        self.deck = TableDeck(
            self.session, self.theme,
            (("Loads", specs.LOADS), ("Columns and walls", specs.POINTS), ("Load cases", specs.CASES), ("Combinations", specs.COMBINATIONS)),
        )  # fmt: skip
        self.panels.extend(self.deck.panels)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.deck)

    def status(self) -> str:
        actions = self.session.project.actions
        if not actions.load_points:
            return "no column yet"
        return f"{counted(len(actions.load_points), 'column')}, {len(actions.combinations)} comb."
