"""Whether the job in hand still stands on what was kept: its pack at once, its files and a long chain beside the window."""

from __future__ import annotations

from PySide6.QtCore import QObject

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.worker import Work
from candor.notebook.storage.chain import say_broken
from candor.notebook.storage.fault import Fault
from candor.notebook.storage.kept_files import files_of
from candor.notebook.store import Notebook
from candor.words.faults import say_unsound

SHORT = 400  # entries whose chain is followed within a frame


class FilesOfJob(QObject):
    """Has pack, files and chain of a job looked at when it is opened; closes it, and warns, where they are not what was kept."""

    def __init__(self, notebook: Notebook, in_hand: JobInHand, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._in_hand, self._voice = notebook, in_hand, voice
        self._known: dict[str, tuple[Fault, ...]] = {}
        self._work = Work(self)
        self._work.answered.connect(self._found)
        self._work.failed.connect(voice.refuse)

    def look(self, anew: bool = False) -> None:
        """Look at pack and files of the job in hand; `anew` where what was found before holds no longer."""
        job, notebook = self._in_hand.job, self._notebook
        if job is None:
            return
        self._work.cancel()
        entries = job.entries
        found = notebook.faults_of(job.id, entries, files=False)
        short = len(entries) <= SHORT
        if short:
            self._say_broken(notebook.broken_links(job.id))
        if not short or files_of((e.number, e.body) for e in entries):
            self._work.start(
                lambda _: (
                    job.id,
                    notebook.faults_of(job.id, entries),
                    None if short else notebook.broken_links(job.id),
                )
            )
            found = found or (
                () if anew else self._known.get(job.id, ())
            )  # until it is looked at, what was found last stands
        self._close(job.id, found)

    def finish(self) -> None:
        """Stop looking."""
        self._work.finish()

    def _found(self, answer: object) -> None:
        job = self._in_hand.job
        if not isinstance(answer, tuple) or job is None or answer[0] != job.id:
            return
        _, faults, broken = answer
        changed = faults != self._in_hand.faults
        if changed:
            self._close(job.id, faults)
        if broken:
            self._say_broken(broken)
        if changed or broken:
            self._in_hand.changed.emit()

    def _say_broken(self, numbers: tuple[int, ...]) -> None:
        self._in_hand.broken = numbers
        if numbers:
            self._voice.warn(say_broken(numbers))

    def _close(self, job: str, faults: tuple[Fault, ...]) -> None:
        self._in_hand.faults = self._known[job] = faults
        self._notebook.close_job(job, faults)
        if faults:
            self._voice.warn(say_unsound(faults))
