"""Which parts to measure first: worked out beside the window, said above the list."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject

from candor.core.suspects.measure_first import MeasureFirst
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.frame.theme import label
from candor.desktop.widgets.worker import Work
from candor.notebook.parts.known_values import known_ohms
from candor.notebook.work.measuring_first import first_of
from candor.words.first_words import say_first


class FirstParts(QObject):
    """The line, a `label` that is hidden while nothing can be said."""

    def __init__(self, in_hand: JobInHand) -> None:
        super().__init__()
        self.label = label("", "soft")
        self.label.hide()
        self._in_hand = in_hand
        self._of: tuple[object, ...] = ()
        self._work = Work(self)
        self._work.answered.connect(self._show)

    def show_job(self) -> None:
        """Say it of the job in hand, anew where its circuit or what was measured is another."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None:
            return
        asked = (job.id, pack.digest, measured := known_ohms(job))
        if asked == self._of:
            return
        if self._of[:1] != asked[:1]:
            self.label.hide()  # what was said of another job
        self._of = asked

        def work(_should_stop: Callable[[], bool]) -> MeasureFirst:
            return first_of(pack, measured)

        self._work.start(work)

    def finish(self) -> None:
        """Stop as the window closes."""
        self._work.finish()

    def _show(self, answer: object) -> None:
        said = say_first(answer) if isinstance(answer, MeasureFirst) else ""
        self.label.setText(said)
        self.label.setVisible(bool(said))
