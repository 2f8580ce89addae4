"""Loads as a matrix: columns and walls down, cases across, one component of the loads or all of them, totals below."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QWidget

from korbent.app.session import Session
from korbent.app.specs.common import label_only
from korbent.app.tables import Column, Spec, TablePanel
from korbent.app.words import Label
from korbent.core.model import Load, LoadPoint
from korbent.core.model.frozen import unit_of
from korbent.core.plan.totals import CaseTotal, case_totals
from korbent.core.units import UnitError
from korbent.words import say

COMPONENTS = ("V", "Hx", "Hy", "Mx", "My")
ALL = say("all components")


@dataclass(frozen=True)
class Totals:
    """The last row: sums over all columns and walls, those per metre over their length, in the axes of the plan."""

    by_case: dict[str, CaseTotal]
    name: str = say("total")

    def of(self, case: str, component: str) -> float | None:
        """The sum of a force; moments about different points have none."""
        return getattr(self.by_case[case], component) if component in ("V", "Hx", "Hy") else None


class Chosen:
    """Which component is shown."""

    def __init__(self) -> None:
        self.component = COMPONENTS[0]

    @property
    def components(self) -> tuple[str, ...]:
        """One, or all."""
        return COMPONENTS if self.component == ALL else (self.component,)


class ComponentBar(QWidget):
    """The choice of the component."""

    def __init__(self, panel: TablePanel, chosen: Chosen) -> None:
        super().__init__()
        self.box = QComboBox(objectName="component")
        self.box.addItems([*COMPONENTS, ALL])
        self.box.setAccessibleName(say("Component of the loads"))

        def choose(text: str) -> None:
            chosen.component = text
            panel.refresh()

        self.box.currentTextChanged.connect(choose)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(Label(say("shows"), objectName="quiet"))
        row.addWidget(self.box)


def _sum(row: Any, value: Any) -> Any:
    if isinstance(row, Totals):
        raise UnitError(say("this is the sum of the rows above"))
    return value


def matrix() -> Spec:
    """A table of its own, with a choice of its own."""
    chosen = Chosen()

    def rows(session: Session) -> tuple[LoadPoint | Totals, ...]:
        points = session.project.actions.load_points
        if not points or not session.project.actions.cases:
            return ()
        return (*points, Totals({t.case: t for t in case_totals(session.project)}))

    def columns(session: Session) -> list[Column]:
        return [
            Column(
                say("Column or wall"),
                lambda r: r.name,
                lambda r: (),
                kind="text",
                width=110,
                convert=label_only,
                derived=True,
            ),
            *(
                _cell(case.name, q, len(chosen.components) > 1)
                for case in session.project.actions.cases
                for q in chosen.components
            ),
        ]

    return Spec(
        "matrix",
        rows,
        columns,
        empty=say("A matrix needs a load case and a column; or import loads from a file."),
        tools=lambda panel: ComponentBar(panel, chosen),
    )


def _cell(case: str, component: str, several: bool) -> Column:
    def get(row: LoadPoint | Totals) -> float | None:
        if isinstance(row, Totals):
            return row.of(case, component)
        return getattr(row.loads.get(case, Load()), component) or None

    def path(row: LoadPoint | Totals) -> tuple[str, ...]:
        return () if isinstance(row, Totals) else ("actions", "load_points", row.name, "loads", case, component)

    def note(row: LoadPoint | Totals) -> str:
        if isinstance(row, Totals) or case not in row.imported:
            return ""
        own, came = (getattr(loads.get(case, Load()), component) for loads in (row.loads, row.imported))
        return "" if own == came else say("imported as {came:g}, changed by hand", came=came)

    return Column(
        f"{case} {component}" if several else case,
        get,
        path,
        unit_of(Load, component),
        optional=True,
        empty=0.0,
        width=72 if several else 84,
        tip=say("{component} of {case}; empty: none", component=component, case=case),
        convert_in=_sum,
        note=note,
        strong=lambda row: isinstance(row, Totals),
    )


def of_selected(columns: Callable[[Session], list[Column]]) -> Spec:
    """The loads of the columns of the selected base, case by case, as a small table."""

    def rows(session: Session) -> list[tuple[LoadPoint, str, Load]]:
        pad = session.pad
        points = [session.project.load_point(name) for name in pad.carries] if pad else []
        return [(p, c.name, p.loads.get(c.name, Load())) for p in points for c in session.project.actions.cases]

    def shown(session: Session) -> list[Column]:
        several = session.pad is not None and len(session.pad.carries) > 1
        kept = [
            replace(c, width={"Column or wall": 54, "Case": 46}.get(c.title, 56))
            for c in columns(session)
            if c.title not in ("Mz", "From")
        ]
        return kept if several else kept[1:]

    return Spec("own-loads", rows, shown, empty=say("A base that is selected shows the loads of its columns here."))
