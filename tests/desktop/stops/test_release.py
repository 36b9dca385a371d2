"""Release, driven through the window."""

from __future__ import annotations

import json
from itertools import pairwise

import pypdf
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractButton, QLabel, QWidget

from candor.desktop.widgets.controls import Tight
from desk import fill


def test_release_shows_and_saves_what_it_says(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    with qtbot.waitSignal(window.release.previewed, timeout=20_000):
        window.go_to_stop("release")

    def pages() -> list[QLabel]:
        return [page for page in window.release.pages.findChildren(QLabel) if page.isVisible()]

    qtbot.waitUntil(lambda: len(pages()) >= 4, timeout=5000)
    qtbot.waitUntil(lambda: all(page.height() >= page.pixmap().height() for page in pages()), timeout=2000)
    assert cut_off(window) == []
    assert window.release.left_words.text() == "As left: passes. 42 pass, of 42."
    assert window.release.save(tmp_path / "c.pdf")
    assert window.release.save(tmp_path / "c.json")
    assert "Saltmarsh Bench" in pypdf.PdfReader(tmp_path / "c.pdf").pages[0].extract_text()
    record = json.loads((tmp_path / "c.json").read_text())
    assert (record["serial"], record["as_left"]["outcome"]) == ("40188", "passes")
    assert not window.release.save(tmp_path / "no such folder" / "c.pdf")
    assert "could not be written" in window.jot.message.text()
    assert not window.release.sign.isEnabled()  # nothing was written since the last was signed
    fill(qtbot, window.release.fields["celsius"], "22.7")
    window.release.waits_for.setFocus()
    assert window.release.sign.isEnabled()
    window.release.sign.click()
    assert len(window.bench.in_hand.job.release.certificates) == 2


def test_release_takes_conditions_and_status(qtbot, arrived):
    arrived.go_to_stop("release")
    page = arrived.release
    assert "The procedure is not finished" in page.remarks.text()
    fill(qtbot, page.fields["celsius"], "warm")
    page.waits_for.setFocus()
    assert "does not begin with a number" in arrived.jot.message.text()
    fill(qtbot, page.fields["celsius"], "23,4")
    page.waits_for.setFocus()
    assert arrived.bench.in_hand.job.calibrate.celsius == 23.4
    qtbot.keyClicks(page.waits_for, "two capacitors")
    qtbot.mouseClick(page.status["waiting"], Qt.MouseButton.LeftButton)
    assert (arrived.bench.shelf.lines[0].group, arrived.bench.shelf.lines[0].text) == ("waiting", "two capacitors")


def cut_off(window) -> list[str]:
    """Texts that do not fit where they stand, and parts of a column that lie over each other."""
    found = []
    for column in window.findChildren(Tight):
        boxes = [column.itemAt(i).geometry() for i in range(column.count()) if not column.itemAt(i).isEmpty()]
        if column.parentWidget().isVisible():
            found += [f"{a} over {b}" for a, b in pairwise(boxes) if a.intersects(b)]
    for widget in window.findChildren(QWidget):
        if not widget.isVisible():
            continue
        if isinstance(widget, QLabel) and not widget.pixmap().isNull():
            needs, has = widget.pixmap().height(), widget.height()
        elif isinstance(widget, QLabel) and widget.text() and not widget.wordWrap() and widget.objectName() != "chip":
            needs, has = widget.fontMetrics().horizontalAdvance(widget.text()), widget.width()
        elif isinstance(widget, QAbstractButton) and widget.text():
            needs, has = widget.minimumSizeHint().width(), widget.width()
        elif isinstance(widget, QLabel) and widget.text() and widget.wordWrap():
            needs, has = widget.heightForWidth(widget.width()), widget.height()
        else:
            continue
        if needs > has + 1:
            found.append(f"{type(widget).__name__} “{widget.text()[:40]}” needs {needs}, has {has}")
    return found
