"""While an expression is typed, a click on a cell or a size puts its name in."""

from collections.abc import Sequence
from functools import cache

from PySide6.QtCore import QObject, Qt
from PySide6.QtWidgets import QLineEdit, QWidget

from korbent.app.session import Session
from korbent.core.model.expressions import name_in
from korbent.words import say

Path = tuple[str | int, ...]


class Naming(QObject):
    """The cell that is typed into. While its text begins with =, tables and sizes do not take the focus from it."""

    def __init__(self) -> None:
        super().__init__()
        self.editor: QLineEdit | None = None
        self.session: Session | None = None
        self.path: Path = ()
        self._kept: list[tuple[QWidget, Qt.FocusPolicy]] = []

    @property
    def is_on(self) -> bool:
        """An expression is being typed."""
        return self.editor is not None and bool(self._kept) and self.editor.isVisible()

    def begin(self, editor: QLineEdit, session: Session, path: Path) -> None:
        """A cell is opened."""
        self.end()
        self.editor, self.session, self.path = editor, session, path
        editor.textEdited.connect(self._typed)
        editor.destroyed.connect(lambda _=None, e=editor: self.end(e))
        self._typed(editor.text())

    def _typed(self, text: str) -> None:
        if text.startswith("=") and not self._kept and self.editor is not None:
            for part in self._parts():
                self._kept.append((part, part.focusPolicy()))
                part.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        elif not text.startswith("="):
            self._give_back()

    def _parts(self) -> Sequence[QWidget]:
        from korbent.app.size_panel import Stepper
        from korbent.app.tables import TableView

        assert self.editor is not None
        window = self.editor.window()
        views = window.findChildren(TableView)
        return [*views, *(v.viewport() for v in views), *(s.field for s in window.findChildren(Stepper))]

    def _give_back(self) -> None:
        for part, policy in self._kept:
            try:
                part.setFocusPolicy(policy)
            except RuntimeError:  # it is gone
                continue
        self._kept = []

    def end(self, editor: QLineEdit | None = None) -> None:
        """The cell is closed."""
        if editor is None or editor is self.editor:
            self.editor = None
            self._give_back()

    def take(self, path: Path) -> bool:
        """Puts the name of a value into the expression; False where none is being typed."""
        if not self.is_on or self.editor is None or self.session is None:
            return False
        name = name_in(self.session.project, self.path, path) if path else ""
        if name:
            self.editor.insert(name)
            self.editor.textEdited.emit(self.editor.text())
        else:
            self.session.announce(
                say("! this value has no name in an expression: give it one in Project, Named values")
            )
        self.editor.setFocus()
        return True


@cache
def naming() -> Naming:
    """The one of the application: one cell is typed into at a time."""
    return Naming()
