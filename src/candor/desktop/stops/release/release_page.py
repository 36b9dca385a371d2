"""Release: what the certificate says, its pages as they will be printed, and signing it off."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QPixmap, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.core.verdict.rules import Outcome
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.release.certificate_files import CertificateFiles
from candor.desktop.stops.release.conditions import Conditions
from candor.desktop.stops.release.drawing import draw_pages
from candor.desktop.stops.release.papers_panel import PapersPanel
from candor.desktop.stops.release.release_checks import BeforeList
from candor.desktop.stops.release.second import Second
from candor.desktop.widgets.controls import Column, button, empty, shortcut
from candor.desktop.widgets.flow import Flow, flow
from candor.desktop.widgets.glyphs import Glyph
from candor.desktop.widgets.worker import Work
from candor.notebook.release.leaving import say_open
from candor.notebook.store import Notebook
from candor.paper.printing import Asked, Printed, what_is_printed
from candor.paper.record import INOPERATIVE, CertificateRecord
from candor.sitting.commands import release_commands, stay_commands

VIEWS = (("before", "Release checks"), ("paper", "Certificate"), ("papers", "Papers"))
STATUSES = (("wants hands", "To do"), ("waiting", "Waiting"), ("gone home", "Returned"))


class ReleasePage(Page):
    """The last stop of a job.

    Signals
    -------
    gathered()
        What is printed is known, and shown.
    previewed()
        The pages of the certificate were drawn.
    printAsked(object)
        A paper is to be looked at and printed: a Printable.
    """

    gathered = Signal()
    previewed = Signal()
    printAsked = Signal(object)

    def __init__(
        self,
        theme: Theme,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        clock: Clock,
        notebook: Notebook,
    ) -> None:
        super().__init__()
        self._theme = theme
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._clock, self._notebook = clock, notebook
        self._record: CertificateRecord | None = None
        self.refused, self._of = "", ""
        self._work, self._drawing = Work(self), Work(self)
        self.shown, self._is_narrow = "paper", False
        self.views: dict[str, QPushButton] = {}
        self.side = QWidget()
        self.before = BeforeList(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.title = label("", "heading", bold=True)
        self.found_glyph, self.found_words = Glyph(theme, 15), label("", "text")
        self.left_glyph, self.left_words = Glyph(theme, 15), label("", "text")
        self.remarks = label("", "text")
        self.conditions = Conditions(theme, writer=writer, voice=voice)
        self.fields = self.conditions.fields
        self.status: dict[str, QPushButton] = {}
        self.waits_for = QLineEdit()
        self.print_ = button("Print …", "The certificate, its pages shown first", "Ctrl+P", "main")
        self.pdf = button("Save as PDF …", "The certificate as PDF", "Ctrl+S")
        self.json = button("Save as JSON …", "The same content as JSON", "Ctrl+Shift+P")
        self.sign = button(
            "Sign it off", "Sign the certificate as it stands: its JSON is kept, and it is printed from that"
        )
        self.second = Second(writer=writer, voice=voice)
        self.papers = PapersPanel(theme, in_hand=in_hand, voice=voice, shop=shop, notebook=notebook, clock=clock)
        self.files = CertificateFiles(in_hand=in_hand, voice=voice, notebook=notebook, to_print=self.to_print)
        self.pages = Column(theme.px(10), theme.px(10))
        self._build()
        self._wire()

    def _build(self) -> None:
        theme = self._theme
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        whole = self.area.column
        whole.setContentsMargins(theme.px(18), theme.px(12), theme.px(10), theme.px(12))
        choices = Flow(theme.px(6))
        for key, title in VIEWS:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, view=key: self.show_view(view))
            choices.addWidget(made)
            self.views[key] = made
        whole.addLayout(choices)
        whole.addWidget(self.before)
        whole.addWidget(self.papers)
        whole.addWidget(self.side)
        column = QVBoxLayout(self.side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addWidget(self.title)
        for glyph, words in ((self.found_glyph, self.found_words), (self.left_glyph, self.left_words)):
            row = QHBoxLayout()
            row.setSpacing(theme.px(9))
            row.addWidget(glyph, 0, Qt.AlignmentFlag.AlignTop)
            row.addWidget(words, 1)
            column.addLayout(row)
        column.addSpacing(theme.px(6))
        column.addWidget(label("stated on page one", "soft"))
        column.addWidget(self.remarks)
        column.addSpacing(theme.px(6))
        column.addWidget(self.conditions)
        column.addSpacing(theme.px(8))
        column.addLayout(flow(theme.px(8), self.print_, self.pdf, self.json, self.sign))
        column.addWidget(self.second)
        column.addSpacing(theme.px(8))
        column.addWidget(label("this job", "soft"))
        states = Flow(theme.px(6))
        for key, title in STATUSES:
            made = button(title, f"Put the job on the shelf as “{key}”", name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, status=key: self._set_status(status))
            states.addWidget(made)
            self.status[key] = made
        column.addLayout(states)
        self.waits_for.setPlaceholderText("what it waits for, or when it is due again")
        self.waits_for.setAccessibleName("What the job waits for, or when it is due again")
        column.addWidget(self.waits_for)
        whole.addStretch()
        outer.addWidget(self.area, 5)
        self.pages.setAccessibleName("Preview of the certificate")
        outer.addWidget(self.pages, 6)

    def _wire(self) -> None:
        self._in_hand.changed.connect(self.show_job)
        self._place.changed.connect(self.show_job)
        self._theme.changed.connect(self.show_job)
        self._work.answered.connect(self._show_printed)
        self._drawing.answered.connect(self._show_pages)
        for work in (self._work, self._drawing):
            work.failed.connect(lambda sentence: self._voice.refuse(sentence))
        self.waits_for.editingFinished.connect(self._write_status_text)
        for paper in (self.files, self.papers):
            paper.printAsked.connect(self.printAsked)
        self.print_.clicked.connect(self.files.print_)
        self.pdf.clicked.connect(lambda: self.files.ask(self, "pdf"))
        self.json.clicked.connect(lambda: self.files.ask(self, "json"))
        self.sign.clicked.connect(self._sign)
        self.gathered.connect(self.explainAsked)
        self.before.chosenAnew.connect(self.explainAsked)
        shortcut(
            self, "Ctrl+P", lambda: self.papers.print_in_hand() if self.shown == "papers" else self.print_.click()
        )
        shortcut(self, "Ctrl+S", self.pdf.click)
        shortcut(self, "Ctrl+Shift+P", self.json.click)

    def enter(self) -> None:
        """Come to the stop."""
        self.show_job()
        self.print_.setFocus()

    def show_view(self, view: str) -> None:
        """Show what is checked before it goes, or what the certificate says."""
        self.shown = view
        self.show_job()
        self.explainAsked.emit()
        {"paper": self.print_, "before": self.before.list, "papers": self.papers.buttons["label"]}[view].setFocus()

    def narrow(self, is_narrow: bool) -> None:
        """Leave the preview out where the window is narrow; the PDF is the same."""
        self._is_narrow = is_narrow
        self.pages.setVisible(not is_narrow and self.shown != "papers")

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()
        self._drawing.finish()
        self.papers.work.finish()

    # --- showing --------------------------------------------------------------------------------------

    def asked(self) -> Asked | None:
        """Return the job as it stands, of which something may be printed; None where no job is in hand."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None:
            return None
        return Asked(
            job=job,
            pack=pack,
            known=self._shop.standards,
            shop=self._shop.name,
            who=self._notebook.who,
            now=self._clock.now(),
            broken=self._in_hand.broken,
            earlier=self._in_hand.earlier_deviations(),
            leaving=self.before.items(),
            folder=self._notebook.certificate_folder,
            head=self._notebook.head_words(job.id),
            faults=self._in_hand.faults,
            away=self._notebook.away,
        )

    def to_print(self) -> Printed:
        """Return what is printed as the job stands now: what is saved and signed is never what was shown before."""
        asked = self.asked()
        if asked is None:
            return Printed(None)
        return what_is_printed(replace(asked, broken=self._notebook.broken_links(asked.job.id)))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_job()

    def show_job(self) -> None:
        """Show the views, and begin to gather what is printed."""
        job = self._in_hand.job
        if (
            job is None
            or self._in_hand.found is None
            or self._in_hand.left is None
            or self._place.stop != "release"
            or not self.isVisible()
        ):
            return
        for key, choice in self.views.items():
            choice.setChecked(key == self.shown)
        self.side.setVisible(self.shown == "paper")
        self.before.setVisible(self.shown == "before")
        self.papers.setVisible(self.shown == "papers")
        self.narrow(self._is_narrow)
        self.before.show_job()
        self.conditions.show_job(job)
        for key, made in self.status.items():
            made.setChecked(key == job.stay.status)
        if not self.waits_for.hasFocus():
            self.waits_for.setText(job.stay.status_text)
            self.waits_for.setModified(False)
        asked = self.asked()
        if asked is not None:
            if self._of != job.id:  # nothing of another job stands here while this one is gathered
                self._of = job.id
                self._show_printed(Printed(None))
                self.title.setText("")
            self._drawing.cancel()
            self._work.start(lambda _should_stop: what_is_printed(asked))

    def _show_printed(self, printed: object) -> None:
        """Show verdicts and what must stand on page one, and begin to draw the pages."""
        job = self._in_hand.job
        if not isinstance(printed, Printed) or job is None:
            return
        if printed.fault:
            self._voice.refuse(printed.fault)
        record, digest, self.refused = printed.record, printed.digest, printed.refused
        self._record = record
        for made in (self.print_, self.pdf, self.json, self.sign):
            made.setEnabled(record is not None)
        if record is None:
            self.title.setText("No certificate")
            for said in (self.found_words, self.left_words):
                said.setText("")
            self.remarks.setText(self.refused)
            self.second.show_signed("", "", "")
            empty(self.pages.column)
            self.gathered.emit()
            return
        self.title.setText(f"Certificate {record.number}" if digest else f"Draft of certificate {record.number}")
        self.found_glyph.show_outcome(shape_of(record.as_found.outcome))
        self.found_words.setText(f"As found: {record.as_found.word}. {record.as_found.sentence.capitalize()}.")
        self.left_glyph.show_outcome(shape_of(record.as_left.outcome))
        whole = f"As left: {record.as_left.word}. {record.as_left.sentence.capitalize()}."
        self.left_words.setText(record.as_left_note if record.as_left.phase == "as found" else whole)
        self.remarks.setText(
            "\n".join(f"– {line.text}" for line in record.remarks) or "Nothing: no shortfall to state."
        )
        issued = job.release.certificates[-1].body.number if job.release.certificates else ""
        self.sign.setText(f"Sign off another (last: {issued})" if issued and not digest else "Sign it off")
        self.sign.setEnabled(not digest)
        width = max(self.pages.viewport().width() - self._theme.px(24), 200)
        second = job.release.second_words(digest)
        self.second.show_signed(digest, record.issued_by, second)
        photos = self._notebook.photo_folder
        self.gathered.emit()
        self._drawing.start(
            lambda should_stop: draw_pages(record, digest, width, should_stop, second=second, photos=photos)
        )

    def _show_pages(self, drawn: object) -> None:
        empty(self.pages.column)
        if not isinstance(drawn, tuple):
            return
        _, images = drawn
        for number, image in enumerate(images, 1):
            page = QLabel()
            page.setPixmap(QPixmap.fromImage(image))
            page.setAccessibleName(f"Page {number}")
            self.pages.column.addWidget(page)
        self.pages.column.addStretch()
        self.previewed.emit()

    def explain(self, because: Because) -> None:
        """Fill the reasons panel: the whole, and what every line rests on."""
        if self.shown != "paper":
            (self.before if self.shown == "before" else self.papers).explain(because)
            return
        record = self._record
        because.show_whole(self._in_hand.left)
        if record is None:
            if self.refused:
                because.show_words("Nothing to certify", [self.refused], "barred")
            return
        words = [
            record.rule_words,
            record.coverage_words,
            *(f"{line.name}: {line.good_for}. {line.age} {line.traceability}." for line in record.references),
            "Every figure carries the number of its entry. Signing keeps the JSON as a file and writes its digest into the "
            "notebook; what is printed then comes from that file, until something more is written.",
        ]
        because.show_words("What it rests on", words)

    # --- doing ----------------------------------------------------------------------------------------

    def _set_status(self, status: str) -> None:
        self.status[status].setChecked(True)
        self._writer.do(stay_commands.status(status, self.waits_for.text().strip()))

    def _write_status_text(self) -> None:
        job = self._in_hand.job
        if job is not None and self.waits_for.isModified():
            self.waits_for.setModified(False)
            self._writer.do(stay_commands.status(job.stay.status, self.waits_for.text().strip()))

    def save(self, path: Path) -> bool:
        """Save what is printed as its ending says; False, with a sentence, where it cannot be."""
        return self.files.save(path)

    def _sign(self) -> None:
        still = say_open(tuple(self.before.still()))
        if still:
            self._voice.refuse(f"{still} Nothing was signed.")
            self.show_view("before")
            return
        printed = self.to_print()
        record = printed.record
        if away := self._notebook.away:
            self._voice.refuse(
                f"{away}: what other benches wrote may be missing here. Nothing was signed; sign when it is back."
            )
            return
        if record is None or printed.digest:
            self._voice.refuse(printed.refused or "It is signed, and nothing was written since.")
            return
        try:
            signing = release_commands.sign(record, self._notebook.certificate_folder)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if self._writer.do(signing):
            self._voice.say(f"Certificate {record.number} is signed off in the notebook.", Severity.DONE)


def shape_of(outcome: str) -> Outcome:
    """Return the outcome whose shape stands for what a certificate states."""
    return Outcome.NOT_MEASURED if outcome == INOPERATIVE else Outcome(outcome)
