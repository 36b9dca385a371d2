"""Adjusters that move each other: what each did in one turn, and the turns that set them at once; kept as a note."""

from __future__ import annotations

from PySide6.QtWidgets import QPlainTextEdit, QVBoxLayout, QWidget

from candor.core.calibration.interacting import EXAMPLE, Interacting, read_turned, set_together
from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.sitting.commands import stay_commands
from candor.words.turns_words import say_turns

LIVE = (
    "A trimmer may be live: an insulated tool, one hand, and the reading from a distance. What was read as found first "
    "stays as found."
)


class TurnsPanel(QWidget):
    """A line for each adjuster, and the answer."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._work = Work(self)
        self._asked, self._job = "", ""
        self.caution = Caution(theme)
        self.lines = QPlainTextEdit()
        self.lines.setAccessibleName("What each adjuster did")
        self.lines.setPlaceholderText(in_field(EXAMPLE))
        self.lines.setTabChangesFocus(True)
        self.lines.setFixedHeight(theme.px(130))
        self.calculate = button(
            "Set them together", "The turns that set all at once; kept as a note", "Ctrl+Return", "main"
        )
        self.answer = label("", "text")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addWidget(self.caution)
        self.caution.say(LIVE)
        column.addWidget(
            label(
                "The errors at the start, after a turn of each adjuster from there, and the limits: in one unit, point by point.",
                "soft",
            )
        )
        column.addWidget(self.lines)
        column.addLayout(flow(theme.px(8), self.calculate))
        column.addWidget(self.answer)
        column.addStretch()
        self.calculate.clicked.connect(self.ask)
        shortcut(self, "Ctrl+Return", self.ask)
        self._work.answered.connect(self._show)
        self._work.failed.connect(self._voice.refuse)

    def ask(self) -> None:
        """Calculate what was written."""
        text = self.lines.toPlainText().strip()
        try:
            read = read_turned(text)
        except CandorError as error:
            self._voice.refuse(error)
            return
        job = self._in_hand.job
        self._asked, self._job = text, job.id if job is not None else ""
        self._work.start(lambda _: set_together(read))

    def _show(self, found: Interacting) -> None:
        job = self._in_hand.job
        if job is None or job.id != self._job:
            return  # another job was opened meanwhile: it is not of that one
        said = say_turns(found)
        self.answer.setText("\n".join(said))
        kept = "; ".join(self._asked.splitlines())
        if not any(kept in e.body.text for e in job.stay.notes):
            self._writer.do(stay_commands.note(f"adjusters: {kept}. {said[0]}", "trace"))

    def show_job(self) -> None:
        """Begin anew with another job: what was turned is of one instrument."""
        job = self._in_hand.job
        if job is not None and job.id != self._job:
            self._work.cancel()
            self._job = job.id
            self.lines.clear()
            self.answer.setText("")

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def explain(self, because: Because) -> None:
        """Say how it is calculated."""
        because.show_whole(None)
        because.show_words(
            "Adjusters that move each other",
            [
                "Read all points. Turn one adjuster by a known amount, read all points, turn it back; then the next.",
                "For small turns errors are linear in them. All at once: the turns that make the largest error, in limits, least.",
                "One by one: each is set to nothing at its point, in the order that needs the fewest rounds.",
                "U counts what your readings scatter by, where a line u says it.",
            ],
        )  # fmt: skip
