"""The table of straps in Plan: which bases they tie, their beam and its bars."""

from collections.abc import Callable
from contextlib import suppress
from typing import Any

from pydantic import ValidationError
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from korbent.app.session import Session
from korbent.app.specs.common import bar_cell, changed, computed, drop, field, reordered
from korbent.app.tables import Column, Spec, TablePanel
from korbent.app.words import tip
from korbent.core.model.foundations import Strap
from korbent.core.plan.alike_straps import with_beam
from korbent.core.sizing.straps import grown
from korbent.core.straps.second_look import compared
from korbent.core.straps.tying import tied_up, ties
from korbent.core.units import show, show_ratio, shown_unit
from korbent.files.project_file import problems_of
from korbent.words import say


def _columns(session: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("straps", row.name)

    def f(name: str, title: str, **more: Any) -> Column:
        return field(Strap, name, title, path, **more)

    def base(name: str, title: str, tip: str) -> Column:
        return Column(
            title,
            lambda r: getattr(r, name),
            lambda r: (*path(r), name),
            kind="choice",
            width=104,
            tip=tip,
            choices_of=lambda r: [
                p.name
                for p in session.project.pads
                if p.name == getattr(r, name) or ties(session.project, p, name == "edge")
            ],
        )

    def bars(name: str, title: str, tip: str, optional: bool = False) -> Column:
        return bar_cell(session, title, lambda r: getattr(r, name), lambda r: (*path(r), name), tip, optional=optional)

    def worst(row: Any) -> str:
        own = [c for c in session.results.pad(row.edge).checks if c.check.id.startswith("strap")]
        known = [c.ratio for c in own if c.ratio is not None]
        return show_ratio(max(known)) if known else next((c.state.word for c in own), "")

    u = session.project.showing

    def beside(name: str, unit: str) -> Callable[[Any], str]:
        """By statics, and as plates."""

        def text(row: Any) -> str:
            found = compared(session.project, row)
            if isinstance(found, str):
                return ""
            looks = (found.statics, found.plates)
            values = ["-" if isinstance(v, str) else v.R[0] if name == "R" else v.M for v in looks]
            return " · ".join(v if isinstance(v, str) else show(v, unit, u) for v in values)

        return text

    def second(name: str, title: str, unit: str, tip: str) -> Column:
        heading = say("{title}, {unit}\nstatics · plates", title=title, unit=shown_unit(unit, u))
        return Column(
            heading,
            beside(name, unit),
            lambda r: (),
            kind="text",
            width=104,
            convert=computed,
            derived=True,
            tip=tip,
        )

    return [
        f("name", say("Strap"), kind="text", width=56),
        Column(
            say("Worst"),
            worst,
            lambda r: (),
            kind="text",
            width=70,
            convert=computed,
            derived=True,
            tip=say("of its own checks; they stand at the base at the boundary"),
        ),
        base(
            "edge", say("Boundary base"), say("whose column stands off its middle; the checks of the strap stand there")
        ),
        base("inner", say("Inner base"), say("which holds it down")),
        f(
            "type",
            say("Type"),
            kind="text",
            optional=True,
            width=56,
            tip=say("straps of one type have the same beam: what is changed in one is changed in all"),
        ),
        f("width", say("Width")),
        f("depth", say("Depth"), tip=say("of the beam; it lies clear of the ground")),
        bars("top", say("Top"), say("number and diameter over the width, such as 5 no 25")),
        bars("bottom", say("Bottom"), say("number and diameter over the width, such as 3 no 16")),
        bars("links", say("Links"), say("such as 10 at 200; empty: none"), optional=True),
        f("legs", say("Legs"), kind="number", width=52, tip=say("of a link, across the width")),
        f("cover", say("Cover"), optional=True, tip=say("of the links; empty: that of the concrete in the settings")),
        second(
            "R",
            "R₁",
            "kN",
            say(
                "below the boundary base: by statics, as it is checked · both bases as plates on springs that only press, with the beam elastic, as a second look; weights of the bases aside"
            ),
        ),
        second(
            "M",
            "M",
            "kNm",
            say("greatest moment of the beam: by statics, as it is checked · with both bases as plates"),
        ),
    ]


def _add(session: Session, _: Any) -> str:
    pad = session.pad
    if pad is None:
        return say("select the base at the boundary first: a strap starts there")
    try:
        project, words = tied_up(session.project, pad)
    except ValidationError as error:
        return str(problems_of(error)[0])
    except ValueError as error:
        return str(error)
    # tied all the same where its beam cannot be checked, or nothing is enough: its row tells
    with suppress(ValueError):
        strap, more = grown(project, project.straps[-1])
        project = project.replaced(straps=(*project.straps[:-1], strap))
        words += "".join(f", {what}" for what in more)
    return changed(session, lambda _: project, words)


class StrapsBar(QWidget):
    """Grows what is too weak."""

    def __init__(self, panel: TablePanel) -> None:
        super().__init__()
        self.panel = panel
        button = QPushButton(say("Grow what fails"), objectName="grow-straps")
        button.setToolTip(
            tip(say("More bars or links, then depth, of every strap one of whose own checks fails; the others stay"))
        )
        button.clicked.connect(self.grow)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(button)

    def grow(self) -> None:
        """All straps of the project; says what was changed, and of which nothing is enough."""
        session = self.panel.session
        project, said = session.project, []
        for name in [strap.name for strap in project.straps]:
            strap = next(s for s in project.straps if s.name == name)
            try:
                new, more = grown(project, strap)
            except ValueError as error:
                said.append(f"! {error}")
                continue
            if more:
                of_type = say(" (type {type})", type=strap.type) if strap.type else ""
                said.append(f"{name}{of_type}: {', '.join(more)}")
                project = with_beam(project, new)
        text = "; ".join(sorted(said, key=lambda one: not one.startswith("!"))) or say("all straps hold as they are")
        if project is session.project:
            session.announce(text)
        else:
            session.apply(project, text)


STRAPS = Spec(
    "straps",
    lambda s: s.project.straps,
    _columns,
    _add,
    lambda s, row: changed(s, drop(("straps",), row)),
    say("strap"),
    say(
        "No strap yet. Select a base at a boundary in the plan and add one: it ties the base to the nearest one further in."
    ),
    order=reordered("straps"),
    tools=StrapsBar,
)
