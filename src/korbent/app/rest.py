"""Cyclic garbage is looked for while the hands rest, never in the middle of a step: that alone took up to half a
second."""

import gc
from time import monotonic

from PySide6.QtCore import QObject, QTimer

PAUSE = 1500
"""Milliseconds without a change after which it is done."""
AT_LAST = 20.0
"""Seconds after which it is done although changes go on."""
WHOLE = 20
"""Every so many-eth time what lasted is looked through too; the others look only at what came since."""


class Rest(QObject):
    """Puts the search for garbage off to the next pause."""

    def __init__(self) -> None:
        super().__init__()
        young, middle, _ = gc.get_threshold()
        gc.set_threshold(young, middle, 1_000_000_000)
        self.times = 0
        self._since: float | None = None
        self._timer = QTimer(self, singleShot=True, interval=PAUSE)
        self._timer.timeout.connect(self.tidy)

    def soon(self) -> None:
        """Something was done: the pause begins anew, but not for ever."""
        now = monotonic()
        self._since = now if self._since is None else self._since
        if not self._timer.isActive() or now - self._since < AT_LAST:
            self._timer.start()

    def tidy(self) -> None:
        """Looks for garbage; what lasts is not looked at again for a while."""
        self._since = None
        self.times += 1
        if self.times % WHOLE == 0:
            gc.unfreeze()
        gc.collect()
        gc.freeze()


_rest: Rest | None = None


def rest() -> Rest:
    """The one of this program."""
    global _rest
    if _rest is None:
        _rest = Rest()
    return _rest
