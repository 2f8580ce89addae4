"""The map of sizes beside the section: a first look and then the finer map, both by workers; a click takes a size."""

from dataclasses import replace

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.model import Pad, Project
from korbent.core.sizing.size_map import UP, SizeMap, same_place, sized
from korbent.core.units import show_length, shown_unit
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.size_map import size_map_drawing

COARSE = 4
FINE = ""
FIRST = "a first look; the finer map follows"
BEFORE = "as it was before; being computed"
COMPUTED = "the map is being computed"
TITLES = {"length": "width x length", "thickness": "width x thickness", "level": "width x founding level"}

Asked = tuple[Project | None, Pad | None, str]


def _same(a: Asked, b: Asked) -> bool:
    return a[0] is b[0] and a[1] is b[1] and a[2] == b[2]


class SizeMapPanel(QWidget):
    """The map with its choice of dimensions, and one action: take the smallest."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.found: SizeMap | None = None
        self.state = COMPUTED
        """'' where it is the fine map of what is shown, else what to say of it."""
        self._asked: Asked = (None, None, "")
        self.kind = QComboBox(objectName="map-kind")
        for up in UP:
            self.kind.addItem(TITLES[up], up)
        self.kind.activated.connect(lambda _: self.refresh())
        self.take = QPushButton("Take the smallest", objectName="take-smallest")
        self.take.clicked.connect(self.take_smallest)
        self.view = DrawingView(self._drawing, "Size map")
        self.view.clicked.connect(self._click)
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 6)
        row.addWidget(self.kind)
        row.addWidget(Label("a click takes a size", objectName="quiet"), 1)
        row.addWidget(self.take)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 1)
        column.addLayout(row)

    @property
    def current(self) -> bool:
        """It belongs to what is shown."""
        pad = self.session.pad
        return bool(
            pad
            and self.found
            and same_place(self.found, self.session.project, pad)
            and self.found.up == self.kind.currentData()
        )

    def refresh(self) -> None:
        """A first look and the finer map are asked for; till then the map of the same base before stays, marked."""
        pad, up = self.session.pad, str(self.kind.currentData())
        project = self.session.project
        if pad and pad.is_round and up == "length":
            # one diameter: the map shows it against the thickness
            self.kind.setCurrentIndex(self.kind.findData("thickness"))
            up = "thickness"
        asked = (project, pad, up)
        if pad is None:
            self.found = None
        elif not self.current and not _same(asked, self._asked):
            keeps = self.found is not None and self.found.pad.name == pad.name and self.found.up == up
            self.found, self.state = (self.found, BEFORE) if keeps else (None, COMPUTED)
            for every, channel in ((COARSE, "first sizes"), (1, "sizes")):
                pool().run(
                    "sizes",
                    (project, pad, up, every),
                    (project, pad.name, up, every),
                    self._came,
                    channel=channel,
                    first=every > 1,
                )
        self._asked = asked
        self._show()

    def _came(self, asked: tuple[Project, Pad, str, int], found: SizeMap | None) -> None:
        project, pad, up, every = asked
        # a map of something that is no longer shown is dropped, and a first look after the finer map
        if not _same((project, pad, up), self._asked) or (every > 1 and self.current):
            return
        if found is None:
            self.state = self.state if self.current else "! the map could not be computed"
            if every == 1:
                self.session.say("! the map of sizes could not be computed; change something to try it again")
        else:
            self.found = replace(found, project=project, pad=pad)
            self.state = FIRST if every > 1 else FINE
        self._show()

    def _show(self) -> None:
        self.take.setEnabled(bool(self.current and self.found and self.found.smallest and self.state == FINE))
        self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        if self.found is None:
            text = self.state if self.session.pad else "no foundation is selected"
            return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
        return size_map_drawing(self.found, self.state, aspect)

    def _click(self, key: str) -> None:
        if key.startswith("size:") and self.current:
            row, column = map(int, key.split(":")[1:])
            self._take(row, column)

    def take_smallest(self) -> None:
        """Gives the pad the smallest size that holds."""
        if self.current and self.found and self.found.smallest:
            self._take(*self.found.smallest)

    def _take(self, row: int, column: int) -> None:
        if not self.found:
            return
        width, other = self.found.at(row, column)
        units = self.session.project.showing
        text = f"{self.found.pad.name}: {show_length(width, units)} x {show_length(other, units)} {shown_unit('m', units)}"
        try:
            project = sized(self.session.project, self.found.pad, self.found.up, width, other)
        except ValueError as error:
            self.session.say(f"! {error}")
            return
        self.session.apply(project, text)
