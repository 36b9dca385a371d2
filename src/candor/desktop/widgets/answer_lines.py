"""A few lines that are calculated beside the window: asked anew where what they rest on is another, the outdated dropped."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from candor.desktop.frame.theme import label
from candor.desktop.widgets.controls import line
from candor.desktop.widgets.worker import Work


class AnswerLines(QWidget):
    """Lines under a heading; hidden where nothing is said.

    Parameters
    ----------
    heading : str
    most : int
        Lines that are shown at most.
    say : callable
        What is said of an answer.
    """

    def __init__(self, heading: str, most: int, say: Callable[[Any], Sequence[str]]) -> None:
        super().__init__()
        self._say = say
        self.setObjectName("body")
        self._of: tuple[object, ...] = ()
        self._work = Work(self)
        self._work.answered.connect(self.show_answer)
        self._work.failed.connect(lambda _: self.show_answer(None))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(line())
        column.addWidget(label(heading, "soft"))
        self.lines: list[QLabel] = []
        for place in range(most):
            made = label("", "text" if place == 0 else "note")
            column.addWidget(made)
            self.lines.append(made)
        self.hide()

    def ask(
        self, asked: tuple[object, ...], work: Callable[[Callable[[], bool]], Any] | None, *, same: int = 1
    ) -> None:
        """Calculate it anew where it is asked of something else.

        Parameters
        ----------
        asked : tuple
            What the answer rests on.
        work : callable or None
            Is given whether it should stop; None clears what is shown.
        same : int
            How many of the first of `asked` say that it is still the same thing: else the answer before is taken away at once.
        """
        if work is None:
            self._of = ()
            self._work.cancel()
            self.show_answer(None)
            return
        if asked == self._of:
            return
        if self._of[:same] != asked[:same]:
            self.show_answer(None)
        self._of = asked
        self._work.start(work)

    def show_answer(self, found: Any) -> None:
        """Show what is said of an answer; nothing of None."""
        said = () if found is None else self._say(found)
        for place, made in enumerate(self.lines):
            made.setText(said[place] if place < len(said) else "")
            made.setVisible(place < len(said))
        self.setVisible(bool(said))

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()
