"""The state of the window without any window: the projects so far, what is selected, what is saved."""

import logging
import re
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor, wait
from contextlib import contextmanager, suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal

from pydantic import ValidationError

from korbent.core.checks import CHECKS, CheckResult
from korbent.core.dimensions import NAMES as FURTHER
from korbent.core.dimensions import changed as with_dimension
from korbent.core.dimensions import value_of
from korbent.core.model import (
    Acceptance,
    OverLevel,
    Pad,
    Project,
    edited,
    expressed,
    expression_at,
    note_on,
    recomputed,
)
from korbent.core.model.differences import differences
from korbent.core.model.expressions import ExpressionError, spoken
from korbent.core.model.labels import label
from korbent.core.plan.by_hand import FrozenError, by_hand, marked, refuse_frozen
from korbent.core.plan.linked import Link, linked
from korbent.core.quantity_text import Ton, parse, ton_named
from korbent.core.results import PadResult, Results
from korbent.core.units import UnitSet
from korbent.files.atomic import stamp_of
from korbent.files.kept import Kept, Store
from korbent.files.project_file import ProjectFileError, load, problems_of, save
from korbent.words import say

Path_ = tuple[str | int, ...]
if TYPE_CHECKING:
    from korbent.core.bearing.mechanism import Mechanism
    from korbent.core.evaluate import Effect
    from korbent.core.evaluate.slow import Slow
    from korbent.core.explain.state import BaseState
    from korbent.core.explain.working import Working

Found = tuple[Results, tuple[str, ...]]
"""Results, and the rafts whose plates are not known yet."""
log = logging.getLogger("korbent")
_beside = ThreadPoolExecutor(1, "evaluation")


class ChangedMeanwhileError(OSError):
    """A file was changed by somebody else since it was read or written here."""

    def __init__(self, path: Path) -> None:
        super().__init__(say("{path} was changed by somebody else meanwhile", path=path.name))
        self.path = path


@dataclass(frozen=True)
class Try:
    """A state of the project that was set aside under a name."""

    name: str
    project: Project
    kept: Kept | None = None
    """Where it is kept; None while the project has no file."""


TRY = "try"
"""Why such a state is kept."""


Kind = Literal["changed", "looked", "said", "opened"]


@dataclass(frozen=True)
class Event:
    """What listeners are told: the project, its results or the selection ``changed``; another check is ``looked`` at;
    there is a new message (``said``); a working that belongs to no line of the ledger is to be ``opened``."""

    kind: Kind
    working: "Working | None" = None


CHANGED, LOOKED, SAID = Event("changed"), Event("looked"), Event("said")


class Session:
    """Holds the project being worked on. Every change makes a new project; undo goes back along them."""

    def __init__(
        self,
        project: Project,
        path: Path | None = None,
        puts_off: bool = False,
        patience: float | None = None,
    ) -> None:
        self.puts_off = puts_off
        """Slow checks are left to a worker: so in windows."""
        self.patience = patience
        """So many seconds a change waits for its results; what takes longer goes on in a thread and is shown when it is
        there. None: until they are there."""
        self.hand_over: Callable[[object], None] = lambda found: None
        """Called from that thread: brings what it is given to :meth:`arrived` in the thread of the window."""
        self.show_place: Callable[[str], None] = lambda table: None
        """Brings a table of the window to the front, by its name."""
        self.open_check: Callable[[], None] = lambda: None
        """Opens the working of the selected check."""
        self.held_up: Callable[[bool], None] = lambda is_so: None
        """Told when views begin to be behind the project, and when they no longer are."""
        self.history = [project]
        self.position = 0
        self._draft: Project | None = None
        self.path = path
        self.saved: Project | None = project if path else None
        self.stamp = stamp_of(path) if path else ""
        """Of the file as this session last read or wrote it."""
        self.selected = project.pads[0].name if project.pads else ""
        self.also: tuple[str, ...] = ()
        """Bases that are edited together with the selected one."""
        self.link: Link = "apart"
        """What the length of a base does when its width changes."""
        self.check = ""
        self.serving = ""
        """What the combinations that are listed serve; '': whatever."""
        self.situation = ""
        """The combination that is shown everywhere, by its label; '': the one that governs."""
        self.pointed = ""
        self.day: float | None = None
        """The moment in time that is shown, days from the first construction step; None: the end."""
        self.waiting: tuple[str, ...] = ()
        """Rafts whose plates, and strips whose bounds are not known yet: somebody computes them and gives them back by
        :meth:`plates_found`."""
        self._pending: Future[Found] | None = None
        self._untold: tuple[Future[Found], Callable[[], None]] | None = None
        self._results, self.waiting = self._evaluated(project)
        self.before: Results | None = None
        self.message = ""
        self.store = Store()
        """Earlier states of the projects."""
        self._tries: list[Try] = []
        """States set aside while there is no file they could be kept with."""
        self.ton: Ton | None = None
        self._hear: list[Callable[[Event], None]] = []

    # ------------------------------------------------------------ looking

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self.history[self.position] if self._draft is None else self._draft

    @property
    def is_saved(self) -> bool:
        """The file is there and holds just what is shown."""
        return self.project is self.saved and (self.path is None or self.path.exists())

    @property
    def pad(self) -> Pad | None:
        """The selected pad."""
        return next((p for p in self.project.pads if p.name == self.selected), None)

    @property
    def result(self) -> PadResult | None:
        """The result of the selected pad."""
        return self.results.pad(self.selected) if self.pad else None

    def effects(self) -> "tuple[Effect, ...]":
        """What one step of each dimension of the selected pad would do; of a raft nothing: see korbent.jobs.steps."""
        from korbent.core.evaluate import effects_of

        return effects_of(self.project, self.pad) if self.pad and self.pad.kind != "raft" else ()

    def _evaluated(self, project: Project) -> Found:
        if not (project.pads or project.actions.marks or project.actions.load_points):
            return Results(project, ()), ()
        # what checks is loaded when there is something to check: the window opens sooner
        from korbent.core.evaluate import evaluate
        from korbent.core.evaluate.slow import later

        if not self.puts_off:
            return evaluate(project), ()
        with later() as names:
            found = evaluate(project)
        return found, tuple(names)

    @property
    def results(self) -> Results:
        """Of the project as it is; where they are not there yet whoever asks waits for them."""
        if self._pending is not None:
            pending, self._pending = self._pending, None
            self._results, self.waiting = pending.result()
        return self._results

    def _evaluate(self, then: Callable[[], None]) -> None:
        """Finds the results of the project as it is, and does what is to follow: at once, or when they arrive."""
        self._pending = self._untold = None
        if self.patience is None:
            self._results, self.waiting = self._evaluated(self.project)
            then()
            return
        found = _beside.submit(self._evaluated, self.project)
        self._pending = found
        if wait((found,), self.patience).done:
            assert self.results is not None
            then()
            return
        self._untold = found, then
        self.held_up(True)
        found.add_done_callback(lambda done: self.hand_over(done))

    def arrived(self, found: object) -> None:
        """What follows results that came late; nothing where another change has come meanwhile."""
        if self._untold is not None and self._untold[0] is found:
            self.settle()

    def follow(self, action: Callable[[], None]) -> None:
        """Does something with what views show: at once, or when they are no longer behind."""
        if self._untold is None:
            action()
            return
        found, then = self._untold

        def both() -> None:
            then()
            action()

        self._untold = found, both

    def settle(self) -> None:
        """Views that are behind the project are told now: nobody works on with what they show."""
        if self._untold is None:
            return
        then, self._untold = self._untold[1], None
        self.held_up(False)
        assert self.results is not None
        then()

    def plates_found(self, project: Project, found: "dict[str, Slow] | None") -> None:
        """Takes the plates that a worker computed, where they belong to the project as it is."""
        if project is not self.project or found is None:
            return
        from korbent.core.evaluate.road import slow_depends_on
        from korbent.core.evaluate.slow import known_now

        for name, slow in found.items():
            known_now(project, name, slow_depends_on(project, project.pad(name)), slow)
        self._evaluate(self.tell)

    def shown_state(self, prefer: tuple[str, ...] = ()) -> "BaseState | None":
        """Forces and pressure in the governing situation of the selected check, else of a preferred one; in the chosen
        one where its question has it."""
        shown = self._shown(prefer)
        if not self.pad or shown is None:
            return None
        from korbent.core.explain.state import base_state

        return base_state(self.project, self.pad, shown.question, self._place(shown))

    def _shown(self, prefer: tuple[str, ...] = ()) -> CheckResult | None:
        """The check whose situations are shown."""
        checks = self.result.checks if self.result else ()
        names = (self.check, *prefer, "presumed-pressure", "eccentricity", "punching")
        found = (c for name in names for c in checks if c.check.id == name and c.question)
        return next(found, None)

    def _place(self, check: CheckResult) -> int:
        """Which situation of its question is shown."""
        labels = self.labels(check) if self.situation else ()
        return labels.index(self.situation) if self.situation in labels else check.situation

    def labels(self, check: CheckResult | None = None) -> tuple[str, ...]:
        """The situations that can be chosen, of a check or of the one that is shown."""
        from korbent.core.explain.state import situation_labels

        check = check or self._shown()
        return situation_labels(self.project, self.pad, check.question) if self.pad and check else ()

    def choose_situation(self, label: str) -> None:
        """Shows one combination everywhere, '' the governing one of each check again."""
        if label == self.situation:
            return
        self.situation = label
        name = say(
            "combination {label} is shown where a check has it; Alt+Home shows the governing one again", label=label
        )
        self.message = name if label else say("each check shows its governing combination")
        self.tell()

    def next_situation(self, by: int) -> None:
        """The next or the previous combination of the check that is shown; before the first and after the last the
        governing one."""
        labels = ("", *self.labels())
        at = labels.index(self.situation) if self.situation in labels else 0
        self.choose_situation(labels[(at + by) % len(labels)])

    def mechanism(self) -> "Mechanism | None":
        """How the ground would fail, when a bearing resistance is selected."""
        if not self.pad or not self.result:
            return None
        found = [c for c in self.result.checks if c.check.id == self.check]
        if not found:
            return None
        shown = found[0]
        place = self._place(shown)
        from korbent.core.bearing.mechanism import mechanism_of

        return mechanism_of(
            self.project, self.pad, shown if place == shown.situation else replace(shown, situation=place)
        )

    def listen(self, hear: Callable[[Event], None], *kinds: Kind) -> None:
        """Tells a listener of events, of some kinds alone where they are named."""
        self._hear.append((lambda event: hear(event) if event.kind in kinds else None) if kinds else hear)

    def forget_listeners(self) -> None:
        """Nobody is told any more: the window is about to be replaced."""
        self._hear = []

    def _tell(self, event: Event) -> None:
        for hear in self._hear:
            hear(event)

    def tell(self) -> None:
        """The project, its results or what is selected changed: all listeners hear of it."""
        self._tell(CHANGED)

    def open_working(self, working: "Working") -> None:
        """Shows a working that belongs to no line of the ledger."""
        self._tell(Event("opened", working))

    def parse(self, text: str, unit: str, units: UnitSet | None = None) -> float:
        """What was typed, in the stored unit; which ton is meant is remembered once it was said.

        A bare number is in the unit in which ``units`` (else the project) shows it.

        Raises:
            UnitError: with what is wrong and what to type instead.
        """
        value = parse(text, unit, units or self.project.showing, self.ton)
        self.ton = ton_named(text) or self.ton
        return value

    # ------------------------------------------------------------ changing

    def apply(self, project: Project, message: str = "", select: str = "") -> None:
        """Makes a project the current one, with another base selected where one is named; what was undone before is
        dropped."""
        if project is self.project:
            return
        project = recomputed(project)
        if self._draft is not None:
            self._draft = project
            return
        self.history[self.position + 1 :] = [project]
        self.position += 1
        self.selected = select or self.selected
        self._moved(message)

    @contextmanager
    def together(self, message: str = "") -> Iterator[None]:
        """All changes within are one step of undo; results are computed once, at the end."""
        if self._draft is not None:
            yield
            return
        self._draft = self.project
        try:
            yield
        finally:
            project, self._draft = self._draft, None
            self.apply(project, message)

    def express(self, path: Path_, text: str) -> str:
        """Lets a value come from an expression. Returns what is wrong with it, or ''."""
        try:
            project = expressed(self.project, path, text)
        except ValidationError as error:
            return _bare("; ".join(p.message for p in problems_of(error)), path)
        except ExpressionError as error:
            return _bare(str(error), path)
        except KeyError as error:
            return say("nothing is called {error}", error=error)
        self.apply(marked(project, path, self.project))
        return ""

    def expression(self, path: Path_) -> str:
        """The expression behind a value, with its =; '' where there is none."""
        try:
            return expression_at(self.project, path)
        except (KeyError, AttributeError, TypeError):
            return ""

    def note(self, path: Path_) -> str:
        """The note on a value."""
        try:
            return note_on(self.project, path)
        except (KeyError, AttributeError, TypeError):
            return ""

    def edit(self, path: Path_, value: Any) -> str:
        """Changes one value. Returns what is wrong with it, or ''; a wrong value changes nothing.

        A value that came from an expression no longer does.
        """
        try:
            project = by_hand(self.project, path, value)
        except FrozenError as error:
            return str(error)
        except ValidationError as error:
            return "; ".join(str(p.message) if p.place == path[-1] else str(p) for p in problems_of(error))
        except ExpressionError as error:
            return str(error)
        except KeyError as error:
            return say("nothing is called {error}", error=error)
        if path[0] == "pads" and path[-1] == "name" and self.selected == path[1]:
            self.selected = str(value)
        self.apply(project)
        return ""

    def adopt(self, soil: str, parameter: str, value: float, source: str, line: OverLevel | None = None) -> str:
        """Gives a soil a derived value together with its source, in one step of undo."""
        try:
            project = edited(self.project, ("ground", "soils", soil, parameter), value)
            project = edited(project, ("ground", "soils", soil, "over_level", parameter), line)
            project = edited(project, ("ground", "soils", soil, "sources", parameter), source)
        except ValidationError as error:
            return "; ".join(p.message for p in problems_of(error))
        self.apply(project, f"{soil}: {label(parameter)} {value:g}, {source}")
        return ""

    def change_by(self, dimension: str, change: float) -> str:
        """Changes a dimension of the selected pad by so much, and of those that are edited with it, each from its
        own."""
        if not self.pad:
            return say("no foundation is selected")
        if len(self.chosen) > 1 and dimension not in FURTHER:
            return self._all_resized(dimension, lambda now: now + change)
        return self.resize(dimension, round(self.dimension(dimension) + change, 6))

    def dimension(self, name: str) -> float:
        """Of the selected pad, m."""
        assert self.pad is not None
        return value_of(self.project, self.pad, name) if name in FURTHER else float(getattr(self.pad, name))

    @property
    def chosen(self) -> tuple[str, ...]:
        """The selected base, and those that are edited with it."""
        names = {p.name for p in self.project.pads}
        return tuple(n for n in (self.selected, *self.also) if n in names)

    def toggle(self, name: str) -> None:
        """A base is edited together with the selected one, or no longer."""
        if name == self.selected or not any(p.name == name for p in self.project.pads):
            return
        self.also = tuple(n for n in self.also if n != name) if name in self.also else (*self.also, name)
        several = len(self.chosen)
        self.message = say("{chosen} are edited together", chosen=", ".join(self.chosen)) if several > 1 else ""
        self.tell()

    def _all_resized(self, dimension: str, value: Callable[[float], float]) -> str:
        """Changes a dimension of all chosen bases, or of none: what is wrong, or ''."""
        before, wrong = self.project, ""
        several = len(self.chosen) > 1
        with self.together(
            say("{chosen} bases changed; undo takes it back", chosen=len(self.chosen)) if several else ""
        ):
            for name in self.chosen:
                pad = self.project.pad(name)
                size = round(value(float(getattr(pad, dimension))), 9)
                for field, one in linked(pad, dimension, size, self.link).items():
                    wrong = self.edit(("pads", name, field), one)
                    if wrong:
                        self._draft = before
                        return f"{name}: {wrong}" if several else wrong
        return ""

    def resize(self, dimension: str, value: float) -> str:
        """Changes a dimension of the selected pad, and of those that are edited with it. Returns what is wrong with it,
        or ''."""
        if not self.pad:
            return say("no foundation is selected")
        if dimension not in FURTHER:
            if len(self.chosen) > 1 or self.link != "apart":
                return self._all_resized(dimension, lambda _: value)
            return self.edit(("pads", self.selected, dimension), value)
        pad = self.pad
        try:
            refuse_frozen(self.project, ("pads", pad.name, "width"))
            new = with_dimension(self.project, pad, dimension, value)
        except ValidationError as error:
            return "; ".join(p.message for p in problems_of(error))
        except ValueError as error:  # nothing of an outline would be left
            return str(error)
        if new is not self.project:
            self.apply(new)
        return ""

    def accept(self, check: str, reason: str) -> str:
        """Accepts a failing check up to its present ratio, with a reason."""
        pad, result = self.pad, self.result
        if not pad or not result or result.check(check).ratio is None:
            return say("there is nothing to accept")
        if len(reason.strip()) < 3:
            return say("an acceptance needs a reason")
        acceptance = Acceptance(check=check, reason=reason.strip(), ratio=round(result.check(check).ratio or 1.0, 3))
        others = tuple(a for a in pad.accepted if a.check != check)
        return self.edit(("pads", pad.name, "accepted"), (*others, acceptance))

    def undo(self) -> None:
        """Goes back one change."""
        if self.position > 0:
            self.position -= 1
            self._moved(say("undone"))

    def redo(self) -> None:
        """Goes forward again."""
        if self.position + 1 < len(self.history):
            self.position += 1
            self._moved(say("done again"))

    def select(self, name: str) -> None:
        """Selects a foundation."""
        if (name != self.selected or self.also) and any(p.name == name for p in self.project.pads):
            self.selected, self.before, self.also = name, None, ()
            self.tell()

    def select_next(self, by: int) -> None:
        """Selects the next or the previous foundation."""
        names = [p.name for p in self.project.pads]
        if names:
            at = names.index(self.selected) if self.selected in names else 0
            self.select(names[(at + by) % len(names)])

    def select_check(self, check: str) -> None:
        """Selects a check: drawings light up what it is about."""
        if check != self.check:
            self.check = check
            self._look()

    def announce(self, message: str) -> None:
        """Puts a line into the message area; one that begins with ! is about something wrong."""
        self.message = message
        if message:
            log.info(message)
        self._tell(SAID)

    @property
    def lit(self) -> str:
        """What the check pointed at, else the selected one, is about: drawings light it up."""
        name = self.pointed or self.check
        return CHECKS[name].about if name in CHECKS else ""

    def point_at(self, check: str) -> None:
        """Points at a check without selecting it."""
        if check != self.pointed:
            self.pointed = check
            self._look()

    def _look(self) -> None:
        self._tell(LOOKED)

    def save(self, path: Path | None = None, over: bool = False) -> None:
        """Saves to the file, or to a new one; the state is kept among the earlier versions.

        Args:
            over: also over a file that somebody else has changed meanwhile.

        Raises:
            ChangedMeanwhileError: when the file is no longer what this session read or wrote last.
            OSError: when it cannot be written; the session stays unsaved.
        """
        target = path or self.path
        if target is None:
            raise OSError(say("no file is named yet"))
        own = self.path is not None and target.resolve() == self.path.resolve()
        there = stamp_of(target)
        if own and self.stamp and there and there != self.stamp and not over:
            raise ChangedMeanwhileError(target)
        if own and over and there and there != self.stamp:
            with suppress(ProjectFileError):  # what is no project cannot be kept as one
                self.store.keep(load(target), target, say("theirs, before it was overwritten"))
        gone = own and bool(self.stamp) and not there
        before = self.saved
        save(self.project, target)
        self.path, self.saved, self.stamp = target, self.project, stamp_of(target)
        what = tuple(differences(before, self.project, 20)) if before is not None else ()
        self.store.keep(self.project, target, "saved", what=what)
        for one in self._tries:
            self.store.keep(one.project, target, TRY, one.name)
        self._tries = []
        self.announce(
            say("saved to {target}", target=target.name)
            + (say(": the file was gone and is there again") if gone else "")
        )

    def keep_beside(self) -> Path:
        """Saves under a name of its own beside the file that was changed meanwhile; that one stays as it is.

        Raises:
            OSError: when it cannot be written.
        """
        assert self.path is not None
        own = self.path
        number = 1
        while (
            target := own.with_name(f"{own.stem} ({say('mine')}{'' if number == 1 else f' {number}'}){own.suffix}")
        ).exists():
            number += 1
        self.save(target)
        return target

    def take_theirs(self) -> None:
        """Shows the file as somebody else left it; undo goes back to one's own state.

        Raises:
            ProjectFileError: when that file is damaged.
        """
        assert self.path is not None
        stamp = stamp_of(self.path)
        theirs = load(self.path)
        self.store.keep(self.project, self.path, say("yours, before theirs was taken"))
        self.apply(theirs, say("{path} as it is on the disk; undo goes back to your own state", path=self.path.name))
        self.saved, self.stamp = self.project, stamp

    # ------------------------------------------------------------ tries

    def keep_try(self, name: str) -> str:
        """Sets the state as it is aside under a name; what is wrong with that, or ''."""
        name = " ".join(name.split())
        if not name:
            return say("a try needs a name by which it is found")
        if any(one.name == name for one in self.tries()):
            return say("there is a try '{name}' already", name=name)
        if self.path is None:
            self._tries.append(Try(name, self.project))
        elif self.store.keep(self.project, self.path, TRY, name) is None:
            return say("it could not be written: is the disk full?")
        self.announce(say("kept as the try '{name}'", name=name))
        self.tell()
        return ""

    def tries(self) -> tuple[Try, ...]:
        """What was set aside, the first one first."""
        if self.path is None:
            return tuple(self._tries)
        found = []
        for kept in reversed(self.store.of(self.path)):
            if kept.reason == TRY:
                with suppress(OSError, ProjectFileError):
                    found.append(Try(kept.name, kept.project(), kept))
        return tuple(found)

    def forget_try(self, name: str) -> None:
        """Drops a try."""
        for one in self.tries():
            if one.name == name and one.kept is not None:
                one.kept.file.unlink(missing_ok=True)
        self._tries = [one for one in self._tries if one.name != name]
        self.tell()

    def start(self, then: Callable[[], None] = lambda: None) -> None:
        """Evaluates from scratch after the whole project was exchanged; ``then`` follows when all were told."""
        self._tries, self.also = [], ()
        self.before, said = None, self.message

        def told() -> None:
            if self.message is said:
                self.message = ""  # it was about what was there before
            self.tell()
            then()

        self._evaluate(told)

    def _moved(self, message: str) -> None:
        self.before = self._results
        if not any(p.name == self.selected for p in self.project.pads):
            self.selected = self.project.pads[0].name if self.project.pads else ""

        self.message = message

        def told() -> None:
            self.tell()
            self.announce(self.message)  # whoever changed it may have said more meanwhile

        self._evaluate(told)


def _bare(message: str, path: Path_) -> str:
    """A message without the place that is plain from where it is shown."""
    place = spoken(path)
    return re.sub(rf"^(expressions: )?{re.escape(place)} =[^:]*: ", "", message).removeprefix("expressions: ")
