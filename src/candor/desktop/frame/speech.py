"""Speech for the arm's-length view, by espeak-ng where it is installed."""

from __future__ import annotations

import shutil

from PySide6.QtCore import QObject, QProcess


class Speech(QObject):
    """Says short sentences aloud once it is switched on."""

    def __init__(self, parent: QObject | None = None, program: str = "espeak-ng") -> None:
        super().__init__(parent)
        self._program = shutil.which(program)
        self.on = False
        self._process: QProcess | None = None

    def toggle(self) -> str:
        """Switch speech on or off and say in a sentence what holds now."""
        if self._program is None:
            return "Speech needs espeak-ng, which is not installed here."
        self.on = not self.on
        return "Speech is on." if self.on else "Speech is off."

    def say(self, sentence: str) -> None:
        """Say a sentence; one that is being said gives way."""
        if not self.on or self._program is None:
            return
        self.stop()
        self._process = QProcess(self)
        self._process.start(self._program, ["--", sentence])

    def stop(self) -> None:
        """Fall silent."""
        if self._process is not None:
            self._process.kill()
            self._process.waitForFinished(500)
            self._process.deleteLater()
            self._process = None
