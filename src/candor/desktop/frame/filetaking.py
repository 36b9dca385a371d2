"""Files that come to the window: chosen, pasted or dropped; each is shown as it is understood before anything is taken in."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, cast

from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QStackedWidget, QWidget

from candor.core.severity import Severity
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.named_pages import NamedPages
from candor.desktop.frame.pages import SHOP_ROOMS, Pages

if TYPE_CHECKING:
    from candor.desktop.bench.bench import Bench
    from candor.desktop.bench.reading_in_hand import Hand
    from candor.desktop.frame.jotbar import JotBar
    from candor.desktop.frame.page import Page

READINGS_FILES = (".csv", ".tsv", ".txt")


class FileTaking(NamedPages):
    """What a window does with files."""

    if TYPE_CHECKING:
        bench: Bench
        hand: Hand
        jot: JotBar
        work: QStackedWidget
        _came_from: QWidget | None
        rooms: Pages

        def enter_room(self, room: str) -> None: ...
        def _explain(self) -> None: ...
        def go_to_stop(self, stop: str) -> None: ...

    def _read_first(self, step: str) -> None:
        self.go_to_stop("calibrate")
        if step:
            self.bench.place.go("calibrate", step)

    def _shop_room(self) -> str:
        """The room of the shop one is in, where undoing takes back what was done there; empty at a stop of a job."""
        page = (
            self._came_from
            if self.work.currentWidget() is self.rooms.there("from file")
            else self.work.currentWidget()
        )
        return next((name for name in SHOP_ROOMS if page is not None and page is self.rooms.there(name)), "")

    def _undo(self) -> None:
        """Take back what was last done: on the page, where it has undoing of its own, else what was last written."""
        if not cast("Page", self.work.currentWidget()).undo():
            self.bench.writer.undo()

    def _redo(self) -> None:
        if not cast("Page", self.work.currentWidget()).redo():
            self.bench.writer.redo()

    def _ask_file(self) -> None:
        point = self.hand.point
        if point is not None and self.bench.place.stop == "calibrate" and point.figure:
            self.enter_room("waveform")  # what is read there are samples, not readings
            return
        name = open_name(QApplication.activeWindow(), "Readings", "Readings (*.csv *.tsv *.txt)")
        if name:
            self.preview_file(Path(name))

    def preview_file(self, path: Path) -> None:
        """Show how a file is understood."""
        self._came_from = None
        if self.bench.place.stop == "parts":
            self.parts.preview_file(path)
        elif self.from_file.show_file(path):
            self.work.setCurrentWidget(self.from_file)
            self._explain()

    def _paste_readings(self) -> None:
        text = QApplication.clipboard().text()
        if not text.strip():
            self.jot.tell(
                "The clipboard holds no text. Expected: a table: range, reading, reference.", Severity.REFUSED
            )
        elif self.from_file.show_readings("The clipboard", text.encode("utf-8")):
            self._came_from = None
            self.work.setCurrentWidget(self.from_file)
            self._explain()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls()]
        if paths and paths[0].suffix.lower() in READINGS_FILES:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.preview_file(Path(event.mimeData().urls()[0].toLocalFile()))
