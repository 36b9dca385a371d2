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
from candor.notebook.work.barriers import Barrier as Bar
from candor.notebook.work.barriers import barrier
from candor.sitting.commands import arrive_commands, parts_commands


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

    @property
    def stands(self) -> bool:
        """Whether anything bars power."""
        return barrier(self._in_hand.job, self._in_hand.parts()) is not None

    def show_job(self) -> None:
        """Show the first open hazard, or nothing."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        self.setVisible(found is not None)
        if found is not None:
            self.cleared.setVisible(found.can_be_cleared)
            self.words.say(found.sentence)

    def _settle(self, how: str) -> None:
        found, reason = barrier(self._in_hand.job, self._in_hand.parts()), self.reason.text().strip()
        if found is None:
            return
        if not reason:
            self._voice.refuse(
                "Write first how it was cleared, or why it may stand; nothing was written."
                if found.can_be_cleared
                else "Write first why the set may see power; nothing was written."
            )
            self.reason.setFocus()
        elif self._written(found, how, reason):
            self.reason.clear()

    def _written(self, found: Bar, how: str, reason: str) -> bool:
        if found.hazard is not None:
            return self._writer.settle(found.hazard.entry.id, how, reason)
        if found.missed is not None and how == "cleared":
            return self._writer.do(arrive_commands.account_for(found.missed.id, reason))
        return self._writer.do(parts_commands.override(found.kind, reason))
