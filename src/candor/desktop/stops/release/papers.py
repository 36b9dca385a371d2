"""The papers that go with an instrument, and the job as one zip; each written beside the window."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QVBoxLayout, QWidget

from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.worker import Work
from candor.durably import write_durably
from candor.notebook.exchange.travel import ENDING, TravelError
from candor.notebook.exchange.travel_out import left_behind, travelling
from candor.notebook.storage.files import plain_name
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.paper.papers import PAPERS, Paper, Wanted, ending_of, paper_of
from candor.paper.travelling import papers_of


class PapersPanel(QWidget):
    """A button for each paper, and one that lets the job travel."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, voice: Voice, shop: Shop, notebook: Notebook, clock: Clock
    ) -> None:
        super().__init__()
        self._in_hand, self._voice, self._shop, self._notebook, self._clock = in_hand, voice, shop, notebook, clock
        self.work = Work(self)
        self.buttons = {key: button(f"{title} …", tip) for key, (title, tip) in PAPERS.items()}
        self.travel = button(
            "Let it travel …", "The job with its standards, packs, photos and papers in one zip, for another notebook"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        for key, made in self.buttons.items():
            made.clicked.connect(lambda _=False, paper=key: self._ask(paper))
            column.addWidget(made)
            column.addWidget(label(PAPERS[key][1], "soft"))
        column.addSpacing(theme.px(8))
        column.addWidget(self.travel)
        column.addWidget(label("Import it into another notebook at New job.", "soft"))
        self.work.answered.connect(lambda name: self._voice.say(f"Saved as {name}.", Severity.DONE))
        self.work.failed.connect(self._voice.refuse)
        self.travel.clicked.connect(self._ask_travel)

    def _named(self, job: Job, what: str) -> str:
        return plain_name(f"{what} {job.name} {job.serial}".strip())

    def _ask(self, paper: Paper) -> None:
        job = self._in_hand.job
        if job is not None:
            ending = ending_of(paper)
            suggested, kinds = f"{self._named(job, paper)}.{ending}", f"{ending.upper()} (*.{ending})"
            name, _ = QFileDialog.getSaveFileName(self, PAPERS[paper][0], suggested, kinds)
            if name:
                self.save(paper, Path(name))

    def _ask_travel(self) -> None:
        job = self._in_hand.job
        if job is not None:
            suggested = f"{self._named(job, '')}{ENDING}"
            name, _ = QFileDialog.getSaveFileName(self, "Let it travel", suggested, f"Travelling job (*{ENDING})")
            if name:
                self.save_travelling(Path(name))

    def save(self, paper: Paper, path: Path) -> None:
        """Write a paper of the job in hand."""
        shop, country = self._shop.name, self._shop.record.details.get("country", "")
        wanted = Wanted(known=self._shop.standards, shop=shop, country=country, on=self._clock.now().date())
        self._write(path, lambda held, job: paper_of(paper, held, job, wanted))

    def save_travelling(self, path: Path) -> None:
        """Write the job in hand as one zip."""
        shop = self._shop.name
        self._write(path, lambda held, job: travelling(held, job.id, shop, papers_of(held, job)), left_behind)

    def _write(
        self,
        path: Path,
        make: Callable[[Notebook, Job], bytes],
        missing: Callable[[Notebook, str], Sequence[str]] | None = None,
    ) -> None:
        """Make something of the job in hand beside the window; it is dropped where another is asked for."""
        job, source, who = self._in_hand.job, self._notebook.path, self._notebook.who
        if job is None:
            return

        def write(should_stop: Callable[[], bool]) -> str:
            held = Notebook(source, who)  # its own: a connection belongs to the thread that opened it
            try:
                content = make(held, job)
                without = missing(held, job.id) if missing is not None else ()
            finally:
                held.close()
            if not should_stop():
                try:
                    write_durably(path, content)
                except OSError as error:
                    raise TravelError(f"{path} could not be written: {error.strerror}. Nothing was lost.") from None
            return f"{path.name}{', without what is missing: ' + ', '.join(without) if without else ''}"

        self.work.start(write)

    def explain(self, because: Because) -> None:
        """Say what the papers rest on."""
        because.show_whole(None)
        words = [
            "A label states what a signed certificate states, and names each range that is not covered.",
            "If more was spent than agreed, the bill asks only for the agreed price.",
            "An exported job keeps every entry as it was written, with the digests that prove it.",
        ]
        because.show_words("Papers", words)
