"""The shelf as the window sees it: all jobs, and the timers that run on them."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence

from PySide6.QtCore import QObject, Signal

from candor.notebook.arrive.instruments import identity
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.entries.timers_entries import Timer
from candor.notebook.shelf import ShelfLine, shelf, shelf_with
from candor.notebook.store import Notebook


class Shelf(QObject):
    """All jobs by what each waits for.

    Signals
    -------
    changed()
        Its lines are others, or another job is in hand.
    timerEnded(str, str)
        Label of the timer and name of the instrument.
    """

    changed = Signal()
    timerEnded = Signal(str, str)

    def __init__(self, notebook: Notebook, now: Callable[[], dt.datetime]) -> None:
        super().__init__()
        self._notebook, self._now = notebook, now
        self.lines: tuple[ShelfLine, ...] = ()
        self._running: dict[str, tuple[str, str]] = {}
        self.refresh()

    def refresh(self) -> None:
        """Fold the shelf anew and note which timers run."""
        self._take(shelf(self._notebook, self._now()))

    def refresh_job(self, job: str, entries: Sequence[AnyEntry]) -> None:
        """Fold the line of one job anew, by its entries, and note which timers run."""
        self._take(shelf_with(self.lines, self._notebook, job, entries, self._now()))

    def _take(self, lines: tuple[ShelfLine, ...]) -> None:
        self.lines = lines
        for line in self.lines:
            for timer in line.timers:
                if not timer.is_run:  # a run says itself when it is over, and how
                    self._running.setdefault(timer.entry.id, (timer.label, line.name))
        self.changed.emit()

    def look_for_ended(self) -> bool:
        """Announce the timers that are over; True where there was one."""
        still = {timer.entry.id for _, timer in self.running_timers()}
        ended = [words for key, words in self._running.items() if key not in still]
        self._running = {key: words for key, words in self._running.items() if key in still}
        for label, name in ended:
            self.timerEnded.emit(label, name)
        if ended:
            self.refresh()
        return bool(ended)

    def running_timers(self) -> tuple[tuple[str, Timer], ...]:
        """Return (instrument, timer) of every timer that runs, the one that ends first in front."""
        found = [(line.name, t) for line in self.lines for t in line.timers if t.left(self._now()) > 0]
        return tuple(sorted(found, key=lambda pair: pair[1].ends))

    def instruments(self) -> dict[str, str]:
        """Return the instrument of every job that has not gone home."""
        return {x.job: f"{x.name} {x.serial}".strip() for x in self.lines if x.group != "gone home"}

    def same_instrument(self, name: str, serial: str) -> tuple[str, ...]:
        """Return the jobs of one instrument; none where it has no serial number."""
        wanted = identity(name, serial)
        return tuple(line.job for line in self.lines if serial and identity(line.name, line.serial) == wanted)
