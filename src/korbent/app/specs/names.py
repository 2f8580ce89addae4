"""The tables of named values, and of units shown otherwise than the set has them."""

from typing import Any

from korbent.app.session import Session
from korbent.app.specs.common import append, changed, drop, field, label_only, unique
from korbent.app.tables import Column, Spec
from korbent.core.model import Quantity
from korbent.core.model.project import QUANTITY_UNITS
from korbent.core.model.sheets import Revision
from korbent.core.units import OVERRIDABLE, SHOWN, SUBGRADE
from korbent.words import say

KINDS = {
    "m": say("Lengths and levels"),
    "mm": say("Small lengths, settlements"),
    "kN": say("Forces"),
    "kNm": say("Moments"),
    "kPa": say("Pressures, strengths of soils"),
    "MPa": say("Strengths of concrete and steel, qc"),
    "kN/m3": say("Unit weights"),
    "1/MPa": say("Compressibility mv"),
    "kPa/m": say("Growth with depth"),
    SUBGRADE: say("Moduli of subgrade reaction"),
    "m²/day": say("Rates of consolidation"),
}


def _columns(_: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("quantities", row.name)

    return [
        field(
            Quantity,
            "name",
            say("Name"),
            path,
            "text",
            width=110,
            tip=say("letters, digits and _; used as it stands in =expressions"),
        ),
        Column(say("Value"), lambda r: r.value, lambda r: (*path(r), "value"), unit_of=lambda r: r.unit, width=120),
        field(
            Quantity,
            "unit",
            say("Kind"),
            path,
            "choice",
            choices=QUANTITY_UNITS,
            tip=say("the unit in which it is kept; empty: a plain number"),
        ),
        field(Quantity, "description", say("What it is"), path, "text", width=300),
    ]


QUANTITIES = Spec(
    "quantities",
    lambda s: s.project.quantities,
    _columns,
    lambda s, _: changed(
        s, append(("quantities",), Quantity(name=unique("q", [q.name for q in s.project.quantities])))
    ),
    lambda s, row: changed(s, drop(("quantities",), row)),
    say("named value"),
    say(
        "No named value yet. One can be used in any number cell: =clear + 0.2. In a pad B, L, h, cx, cy are its own sizes, P7.B those of another."
    ),
)


def _revision_columns(_: Session) -> list[Column]:
    def path(row: Any) -> tuple[str | int, ...]:
        return ("revisions", row.name)

    return [
        field(Revision, "name", say("Revision"), path, "text", width=80),
        field(Revision, "date", say("Date"), path, "text", width=110),
        field(
            Revision,
            "reason",
            say("Reason"),
            path,
            "text",
            width=320,
            tip=say("why it goes out, as it stands in the title block"),
        ),
        field(Revision, "by", "By", path, "text", width=120),
    ]


REVISIONS = Spec(
    "revisions",
    lambda s: s.project.revisions,
    _revision_columns,
    lambda s, _: changed(s, append(("revisions",), Revision(name=unique("R", [r.name for r in s.project.revisions])))),
    lambda s, row: changed(s, drop(("revisions",), row)),
    say("revision"),
    say("No revision yet. Issue in Sheets adds one and keeps the project as it goes out."),
)


def _unit_columns(session: Session) -> list[Column]:
    project = session.project
    return [
        Column(
            say("Quantity"), lambda u: KINDS[u], lambda u: (), kind="text", width=240, convert=label_only, derived=True
        ),
        Column(
            say("In this set"),
            lambda u: SHOWN[project.units].get(u, u),
            lambda u: (),
            kind="text",
            width=110,
            convert=label_only,
            derived=True,
        ),
        Column(
            say("Shown in"),
            lambda u: project.unit_overrides.get(u, ""),
            lambda u: ("unit_overrides", u),
            kind="text",
            width=140,
            optional=True,
            tip=say(
                "another unit of the same kind, such as bar or tonf/m2; ft-in for lengths in feet and inches; empty: that of the set"
            ),
        ),
    ]


UNITS = Spec("units", lambda _: OVERRIDABLE, _unit_columns)
