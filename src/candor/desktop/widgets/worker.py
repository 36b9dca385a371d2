"""Long work off the interface thread: it can be cancelled, and an outdated answer is dropped."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Any

from PySide6.QtCore import QObject, Signal

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
        self._thread: ThreadPoolExecutor | None = None

    def start(self, work: Callable[[Callable[[], bool]], Any]) -> None:
        """Begin `work`; it is given a function that answers True once it should stop."""
        self._newest += 1
        number = self._newest

        def run() -> None:
            if number != self._newest:
                return
            try:
                answer, error = work(lambda: number != self._newest), None
            except CandorError as problem:
                answer, error = None, problem
            self._arrived.emit(number, answer, error)

        if self._thread is None:
            # One thread: what is outdated stops before the next begins.
            self._thread = ThreadPoolExecutor(max_workers=1, thread_name_prefix="candor-work")
        self._thread.submit(run).add_done_callback(lambda done: self._look(number, done))

    def _look(self, number: int, done: Future[None]) -> None:
        error = None if done.cancelled() else done.exception()
        if error is not None:
            self._arrived.emit(number, None, error)

    def cancel(self) -> None:
        """Let the work in hand stop; its answer is dropped."""
        self._newest += 1

    def finish(self) -> None:
        """Cancel and wait until no thread is left."""
        self.cancel()
        if self._thread is not None:
            self._thread.shutdown(wait=True, cancel_futures=True)
            self._thread = None

    def _receive(self, number: int, answer: object, error: object) -> None:
        if error is not None and not isinstance(error, CandorError):
            self.failed.emit("This could not be worked out: an error that was not foreseen.")
            raise error  # type: ignore[misc]  # to where what is not foreseen is said and kept
        if number != self._newest:
            return
        if error is not None:
            self.failed.emit(str(error))
        else:
            self.answered.emit(answer)
