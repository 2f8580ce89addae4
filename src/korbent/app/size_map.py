"""The map of sizes beside the section: a first look and then the finer map, both by workers; a click takes a size."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.asked import FAILED, Asked
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.sizing.size_map import UP, SizeMap, sized
from korbent.core.units import sizes_text
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.size_map import size_map_drawing
from korbent.words import say

COARSE = 4
FINE = ""
FIRST = say("a first look; the finer map follows")
BEFORE = say("as it was before; being computed")
TITLES = {
    "length": say("width x length"),
    "thickness": say("width x thickness"),
    "level": say("width x founding level"),
}


class SizeMapPanel(QWidget):
    """The map with its choice of dimensions, and one action: take the smallest."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.first = Asked("sizes", self._show, self, say("first sizes"))
        self.fine = Asked("sizes", self._show, self)
        self.kind = QComboBox(objectName="map-kind")
        for up in UP:
            self.kind.addItem(TITLES[up], up)
        self.kind.activated.connect(lambda _: self.refresh())
        self.take = QPushButton(say("Take the smallest"), objectName="take-smallest")
        self.take.clicked.connect(self.take_smallest)
        self.view = DrawingView(self._drawing, say("Size map"))
        self.view.clicked.connect(self._click)
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 6)
        row.addWidget(self.kind)
        row.addWidget(Label(say("a click takes a size"), objectName="quiet"), 1)
        row.addWidget(self.take)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 1)
        column.addLayout(row)

    @property
    def found(self) -> SizeMap | None:
        """The finest map there is of what is shown, or the one before of the same base and dimensions, till then."""
        return self._finest[0]

    @property
    def state(self) -> str:
        """'' where it is the fine map of what is shown, else what to say of it."""
        return self._finest[1]

    @property
    def _finest(self) -> tuple[SizeMap | None, str]:
        if self.fine.state == "":
            return self.fine.found, FINE
        if self.first.state == "":
            return (
                self.first.found,
                FIRST if self.fine.state != FAILED else say("a first look; the finer map {failed}", failed=FAILED),
            )
        old, pad = self.fine.found or self.first.found, self.session.pad
        keeps = old and pad and old.pad.name == pad.name and old.up == self.kind.currentData()
        return (
            (old, BEFORE)
            if keeps
            else (
                None,
                say("the map is {state}", state=self.fine.state)
                if self.fine.state != FAILED
                else say("the map could not be computed"),
            )
        )

    @property
    def current(self) -> bool:
        """It belongs to what is shown."""
        return "" in (self.fine.state, self.first.state) and self.session.pad is not None

    def refresh(self) -> None:
        """A first look and the finer map are asked for; till then the map of the same base before stays, marked."""
        pad, up = self.session.pad, str(self.kind.currentData())
        project = self.session.project
        if pad and pad.is_round and up == "length":
            # one diameter: the map shows it against the thickness
            self.kind.setCurrentIndex(self.kind.findData("thickness"))
            up = "thickness"
        if pad is not None:
            self.first.want((project, pad, up), (project, pad.name, up, COARSE), first=True)
            self.fine.want((project, pad, up), (project, pad.name, up, 1))
        self._show()

    def _show(self) -> None:
        self.take.setEnabled(bool(self.current and self.found and self.found.smallest and self.state == FINE))
        self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        if self.found is None or self.session.pad is None:
            text = self.state if self.session.pad else say("no foundation is selected")
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
        pad = self.session.pad
        if not self.found or not pad:
            return
        width, other = self.found.at(row, column)
        units = self.session.project.showing
        text = f"{pad.name}: {sizes_text((width, other), units, ' x ')}"
        try:
            project = sized(self.session.project, pad, self.found.up, width, other)
        except ValueError as error:
            self.session.announce(f"! {error}")
            return
        self.session.apply(project, text)
