"""Whether the notebook's file is sound: a large one is looked through beside the window, which is up before that."""

from __future__ import annotations

from PySide6.QtCore import QObject

from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.worker import Work
from candor.notebook.store import Notebook


class Soundness(QObject):
    """Has the file looked through once; warns where it is damaged, and from then on nothing is written."""

    def __init__(self, notebook: Notebook, voice: Voice) -> None:
        super().__init__()
        self._work = Work(self)
        self._work.failed.connect(voice.warn)
        if notebook.unlooked:
            self._work.start(lambda _: notebook.look_through())

    def finish(self) -> None:
        """Stop looking."""
        self._work.finish()
