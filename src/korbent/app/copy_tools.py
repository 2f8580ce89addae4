"""Bases copied in the plan, with their columns and loads: pasted, mirrored, laid out in rows."""

import re
from collections.abc import Callable, Sequence

from pydantic import ValidationError
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QInputDialog,
    QLineEdit,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.plan.copies import Motion, copied, rows_of
from korbent.core.units import UnitError, show_length, shown_unit
from korbent.files.project_file import problems_of
from korbent.words import say, say_count


class CopyTools:
    """What is copied is remembered by name, and taken as it is when it is pasted."""

    def __init__(self, session: Session, chosen: Callable[[], tuple[str, ...]], parent: Callable[[], QWidget]) -> None:
        self.session, self.chosen, self.parent = session, chosen, parent
        self.held: tuple[str, ...] = ()

    def add_to(self, menu: QMenu, paste: Callable[[], None], measure: Callable[[], None]) -> None:
        """Their lines of a menu."""
        menu.addSeparator()
        for name, text, action in (
            ("copy-bases", say("Copy with its column\tCtrl+C"), self.copy),
            ("paste-bases", say("Paste at the mouse\tCtrl+V"), paste),
            ("mirror-bases", say("Mirror …"), self.ask_mirror),
            ("array-bases", say("Rows and columns of it …"), self.ask_array),
            ("measure", say("Measure\tM"), measure),
        ):
            menu.addAction(text, action).setObjectName(name)

    def copy(self) -> None:
        """Remembers the bases of the marked columns, else the selected one."""
        self.held = self.chosen()
        if not self.held:
            self.session.announce(say("! choose a base first"))
            return
        self.session.announce(
            say("{held} with what stands on it is copied: Ctrl+V puts it where the mouse is", held=", ".join(self.held))
        )

    def paste(self, x: float, y: float, on: str = "") -> None:
        """Puts what was copied so that its first column stands at a place of the plan, m."""
        project = self.session.project
        held = [name for name in self.held if any(p.name == name for p in project.pads)]
        if not held:
            self.session.announce(say("! nothing is copied: choose a base, Ctrl+C, then Ctrl+V over the plan"))
            return
        first = project.load_point(project.pad(held[0]).load_point)
        self._make(held, (Motion(x - first.x, y - first.y),), say(" on {on}", on=on) if on else "")

    def _make(self, names: Sequence[str], motions: Sequence[Motion], where: str = "") -> None:
        """Makes the copies: one step of undo."""
        try:
            project, made = copied(self.session.project, names, motions)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            self.session.announce(f"! {error}")
            return
        listed = ", ".join(made[:6]) + (" …" if len(made) > 6 else "")
        self.session.apply(
            project,
            say_count(
                len(made),
                "{listed} with its column and loads{where}; undo takes them back",
                "{listed} with their columns and loads{where}; undo takes them back",
                listed=listed,
                where=where,
            ),
            made[0],
        )

    # ------------------------------------------------------------ mirror

    def ask_mirror(self) -> None:
        """Asks for the line of the mirror."""
        names = self.chosen()
        if not names:
            self.session.announce(say("! choose a base first"))
            return
        units = self.session.project.showing
        furthest = max(p.x for p in self.session.project.actions.load_points)
        text, taken = QInputDialog.getText(
            self.parent(),
            say("Mirror"),
            say("{names} in the line x = … or y = … ({unit})", names=", ".join(names), unit=shown_unit("m", units)),
            text=f"x = {show_length(furthest, units)}",
        )
        if taken:
            self.mirror(names, text)

    def mirror(self, names: Sequence[str], text: str) -> None:
        """Mirrors bases in a line that is typed as ``x = 12``."""
        found = re.fullmatch(r"\s*([xy])\s*=\s*(.+)", text)
        if not found:
            self.session.announce(say("! '{text}' is no line: type such as x = 12 or y = 8.5", text=text))
            return
        try:
            at = self.session.parse(found[2], "m")
        except UnitError as error:
            self.session.announce(f"! {error}")
            return
        self._make(names, (Motion(mirror="x" if found[1] == "x" else "y", at=at),))

    # ------------------------------------------------------------ rows and columns

    def ask_array(self) -> None:
        """Asks for numbers and spacings."""
        names = self.chosen()
        if not names:
            self.session.announce(say("! choose a base first"))
            return
        self.dialog = ArrayDialog(self, names, self.parent())
        self.dialog.open()

    def lay_out(self, names: Sequence[str], typed: Sequence[str]) -> str:
        """Lays out by what was typed: how many along x, spacing, how many along y, spacing; what is wrong, or ''."""
        try:
            counts = [int(typed[i]) for i in (0, 2)]
        except ValueError:
            return say("how many is a whole number, such as 4")
        try:
            apart = [self.session.parse(typed[i] or "0", "m") for i in (1, 3)]
            motions = rows_of(counts[0], apart[0], counts[1], apart[1])
        except (UnitError, ValueError) as error:
            return str(error)
        self._make(names, motions)
        return ""


class ArrayDialog(QDialog):
    """So many along x and along y, the first one included."""

    def __init__(self, tools: CopyTools, names: Sequence[str], parent: QWidget) -> None:
        super().__init__(parent, objectName="array-dialog")
        self.tools, self.names = tools, tuple(names)
        self.setWindowTitle(say("Rows and columns"))
        unit = shown_unit("m", tools.session.project.showing)
        form = QFormLayout()
        self.fields = []
        for name, text, value in (
            ("count-x", say("along x, so many"), "3"),
            ("apart-x", say("spacing, {unit}", unit=unit), ""),
            ("count-y", say("along y, so many"), "1"),
            ("apart-y", say("spacing, {unit}", unit=unit), ""),
        ):
            field = QLineEdit(value, objectName=name)
            self.fields.append(field)
            form.addRow(text, field)
        self.note = Label(
            say("{names} with columns and loads, the first place included", names=", ".join(self.names)),
            objectName="quiet",
            wordWrap=True,
        )
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.take)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(self.note)
        column.addWidget(buttons)

    def take(self) -> None:
        """Makes them; what is wrong is said and can be mended."""
        why = self.tools.lay_out(self.names, [f.text().strip() for f in self.fields])
        if why:
            self.note.setText(why)
        else:
            self.accept()
