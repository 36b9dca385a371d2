"""Random hands in the real window: it is clicked, typed into and walked through at random, and nothing ends in a traceback.

Run:  QT_QPA_PLATFORM=offscreen PYTHONPATH=src python bench/random_hands.py NOTEBOOK SEED DEEDS
Prints every traceback with the last deeds before it, and how many deeds there were.
"""

from __future__ import annotations

import random
import sys
import traceback
from pathlib import Path
from types import TracebackType
from typing import TypeVar

from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QDialog,
    QFileDialog,
    QLineEdit,
    QMenu,
    QWidget,
)

from candor.core.jot.rows import VERBS
from candor.desktop.app import make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.window import Window
from candor.links import looking_for
from candor.notebook.store import Notebook
from candor.notebook.work.progress import STOPS

W = TypeVar("W", bound=QWidget)
LINES = [example for verb in VERBS for example in verb.examples]
JUNK = [
    "",
    "a" * 300,
    "“",
    "<b>x</b>",
    "1.5 5 15 V",
    *["0", "-1", "1e99", "∞", "nan", "5..", "%", "1/0", "=", "@", "3%", "R1", "."],
]
_KEYS = "Space Escape Tab Down Up Delete Backspace PageDown F11 F2 F1 F7 Return M C R"
KEYS = [getattr(Qt.Key, f"Key_{name}") for name in _KEYS.split()]
NOT_PRESSED = ("Quit", "Close", "Print …")  # they end the window, or ask the machine's printers


class Hands:
    """Hands on a window, by a seed."""

    def __init__(self, window: Window, seed: int) -> None:
        self.window, self.rng = window, random.Random(seed)
        self.done: list[str] = []

    def deed(self) -> None:
        """Do one thing that a hand could do now."""
        share = self.rng.random()
        for most, do in (
            (0.35, self._click),
            (0.6, self._type),
            (0.75, self._jot),
            (0.85, self._row),
            (0.92, self._choose),
        ):
            if share < most:
                do()
                break
        else:
            key = self.rng.choice(KEYS)
            self.done.append(f"key {key.name}")
            QTest.keyClick(QApplication.focusWidget() or self.window, key)
        if self.rng.random() < 0.05:
            self.window.go_to_stop(self.rng.choice(STOPS))
        QApplication.processEvents()

    def _seen(self, kind: type[W]) -> list[W]:
        return [w for w in self.window.findChildren(kind) if w.isVisible() and w.isEnabled()]

    def _click(self) -> None:
        found = [
            b
            for b in self._seen(QAbstractButton)
            if not any(w in f"{b.text()}{b.accessibleName()}" for w in NOT_PRESSED)
        ]
        if found:
            button = self.rng.choice(found)
            self.done.append(f"click {button.text() or button.accessibleName()}")
            QTest.mouseClick(button, Qt.MouseButton.LeftButton)

    def _write(self, edit: QLineEdit, words: str) -> None:
        edit.setFocus()
        edit.clear()
        edit.insert(words[:-1])
        if words and words[-1].isascii():
            QTest.keyClicks(edit, words[-1])
        if self.rng.random() < 0.7:
            QTest.keyClick(edit, Qt.Key.Key_Return)

    def _type(self) -> None:
        found = self._seen(QLineEdit)
        if found:
            edit, words = self.rng.choice(found), self.rng.choice(LINES if self.rng.random() < 0.4 else JUNK)
            self.done.append(f"type {words[:60]!r} into {edit.accessibleName()}")
            self._write(edit, words)

    def _jot(self) -> None:
        words = self.rng.choice(LINES)
        self.done.append(f"jot {words!r}")
        self._write(self.window.jot.edit, words)
        if self.rng.random() < 0.4:
            QTest.keyClick(self.window.jot.edit, Qt.Key.Key_Return)

    def _row(self) -> None:
        found = [v for v in self._seen(QAbstractItemView) if v.model() is not None and v.model().rowCount()]
        if found:
            view = self.rng.choice(found)
            index = view.model().index(self.rng.randrange(view.model().rowCount()), 0)
            self.done.append(f"row {index.row()} of {view.accessibleName()}")
            view.scrollTo(index, QAbstractItemView.ScrollHint.EnsureVisible)
            QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=view.visualRect(index).center())

    def _choose(self) -> None:
        found = [box for box in self._seen(QComboBox) if box.count()]
        if found:
            box = self.rng.choice(found)
            place = self.rng.randrange(box.count())
            self.done.append(f"choose {place} of {box.accessibleName()}")
            box.setCurrentIndex(place)
            box.activated.emit(place)


def close_dialogs(window: Window) -> None:
    """Close what asks something of its own: nobody is there to answer."""
    for widget in QApplication.topLevelWidgets():
        if widget is not window and widget.isVisible() and isinstance(widget, QDialog | QMenu):
            widget.close()


def main() -> None:
    """Let the hands work, and print what was thrown."""
    path, seed, deeds = Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])
    for name in ("getOpenFileName", "getOpenFileNames", "getSaveFileName"):
        setattr(QFileDialog, name, staticmethod(lambda *_, **__: ("", "")))
    QFileDialog.getExistingDirectory = staticmethod(lambda *_, **__: "")
    looking_for.look_for_instruments = lambda: ()  # these hands never call into a network
    make_application()
    window, _ = make_window(Notebook(path, "hands"), Preferences("light", 1.0, path.with_name("look.json")))
    window.resize(*random.Random(seed).choice(((1280, 800), (1024, 700))))
    window.show()
    hands = Hands(window, seed)

    def thrown(kind: type[BaseException], value: BaseException, trace: TracebackType | None) -> None:
        print("after", "; ".join(hands.done[-6:]))
        print("".join(traceback.format_exception(kind, value, trace)), flush=True)

    sys.excepthook = thrown
    timer = QTimer()
    timer.timeout.connect(lambda: close_dialogs(window))
    timer.start(100)
    for _ in range(deeds):
        if not window.isVisible():
            break
        hands.deed()
    print(f"{len(hands.done)} deeds")
    window.close_now()


if __name__ == "__main__":
    main()
