"""Generates the combinations by a rule set, beside the table that shows them."""

from typing import get_args

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QInputDialog, QPushButton, QWidget

from korbent.app.tables import TablePanel
from korbent.core.actions.generate import regenerated
from korbent.core.actions.rules import RULES, combinations_for
from korbent.core.model import Actions, Combination, Standards
from korbent.core.model.actions import Serves
from korbent.core.model.labels import label
from korbent.files.office import OfficeError, combinations_of, keep_set, set_names
from korbent.words import say, worded

OFFICE = "office: "
EVERY = say("all questions")


def _title(rules: str) -> str:
    """A rule set as it is read."""
    first, comma, more = rules.partition(", ")
    return f"{first}, {worded(more)}" if comma else first


class GenerateBar(QWidget):
    """A choice of rule sets and two actions: generate all, take back what was edited in one row."""

    def __init__(self, panel: TablePanel) -> None:
        super().__init__()
        self.panel, self.session = panel, panel.session
        self.rules = QComboBox(objectName="rules")
        self.rules.setMinimumContentsLength(14)
        self.rules.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self._list()
        used = self.session.project.actions.rules
        if used in RULES:
            self.rules.setCurrentIndex(self.rules.findData(used))
        self.generate = QPushButton(say("Generate"), objectName="generate")
        self.generate.setToolTip(say("Rows written or edited by hand stay; the other generated ones are renewed"))
        self.generate.clicked.connect(self.run)
        self.back = QPushButton(say("Take back edits"), objectName="take-back")
        self.back.clicked.connect(self.take_back)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.table = QPushButton(say("Rules …"), objectName="show-rules")
        self.table.setToolTip(
            say("The rows and values of the rule set, with their sources; a project may have its own values")
        )
        self.table.clicked.connect(self.show_rules)
        self.keep = QPushButton(say("Keep …"), objectName="keep-set")
        self.keep.setToolTip(say("The office's own: all rows here, for use in other projects"))
        self.keep.clicked.connect(self.ask_keep)
        self.serving = QComboBox(objectName="serving")
        self.serving.setToolTip(say("Only combinations that serve this question are listed"))
        self.serving.setAccessibleName(say("Combinations that serve"))
        self.serving.addItem(EVERY, "")
        for question in get_args(Serves):
            self.serving.addItem(label(question), question)
        self.serving.setMinimumContentsLength(9)
        self.serving.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.serving.currentIndexChanged.connect(self._serve)
        for widget in (self.rules, self.table, self.generate, self.back, self.keep, self.serving):
            row.addWidget(widget)

    def _serve(self, _: int) -> None:
        self.session.serving = self.serving.currentData()
        self.panel.refresh()

    def _list(self) -> None:
        current = self.rules.currentData()
        self.rules.clear()
        for name in RULES:
            self.rules.addItem(_title(name), name)
        for name in set_names():
            self.rules.addItem(OFFICE + name, OFFICE + name)
        self.rules.setCurrentIndex(max(self.rules.findData(current), 0))

    def ask_keep(self) -> None:
        """Asks under which name the rows are kept."""
        name, taken = QInputDialog.getText(self, say("Office set"), say("Keep these combinations under the name"))
        if taken:
            self.keep_as(name)

    def keep_as(self, name: str) -> None:
        """Keeps the rows as a set of the office."""
        try:
            keep_set(self.session.project.actions, name)
        except (OfficeError, OSError) as error:
            self.session.announce(f"! {error}")
            return
        self._list()
        self.session.announce(say("kept as the set '{name}': it can be chosen in every project", name=name))

    def _rows(self, actions: Actions) -> list[Combination]:
        rules, cases = self.rules.currentData(), actions.cases
        return (
            combinations_of(rules.removeprefix(OFFICE), cases)
            if rules.startswith(OFFICE)
            else list(combinations_for(rules, cases, actions.rule_values))
        )

    def show_rules(self) -> None:
        """Opens the rule set as a table; the office's own sets have only rows."""
        from korbent.app.rules_dialog import RulesDialog

        rules = self.rules.currentData()
        if rules not in RULES:
            self.session.announce(say("! a set of the office has no rules: its rows are those that were kept"))
            return
        self.dialog = RulesDialog(self.session, rules, self.panel.model.theme, self.window())
        self.dialog.accepted.connect(self._with_values)
        self.dialog.open()

    def _with_values(self) -> None:
        """Generates with the values of the table; one step of undo."""
        actions = self.session.project.actions
        self._replace(actions.combinations, actions.replaced(rule_values=self.dialog.changed))

    def run(self) -> None:
        """Generates; one step of undo."""
        self._replace(self.session.project.actions.combinations)

    def take_back(self) -> None:
        """Makes the current row again as its rule gives it."""
        row = self.panel.current_row()
        if not isinstance(row, Combination) or not row.edited:
            self.session.announce(say("! choose a generated row that was edited"))
            return
        self._replace(tuple(c for c in self.session.project.actions.combinations if c is not row))

    def _replace(self, old: tuple[Combination, ...], changed: Actions | None = None) -> None:
        rules = self.rules.currentData()
        actions: Actions = changed or self.session.project.actions
        if not actions.cases:
            self.session.announce(say("! add load cases first: combinations are made of them"))
            return
        try:
            rows = regenerated(old, self._rows(actions))
        except OfficeError as error:
            self.session.announce(f"! {error}")
            return
        new = actions.replaced(combinations=rows, rules=rules)
        by_hand = sum(not c.origin or c.edited for c in rows)
        text = say("{rows} combinations by {rules}", rows=len(rows), rules=rules) + (
            say(", {by_hand} of them by hand", by_hand=by_hand) if by_hand else ""
        )
        project = self.session.project.replaced(actions=new)
        approach = rules.rpartition(", ")[2]
        if approach in get_args(Standards.model_fields["approach"].annotation):
            project = project.replaced(standards=project.standards.replaced(approach=approach))
        self.session.apply(project, text)
