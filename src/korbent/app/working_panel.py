"""The working of one number: formula, numbers put in, result, unit, reference."""

from html import escape

from PySide6.QtCore import Qt, QUrl, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QTextBrowser, QVBoxLayout, QWidget

from korbent.app.deciding_panel import DecidingPanel
from korbent.app.remedies import remedy
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.checks import CHECKS, CheckResult, State
from korbent.core.explain.working import SituationRow, Working, situations_of, working
from korbent.core.sources import MARK, MEANING, marked, unchecked
from korbent.core.units import show, show_ratio, shown_unit
from korbent.core.working import Line
from korbent.drawing.theme import Theme
from korbent.words import say


class WorkingPanel(QWidget):
    """Shows a working. A symbol in a formula opens the working of that value in turn."""

    closed = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.found: Working | CheckResult | None = None
        self.trail: list[int] = []
        self.back = QPushButton(say("← ledger"), objectName="flat")
        self.back.clicked.connect(self.go_back)
        self.all = QPushButton(say("All combinations"), objectName="flat", checkable=True)
        self.all.setToolTip(say("This check over all its situations, the worst first"))
        self.all.toggled.connect(lambda _: self._render())
        self.copy = QPushButton(say("Copy as text"), objectName="flat")
        self.copy.clicked.connect(self.copy_text)
        self.heading = Label(objectName="heading")
        self.heading.setWordWrap(True)
        self.text = QTextBrowser(objectName="working-text", openLinks=False)
        self.text.document().setDocumentMargin(15)
        self.text.anchorClicked.connect(self._follow)
        self.deciding = DecidingPanel(session, theme)
        bar = QHBoxLayout()
        bar.setContentsMargins(10, 8, 10, 0)
        bar.addWidget(self.back)
        bar.addStretch(1)
        bar.addWidget(self.all)
        bar.addWidget(self.copy)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(bar)
        self.heading.setContentsMargins(16, 0, 12, 0)
        column.addWidget(self.heading)
        column.addWidget(self.deciding)
        column.addWidget(self.text, 1)

    def show_check(self, check: str) -> None:
        """Shows the working of a check of the selected foundation, as far as it was opened before."""
        pad = self.session.pad
        if not pad or check not in CHECKS:
            return
        same = isinstance(self.found, Working) and self.found.result.check.id == check
        if not same:
            self.trail = []
            self.all.setChecked(False)
        result = self.session.result
        own = next((c for c in result.checks if c.check.id == check), None) if result else None
        if own is not None and own.state is State.COMPUTING:
            self.found = own
        else:
            self.found = working(self.session.project, pad, check, self.session.situation)
        self._render()

    def show_working(self, found: Working) -> None:
        """Shows a working that was made elsewhere."""
        self.found, self.trail = found, []
        self._render()

    def _settings_of(self) -> str:
        """The check whose settings are told: where the whole of it is shown."""
        found = self.found
        if self.trail or self.all.isChecked() or found is None:
            return ""
        check = found.check if isinstance(found, CheckResult) else found.result.check
        named = isinstance(found, CheckResult) or found.result.foundation == self.session.selected
        return check.id if named and check.id in CHECKS else ""

    def _render(self) -> None:
        found = self.found
        if found is None:
            return
        self.deciding.show_check(self._settings_of())
        self.back.setText(say("← ledger") if not self.trail else say("← back"))
        has_loads = isinstance(found, Working) and bool(found.result.question) and found.result.check.id in CHECKS
        self.all.setVisible(has_loads and not self.trail)
        rows = self.rows() if self.all.isChecked() else ()
        if self.all.isChecked() and rows and isinstance(found, Working):
            self.heading.setText(say("{title}, {rows} situations", title=found.result.check.title, rows=len(rows)))
            self.text.setHtml(self._table(rows, found.result.check.unit))
            return
        if isinstance(found, CheckResult):
            self.heading.setText(f"{found.check.title}: {found.state.word}")
            title, place = remedy(found.message) if found.state is State.CANNOT else ("", "")
            link = f"<p><a href='place:{place}' style='color:{self.theme.accent}; text-decoration:none'>→ {escape(title)}</a></p>"
            self.text.setHtml(f"<p>{escape(found.message)}</p>" + link * bool(place))
            return
        result = found.result
        lines = found.lines(self.trail[-1] if self.trail else None)
        if self.trail:
            self.heading.setText(f"{lines[-1].symbol} = {lines[-1].value} {lines[-1].unit}")
        else:
            ratio = result.state.word if result.ratio is None else f"{result.ratio:.3f}"
            ratio = "" if result.state is State.NOT_APPLICABLE else ratio
            self.heading.setText(f"{result.check.title}  {ratio}")
        where = (
            say("combination {combination}", combination=result.combination)
            if result.combination
            else say("no loads needed")
        )
        if result.combination and result.combination == self.session.situation:
            where += say(", chosen")
        head = f"{escape(result.check.reference)} · {escape(where)}"
        if result.message:
            head += f"<br>{escape(result.message)}"
        body = "".join(self._line(line) for line in reversed(lines))
        if any(unchecked(line.reference) for line in lines):
            head += f"<br>{MARK} {MEANING}"
        self.text.setHtml(f"<p style='color:{self.theme.soft}'>{head}</p>{body}")

    def rows(self) -> tuple[SituationRow, ...]:
        """The check that is shown over all its situations."""
        found, pad = self.found, self.session.pad
        if not isinstance(found, Working) or not pad or found.result.check.id not in CHECKS:
            return ()
        return situations_of(self.session.project, pad, found.result.check.id)

    def _cells(self, row: SituationRow, unit: str) -> tuple[str, ...]:
        units = self.session.project.showing
        ratio = row.state.word if row.ratio is None else show_ratio(row.ratio)
        name = f"{row.combination}: {row.name}" + (f", {row.block}" if row.block else "")
        return (name, show(row.demand, unit, units), show(row.capacity, unit, units), ratio)

    def _table(self, rows: tuple[SituationRow, ...], unit: str) -> str:
        shown = shown_unit(unit, self.session.project.showing)
        head = "".join(
            f"<td width='{wide}%' align='{'left' if i == 0 else 'right'}' style='color:{self.theme.soft}; font-size:12px; padding:2px 6px 4px 0'>{t}</td>"
            for i, (t, wide) in enumerate(
                ((say("combination"), 49), (say("demand"), 18), (say("capacity"), 18), (say("ratio"), 15))
            )
        )
        body = ""
        for row in rows:
            bad = row.state is not State.HOLDS
            colour = self.theme.beyond if bad else self.theme.ink
            first, *cells = map(escape, self._cells(row, unit))
            chosen = row.combination == self.session.situation
            weight = "bold" if chosen else "normal"
            first = f"<a href='situation:{row.combination}' style='color:{colour}; text-decoration:none'>{'▸ ' * chosen}{first}</a>"
            body += (
                "<tr>"
                + "".join(
                    f"<td align='{'left' if i == 0 else 'right'}' style='color:{colour}; font-weight:{weight}; padding:2px 6px 2px 0'>{c}</td>"
                    for i, c in enumerate((first, *cells))
                )
                + "</tr>"
            )
        hint = say("A click shows a combination in every drawing and working; one more, the governing one.")
        hint += say(" Demand and capacity in {shown}.", shown=escape(shown)) * bool(shown)
        return f"<p style='color:{self.theme.soft}'>{hint}</p><table cellspacing='0' width='100%'><tr>{head}</tr>{body}</table>"

    def _line(self, line: Line) -> str:
        t = self.theme
        symbol = _subscripts(line.symbol)
        value = f"<b>{escape(line.value)}</b>&nbsp;{escape(line.unit)}"
        rows = f"<span style='font-size:14px'>{symbol} = {value}</span>"
        if line.formula:
            rows += f"<br><span style='color:{t.accent}'>= {self._linked(line)}</span>"
            if line.numbers:
                rows += f"<br><span style='color:{t.soft}'>= {escape(line.numbers)}</span>"
        tail = " · ".join(part for part in (line.note, marked(line.reference)) if part)
        if tail:
            rows += f"<br><span style='color:{t.soft}; font-size:12px'>{escape(tail)}</span>"
        return f"<p style='margin:0 0 9px 0'>{rows}</p>"

    def _linked(self, line: Line) -> str:
        import re

        text = _subscripts(line.formula)
        for name, index in sorted(line.inputs, key=lambda pair: -len(pair[0])):
            shown = _subscripts(name)
            link = f"<a href='step:{index}' style='color:{self.theme.accent}; text-decoration:none'>{shown}</a>"
            text = re.sub(rf"(?<![\w>;′]){re.escape(shown)}(?![\w<′])", link.replace("\\", r"\\"), text)
        return text

    def _follow(self, url: QUrl) -> None:
        if url.scheme() == "step":
            self.trail.append(int(url.path()))
            self._render()
        elif url.scheme() == "place":
            self.session.show_place(url.path())
        elif url.scheme() == "situation":
            label = url.path()
            self.session.choose_situation("" if label == self.session.situation else label)

    def go_back(self) -> None:
        """To the value from which this one was opened, in the end to the ledger."""
        if self.trail:
            self.trail.pop()
            self._render()
        else:
            self.closed.emit()

    def plain(self) -> str:
        """The working as text, inputs first."""
        if self.all.isChecked() and self.rows() and isinstance(self.found, Working):
            unit = self.found.result.check.unit
            return "\n".join("\t".join(self._cells(row, unit)) for row in self.rows())
        if isinstance(self.found, Working):
            return "\n".join(line.text() for line in self.found.lines(self.trail[-1] if self.trail else None))
        return self.found.message if self.found else ""

    def copy_text(self) -> None:
        """Puts the working onto the clipboard."""
        QGuiApplication.clipboard().setText(self.plain())
        self.session.announce(say("the working is on the clipboard"))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Backspace):
            self.go_back()
        else:
            super().keyPressEvent(event)


def _subscripts(text: str) -> str:
    """Escaped HTML in which what follows a low line is lowered."""
    import re

    return re.sub(r"_([\w,′]+)", r"<sub>\1</sub>", escape(text))
