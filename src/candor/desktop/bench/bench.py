"""The job in hand as the views see it: asks notebook and core, keeps no facts of its own."""

from __future__ import annotations

import datetime as dt
import uuid
from collections.abc import Mapping

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.calibration.run import RunResult
from candor.core.errors import CandorError
from candor.core.quantities.show import trimmed
from candor.desktop.bench.live import Live
from candor.desktop.bench.shop import Shop
from candor.notebook.assessment import Standard, as_left_run, assess_run, first_open, standards
from candor.notebook.chain import say_broken
from candor.notebook.entries.arrive import FindingSettled
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate import StandardChosen, Timer
from candor.notebook.entries.entry import Entry, drafts_of
from candor.notebook.entries.shop import StandardRecorded
from candor.notebook.entries.stay import JobOpened
from candor.notebook.entries.strikes import Struck, Unstruck
from candor.notebook.errors import BusyNotebookError
from candor.notebook.history import HistoryLine, history
from candor.notebook.job import Job, fold
from candor.notebook.parts_list import PartsList, list_parts
from candor.notebook.run_files import cut_off
from candor.notebook.shelf import SHELF_BODIES, ShelfLine, shelf
from candor.notebook.states import States, states_of
from candor.notebook.store import Notebook, Place
from candor.packs.bundled import bundled_heads, bundled_pack
from candor.packs.model import Pack, PackHead
from candor.packs.procedure import ProcedureStep, procedure, step_of

WARNED_FOR = dt.timedelta(days=1)
NOT_SAFE = "not measured safe. Switch the source off, discharge, and measure before you touch."
STOPS = ("arrive", "parts", "calibrate", "release")


class Bench(QObject):
    """One notebook, and the job that is open in this window.

    Signals
    -------
    jobChanged()
        The job was folded anew, or another one was opened.
    placeChanged()
        Another stop or step is in hand.
    shelfChanged()
    told(str, str)
        A sentence for the restorer and its tint ("", "brick", "petrol").
    warned()
        What warns is another: `warnings`.
    timerEnded(str, str)
        Label of the timer and name of the instrument.
    ticked()
        A second went by.
    """

    jobChanged = Signal()
    placeChanged = Signal()
    shelfChanged = Signal()
    told = Signal(str, str)
    warned = Signal()
    timerEnded = Signal(str, str)
    ticked = Signal()

    def __init__(self, notebook: Notebook) -> None:
        super().__init__()
        self.notebook = notebook
        self.job: Job | None = None
        self.pack: Pack | None = None
        self.standards: Mapping[str, Standard] = standards(notebook)
        self.shop = Shop(self)
        self.settings = self.shop.settings()
        self.found: RunResult | None = None
        self.left: RunResult | None = None
        self.left_read: RunResult | None = None
        self.states = States()
        self.stop = "arrive"
        self.step_key = ""
        self._step: ProcedureStep | None = None
        self._parts: tuple[object, PartsList] | None = None
        self.lines: tuple[ShelfLine, ...] = ()
        self.warnings: tuple[str, ...] = ()
        self._acknowledged: set[str] = set()
        self.broken: tuple[int, ...] = ()
        self.live = Live(notebook, self._write_one)
        self.live.ended.connect(self._tell_run)
        self._seen = notebook.revision()
        self._running: dict[str, tuple[str, str]] = {}
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self.tick)
        self._clock.start()
        self.refresh_shelf()

    @property
    def stops(self) -> tuple[str, ...]:
        """The stops of the job in hand: those that its pack describes."""
        return STOPS if self.pack is None or self.pack.procedure else STOPS[:2]

    def parts(self) -> PartsList | None:
        """Return the parts list of the job in hand, judged anew only when something about its parts was written."""
        job, pack = self.job, self.pack
        if job is None or pack is None:
            return None
        asked = (job.id, pack.digest, job.parts.stamp, job.stay.details.get("sample", ""), self.settings)
        if self._parts is None or self._parts[0] != asked:
            self._parts = (asked, list_parts(job, pack, mains=self.settings.mains))
        return self._parts[1]

    def now(self) -> dt.datetime:
        """Return the time, UTC."""
        return self.notebook.clock()

    def close(self) -> None:
        """Stop the clock and let go of the notebook."""
        self._clock.stop()
        self.live.close()
        self.notebook.close()

    # --- jobs -----------------------------------------------------------------------------------------

    def open_job(self, job: str) -> bool:
        """Open a job in the exact place where it was left; False, with a sentence, where it cannot be read."""
        self.keep_place()
        try:
            folded = fold(job, self.notebook.entries_of(job))
            pack = self.notebook.pack(folded.pack_digest)
        except CandorError as error:
            self.warn(f"This job cannot be opened; all others can. {error}")
            return False
        self.job, self.pack, self._step = folded, pack, None
        self._warn_unreadable()
        self._mend()
        self._warn_of_last_run()
        self.broken = self.notebook.broken_links(job)
        if self.broken:
            self.warn(say_broken(self.broken))
        place = self.notebook.place(job)
        self.stop = place.stop if place and place.stop in STOPS else "arrive"
        if self.stop not in self.stops:
            self.stop = "arrive"
        known = {s.key for s in procedure(self.pack)}
        keep = place is not None and place.step in known
        opened = first_open(self.job, self.pack, self.now())
        self.step_key = place.step if place and keep else opened.key if opened else ""
        self._reckon()
        self.jobChanged.emit()
        self.placeChanged.emit()
        self.shelfChanged.emit()
        return True

    def start_job(self, pack: Pack, serial: str) -> bool:
        """Open a new job for an instrument of a pack's type."""
        job = uuid.uuid4().hex[:12]
        try:
            digest = self.notebook.keep_pack(pack)
            bodies: list[Body] = [
                JobOpened(maker=pack.maker, type=pack.type, serial=serial.strip(), pack_digest=digest)
            ]
            current = [s for s in self.standards.values() if s.current]
            if len(current) == 1:
                bodies.append(StandardChosen(standard=current[0].entry.id))
            self.notebook.append(drafts_of(job, bodies))
        except CandorError as error:
            self.told.emit(str(error), "brick")
            return False
        self.refresh_shelf()
        return self.open_job(job)

    def packs(self) -> tuple[PackHead, ...]:
        """Return the packs a job can be opened with: those that come with Candor and those taken in, one of each id."""
        kept = (PackHead.of(pack) for pack in self.notebook.kept_packs())
        return tuple({head.id: head for head in (*kept, *bundled_heads())}.values())

    def pack_of(self, head: PackHead) -> Pack:
        """Return a pack that a job can be opened with."""
        return bundled_pack(head.id) if head in bundled_heads() else self.notebook.pack(head.digest)

    def refresh(self) -> None:
        """Fold anew what another window has written."""
        try:
            newest = self.notebook.revision(patient=False)
        except BusyNotebookError:
            return  # another program writes just now: a second later is early enough
        if newest == self._seen:
            return
        self.standards, self.settings = standards(self.notebook), self.shop.settings()
        if self.job is not None:
            self._fold_anew(self.job.id)
            self._reckon()
            self.jobChanged.emit()
        self._seen = newest
        self.refresh_shelf()

    def refresh_shelf(self) -> None:
        """Fold the shelf anew and note which timers run."""
        self.lines = shelf(self.notebook, self.now())
        for line in self.lines:
            for timer in line.timers:
                self._running.setdefault(timer.entry.id, (timer.label, line.name))
        self.shelfChanged.emit()

    # --- writing --------------------------------------------------------------------------------------

    def write(self, *bodies: Body) -> bool:
        """Write entries of the job in hand: on disk before anything is shown. False where it could not be."""
        if self.job is None:
            return False
        return bool(self._write(self.job.id, bodies))

    def write_for(self, job: str, *bodies: Body) -> bool:
        """Write entries of any job."""
        return bool(self._write(job, bodies))

    def write_shop(self, *bodies: Body) -> bool:
        """Write entries of the shop, such as a standard."""
        return bool(self._write("", bodies))

    def _write_one(self, job: str, body: Body) -> Entry | None:
        written = self._write(job, (body,))
        return written[0] if written else None

    def _write(self, job: str, bodies: tuple[Body, ...]) -> list[Entry]:
        try:
            written = self.notebook.append(drafts_of(job, bodies))
            revision = self.notebook.revision()
        except CandorError as error:
            self.told.emit(str(error), "brick")
            return []
        others_wrote, self._seen = revision.others != self._seen.others, revision
        if any(isinstance(b, StandardRecorded | Struck | Unstruck) for b in bodies) or others_wrote:
            self.standards = standards(self.notebook)
        if not job or others_wrote:
            self.settings = self.shop.settings()
        if self.job is not None:
            if others_wrote or job != self.job.id:
                self._fold_anew(self.job.id)
            else:
                self.job = fold(job, (*self.job.entries, *written))
            self._reckon()
        self.jobChanged.emit()
        if others_wrote or any(isinstance(b, SHELF_BODIES) for b in bodies):
            self.refresh_shelf()
        return written

    def _fold_anew(self, job: str) -> None:
        """Fold a job from the notebook; where a newer Candor has written what this one cannot read, that is said."""
        self.job = fold(job, self.notebook.entries_of(job))
        self._warn_unreadable()

    def _warn_unreadable(self) -> None:
        if self.job is not None and self.job.unreadable:
            entry = self.job.unreadable[0]
            self.warn(
                f"Entry {entry.number} of this job cannot be read by this version of Candor ({entry.body.why}): the job can "
                "be looked at, but nothing is written in it."
            )

    def strike(self, entry_id: str) -> bool:
        """Strike an entry out; it stays readable."""
        return self.write(Struck(target=entry_id))

    def settle(self, finding: str, how: str, reason: str) -> bool:
        """Clear or override a finding; a reason must be written."""
        if not reason.strip():
            self.told.emit("Write first how it was cleared, or why it may stand; nothing was written.", "brick")
            return False
        body = {"finding": finding, "how": how, "reason": reason.strip()}
        return self.write(FindingSettled.model_validate(body))

    def strike_last(self) -> None:
        """Strike the newest entry of the job that stands."""
        entry = self.job.last_standing() if self.job else None
        if entry is None:
            self.told.emit("There is nothing to strike.", "")
        elif self.strike(entry.id):
            self.told.emit(f"Entry {entry.number} struck. Ctrl+Shift+Z takes the strike back.", "")

    def unstrike_last(self) -> None:
        """Take the last strike back."""
        entry = self.job.last_struck() if self.job else None
        if entry is None:
            self.told.emit("No entry is struck.", "")
        elif self.write(Unstruck(target=entry.id)):
            self.told.emit(f"Entry {entry.number} stands again.", "")

    def _tell_run(self, ref: str, why: str, warning: str) -> None:
        sentence = f"{ref}: the run is over, {why.rstrip('.')}."
        self.told.emit(sentence, "petrol")
        if warning:
            self.warn(f"{sentence} {warning}")
        self.refresh_shelf()

    # --- what warns -----------------------------------------------------------------------------------

    def warn(self, sentence: str) -> None:
        """Warn until it is acknowledged."""
        if sentence not in self.warnings:
            self.warnings = (*self.warnings, sentence)
            self.warned.emit()

    def acknowledge(self) -> None:
        """Take away what warns."""
        self.warnings = ()
        self.warned.emit()

    def _mend(self) -> None:
        """End the runs of the job in hand that a crash or a pulled plug has cut off, and warn of them."""
        job = self.job
        open_runs = [r for r in job.runs.cut_off() if r.started.id != self.live.run] if job else []
        if job is None or not open_runs or self.notebook.read_only:
            return
        for found in cut_off(self.notebook.run_folder, open_runs, self.now()):
            if self._write_one(job.id, found.end) is not None:
                self._acknowledged.add(found.end.run)
                self.warn(found.words)

    def _warn_of_last_run(self) -> None:
        """Warn again, once, of a run of the last day that was left unsafe: the window may have been closed over it."""
        if self.job is None:
            return
        for run in self.job.runs.runs[-1:]:
            ended = run.ended
            if ended is None or ended.body.safe or run.started.id in self._acknowledged:
                continue
            self._acknowledged.add(run.started.id)
            if ended.body.readings and self.now() - ended.at < WARNED_FOR:
                volts = ended.body.measured_volts
                seen = "nothing was read" if volts is None else f"{trimmed(abs(volts), 3)} V at the last reading"
                self.warn(f"{ended.body.ref}: the run was left, {ended.body.why.rstrip('.')}; {seen}, {NOT_SAFE}")

    def live_caution(self) -> str:
        """Return what stands on the tester's clips, or nothing."""
        return self.live.caution()

    # --- place ----------------------------------------------------------------------------------------

    @property
    def step(self) -> ProcedureStep | None:
        """The step in hand."""
        if self.pack is None or not self.step_key:
            return None
        if self._step is None or self._step.key != self.step_key:
            self._step = step_of(self.pack, self.step_key)
        return self._step

    def go(self, stop: str = "", step: str = "") -> None:
        """Walk to a stop or a step; a stop that the job does not have leaves it where it is."""
        if self.job is None or (stop and stop not in self.stops):
            return
        self.stop = stop or self.stop
        self.step_key = step or self.step_key
        self.keep_place()
        self.placeChanged.emit()

    def go_along(self, by: int) -> None:
        """Walk `by` steps along the procedure."""
        if self.pack is None:
            return
        keys = [s.key for s in procedure(self.pack)]
        if self.step_key not in keys:
            return
        index = keys.index(self.step_key) + by
        if 0 <= index < len(keys):
            self.go("calibrate", keys[index])

    def keep_place(self) -> None:
        """Put the bookmark of the job in hand."""
        if self.job is not None:
            try:
                self.notebook.keep_place(Place(self.job.id, self.stop, self.step_key))
            except CandorError as error:
                self.told.emit(str(error), "brick")

    def own_items(self, zone: str) -> tuple[str, ...]:
        """Return what the shop has added to a zone's checklist for the pack in hand."""
        return self.shop.record().own_items(self.pack.id, zone) if self.pack else ()

    def history(self) -> tuple[HistoryLine, ...]:
        """Return what this notebook knows of the instrument in hand, from all its jobs."""
        job = self.job
        if job is None:
            return ()
        same = [line.job for line in self.lines if job.serial and (line.name, line.serial) == (job.name, job.serial)]
        others = []
        for name in same:
            others += [fold(name, self.notebook.entries_of(name))] if name != job.id else []
        return history([job, *others])

    def run(self, phase: str) -> RunResult | None:
        """Return what was read in a phase."""
        return self.left_read if phase == "as left" else self.found

    def standard(self) -> Standard | None:
        """Return the standard the job is read against."""
        return self.standards.get(self.job.calibrate.standard) if self.job else None

    # --- time -----------------------------------------------------------------------------------------

    def tick(self) -> None:
        """Look at the clock and at what other windows wrote."""
        try:
            self.refresh()
        except BusyNotebookError:
            pass  # another window writes just now; what it wrote is looked at again in a second
        except CandorError as error:
            self.told.emit(str(error), "brick")
            return
        self._mend()
        still = {timer.entry.id for line in self.lines for timer in line.timers if timer.left(self.now()) > 0}
        ended = [words for key, words in self._running.items() if key not in still]
        self._running = {key: words for key, words in self._running.items() if key in still}
        for label, name in ended:
            self.timerEnded.emit(label, name)
        if ended:
            self.refresh_shelf()
            self.jobChanged.emit()
        self.ticked.emit()

    def running_timers(self) -> tuple[tuple[str, Timer], ...]:
        """Return (instrument, timer) of every timer that runs, the one that ends first in front."""
        found = [(line.name, t) for line in self.lines for t in line.timers if t.left(self.now()) > 0]
        return tuple(sorted(found, key=lambda pair: pair[1].ends))

    def _reckon(self) -> None:
        if self.job is not None and self.pack is not None:
            # Nothing about parts is reckoned here: readings must not wait for it.
            self.found = assess_run(self.job, self.pack, self.standards, "as found")
            self.left_read = assess_run(self.job, self.pack, self.standards, "as left")
            self.left = as_left_run(self.job, self.pack, self.found, self.left_read)
            self.states = states_of(self.job, self.pack)
