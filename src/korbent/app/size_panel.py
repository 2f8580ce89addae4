"""The driving dimensions of the selected foundation, and what one increment of each would do."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from korbent.app import background
from korbent.app.edge_outline import EdgeOutline
from korbent.app.naming import naming
from korbent.app.session import Session
from korbent.app.stops.stop import Elided
from korbent.app.words import Label, tip
from korbent.app.workers import Task, pool
from korbent.core.checks import State
from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.pedestal_dimensions import with_pedestal
from korbent.core.dimensions import DRIVING_INCREMENTS, Page, dimensions_of, next_value, pages_of
from korbent.core.dimensions import INCREMENTS as FURTHER_INCREMENTS
from korbent.core.dimensions import NAMES as FURTHER
from korbent.core.kinds import kind_of
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.plan.edges import columns_apart
from korbent.core.plan.linked import LINKS, Link, can_link
from korbent.core.straps import dimensions as of_straps
from korbent.core.units import UnitError, length_text, show_ratio, shown_unit
from korbent.drawing.theme import Theme
from korbent.drawing.words import size_words
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.concrete.pedestal_sizes import Least
    from korbent.core.evaluate import Effect

LABELS = {
    "edge_-x": say("Edge −x"),
    "edge_+x": say("Edge +x"),
    "edge_-y": say("Edge −y"),
    "edge_+y": say("Edge +y"),
    "width": say("Width B"),
    "length": say("Length L"),
    "far_length": say("Length at +x"),
    "thickness": say("Thickness h"),
    "level": say("Founded at"),
    "offset_x": say("Column off x"),
    "offset_y": say("Column off y"),
    "overhang": say("Overhang"),
    "rib_width": say("Rib width"),
    "rib_depth": say("Rib depth"),
    "strap_width": say("Strap width"),
    "strap_depth": say("Strap depth"),
    "pedestal_x": say("Size x"),
    "pedestal_y": say("Size y"),
    "pedestal_top": say("Top at"),
    "pedestal_bars": say("Bars"),
    "pedestal_diameter": say("Bar ø"),
    "pedestal_ties": say("Ties every"),
}


SHORT = {
    **LABELS,
    "length": say("L at −x"),
    "far_length": say("L at +x"),
    "thickness": say("Thick h"),
    "level": say("Level"),
    "offset_x": say("Off x"),
    "offset_y": say("Off y"),
}
"""Where there is one dimension more."""


SHORT_OF_RAFT = {**LABELS, "thickness": say("Thick h"), "level": say("Founded")}
"""Where there are ribs."""
SHORTEST = {
    **SHORT,
    "width": "B",
    "length": "L",
    "thickness": "h",
    "strap_width": say("Strap b"),
    "strap_depth": say("Strap h"),
}
"""Of a base with a strap; the values stand without their unit."""


EDGES = {"-x": "◂", "+x": "▸", "-y": "▾", "+y": "▴"}
PAGE_WORDS: dict[Page, tuple[str, str]] = {
    "sizes": (say("Sizes"), say("Width and length, and where the column stands")),
    "edges": (say("Edges"), say("The same size as distances of the four edges from the columns next to them")),
    "pedestal": (say("Pedestal"), say("Sizes and bars of the pedestal under the first column")),
}


def _effects_of(project: Project, pad: Pad, page: Page, link: Link) -> "tuple[Effect, ...]":
    from korbent.core.evaluate import effects_of

    return effects_of(project, pad, page, link)


class Stepper(QWidget):
    """One dimension: a field with − and +, and the worst ratio one increment down and one increment up."""

    def __init__(self, session: Session, dimension: str, theme: Theme) -> None:
        super().__init__()
        self.session, self.dimension, self.theme = session, dimension, theme
        self.narrow = False
        """There is no room for the unit."""
        self.label = Label(LABELS[dimension])
        self.moves = QPushButton(objectName="quiet-flat", flat=True)
        self.moves.setProperty("edge", True)
        self.moves.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.field = QLineEdit(objectName=f"field-{dimension}", alignment=Qt.AlignmentFlag.AlignCenter)
        self.field.setAccessibleName(LABELS[dimension])
        self.field.installEventFilter(self)
        self.field.returnPressed.connect(self._typed)
        self._shown_text = ""
        self.less = QPushButton("−", objectName="step")
        self.more = QPushButton("+", objectName="step")
        self.less.clicked.connect(lambda: self._by(-1))
        self.more.clicked.connect(lambda: self._by(1))
        for button in (self.less, self.more):
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.effects = {sign: Label(objectName="small") for sign in (-1, 1)}
        for effect in self.effects.values():
            effect.setTextFormat(Qt.TextFormat.RichText)  # ratios in their colours: no data of a project
        self.effects[1].setAlignment(Qt.AlignmentFlag.AlignRight)
        self.frame = QFrame(objectName="stepper")
        row = QHBoxLayout(self.frame)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.less)
        row.addWidget(self.field, 1)
        row.addWidget(self.more)
        self.frame.setFixedHeight(32)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        grid.setHorizontalSpacing(4)
        top = QHBoxLayout()
        top.addWidget(self.label)
        top.addStretch(1)
        top.addWidget(self.moves)
        grid.addLayout(top, 0, 0, 1, 2)
        grid.addWidget(self.frame, 1, 0, 1, 2)
        grid.addWidget(self.effects[-1], 2, 0)
        grid.addWidget(self.effects[1], 2, 1)

    @property
    def increment(self) -> float:
        """One increment, m, or so many bars; 0 where it is to the next size of a bar."""
        units = self.session.project.units
        return (FURTHER_INCREMENTS if self.dimension in FURTHER else DRIVING_INCREMENTS)[units].get(self.dimension, 0.0)

    def show_value(self) -> None:
        """Shows the value of the selected pad."""
        pad, units = self.session.pad, self.session.project.showing
        self.setEnabled(pad is not None)
        if pad is None:
            self.field.clear()
            return
        if self.dimension == "level":
            narrow = pad.shape == "trapezoid" or len(dimensions_of(self.session.project, pad)) > 1
            founded = say("Level") if self.narrow else say("Founded") if narrow else say("Founded at")
            self.label.setText(founded if pad.held == "underside" else say("Top at"))
        if self.dimension in FURTHER and not any(
            self.dimension in dimensions_of(self.session.project, pad, page)
            for page in pages_of(self.session.project, pad)
        ):
            self.field.clear()
            return
        value = self.session.dimension(self.dimension)
        self._shown_text = self._text(value)
        self.field.setText(self._shown_text)
        self.field.setToolTip("")
        self._mark(False)
        holds = self.dimension.removeprefix("edge_") in (pad.hold_x, pad.hold_y)
        self.setEnabled(not pad.frozen and not holds)
        self.setToolTip(say("This edge is held: let it go on the small outline first") if holds else "")
        each = say("{length} each", length=length_text(self.increment / 2, units))
        half = say("both edges move, {each}", each=each)
        top_moves = pad.held == "underside"
        glyph, tip = {
            "width": self._edges(pad.hold_x, half),
            "length": self._edges(pad.hold_y, half),
            "thickness": ("▴", say("the top moves")) if top_moves else ("▾", say("the underside moves")),
            "level": ("▴▾", say("the whole base moves")),
            "offset_x": ("↔", say("the base moves, the column stays")),
            "offset_y": ("↕", say("the base moves, the column stays")),
            "overhang": ("◂▸", say("all four edges move")),
            "rib_width": ("◂▸", say("of every rib, about its middle")),
            "rib_depth": ("▾", say("of every rib, away from the plate")),
            "strap_width": ("◂▸", say("of the strap, about its middle")),
            "strap_depth": ("▾", say("of the strap")),
            **{
                f"edge_{side}": (glyph, say("the {side} edge moves, the columns stay", side=side))
                for side, glyph in EDGES.items()
            },
            "pedestal_x": ("◂▸", say("of the pedestal, about its middle")),
            "pedestal_y": ("◂▸", say("of the pedestal, about its middle")),
            "pedestal_top": ("▴▾", say("of the pedestal")),
            "pedestal_bars": ("", say("two bars")),
            "pedestal_diameter": ("", say("the next diameter")),
            "pedestal_ties": ("", say("their distance")),
            "far_length": (
                "◂▸",
                say("both corners at the +x end move, {each}", each=each),
            ),
        }[self.dimension]
        size = f"{self.increment:g}" if self.dimension == "pedestal_bars" else length_text(self.increment, units, False)
        self.moves.setText(f"{glyph} {size}".strip() if self.increment else "")
        self.moves.setToolTip(say("One step: {tip}", tip=tip))

    def _edges(self, hold: str, both: str) -> tuple[str, str]:
        """Glyph and words for which edges move."""
        if hold == "middle":
            return "◂▸", both
        return ("▸" if hold[0] == "-" else "◂"), say(
            "the {hold} edge is held, the other moves by the whole step; the column stays", hold=hold
        )

    def show_effects(self, effects: "dict[int, Effect]", worst: float | None) -> None:
        """Shows what one increment would do."""
        for sign, shown in self.effects.items():
            shown.setEnabled(True)
            effect = effects.get(sign)
            head = f"<span style='color:{self.theme.soft}'>{'+' if sign > 0 else '−'}</span>&nbsp;"
            if effect is None:
                shown.setText("")
                continue
            if effect.ratio is None:
                tone, text = (
                    self.theme.beyond,
                    {State.UNSTABLE: "unstable", State.FAILS: "fails"}.get(effect.state, "?"),
                )
            else:
                rises = worst is not None and effect.ratio > worst + 0.004
                falls = worst is None or effect.ratio < worst - 0.004
                mark = "▴" if rises else "▾" if falls else "="
                tone = self.theme.beyond if effect.ratio > 1.0 else self.theme.good if falls else self.theme.ink
                text = f"{mark}&nbsp;{show_ratio(effect.ratio)}"
            shown.setText(f"{head}<b style='color:{tone}'>{text}</b>")

    def _text(self, value: float) -> str:
        if self.dimension == "pedestal_bars":
            return f"{value:.0f}"
        if self.dimension == "pedestal_diameter":
            return diameter_words(value, self.session.project.units == "us")
        return length_text(value, self.session.project.showing, not self.narrow)

    def _value(self, text: str) -> float:
        """What was typed, in m or as a number.

        Raises:
            UnitError: when it is none of it.
        """
        if self.dimension == "pedestal_bars":
            return self.session.parse(text, "")
        if self.dimension == "pedestal_diameter":
            eighths = text.strip().removeprefix("#")
            if text.strip().startswith("#") and eighths.isdigit():
                return int(eighths) * 0.0254 / 8
            return self.session.parse(text.strip().removeprefix("ø"), "mm") / 1000
        return self.session.parse(text, "m")

    def _by(self, increments: float) -> None:
        """Goes so many increments up or down."""
        pad = self.session.pad
        if self.dimension not in FURTHER:
            wrong = self.session.change_by(self.dimension, increments * self.increment)
        elif pad is None:
            return
        else:
            wrong = self.session.resize(
                self.dimension, next_value(self.session.project, pad, self.dimension, increments)
            )
        if wrong:
            self.session.announce(f"! {LABELS[self.dimension]}: {wrong}")

    def _typed(self) -> None:
        if self.field.text() == self._shown_text:  # what is shown is rounded: as it stands it is no new value
            self.field.selectAll()
            return
        try:
            value = self._value(self.field.text())
        except UnitError as error:
            self._wrong(str(error))
            return
        wrong = self.session.resize(self.dimension, round(value, 9))
        if wrong:
            self._wrong(wrong)
        else:
            self.show_value()
            self.field.selectAll()

    def _wrong(self, why: str) -> None:
        self._mark(True)
        self.field.setToolTip(tip(why))
        self.session.announce(f"! {LABELS[self.dimension]}: {why}")

    def _mark(self, wrong: bool) -> None:
        self.frame.setProperty("wrong", wrong)
        self.frame.style().unpolish(self.frame)
        self.frame.style().polish(self.frame)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            sign = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
            if sign:
                large = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
                small = event.modifiers() & Qt.KeyboardModifier.ControlModifier
                self._by(sign * (5 if large else 0.2 if small else 1))
                return True
            if event.key() == Qt.Key.Key_Escape:
                self.show_value()
                return True
        if event.type() == QEvent.Type.MouseButtonPress and naming().is_on:
            pad = self.session.pad
            own = pad is not None and self.dimension not in FURTHER
            return naming().take(("pads", pad.name, self.dimension) if pad is not None and own else ())
        if event.type() == QEvent.Type.FocusOut:
            pad = self.session.pad
            if pad and self.field.isModified():
                self._typed()
        return super().eventFilter(watched, event)


class SizePanel(QWidget):
    """Steppers for all driving dimensions."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(objectName="desk")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.session = session
        self.kind = ""
        self._asked: tuple[Project | None, str] = (None, "")
        self._shown: tuple[Effect, ...] = ()
        self._shown_for: tuple[str, Page, Link] = ("", "sizes", "apart")
        """Of which base, page and link the effects are that are shown."""
        self._increments: Task | None = None
        self.heading = Label(objectName="panel-title")
        self.detail = Elided(say("worst ratio of all checks one step down, one step up"), objectName="quiet")
        self.held = QPushButton(objectName="flat")
        self.held.setToolTip(say("The face that stays when the thickness changes"))
        self.held.clicked.connect(self._switch_face)
        self.tries = QPushButton(say("Tries"), objectName="flat")
        self.tries.setToolTip(
            say("Set this state aside under a name, compare what was set aside, take it back (Ctrl+T)")
        )
        self.outline = EdgeOutline(session, theme)
        self.page: Page = "sizes"
        """Which dimensions are shown."""
        self.pages: dict[Page, QPushButton] = {}
        for page, (name, said) in PAGE_WORDS.items():
            button = QPushButton(name, objectName=f"page-{page}", checkable=True)
            button.setProperty("small", True)
            button.setToolTip(said)
            button.clicked.connect(lambda _=False, page=page: self.show_page(page))
            self.pages[page] = button
        self.link = QPushButton(objectName="flat")
        self.link.clicked.connect(self._link_on)
        self.least = QPushButton(say("Propose"), objectName="flat")
        self.least.setToolTip(say("The pedestal with the least concrete, then the least steel, that holds its checks"))
        self.least.clicked.connect(self._propose)
        self.folding = QPushButton(objectName="flat")
        self.is_folded = False
        """Only its first line is shown."""
        self.folding.clicked.connect(lambda: self.fold(not self.is_folded))
        self.steppers = {name: Stepper(session, name, theme) for name in LABELS}
        self._later = QTimer(self, singleShot=True, interval=0)
        self._later.timeout.connect(self._effects)
        self._looking = False
        """A thread looks at the increments of a pad."""
        self._searching: tuple[Project, str] | None = None
        """Whose least pedestal is looked for."""
        head = QHBoxLayout()
        head.addWidget(self.heading)
        head.addSpacing(8)
        for button in self.pages.values():
            head.addWidget(button)
        head.addSpacing(8)
        head.addWidget(self.detail, 1)
        head.addWidget(self.least)
        head.addWidget(self.link)
        head.addWidget(self.tries)
        head.addSpacing(6)
        head.addWidget(self.held)
        head.addWidget(self.outline)
        head.addWidget(self.folding)
        self.sizes = QWidget()
        row = QHBoxLayout(self.sizes)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(12)
        for stepper in self.steppers.values():
            # all of one width, whatever their labels ask for
            stepper.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            row.addWidget(stepper, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 5, 14, 8)
        column.setSpacing(4)
        column.addLayout(head)
        column.addWidget(self.sizes)
        session.listen(lambda _: self.refresh(), "changed")
        self.refresh()

    def fold(self, folded: bool) -> None:
        """Leaves one line of it, where other work needs the room; or shows all of it again."""
        if folded != self.is_folded:
            self.is_folded = folded
            self.sizes.setVisible(not folded)
            self.refresh()

    def refresh(self) -> None:
        """Shows the selected pad; the effects follow at once, after the drawings."""
        self.folding.setText(say("▴ sizes") if self.is_folded else "▾")
        self.folding.setToolTip(say("Show the sizes") if self.is_folded else say("Leave one line of this"))
        self.folding.setAccessibleName(self.folding.toolTip())
        pad = self.session.pad
        self._say_kind(pad)
        self._show_head()
        self.held.setVisible(pad is not None and not self.is_folded and self.page != "pedestal")
        self.outline.setVisible(pad is not None and not self.is_folded and pad.plate is None)
        self.outline.update()
        if len(self.session.chosen) > 1:
            self.heading.setText(say("Sizes of {chosen}", chosen=len(self.session.chosen)))
            self.kind = say(
                "{chosen}{value}: a step changes each, a typed size is that of all · ",
                chosen=", ".join(self.session.chosen[:5]),
                value=" …" * (len(self.session.chosen) > 5),
            )
            self.detail.setText(self.kind.removesuffix(" · "))
        if self.is_folded:
            self.detail.setText(f"{self.kind}{size_words(pad, self.session.project.showing)}" if pad else "")
            return
        self._show_steppers(pad)
        for stepper in self.steppers.values():
            stepper.show_value()
            for effect in stepper.effects.values():
                effect.setEnabled(False)  # out of date until computed again
                if pad is not None and (pad.kind == "raft" or self._wanted() != self._shown_for):
                    effect.setText("…")
        self._later.start()

    def _say_kind(self, pad: Pad | None) -> None:
        """What is shown, of which type, and what stands below each size."""
        self.heading.setText(say("Size  {pad}", pad=pad.name) if pad else say("Size"))
        if pad:
            alike = sum(p.type == pad.type for p in self.session.project.pads) if pad.type else 1
            kind = say("strip · ") if pad.kind == "strip" else ""
            kind += say("type {type}, {alike} in it · ", type=pad.type, alike=alike) if pad.type else ""
            tied = any(name in of_straps.NAMES for name in dimensions_of(self.session.project, pad))
            kind += f"in {shown_unit('m', self.session.project.showing)} · " if tied else ""
            if self.page == "edges" and pad.further:
                kind += f"{self._apart(pad)} · "
            self.kind = say("{frozen}: its size stays · ", frozen=label(pad.frozen)) if pad.frozen else kind
            of = say("of the pedestal") if self.page == "pedestal" else say("of all checks")
            below = "" if pad.frozen else say("below each: worst ratio {of} after one step", of=of)
            self.detail.setText(f"{self.kind}{below}".removesuffix(" · "))
            for stepper in self.steppers.values():
                stepper.narrow = tied
            self.held.setText(say("held: {held} ⇅", held=label(pad.held)))

    def _show_steppers(self, pad: Pad | None) -> None:
        """Those of the page that the base has, each with its label."""
        for name in ("width", "thickness", "level"):
            self.steppers[name].setVisible(True)
        self.steppers["length"].setVisible(pad is None or not pad.is_round)
        self.steppers["far_length"].setVisible(pad is not None and pad.shape == "trapezoid")
        raft = pad is not None and pad.plate is not None
        own = dimensions_of(self.session.project, pad, self.page) if pad is not None else ()
        for name in FURTHER:
            self.steppers[name].setVisible(name in own)
        for name in ("offset_x", "offset_y"):
            self.steppers[name].setVisible(not raft)
        if self.page != "sizes":
            for name in DRIVING_INCREMENTS["metric"]:
                self.steppers[name].setVisible(self.page == "edges" and name in ("thickness", "level"))
        self._label(pad, own)

    def _label(self, pad: Pad | None, own: tuple[str, ...]) -> None:
        """By how many there are, and what a base calls them."""
        labels = (
            SHORTEST
            if any(name in of_straps.NAMES for name in own)
            else SHORT
            if pad is not None and pad.shape == "trapezoid"
            else SHORT_OF_RAFT
            if len(own) > 1 and self.page == "sizes"
            else LABELS
        )
        for name, stepper in self.steppers.items():
            stepper.label.setText(say("Diameter") if name == "width" and pad and pad.is_round else labels[name])
            if name.startswith("edge_") and pad is not None and pad.further:
                stepper.label.setText(labels[name].replace("Edge", "Overhang"))
            if name == "pedestal_x" and pad is not None and pad.pedestal is not None and pad.pedestal.is_round:
                stepper.label.setText(say("Diameter"))

    def show_page(self, page: Page) -> None:
        """The sizes, the distances of the edges, or the pedestal."""
        self.page = page
        self.refresh()

    def _show_head(self) -> None:
        """Which pages there are, and what belongs to the one that is shown."""
        pad, project = self.session.pad, self.session.project
        alone = pad is not None and len(self.session.chosen) == 1
        pages = pages_of(project, pad) if alone and pad is not None else ("sizes",)
        if self.page not in pages:
            self.page = "sizes"
        for page, button in self.pages.items():
            button.setVisible(len(pages) > 1 and page in pages and not self.is_folded)
            button.setChecked(page == self.page)
        both = (
            pad is not None
            and can_link(pad)
            and {"width", "length"} <= {*kind_of(pad).driven(pad, project.load_point(pad.load_point))}
        )
        self.link.setVisible(both and self.page == "sizes" and not self.is_folded)
        self.link.setText(
            {"apart": say("B, L apart"), "together": say("B, L together"), "in proportion": say("B : L kept")}[
                self.session.link
            ]
        )
        self.link.setToolTip(
            say(
                "What the length does when the width changes, and the other way round: nothing; by as much, so that all four edges move; in proportion. A click goes on"
            )
        )
        self.least.setVisible(self.page == "pedestal" and not self.is_folded)
        self.least.setEnabled(pad is not None and not pad.frozen and self._searching is None)

    def _apart(self, pad: Pad) -> str:
        """How far apart the columns of a base stand along its axes."""
        units = self.session.project.showing
        found = zip("xy", columns_apart(self.session.project, pad))
        return say("columns ") + ", ".join(
            say("{length} along {axis}", length=length_text(d, units), axis=axis) for axis, d in found if d > 1e-6
        )

    def _link_on(self) -> None:
        self.session.link = LINKS[(LINKS.index(self.session.link) + 1) % len(LINKS)]
        self.refresh()

    def _propose(self) -> None:
        """Looks for the least pedestal beside the window, and takes it."""
        pad, project = self.session.pad, self.session.project
        if pad is None or pad.pedestal is None:
            return
        self._searching = (project, pad.name)
        self.least.setEnabled(False)
        self.session.announce(say("looking for the least pedestal of {pad} …", pad=pad.name))
        pool().run("pedestal", self._searching, self._searching, self._found_least, channel="pedestal")

    def _found_least(self, asked: tuple[Project, str], found: "tuple[Least | None] | None") -> None:
        self._searching = None
        if found is not None and asked[0] is self.session.project:
            (least,), pad = found, asked[0].pad(asked[1])
            if least is None:
                self.session.announce(
                    say("! {pad}: no pedestal up to twice its size holds all its checks", pad=pad.name)
                )
            elif least.pedestal == pad.pedestal:
                self.session.announce(
                    say(
                        "the pedestal of {pad} is the least that holds, ratio {ratio}",
                        pad=pad.name,
                        ratio=show_ratio(least.ratio),
                    )
                )
            else:
                self.session.apply(
                    with_pedestal(asked[0], pad, least.pedestal),
                    say(
                        "{pad}: the least pedestal that holds, ratio {ratio}",
                        pad=pad.name,
                        ratio=show_ratio(least.ratio),
                    ),
                )
        self._show_head()

    def _effects(self) -> None:
        pad, project = self.session.pad, self.session.project
        if pad is not None and pad.kind == "raft":
            # each increment solves a plate: a worker looks at them
            if self._asked[1] != pad.name or self._asked[0] is not project:
                self._asked = (project, pad.name)
                if self._increments is not None:
                    self._increments.leave_off()
                self._increments = pool().run("effects", self._asked, self._asked, self._of_raft, channel="effects")
            return
        self._asked = (None, "")
        if pad is None:
            self._show_effects(())
        elif not self._looking:
            self._looking = True
            page, link = self.page, self.session.link
            background.start(
                (project, pad.name, page, link), lambda: _effects_of(project, pad, page, link), self._of_pad
            )

    def _wanted(self) -> tuple[str, Page, Link]:
        return self.session.selected, self.page, self.session.link

    def _of_pad(self, asked: object, effects: "tuple[Effect, ...] | None") -> None:
        """One at a time: what was asked for meanwhile comes next."""
        assert isinstance(asked, tuple)
        self._looking = False
        if asked[0] is not self.session.project or asked[1:] != self._wanted():
            self._later.start()
        elif effects is not None:
            self._shown_for = self._wanted()
            self._show_effects(effects)

    def _of_raft(self, asked: tuple[Project, str], effects: "tuple[Effect, ...] | None") -> None:
        if asked[0] is self.session.project and asked[1] == self.session.selected and effects is not None:
            self._shown_for = self._wanted()
            self._show_effects(effects)

    def _show_effects(self, effects: "tuple[Effect, ...]") -> None:
        result = self.session.result
        found: dict[str, dict[int, Effect]] = {name: {} for name in LABELS}
        self._shown = effects
        for effect in effects:
            found[effect.dimension][1 if effect.change > 0 else -1] = effect
        worst = result.worst.ratio if result else None
        if result and self.page == "pedestal":
            from korbent.core.concrete.pedestal import IDS as OF_PEDESTAL

            own = [c.ratio for c in result.checks if c.check.id in OF_PEDESTAL and c.ratio is not None]
            worst = max(own, default=None)
        for name, stepper in self.steppers.items():
            stepper.show_effects(found[name], worst)
        if result and (worst is None or worst > 1.0) and self.session.pad and not self.session.pad.frozen:
            self.detail.setText(f"{self.kind}{self._helps(worst)}")

    def _helps(self, worst: float | None) -> str:
        """Which one increment lowers the worst ratio most."""
        increments = [e for e in self._shown if e.ratio is not None]
        best = min(increments, key=lambda e: e.ratio or 0.0, default=None)
        if best is None or best.ratio is None or (worst is not None and best.ratio > worst - 0.004):
            return say("no single step helps: try two dimensions on the size map, or Propose in Plan")
        sign = "+" if best.change > 0 else "−"
        return say(
            "what helps most: {labels} {sign}, to {ratio}",
            labels=LABELS[best.dimension],
            sign=sign,
            ratio=show_ratio(best.ratio),
        )

    def _switch_face(self) -> None:
        pad = self.session.pad
        if pad:
            held, level = ("top", pad.top) if pad.held == "underside" else ("underside", pad.underside)
            new = pad.replaced(held=held, level=round(level, 6))
            pads = tuple(new if p.name == pad.name else p for p in self.session.project.pads)
            self.session.apply(self.session.project.replaced(pads=pads))
