"""Above the plan: place pads, hold an edge at a boundary, a drawing below, and by what the plan is coloured."""

from collections.abc import Callable
from pathlib import Path

from pydantic import ValidationError
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QMenu, QPushButton, QWidget

from korbent.app.reading_files import Reading
from korbent.app.session import Session
from korbent.core.plan.site import copied, pinned_to_boundary
from korbent.core.sizing.cost import Objective
from korbent.core.sizing.first_size import combined, placed, raft_under
from korbent.core.units import length_text
from korbent.files.project_file import problems_of
from korbent.files.underlay import Underlay, UnderlayError, read_underlay, with_columns, with_underlay

COLOURS = {
    "worst": "worst check",
    "bearing": "bearing",
    "stability": "stability",
    "settlement": "settlement",
    "concrete": "concrete",
    "load": "by load",
    "level": "by level",
    "type": "by type",
}


class PlanBar(QWidget):
    """Tools of the plan. ``marked``: names of the columns chosen in the plan."""

    def __init__(
        self,
        session: Session,
        marked: Callable[[], tuple[str, ...]],
        unmark: Callable[[], None],
        redraw: Callable[[], None],
    ) -> None:
        super().__init__()
        self.session, self.marked, self.unmark = session, marked, unmark
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        for name, text, tip, action in (
            (
                "place-pads",
                "Place",
                "A pad with a first size under each marked column, or under every column without one",
                self.place,
            ),
            (
                "one-base",
                "Join",
                "One rigid base under all marked columns, in the place of what carries them now; click columns to mark them",
                self.combine,
            ),
            (
                "raft",
                "Raft",
                "One raft that bends under all marked columns and walls, in the place of what carries them now",
                self.raft,
            ),
        ):
            button = QPushButton(text, objectName=name)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, action=action: action())
            row.addWidget(button)
        self.outline = QPushButton("Outline", objectName="outline")
        self.outline.setCheckable(True)
        self.outline.setToolTip(
            "Draws the outline of the selected raft, or of a new one under the columns within it, corner by corner: corners snap to columns, grid, boundary"
        )
        row.addWidget(self.outline)
        base = QPushButton("Base", objectName="selected-base")
        base.setToolTip(
            "What can be done with the selected base: hold it, copy, mirror, lay it out in rows; a measuring line"
        )
        self.of_base = of_base = QMenu(base)
        for name, text, action in (
            ("pin-boundary", "Hold at the nearest boundary, at the clearance of the settings", self.pin),
            ("copy-to-type", "Give size and bars to all others of its type", self.copy),
        ):
            of_base.addAction(text, action).setObjectName(name)
        base.setMenu(of_base)
        row.addWidget(base)
        self.drawing = QPushButton("DXF", objectName="underlay")
        self.drawing.setToolTip("A DXF drawing below the plan, or columns from its points")
        menu = QMenu(self.drawing)
        menu.addAction("Put below the plan…", lambda: self.open(False))
        menu.addAction("Make columns of its points, circles and blocks…", lambda: self.open(True))
        menu.addAction("Take it away", self.take_away)
        self.drawing.setMenu(menu)
        row.addWidget(self.drawing)
        self.colour = QComboBox(objectName="plan-colour", accessibleName="What the colour of the bases stands for")
        self.colour.setToolTip("What the colour of the bases stands for")
        for key, text in COLOURS.items():
            self.colour.addItem(text, key)
        self.colour.activated.connect(lambda _: redraw())
        self.colour.setFixedWidth(108)
        row.addWidget(self.colour)

    def place(self) -> None:
        """A pad under each marked column, else under each that has none; one step of undo."""
        session = self.session
        columns = self.marked() or session.results.undesigned
        try:
            project, found = placed(session.project, tuple(columns))
        except ValidationError as error:
            session.say(f"! {problems_of(error)[0]}")
            return
        if not found:
            session.say("! every column has a foundation" if not self.marked() else "! the marked columns have one")
            return
        over = [f for f in found if f.share is not None and f.share > 0.105]
        more = f"; {len(over)} weigh more than the share assumed" if over else ""
        self.unmark()
        message = found[0].words() if len(found) == 1 else f"{len(found)} bases placed{more}"
        session.apply(project, message, found[0].pad.name)

    def combine(self) -> None:
        """One base under the marked columns; one step of undo."""
        session = self.session
        try:
            project, found = combined(session.project, tuple(self.marked()))
        except ValidationError as error:
            session.say(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            session.say(f"! {error}")
            return
        self.unmark()
        message = f"{found.words()}; stands below {', '.join(found.pad.carries)}"
        session.apply(project, message, found.pad.name)

    def raft(self) -> None:
        """One raft under the marked columns, or under all; one step of undo."""
        session = self.session
        columns = tuple(self.marked()) or tuple(session.results.undesigned)
        try:
            project, found = raft_under(session.project, columns)
        except ValidationError as error:
            session.say(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            session.say(f"! {error}")
            return
        self.unmark()
        session.apply(project, f"raft {found.words()}", found.pad.name)

    def compare(self, objective: Objective) -> None:
        """Pads, one base, strap and raft for the marked columns side by side."""
        from korbent.app.kinds_dialog import KindsDialog

        columns = tuple(self.marked()) or tuple(self.session.results.undesigned)
        if not columns:
            self.session.say("mark the columns first, in the plan: for them the kinds of foundation are compared")
            return
        self.kinds = KindsDialog(self.session, columns, objective, self.window())
        self.kinds.finished.connect(lambda _: self.unmark())
        self.kinds.show()

    def pin(self) -> None:
        """Holds the edge of the selected base that is nearest to a boundary."""
        session, pad = self.session, self.session.pad
        if pad is None:
            return
        if pad.frozen:
            session.say(f"! {pad.name} is {pad.frozen}: it stays where it is")
            return
        settings = session.project.settings_of(pad)
        found = pinned_to_boundary(session.project, pad, settings.clearance)
        if found is None:
            session.say("! no boundary is drawn: add one in the table Site")
            return
        new, side = found
        units = session.project.showing
        clear = length_text(settings.clearance, units)
        text = f"{pad.name}: the {side} edge is held {clear} from the boundary; it grows away from it"
        try:
            pads = tuple(new if p is pad else p for p in session.project.pads)
            session.apply(session.project.replaced(pads=pads), text)
        except ValidationError as error:
            session.say(f"! {problems_of(error)[0]}: the boundary runs too near to or through the column")

    def copy(self) -> None:
        """Gives size and bars of the selected base to the others of its type."""
        session, pad = self.session, self.session.pad
        if pad is None:
            return
        if pad.type is None:
            session.say(f"! {pad.name} has no type: give it one in the table of pads, then its others follow")
            return
        names = tuple(p.name for p in session.project.pads if p.type == pad.type and p.name != pad.name)
        if not names:
            session.say(f"! {pad.name} is the only one of type {pad.type}")
            return
        try:
            project, kept = copied(session.project, pad, names)
        except ValidationError as error:
            session.say(f"! {problems_of(error)[0]}")
            return
        more = f"; {', '.join(kept)} frozen, left as they are" if kept else ""
        session.apply(project, f"{len(names) - len(kept)} bases of type {pad.type} are now like {pad.name}{more}")

    def open(self, columns: bool) -> None:
        """Asks for a drawing."""
        name, _ = QFileDialog.getOpenFileName(self, "A drawing", "", "Drawings (*.dxf)")
        if name:
            self.take(Path(name), columns)

    def take_away(self) -> None:
        """No drawing below the plan any more."""
        project = self.session.project
        kept = tuple(o for o in project.site if o.kind != "underlay")
        if len(kept) < len(project.site):
            self.session.apply(project.replaced(site=kept), "the drawing below the plan is taken away")

    def take(self, path: Path, columns: bool) -> None:
        """Takes a drawing below the plan, or its points as columns, as soon as it is read; one step of undo."""
        self.reading = Reading(
            self,
            path.name,
            lambda: read_underlay(path),
            lambda found: self._taken(path, found, columns),
            lambda why: self.session.say(f"! {why}"),
            (UnderlayError,),
        )

    def _taken(self, path: Path, found: Underlay, columns: bool) -> None:
        session = self.session
        remarks = "".join(f"; {r}" for r in found.remarks)
        if not columns:
            session.apply(
                with_underlay(session.project, found),
                f"{len(found.outlines)} lines of {path.name} below the plan{remarks}",
            )
            return
        project, count = with_columns(session.project, found)
        session.apply(project, f"{count} columns from {path.name}{remarks}" if count else "")
        if not count:
            session.say(f"! {path.name} holds no point, circle or block where there is no column yet")
