"""Help at hand: what a check, a size, a setting or a column means, its formula and where it comes from, beside the
work."""

import re
from collections.abc import Callable
from html import escape

from PySide6.QtCore import QUrl, Signal
from PySide6.QtGui import QKeyEvent, Qt
from PySide6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QTextBrowser, QVBoxLayout, QWidget

from korbent.app.commands import keys_and_words
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.checks import CHECKS
from korbent.core.explain.check_words import MEANS, OF_STANDARDS, THEORY
from korbent.core.explain.working import Working, working
from korbent.core.model import Settings
from korbent.core.model.setting_words import DOES
from korbent.core.sources import MARK, MEANING, marked, unchecked
from korbent.drawing.theme import Theme
from korbent.files import docs
from korbent.words import say

Topic = tuple[str, str, str]
"""(kind, what, more): a check, a size, a setting, a column with its tip, a section of the guide, or the keys."""

SIZES = {
    "width": (
        say("Width B"),
        say("Along the base's own x axis. The arrows show which edges move; a click on them holds another edge."),
    ),
    "length": (
        say("Length L"),
        say("Along the base's own y axis. The arrows show which edges move; a click on them holds another edge."),
    ),
    "far_length": (say("Length at +x"), say("Of a trapezoid: its length at the far end of its x axis.")),
    "thickness": (
        say("Thickness h"),
        say("Moves the face that is not held: the button at the right switches between underside and top."),
    ),
    "level": (
        say("Founded at"),
        say(
            "The level of the underside, or of the top where that is held. Deeper founding adds overburden and weight."
        ),
    ),
    "offset_x": (
        say("Column off x"),
        say("Where the column stands from the middle of the base: the base moves, the column stays."),
    ),
    "offset_y": (
        say("Column off y"),
        say("Where the column stands from the middle of the base: the base moves, the column stays."),
    ),
    "overhang": (
        say("Overhang"),
        say("How far the raft reaches beyond its outermost columns; an edge held at a boundary stays."),
    ),
    "rib_width": (say("Rib width"), say("Of all ribs of the raft, about their lines.")),
    "rib_depth": (say("Rib depth"), say("Of all ribs of the raft, away from the plate.")),
    "strap_width": (say("Strap width"), say("Of the beam that ties this base.")),
    "strap_depth": (say("Strap depth"), say("Of the beam that ties this base.")),
    **{
        f"edge_{side}": (
            say("Edge {replace}", replace=side.replace("-", "−")),
            say(
                "From the axis of the column next to it to this edge, along the axes of the base; of a base under several columns its overhang. The columns and the other three edges stay."
            ),
        )
        for side in ("-x", "+x", "-y", "+y")
    },
    "pedestal_x": (
        say("Pedestal, size x"),
        say("Of the pedestal under the first column, along the x axis of the base; of a round one its diameter."),
    ),
    "pedestal_y": (
        say("Pedestal, size y"),
        say("Of the pedestal under the first column, along the y axis of the base."),
    ),
    "pedestal_top": (say("Pedestal, top"), say("The level at which the column stands on the pedestal.")),
    "pedestal_bars": (say("Pedestal, bars"), say("How many upright bars it has, evenly around.")),
    "pedestal_diameter": (
        say("Pedestal, bar diameter"),
        say("Of its upright bars; a step goes to the next size of the region."),
    ),
    "pedestal_ties": (
        say("Pedestal, ties"),
        say("The distance of the ties, or the pitch of the spiral, along the pedestal."),
    ),
}
BELOW = say(
    "Below each size stands the worst ratio of all checks after one step down and one step up. Arrow keys step, with Shift five steps, with Ctrl a fifth; any unit of length is understood."
)
TYPED = say(
    "Any unit of the quantity can be typed, = begins an expression with names, an emptied optional cell takes its default. Esc leaves it as it was."
)
OF_STOPS = {"bearing": "Pressure, methods, sizes", "all bases": "The bench"}
"""The section of the guide that tells of a stop, where it is called otherwise."""


def heading_of(stop: str) -> str:
    """The heading of the guide under which a stop is told of."""
    return OF_STOPS.get(stop, stop.capitalize())


def topic_at(widget: QWidget | None, session: Session, stop: str) -> Topic:
    """What somebody who asks for help there looks at."""
    from korbent.app.ledger import LedgerList
    from korbent.app.size_panel import Stepper
    from korbent.app.stops.whole import WholeView
    from korbent.app.tables import TableView
    from korbent.app.working_panel import WorkingPanel

    inside = widget
    while inside is not None:
        if isinstance(inside, TableView):
            at = inside.currentIndex()
            model = inside.model_()
            row = model.rows[at.row()] if at.isValid() and at.row() < len(model.rows) else None
            if isinstance(row, str) and row in DOES:
                return "setting", row, ""
            if at.isValid():
                column = model.columns[at.column()]
                return "column", column.title, column.tip
        if isinstance(inside, Stepper):
            return "size", inside.dimension, ""
        if isinstance(inside, (LedgerList, WholeView, WorkingPanel)) and session.check in CHECKS:
            return "check", session.check, ""
        inside = inside.parentWidget()
    return "guide", heading_of(stop), ""


class HelpPanel(QWidget):
    """The page of a topic, with links to what it rests on."""

    closed = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.trail: list[Topic] = []
        self.back = QPushButton(say("← back"), objectName="flat")
        self.back.clicked.connect(self.go_back)
        self.heading = Label(objectName="heading", wordWrap=True)
        self.heading.setContentsMargins(16, 0, 12, 0)
        self.text = QTextBrowser(objectName="help-text", openLinks=False)
        self.text.document().setDocumentMargin(15)
        self.text.document().setIndentWidth(14)
        self.text.anchorClicked.connect(self._follow)
        bar = QHBoxLayout()
        bar.setContentsMargins(10, 8, 10, 0)
        bar.addWidget(self.back)
        bar.addStretch(1)
        for name, topic in ((say("Guide"), ("guide", "", "")), (say("Keys"), ("keys", "", ""))):
            button = QPushButton(name, objectName="flat")
            button.clicked.connect(lambda _=False, t=topic: self.show_topic(t))
            bar.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(bar)
        column.addWidget(self.heading)
        column.addWidget(self.text, 1)

    def show_topic(self, topic: Topic) -> None:
        """Shows a topic; *back* returns to the one before."""
        if not self.trail or self.trail[-1] != topic:
            self.trail.append(topic)
        kind, what, more = topic
        shown: dict[str, Callable[[str], None]] = {
            "check": self._check,
            "size": self._size,
            "setting": self._setting,
            "guide": self._guide,
            "theory": self._theory,
            "keys": self._keys,
        }
        if kind in shown:
            shown[kind](what)
        else:
            self._column(what, more)

    def _page(self, title: str, *parts: str) -> None:
        self.heading.setText(title)
        self.text.setHtml("".join(f"<p style='margin:0 0 9px 0'>{part}</p>" for part in parts if part))

    def _check(self, name: str) -> None:
        """What it asks, its formula as it is computed now, its clause, and what the theory says of it."""
        session = self.session
        soft = say("style='color:{soft}'", soft=self.theme.soft)
        parts = [escape(MEANS[name])]
        pad = session.pad
        found = working(session.project, pad, name, session.situation) if pad else None
        reference = CHECKS[name].reference
        if isinstance(found, Working):
            reference = found.result.check.reference
            steps = [line for line in found.lines() if line.formula][-3:]
            for line in reversed(steps):
                parts.append(
                    f"{_lowered(line.symbol)} = <span style='color:{self.theme.accent}'>{_lowered(line.formula)}</span>"
                    + (
                        f"<br><span {soft}>{escape(' · '.join(p for p in (line.note, marked(line.reference)) if p))}</span>"
                        if line.note or line.reference
                        else ""
                    )
                )
            parts.append(self._link("open", name, say("Open the working, with every value")))
        elif found is not None:
            parts.append(f"<span {soft}>{escape(found.message)}</span>")
        parts.append(
            f"<span {soft}>{escape(marked(reference))}</span>"
            + (f"<br><span {soft}>{MARK} {escape(MEANING)}</span>" if unchecked(reference) else "")
        )
        phrases = THEORY[name]
        standard = OF_STANDARDS.get(session.project.standards.concrete)
        if standard and CHECKS[name].group == "concrete":
            phrases = (
                standard,
                *(
                    p
                    for p in phrases
                    if not p.startswith(("**One-way", "**Punching**: peri", "**Flexure", "**Least steel**", "Partial"))
                ),
            )
        for phrase in phrases:
            heading, text = docs.beginning("theory", phrase)
            if text:
                parts += [_marked_up(text), self._link("theory", heading, say("Theory: {heading}", heading=heading))]
        self._page(CHECKS[name].title, *parts)

    def _size(self, name: str) -> None:
        title, does = SIZES[name]
        self._page(title, escape(does), escape(BELOW), self._link("guide", say("Sizes"), say("Guide: Sizes")))

    def _setting(self, name: str) -> None:
        field = Settings.model_fields[name]
        usual = (
            {None: "empty", True: "yes", False: "no"}.get(field.default, field.default)
            if not isinstance(field.default, tuple)
            else say("no rows")
        )
        self._page(
            field.title or name,
            escape(DOES[name]),
            say("Default: {usual}, in the stored unit.", usual=escape(str(usual))),
            say("It may be said otherwise by a type or a base: what is in force is bold."),
            escape(TYPED),
            self._link("place", f"settings:{name}", say("Show it in Project")),
        )

    def _column(self, title: str, more: str) -> None:
        self._page(
            title,
            escape(more[:1].upper() + more[1:]) if more else "",
            escape(TYPED),
            self._link("guide", say("Tables"), say("Guide: Tables")),
        )

    def _guide(self, heading: str) -> None:
        text = docs.section("guide", heading) if heading else ""
        if not text:
            links = "<br>".join(self._link("guide", h, h) for h in docs.headings("guide"))
            theory = "<br>".join(self._link("theory", h, h) for h in docs.headings("theory"))
            self._page(say("Guide"), links or say("The guide is not beside the program."), "<b>Theory</b>", theory)
            return
        self._markdown(heading, text)

    def _theory(self, heading: str) -> None:
        self._markdown(say("Theory: {heading}", heading=heading), docs.section("theory", heading))

    def _markdown(self, title: str, text: str) -> None:
        self.heading.setText(title)
        self.text.setMarkdown(text)

    def _keys(self, _: str) -> None:
        rows = "".join(
            f"<tr><td style='padding:3px 8px 3px 0'><b>{escape(keys)}</b></td><td style='padding:3px 0'>{escape(what)}</td></tr>"
            for keys, what in keys_and_words()
        )
        self.heading.setText(say("Keys"))
        self.text.setHtml(f"<table>{rows}</table>")

    def _link(self, scheme: str, where: str, text: str) -> str:
        return f"<a href='{scheme}:{bytes(QUrl.toPercentEncoding(where).data()).decode()}' style='color:{self.theme.accent}; text-decoration:none'>{escape(text)}</a>"

    def _follow(self, url: QUrl) -> None:
        where = QUrl.fromPercentEncoding(url.path().encode())
        if url.scheme() == "open":
            self.closed.emit()
            self.session.open_check()
        elif url.scheme() == "place":
            self.closed.emit()
            self.session.show_place(where)
        elif url.scheme() in ("guide", "theory"):
            self.show_topic((url.scheme(), where, ""))

    def go_back(self) -> None:
        """To the topic before, in the end to the ledger."""
        self.trail = self.trail[:-1]
        if self.trail:
            self.show_topic(self.trail[-1])
        else:
            self.closed.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Backspace):
            self.go_back()
        else:
            super().keyPressEvent(event)


def asked_at(session: Session, stop: str) -> Topic:
    """The topic of the part of the window that has the focus."""
    return topic_at(QApplication.focusWidget(), session, stop)


def _lowered(text: str) -> str:
    return re.sub(r"_([\w,′]+)", r"<sub>\1</sub>", escape(text))


def _marked_up(text: str) -> str:
    """A paragraph of the theory as HTML."""
    found = re.sub(r"\*\*(.+?)\*\*", r"<b>\1</b>", escape(text))
    return re.sub(r"(?<!\w)[*`]([^*`]+)[*`]", r"<i>\1</i>", found)
