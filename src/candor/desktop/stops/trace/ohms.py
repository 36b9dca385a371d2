"""Ohms of any pair of nodes: millivolts first, both ways round, and a lead on the neighbouring tag."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.trace.trace_view import pair_view
from candor.words.trace_words import say_pair

SHAPES = {"as expected": "full", "low": "cross", "high": "cross", "not quiet": "half", "differs by direction": "half"}


class OhmsPanel(QWidget):
    """Pairs that were read."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self.first = label(
            "Power off and discharged. Measure the voltage between the leads first: over a few millivolts, ohms mean nothing.",
            "soft",
        )
        self.read = Field()
        self.read.setPlaceholderText("n5 to 0 47k, turned 52k, after 2 mV")
        self.read.setAccessibleName("Ohms of a pair of nodes")
        self.list = RowList(theme, "Pairs of nodes", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (self.first, self.read, self.list):
            column.addWidget(widget)
        column.addStretch()
        self.read.returnPressed.connect(self._write)

    def show_job(self) -> None:
        """Show what was read and what that means."""
        job = self._in_hand.job
        if job is None:
            return
        rows = []
        for one, other in job.trace.pairs:
            judged = pair_view(job, self._in_hand.parts(), one, other)
            under = say_pair(judged) if judged is not None else "no network says what it should be"
            rows.append(Row(f"{one} {other}", f"{one} to {other}", under, SHAPES[judged.state] if judged else "ring"))
        self.list.show_rows(tuple(rows), "")
        self.list.setVisible(bool(rows))
        self.list.fit(10)

    def _write(self) -> None:
        job, text = self._in_hand.job, self.read.text().strip()
        if job is None or not text:
            return
        try:
            jot = understand_at("trace", f"ohms {text}")
            if jot is None:
                self._voice.refuse("Give two nodes and the resistance between them. Example: n5 to 0 47k, turned 52k")
            elif self._writer.jot(jot):
                self.read.clear()
        except CandorError as error:
            self._voice.refuse(error)

    def explain(self, because: Because) -> None:
        """Say how it is read."""
        because.show_whole(None)
        because.show_words(
            "Ohms of a quiet network",
            ["The resistance to expect between two nodes follows from the whole network, not from one part.",
             "With the leads swapped, a junction or a leaky electrolytic reads differently: the higher reading counts.",
             "If the reading fits a neighbouring pair instead, Candor says so: leads slip."],
        )  # fmt: skip
