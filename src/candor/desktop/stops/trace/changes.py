"""The ledger of changes: each with the check that proved it; what is not proven stands first."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.row_list import Row, RowList
from candor.sitting.commands import trace_commands
from candor.words.trace_words import say_worsened


class ChangesPanel(QWidget):
    """One change, one check."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self.words = label("", "heading", bold=True)
        self.list = RowList(theme, "Changes", wrap=True)
        self.change = Field()
        self.change.setPlaceholderText("what was changed: replaced R7 with 270k; one thing")
        self.change.setAccessibleName("A change")
        self.check = Field()
        self.check.setPlaceholderText("what proved the newest: tap reads 1/11 of the line")
        self.check.setAccessibleName("The check that proves it")
        self.worse = Field()
        self.worse.setPlaceholderText("what worked and stopped working")
        self.worse.setAccessibleName("What stopped working")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (self.words, self.list, self.change, self.check, self.worse):
            column.addWidget(widget)
        column.addStretch()
        self.change.returnPressed.connect(self._change)
        self.check.returnPressed.connect(self._prove)
        self.worse.returnPressed.connect(self._worsen)

    def show_job(self) -> None:
        """Show the ledger, what is not proven first."""
        job = self._in_hand.job
        if job is None:
            return
        unproven = {e.id for e in job.stay.unproven}
        self.words.setText(f"{len(unproven)} not proven" if unproven else "Every change was checked")
        rows = []
        for e in sorted(job.stay.changes, key=lambda e: (e.id not in unproven, -e.number)):
            proof = job.stay.proofs.get(e.id)
            under = f"checked: {proof.body.check}" if proof is not None else "not proven: what checks it?"
            rows.append(
                Row(e.id, e.body.text, f"{under} · entry {e.number}", "full" if proof is not None else "ring")
            )
        if job.trace.worsened:
            last = job.trace.worsened[-1]
            rows.insert(0, Row("", f"stopped working: {last.body.text}", f"entry {last.number}", "cross"))
        self.list.show_rows(tuple(rows), "")
        self.list.setVisible(bool(rows))
        self.list.fit(9)
        self.check.setVisible(bool(unproven))

    def _change(self) -> None:
        job, text = self._in_hand.job, self.change.text().strip()
        if job is None or not text:
            return
        parts = self._in_hand.parts()
        known = {line.part.ref: line.part for line in parts.lines} if parts is not None else {}
        if self._taken(f"did {text}", JotContext(parts=known)):
            self.change.clear()
            self.check.setFocus()

    def _prove(self) -> None:
        job, text = self._in_hand.job, self.check.text().strip()
        if job is not None and job.stay.unproven and text and self._taken(f"checked {text}", JotContext()):
            self.check.clear()

    def _taken(self, line: str, context: JotContext) -> bool:
        try:
            return self._writer.jot(understand(line, context), line)
        except CandorError as error:
            self._voice.refuse(error)
            return False

    def _worsen(self) -> None:
        text = self.worse.text().strip()
        if text and self._writer.do(trace_commands.worsened(text)):
            self.worse.clear()

    def explain(self, because: Because) -> None:
        """Say why one at a time."""
        because.show_whole(None)
        because.show_words(
            "One change, one check",
            [say_worsened(self._in_hand.job) if self._in_hand.job and self._in_hand.job.stay.unproven else "Nothing waits for "
                "its check.",
             "Check each change before you make the next. Disturbing something is a change, and so is swapping a tube. Joints "
             "soldered anew together are one change with one check. Do simple things first, and write down whether they helped."],
        )  # fmt: skip
