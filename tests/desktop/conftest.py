"""A window on a notebook, closed again with its threads and timers."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from PySide6.QtCore import QCoreApplication, QEvent

from candor.desktop.app import make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.window import Window
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.store import Notebook, Place
from desk import SCOPE
from workbench import PATIENCE_MS, goes_on, open_job


@pytest.fixture
def show(qtbot, tmp_path, closing) -> Callable[..., Window]:
    """Return a function that shows a window on a notebook."""
    closing.callback(QCoreApplication.sendPostedEvents, None, QEvent.Type.DeferredDelete)

    def window(notebook: Notebook, mode: str = "light", scale: float = 1.0, size=(1280, 800)) -> Window:
        make_application()
        shown, _ = make_window(notebook, Preferences(mode, scale, tmp_path / "look.json"))
        shown.resize(*size)
        closing.callback(shown.deleteLater)
        closing.callback(shown.close_now)
        with qtbot.waitExposed(shown, timeout=PATIENCE_MS):
            shown.show()
        with qtbot.waitActive(shown, timeout=PATIENCE_MS):
            shown.activateWindow()
        return shown

    return window


@pytest.fixture
def bench(show, notebook, pack) -> Window:
    """A window with one job at its first test point, a standard chosen, nothing read."""
    open_job(notebook, pack)
    notebook.keep_place(Place("job1", "calibrate", "plus:as-found:dc+/1.5/0.3"))
    return show(notebook)


@pytest.fixture
def at_75(bench) -> Window:
    """The same at 75 V on the 150 V range."""
    bench.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    return bench


@pytest.fixture
def scope(show, notebook):
    """A window with an oscilloscope just arrived, at Parts."""
    notebook.write("s", JobOpened(maker="Marrowby", type="OS-40", serial="1", pack_digest=notebook.keep_pack(SCOPE)))
    window = show(notebook)
    window.go_to_stop("parts")
    return window


@pytest.fixture
def halfway(show, demo):
    """The demo's oscilloscope."""
    window = show(demo)
    window.shelf.job.emit("sb40221")
    window.go_to_stop("parts")
    return window


@pytest.fixture
def arrived(show, notebook, pack):
    open_job(notebook, pack)
    goes_on(notebook)
    return show(notebook)
