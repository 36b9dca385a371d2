"""What blocks the window is in the log, with where it was."""

import time

from PySide6.QtCore import QTimer

from candor.desktop.frame import watchdog
from candor.desktop.frame.unforeseen import Unforeseen, log_path
from candor.desktop.frame.watchdog import Watchdog


def test_what_stands_still_is_noted_once_it_goes_on_and_nothing_else(qtbot, bench, notebook, monkeypatch):
    monkeypatch.setattr(watchdog, "BLOCKED_S", 1.0)  # beside busy processes a beat may be late
    log = Unforeseen(notebook)
    watching = Watchdog(bench, log.note)
    qtbot.wait(100)
    assert not log_path(notebook.path).exists()
    monkeypatch.setattr("candor.desktop.bench.shelf_in_hand.shelf", lambda *_: time.sleep(2.5) or ())
    QTimer.singleShot(0, bench.bench.shelf.refresh)
    qtbot.waitUntil(lambda: log_path(notebook.path).exists())
    watching.finish()
    log.take_away()
    said = log_path(notebook.path).read_text(encoding="utf-8")
    assert said.count("the window stood still for") == 1
    assert "s at desktop/bench/shelf_in_hand.py:" in said
    assert "refresh" in said
