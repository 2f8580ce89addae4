"""The tables of Project: settings, presumed pressures, title and standards."""

from collections.abc import Callable
from typing import Any, get_args

from korbent.app.session import Session
from korbent.app.specs.common import changed, computed, label_only
from korbent.app.tables import Column, Spec
from korbent.core.model import Pad, PadType, Settings, Standards, edited, origin
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import label
from korbent.core.model.settings import CHOICES
from korbent.core.model.standards import CONCRETE, WITHOUT
from korbent.core.units import UnitSet, show, shown_unit
from korbent.words import say

SETTING_LABELS = {
    name: field.title or name for name, field in Settings.model_fields.items() if name != "presumed_table"
}
"""The single settings; the table of presumed pressures has its own."""


def setting_kind(name: str) -> str:
    """The kind of cell a setting needs."""
    if name == "founding_unit":
        return "choice"
    if name in CHOICES:
        return "key"
    default = Settings.model_fields[name].default
    return "yes" if isinstance(default, bool) else "text" if isinstance(default, str) else "number"


def setting_columns(session: Session) -> list[Column]:
    """A setting, its value for the project, for the type and for the selected base: the one in force is strong."""
    project, pad = session.project, session.pad
    of_type = project.type_overrides(pad) if pad else {}
    of_base = pad.overrides if pad else {}
    soils = tuple(soil.name for soil in project.ground.soils)

    def cell(
        title: str,
        get: Callable[[str], Any],
        path: Callable[[str], tuple[str | int, ...]],
        note: Callable[[str], str] | None = None,
    ) -> Column:
        return Column(
            title,
            get,
            path,
            unit_of=lambda n: unit_of(Settings, n),
            kind_of=setting_kind,
            optional=True,
            width=96,
            note=note,
            choices_of=lambda n: soils if n == "founding_unit" else CHOICES.get(n, ()),
            strong=lambda n: path(n)[0] == PLACES[origin(n, of_type, of_base)],
        )

    def differs(name: str) -> str:
        """The default, where the project has another value."""
        usual = Settings.model_fields[name].default
        return (
            ""
            if getattr(project.settings, name) == usual
            else say("default: {setting}", setting=_setting_text(name, usual, project.showing))
        )

    def elsewhere(name: str) -> str:
        """The types and bases that say otherwise."""
        others: tuple[PadType | Pad, ...] = (*project.types, *project.pads)
        return ", ".join(one.name for one in others if name in one.overrides)

    columns = [
        Column(
            say("Setting"),
            SETTING_LABELS.__getitem__,
            lambda n: (),
            kind="text",
            width=246,
            convert=label_only,
            derived=True,
        ),
        cell(say("Project"), lambda n: getattr(project.settings, n), lambda n: ("settings", n), differs),
    ]
    if pad and pad.type:
        kind = pad.type
        columns.append(cell(say("Type {kind}", kind=kind), of_type.get, lambda n: ("types", kind, "overrides", n)))
    if pad:
        name = pad.name
        columns.append(
            cell(f"{label(pad.kind).capitalize()} {name}", of_base.get, lambda n: ("pads", name, "overrides", n))
        )
    columns.append(
        Column(say("Otherwise in"), elsewhere, lambda n: (), kind="text", convert=computed, derived=True, width=84)
    )
    return columns


def _setting_text(name: str, value: Any, units: UnitSet) -> str:
    """A value of a setting, in words."""
    if value is None or value == "":
        return say("empty")
    if isinstance(value, bool):
        return label("yes" if value else "no")
    if not isinstance(value, (int, float)):
        return label(str(value)) if name in CHOICES else str(value)
    unit = unit_of(Settings, name)
    return f"{show(value, unit, units)} {shown_unit(unit, units)}".rstrip()


PLACES = {"project": "settings", "type": "types", "base": "pads"}
"""Where in the project a value in force stands."""

SETTINGS = Spec("settings", lambda _: tuple(SETTING_LABELS), setting_columns)


def _presumed_rows(session: Session) -> list[int]:
    return list(range(len(session.project.settings.presumed_table)))


def _presumed_columns(session: Session) -> list[Column]:
    table = session.project.settings.presumed_table

    def cell(title: str, position: int, unit: str, tip: str) -> Column:
        return Column(
            title,
            lambda i: table[i][position],
            lambda i: ("settings", "presumed_table", i, position),
            unit,
            width=120,
            tip=tip,
        )

    return [
        cell(say("Depth"), 0, "m", say("of the founding level below finished ground")),
        cell(say("Width"), 1, "m", say("the lesser size of the base; 0 for all widths when each depth has one row")),
        cell(say("Pressure"), 2, "kPa", say("presumed pressure at this depth and width")),
    ]


def _add_presumed(session: Session, _: Any) -> str:
    table = session.project.settings.presumed_table
    last = table[-1] if table else (0.3, 0.0, session.project.settings.presumed_pressure or 150.0)
    new = (round(last[0] + 0.3, 3), last[1], last[2])
    return changed(session, lambda p: edited(p, ("settings", "presumed_table"), (*table, new)))


def _remove_presumed(session: Session, row: Any) -> str:
    table = session.project.settings.presumed_table
    return changed(session, lambda p: edited(p, ("settings", "presumed_table"), table[:row] + table[row + 1 :]))


PRESUMED = Spec(
    "presumed",
    _presumed_rows,
    _presumed_columns,
    _add_presumed,
    _remove_presumed,
    say("row"),
    say(
        "Presumed pressures that grow with depth or width: a row for each, linear between them. Empty: the one value in Settings."
    ),
)

TITLE_LABELS = {
    "project": say("Project"),
    "number": say("Number"),
    "client": say("Client"),
    "office": say("Office"),
    "author": say("Author"),
    "checker": say("Checker"),
    "date": say("Date"),
    "revision": say("Revision"),
}

STANDARDS = {"ground": say("Ground standard"), "approach": say("Design approach"), "concrete": say("Concrete standard")}


def _titles(session: Session) -> list[Column]:
    project = session.project
    return [
        Column(
            say("On every page"),
            lambda n: TITLE_LABELS.get(n) or STANDARDS[n],
            lambda n: (),
            kind="text",
            width=150,
            convert=label_only,
            derived=True,
        ),
        Column(
            say("Text"),
            lambda n: getattr(project.title if n in TITLE_LABELS else project.standards, n),
            lambda n: ("title" if n in TITLE_LABELS else "standards", n),
            width=320,
            kind_of=lambda n: "text" if n in TITLE_LABELS else "choice",
            choices_of=lambda n: (
                (*CONCRETE, WITHOUT)
                if n == "concrete"
                else get_args(Standards.model_fields[n].annotation)
                if n in STANDARDS
                else ()
            ),
        ),
    ]


TITLE = Spec("title", lambda _: (*TITLE_LABELS, *STANDARDS), _titles)
