"""One window's bench: a notebook, the job in hand, where it stands, who writes, what runs; and opening another job."""

from __future__ import annotations

from functools import partial

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.alarms_in_hand import Alarms
from candor.desktop.bench.benches import Benches
from candor.desktop.bench.capture import Capture
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.files_of_job import FilesOfJob
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.keeper import Keeper
from candor.desktop.bench.live_in_hand import Live
from candor.desktop.bench.live_now import LiveNow
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.plan_in_hand import PlanInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.soundness import Soundness
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.watching import SoakWatch
from candor.desktop.bench.writer import Writer
from candor.notebook.notebook_errors import BusyNotebookError
from candor.notebook.power.left_on import left_on
from candor.notebook.runs.run_files import cut_off, left_unsafe
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from candor.packs.model import Pack
from candor.sitting.commands import live_commands
from candor.sitting.starting import Like, Opening, start
from candor.words.faults import say_gone


class Bench:
    """What a window's views are given, each what it uses."""

    def __init__(self, notebook: Notebook) -> None:
        self.notebook = notebook
        self.voice = Voice()
        self.shelf = Shelf(notebook, notebook.clock)
        self.shop = Shop(notebook, self.shelf)
        self.in_hand = JobInHand(notebook, self.shop, self.shelf)
        self.place = PlaceInHand(notebook, self.in_hand, self.voice)
        self.writer = Writer(
            notebook=notebook, in_hand=self.in_hand, shop=self.shop, shelf=self.shelf, voice=self.voice
        )
        self.live = Live(notebook, self.writer.write_for)
        self.live.ended.connect(self._tell_run)
        self.capture = Capture(notebook, self.voice, self.writer.write_for)
        self.alarms = Alarms(notebook, self.in_hand, self.shop, self.voice)
        self.live_now = LiveNow(self.live, self.capture, self.in_hand)
        self.meters = PowerMeters(notebook, self.writer.write_for)
        self.watch = SoakWatch(self.in_hand, self.writer, self.voice, notebook.clock)
        self.clock = Clock(notebook.clock, notebook.moment, self.tick)
        self.files = FilesOfJob(notebook, self.in_hand, self.voice)
        self.plan = PlanInHand(notebook, self.in_hand, self.shelf, self.clock)
        self.keeper = Keeper(notebook, self.shop, self.voice)
        self.soundness = Soundness(notebook, self.voice)
        self.benches = Benches(
            notebook=notebook, in_hand=self.in_hand, shop=self.shop, shelf=self.shelf, place=self.place, voice=self.voice,
            heard=self._hear,
        )  # fmt: skip
        self._warned_of: set[str] = set()  # runs
        self._heard = False
        self.last_told = ""  # of the run that ended last, in this window
        self._warn_of_sources()
        if gone := notebook.gone:
            self.voice.warn(say_gone(gone))
        for entry in self.shop.unreadable[:1]:
            self.voice.warn(
                f"This version of Candor cannot read entry {entry.number}, of the shop ({entry.body.why}). What it says is not "
                "counted. Nothing was changed; a newer Candor may read it."
            )

    def rest(self) -> None:
        """Stop the clock and all that runs live, every source first; what it came to is written."""
        self.clock.stop()
        self.capture.close()  # sources first: what is on them is in somebody's hand
        self.live.close()
        self.meters.close()
        self.watch.close()
        self.files.finish()
        self.plan.finish()
        self.keeper.finish()
        self.soundness.finish()
        self.benches.finish()

    def close(self) -> None:
        """Let go of the notebook, all that runs live stopped before."""
        self.rest()
        self.notebook.close()

    def open_job(self, job: str) -> bool:
        """Open a job in the exact place where it was left; False, with a warning, where it cannot be."""
        self.place.keep()
        try:
            folded = fold(job, self.notebook.entries_of(job))
            # What opened it may be what cannot be read: then there are its entries, and nothing to walk through.
            self.in_hand.take(folded, readable=folded.stay.opened is not None or not folded.unreadable)
            self.place.come_back()
        except CandorError as error:
            self.voice.warn(f"This job cannot be opened; all others can. {error}")
            return False
        self._warn_unreadable()
        self._mend()
        self._warn_of_last_run()
        self.files.look()
        self.in_hand.changed.emit()
        self.place.changed.emit()
        self.shelf.changed.emit()
        return True

    def start_job(self, opening: Opening, pack: Pack | None = None, like: Like | None = None) -> bool:
        """Open a new job, with a pack or with nothing but a name; the only standard that fits is chosen.

        `like` names the job that it is set up as.
        """
        try:
            job = start(self.notebook, opening, pack, self.shop.standards, like)
        except CandorError as error:
            self.voice.refuse(error)
            return False
        self.shelf.refresh()
        return self.open_job(job)

    def tick(self) -> None:
        """Look at the clock, at what other windows wrote, and at runs that nobody is at any more."""
        try:
            self._refresh()
        except BusyNotebookError:
            pass  # another window writes just now; what it wrote is looked at again in a second
        except CandorError as error:
            self.voice.refuse(error)
            return
        self._mend()
        self.live_now.look()
        self.keeper.tick()
        if self.shelf.look_for_ended():
            self.in_hand.changed.emit()
        self.clock.ticked.emit()

    def _hear(self) -> None:
        """What another bench wrote is taken in; the first time the benches are known, so are the sources that nobody holds."""
        self.tick()
        if not self._heard and self.notebook.held_elsewhere is not None:
            self._heard = True
            self._warn_of_sources()

    def _refresh(self) -> None:
        if self.writer.others_wrote():
            self.shop.look_again()
            self.in_hand.fold_anew()
            self._warn_unreadable()
            self.in_hand.changed.emit()
            self.shelf.refresh()

    def _warn_of_sources(self) -> None:
        """Warn of every source that a crash, a pulled plug or a closed window has left on, until it is understood."""
        if self.notebook.read_only:
            return
        for entry, words in left_on(self.notebook):
            released = live_commands.release_source(entry.body.link, "understood")
            self.voice.warn(words, partial(self.writer.write_for, entry.job, released))

    def _warn_unreadable(self) -> None:
        for entry in self.in_hand.job.unreadable[:1] if self.in_hand.job else ():
            self.voice.warn(
                f"This version of Candor cannot read entry {entry.number} of this job ({entry.body.why}). You can look at the "
                "job, but nothing can be written in it."
            )

    def _mend(self) -> None:
        """End the runs of the job in hand that a crash or a pulled plug has cut off, and warn of them."""
        job = self.in_hand.job
        open_runs = [r for r in job.runs.cut_off() if r.started.id != self.live.run] if job else []
        if job is None or not open_runs or self.notebook.read_only or job.unreadable:
            return
        for found in cut_off(self.notebook.run_folder, open_runs, self.clock.now(), self.notebook.is_shared):
            if self.writer.write_for(job.id, live_commands.run_cut_off(found)) is not None:
                self._warned_of.add(found.end.run)
                self.voice.warn(found.words)

    def _warn_of_last_run(self) -> None:
        """Warn again, once, of a run of the last day that was left unsafe: the window may have been closed over it."""
        if self.in_hand.job is not None:
            for run, words in left_unsafe(self.in_hand.job.runs.runs, self.notebook.clock()):
                if run not in self._warned_of:
                    self._warned_of.add(run)
                    self.voice.warn(words)

    def _tell_run(self, ref: str, why: str, warning: str) -> None:
        sentence = f"{ref}: the run is over, {why.rstrip('.')}."
        self.last_told = f"{sentence} {warning or 'It was measured safe.'}"
        self.voice.say(sentence, Severity.DONE)
        if warning:
            self.voice.warn(f"{sentence} {warning}")
        self.shelf.refresh()
