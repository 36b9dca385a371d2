"""The clock of a window."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer, Signal

from candor.notebook.storage.moments import Moment


class Clock(QObject):
    """Ticks once a second.

    Signals
    -------
    ticked()
        A second went by, and what follows from it was looked at.
    """

    ticked = Signal()

    def __init__(
        self, now: Callable[[], dt.datetime], moment: Callable[[], Moment], each: Callable[[], None]
    ) -> None:
        super().__init__()
        self.now, self.moment = now, moment
        self._timer = QTimer(self)
        self._timer.setInterval(1000)
        self._timer.timeout.connect(each)
        self._timer.start()

    def stop(self) -> None:
        """Tick no more."""
        self._timer.stop()
