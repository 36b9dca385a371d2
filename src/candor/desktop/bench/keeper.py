"""Backups of a window's notebook: daily beside it and to a place of one's choice, beside the work; a missed one is said."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.worker import Work
from candor.notebook.storage.backup import Made, Missed, back_up, is_due, missed, own_folder
from candor.notebook.store import Notebook
from candor.words.faults import say_backup, say_missed

FIRST_TICKS, TICKS = 60, 600  # of the bench's clock, s: after the start, and from then on


class Keeper(QObject):
    """Makes backups in a thread of its own.

    Signals
    -------
    changed()
        One was made, or could not be.
    """

    changed = Signal()

    def __init__(self, notebook: Notebook, shop: Shop, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._shop, self._voice = notebook, shop, voice
        self._ticks = TICKS - FIRST_TICKS
        self._failed: dict[Path, str] = {}
        self.running = False
        self._asked = False
        self._work = Work(self)
        self._work.answered.connect(self._made)
        self._work.failed.connect(self._broke)

    def folders(self) -> tuple[Path, ...]:
        """Return where backups go."""
        chosen = self._shop.record.details.get("backup_to", "")
        own = own_folder(self._notebook.path)
        return (own, Path(chosen)) if chosen else (own,)

    def tick(self) -> None:
        """A second went by: every ten minutes it is looked whether one is due."""
        self._ticks += 1
        if self._ticks < TICKS or self.running:
            return
        self._ticks = 0
        now = self._notebook.clock()
        due = tuple(folder for folder in self.folders() if is_due(self._notebook.path, folder, now))
        if due:
            self._start(due)

    def back_up(self) -> None:
        """Make one now, everywhere."""
        self._asked = True
        self._start(self.folders())

    def missed(self) -> tuple[Missed, ...]:
        """Return the places where backups are missed."""
        path, now = self._notebook.path, self._notebook.clock()
        found = (missed(path, folder, now, self._failed.get(folder, "")) for folder in self.folders())
        return tuple(m for m in found if m is not None)

    def missed_words(self) -> str:
        """What is said of the first place where backups are missed; nothing where there is none."""
        found = self.missed()
        return say_missed(found[0]) if found else ""

    def cancel(self) -> None:
        """Stop the one that is being made; nothing of it is left."""
        self._work.cancel()
        self.running = self._asked = False
        self.changed.emit()

    def finish(self) -> None:
        """Stop as the window closes."""
        self._work.finish()

    def _start(self, folders: tuple[Path, ...]) -> None:
        path, now = self._notebook.path, self._notebook.clock()
        self.running = True

        def work(should_stop: object) -> tuple[tuple[Path, Made | str], ...]:
            found: list[tuple[Path, Made | str]] = []
            for folder in folders:
                try:
                    made = back_up(path, folder, now, should_stop)  # type: ignore[arg-type]
                except CandorError as error:
                    found.append((folder, str(error)))
                    continue
                if made is not None:
                    found.append((folder, made))
            return tuple(found)

        self._work.start(work)
        self.changed.emit()

    def _made(self, answer: object) -> None:
        self.running, asked, self._asked = False, self._asked, False
        for folder, made in answer if isinstance(answer, tuple) else ():
            if isinstance(made, Made):
                self._failed.pop(folder, None)
                if asked or made.faults:
                    self._voice.say(
                        f"Backed up to {say_backup(made)}", Severity.ASK if made.faults else Severity.DONE
                    )
            else:
                self._failed[folder] = made
                if asked:
                    self._voice.refuse(made)
        self.changed.emit()

    def _broke(self, sentence: str) -> None:
        self.running = self._asked = False
        self._voice.refuse(sentence)
        self.changed.emit()
