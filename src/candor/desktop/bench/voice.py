"""What is said to the restorer: a sentence with its severity, once; and warnings, until they are understood."""

from __future__ import annotations

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

    def say(self, sentence: str, severity: Severity = Severity.NOTE) -> None:
        """Say a sentence."""
        self.told.emit(sentence, severity)

    def refuse(self, why: object) -> None:
        """Say why something was not done."""
        self.say(str(why), Severity.REFUSED)

    def warn(self, sentence: str) -> None:
        """Warn until it is understood."""
        if sentence not in self.warnings:
            self.warnings = (*self.warnings, sentence)
            self.warned.emit()

    def understood(self) -> None:
        """Take away what warns."""
        self.warnings = ()
        self.warned.emit()
