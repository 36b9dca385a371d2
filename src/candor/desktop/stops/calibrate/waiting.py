"""What stands in the middle of the page at a step without a dial: a check, or a wait that runs."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.core.quantities.show import countdown
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.glyphs import Glyph
from candor.notebook.work.assessment import step_state

_WORDS = {"open": "not done yet", "done": "done", "running": "running", "skipped": "left out"}
_SHAPES = {"open": "ring", "done": "full", "running": "running", "skipped": "skipped"}


class StepCard(QWidget):
    """The state of a check or a wait, large enough to be seen while both hands are busy."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, clock: Clock, hand: Hand) -> None:
        super().__init__()
        self._theme, self._hand = theme, hand
        self._in_hand, self._clock = in_hand, clock
        self.glyph = Glyph(theme, 26)
        self.time = label("", "hand", bold=True, wrap=False)
        self.words = label("", "soft")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(20), 0, theme.px(20))
        row = QHBoxLayout()
        row.setSpacing(theme.px(12))
        row.addWidget(self.glyph, 0, Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.time)
        row.addStretch()
        column.addLayout(row)
        column.addWidget(self.words)
        column.addStretch()

    def show_step(self) -> None:
        """Show the step in hand."""
        step, job = self._hand.step, self._in_hand.job
        if step is None or job is None or step.point is not None:
            return
        state = step_state(job, step, self._clock.now(), self._in_hand.states)
        self.glyph.show_shape(_SHAPES[state])
        self.time.setText(_WORDS[state])
        words = "Space when it is done." if state == "open" else ""
        if step.kind == "wait":
            words = f"{step.seconds / 60:g} min. The timer runs while you are elsewhere and tells you when it ends."
        if step.key in job.calibrate.done:
            entry = job.calibrate.done[step.key]
            words = f"Entry {entry.number}, {entry.at.astimezone():%Y-%m-%d %H:%M}, {entry.who}."
        self.words.setText(words)
        self.show_time()

    def show_time(self) -> None:
        """Let a running wait count down."""
        step, job = self._hand.step, self._in_hand.job
        timer = job.calibrate.timer_of(step.key) if step is not None and job is not None else None
        if timer is None or step is None or step.point is not None or job is None:
            return
        left = round(timer.left(self._clock.now()))
        if left > 0:
            self.time.setText(countdown(left))
        else:
            self.time.setText("over")
            self.glyph.show_shape("full")
