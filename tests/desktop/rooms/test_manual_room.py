"""Every step of every page of the manual, done in the real window: what a page says is seen, is seen."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from candor.words.manual_words import manual_pages
from manual_driver import do, is_seen, steps_of

TASKS = [page for page in manual_pages() if list(steps_of(page.text))]


@pytest.mark.parametrize("page", TASKS, ids=lambda page: page.key)
def test_every_step_of_a_page_does_what_it_says(qtbot, show, notebook, page):
    window = show(notebook)
    for step, seen in steps_of(page.text):
        do(window, step)
        for words in seen:
            try:
                qtbot.waitUntil(lambda words=words: is_seen(window, words), timeout=20_000)
            except qtbot.TimeoutError:
                pytest.fail(
                    f"after “{step}” nobody sees “{words}”; the line: “{window.jot.edit.text()}”, {window.jot.message.text()}"
                )


def test_every_task_has_something_to_be_seen():
    assert len(TASKS) == 12
    assert all(any(seen for _, seen in steps_of(page.text)) for page in TASKS if "soak" not in page.key)


def test_the_manual_is_read_and_looked_through_in_the_window(show, notebook):
    window = show(notebook)
    QTest.keyClick(window, Qt.Key.Key_F1, Qt.KeyboardModifier.ShiftModifier)
    room = window.rooms["manual"]
    assert window.work.currentWidget() is room
    assert "bench meter" in room.text.toPlainText()
    room.search.setText("line mark")
    assert "line mark outwards" in room.text.toPlainText()
    room.search.setText("furlong")
    assert room.none.isVisible()
    assert room.text.toPlainText() == ""
    room.search.clear()
    room.open("8-what-u-means")
    assert "95 of 100" in room.text.toPlainText()
    QTest.keyClick(room, Qt.Key.Key_Escape)
    assert window.work.currentWidget() is not room
    window.guide.go("page", "7-soak")
    assert "on-clock" in room.text.toPlainText()
