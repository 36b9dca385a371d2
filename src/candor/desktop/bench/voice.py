"""What is said to the restorer: a sentence with its severity, once; and warnings, until they are understood."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from candor.core.severity import Severity


class Voice(QObject):
    """The one place that sentences come from.

    Signals
    -------
    told(str, object)
        A sentence and its Severity.
    warned()
        What warns is another: `warnings`.
    """

    told = Signal(str, object)
    warned = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.warnings: tuple[str, ...] = ()
        self._then: dict[str, Callable[[], object]] = {}

    def say(self, sentence: str, severity: Severity = Severity.NOTE) -> None:
        """Say a sentence."""
        self.told.emit(sentence, severity)

    def refuse(self, why: object) -> None:
        """Say why something was not done."""
        self.say(str(why), Severity.REFUSED)

    def warn(self, sentence: str, then: Callable[[], object] | None = None) -> None:
        """Warn until it is understood; `then` is done when it is."""
        if then is not None:
            self._then[sentence] = then
        if sentence not in self.warnings:
            self.warnings = (*self.warnings, sentence)
            self.warned.emit()

    def take_back(self, sentence: str) -> None:
        """Warn of it no more: it is over by itself."""
        self._then.pop(sentence, None)
        if sentence in self.warnings:
            self.warnings = tuple(w for w in self.warnings if w != sentence)
            self.warned.emit()

    def understood(self) -> None:
        """Take away what warns."""
        told, self.warnings = self.warnings, ()
        then = [self._then.pop(sentence) for sentence in told if sentence in self._then]
        self.warned.emit()
        for do in then:
            do()
