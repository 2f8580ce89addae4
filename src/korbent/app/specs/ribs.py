"""The table of ribs in Plan: along which lines of a raft they run, their sizes and bars."""

from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from korbent.app.session import Session
from korbent.app.specs.common import bar_cell, changed, computed, unique
from korbent.app.tables import Column, Spec, TablePanel
from korbent.app.words import tip
from korbent.core.model.foundations import Pad
from korbent.core.model.frozen import unit_of
from korbent.core.model.plate import Rib
from korbent.core.rafts.laying import laid
from korbent.core.sizing.ribs import grown_ribs
from korbent.files.project_file import problems_of
from korbent.words import say


@dataclass(frozen=True)
class OfRaft:
    """A rib and the raft that it belongs to."""

    pad: Pad
    rib: Rib

    @property
    def name(self) -> str:
        """Of the rib."""
        return self.rib.name


def _rows(session: Session) -> tuple[OfRaft, ...]:
    return tuple(OfRaft(pad, rib) for pad in session.project.pads if pad.plate for rib in pad.plate.ribs)


def _columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("pads", row.pad.name, "plate", "ribs", row.rib.name)

    def f(
        name: str,
        title: str,
        kind: str = "number",
        tip: str = "",
        width: int = 0,
        optional: bool = False,
        choices: tuple[str, ...] = (),
    ) -> Column:
        return Column(
            title,
            lambda r: getattr(r.rib, name),
            lambda r: (*path(r), name),
            unit_of(Rib, name),
            kind,
            (lambda _: choices) if choices else None,
            optional,
            width,
            tip,
        )

    def bars(name: str, title: str, tip: str, optional: bool = False) -> Column:
        return bar_cell(
            session, title, lambda r: getattr(r.rib, name), lambda r: (*path(r), name), tip, optional=optional
        )

    return [
        Column(say("Raft"), lambda r: r.pad.name, lambda r: (), kind="text", width=56, convert=computed, derived=True),
        f("name", say("Rib"), kind="text", width=56),
        f("axis", say("Along"), kind="key", choices=("x", "y"), width=56),
        f("at", "At", tip=say("its middle, across, from the middle of the raft")),
        f("begin", say("From"), optional=True, tip=say("along it, from the middle of the raft; empty: the edge")),
        f("end", "To", optional=True, tip=say("along it, from the middle of the raft; empty: the edge")),
        f("width", say("Width")),
        f("depth", say("Depth"), tip=say("with the thickness of the raft")),
        f("side", say("Side"), kind="key", choices=("below", "above"), width=66, tip=say("of the plate")),
        bars("top", say("Top"), say("number and diameter, such as 4 no 20")),
        bars("bottom", say("Bottom"), say("number and diameter, such as 4 no 20")),
        bars("links", say("Links"), say("such as 10 at 200; empty: none"), optional=True),
        f("legs", say("Legs"), width=52, tip=say("of a link, across the width")),
    ]


def _raft(session: Session) -> Pad | None:
    """The selected raft, or the only one."""
    rafts = [p for p in session.project.pads if p.plate is not None]
    return session.pad if session.pad in rafts else rafts[0] if len(rafts) == 1 else None


def _add(session: Session, row: Any) -> str:
    pad = row.pad if row is not None else _raft(session)
    if pad is None or pad.plate is None:
        return say("select the raft in the plan first: a rib belongs to one")
    names = [r.name for r in pad.plate.ribs]
    at = row.rib if row is not None else None
    depth = max(2 * pad.thickness, pad.thickness + 0.2)
    new = (
        Rib(name=unique("X", names), at=_free(pad), depth=round(depth, 3))
        if at is None
        else at.replaced(name=unique(at.axis.upper(), names), at=_free(pad, at.axis))
    )
    return _with(session, pad, (*pad.plate.ribs, new))


def _free(pad: Pad, axis: str = "x") -> float:
    """A place across where no rib runs along this axis yet: the middle of the widest gap."""
    half = (pad.length if axis == "x" else pad.width) / 2
    assert pad.plate is not None
    stops = sorted([-half, half, *(r.at for r in pad.plate.ribs if r.axis == axis)])
    gap, low = max((b - a, a) for a, b in zip(stops, stops[1:]))  # noqa: RUF007
    return round(low + gap / 2, 3)


def _with(session: Session, pad: Pad, ribs: tuple[Rib, ...]) -> str:
    def make(project: Any) -> Any:
        assert pad.plate is not None
        changed_pad = pad.replaced(plate=pad.plate.replaced(ribs=ribs))
        return project.replaced(pads=tuple(changed_pad if p is pad else p for p in project.pads))

    return changed(session, make)


def _remove(session: Session, row: OfRaft) -> str:
    assert row.pad.plate is not None
    return _with(session, row.pad, tuple(r for r in row.pad.plate.ribs if r is not row.rib))


class RibsBar(QWidget):
    """Lays ribs on the lines of columns."""

    def __init__(self, panel: TablePanel) -> None:
        super().__init__()
        self.panel = panel
        button = QPushButton(say("On the columns"), objectName="lay-ribs")
        button.setToolTip(
            tip(say("A rib along every line of two columns or more of the selected raft that has none yet"))
        )
        button.clicked.connect(self.lay)
        grow = QPushButton(say("Grow what fails"), objectName="grow-ribs")
        grow.setToolTip(
            tip(say("More bars or links in every rib one of whose own checks fails; the others stay, and all sizes"))
        )
        grow.clicked.connect(self.grow)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(button)
        row.addWidget(grow)

    def grow(self) -> None:
        """Of the selected raft, or the only one."""
        session = self.panel.session
        pad = _raft(session)
        if pad is None:
            session.announce(say("! select the raft in the plan first"))
            return
        if pad.name in session.waiting:
            session.announce(say("{pad} is being computed: try again in a moment", pad=pad.name))
            return
        try:
            project, said = grown_ribs(session.project, pad)
        except ValueError as error:
            session.announce(f"! {error}")
            return
        text = "; ".join(said) or say("the ribs of {pad} hold as they are", pad=pad.name)
        if project is session.project:
            session.announce(f"! {text}" if said else text)
        else:
            session.apply(project, f"{pad.name}: {text}")

    def lay(self) -> None:
        """For the selected raft, or the only one."""
        session = self.panel.session
        pad = _raft(session)
        if pad is None:
            session.announce(say("! select the raft in the plan first"))
            return
        try:
            project, names = laid(session.project, pad)
        except ValidationError as error:
            session.announce(f"! {problems_of(error)[0]}")
        except ValueError as error:
            session.announce(f"! {error}")
        else:
            session.apply(project, say("{pad}: ribs {names}", pad=pad.name, names=", ".join(names)), pad.name)


RIBS = Spec(
    "ribs",
    _rows,
    _columns,
    _add,
    _remove,
    say("rib"),
    say("No rib yet. Select a raft in the plan and add one, or lay them on the lines of its columns."),
    tools=RibsBar,
)
