"""The signal: stages in order, looks along them, the next best look, and the cause in one line."""

from __future__ import annotations

from typing import Literal

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.trace.signal_chain import Chain
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.notebook.trace.trace_view import SignalView, signal_view
from candor.sitting.commands import trace_commands
from candor.words.trace_words import say_trail


class SignalPanel(QWidget):
    """The chain and its looks.

    Signals
    -------
    chosenAnew()
        Another place along the chain is in hand.
    """

    chosenAnew = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._chosen, self._offered = "", ""
        self.words = label("", "heading", bold=True)
        self.chain = Chain(theme)
        self.stage = Field()
        self.stage.setPlaceholderText("another stage, in the order of the signal: mixer, weight 2, 5 min, band 8..12")
        self.stage.setAccessibleName("Another stage")
        self.lead = button("Lead proved", "The lead that looks and the signal put in were proved", name="choice")
        self.lead.setCheckable(True)
        self.good = button("Good", "The signal behind this stage is as it should be", "G")
        self.bad = button("Bad", "It is not", "B")
        self.odd = button("Odd", "It is there, and not as it should be", "O")
        self.lifted = QCheckBox("lifted or pulled")
        self.lifted.setToolTip(
            "A connection behind it was lifted, or the next tube pulled: what is seen speaks of "
            "what lies before alone"
        )
        self.value = Field()
        self.value.setPlaceholderText("or a number: gain, ratio, distortion")
        self.value.setAccessibleName("A number read behind the stage")
        self.back = button("Strike the last look", "Undo: it stays readable")
        self.cause = Field()
        self.cause.setPlaceholderText("the cause, in a line")
        self.cause.setAccessibleName("The cause")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(8))
        column.addWidget(self.words)
        column.addWidget(self.chain)
        column.addLayout(flow(theme.px(8), self.good, self.bad, self.odd, self.lifted, self.lead, self.back))
        for widget in (self.value, self.stage, self.cause):
            column.addWidget(widget)
        column.addStretch()
        self.chain.picked.connect(self.choose)
        self.stage.returnPressed.connect(lambda: self._jot(f"stage {self.stage.text().strip()}", self.stage))
        self.value.returnPressed.connect(
            lambda: self._jot(f"behind {self._place()} {self.value.text().strip()}", self.value)
        )
        self.cause.returnPressed.connect(self._end)
        self.lead.clicked.connect(self._prove)
        self.back.clicked.connect(self._strike)
        self.good.clicked.connect(lambda: self.look("good"))
        self.bad.clicked.connect(lambda: self.look("bad"))
        self.odd.clicked.connect(lambda: self.look("odd"))

    def view(self) -> SignalView | None:
        """The chain as it stands."""
        return signal_view(self._in_hand.job) if self._in_hand.job is not None else None

    def _place(self) -> str:
        view = self.view()
        if view is None:
            return ""
        names = [stage.name for stage in view.stages]
        if self._chosen in names:
            return self._chosen
        return names[view.next.behind] if view.next is not None else names[0]

    def show_job(self) -> None:
        """Show the chain."""
        job, view = self._in_hand.job, self.view()
        if job is None:
            return
        place = self._place()
        if self.cause.text() == self._offered:  # what was typed oneself stays
            self._offered = say_trail(view.trail) if view is not None and not job.trace.causes else ""
            self.cause.setText(self._offered)
        self.chain.show_chain(view, place)
        self.chain.setVisible(view is not None)
        for widget in (self.good, self.bad, self.odd, self.lifted, self.lead, self.back, self.value, self.cause):
            widget.setVisible(view is not None)
        self.lead.setChecked(job.trace.lead is not None)
        self.back.setEnabled(bool(job.trace.looks))
        if view is None:
            self.words.setText("Name the stages, in the order in which the signal goes through them")
        elif job.trace.causes:
            self.words.setText(f"Found: {job.trace.causes[-1].body.text}")
        elif view.trail:
            self.words.setText(say_trail(view.trail))
        elif job.trace.lead is None:
            self.words.setText("First prove the test lead on a known signal")
        elif view.next is not None:
            stage = view.stages[view.next.behind].name
            self.words.setText(
                f"Next: behind {stage}, expected to tell {view.next.bits:.2f} of a yes or no, "
                f"{view.next.minutes:g} min"
            )
        else:
            self.words.setText("No look would tell more: lift a connection, or measure")

    def choose(self, stage: str) -> None:
        """Take a place along the chain in hand."""
        self._chosen = stage
        self.show_job()
        self.chosenAnew.emit()

    def look(self, outcome: Literal["good", "bad", "odd"]) -> None:
        """Write a look behind the stage in hand."""
        place = self._place()
        if place and self._writer.do(trace_commands.look(place, outcome, self.lifted.isChecked())):
            self._chosen = ""
            self.lifted.setChecked(False)
            self.show_job()
            self.chosenAnew.emit()

    def _jot(self, text: str, field: Field) -> None:
        job = self._in_hand.job
        if job is None:
            return
        try:
            jot = understand_at("trace", text)
            if jot is None:
                self._voice.refuse(f"“{field.text().strip()}” cannot be read. Example: {field.placeholderText()}")
            elif self._writer.jot(jot):
                field.clear()
                self._chosen = ""
                self.show_job()
        except CandorError as error:
            self._voice.refuse(error)

    def _prove(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        if job.trace.lead is None:
            self._writer.do(trace_commands.prove_lead())
        else:
            self._writer.strike(job.trace.lead)

    def _strike(self) -> None:
        job = self._in_hand.job
        if job is not None and job.trace.looks:
            self._writer.strike(job.trace.looks[-1])

    def _end(self) -> None:
        text = self.cause.text().strip()
        self._offered = self.cause.text()
        if text and self._writer.do(trace_commands.cause(text)):
            self.cause.setText("")

    def explain(self, because: Because) -> None:
        """Say what the looks tell."""
        view = self.view()
        because.show_whole(None)
        if view is None:
            because.show_words(
                "The signal",
                [
                    "One stage a line, in the order of the signal. The weight says how often it fails compared with the others."
                ],
            )
            return
        ranked = sorted(zip((s.name for s in view.stages), view.belief, strict=False), key=lambda x: -x[1])[:4]
        lead = f"The lead itself: {100 * view.belief[-1]:.0f} %." if view.belief[-1] > 0.005 else ""
        because.show_words(
            "Where the fault is",
            [" · ".join(f"{name} {100 * p:.0f} %" for name, p in ranked), *([lead] if lead else []),
             "A look is taken to be right in 98 of 100 [common practice, no source]; belief follows by Bayes' rule. "
                 "The next look is the one with "
             "the most expected information for its minutes."],
        )  # fmt: skip
