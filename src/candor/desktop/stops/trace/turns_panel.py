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
from candor.notebook.parts.known_values import known_values
from candor.notebook.work.turns_of_circuit import turns_of_circuit
from candor.packs.adjuster_reach import adjuster_reach
from candor.sitting.commands import stay_commands
from candor.words.reach_words import reach_lines
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
        self._work, self._drawing = Work(self), Work(self)
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
        self.drawn = button(
            "From the circuit", "What was read, and what each adjuster does by the drawing: in per cent of its part"
        )
        self.moves = label("", "soft")
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
        column.addLayout(flow(theme.px(8), self.calculate, self.drawn))
        column.addWidget(self.moves)
        column.addWidget(self.answer)
        column.addStretch()
        self.calculate.clicked.connect(self.ask)
        shortcut(self, "Ctrl+Return", self.ask)
        self.drawn.clicked.connect(self._from_circuit)
        self._work.answered.connect(self._show)
        self._drawing.answered.connect(self._fill)
        self._drawing.failed.connect(lambda _: self.moves.setText(""))
        for work in (self._work, self._drawing):
            work.failed.connect(self._voice.refuse)

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

    def _from_circuit(self) -> None:
        """Fill in what was read, and what the circuit says that each adjuster does."""
        job, pack = self._in_hand.job, self._in_hand.pack
        run = next((r for phase in ("as left", "as found") if (r := self._in_hand.run(phase)) and r.results), None)
        if job is None or pack is None:
            return
        results, known = tuple(run.results.values()) if run is not None else (), known_values(job)

        def work(_: object) -> tuple[str, str]:
            lines = turns_of_circuit(pack, results, known)
            return "\n".join(reach_lines(adjuster_reach(pack, known), pack)), lines

        self._job = job.id
        self.moves.setText("solving the circuit …")
        self._drawing.start(work)

    def _fill(self, said: tuple[str, str]) -> None:
        job = self._in_hand.job
        if job is None or job.id != self._job:
            return
        self.moves.setText(said[0])
        self.lines.setPlainText(said[1])

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
            self._drawing.cancel()
            self._job = job.id
            self.lines.clear()
            self.moves.setText("")
            self.answer.setText("")

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()
        self._drawing.finish()

    def explain(self, because: Because) -> None:
        """Say how it is calculated."""
        because.show_whole(None)
        because.show_words(
            "Adjusters that move each other",
            [
                "Read all points. Turn one adjuster by a known amount, read all points, turn it back; then the next.",
                "For small turns errors are linear in them. All at once: the turns that make the largest error, in limits, least.",
                "One by one: each is set to nothing at its point, in the order that needs the fewest rounds.",
                "From the circuit: the part that an adjuster acts on is made 1 % larger in the drawing, and what each range makes "
                "of it is solved; the errors are those you read. Of an adjuster whose part is not known nothing is said.",
                "U counts what your readings scatter by, where a line u says it.",
            ],
        )  # fmt: skip
