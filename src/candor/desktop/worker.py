"""Long work off the interface thread: it can be cancelled, and an outdated answer is dropped."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from candor.core.errors import CandorError


class Work(QObject):
    """One piece of long work at a time; a new one cancels the one before.

    Signals
    -------
    answered(object)
        The result of the newest work.
    failed(str)
        Its error, as a sentence.
    """

    answered = Signal(object)
    failed = Signal(str)
    _arrived = Signal(int, object, object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._newest = 0
        self._arrived.connect(self._receive)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)  # what is outdated stops before the next begins

    def start(self, work: Callable[[Callable[[], bool]], Any]) -> None:
        """Begin `work`; it is given a function that answers True once it should stop."""
        self._newest += 1
        number = self._newest

        def run() -> None:
            try:
                answer, error = work(lambda: number != self._newest), None
            except CandorError as problem:
                answer, error = None, problem
            self._arrived.emit(number, answer, error)

        self._pool.start(QRunnable.create(run))

    def cancel(self) -> None:
        """Let the work in hand stop; its answer is dropped."""
        self._newest += 1

    def finish(self) -> None:
        """Cancel and wait until no thread is left."""
        self.cancel()
        self._pool.waitForDone()

    def _receive(self, number: int, answer: object, error: object) -> None:
        if number != self._newest:
            return
        if error is not None:
            self.failed.emit(str(error))
        else:
            self.answered.emit(answer)
