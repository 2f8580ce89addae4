"""Above the plan: place pads, hold an edge at a boundary, a drawing below, and by what the plan is coloured."""

from collections.abc import Callable
from pathlib import Path

from pydantic import ValidationError
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QMenu, QPushButton, QWidget

from korbent.app.reading_files import Reading
from korbent.app.session import Session
from korbent.core.model.labels import label
from korbent.core.plan.site import copied, pinned_to_boundary
from korbent.core.sizing.cost import Objective
from korbent.core.sizing.first_size import combined, placed, raft_under
from korbent.core.units import length_text
from korbent.files.project_file import problems_of
from korbent.files.underlay import Underlay, UnderlayError, read_underlay, with_columns, with_underlay
from korbent.words import say

COLOURS = {
    "worst": say("worst check"),
    "bearing": label("bearing"),
    "stability": label("stability"),
    "settlement": label("settlement"),
    "concrete": label("concrete"),
    "load": say("by load"),
    "level": say("by level"),
    "type": say("by type"),
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
                say("Place"),
                say("A pad with a first size under each marked column, or under every column without one"),
                self.place,
            ),
            (
                "one-base",
                say("Join"),
                say(
                    "One rigid base under all marked columns, in the place of what carries them now; click columns to mark them"
                ),
                self.combine,
            ),
            (
                "raft",
                say("Raft"),
                say("One raft that bends under all marked columns and walls, in the place of what carries them now"),
                self.raft,
            ),
        ):
            button = QPushButton(text, objectName=name)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, action=action: action())
            row.addWidget(button)
        self.outline = QPushButton(say("Outline"), objectName="outline")
        self.outline.setCheckable(True)
        self.outline.setToolTip(
            say(
                "Draws the outline of the selected raft, or of a new one under the columns within it, corner by corner: corners snap to columns, grid, boundary"
            )
        )
        row.addWidget(self.outline)
        base = QPushButton(say("Base"), objectName="selected-base")
        base.setToolTip(
            say("What can be done with the selected base: hold it, copy, mirror, lay it out in rows; a measuring line")
        )
        self.of_base = of_base = QMenu(base)
        for name, text, action in (
            ("pin-boundary", say("Hold at the nearest boundary, at the clearance of the settings"), self.pin),
            ("copy-to-type", say("Give size and bars to all others of its type"), self.copy),
        ):
            of_base.addAction(text, action).setObjectName(name)
        base.setMenu(of_base)
        row.addWidget(base)
        self.drawing = QPushButton("DXF", objectName="underlay")
        self.drawing.setToolTip(say("A DXF drawing below the plan, or columns from its points"))
        menu = QMenu(self.drawing)
        menu.addAction(say("Put below the plan…"), lambda: self.open(False))
        menu.addAction(say("Make columns of its points, circles and blocks…"), lambda: self.open(True))
        menu.addAction(say("Take it away"), self.take_away)
        self.drawing.setMenu(menu)
        row.addWidget(self.drawing)
        self.colour = QComboBox(objectName="plan-colour", accessibleName=say("What the colour of the bases stands for"))
        self.colour.setToolTip(say("What the colour of the bases stands for"))
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
            session.announce(f"! {problems_of(error)[0]}")
            return
        if not found:
            session.announce(
                say("! every column has a foundation") if not self.marked() else say("! the marked columns have one")
            )
            return
        over = [f for f in found if f.share is not None and f.share > 0.105]
        more = say("; {over} weigh more than the share assumed", over=len(over)) if over else ""
        self.unmark()
        message = (
            found[0].words() if len(found) == 1 else say("{found} bases placed{more}", found=len(found), more=more)
        )
        session.apply(project, message, found[0].pad.name)

    def combine(self) -> None:
        """One base under the marked columns; one step of undo."""
        session = self.session
        try:
            project, found = combined(session.project, tuple(self.marked()))
        except ValidationError as error:
            session.announce(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            session.announce(f"! {error}")
            return
        self.unmark()
        message = say("{found}; stands below {carries}", found=found.words(), carries=", ".join(found.pad.carries))
        session.apply(project, message, found.pad.name)

    def raft(self) -> None:
        """One raft under the marked columns, or under all; one step of undo."""
        session = self.session
        columns = tuple(self.marked()) or tuple(session.results.undesigned)
        try:
            project, found = raft_under(session.project, columns)
        except ValidationError as error:
            session.announce(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            session.announce(f"! {error}")
            return
        self.unmark()
        session.apply(project, say("raft {found}", found=found.words()), found.pad.name)

    def compare(self, objective: Objective) -> None:
        """Pads, one base, strap and raft for the marked columns side by side."""
        from korbent.app.kinds_dialog import KindsDialog

        columns = tuple(self.marked()) or tuple(self.session.results.undesigned)
        if not columns:
            self.session.announce(
                say("mark the columns first, in the plan: for them the kinds of foundation are compared")
            )
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
            session.announce(say("! {pad} is {frozen}: it stays where it is", pad=pad.name, frozen=label(pad.frozen)))
            return
        settings = session.project.settings_of(pad)
        found = pinned_to_boundary(session.project, pad, settings.clearance)
        if found is None:
            session.announce(say("! no boundary is drawn: add one in the table Site"))
            return
        new, side = found
        units = session.project.showing
        clear = length_text(settings.clearance, units)
        text = say(
            "{pad}: the {side} edge is held {clear} from the boundary; it grows away from it",
            pad=pad.name,
            side=side,
            clear=clear,
        )
        try:
            pads = tuple(new if p is pad else p for p in session.project.pads)
            session.apply(session.project.replaced(pads=pads), text)
        except ValidationError as error:
            session.announce(
                say(
                    "! {problems_of}: the boundary runs too near to or through the column",
                    problems_of=problems_of(error)[0],
                )
            )

    def copy(self) -> None:
        """Gives size and bars of the selected base to the others of its type."""
        session, pad = self.session, self.session.pad
        if pad is None:
            return
        if pad.type is None:
            session.announce(
                say("! {pad} has no type: give it one in the table of pads, then its others follow", pad=pad.name)
            )
            return
        names = tuple(p.name for p in session.project.pads if p.type == pad.type and p.name != pad.name)
        if not names:
            session.announce(say("! {pad} is the only one of type {type}", pad=pad.name, type=pad.type))
            return
        try:
            project, kept = copied(session.project, pad, names)
        except ValidationError as error:
            session.announce(f"! {problems_of(error)[0]}")
            return
        more = say("; {kept} frozen, left as they are", kept=", ".join(kept)) if kept else ""
        session.apply(
            project,
            say(
                "{names} bases of type {type} are now like {pad}{more}",
                names=len(names) - len(kept),
                type=pad.type,
                pad=pad.name,
                more=more,
            ),
        )

    def open(self, columns: bool) -> None:
        """Asks for a drawing."""
        name, _ = QFileDialog.getOpenFileName(self, say("A drawing"), "", say("Drawings (*.dxf)"))
        if name:
            self.take(Path(name), columns)

    def take_away(self) -> None:
        """No drawing below the plan any more."""
        project = self.session.project
        kept = tuple(o for o in project.site if o.kind != "underlay")
        if len(kept) < len(project.site):
            self.session.apply(project.replaced(site=kept), say("the drawing below the plan is taken away"))

    def take(self, path: Path, columns: bool) -> None:
        """Takes a drawing below the plan, or its points as columns, as soon as it is read; one step of undo."""
        self.reading = Reading(
            self,
            path.name,
            lambda: read_underlay(path),
            lambda found: self._taken(path, found, columns),
            lambda why: self.session.announce(f"! {why}"),
            (UnderlayError,),
        )

    def _taken(self, path: Path, found: Underlay, columns: bool) -> None:
        session = self.session
        remarks = "".join(f"; {r}" for r in found.remarks)
        if not columns:
            session.apply(
                with_underlay(session.project, found),
                say(
                    "{outlines} lines of {path} below the plan{remarks}",
                    outlines=len(found.outlines),
                    path=path.name,
                    remarks=remarks,
                ),
            )
            return
        project, count = with_columns(session.project, found)
        session.apply(
            project,
            say("{count} columns from {path}{remarks}", count=count, path=path.name, remarks=remarks) if count else "",
        )
        if not count:
            session.announce(
                say("! {path} holds no point, circle or block where there is no column yet", path=path.name)
            )
