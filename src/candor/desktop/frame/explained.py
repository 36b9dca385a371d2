"""What explains the errors of the run in hand: calculated beside the window with every reading, the outdated dropped."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from candor.core.calibration.run import RunResult
from candor.desktop.frame.theme import label
from candor.desktop.widgets.controls import line
from candor.desktop.widgets.worker import Work
from candor.notebook.work.job import Job
from candor.notebook.work.suspecting import Suspected, suspect_run
from candor.packs.model import Pack
from candor.words.suspects_words import say_suspected

MOST = 8  # lines


class Explained(QWidget):
    """A few lines: the likeliest with how far off it is and how sure that is, what is done about it, what else may, what to read.

    Attributes
    ----------
    ghost : callable
        Is given, by point, the errors that the likeliest would make, in limits, and what that is; nothing where nothing stands out.
    """

    def __init__(self) -> None:
        super().__init__()
        self.ghost: Callable[[Mapping[str, float], str], None] = lambda *_: None
        self.setObjectName("body")
        self._of: tuple[object, ...] = ()
        self._work = Work(self)
        self._work.answered.connect(self._show)
        self._work.failed.connect(lambda _: self._show(None))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(line())
        column.addWidget(label("what explains the errors", "soft"))
        self.lines: list[QLabel] = []
        for place in range(MOST):
            made = label("", "text" if place == 0 else "note")
            column.addWidget(made)
            self.lines.append(made)
        self.hide()

    def show_run(self, job: Job | None, pack: Pack | None, run: RunResult | None) -> None:
        """Calculate it anew where a reading, or a part that was measured, is another; nothing where there is no run."""
        if job is None or pack is None or run is None:
            self._of = ()
            self._work.cancel()
            self._show(None)
            return
        read = tuple((key, r.error, r.coverage.expanded) for key, r in run.results.items())
        measured = tuple((ref, len(entries)) for ref, entries in job.parts.measured.items())
        asked = (job.id, run.phase, read, measured)
        if asked == self._of:
            return
        if self._of[:2] != asked[:2]:
            self._show(None)
        self._of = asked
        self._work.start(lambda should_stop: suspect_run(job, pack, run, should_stop))

    def _show(self, found: Suspected | None) -> None:
        said = [] if found is None else say_suspected(found)
        for place, made in enumerate(self.lines):
            made.setText(said[place] if place < len(said) else "")
            made.setVisible(place < len(said))
        self.setVisible(bool(said))
        drawn = found is not None and found.stands_out
        self.ghost(found.ghost if found is not None and drawn else {}, said[0] if drawn else "")

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()
