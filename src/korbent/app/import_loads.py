"""The preview of a load import: how the table is read, what would change; nothing changes until accepted."""

import json
from pathlib import Path
from typing import get_args

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QHBoxLayout,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.evaluate import Results
from korbent.core.model import Load
from korbent.core.model.actions import Nature
from korbent.core.model.labels import label
from korbent.core.units import show, shown_unit
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.drawing.theme import Theme
from korbent.files.atomic import write_whole
from korbent.files.folders import state_folder
from korbent.files.loads.compare import Differences, differences, taken_over, totals
from korbent.files.loads.read import LoadTable, read_loads
from korbent.files.loads.recognise import MORE_ROLES, ROLES, SENSES, UNITS, Reading, recognised
from korbent.files.sheet import Sheet
from korbent.words import say

ROLE_NAMES = {"point": say("Column"), "case": say("Load case")}
SHOWN = 400
MOST_ASKED = 8
"""So many questions at a time; the next ones follow as they are answered."""
UNKNOWN = say("choose …")
DECIMALS = ((say("decimal sign: as shown"), ""), (say("decimal sign: point"), "."), (say("decimal sign: comma"), ","))


class ImportLoads(QDialog):
    """Shows a sheet as loads, with the choices that it leaves open."""

    def __init__(self, session: Session, sheet: Sheet, name: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.sheet, self.theme = session, sheet, theme
        self.setWindowTitle(say("Loads from {name}", name=name))
        self.resize(980, 640)
        self.table = LoadTable({})
        self.known = recognised(sheet, session.project.showing)
        reading = remembered_reading(sheet) or self.known
        self.answers: set[str] = set()
        self.natures: dict[str, str] = {}
        self.named: set[str] = set()
        self.columns: dict[str, QComboBox] = {}
        self.units: dict[str, QComboBox] = {}
        grid = QGridLayout()
        for i, role in enumerate(ROLES):
            column = QComboBox(objectName=f"column-{role}")
            column.addItems(["–", *(h or say("column {k}", k=k + 1) for k, h in enumerate(sheet.header))])
            column.setCurrentIndex(reading.columns.get(role, -1) + 1)
            column.activated.connect(self.read)
            self.columns[role] = column
            grid.addWidget(Label(ROLE_NAMES.get(role, role)), 0, i)
            grid.addWidget(column, 1, i)
            if role in UNITS:
                unit = QComboBox(objectName=f"unit-{role}")
                kinds = {
                    "kN": ("kN", "MN", "kip", "lbf", "tf"),
                    "kNm": ("kNm", "MNm", "kip ft", "kip in", "t m"),
                    "m": ("m", "mm", "ft", "in"),
                }[UNITS[role]]
                first = UNKNOWN if role in reading.unknown else reading.units.get(role, UNITS[role])
                unit.addItems(list(dict.fromkeys((first, *kinds))))
                unit.activated.connect(lambda _, role=role: self._unit_chosen(role))
                self.units[role] = unit
                grid.addWidget(unit, 2, i)
        self.sense = QComboBox(objectName="sense")
        for sense in SENSES:
            self.sense.addItem(label(sense), sense)
        self.sense.setMaximumWidth(220)
        self.sense.setCurrentIndex(self.sense.findData(reading.sense))
        self.sense.activated.connect(self.read)
        self.swapped = QCheckBox(say("x and y change places"), objectName="swapped")
        self.swapped.setChecked(reading.swapped)
        self.swapped.toggled.connect(self.read)
        self.up = QCheckBox(say("y points upwards"), objectName="y-up")
        self.up.setChecked(reading.up == "y")
        self.up.toggled.connect(self.read)
        self.decimal = QComboBox(objectName="decimal")
        for text, sign in DECIMALS:
            self.decimal.addItem(text, sign)
        self.decimal.setCurrentIndex(self.decimal.findData(reading.decimal or ""))
        self.decimal.setMaximumWidth(220)
        self.decimal.activated.connect(self.read)
        choices = QVBoxLayout()
        choices.addWidget(Label(say("The values are")))
        choices.addWidget(self.sense)
        choices.addWidget(self.decimal)
        axes = QHBoxLayout()
        axes.addWidget(self.swapped)
        axes.addWidget(self.up)
        axes.addStretch(1)
        choices.addLayout(axes)
        self.asked = QVBoxLayout()
        self.asked.setSpacing(4)
        choices.addLayout(self.asked)
        self._shown_asks: tuple[str, ...] = ()
        self.summary = Label(objectName="import-summary", wordWrap=True)
        self.summary.setAlignment(Qt.AlignmentFlag.AlignTop)
        choices.addWidget(self.summary, 1)
        self.picture = DrawingView(lambda _: self._picture(), say("Loads as understood"))
        self.picture.theme = theme
        self.picture.setFixedSize(330, 200)
        upper = QHBoxLayout()
        upper.addLayout(choices, 1)
        upper.addWidget(self.picture)
        self.list = QTableWidget(0, 6, objectName="import-changes")
        self.list.setHorizontalHeaderLabels([say("Column"), say("Case"), "", say("now"), say("then"), say("change")])
        self.list.verticalHeader().hide()
        self.list.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        answers = QDialogButtonBox.StandardButton
        self.buttons = QDialogButtonBox(answers.Ok | answers.Cancel)
        self.take = self.buttons.button(answers.Ok)
        self.take.setText(say("Take over"))
        self.take.setObjectName("take-over")
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        whole = QVBoxLayout(self)
        whole.addLayout(grid)
        whole.addLayout(upper)
        whole.addWidget(self.list, 1)
        whole.addWidget(self.buttons)
        self.found = Differences((), (), (), (), ())
        self.read()

    def reading(self) -> Reading:
        """The reading as chosen."""
        columns = {role: box.currentIndex() - 1 for role, box in self.columns.items() if box.currentIndex() > 0}
        units = {role: box.currentText() for role, box in self.units.items()}
        known = self.known
        more = [role for role in MORE_ROLES if role in known.columns]
        columns |= {role: known.columns[role] for role in more}
        units |= {role: known.units[role] for role in more if role in known.units}
        unknown = {r: why for r, why in known.unknown.items() if units.get(r) == UNKNOWN}
        assumed = tuple(r for r in known.assumed if r not in self.named)
        many = {at: v for at, v in known.many.items() if int(at) not in columns.values()}
        return Reading(
            columns,
            units,
            self.sense.currentData(),
            self.swapped.isChecked(),
            "y" if self.up.isChecked() else "z",
            self.decimal.currentData() or None,
            many,
            unknown,
            assumed,
            dict(self.natures),
            tuple(sorted(self.answers)),
        )

    def _unit_chosen(self, role: str) -> None:
        self.named.add(role)
        self.read()

    def _ask(self) -> None:
        """What is to be confirmed or chosen, each with its box; those answered stay until the table is read
        otherwise."""
        asks = self.found.asks
        keys = tuple(ask.key for ask in asks)
        if keys == self._shown_asks:
            return
        self._shown_asks = keys
        while self.asked.count():
            item = self.asked.takeAt(0)
            widget = item.widget() if item else None
            if widget:
                widget.deleteLater()
        for ask in asks[:MOST_ASKED]:
            box = QWidget()
            row = QHBoxLayout(box)
            row.setContentsMargins(0, 0, 0, 0)
            if ask.choices:
                row.addWidget(Label(ask.text, wordWrap=True), 1)
                choice = QComboBox(objectName=f"ask-{ask.key}")
                choice.addItem(say("choose …"), "")
                for key in ask.choices:
                    choice.addItem(label(key), key)
                choice.activated.connect(lambda at, ask=ask, choice=choice: self._chosen(ask.key, choice.itemData(at)))
                row.addWidget(choice)
            else:
                tick = QCheckBox("", objectName=f"ask-{ask.key}")
                tick.toggled.connect(lambda on, key=ask.key: self._confirmed(key, on))
                row.addWidget(tick)
                text = Label(ask.text, wordWrap=True)
                text.setTextFormat(Qt.TextFormat.PlainText)
                row.addWidget(text, 1)
            self.asked.addWidget(box)

    def _confirmed(self, key: str, on: bool) -> None:
        (self.answers.add if on else self.answers.discard)(key)
        self.read()

    def _chosen(self, key: str, nature: str) -> None:
        if nature in get_args(Nature):
            self.natures[key.partition(":")[2]] = nature
            self.read()

    def read(self) -> None:
        """Reads the sheet again and shows what would change."""
        self.table = read_loads(self.sheet, self.reading(), self.session.project.showing)
        self.found = differences(self.session.project, self.table)
        units = self.session.project.showing
        rows: list[tuple[str, ...]] = [(p.place, "", "", "", p.message, "") for p in self.found.problems]
        for change in self.found.changes:
            unit = "kNm" if change.quantity.startswith("M") else "kN"
            now, then = (show(v, unit, units) for v in (change.old, change.new))
            step = show(change.new - change.old, unit, units)
            rows.append((change.point, change.case, change.quantity, now, f"{then} {shown_unit(unit, units)}", step))
        self.list.setRowCount(min(len(rows), SHOWN))
        for i, row in enumerate(rows[:SHOWN]):
            for j, text in enumerate(row):
                self.list.setItem(i, j, QTableWidgetItem(text))
        self.list.resizeColumnsToContents()
        self.summary.setText(self._summary(len(rows)))
        self._ask()
        self.take.setEnabled(not self.found.problems and not self.found.open and bool(self.table.loads))
        self.picture.refresh()

    def _summary(self, rows: int) -> str:
        found, units = self.found, self.session.project.showing
        if found.problems:
            return say(
                "{problems} problems; nothing can be taken over until they are solved in the file or by the choices above.",
                problems=len(found.problems),
            )
        points = len(self.table.loads)
        parts = (
            [say("{open} to be confirmed above before it can be taken over.", open=len(found.open))]
            if found.open
            else []
        )
        parts += [
            say(
                "{points} load points, {cases} cases, {changes} values differ.",
                points=points,
                cases=len(self.table.cases),
                changes=len(found.changes),
            )
        ]
        for heading, names in (
            (say("New"), found.new_points),
            (say("New cases"), found.new_cases),
            (say("Not in the table"), found.gone),
        ):
            if names:
                parts.append(f"{heading}: {', '.join(names[:14])}{' …' if len(names) > 14 else ''}.")
        sums = totals(self.table.loads)
        text = ", ".join(f"{case} V {show(load.V, 'kN', units, 5)}" for case, load in list(sums.items())[:6])
        parts.append(say("Totals, {unit}: {text}.", unit=shown_unit("kN", units), text=text))
        if rows > SHOWN:
            parts.append(say("The first {shown} are listed.", shown=SHOWN))
        return "\n".join(parts)

    def _picture(self) -> Drawing:
        """The first load as it will act on its base, in plan and elevation."""
        sketch = Sketch()
        units = self.session.project.showing
        for by_case in self.table.loads.values():
            load = max(by_case.values(), key=lambda v: abs(v.V) + abs(v.Hx) + abs(v.Hy), default=Load())
            name, case = next((p, c) for p, cases in self.table.loads.items() for c, v in cases.items() if v is load)
            sketch.add(
                Polygon(rectangle(-1.2, -0.5, 1.2, 0), "concrete", "concrete_line"),
                Polygon(rectangle(-0.25, 0, 0.25, 0.5), "concrete", "concrete_line"),
                Polygon(rectangle(2.2, -0.7, 4.2, 1.3), "faint", "concrete_line"),
                Text((2.2, 1.3), "y ↑  x →", 9, "soft", dy=-4),
            )
            down = load.V >= 0
            force_shown = show(abs(load.V), "kN", units)
            ends = ((0.0, 1.6), (0.0, 0.5)) if down else ((0.0, 0.5), (0.0, 1.6))
            text = say("V {force} down", force=force_shown) if down else say("V {force} up", force=force_shown)
            sketch.add(Line(ends, "ink", 2.2, arrow=True), Text((0.1, 1.6), text, 11, bold=True, dx=4, dy=6))
            for value, direction, force in ((load.Hx, (1.0, 0.0), "Hx"), (load.Hy, (0.0, 1.0), "Hy")):
                if value:
                    sign = 1.0 if value > 0 else -1.0
                    tip = (3.2 + 0.9 * sign * direction[0], 0.3 + 0.9 * sign * direction[1])
                    sketch.add(
                        Line(((3.2, 0.3), tip), "accent", 2.0, arrow=True),
                        Text(tip, f"{force} {show(abs(value), 'kN', units)}", 10, "accent", dx=4, dy=-4),
                    )
            e_x = say("presses the +x side") if load.My > 0 else say("presses the −x side") if load.My < 0 else "none"
            sketch.add(
                Text((-1.2, -0.5), f"{name}, {case}", 10, "soft", dy=16),
                Text((-1.2, -0.5), f"My {show(load.My, 'kNm', units)}: {e_x}", 10, "soft", dy=31),
            )
            break
        return Drawing(tuple(sketch.shapes), (-1.4, -1.1, 5.9, 1.9))

    def accept(self) -> None:
        """Takes the loads over: one step of undo. Says which checks crossed 1.0."""
        if self.found.problems or self.found.open or not self.table.loads:
            return
        remember_reading(self.sheet, self.reading())
        before = self.session.results
        self.session.apply(taken_over(self.session.project, self.table))
        self.session.announce(crossed(before, self.session.results, len(self.found.changes)))
        super().accept()


def crossed(before: Results, after: Results, changes: int) -> str:
    """What a change of loads did: the checks that crossed 1.0."""
    old = {(c.foundation, c.check.id): c.ratio for c in before.all_checks}
    worse, better = [], []
    for check in after.all_checks:
        was = old.get((check.foundation, check.check.id))
        if was is None or check.ratio is None:
            continue
        if was <= 1.0 < check.ratio:
            worse.append(f"{check.foundation} {check.check.title.lower()} {was:.2f} → {check.ratio:.2f}")
        elif check.ratio <= 1.0 < was:
            better.append(check.foundation)
    text = say("{changes} values taken over", changes=changes)
    if worse:
        text = say(
            "! {text}; now beyond 1.0: {worse}{value}",
            text=text,
            worse=", ".join(worse[:4]),
            value=" …" if len(worse) > 4 else "",
        )
    elif better:
        text += say("; now within 1.0: {fromkeys}", fromkeys=", ".join(dict.fromkeys(better)))
    else:
        text += say("; no check crossed 1.0")
    return text


def _remembered(sheet: Sheet) -> tuple[Path, str]:
    return state_folder() / "readings.json", "|".join(sheet.header)


def remember_reading(sheet: Sheet, reading: Reading) -> None:
    """Remembers how a table with these headers is read."""
    path, key = _remembered(sheet)
    try:
        known = json.loads(path.read_text()) if path.exists() else {}
        known[key] = {
            "columns": dict(reading.columns),
            "units": dict(reading.units),
            "sense": reading.sense,
            "swapped": reading.swapped,
            "up": reading.up,
            "decimal": reading.decimal,
        }
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, json.dumps(known).encode())
    except (OSError, ValueError):
        return


def remembered_reading(sheet: Sheet) -> Reading | None:
    """How a table with these headers was read last."""
    path, key = _remembered(sheet)
    try:
        found = json.loads(path.read_text()).get(key)
        return Reading(**found) if found else None
    except (OSError, ValueError, TypeError, AttributeError):
        return None
