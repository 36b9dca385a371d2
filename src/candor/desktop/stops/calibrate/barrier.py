"""What bars the way to power, above the steps: cleared or overridden with a written reason."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.notebook.barriers import barrier
from candor.notebook.entries.parts import BarOverridden


class Barrier(QWidget):
    """Why power may not be applied yet, a hazard or a bad sample, and the way past it: cleared, or a written reason."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, theme.px(8))
        self.words = Caution(theme, bold=True)
        self.reason = Field()
        self.reason.setPlaceholderText("How it was cleared, or why it may stand")
        self.reason.setAccessibleName("How the hazard was cleared, or why it may stand")
        self.cleared = button("Cleared", "The hazard is put right, as written")
        self.override = button("Override", "Go on although it stands, for the reason written")
        row = QHBoxLayout()
        row.addWidget(self.reason, 1)
        row.addWidget(self.cleared)
        row.addWidget(self.override)
        column.addWidget(self.words)
        column.addLayout(row)
        self.cleared.clicked.connect(lambda: self._settle("cleared"))
        self.override.clicked.connect(lambda: self._settle("overridden"))

    def show_job(self) -> None:
        """Show the first open hazard, or nothing."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        self.setVisible(found is not None)
        if found is not None:
            self.cleared.setVisible(found.hazard is not None)
            self.words.say(found.sentence)

    def _settle(self, how: str) -> None:
        job = self._in_hand.job
        if job is not None and not job.arrive.open_hazards:
            self._override_sample()
        elif job is not None:
            if self._writer.settle(job.arrive.open_hazards[0].entry.id, how, self.reason.text()):
                self.reason.clear()
            else:
                self.reason.setFocus()

    def _override_sample(self) -> None:
        reason = self.reason.text().strip()
        if not reason:
            self._voice.refuse("Write first why the set may see power; nothing was written.")
            self.reason.setFocus()
        elif self._writer.write(BarOverridden(bar="sample", reason=reason)):
            self.reason.clear()
