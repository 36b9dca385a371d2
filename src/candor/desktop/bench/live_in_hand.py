"""The run on the leakage tester, as the views see it: starts it, follows it, writes its beginning and its end."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import IO, TYPE_CHECKING, Any, Protocol

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.errors import CandorError
from candor.core.parts.part import Part
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.entries.runs_entries import Run, runs_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.runs.run_files import ElsewhereRun, elsewhere, hold, run_file_name
from candor.notebook.store import Notebook
from candor.sitting.command import Command
from candor.sitting.commands import live_commands
from candor.words.run_words import on_the_clips

if TYPE_CHECKING:  # loaded when a run starts: the window is up before
    from candor.core.leakage.leakage_run import Plan
    from candor.core.leakage.leakage_watch import LeakageSeen, LeakageWatch
    from candor.links.by_hand import HandRun
    from candor.links.live_run import LiveRun
    from candor.links.simulated import SimulatedTester
    from candor.words.run_words import LeakageStatus

SIMULATED, BY_HAND = "simulated", "by hand"


class Write(Protocol):
    """Does a command of any job and returns its first entry; None where it could not be, which was said."""

    def __call__(self, job: str, command: Command) -> AnyEntry | None: ...


class Live(QObject):
    """At most one run in this window.

    Signals
    -------
    changed()
        A new reading, or another phase.
    ended(str, str, str)
        Designator of the part, why, and what must be known before anybody touches it; its end is written.
    """

    changed = Signal()
    ended = Signal(str, str, str)

    def __init__(self, notebook: Notebook, write: Write) -> None:
        super().__init__()
        self._notebook, self._write = notebook, write
        self._session: LiveRun[LeakageSeen] | HandRun[LeakageSeen] | None = None
        self._watch: LeakageWatch | None = None
        self._simulated: SimulatedTester | None = None
        self._held: IO[bytes] | None = None
        self._file = ""  # of the last run of this window
        self.started: Any = None  # the entry that began it
        self._timer = QTimer(self)
        self._timer.setInterval(100)
        self._timer.timeout.connect(self._poll)

    @property
    def running(self) -> bool:
        """Whether a run is going on, its discharge included."""
        return self._session is not None

    @property
    def ref(self) -> str:
        """The part on the clips, or nothing."""
        return self.started.body.ref if self.started else ""

    @property
    def run(self) -> str:
        """The entry that began it, or nothing."""
        return self.started.id if self.started else ""

    @property
    def job(self) -> str:
        """The job it belongs to."""
        return self.started.job if self.started else ""

    @property
    def plan(self) -> Plan | None:
        """What the run was asked to do."""
        return self._watch.plan if self._watch else None

    def status(self) -> LeakageStatus | None:
        """Return how the run stands."""
        return self._session.status() if self._session else None

    def caution(self) -> str:
        """Say what stands on the clips: until it was measured safe it is not."""
        return on_the_clips(self.status())

    def start(
        self,
        job: str,
        part: Part,
        plan: Plan,
        resource: str,
        speed: float = 1.0,
        seconds: float = 0.0,
        reason: str = "",
    ) -> bool:
        """Start a run on the tester named, or on the simulated one; False where it cannot.

        Raises CandorError where its readings cannot be kept, where it would be over the part's rating without a reason, or where
        another window is at the part.

        `speed` and `seconds` are of the simulated bench: how fast its time runs, and how long its part was formed before.
        """
        from candor.core.leakage.leakage_watch import LeakageWatch
        from candor.core.leakage.usual import may_run
        from candor.links.by_hand import HandRun
        from candor.links.live_run import LiveRun
        from candor.links.simulated import SimulatedTester
        from candor.links.simulated_part import Clips, old_capacitor
        from candor.links.tester import LeakageTester

        if self.running:
            return False
        may_run(plan, part, reason)
        for other in self.elsewhere(job):
            if other.ref == part.ref:
                raise CandorError(f"{other.words} Nothing was started here.")
        simulated, by_hand = resource.strip() in ("", SIMULATED), resource.strip() == BY_HAND
        key = uuid.uuid4().hex
        path = self._notebook.run_folder / run_file_name(part.ref, key)
        tester = SIMULATED if simulated else resource.strip()
        begin = live_commands.begin_run(
            part, plan, tester=tester, simulated=simulated, file=path.name, reason=reason.strip()
        )
        # Held before the entry is written: another window must never see a run that nobody seems to be at.
        held = hold(path)
        self._file = path.name
        entry = self._write(job, begin)
        if entry is None:
            held.close()
            self._file = ""
            return False
        self._held = held
        if simulated:
            self._simulated = SimulatedTester(Clips(old_capacitor(part), formed_s=1.0 + seconds), speed)
            resource = self._simulated.resource
        self.started = entry
        watch = self._watch = LeakageWatch(plan)
        if by_hand:
            self._session = HandRun(watch, path)
        else:
            rate = speed if simulated else 1.0
            self._session = LiveRun(watch, lambda: LeakageTester(resource.strip()), path, rate=rate)
        try:
            self._session.start()
        except CandorError as error:
            self._end(str(error))
            return False
        self._timer.start()
        self.changed.emit()
        return True

    def elsewhere(self, job: str) -> tuple[ElsewhereRun, ...]:
        """Return the runs on a job's parts that another window is at."""
        entries = self._notebook.entries_of_kinds(("run_started", "run_ended"))
        return self.elsewhere_of(runs_record(Standing(e for e in entries if e.job == job)).cut_off())

    def elsewhere_of(self, runs: Sequence[Run]) -> tuple[ElsewhereRun, ...]:
        """Return those of some runs without an end that another window is at."""
        return tuple(
            elsewhere(
                self._notebook.run_folder,
                [r for r in runs if not self._file or r.started.body.file != self._file],
                self._notebook.held_elsewhere or (),
            )
        )

    @property
    def by_hand(self) -> bool:
        """Whether its readings are typed."""
        return self.started is not None and self.started.body.tester == BY_HAND

    def take(self, volts: float, amperes: float) -> None:
        """Take a reading that was typed; raises CandorError where it cannot be."""
        from candor.links.by_hand import HandRun

        if isinstance(self._session, HandRun):
            self._session.take(volts, amperes)
            self._poll()

    def cancel(self) -> None:
        """End the run: the source goes to zero, the part is discharged and measured."""
        if self._session is not None:
            self._session.cancel()
            self._poll()

    @property
    def unproved(self) -> str:
        """Why what is read after a run is not believed; nothing before its end, and where it is."""
        status = self.status()
        return self._watch.unproved if self._watch and status and status.phase == "discharging" else ""

    def leave(self) -> None:
        """End a run by hand that was not measured safe: that is written, and warned of."""
        if self._session is not None:
            self._end("left before it was measured safe", self._session.close())

    def close(self) -> None:
        """End the run as the window closes: source to zero first, and the readings so far are kept."""
        if self._session is not None:
            self._end("the window was closed", self._session.close())

    def _poll(self) -> None:
        session = self._session
        if session is None:
            return
        if not session.alive:
            self._end("")
        self.changed.emit()

    def _end(self, why: str, status: LeakageStatus | None = None) -> None:
        session, started, held = self._session, self.started, self._held
        self._timer.stop()
        self._session, self._watch, self.started, self._held = None, None, None, None
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None
        if session is None or started is None:
            return
        status = status or session.status()
        words = why or status.why
        whole = None if session.alive else self._notebook.run_folder  # what is still written to has no digest yet
        self._write(started.job, live_commands.end_run(started, status, words, whole))
        if held is not None:
            held.close()  # only now may another window think it cut off
        self.ended.emit(started.body.ref, words, status.warning)
