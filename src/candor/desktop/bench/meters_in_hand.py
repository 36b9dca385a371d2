"""Meters on links, as the views see them: each with its own timing, an alarm within a blink, every reading on disk."""

from __future__ import annotations

import uuid
from collections import deque
from collections.abc import Sequence
from pathlib import Path
from threading import Lock
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.errors import CandorError
from candor.core.power.plan import PlanStep
from candor.core.power.watch import Watched, judge
from candor.desktop.bench.live_in_hand import Write
from candor.durably import make_private
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.store import Notebook
from candor.sitting.commands import power_commands

if TYPE_CHECKING:  # loaded when a meter is connected: the window is up before
    from candor.links.meters import MeterPlan, Meters, MeterState
    from candor.links.simulated_supply import Bench as SimulatedBench
    from candor.links.simulated_supply import SimulatedSupply

POLL_MS = 50  # a crossing is on screen within two of these and a frame
SILENT_S = 3.0  # after which a meter without a reading is said to be silent
KEPT = 4000  # readings of each meter that a strip may draw
SIMULATED = "simulated"


class PowerMeters(QObject):
    """The meters of this window.

    Signals
    -------
    changed()
        New readings, or a meter that came or went.
    crossed(object)
        A reading beyond its cut line, a Watched; once for each state and name.
    """

    changed = Signal()
    crossed = Signal(object)

    def __init__(self, notebook: Notebook, write: Write) -> None:
        super().__init__()
        self._notebook, self._write = notebook, write
        self._meters: Meters | None = None
        self._simulated: SimulatedSupply | None = None
        self._started: AnyEntry | None = None
        self._lock = Lock()
        self._recent: dict[str, deque[tuple[float, float]]] = {}
        self._step: PlanStep | None = None
        self._step_from = 0.0
        self._beyond: dict[str, Watched] = {}
        self._told: set[str] = set()
        self._seen = -1
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self._poll)

    @property
    def running(self) -> bool:
        """Whether meters are read."""
        return self._meters is not None

    @property
    def job(self) -> str:
        """The job they belong to."""
        return self._started.job if self._started else ""

    @property
    def files(self) -> dict[str, Path]:
        """The file of each meter."""
        return dict(self._meters.files) if self._meters else {}

    def states(self) -> dict[str, MeterState]:
        """Return how each meter stands."""
        return self._meters.states() if self._meters else {}

    def recent(self, name: str) -> tuple[tuple[float, float], ...]:
        """Return the newest readings of a meter in this state, s since it began and SI."""
        with self._lock:
            return tuple((t - self._step_from, v) for t, v in self._recent.get(name, ()) if t >= self._step_from)

    def start(self, job: str, plans: Sequence[MeterPlan], bench: SimulatedBench | None = None) -> bool:
        """Read meters; those whose address is "simulated" are on the simulated bench. False where it could not be written.

        Raises
        ------
        CandorError
            Where there are none, too many, or two read the same.
        """
        from dataclasses import replace

        from candor.links.meters import Meters

        if self.running:
            self.stop()
        simulated = [p for p in plans if p.resource == SIMULATED]
        if simulated and bench is not None:
            from candor.links.simulated_supply import SimulatedSupply

            self._simulated = SimulatedSupply(bench)
            plans = [
                replace(p, resource=self._simulated.meter(p.name)) if p.resource == SIMULATED else p for p in plans
            ]
        key = uuid.uuid4().hex
        with self._lock:
            self._step = None  # that of other meters
            self._recent = {p.name: deque(maxlen=KEPT) for p in plans}
        try:
            self._make_folder()
            self._meters = Meters(plans, self._notebook.run_folder, key, self._hear)
        except CandorError:
            self._end_simulated()
            raise
        names = tuple(p.name for p in plans)
        links = tuple(SIMULATED if p in simulated else p.resource for p in plans)
        files = tuple(path.name for path in self._meters.files.values())
        self._started = self._write(job, power_commands.meters_on(names, links, files, bool(simulated)))
        if self._started is None:
            self.stop()  # nobody reads what nothing says is read
            return False
        self._timer.start()
        self.changed.emit()
        return True

    def _make_folder(self) -> None:
        try:
            make_private(self._notebook.run_folder)
        except OSError as error:
            where = self._notebook.run_folder
            raise CandorError(
                f"The readings cannot be kept in {where} ({error.strerror}); no meter was started."
            ) from None

    def set_line(self, volts: float) -> None:
        """Set the line of the simulated bench, V; a real one is set by hand."""
        if self._simulated is not None:
            self._simulated.set_line(volts)

    def watch(self, step: PlanStep | None, since_s: float = 0.0) -> None:
        """Judge readings by a state from now on, one that began so many s ago; None for none.

        What is let pass at first, an inrush, counts from when the state began, not from when a meter was connected.
        """
        if step == self._step:
            return
        with self._lock:
            self._step, self._beyond, self._told = step, {}, set()
            self._step_from = self._meters.seconds() - since_s if self._meters else 0.0

    def silent(self) -> tuple[str, ...]:
        """Return the meters that were to be read and say nothing for SILENT_S: nothing watches what they were on."""
        if self._meters is None:
            return ()
        now = self._meters.seconds()
        return tuple(
            name
            for name, state in self.states().items()
            if state.value is None and not state.overload and now - state.seconds > SILENT_S
        )

    def overloaded(self) -> tuple[str, ...]:
        """Return the meters that are over their range."""
        return tuple(name for name, state in self.states().items() if state.overload)

    def stop(self, patience_s: float = 0.5) -> None:
        """Read them no more; what was read is on disk. A link that hangs is waited for so many s and no longer."""
        meters, started = self._meters, self._started
        self._timer.stop()
        self._meters, self._started = None, None
        if meters is not None:
            meters.close(patience_s)
        self._end_simulated()
        if meters is not None and started is not None:
            readings = sum(s.readings for s in meters.states().values())
            self._write(started.job, power_commands.meters_off(started.id, readings))
        self.changed.emit()

    def close(self) -> None:
        """Stop as the window closes."""
        if self.running:
            self.stop(3.0)

    def _end_simulated(self) -> None:
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None

    def _hear(self, name: str, seconds: float, value: float) -> None:
        """A meter's own thread: keep the reading, and judge it at once."""
        with self._lock:
            self._recent[name].append((seconds, value))
            step, since = self._step, seconds - self._step_from
        if step is not None and step.cut(name) is not None:
            watched = judge(step, name, value, since)
            if watched.is_cut:
                with self._lock:
                    if self._step == step:
                        self._beyond.setdefault(name, watched)

    def _poll(self) -> None:
        with self._lock:
            new = [w for name, w in self._beyond.items() if name not in self._told]
            self._told |= {w.name for w in new}
        for watched in new:
            self.crossed.emit(watched)
        count = sum(s.readings for s in self.states().values())
        if count != self._seen:
            self._seen = count
            self.changed.emit()

    def beyond(self) -> Watched | None:
        """Return what is beyond its cut line in this state, or None."""
        with self._lock:
            return next(iter(self._beyond.values()), None)
