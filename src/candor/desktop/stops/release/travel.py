"""Letting a job travel: one zip with all that hangs on it, written beside the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QFileDialog

from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.worker import Work
from candor.notebook.files import plain_name, write_durably
from candor.notebook.store import Notebook
from candor.notebook.travel import ENDING, TravelError, travelling
from candor.paper.travelling import papers_of


class Travel(QObject):
    """The button that lets a job travel, and its work."""

    def __init__(self, parent: QObject, *, in_hand: JobInHand, voice: Voice, shop: Shop, notebook: Notebook) -> None:
        super().__init__(parent)
        self._in_hand, self._voice, self._shop, self._notebook = in_hand, voice, shop, notebook
        self.button = button(
            "Let it travel …", "The job with its standards, packs, photos and papers in one zip, for another notebook"
        )
        self.work = Work(self)
        self.work.answered.connect(lambda name: self._voice.say(f"Saved as {name}.", Severity.DONE))
        self.work.failed.connect(self._voice.refuse)
        self.button.clicked.connect(self._ask)

    def _ask(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        suggested = f"{plain_name(f'{job.name} {job.serial}')}{ENDING}"
        name, _ = QFileDialog.getSaveFileName(None, "Let the job travel", suggested, f"Travelling job (*{ENDING})")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the job in hand, beside the window; what was begun is dropped where another is asked for."""
        job = self._in_hand.job
        if job is None:
            return
        shop, source, who = self._shop.name, self._notebook.path, self._notebook.who

        def write(should_stop: Callable[[], bool]) -> str:
            held = Notebook(source, who)
            try:
                content = travelling(held, job.id, shop, papers_of(held, job))
            finally:
                held.close()
            if not should_stop():
                try:
                    write_durably(path, content)
                except OSError as error:
                    raise TravelError(f"{path} could not be written: {error.strerror}. Nothing was lost.") from None
            return path.name

        self.work.start(write)
