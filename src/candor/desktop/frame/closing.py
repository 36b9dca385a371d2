"""Closing while something is live: the source goes to zero first, what was measured is said large, and it asks."""

from __future__ import annotations

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QDialog, QHBoxLayout, QVBoxLayout, QWidget

from candor.desktop.bench.bench import Bench
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.notebook.power.powering import UnderPower

LOOK_MS = 200


class Leaving(QDialog):
    """The one question before a window closes.

    Signals
    -------
    leaving()
        The window may close.
    """

    leaving = Signal()

    def __init__(self, parent: QWidget, theme: Theme, bench: Bench) -> None:
        super().__init__(parent)
        self._bench, self._had_own = bench, False
        self._power = UnderPower(bench.notebook)
        self.setModal(True)
        self.setObjectName("page")
        self.setWindowTitle("Before you close Candor")
        self.setAccessibleName("Before you close Candor")
        self.what = label("", "verdict", bold=True, tint="brick")
        self.advice = label("", "reading")
        self.stay = button("Stay", "Back to the bench", "Esc", "main")
        self.close_all = button("Close all the same", "Candor closes; nothing watches the bench any more")
        self.stay.setDefault(True)
        self.close_all.setAutoDefault(False)
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(20))
        column.setSpacing(theme.px(14))
        column.addWidget(self.what)
        column.addWidget(self.advice)
        row = QHBoxLayout()
        row.addStretch()
        row.addWidget(self.stay)
        row.addWidget(self.close_all)
        column.addLayout(row)
        self.setMinimumWidth(theme.px(560))
        self.stay.clicked.connect(self.reject)
        self.close_all.clicked.connect(self._leave)
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_MS)
        self._timer.timeout.connect(self.look)
        theme.dress(self)

    def live(self) -> tuple[str, ...]:
        """Return what is live as the window closes, empty where nothing is: jobs under power, a run, a source."""
        jobs = tuple(f"{name} is under power: {state}." for name, state in self._power.jobs())
        own = tuple(f"{thing.words}." for thing in self._bench.live_now.things() if thing.own)
        return (*own, *jobs)

    def ask(self) -> None:
        """Switch every source off, and ask."""
        self._had_own = any(thing.own for thing in self._bench.live_now.things())
        self._bench.capture.off()
        self._bench.live.cancel()
        self._timer.start()
        self.look()
        self.open()

    def look(self) -> None:
        """Say what is live still, or that it is not any more; the window grows with its words."""
        self._say()
        layout = self.layout()
        if layout is not None:
            self.setMinimumHeight(layout.heightForWidth(self.width()))

    def _say(self) -> None:
        live = self.live()
        if live:
            self.what.setText("\n".join(live))
            jobs = any("is under power" in words for words in live)
            self.advice.setText(
                "Pull the plug first, and measure. Candor would no longer watch it."
                if jobs
                else "The source was told to go to zero. Do not touch anything until it was measured."
            )
            return
        ended = self._bench.last_told
        self.what.setText("Every source is at zero." if self._had_own else "Nothing is live any more.")
        self.advice.setText(ended if self._had_own else "")
        self.close_all.setText("Close Candor")

    def done(self, result: int) -> None:
        """Look no more."""
        self._timer.stop()
        super().done(result)

    def _leave(self) -> None:
        self.done(0)
        self.leaving.emit()
