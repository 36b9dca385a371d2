"""The run on the leakage tester, as the views see it: starts it, follows it, writes its beginning and its end."""

from __future__ import annotations

import math
import uuid
import zlib
from typing import IO, TYPE_CHECKING, Protocol

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.errors import CandorError
from candor.core.parts.part import Part
from candor.core.quantities.show import trimmed
from candor.notebook.entries.entry import B, Entry
from candor.notebook.entries.runs import RunEnded, RunStarted
from candor.notebook.run_files import hold, run_file_name
from candor.notebook.store import Notebook

if TYPE_CHECKING:  # loaded when a run starts: the window is up before
    from candor.core.leakage.run import Plan
    from candor.links.by_hand import HandSession
    from candor.links.leak_session import LeakSession, Status
    from candor.links.simulated import SimulatedTester
    from candor.links.simulated_capacitor import OldCapacitor

SIMULATED, BY_HAND = "simulated", "by hand"


class Write(Protocol):
    """Writes an entry of any job and returns it; None where it could not be, which was said."""

    def __call__(self, job: str, body: B) -> Entry[B] | None: ...


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
        self._session: LeakSession | HandSession | None = None
        self._simulated: SimulatedTester | None = None
        self._held: IO[bytes] | None = None
        self.started: Entry[RunStarted] | None = None
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
        return self._session.plan if self._session else None

    def status(self) -> Status | None:
        """Return how the run stands."""
        return self._session.status() if self._session else None

    def caution(self) -> str:
        """Say what stands on the clips: until it was measured safe it is not."""
        status = self.status()
        if status is None or status.phase == "connecting":
            return ""
        seen = abs(status.last.volts) if status.last else None
        if status.phase == "discharging":
            volts = "an unknown voltage" if seen is None else f"{trimmed(seen, 3)} V"
            return f"{volts} on the tester clips, discharging"
        return f"{trimmed(max(seen or 0.0, status.source_volts), 3)} V on the tester clips"

    def start(
        self, job: str, part: Part, plan: Plan, resource: str, speed: float = 1.0, seconds: float = 0.0
    ) -> bool:
        """Start a run on the tester named, or on the simulated one; False where it cannot.

        Raises CandorError where its readings cannot be kept.

        `speed` and `seconds` are of the simulated bench: how fast its time runs, and how long its part was formed before.
        """
        from candor.links.by_hand import HandSession
        from candor.links.leak_session import LeakSession
        from candor.links.simulated import SimulatedTester
        from candor.links.simulated_capacitor import Bench as SimulatedBench
        from candor.links.tester import LeakageTester

        if self.running:
            return False
        simulated, by_hand = resource.strip() in ("", SIMULATED), resource.strip() == BY_HAND
        key = uuid.uuid4().hex
        path = self._notebook.run_folder / run_file_name(part.ref, key)
        body = RunStarted(
            ref=part.ref, mode="reform" if plan.reform else "leakage", target_volts=plan.target_volts, dwell_s=plan.dwell_s,
            limit=plan.limit_amperes, most_s=plan.most_s, tester=SIMULATED if simulated else resource.strip(),
            simulated=simulated, file=path.name,
        )  # fmt: skip
        # Held before the entry is written: another window must never see a run that nobody seems to be at.
        held = hold(path)
        entry = self._write(job, body)
        if entry is None:
            held.close()
            return False
        self._held = held
        if simulated:
            self._simulated = SimulatedTester(SimulatedBench(old_capacitor(part), formed_s=1.0 + seconds), speed)
            resource = self._simulated.resource
        self.started = entry
        if by_hand:
            self._session = HandSession(plan, path)
        else:
            self._session = LeakSession(plan, lambda: LeakageTester(resource.strip()), path)
        try:
            self._session.start()
        except CandorError as error:
            self._end(str(error))
            return False
        self._timer.start()
        self.changed.emit()
        return True

    @property
    def by_hand(self) -> bool:
        """Whether its readings are typed."""
        return self.started is not None and self.started.body.tester == BY_HAND

    def take(self, volts: float, amperes: float) -> None:
        """Take a reading that was typed; raises CandorError where it cannot be."""
        take = getattr(self._session, "take", None)
        if take is not None:
            take(volts, amperes)
            self._poll()

    def cancel(self) -> None:
        """End the run: the source goes to zero, the part is discharged and measured."""
        if self._session is not None:
            self._session.cancel()
            self._poll()

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

    def _end(self, why: str, status: Status | None = None) -> None:
        session, started, held = self._session, self.started, self._held
        self._timer.stop()
        self._session, self.started, self._held = None, None, None
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None
        if session is None or started is None:
            return
        status = status or session.status()
        words = why or status.why
        body = RunEnded(
            run=started.id, ref=started.body.ref, why=words, outcome=status.outcome, leakage=max(status.leakage, 0.0),
            expanded=status.leakage_scatter, volts=max(status.leakage_volts, 0.0), dwell_s=status.dwell_s,
            measured_volts=status.last.volts if status.last else None, safe=status.safe, simulated=started.body.simulated,
            readings=status.readings,
        )  # fmt: skip
        self._write(started.job, body)
        if held is not None:
            held.close()  # only now may another window think it cut off
        self.ended.emit(started.body.ref, words, status.warning)


def old_capacitor(part: Part) -> OldCapacitor:
    """Return what the simulated tester has on its clips for a part: always the same for the same designator."""
    chance = zlib.crc32(part.ref.encode()) % 100 / 100
    from candor.links.simulated_capacitor import OldCapacitor

    rated = part.volts or 100.0
    weak = 0.6 * rated if chance > 0.85 else math.inf  # one old paper capacitor in seven breaks down
    if part.make in ("electrolytic", "tantalum"):
        good = 0.02 * part.nominal * rated + 10e-6
        return OldCapacitor(
            part.nominal * (0.9 + 0.3 * chance), rated, good * (0.5 + chance), good * (8 + 20 * chance), 0.55
        )
    leak = {"paper": 4e-6, "": 2e-6}.get(part.make, 5e-8) * (0.3 + 2 * chance)
    return OldCapacitor(part.nominal * (0.95 + 0.1 * chance), rated, leak, leak / 2, 0.8, weak, absorbed=0.01)
