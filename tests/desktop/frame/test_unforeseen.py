"""What nobody thought of is said and kept."""

import sys
import threading

import pytest
from PySide6.QtCore import QTimer

from candor.desktop.frame.unforeseen import Unforeseen, log_path
from candor.desktop.widgets.worker import Work


@pytest.fixture
def unforeseen(notebook):
    made = Unforeseen(notebook)
    made.put_in_place()
    yield made
    made.take_away()


def test_an_error_nobody_thought_of_is_said_and_kept_with_its_trace(qtbot, bench, unforeseen):
    unforeseen.happened.connect(bench.bench.voice.warn)
    bench.jot.edit.setText("a line half written")

    def slip():
        raise ZeroDivisionError("by nought")

    QTimer.singleShot(0, slip)
    qtbot.waitUntil(bench.warning.isVisible)
    assert "ZeroDivisionError: by nought" in bench.warning.words.text()
    assert "“bench log.txt” beside the notebook" in bench.warning.words.text()
    assert bench.jot.edit.text() == "a line half written"
    log = log_path(bench.bench.notebook.path).read_text()
    assert "in slip" in log
    assert "by nought" in log


def test_an_error_in_a_thread_or_in_long_work_is_not_swallowed(qtbot, bench, unforeseen):
    said, failed = [], []
    unforeseen.happened.connect(said.append)
    thread = threading.Thread(target=lambda: 1 / 0)
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: len(said) == 1)
    work = Work(bench)
    work.failed.connect(failed.append)
    work.start(lambda _: {}["gone"])
    qtbot.waitUntil(lambda: len(said) == 2)
    assert "KeyError" in said[1]
    assert failed == ["This could not be worked out: an error that was not foreseen."]
    work.finish()
    assert log_path(bench.bench.notebook.path).read_text().count("Traceback") == 2


def test_a_log_that_cannot_be_written_is_said_too(notebook, unforeseen, monkeypatch):
    said = []
    unforeseen.happened.connect(said.append)
    monkeypatch.setattr(sys, "__excepthook__", lambda *_: None)
    log_path(notebook.path).mkdir()
    sys.excepthook(ValueError, ValueError("x"), None)
    assert said[0].endswith("how it came could not be kept.")
