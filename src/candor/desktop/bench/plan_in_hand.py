"""The plan of the shop's days as the window has it: made in a process of its own, so that nothing here ever waits for it."""

from __future__ import annotations

import datetime as dt
import json
import sys
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QProcess, QTimer, Signal

from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.notebook.store import Notebook

if TYPE_CHECKING:  # a start does not wait for the plan
    from candor.notebook.plan.day import Day

SETTLES_MS = 1500  # after the last thing written
GROWS_OLD = dt.timedelta(minutes=10)  # a plan that is looked at is made anew by then: an overrun shows
FIRST_MS = 5000  # after the window is up, it has better to do before


class PlanInHand(QObject):
    """The plan, and the process that makes the next.

    Signals
    -------
    changed()
        There is another plan, one is being made, or it could not be made.
    """

    changed = Signal()

    def __init__(self, notebook: Notebook, in_hand: JobInHand, shelf: Shelf, clock: Clock) -> None:
        super().__init__()
        self._notebook, self._clock = notebook, clock
        self.day: Day | None = None
        self.problem = ""
        self.watched = False  # whether it is on screen: then it follows what is written
        self._process: QProcess | None = None
        self._stale = True
        self._fresh = self._over = False
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(SETTLES_MS)
        self._later.timeout.connect(self.ask)
        self._first = QTimer(self)
        self._first.setSingleShot(True)
        self._first.timeout.connect(self.ask)
        for signal in (in_hand.changed, shelf.changed):
            signal.connect(self._written)
        clock.ticked.connect(self._tick)

    @property
    def is_busy(self) -> bool:
        """Whether one is being made."""
        return self._process is not None

    def begin(self) -> None:
        """Make the first one soon: the window is up."""
        self._first.start(FIRST_MS)

    def words(self) -> str:
        """What stands on the shelf: what is next by the plan, nothing while there is none."""
        if self.day is None:
            return ""
        from candor.words.plan_words import say_now

        return say_now(self.day)

    def ask(self, anew: bool = False) -> None:
        """Make the plan again; `anew` without regard to what it was."""
        self._later.stop()
        self._first.stop()
        if self._over:
            return
        if self._process is not None:
            self._stale = True  # what was written meanwhile is planned next
            self._fresh = self._fresh or anew
            return
        self._stale = False
        process = QProcess(self)
        process.setProgram(sys.executable)
        keeps = self.day is not None and not anew
        told = ["-m", "candor", "day", str(self._notebook.path.absolute()), "--json"]
        told += ["--now", self._clock.now().isoformat()]
        process.setArguments([*told, *(["--before", "-"] if keeps else [])])
        process.finished.connect(self._ended)
        process.errorOccurred.connect(self._ended)
        self._process = process
        process.start()
        if keeps and self.day is not None:
            from candor.words.plan_words import day_json

            process.write(json.dumps(day_json(self.day)).encode())
        process.closeWriteChannel()
        self.changed.emit()

    def take(self, day: Day) -> None:
        """Take a plan that is made: it is the one that stands until something is written."""
        self.day, self.problem, self._stale = day, "", False
        self.changed.emit()

    def cancel(self) -> None:
        """Let go of the one being made; the last one stays."""
        process, self._process = self._process, None
        if process is not None:
            process.finished.disconnect()
            process.errorOccurred.disconnect()
            process.kill()
            process.waitForFinished(2000)
            self.changed.emit()

    def finish(self) -> None:
        """Stop as the window closes: none begins any more."""
        self._over = True
        self._later.stop()
        self._first.stop()
        self.cancel()

    def _written(self) -> None:
        self._stale = True
        if self.watched:
            self._later.start()

    def _tick(self) -> None:
        old = self.day is not None and self._clock.now() - self.day.made > GROWS_OLD
        if self.watched and old and self._process is None and not self._later.isActive():
            self.ask()

    def enter(self) -> None:
        """It comes on screen: what was written since is planned."""
        self.watched = True
        if self._stale or self.day is None:
            self.ask()

    def leave(self) -> None:
        """It is on screen no more."""
        self.watched = False

    def _ended(self, *_: object) -> None:
        process, self._process = self._process, None
        if process is None:
            return
        streams = process.readAllStandardOutput(), process.readAllStandardError()
        out, err = (bytes(x.data()).decode(errors="replace") for x in streams)
        process.deleteLater()
        from candor.notebook.plan.day import day_from

        try:
            self.day, self.problem = day_from(json.loads(out)), ""
        except (ValueError, KeyError):
            said = err.strip().splitlines()
            self.problem = said[-1].removeprefix("candor: ") if said else "The plan could not be made."
        self.changed.emit()
        if self._fresh or (self._stale and self.watched):
            anew, self._fresh = self._fresh, False
            self.ask(anew)
