"""Sheets: what leaves the office, ticked and ordered, each page as it will print, and what has changed since the last
issue."""

import datetime
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLineEdit,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.asked import Asked, same
from korbent.app.divided import below
from korbent.app.grid import Grid
from korbent.app.page_view import STEP, PageView
from korbent.app.sheet_list import SheetList
from korbent.app.sheet_panel import A_FILE, NOTHING, SheetPanel
from korbent.app.stops.signposts import SHEETS
from korbent.app.stops.stop import Elided, Stop
from korbent.app.words import Label
from korbent.app.workers import Task, pool
from korbent.core.explain.changes import Changes
from korbent.core.model import Project, edited
from korbent.core.model.labels import field_word, label
from korbent.core.model.sheets import Revision, SheetChoice, SheetSet
from korbent.files.office import OfficeError, keep_logo, keep_title_block, title_block
from korbent.files.project_file import ProjectFileError, load
from korbent.sheets.catalogue import COMPARED, KINDS, completed, sets_of, ticked, with_set
from korbent.sheets.changes import changes_rows
from korbent.words import say, say_count

if TYPE_CHECKING:
    from korbent.sheets.preview import Preview

ISSUED = "issued"
RENEWED, STALE, FAILED = say("renewing …"), say("out of date"), say("cannot be made")
PARTS = tuple(f for f in Project.model_fields if f not in ("sheet_sets", "notes", "expressions", "origin"))
"""What of a project sheets show."""


CALLED = {
    "upright": say("portrait or landscape"),
    "lying": say("portrait or landscape"),
    "by_type": say("pages"),
    "workings": say("workings"),
}
"""What a change is called."""


class SheetsStop(Stop):
    """The list at the left, the page in the middle, the sheet's own settings at the right."""

    post = SHEETS

    def build(self) -> None:
        self.chosen_name = ""
        self.compared = NOTHING
        """What the project is compared with: a kept state or a file, by its path."""
        self._before: Project | None = None
        self.previews: dict[str, tuple[tuple[object, ...], Preview | None]] = {}
        """By sheet what was made of it last, and of what."""
        self._making: tuple[str, tuple[object, ...]] | None = None
        self._writing: Task | None = None
        self.list = SheetList(self.theme)
        self.list.chosen.connect(lambda key: self._bring(key))
        self.list.ticked.connect(self._ticked)
        self.list.ordered.connect(self._ordered)
        self.page = PageView(self.theme)
        self.page.turned.connect(self._tell_page)
        self.table = Grid("sheet-table", say("The table as it will be written"))
        self.changes = Grid("changes-table", say("What has changed"), wraps=True)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.page)
        self.stack.addWidget(self.table)
        self.panel = SheetPanel()
        self.panel.changed.connect(self._changed)
        self.panel.compared.connect(self._compare)
        self.panel.written.connect(self._ask_folder)
        self.panel.cancel.clicked.connect(self._leave_off)
        self.panel.issued.connect(self.issue)
        self.panel.office.connect(self._office)
        self.panel.logo.connect(self._ask_logo)
        self.panel.layers.connect(self._ask_layers)
        self._asked = Asked("changes", self._show_changes, self)
        self.key = ""
        self._arrange()

    def _arrange(self) -> None:
        left = QWidget(objectName="sheet-side")
        left.setFixedWidth(236)
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(2)
        head = QHBoxLayout()
        head.setContentsMargins(14, 0, 8, 0)
        head.addWidget(Label(say("Sheets"), objectName="pane-title"))
        head.addStretch(1)
        self.sets = QComboBox(objectName="sheet-set")
        self.sets.setAccessibleName(say("Set of sheets"))
        self.sets.setToolTip(say("A set goes out together and is kept with the project"))
        self.sets.activated.connect(lambda _: self._take_set(self.sets.currentText()))
        self.more = QPushButton("…", objectName="more-set")
        self.more.setToolTip(say("A new set, another name, or without this one"))
        self.more.setAccessibleName(say("A new set, another name, or without this one"))
        menu = QMenu(self.more)
        for text, action in (
            (say("New set, as a copy of this one …"), self._ask_set),
            (say("Another name for this set …"), self._ask_name),
            (say("Delete this set"), self.delete_set),
        ):
            menu.addAction(text).triggered.connect(lambda _=False, a=action: a())
        self.more.setMenu(menu)
        head.addWidget(self.sets)
        head.addWidget(self.more)
        column.addLayout(head)
        column.addWidget(self.list, 1)
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 8, 10, 4)
        self.heading = Label("", objectName="pane-title")
        self.detail = Elided("", objectName="quiet")
        bar.addWidget(self.heading)
        bar.addSpacing(8)
        bar.addWidget(self.detail, 1)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, tip_, action in (
            ("page-back", "‹", say("The page before (Page up)"), lambda: self.page.turn(-1)),
            ("page-on", "›", say("The next page (Page down)"), lambda: self.page.turn(1)),
            ("zoom-out", "−", say("Smaller (−, or the wheel)"), lambda: self.page.zoom_by(1 / STEP)),
            ("zoom-in", "+", say("Larger (+, or the wheel)"), lambda: self.page.zoom_by(STEP)),
            ("zoom-fit", say("Whole page"), say("As large as there is room for (0, or a double click)"), self.page.fit),
        ):
            button = QPushButton(text, objectName=name, toolTip=tip_)
            button.setAccessibleName(tip_)
            button.clicked.connect(lambda _=False, a=action: a())
            self.buttons[name] = button
        self.at_page, self.at_zoom = Label("", objectName="quiet"), Label("", objectName="quiet")
        for place in (self.at_page, self.at_zoom):
            place.setContentsMargins(4, 0, 4, 0)
        for part in (
            self.buttons["page-back"],
            self.at_page,
            self.buttons["page-on"],
            self.buttons["zoom-out"],
            self.at_zoom,
            self.buttons["zoom-in"],
            self.buttons["zoom-fit"],
        ):
            bar.addWidget(part)
        top = QWidget()
        over = QVBoxLayout(top)
        over.setContentsMargins(0, 0, 0, 0)
        over.setSpacing(0)
        over.addLayout(bar)
        over.addWidget(self.stack, 1)
        self.changed_pane = QWidget()
        low = QVBoxLayout(self.changed_pane)
        low.setContentsMargins(0, 0, 0, 0)
        low.setSpacing(0)
        title = QHBoxLayout()
        title.setContentsMargins(14, 6, 10, 2)
        self.changed_title = Label("", objectName="pane-title")
        self.changed_detail = Elided("", objectName="quiet")
        title.addWidget(self.changed_title)
        title.addSpacing(8)
        title.addWidget(self.changed_detail, 1)
        low.addLayout(title)
        low.addWidget(self.changes, 1)
        self.changed_pane.hide()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(left)
        row.addWidget(below(self, "sheets-and-changes", (top, 2.2), (self.changed_pane, 1.0)), 1)
        row.addWidget(self.panel)

    # ------------------------------------------------------------ the set

    @property
    def chosen(self) -> SheetSet:
        """The set in front."""
        known = sets_of(self.session.project)
        return next((s for s in known if s.name == self.chosen_name), known[0])

    @property
    def choice(self) -> SheetChoice:
        """The sheet in front."""
        return next((c for c in completed(self.chosen) if c.key == self.key), completed(self.chosen)[0])

    def _take_set(self, name: str) -> None:
        self.chosen_name = name
        self.refresh()

    def _ask_set(self) -> None:
        name, taken = QInputDialog.getText(self, say("A new set"), say("Its name"), QLineEdit.EchoMode.Normal, "")
        if taken:
            self.add_set(name)

    def add_set(self, name: str) -> None:
        """A new set under a name, as a copy of the one in front."""
        name = " ".join(name.split())
        known = sets_of(self.session.project)
        if not name or any(s.name.casefold() == name.casefold() for s in known):
            self.session.announce(
                say("! there is a set '{name}' already", name=name) if name else say("! a set needs a name")
            )
            return
        project = self.session.project.replaced(sheet_sets=(*known, self.chosen.replaced(name=name)))
        self.chosen_name = name
        self.session.apply(project, say("a set '{name}' of sheets", name=name))

    def _ask_name(self) -> None:
        name, taken = QInputDialog.getText(
            self, say("Another name"), say("Its name"), QLineEdit.EchoMode.Normal, self.chosen.name
        )
        if taken:
            self.rename_set(name)

    def rename_set(self, name: str) -> None:
        """Another name for the set in front."""
        name = " ".join(name.split())
        own = self.chosen
        if not name or any(
            s.name.casefold() == name.casefold() for s in sets_of(self.session.project) if s.name != own.name
        ):
            self.session.announce(
                say("! there is a set '{name}' already", name=name) if name else say("! a set needs a name")
            )
            return
        project = with_set(self.session.project, own.replaced(name=name), own.name)
        self.chosen_name = name
        self.session.apply(project, say("the set '{own}' is called '{name}'", own=own.name, name=name))

    def delete_set(self) -> None:
        """Without the set in front; undo brings it back. The last one stays."""
        known, own = sets_of(self.session.project), self.chosen
        if len(known) == 1:
            self.session.announce(say("! the last set stays: untick what is not to go out"))
            return
        rest = tuple(s for s in known if s.name != own.name)
        self.chosen_name = rest[0].name
        self.session.apply(
            self.session.project.replaced(sheet_sets=rest),
            say("without the set '{own}'; undo brings it back", own=own.name),
        )

    def _put(self, changed: SheetSet, message: str) -> None:
        self.session.apply(with_set(self.session.project, changed, self.chosen.name), message)

    def _with(self, key: str, **fields: object) -> tuple[SheetChoice, ...]:
        return tuple(c.replaced(**fields) if c.key == key else c for c in completed(self.chosen))

    def _ticked(self, key: str, on: bool) -> None:
        self._put(
            self.chosen.replaced(sheets=self._with(key, on=on)),
            say("{title}: goes out with '{chosen}'", title=KINDS[key].title, chosen=self.chosen.name)
            if on
            else say("{title}: stays here with '{chosen}'", title=KINDS[key].title, chosen=self.chosen.name),
        )

    def _ordered(self, keys: Sequence[str]) -> None:
        choices = {c.key: c for c in completed(self.chosen)}
        order = tuple(choices[k] for k in keys if k in choices)
        if order != completed(self.chosen):
            self._put(self.chosen.replaced(sheets=order), say("the order of the sheets"))
        else:
            self.refresh()

    def _changed(self, field: str, value: Any) -> None:
        own = self.chosen
        if field == "set:hidden":
            name, off = value
            hidden = tuple(n for n in own.hidden if n != name) + ((name,) if off else ())
            self._put(
                own.replaced(hidden=hidden),
                say("{name} left out on drawings", name=label(name))
                if off
                else say("{name} shown on drawings", name=label(name)),
            )
        elif field.startswith("set:"):
            name = field.partition(":")[2]
            self._put(
                own.replaced(**{name: value}),
                say("{what} of the set '{own}'", what=CALLED.get(name, field_word(name)), own=own.name),
            )
        else:
            self._put(
                own.replaced(sheets=self._with(self.key, **{field: value})),
                say("{what} of {title}", what=CALLED.get(field, field_word(field)), title=KINDS[self.key].title),
            )

    # ------------------------------------------------------------ looking

    def status(self) -> str:
        """How many go out, and how many of what was made are no longer right."""
        if not self._built:
            return super().status()
        old = sum(not self._is_current(c.key) for c in ticked(self.chosen) if c.key in self.previews)
        return (
            say("{old} out of date", old=old)
            if old
            else say_count(len(ticked(self.chosen)), "{number} sheet", "{number} sheets")
        )

    def refresh(self) -> None:
        """Shows the set and the sheet in front as they are now."""
        if not self._built:
            return
        project, own = self.session.project, self.chosen
        names = [s.name for s in sets_of(project)]
        if [self.sets.itemText(i) for i in range(self.sets.count())] != names:
            self.sets.clear()
            self.sets.addItems(names)
        self.sets.setCurrentText(own.name)
        choices = completed(own)
        if not self.key:
            self.key = next((c.key for c in choices if c.on), choices[0].key)
        self._fill_list()
        self.list.choose(self.key)
        self.panel.fill(project, own, self.choice, self._states(), self.compared)
        self._show()
        self._renew()
        if self._before is not None:
            self._asked.want((self._before, *self._parts()), (self._before, project))
        self.changed_pane.setVisible(self._before is not None)

    def _fill_list(self) -> None:
        said, state = {}, {}
        for c in completed(self.chosen):
            _, made = self.previews.get(c.key, ((), None))
            if made is not None:
                said[c.key] = made.said
            if c.key in self.previews and not self._is_current(c.key):
                making = self._making is not None and self._making[0] == c.key
                state[c.key] = RENEWED if making else STALE
            elif c.key in self.previews and made is None:
                state[c.key] = FAILED
        self.list.fill(completed(self.chosen), said, state)

    def _parts(self) -> tuple[object, ...]:
        return tuple(getattr(self.session.project, f) for f in PARTS)

    def _belongs(self, key: str) -> tuple[object, ...]:
        """What a sheet is made of, compared by identity but for names and numbers."""
        own = self.chosen
        choice = next((c for c in completed(own) if c.key == key), SheetChoice(key=key))
        said = (
            own.workings,
            own.by_type,
            own.paper,
            own.lying,
            ",".join(own.hidden),
            choice.paper,
            choice.upright,
            choice.scale,
        )
        return (*said, self._before if key in COMPARED else None, *self._parts())

    def _is_current(self, key: str) -> bool:
        return key in self.previews and same(self.previews[key][0], self._belongs(key))

    def _bring(self, key: str) -> None:
        if key == self.key:
            return
        self.key = key
        self.page.begin()
        self.panel.fill(self.session.project, self.chosen, self.choice, self._states(), self.compared)
        self._show()
        self._renew()

    def _show(self) -> None:
        """The sheet in front, as it was made last."""
        _, made = self.previews.get(self.key, ((), None))
        current = self._is_current(self.key)
        self.heading.setText(KINDS[self.key].title)
        said = made.said if made is not None else ""
        state = "" if current else say("being made …") if made is None else say("out of date, being made again …")
        self.detail.setText(
            " · ".join(
                p
                for p in (
                    said,
                    state
                    or (say("as it will be written") if KINDS[self.key].group == "tables" else say("as it will print")),
                )
                if p
            )
        )
        self.page.stale = made is not None and not current
        if made is not None and (made.head or not made.pdf) and KINDS[self.key].group == "tables":
            self.table.show_rows(made.head, made.rows)
            self.stack.setCurrentWidget(self.table if made.head else self.page)
            self.page.said = made.said
            self.page.show_pdf(b"", 0)
        else:
            self.stack.setCurrentWidget(self.page)
            self.page.said = say("being made …") if made is None and not current else said
            self.page.show_pdf(made.pdf if made is not None else b"", made.pages if made is not None else 0)
        self.page.update()
        self._tell_page()

    def _tell_page(self) -> None:
        on_pages = self.stack.currentWidget() is self.page and bool(self.page.pages)
        several = on_pages and self.page.pages > 1
        for name, button in self.buttons.items():
            button.setVisible(several if name.startswith("page") else on_pages)
        self.buttons["page-back"].setEnabled(self.page.page > 0)
        self.buttons["page-on"].setEnabled(self.page.page + 1 < self.page.pages)
        self.at_page.setText(
            say("{page} of {pages}", page=self.page.page + 1, pages=self.page.pages) if several else ""
        )
        self.at_zoom.setText(f"{self.page.percent()} %" if on_pages else "")

    # ------------------------------------------------------------ made in the background

    def _renew(self) -> None:
        """Has the sheet in front made where it is not as the project is; then the others that were seen or go out."""
        if self._making is not None or not self.key or not self.isVisible():
            return
        seen = [c.key for c in completed(self.chosen) if c.on or c.key in self.previews]
        wanted = next((k for k in dict.fromkeys([self.key, *seen]) if not self._is_current(k)), None)
        if wanted is None:
            return
        self._making = wanted, self._belongs(wanted)
        args = (self.session.project, self.chosen, wanted, self._before)
        pool().run("sheet", self._making, args, self._made, channel="sheet", first=wanted == self.key)
        self._fill_list()

    def _made(self, token: tuple[str, tuple[object, ...]], found: Any) -> None:
        key, belongs = token
        self._making = None
        self.previews[key] = (belongs, found)
        self._fill_list()
        if key == self.key:
            self._show()
        self._renew()

    def showEvent(self, event: Any) -> None:
        """What fell behind while it was not seen is made again."""
        super().showEvent(event)
        if self._built:
            self._renew()

    @property
    def settled(self) -> bool:
        """Every sheet that goes out is made as the project is."""
        return self._making is None and all(self._is_current(c.key) for c in ticked(self.chosen))

    # ------------------------------------------------------------ what has changed

    def _states(self) -> list[tuple[str, str]]:
        """Issued revisions of this project, the newest first: (name, path)."""
        path = self.session.path
        if path is None:
            return []
        return [(k.name, str(k.file)) for k in self.session.store.of(path) if k.reason == ISSUED]

    def _compare(self, known: str) -> None:
        if known == A_FILE:
            known, _ = QFileDialog.getOpenFileName(self, say("Compare with"), "", say("Korbent project (*.korbent)"))
            if not known:
                self.refresh()
                return
        self.compare_with(known)

    def compare_with(self, known: str) -> None:
        """Compares with a kept state or a file, by its path; with nothing where it is called so."""
        if known == NOTHING:
            self.compared, self._before = NOTHING, None
        else:
            try:
                kept = next((k for k in self._kept() if str(k.file) == known), None)
                before = kept.project() if kept is not None else load(Path(known))
            except (OSError, ProjectFileError) as error:
                self.session.announce(say("! not compared: {splitlines}", splitlines=str(error).splitlines()[0]))
                self.refresh()
                return
            self.compared, self._before = known, before
            self._asked.forget()
        self._show_changes()
        self.refresh()

    def _kept(self) -> Sequence[Any]:
        return self.session.store.of(self.session.path) if self.session.path is not None else []

    def _show_changes(self) -> None:
        found = self._asked.found
        name = next((n for n, p in self._states() if p == self.compared), Path(self.compared).name)
        self.changed_title.setText(say("Changed since {name}", name=name))
        if not isinstance(found, Changes):
            self.changed_detail.setText(self._asked.state)
            self.changes.show_rows((), ())
            return
        rows = changes_rows(found)
        marked = (
            say(
                "{counted} marked on the plan", counted=say_count(len(found.clouded), "{number} base", "{number} bases")
            )
            if found.clouded
            else say("nothing to mark on the plan")
        )
        general = (
            say(
                " · and {counted} that hold for the whole project",
                counted=say_count(len(found.general), "{number} thing", "{number} things"),
            )
            if found.general
            else ""
        )
        text = (
            f"{say_count(len(rows), '{number} base', '{number} bases')}, {marked}{general}"
            if rows or found.general
            else say("nothing has changed")
        )
        self.changed_detail.setText(f"{text}{' · ' + self._asked.state if self._asked.state else ''}")
        shown = [
            (
                b.base,
                b.kind,
                "; ".join((*b.loads, *b.ground)),
                "; ".join((*b.sizes, *b.bars)),
                _ratios(b.before, b.after),
                "; ".join(b.crossed),
            )
            for b in found.bases
        ] + [("project", "", line, "", "", "") for line in found.general]
        self.changes.show_rows(
            (
                say("Base"),
                say("What"),
                say("Loads and ground"),
                say("Sizes and bars"),
                say("Worst ratio"),
                say("Crossed 1.0"),
            ),
            shown,
        )

    def issue(self, reason: str) -> str:
        """Keeps the project as it is under its revision, and notes it in the revision table; what is wrong with that,
        or ''."""
        session, title = self.session, self.session.project.title
        why = ""
        if not title.revision:
            why = say("the project has no revision: type one in Project, Title and standards")
        elif not reason:
            why = say("type why it goes out, such as 'for approval'")
        elif session.path is None:
            why = say("save the project first: what is issued is kept with its file")
        elif any(r.name == title.revision for r in session.project.revisions):
            why = say(
                "revision {revision} was issued already: raise the revision in Project, Title and standards",
                revision=title.revision,
            )
        if why:
            session.announce(say("! not issued: {why}", why=why))
            return why
        assert session.path is not None
        line = Revision(
            name=title.revision, date=title.date or datetime.date.today().isoformat(), reason=reason, by=title.author
        )
        session.apply(
            session.project.replaced(revisions=(*session.project.revisions, line)),
            say("revision {revision} issued", revision=title.revision),
        )
        kept = session.store.keep(
            session.project, session.path, ISSUED, say("revision {revision}", revision=title.revision)
        )
        if kept is None:
            session.announce(say("! the revision was noted, but it could not be kept for comparing: is the disk full?"))
        self.panel.reason.clear()
        self.refresh()
        return ""

    # ------------------------------------------------------------ the title block

    def _office(self, name: str) -> None:
        own = title_block()
        if name and own.get("office") != name:  # the next project begins with it
            with suppress(OSError):
                keep_title_block(own | {"office": name})
        if name != self.session.project.title.office:
            self.session.apply(
                edited(self.session.project, ("title", "office"), name), say("the office in the title block")
            )

    def _ask_logo(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, say("A logo for all projects"), "", say("Pictures (*.svg *.png)"))
        if name:
            self.take_logo(Path(name))

    def take_logo(self, path: Path | None) -> None:
        """Takes a logo for the title blocks of all projects; None: none."""
        try:
            keep_logo(path)
        except (OfficeError, OSError) as error:
            self.session.announce(f"! {error}")
            return
        self.session.announce(
            say("{path} stands in the title block of all projects", path=path.name) if path else say("no logo")
        )
        self.previews = {k: v for k, v in self.previews.items() if KINDS[k].group != "drawings"}
        self._renew()

    def _ask_layers(self) -> None:
        from korbent.app.layers_dialog import LayersDialog

        self.layers_dialog = LayersDialog(self)
        self.layers_dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.layers_dialog.open()

    # ------------------------------------------------------------ writing

    def _ask_folder(self) -> None:
        at = str(self.session.path.parent) if self.session.path is not None else ""
        name = QFileDialog.getExistingDirectory(self, say("A folder for the set"), at)
        if name:
            self.write_to(Path(name))

    def write_to(self, folder: Path) -> None:
        """Writes the set into a folder, in the background."""
        formats = self.panel.chosen_formats()
        if not formats or not ticked(self.chosen):
            self.session.announce(
                say("! nothing to write: tick ") + (say("a format") if not formats else say("a sheet"))
            )
            return
        args = (self.session.project, self.chosen, folder, formats, self._before)
        self.panel.show_progress(say("being written …"))
        self._writing = pool().run("sheets", folder, args, self._written, self._step)

    def _step(self, what: Any) -> None:
        at, of, name = what
        self.panel.show_progress(say("{name}: {at} of {of} …", name=name, at=at + 1, of=of))

    def _leave_off(self) -> None:
        if self._writing is not None:
            self._writing.leave_off()

    def _written(self, folder: object, found: Any) -> None:
        assert isinstance(folder, Path)
        self._writing = None
        self.panel.show_progress("")
        paths, why = found if isinstance(found, tuple) else ([], say("it was left off, or something went wrong"))
        if why or not paths:
            self.session.announce(
                say("! the set was not written: {why}", why=why or say("nothing in it has these formats"))
            )
        else:
            self.session.announce(
                say(
                    "{counted} written to {folder}: {p}{value}",
                    counted=say_count(len(paths), "{number} file", "{number} files"),
                    folder=folder,
                    p=", ".join(p.name for p in paths[:4]),
                    value=" …" if len(paths) > 4 else "",
                )
            )


def _ratios(before: float | None, after: float | None) -> str:
    a, b = ("–" if v is None else f"{v:.2f}" for v in (before, after))
    return "" if a == b == "–" else f"{a} → {b}"
