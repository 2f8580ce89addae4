"""Project: what holds for the project as a whole, in one place."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.stops.signposts import PROJECT
from korbent.app.stops.stop import Elided, Stop
from korbent.app.style import font
from korbent.app.words import Label
from korbent.core.model.setting_words import DOES, GROUPS
from korbent.core.model.settings import Settings
from korbent.drawing.theme import SIZE
from korbent.words import english, say

ALL, DIFFERS, OVERRIDDEN = FILTERS = (say("all"), say("differs from default"), say("overridden somewhere"))


class ProjectStop(Stop):
    """Sections at the left; the table of the chosen one, settings with a search of their own and what each does in a
    line."""

    post = PROJECT

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.tables import Spec, TablePanel

        session, theme = self.session, self.theme
        self.group, self.filter = "", ALL
        spec = Spec(
            "settings",
            lambda _: self.rows(),
            specs.SETTINGS.columns,
            empty=say("No setting is called so."),
            wraps=True,
        )
        self.settings = TablePanel(session, spec, theme)
        self.sections = QListWidget(objectName="project-sections")
        self.sections.setAccessibleName(say("Sections of the project"))
        self.stack = QStackedWidget()
        self._at: dict[str, int] = {}
        """Of each section, by the name of its table or of a group of settings, its row in the list."""
        self.search = QLineEdit(
            objectName="search-settings",
            placeholderText=say("a word of it: cover, passive, creep …"),
            clearButtonEnabled=True,
        )
        self.search.textChanged.connect(lambda _: self._listed())
        self.filters = [
            QPushButton(
                text,
                objectName=f"settings-{english(text).split()[0]}",
                checkable=True,
                autoExclusive=True,
                checked=text == ALL,
            )
            for text in FILTERS
        ]
        for button in self.filters:
            button.clicked.connect(lambda _=False, b=button: self._filtered(b.text()))
        self.does = Elided("", objectName="quiet")
        for title, panel, lead in (
            (
                say("Title and standards"),
                TablePanel(session, specs.TITLE, theme),
                say("On every page of the report, and by which standards it is checked."),
            ),
            (
                say("Settings"),
                self.settings,
                say(
                    "What holds for the project. A type or a base may say otherwise: what is in force is bold, what differs from the default is coloured."
                ),
            ),
            (say("Presumed pressures"), TablePanel(session, specs.PRESUMED, theme), say("By depth and width.")),
            (
                say("Units"),
                TablePanel(session, specs.UNITS, theme),
                say("Quantities that are shown in a unit of their own."),
            ),
            (
                say("Named values"),
                TablePanel(session, specs.QUANTITIES, theme),
                say("Values with a name, for expressions such as =clear/3."),
            ),
            (
                say("Revisions"),
                TablePanel(session, specs.REVISIONS, theme),
                say("The revision table of the title block. Issue in Sheets adds to it."),
            ),
            (say("Rates"), TablePanel(session, specs.RATES, theme), say("What concrete, steel and digging cost.")),
        ):
            self._section(title, panel.spec.name)
            self.panels.append(panel)
            self.stack.addWidget(self._page(title, lead, panel))
            if panel is self.settings:
                for head in GROUPS:
                    self._section(head, f"settings:{head}", 1)
        self.sections.setCurrentRow(0)
        self.sections.currentItemChanged.connect(lambda item, _: self._chosen(item))
        self.settings.view.selectionModel().currentChanged.connect(lambda *_: self._tell())
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.sections.setFixedWidth(178)
        row.addWidget(self.sections)
        row.addWidget(self.stack, 1)

    def _section(self, title: str, name: str, depth: int = 0) -> None:
        item = QListWidgetItem("     " * depth + title)
        item.setData(Qt.ItemDataRole.UserRole, name)
        item.setFont(font(SIZE["text"] + (0.5 if depth else 1.5), bold=not depth))
        if depth:
            item.setForeground(QColor(self.theme.soft))
        self.sections.addItem(item)
        self._at[name] = self.sections.count() - 1

    def _page(self, title: str, lead: str, panel: QWidget) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 10, 0, 0)
        column.setSpacing(4)
        heading = Label(title, objectName="pane-title")
        heading.setContentsMargins(14, 0, 14, 0)
        said = Label(lead, objectName="quiet", wordWrap=True)
        said.setContentsMargins(14, 0, 14, 4)
        column.addWidget(heading)
        column.addWidget(said)
        if panel is self.settings:
            self.heading = heading
            tools = QHBoxLayout()
            tools.setContentsMargins(14, 0, 14, 4)
            tools.addWidget(self.search, 1)
            for button in self.filters:
                tools.addWidget(button)
            column.addLayout(tools)
        column.addWidget(panel, 1)
        if panel is self.settings:
            foot = QHBoxLayout()
            foot.setContentsMargins(14, 4, 14, 8)
            foot.addWidget(self.does)
            column.addLayout(foot)
        return page

    # ------------------------------------------------------------ which settings

    def rows(self) -> tuple[str, ...]:
        """The settings that are listed: of the chosen group, or wherever a word that is searched for stands."""
        from korbent.app.specs.project import SETTING_LABELS

        words = self.search.text().lower().split() if hasattr(self, "search") else []
        names = GROUPS[self.group] if self.group and not words else tuple(n for some in GROUPS.values() for n in some)
        project = self.session.project
        own = [kind.overrides for kind in project.types] + [pad.overrides for pad in project.pads]
        found = []
        for name in names:
            text = f"{SETTING_LABELS.get(name, '')} {DOES[name]} {name.replace('_', ' ')}".lower()
            if name not in SETTING_LABELS or not all(word in text for word in words):
                continue
            if self.filter == DIFFERS and getattr(project.settings, name) == Settings.model_fields[name].default:
                continue
            if self.filter == OVERRIDDEN and not any(name in some for some in own):
                continue
            found.append(name)
        return tuple(found)

    def _filtered(self, chosen: str) -> None:
        self.filter = chosen
        self._listed()

    def _listed(self) -> None:
        self.heading.setText(
            say("Settings · {group}", group=self.group)
            if self.group and not self.search.text().strip()
            else say("Settings")
        )
        self.settings.refresh()
        self._tell()

    def _tell(self) -> None:
        """What the current setting does."""
        name = self.settings.current_row()
        self.does.setText(
            DOES.get(name, "") if isinstance(name, str) else say("What a setting does stands here when one is chosen.")
        )

    # ------------------------------------------------------------ going about

    def _chosen(self, item: QListWidgetItem | None) -> None:
        if item is None:
            return
        table, _, self.group = str(item.data(Qt.ItemDataRole.UserRole)).partition(":")
        self.stack.setCurrentIndex([p.spec.name for p in self.panels].index(table))
        self.panels[self.stack.currentIndex()].refresh()
        if table == "settings":
            self._listed()

    def bring(self, name: str) -> None:
        """Brings a table to the front by its name; a setting as ``settings:concrete_cover``."""
        table, _, one = name.partition(":")
        head = next((h for h, some in GROUPS.items() if one in some), "")
        self.sections.setCurrentRow(self._at[f"settings:{head}" if head else table])
        if head:
            self.search.clear()
            self.filters[0].click()
            row = self.settings.model.rows.index(one)
            self.settings.view.setCurrentIndex(self.settings.model.index(row, 1))
            self.settings.view.setFocus()

    def refresh(self) -> None:
        """Shows the project as it is now."""
        super().refresh()
        if self._built:
            self._tell()
