"""What keeps the window from going on: noted with its place in the log beside the notebook, once it lasts a fifth of a second."""

from __future__ import annotations

import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path
from traceback import walk_stack

from PySide6.QtCore import QObject, QTimer

BEAT_MS = 50
BLOCKED_S = 0.2
NAMED = 6  # places in Candor's own code, the innermost first
OURS = Path(__file__).parents[2]


class Watchdog(QObject):
    """Has the window's event loop beat, and notes what it was at while it did not.

    Parameters
    ----------
    note : callable
        Given a sentence for the log; called from another thread.
    """

    def __init__(self, parent: QObject, note: Callable[[str], None]) -> None:
        super().__init__(parent)
        self._note = note
        self._at = time.perf_counter()
        self._window = threading.get_ident()
        self._over = threading.Event()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._beat)
        self._timer.start(BEAT_MS)
        self._thread = threading.Thread(target=self._watch, name="candor-watchdog", daemon=True)
        self._thread.start()

    def finish(self) -> None:
        """Watch no more."""
        self._timer.stop()
        self._over.set()
        self._thread.join()

    def _beat(self) -> None:
        self._at = time.perf_counter()

    def _watch(self) -> None:
        since, places = 0.0, ""
        while not self._over.wait(BLOCKED_S / 2):
            beat = self._at
            if places and beat > since:  # it goes on again
                self._note(f"the window stood still for {beat - since:.2f} s at {places}")
                places = ""
            if not places and time.perf_counter() - beat > BLOCKED_S:
                since, places = beat, self._places() or "code that is not Candor's"

    def _places(self) -> str:
        frame = sys._current_frames().get(self._window)
        found = []
        for at, line in walk_stack(frame):
            path = Path(at.f_code.co_filename)
            if path.is_relative_to(OURS) and path != Path(__file__):
                found.append(f"{path.relative_to(OURS)}:{line} {at.f_code.co_name}")
        return ", from ".join(found[:NAMED])
