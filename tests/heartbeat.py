"""A monotonic clock that stands still while this process gets no turn.

On a busy machine the instrument that a test plays is late together with the program that waits for it. By the wall clock that
is a link that died; by this one it is nothing, because each counts only the time in which it could have answered.
"""

from __future__ import annotations

import threading
import time

BEAT_S = 0.01
MOST_A_BEAT_S = 0.02  # what the time between two beats may count for, however long it was
_real = time.monotonic


class Heartbeat:
    """Counts what lies between the beats of a thread of its own, each at most MOST_A_BEAT_S."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._before, self._beat = _real(), _real()  # what was counted up to the last beat; when that was
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="heartbeat", daemon=True)
        self._thread.start()

    def monotonic(self) -> float:
        """Return seconds that were lived, never going back."""
        with self._lock:
            return self._before + min(_real() - self._beat, MOST_A_BEAT_S)

    def _run(self) -> None:
        while not self._ended.wait(BEAT_S):
            with self._lock:
                now = _real()
                self._before += min(now - self._beat, MOST_A_BEAT_S)
                self._beat = now

    def close(self) -> None:
        """Stop."""
        self._ended.set()
        self._thread.join()
