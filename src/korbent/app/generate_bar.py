"""Generates the combinations by a rule set, beside the table that shows them."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QWidget

from korbent.app.tables import TablePanel
from korbent.core.actions.generate import regenerated
from korbent.core.actions.rules import RULES, combinations_for
from korbent.core.model import Actions, Combination


class GenerateBar(QWidget):
    """A choice of rule sets and two actions: generate all, take back what was edited in one row."""

    def __init__(self, panel: TablePanel) -> None:
        super().__init__()
        self.panel, self.session = panel, panel.session
        self.rules = QComboBox(objectName="rules")
        self.rules.addItems(list(RULES))
        used = self.session.project.actions.rules
        if used in RULES:
            self.rules.setCurrentText(used)
        self.generate = QPushButton("Generate", objectName="generate")
        self.generate.setToolTip("Rows written or edited by hand stay; the other generated ones are renewed")
        self.generate.clicked.connect(self.run)
        self.back = QPushButton("Take back edits of the row", objectName="take-back")
        self.back.clicked.connect(self.take_back)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for widget in (self.rules, self.generate, self.back):
            row.addWidget(widget)

    def run(self) -> None:
        """Generates; one step of undo."""
        actions = self.session.project.actions
        if not actions.cases:
            self.session.say("! add load cases first: combinations are made of them")
            return
        self._replace(actions.combinations)

    def take_back(self) -> None:
        """Makes the current row again as its rule gives it."""
        row = self.panel.current_row()
        if not isinstance(row, Combination) or not row.edited:
            self.session.say("! choose a generated row that was edited")
            return
        self._replace(tuple(c for c in self.session.project.actions.combinations if c is not row))

    def _replace(self, old: tuple[Combination, ...]) -> None:
        rules = self.rules.currentText()
        actions: Actions = self.session.project.actions
        rows = regenerated(old, combinations_for(rules, actions.cases))
        new = actions.replaced(combinations=rows, rules=rules)
        by_hand = sum(not c.origin or c.edited for c in rows)
        text = f"{len(rows)} combinations by {rules}" + (f", {by_hand} of them by hand" if by_hand else "")
        self.session.apply(self.session.project.replaced(actions=new), text)
