"""Plan: foundations, columns and site drawn together, their tables, and proposals for the whole plan."""

from math import dist

from pydantic import ValidationError
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QCursor, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QVBoxLayout

from korbent.app.canvas import NEAR
from korbent.app.copy_tools import CopyTools
from korbent.app.divided import below, beside
from korbent.app.plan_bar import PlanBar
from korbent.app.stops.signposts import PLAN
from korbent.app.stops.stop import Pane, Stop
from korbent.app.turnable import TurnableView
from korbent.core.model import Pad
from korbent.core.model.labels import label
from korbent.core.plan.move import RASTER, edge_moved, moved, nudged
from korbent.core.plan.outline import corner_added, corner_moved, outlined, snapped
from korbent.core.sizing.first_size import raft_within
from korbent.core.units import length_text, sizes_text
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import Dimension, Drawing, Point
from korbent.files.project_file import problems_of
from korbent.words import say

NUDGES = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}


class PlanStop(Stop):
    """Pads, types and the site below the plan."""

    post = PLAN

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.proposal_panel import ProposalPanel
        from korbent.app.stops.deck import TableDeck

        session = self.session
        self.marked: tuple[str, ...] = ()
        self.plan = TurnableView(self._plan, say("Plan"), self.in_space)
        self.plan.clicked.connect(self._clicked)
        self.plan.added.connect(self._added)
        self.plan.dragged.connect(self._dragged)
        self.plan.snaps = self._snaps
        self.plan.cornered.connect(self._cornered)
        self.plan.ringed.connect(self._ringed)
        self.plan.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.plan.installEventFilter(self)
        self.views.append(self.plan)
        self.bar = PlanBar(session, lambda: self.marked, self._unmark, self.plan.refresh)
        self.copies = CopyTools(session, self._chosen_bases, self.window)
        self.copies.add_to(self.bar.of_base, self.paste, self.measure)
        self.measured: tuple[Point, Point] | None = None
        self.plan.lined.connect(self._measured)
        self.bar.outline.toggled.connect(self._outline)
        self.proposal = ProposalPanel(session)
        self.proposal.curve.theme = self.theme
        self.proposal.kinds.clicked.connect(lambda _=False: self.bar.compare(self.proposal.chosen_objective))
        self.deck = TableDeck(
            session,
            self.theme,
            (
                (say("Pads"), specs.PADS),
                (say("Rafts"), specs.RAFTS),
                (say("Ribs"), specs.RIBS),
                (say("Straps"), specs.STRAPS),
                (say("Ranges"), specs.RANGES),
                (say("Types"), specs.TYPES),
                (say("Site"), specs.SITE),
                (say("Grids"), specs.GRIDS),
                (say("Conflicts"), specs.CONFLICTS),
            ),
        )
        self.panels.extend(self.deck.panels)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.pane = Pane(say("Plan"), self.plan, "", self.bar)
        top = beside(self, "plan-top", (self.pane, 15), (Pane(say("Proposal"), self.proposal), 10))
        column.addWidget(below(self, "plan", (top, 7), (self.deck, 5)))

    def _plan(self, _: float) -> Drawing:
        session = self.session
        drawing = plan_drawing(
            session.project,
            session.results,
            session.selected,
            by=str(self.bar.colour.currentData()),
            marked=self.marked,
            quiet=self.plan.ring is not None,
            also=session.also,
        )
        if self.measured is None:
            return drawing
        a, b = self.measured
        units = session.project.showing
        text = length_text(dist(a, b), units)
        return Drawing((*drawing.shapes, Dimension(a, b, text, 0.0, colour="accent", size=11)), drawing.bounds)

    # ------------------------------------------------------------ copies, and a measuring line

    def _chosen_bases(self) -> tuple[str, ...]:
        """The bases of the marked columns, else the selected one."""
        marked = set(self.marked)
        found = tuple(p.name for p in self.session.project.pads if marked & set(p.carries))
        return found or self.session.chosen

    def paste(self) -> None:
        """Puts what was copied where the mouse is, its first column on what is near."""
        self.plan.from_above()
        at = self.plan.mapFromGlobal(QCursor.pos())
        inside = self.plan.rect().contains(at)
        place = self.plan.placement()
        x, y = place.back(at.x(), at.y()) if inside else place.back(self.plan.width() / 2, self.plan.height() / 2)
        self.paste_at(x, y)

    def paste_at(self, x: float, y: float) -> None:
        """Puts what was copied at a place of the plan."""
        self.plan.from_above()
        to = snapped(self.session.project, x, y, 1.4 * NEAR / self.plan.placement().scale)
        self.copies.paste(to.x, to.y, to.on)

    def measure(self) -> None:
        """A line is drawn, and its length is said; Esc ends it."""
        self.plan.from_above()
        self.plan.drawing_line = True
        self.plan.setFocus()
        self.session.announce(say("draw a line with the mouse: its ends snap to columns, corners, grid; Esc ends"))

    def _measured(self, x0: float, y0: float, x1: float, y1: float) -> None:
        near = 1.4 * NEAR / self.plan.placement().scale
        a, b = (snapped(self.session.project, x, y, near) for x, y in ((x0, y0), (x1, y1)))
        if (a.x, a.y) == (b.x, b.y):
            return
        self.measured = (a.x, a.y), (b.x, b.y)
        units = self.session.project.showing
        length, dx, dy = (
            length_text(v, units, k == 0) for k, v in enumerate((dist(*self.measured), abs(b.x - a.x), abs(b.y - a.y)))
        )
        ends = " to ".join(one.on or say("a free place") for one in (a, b))
        self.session.announce(
            say("{length} ({dx} along x, {dy} along y) from {ends}", length=length, dx=dx, dy=dy, ends=ends)
        )
        self.plan.refresh()

    def _end_measuring(self) -> bool:
        """Whether there was a measuring line."""
        was = self.plan.drawing_line or self.measured is not None
        self.plan.drawing_line, self.measured = False, None
        if was:
            self.session.announce("")
            self.plan.refresh()
        return was

    def _clicked(self, key: str) -> None:
        """Selects a base; a column is marked, or no longer."""
        kind, _, name = key.partition(":")
        if kind == "pad":
            self.session.select(name)
        elif kind == "point":
            self.marked = tuple(n for n in self.marked if n != name) if name in self.marked else (*self.marked, name)
            free = any(n in self.session.results.undesigned for n in self.marked)
            more = say("Place puts one under each, ") if free else ""
            self.session.announce(
                say("marked: {marked}; {more}Join a common one", marked=", ".join(self.marked), more=more)
                if self.marked
                else ""
            )
            self.plan.refresh()

    def _added(self, key: str) -> None:
        """With Shift: a base is edited together with the selected one; a column is marked."""
        kind, _, name = key.partition(":")
        if kind == "pad":
            self.session.toggle(name)
        else:
            self._clicked(key)

    def _unmark(self) -> None:
        self.marked = ()

    def _dragged(self, key: str, x: float, y: float) -> None:
        """The selected base, or one of its edges, was dragged; the column stays."""
        what, _, name = key.partition(":")
        session = self.session
        pad = session.project.pad(name)
        if what.startswith(("corner", "after")):
            self._corner_dragged(pad, what, x, y)
            return
        if what == "pad":
            self._move(pad, x - self.plan.grabbed[0], y - self.plan.grabbed[1])
            return
        try:
            new = edge_moved(session.project, pad, what.removeprefix("edge"), x, y)
        except ValidationError:
            session.announce(say("! an edge cannot pass the opposite one"))
            return
        units = session.project.showing
        size = f"{sizes_text((new.width, new.length), units, ' x ')}"
        self._take(pad, new, f"{name}: {size}")

    def _corner_dragged(self, pad: Pad, what: str, x: float, y: float) -> None:
        """A corner of a polygon, or the middle of a side, from which one more is made."""
        at = self.plan.placement()
        to = snapped(self.session.project, x, y, 1.4 * NEAR / at.scale, besides=pad.name)
        change = corner_moved if what.startswith("corner") else corner_added
        number = int(what.removeprefix("corner").removeprefix("after"))
        try:
            new = change(self.session.project, pad, number, to.x, to.y)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        on = say(" to {on}", on=to.on) if to.on else ""
        self._take(
            pad, new, say("{pad}: corner moved{on}, {outline} corners", pad=pad.name, on=on, outline=len(new.outline))
        )

    # ------------------------------------------------------------ an outline drawn corner by corner

    def _outline(self, on: bool) -> None:
        """Begins or ends the drawing of an outline."""
        if on:
            self.plan.from_above()
        self.plan.ring = () if on else None
        self.plan.setFocus()
        self.plan.refresh()
        if on:
            whose = say("of {selected}", selected=self.session.selected) if self._redrawn() else say("of a new raft")
            self.session.announce(
                say(
                    "click the corners {whose}; Enter, a double click or a click on the first one closes it, "
                    "Backspace takes the last one back, Esc ends",
                    whose=whose,
                )
            )

    def _redrawn(self) -> Pad | None:
        """The raft that gets the outline: the selected one, unless columns are marked for a new one."""
        pad = self.session.pad
        return pad if pad is not None and pad.kind == "raft" and not pad.frozen and not self.marked else None

    def _snaps(self, x: float, y: float, near: float) -> tuple[float, float, str]:
        pad = self._redrawn()
        found = snapped(self.session.project, x, y, near, pad.name if pad else "", self.plan.ring or ())
        words = [found.on] if found.on else []
        if self.plan.ring:
            units = self.session.project.showing
            side = round(dist(self.plan.ring[-1], (found.x, found.y)), 3)
            words.insert(0, length_text(side, units))
        return found.x, found.y, " · ".join(words)

    def _cornered(self, x: float, y: float) -> None:
        self.plan.ring = (*(self.plan.ring or ()), (x, y))
        self.plan.update()

    def _ringed(self) -> None:
        """The outline is closed: of the selected raft, or of a new one under the marked columns, else under those
        within."""
        ring, session, pad = self.plan.ring or (), self.session, self._redrawn()
        if len(ring) < 3:
            session.announce(say("! an outline has at least three corners"))
            return
        try:
            if pad is not None:
                new = outlined(session.project, pad, ring)
                if not self._take(
                    pad, new, say("{pad} has {outline} corners now", pad=pad.name, outline=len(new.outline))
                ):
                    return  # what is wrong is said; the corners stay to be mended
            else:
                project, found = raft_within(session.project, self.marked, ring)
                self._unmark()
                session.apply(project, say("raft {found}", found=found.words()), found.pad.name)
        except ValidationError as error:
            session.announce(f"! {problems_of(error)[0]}")
            return
        except ValueError as error:
            session.announce(f"! {error}")
            return
        self.bar.outline.setChecked(False)

    def _ring_key(self, key: int) -> bool:
        """Keys while an outline is drawn."""
        if key == Qt.Key.Key_Escape:
            self.bar.outline.setChecked(False)
            self.session.announce("")
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._ringed()
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self.plan.ring = (self.plan.ring or ())[:-1]
            self.plan.update()
        else:
            return False
        return True

    def _move(self, pad: Pad, dx: float, dy: float) -> None:
        try:
            new, aligned = moved(self.session.project, pad, dx, dy)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        if new != pad:
            self._take(
                pad, new, say("{pad} moved, its column stays", pad=pad.name) + (f"; {aligned}" if aligned else "")
            )

    def _take(self, old: Pad, new: Pad, text: str) -> bool:
        """Puts a base in the place of another; or says why not."""
        pads = tuple(new if p is old else p for p in self.session.project.pads)
        try:
            self.session.apply(self.session.project.replaced(pads=pads), text)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return False
        return True

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrow keys on the plan nudge the selected base by one step of the raster, with Shift by five."""
        pad = self.session.pad
        if (
            watched is not self.plan
            or self.plan.eye is not None
            or not isinstance(event, QKeyEvent)
            or event.type() != QEvent.Type.KeyPress
        ):
            return super().eventFilter(watched, event)
        if self.plan.ring is not None:
            return self._ring_key(event.key()) or super().eventFilter(watched, event)
        if event.key() == Qt.Key.Key_Escape and self._end_measuring():
            return True
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copies.copy()
            return True
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
            return True
        if event.key() == Qt.Key.Key_M and not event.modifiers():
            self.measure()
            return True
        way = NUDGES.get(Qt.Key(event.key()))
        if way is None or pad is None:
            return super().eventFilter(watched, event)
        if pad.frozen:
            self.session.announce(
                say("! {pad} is {frozen}: it stays where it is", pad=pad.name, frozen=label(pad.frozen))
            )
            return True
        step = RASTER[self.session.project.units] * (5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
        try:
            new = nudged(pad, step * way[0], step * way[1])
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return True
        self._take(pad, new, say("{pad} moved, its column stays", pad=pad.name))
        return True

    def refresh(self) -> None:
        known = {p.name for p in self.session.project.actions.load_points}
        self.marked = tuple(n for n in self.marked if n in known)
        super().refresh()
        self.proposal.refresh()
