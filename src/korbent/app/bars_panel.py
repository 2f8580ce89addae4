"""The bars of the selected base, to type: each face with what a proposal may do with it, side bars, dowels,
openings."""

import re
from collections.abc import Callable
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.concrete.bar_text import parsed, words
from korbent.core.concrete.choose import alike
from korbent.core.model import Bars, Dowels, Opening, Pad
from korbent.core.model.labels import label
from korbent.core.model.reinforcement import FACES
from korbent.core.units import show_length, shown_unit
from korbent.files.project_file import problems_of
from korbent.words import say

PINS = ("pinned", "at_least", "free")


def dowels_words(dowels: Dowels | None, us: bool) -> str:
    """8 no ø16, or '' without dowels."""
    if dowels is None:
        return ""
    return words(Bars(diameter=dowels.diameter, number=dowels.number), us) or ""


def dowels_parsed(text: str) -> Dowels | None:
    """Dowels by number and diameter; None for an empty text.

    Raises:
        ValueError: when the text says something else.
    """
    if not text.strip():
        return None
    bars = parsed(text)
    if bars.number is None:
        raise ValueError(say("'{text}': type number and diameter of the dowels, such as 8 no 16", text=text))
    return Dowels(number=bars.number, diameter=bars.diameter)


class BarsPanel(QWidget):
    """Two rows of fields; what is typed goes to all bases of the type where the box is ticked. ``of_rafts`` stands
    beside it for rafts."""

    def __init__(self, session: Session, of_rafts: QPushButton) -> None:
        super().__init__(objectName="desk")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.session, self.of_rafts = session, of_rafts
        self.fields: dict[str, QLineEdit] = {}
        self.pins: dict[str, QPushButton] = {}
        self.heading = Label(say("Bars"), objectName="panel-title")
        self.detail = Label("", objectName="quiet")
        self.all = QCheckBox(say("whole type"), objectName="bars-alike", checked=True)
        self.all.setToolTip(say("What is typed here goes to all bases of the type that are not frozen"))
        self.like = QCheckBox(say("top like bottom"), objectName="top-like-bottom")
        self.like.setToolTip(say("The top has the same bars as the bottom, also when those change"))
        self.like.clicked.connect(self._like)
        head = QHBoxLayout()
        head.addWidget(self.heading)
        head.addSpacing(8)
        head.addWidget(self.detail, 1)
        head.addWidget(of_rafts)
        head.addSpacing(10)
        head.addWidget(self.like)
        head.addSpacing(10)
        head.addWidget(self.all)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(5)
        for column, face in enumerate(FACES):
            grid.addLayout(self._cell(face, label(face), face), 0, column)
        for column, (name, title, tip) in enumerate(
            (
                ("sides", say("sides"), say("Bars along the side faces of a thick base, up the face: 12 at 200")),
                (
                    "dowels",
                    say("dowels"),
                    say("Out of the base into the column: 8 no 16. Empty: those of the pedestal, if there is one"),
                ),
                (
                    "openings",
                    say("openings"),
                    say(
                        "Pipes through the base: x y ø diameter from its middle, such as 0.6 0.2 ø 0.11; more after a ;"
                    ),
                ),
            )
        ):
            grid.addLayout(self._cell(name, title, "", tip), 1, column, 1, 2 if name == "openings" else 1)
        for column in range(4):
            grid.setColumnStretch(column, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(14, 5, 14, 7)
        layout.setSpacing(4)
        layout.addLayout(head)
        layout.addLayout(grid)
        self.refresh()

    def _cell(self, name: str, title: str, face: str, tip: str = "") -> QHBoxLayout:
        label = Label(title, objectName="quiet")
        field = QLineEdit(objectName=f"bars-{name}")
        field.setAccessibleName(say("bars {title}", title=title))
        field.setToolTip(
            tip or say("16 at 150 (mm), 12 no 16, #5 at 9 in, or a fabric such as SL82 or A393; empty: none")
        )
        field.editingFinished.connect(lambda: self._typed(name))
        self.fields[name] = field
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(label)
        row.addWidget(field, 1)
        if face:
            hold = QPushButton(objectName="quiet-flat")
            hold.setProperty("face", face)
            hold.setToolTip(
                say(
                    "What a proposal may do with these bars: leave them, put no less, or choose them freely. A click changes it."
                )
            )
            hold.clicked.connect(lambda: self._hold(face))
            self.pins[face] = hold
            row.addWidget(hold)
        return row

    def refresh(self) -> None:
        """Shows the bars of the selected base."""
        pad = self.session.pad
        self.setEnabled(pad is not None)
        self.of_rafts.setVisible(pad is not None and pad.kind == "raft")
        if pad is None:
            return
        us = self.session.project.units == "us"
        r = pad.reinforcement
        plain = self.session.project.settings_of(pad).base_concrete == "plain"
        for face in FACES:
            shown = words(r.bars(face), us) or ""
            self._show(face, shown)
            idle = r.top_like_bottom and face.startswith("top")
            self.fields[face].setEnabled(not idle and not pad.frozen and not plain)
            self.pins[face].setText(label(r.pin_of(face)))
            self.pins[face].setEnabled(not idle and not pad.frozen and not plain)
        self._show("sides", words(r.sides, us) or "")
        self._show("dowels", dowels_words(pad.dowels, us))
        self._show("openings", self._openings_words(pad))
        self.like.setChecked(r.top_like_bottom)
        others = len(alike(self.session.project, pad))
        self.all.setVisible(others > 1)
        self.all.setText(say("all {others} of {type}", others=others, type=pad.type))
        self.heading.setText(say("Bars  {pad}", pad=pad.name))
        words_of = (
            say("plain concrete: no bars are counted on (Project, Settings)")
            if plain
            else say("beside each: what a proposal may do with it")
        )
        self.detail.setText(say("{frozen}: its bars stay", frozen=label(pad.frozen)) if pad.frozen else words_of)

    def _show(self, name: str, text: str) -> None:
        field = self.fields[name]
        if not (field.hasFocus() and field.isModified()):
            field.setText(text)

    def _openings_words(self, pad: Pad) -> str:
        u = self.session.project.showing
        unit = shown_unit("m", u)
        return "; ".join(
            f"{show_length(o.x, u)} {show_length(o.y, u)} ø {show_length(o.diameter, u)} {unit}" for o in pad.openings
        )

    def _openings(self, text: str) -> tuple[Opening, ...]:
        found = []
        for part in filter(None, map(str.strip, text.split(";"))):
            match = re.fullmatch(r"(\S+)\s+(\S+)\s*ø?\s*(\S+?)\s*(m|mm|ft|in)?", part)
            if not match:
                raise ValueError(
                    say("'{part}': type x, y and diameter of an opening, such as 0.6 0.2 ø 0.11", part=part)
                )
            unit = match[4] or ""
            x, y, d = (self.session.parse(f"{v} {unit}".strip().replace("−", "-"), "m") for v in match.groups()[:3])
            found.append(Opening(x=x, y=y, diameter=d))
        return tuple(found)

    def _typed(self, name: str) -> None:
        pad, field = self.session.pad, self.fields[name]
        if pad is None or not field.isModified():
            return
        text = field.text().strip()
        try:
            if name == "dowels":
                dowels = dowels_parsed(text)
                self._change(lambda p: p.replaced(dowels=dowels), say("dowels {text}", text=text or say("none")))
            elif name == "openings":
                openings = self._openings(text)
                self._change(
                    lambda p: p.replaced(openings=openings), say("openings {text}", text=text or say("none")), own=True
                )
            else:
                if not text and name.startswith("bottom"):
                    raise ValueError(
                        say("a reinforced base has bars below: for plain concrete choose it in Project, Settings")
                    )
                bars = parsed(text) if text else None
                self._change(
                    lambda p: p.replaced(reinforcement=p.reinforcement.replaced(**{name: bars})),
                    f"{label(name)} {words(bars, self.session.project.units == 'us') or say('none')}",
                )
        except ValueError as error:
            why = "; ".join(p.message for p in problems_of(error)) if isinstance(error, ValidationError) else str(error)
            self.session.announce(say("! bars, {face}: {why}", face=label(name), why=why))
            return
        field.setModified(False)
        self.refresh()

    def _change(self, make: Callable[[Pad], Pad], words: str, own: bool = False) -> None:
        """Changes the base, and all alike where that is ticked, in one step of undo."""
        pad, project = self.session.pad, self.session.project
        if pad is None:
            return
        if pad.frozen:
            raise ValueError(say("{pad} is {frozen}: its bars stay", pad=pad.name, frozen=label(pad.frozen)))
        same = {p.name for p in alike(project, pad)} if self.all.isChecked() and not own else {pad.name}
        pads = tuple(make(p) if p.name in same else p for p in project.pads)
        who = pad.name if len(same) == 1 else say("{same} of type {type}", same=len(same), type=pad.type)
        self.session.apply(project.replaced(pads=pads), f"{who}: {words}")

    def _hold(self, face: str) -> None:
        """From pinned to at least, to free, and back."""
        pad = self.session.pad
        if pad is None:
            return
        following = PINS[(PINS.index(pad.reinforcement.pin_of(face)) + 1) % 3]

        def make(p: Pad) -> Pad:
            pins: dict[str, Any] = {k: v for k, v in p.reinforcement.pins.items() if k != face}
            if following != "pinned":
                pins[face] = following
            return p.replaced(reinforcement=p.reinforcement.replaced(pins=pins))

        self._change(make, say("{face} {following} in a proposal", face=label(face), following=label(following)))

    def _like(self, ticked: bool) -> None:
        self._change(
            lambda p: p.replaced(reinforcement=p.reinforcement.replaced(top_like_bottom=ticked)),
            say("top like bottom") if ticked else say("top bars of its own"),
        )
