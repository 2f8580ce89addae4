"""Slow work in worker processes: the window stays free, and ending the process is the cancel.

A task carries the token that it was asked with (the project it belongs to), says how far it is and how long it takes.
Of the tasks of one channel the newest that waits is the one that counts: what it replaces is dropped; where it has
begun it may be asked to end."""

import atexit
import logging
import os
import sys
from collections import deque
from collections.abc import Callable
from pathlib import Path
from pickle import loads
from time import monotonic
from typing import Any

from PySide6.QtCore import QObject, QProcess, QProcessEnvironment, QTimer, Signal

import korbent
from korbent.files.faults import kept
from korbent.worker import LENGTH, framed

MOST = max(1, min(2, (os.cpu_count() or 2) - 1))
"""Worker processes at a time."""
PATIENCE = 1500
"""Milliseconds that a task which is left off has to give what it found; then its process is ended."""


class Task(QObject):
    """Work that was asked for; ``done`` gives the token and the result, None where there is none."""

    done = Signal(object, object)
    told = Signal(object)

    def __init__(self, pool: "Pool", name: str, token: object, args: tuple[Any, ...], channel: str) -> None:
        super().__init__()
        self.pool, self.name, self.token, self.args, self.channel = pool, name, token, args, channel
        self.number = 0
        self.begun: float | None = None

    @property
    def seconds(self) -> float:
        """How long it has been under way; 0 while it waits."""
        return 0.0 if self.begun is None else monotonic() - self.begun

    def leave_off(self) -> None:
        """What it found so far is enough; where it gives nothing soon, its process is ended and it gives None."""
        self.pool.leave_off(self)


class Worker(QObject):
    """One worker process."""

    def __init__(self, pool: "Pool") -> None:
        super().__init__(pool)
        self.pool = pool
        self.task: Task | None = None
        self._read = bytearray()
        self.process = QProcess(self)
        environment = QProcessEnvironment.systemEnvironment()
        home = str(Path(korbent.__file__).parents[1])
        path = [home, *filter(None, environment.value("PYTHONPATH").split(os.pathsep))]
        environment.insert("PYTHONPATH", os.pathsep.join(dict.fromkeys(path)))
        # one thread: the window needs the other processor
        environment.insert("OPENBLAS_NUM_THREADS", "1")
        self.process.setProcessEnvironment(environment)
        self.process.setProcessChannelMode(QProcess.ProcessChannelMode.ForwardedErrorChannel)
        self.process.readyReadStandardOutput.connect(self._hear)
        self.process.finished.connect(self._ended)
        self.process.errorOccurred.connect(self._ended)
        self.process.start(sys.executable, ["-m", "korbent.worker"])

    def send(self, message: Any) -> None:
        """Gives it a message."""
        self.process.write(framed(message))

    def _hear(self) -> None:
        self._read += self.process.readAllStandardOutput().data()
        while len(self._read) >= LENGTH.size:
            (length,) = LENGTH.unpack_from(self._read)
            if len(self._read) < LENGTH.size + length:
                return
            message = loads(bytes(self._read[LENGTH.size : LENGTH.size + length]))
            del self._read[: LENGTH.size + length]
            self.pool.heard(self, *message)

    def _ended(self, *_: object) -> None:
        self.pool.lost(self)


class Pool(QObject):
    """The worker processes, and the tasks that wait for one."""

    def __init__(self) -> None:
        super().__init__()
        self.workers: list[Worker] = []
        self.waiting: deque[Task] = deque()
        self._number = 0
        atexit.register(self.end)

    def run(
        self,
        name: str,
        token: object,
        args: tuple[Any, ...],
        done: Callable[[Any, Any], None],
        told: Callable[[Any], None] | None = None,
        channel: str = "",
        first: bool = False,
        replaces: bool = False,
    ) -> Task:
        """Asks for a job (see korbent.jobs), before all others that wait where it is to come first. With ``replaces``
        what its channel works on is asked to end: nobody wants it any more. ``done``  and ``told`` are best methods of
        a widget: then nobody is told once it is gone."""
        task = Task(self, name, token, args, channel)
        self._number += 1
        task.number = self._number
        task.done.connect(done)
        if told is not None:
            task.told.connect(told)
        for other in [t for t in self.waiting if channel and t.channel == channel]:
            self.waiting.remove(other)
        for worker in self.workers:
            # what it works on is no longer wanted: it may end, where it asks
            if replaces and channel and worker.task is not None and worker.task.channel == channel:
                worker.send(("stop", worker.task.number))
        self.waiting.insert(0, task) if first else self.waiting.append(task)
        self._hand_out()
        return task

    def _hand_out(self) -> None:
        while self.waiting:
            free = next((w for w in self.workers if w.task is None), None)
            if free is None and len(self.workers) < MOST:
                free = Worker(self)
                self.workers.append(free)
            if free is None:
                return
            task = self.waiting.popleft()
            free.task, task.begun = task, monotonic()
            free.send(("job", task.number, task.name, task.args))

    def heard(self, worker: Worker, kind: str, number: int, what: Any) -> None:
        """A worker said something."""
        task = worker.task
        if task is None or task.number != number:
            return
        if kind == "told":
            task.told.emit(what)
            return
        worker.task = None
        if kind == "failed":
            logging.getLogger("korbent").error("a background job failed: %s", what)
            kept(what)
        self._hand_out()
        task.done.emit(task.token, what if kind == "done" else None)

    def lost(self, worker: Worker) -> None:
        """A worker has ended, by itself or by us: its task gives None, the others go on."""
        if worker not in self.workers:
            return
        self.workers.remove(worker)
        task, worker.task = worker.task, None
        worker.deleteLater()
        self._hand_out()
        if task is not None:
            task.done.emit(task.token, None)

    def leave(self, channel: str) -> None:
        """Nobody wants what a channel waits for or works on any more: nothing is told of the one, the other may end
        where it asks."""
        for task in [t for t in self.waiting if t.channel == channel]:
            self.waiting.remove(task)
        for worker in self.workers:
            if worker.task is not None and worker.task.channel == channel:
                worker.send(("stop", worker.task.number))

    def leave_off(self, task: Task) -> None:
        """See :meth:`Task.leave_off`."""
        if task in self.waiting:
            self.waiting.remove(task)
            task.done.emit(task.token, None)
            return
        worker = next((w for w in self.workers if w.task is task), None)
        if worker is None:
            return
        worker.send(("stop", task.number))

        def end() -> None:
            if worker.task is task:
                worker.process.kill()

        QTimer.singleShot(PATIENCE, worker, end)

    def busy(self) -> bool:
        """Some task waits or is under way."""
        return bool(self.waiting) or any(w.task is not None for w in self.workers)

    def end(self) -> None:
        """All processes are ended."""
        self.waiting.clear()
        workers, self.workers = self.workers, []
        for worker in workers:
            worker.task = None
            worker.process.kill()
            worker.process.waitForFinished(500)


_pool: Pool | None = None


def pool() -> Pool:
    """The one of this program."""
    global _pool
    if _pool is None:
        _pool = Pool()
    return _pool
