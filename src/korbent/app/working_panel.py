"""The working of one number: formula, numbers put in, result, unit, reference."""

from html import escape

from PySide6.QtCore import Qt, QUrl, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QTextBrowser, QVBoxLayout, QWidget

from korbent.app.session import Session
from korbent.core.checks import CHECKS, CheckResult, State
from korbent.core.evaluate import Working, working
from korbent.core.working import Line
from korbent.drawing.theme import Theme


class WorkingPanel(QWidget):
    """Shows a working. A symbol in a formula opens the working of that value in turn."""

    closed = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.found: Working | CheckResult | None = None
        self.trail: list[int] = []
        self.back = QPushButton("← ledger", objectName="flat")
        self.back.clicked.connect(self.go_back)
        self.copy = QPushButton("Copy as text", objectName="flat")
        self.copy.clicked.connect(self.copy_text)
        self.heading = QLabel(objectName="heading")
        self.heading.setWordWrap(True)
        self.text = QTextBrowser(objectName="working-text", openLinks=False)
        self.text.document().setDocumentMargin(15)
        self.text.anchorClicked.connect(self._follow)
        bar = QHBoxLayout()
        bar.setContentsMargins(10, 8, 10, 0)
        bar.addWidget(self.back)
        bar.addStretch(1)
        bar.addWidget(self.copy)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(bar)
        self.heading.setContentsMargins(16, 0, 12, 0)
        column.addWidget(self.heading)
        column.addWidget(self.text, 1)

    def show_check(self, check: str) -> None:
        """Shows the working of a check of the selected foundation, as far as it was opened before."""
        pad = self.session.pad
        if not pad or check not in CHECKS:
            return
        same = isinstance(self.found, Working) and self.found.result.check.id == check
        if not same:
            self.trail = []
        self.found = working(self.session.project, pad, check)
        self._render()

    def show_working(self, found: Working) -> None:
        """Shows a working that was made elsewhere."""
        self.found, self.trail = found, []
        self._render()

    def _render(self) -> None:
        found = self.found
        if found is None:
            return
        self.back.setText("← ledger" if not self.trail else "← back")
        if isinstance(found, CheckResult):
            self.heading.setText(f"{found.check.title}: {found.state.value}")
            self.text.setHtml(f"<p>{escape(found.message)}</p>")
            return
        result = found.result
        lines = found.lines(self.trail[-1] if self.trail else None)
        if self.trail:
            self.heading.setText(f"{lines[-1].symbol} = {lines[-1].value} {lines[-1].unit}")
        else:
            ratio = result.state.value if result.ratio is None else f"{result.ratio:.3f}"
            ratio = "" if result.state is State.NOT_APPLICABLE else ratio
            self.heading.setText(f"{result.check.title}  {ratio}")
        where = f"combination {result.combination}" if result.combination else "no loads needed"
        head = f"{escape(result.check.reference)} · {escape(where)}"
        if result.message:
            head += f"<br>{escape(result.message)}"
        body = "".join(self._line(line) for line in reversed(lines))
        self.text.setHtml(f"<p style='color:{self.theme.soft}'>{head}</p>{body}")

    def _line(self, line: Line) -> str:
        t = self.theme
        symbol = _subscripts(line.symbol)
        value = f"<b>{escape(line.value)}</b>&nbsp;{escape(line.unit)}"
        rows = f"<span style='font-size:14px'>{symbol} = {value}</span>"
        if line.formula:
            rows += f"<br><span style='color:{t.accent}'>= {self._linked(line)}</span>"
            if line.numbers:
                rows += f"<br><span style='color:{t.soft}'>= {escape(line.numbers)}</span>"
        tail = " · ".join(part for part in (line.note, line.reference) if part)
        if tail:
            rows += f"<br><span style='color:{t.soft}; font-size:12px'>{escape(tail)}</span>"
        return f"<p style='margin:0 0 9px 0'>{rows}</p>"

    def _linked(self, line: Line) -> str:
        import re

        text = _subscripts(line.formula)
        for name, index in sorted(line.inputs, key=lambda pair: -len(pair[0])):
            shown = _subscripts(name)
            link = (
                f"<a href='step:{index}' style='color:{self.theme.accent}; text-decoration:none'>{shown}</a>"
            )
            text = re.sub(rf"(?<![\w>;′]){re.escape(shown)}(?![\w<′])", link.replace("\\", r"\\"), text)
        return text

    def _follow(self, url: QUrl) -> None:
        if url.scheme() == "step":
            self.trail.append(int(url.path()))
            self._render()

    def go_back(self) -> None:
        """To the value from which this one was opened, in the end to the ledger."""
        if self.trail:
            self.trail.pop()
            self._render()
        else:
            self.closed.emit()

    def plain(self) -> str:
        """The working as text, inputs first."""
        if isinstance(self.found, Working):
            return "\n".join(line.text() for line in self.found.lines(self.trail[-1] if self.trail else None))
        return self.found.message if self.found else ""

    def copy_text(self) -> None:
        """Puts the working onto the clipboard."""
        QGuiApplication.clipboard().setText(self.plain())
        self.session.say("the working is on the clipboard")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Backspace):
            self.go_back()
        else:
            super().keyPressEvent(event)


def _subscripts(text: str) -> str:
    """Escaped HTML in which what follows a low line is lowered."""
    import re

    return re.sub(r"_([\w,′]+)", r"<sub>\1</sub>", escape(text))
