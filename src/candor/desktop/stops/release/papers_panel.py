"""The papers that go with an instrument, printed or saved, one or all; and the job as one zip. Each is made beside the window."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.because import Because
from candor.desktop.frame.drawn_pdf import Printable
from candor.desktop.frame.file_names import folder_name, save_name
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.durably import write_durably
from candor.notebook.exchange.travel import ENDING, TravelError
from candor.notebook.exchange.travel_out import left_behind, travelling
from candor.notebook.storage.files import plain_name
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.paper.names import file_name
from candor.paper.papers import PAPERS, Paper, Wanted, ending_of, paper_of
from candor.paper.travelling import papers_of

NOT_PRINTED = ("digital",)  # read by machines


class PapersPanel(QWidget):
    """Two buttons for each paper, one for all, and one that lets the job travel.

    Signals
    -------
    printAsked(object)
        A paper is to be looked at and printed: a Printable.
    """

    printAsked = Signal(object)

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, voice: Voice, shop: Shop, notebook: Notebook, clock: Clock
    ) -> None:
        super().__init__()
        self._in_hand, self._voice, self._shop, self._notebook, self._clock = in_hand, voice, shop, notebook, clock
        self.work = Work(self)
        self.buttons = {key: button("Save …", f"{title}: {tip}") for key, (title, tip) in PAPERS.items()}
        self.prints: dict[Paper, QPushButton] = {
            key: button("Print …", f"{title}, its pages shown first")
            for key, (title, _) in PAPERS.items()
            if key not in NOT_PRINTED
        }
        self.all = button("Save all papers …", "Each paper that can be made, as a file in one folder", name="main")
        self.travel = button(
            "Let it travel …", "The job with its standards, packs, photos and papers in one zip, for another notebook"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addLayout(flow(theme.px(8), self.all, self.travel))
        column.addWidget(label("A job that travels is taken into another notebook at New job.", "soft"))
        column.addSpacing(theme.px(6))
        for key, (title, tip) in PAPERS.items():
            row = QHBoxLayout()
            row.setSpacing(theme.px(6))
            words = QVBoxLayout()
            words.setSpacing(0)
            words.addWidget(label(title, "text"))
            words.addWidget(label(tip, "soft"))
            row.addLayout(words, 1)
            if key in self.prints:
                self.prints[key].setAccessibleName(f"Print: {title}")
                self.prints[key].clicked.connect(lambda _=False, paper=key: self._print(paper))
                row.addWidget(self.prints[key])
            self.buttons[key].setAccessibleName(f"Save: {title}")
            self.buttons[key].clicked.connect(lambda _=False, paper=key: self._ask(paper))
            row.addWidget(self.buttons[key])
            column.addLayout(row)
        self.all.clicked.connect(self._ask_all)
        self.work.answered.connect(lambda name: self._voice.say(f"Saved as {name}.", Severity.DONE))
        self.work.failed.connect(self._voice.refuse)
        self.travel.clicked.connect(self._ask_travel)

    def _named(self, job: Job, paper: Paper) -> str:
        return file_name(
            job.name, job.serial, PAPERS[paper][0].lower(), ending_of(paper), self._clock.now().date().isoformat()
        )

    def print_in_hand(self) -> None:
        """Print the paper that the keyboard is at; the first where it is at none."""
        at: Paper = next(
            (key for key in self.prints if self.prints[key].hasFocus() or self.buttons[key].hasFocus()), "label"
        )
        self._print(at)

    def _print(self, paper: Paper) -> None:
        """Show a paper of the job in hand before it is printed."""
        job, source, who = self._in_hand.job, self._notebook.path, self._notebook.who
        if job is None:
            return
        wanted = self._wanted()

        def make(_should_stop: Callable[[], bool]) -> bytes:
            held = Notebook(source, who)
            try:
                return paper_of(paper, held, job, wanted)
            finally:
                held.close()

        title, tip = PAPERS[paper]
        self.printAsked.emit(Printable(f"{title}: {job.name}", self._named(job, paper), make, (f"{tip}.",)))

    def _ask_all(self) -> None:
        name = folder_name(self, "A folder for all papers")
        if name:
            self.save_all(Path(name))

    def save_all(self, folder: Path) -> None:
        """Write every paper of the job in hand that can be made into a folder, and say why the others cannot."""
        job = self._in_hand.job
        if job is None:
            return
        wanted, names = self._wanted(), {key: self._named(job, key) for key in PAPERS}

        def make(held: Notebook, job: Job, should_stop: Callable[[], bool]) -> str:
            made, left = 0, []
            for key, (title, _) in PAPERS.items():
                if should_stop():
                    break
                try:
                    content = paper_of(key, held, job, wanted)
                except CandorError as error:
                    left.append(f"{title}: {error}")
                    continue
                self._put(folder / names[key], content)
                made += 1
            for name, content in papers_of(held, job).items():
                self._put(
                    folder / file_name(job.name, job.serial, "certificate", "pdf", name.removesuffix(".pdf")[12:]),
                    content,
                )
                made += 1
            return f"{made} papers in {folder.name}{'. Not made: ' + ' '.join(left) if left else ''}"

        self._beside(make)

    def _wanted(self) -> Wanted:
        shop, country = self._shop.name, self._shop.record.details.get("country", "")
        return Wanted(known=self._shop.standards, shop=shop, country=country, on=self._clock.now().date())

    def _ask(self, paper: Paper) -> None:
        job = self._in_hand.job
        if job is not None:
            ending = ending_of(paper)
            suggested, kinds = self._named(job, paper), f"{ending.upper()} (*.{ending})"
            name = save_name(self, PAPERS[paper][0], suggested, kinds)
            if name:
                self.save(paper, Path(name))

    def _ask_travel(self) -> None:
        job = self._in_hand.job
        if job is not None:
            suggested = f"{plain_name(f'{job.name} {job.serial}'.strip())}{ENDING}"
            name = save_name(self, "Let it travel", suggested, f"Travelling job (*{ENDING})")
            if name:
                self.save_travelling(Path(name))

    def save(self, paper: Paper, path: Path) -> None:
        """Write a paper of the job in hand."""
        wanted = self._wanted()
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

        def write(held: Notebook, job: Job, should_stop: Callable[[], bool]) -> str:
            content = make(held, job)
            without = missing(held, job.id) if missing is not None else ()
            if not should_stop():
                self._put(path, content)
            return f"{path.name}{', without what is missing: ' + ', '.join(without) if without else ''}"

        self._beside(write)

    @staticmethod
    def _put(path: Path, content: bytes) -> None:
        try:
            write_durably(path, content)
        except OSError as error:
            raise TravelError(f"{path} could not be written: {error.strerror}. Nothing was lost.") from None

    def _beside(self, write: Callable[[Notebook, Job, Callable[[], bool]], str]) -> None:
        """Do something with the job in hand beside the window, in a notebook of its own."""
        job, source, who = self._in_hand.job, self._notebook.path, self._notebook.who
        if job is None:
            return

        def beside(should_stop: Callable[[], bool]) -> str:
            held = Notebook(source, who)  # its own: a connection belongs to the thread that opened it
            try:
                return write(held, job, should_stop)
            finally:
                held.close()

        self.work.start(beside)

    def explain(self, because: Because) -> None:
        """Say what the papers rest on."""
        because.show_whole(None)
        words = [
            "A label states what a signed certificate states, and names each range that is not covered.",
            "If more was spent than agreed, the bill asks only for the agreed price.",
            "An exported job keeps every entry as it was written, with the digests that prove it.",
        ]
        because.show_words("Papers", words)
