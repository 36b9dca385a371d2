"""Starting the window."""

from __future__ import annotations

import threading

import pytest
from PySide6.QtWidgets import QAbstractButton

from candor.core.errors import CandorError
from candor.desktop import app
from candor.desktop.app import TITLE_BAR, WarmUp, fitting_size, make_application, trouble
from candor.desktop.frame.preferences import Preferences


def test_trouble_at_the_start_is_said_in_a_window(qtbot):
    make_application()
    box = trouble("notebook.candor is damaged. It was Candor did not change it.")
    qtbot.addWidget(box)
    box.show()
    assert box.text() == "notebook.candor is damaged. It was Candor did not change it."
    assert box.findChildren(QAbstractButton)[0].isVisible()


def test_a_new_window_fits_what_the_desktop_leaves(qapp):
    free = qapp.primaryScreen().availableGeometry()
    size = fitting_size()
    assert size.width() <= free.width()
    assert size.height() <= free.height() - TITLE_BAR
    assert size.height() <= 800


def test_warming_up_is_over_when_it_is_told_to_end_even_with_its_notebook_closed(notebook, pack):
    notebook.keep_pack(pack)
    warm = WarmUp(notebook)
    warm.start()
    notebook.close()
    warm.finish()
    assert not warm._thread.is_alive()
    never = WarmUp(notebook)
    never.finish()
    never.start()  # told to end before it began: it does not begin
    assert not never._thread.is_alive()


def test_a_notebook_is_closed_between_questions_and_never_under_one(notebook, pack):
    notebook.keep_pack(pack)
    refused = []

    def ask():
        with pytest.raises(CandorError):
            while True:
                notebook.store.packs()
        refused.append(True)

    threads = [threading.Thread(target=ask) for _ in range(3)]
    for thread in threads:
        thread.start()
    notebook.close()
    for thread in threads:
        thread.join(20)
    assert refused == [True] * 3


@pytest.mark.parametrize("is_shown", [True, False], ids=["once it is drawn", "undrawn, after a while"])
def test_the_last_job_is_opened_when_the_window_is_up(qtbot, demo, tmp_path, monkeypatch, is_shown):
    monkeypatch.setattr(app, "UNDRAWN_MS", 60_000 if is_shown else 10)
    window, _ = app.make_window(demo, Preferences("light", 1.0, tmp_path / "look.json"), later=True)
    qtbot.addWidget(window)
    opened = []
    if is_shown:
        window.show()
    app.once_drawn(window, lambda: opened.append(window.isVisible()) or window.open_last())
    assert window.bench.in_hand.job is None
    assert window.because.whole_part.isHidden()  # nothing is said of a job that is not there yet
    qtbot.waitUntil(lambda: window.bench.in_hand.job is not None)
    assert opened == [is_shown]
    window.enter_room("stock")
    window.open_last()  # somebody was quicker: it takes nobody away from where they are
    assert window.work.currentWidget() is window.rooms["stock"]
    window.close_now()
