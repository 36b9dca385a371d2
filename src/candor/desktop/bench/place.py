"""Where the work stands: the stop and the step in hand."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.notebook.store import Notebook, Place
from candor.notebook.work.assessment import first_open
from candor.notebook.work.progress import STOPS
from candor.notebook.work.states import left_instead
from candor.packs.procedure import ProcedureStep, procedure


class PlaceInHand(QObject):
    """The stop and the step of the job in hand; kept, so that it opens where it was left.

    Signals
    -------
    changed()
        Another stop or step is in hand.
    """

    changed = Signal()

    def __init__(self, notebook: Notebook, in_hand: JobInHand, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._in_hand, self._voice = notebook, in_hand, voice
        self.stop: str = STOPS[0]
        self.step_key = ""
        self._step: tuple[object, ProcedureStep | None] | None = None
        self._changes: tuple[str, int] = ("", 0)  # the job, and how often something of it was changed
        in_hand.changed.connect(self._after_change)

    @property
    def stops(self) -> tuple[str, ...]:
        """The stops of the job in hand; none where only its entries can be read."""
        return STOPS if self._in_hand.pack is not None else ()

    @property
    def step(self) -> ProcedureStep | None:
        """The step in hand."""
        pack = self._in_hand.pack
        if pack is None or not self.step_key:
            return None
        if self._step is None or self._step[0] != (pack, self.step_key):
            # A step of a range made as one goes is gone where what made it was struck: then none is in hand.
            known = {s.key: s for s in procedure(pack)}
            self._step = (pack, self.step_key), known.get(self.step_key)
        return self._step[1]

    def come_back(self) -> None:
        """Stand where the job that was just opened was left, or at its first open step; who opened it says so."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None:
            return
        self._step = None
        kept = self._notebook.place(job.id)
        self.stop = kept.stop if kept and kept.stop in self.stops else STOPS[0]
        if kept and kept.step in {s.key for s in procedure(pack)}:
            self.step_key = kept.step
        else:
            opened = first_open(job, pack, self._notebook.clock())
            self.step_key = opened.key if opened else ""

    def go(self, stop: str = "", step: str = "") -> None:
        """Walk to a stop or a step; a stop that the job does not have leaves it where it is."""
        if self._in_hand.job is None or (stop and stop not in self.stops):
            return
        self.stop = stop or self.stop
        self.step_key = step or self.step_key
        self.keep()
        self.changed.emit()

    def _after_change(self) -> None:
        """Stand at the point as left, once something that it depends on was changed: what is read from now on is not as found."""
        job, pack, step = self._in_hand.job, self._in_hand.pack, self.step
        before, self._changes = self._changes, (job.id, len(job.calibrate.openings)) if job is not None else ("", 0)
        if job is None or pack is None or step is None or before[0] != job.id or self._changes[1] <= before[1]:
            return
        instead = left_instead(job, pack, step)
        if instead is not None:
            self.go(step=instead.key)

    def go_along(self, by: int) -> None:
        """Walk `by` steps along the procedure."""
        keys = [s.key for s in procedure(self._in_hand.pack)] if self._in_hand.pack else []
        if self.step_key in keys and 0 <= keys.index(self.step_key) + by < len(keys):
            self.go("calibrate", keys[keys.index(self.step_key) + by])

    def keep(self) -> None:
        """Keep the place of the job in hand."""
        if self._in_hand.job is not None:
            try:
                self._notebook.keep_place(Place(self._in_hand.job.id, self.stop, self.step_key))
            except CandorError as error:
                self._voice.refuse(error)
