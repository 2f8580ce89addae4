"""The map of sizes beside the section: a first look at once, the finer map from another thread; a click takes a size."""

from dataclasses import replace

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.model import Pad, Project
from korbent.core.sizing.size_map import UP, SizeMap, same_place, size_map, sized
from korbent.core.units import show_length, shown_unit
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.size_map import size_map_drawing

COARSE = 4
TITLES = {"length": "width x length", "thickness": "width x thickness", "level": "width x founding level"}


class SizeMapPanel(QWidget):
    """The map with its choice of dimensions, and one action: take the smallest."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.found: SizeMap | None = None
        self.coarse = True
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

    def refresh(self) -> None:
        """A first look at once; the finer map is asked for."""
        pad, up = self.session.pad, str(self.kind.currentData())
        project = self.session.project
        if pad and pad.is_round and up == "length":
            # one diameter: the map shows it against the thickness
            self.kind.setCurrentIndex(self.kind.findData("thickness"))
            up = "thickness"
        if pad is None:
            self.found = None
        elif not (self.found and same_place(self.found, project, pad) and self.found.up == up):
            self.found, self.coarse = size_map(project, pad, up, COARSE), True
            pool().run("sizes", (project, pad), (project, pad.name, up), self._finer, channel="sizes")
        self._show()

    def _finer(self, asked: tuple[Project, Pad], found: SizeMap | None) -> None:
        pad = self.session.pad
        if found is None:
            self.session.say("! the finer map could not be computed; the first look stays")
            return
        found = replace(found, project=asked[0], pad=asked[1])
        # a map of something that is no longer shown is dropped
        if pad and same_place(found, self.session.project, pad) and found.up == self.kind.currentData():
            self.found, self.coarse = found, False
            self._show()

    def _show(self) -> None:
        self.take.setEnabled(bool(self.found and self.found.smallest and not self.coarse))
        self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        if self.found is None:
            return Drawing((Text((0, 0), "no foundation is selected", 11, "soft", "middle"),), (-1, -1, 1, 1))
        return size_map_drawing(self.found, self.coarse, aspect)

    def _click(self, key: str) -> None:
        if key.startswith("size:"):
            row, column = map(int, key.split(":")[1:])
            self._take(row, column)

    def take_smallest(self) -> None:
        """Gives the pad the smallest size that holds."""
        if self.found and self.found.smallest:
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
