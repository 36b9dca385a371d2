"""Drives an installed Candor as its user's hands would: `python drive.py NOTEBOOK`, by the Python that it is installed for.

Opens the window on the notebook, goes to every stop of every job that it holds, begins a new one by its name, types a range and
readings, and says what was judged. It fails if a key that was pressed wrote nothing.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from candor.desktop.app import make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.notebook.shelf import shelf
from candor.notebook.store import Notebook
from candor.notebook.work.progress import STOPS

LINES = (
    "range DC volts 30 V 30 div 3%fs",
    "10.1 ref 10.0",
    "20.1 ref 20.0",
    "30.2 ref 30.0",
    "did cleaned the range switch",
)


def main(notebook: Path) -> None:
    """Drive a window on the notebook and print what came of it."""
    make_application()
    store = Notebook(notebook, "tester")
    window, _ = make_window(store, Preferences("light", 1.0, notebook.with_name("look.json")))
    window.show()
    _go_on()
    held = [line.job for line in shelf(store, store.clock())]
    for job in held:
        window.shelf.job.emit(job)
        for stop in STOPS:
            window.go_to_stop(stop)
            _go_on()
    window.enter_room("new job")
    _typed(window.new_job.name, "Halvergate vacuum tube voltmeter VX-4 no. 1187")
    _go_on()
    begun = window.bench.in_hand.job.id
    window.go_to_stop("calibrate")
    for line in LINES:
        before = len(store.entries_of(begun))
        _typed(window.jot.edit, line)
        _go_on()
        if len(store.entries_of(begun)) == before:
            sys.exit(f"driven: {line!r} wrote nothing: {window.jot.message.text()}{window.jot.reason.text()}")
    found = window.bench.in_hand.found
    points = found.points if found is not None else ()
    print(
        f"driven: {len(held)} kept jobs looked at in {len(STOPS)} stops each, one begun, {len(points)} points judged"
    )
    window.close_now()
    store.close()


def _typed(edit: QLineEdit, text: str) -> None:
    edit.setFocus()
    edit.clear()
    QTest.keyClicks(edit, text)
    QTest.keyClick(edit, Qt.Key.Key_Return)


def _go_on(seconds: float = 0.3) -> None:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        QApplication.processEvents()
        time.sleep(0.01)


if __name__ == "__main__":
    main(Path(sys.argv[1]))
