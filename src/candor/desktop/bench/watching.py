"""A meter on a link that is read by itself while something soaks; each reading is an entry before it is on screen."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.jot.rows.soak_rows import say_every
from candor.core.jot.soak_meaning import UnwatchJot, WatchJot
from candor.core.reading.repeated import Captured
from candor.desktop.bench.capture import SIMULATED
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.widgets.worker import Work
from candor.sitting.commands import soak_commands

if TYPE_CHECKING:  # loaded when a meter is watched: the window is up before
    from candor.links.simulated_soak import SimulatedSoak

REPEATS = 5  # readings of which each is the mean
LONGEST_S = 0.4  # that it is waited for to stand still: what drifts never does
USUAL_END = 10.0  # of the simulated meter, where nothing was read yet


class SoakWatch(QObject):
    """The one meter that is read by itself, for the job it was started in; it goes on while another stop or job is in hand.

    Signals
    -------
    changed()
        It began, was read, failed or ended.
    """

    changed = Signal()

    def __init__(self, in_hand: JobInHand, writer: Writer, voice: Voice, now: Callable[[], dt.datetime]) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._now = in_hand, writer, voice, now
        self._plan: WatchJot | None = None
        self._job = ""
        self._fault = ""
        self._asking = False
        self._simulated: SimulatedSoak | None = None
        self._work = Work(self)
        self._work.answered.connect(self._take)
        self._work.failed.connect(self._fail)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._read)
        self._in_hand.changed.connect(self._look)

    @property
    def job(self) -> str:
        """The job it reads for, empty where nothing is read."""
        return self._job

    @property
    def words(self) -> str:
        """How it stands."""
        if self._plan is None:
            return ""
        said = f"Read by {self._plan.link} every {say_every(self._plan.every_s)}."
        return f"{said} It does not answer now: {self._fault}" if self._fault else said

    def obey(self, jot: WatchJot | UnwatchJot) -> None:
        """Do what a line says."""
        if isinstance(jot, WatchJot):
            self.start(jot)
        else:
            self.stop()

    def start(self, plan: WatchJot) -> bool:
        """Read a meter for the job in hand from now on, the first time at once. False where no job is in hand."""
        job = self._in_hand.job
        if job is None:
            return False
        self.stop()
        self._plan, self._job, self._fault = plan, job.id, ""
        if plan.link == SIMULATED:
            from candor.links.simulated_soak import SimulatedSoak

            last = job.soak.read[-1].body.value if job.soak.read else USUAL_END
            self._simulated = SimulatedSoak(last)
        self._timer.start(round(plan.every_s * 1000))
        self._read()
        self.changed.emit()
        return True

    def stop(self) -> None:
        """Read it no more; what was read stands."""
        self._timer.stop()
        self._work.cancel()
        self._plan, self._job, self._fault, self._asking = None, "", "", False
        simulated, self._simulated = self._simulated, None
        if simulated is not None:
            simulated.close()
        self.changed.emit()

    def close(self) -> None:
        """Stop as the window closes."""
        self.stop()
        self._work.finish()

    def _read(self) -> None:
        plan, simulated = self._plan, self._simulated
        if plan is None or self._asking:  # a slow meter is read when it has answered, not given up for the next time
            return
        self._asking = True
        link = simulated.resource if simulated is not None else plan.link

        def work(stopped: Callable[[], bool]) -> Captured:
            from candor.links.linked_reference import read_settled

            return read_settled(link, stopped, repeats=REPEATS, longest_s=LONGEST_S)

        self._work.start(work)

    def _take(self, answer: object) -> None:
        plan, self._asking = self._plan, False
        if plan is None or not isinstance(answer, Captured):
            return
        self._fault = ""
        read = soak_commands.captured_soak(answer.mean, plan.unit, plan.what, plan.link)
        if self._writer.write_for(self._job, read) is None:
            self.stop()  # why stands beside the jot line
            self._voice.warn(f"The soak is no longer read by {plan.link}: its last reading could not be written.")
            return
        self.changed.emit()

    def _fail(self, sentence: str) -> None:
        """Say it once, and go on asking: what was not read is a gap, not a zero."""
        self._asking = False
        if self._plan is not None and not self._fault:
            self._voice.warn(
                f"The soak is not read since {self._now().astimezone():%H:%M}. {sentence} It is asked again."
            )
        self._fault = sentence
        self.changed.emit()

    def _look(self) -> None:
        job = self._in_hand.job
        if (
            self._plan is not None
            and job is not None
            and job.id == self._job
            and job.soak.on
            and job.soak.since is None
        ):
            self.stop()
            self._voice.say("It is off: the meter is no longer read.")
