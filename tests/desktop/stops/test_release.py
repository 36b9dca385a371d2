"""Release, driven through the window."""

from __future__ import annotations

import json
from itertools import pairwise

import pypdf
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractButton, QLabel, QWidget

from candor.desktop.widgets.controls import Tight
from desk import fill, jot


def test_release_shows_and_saves_what_it_says(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    with qtbot.waitSignal(window.release.previewed, timeout=20_000):
        window.go_to_stop("release")

    def pages() -> list[QLabel]:
        return [page for page in window.release.pages.findChildren(QLabel) if page.isVisible()]

    qtbot.waitUntil(lambda: len(pages()) >= 4)
    qtbot.waitUntil(lambda: all(page.height() >= page.pixmap().height() for page in pages()))
    assert cut_off(window) == []
    assert window.release.left_words.text() == "As left: passes. 42 pass, 42 in all."
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
    qtbot.waitUntil(window.release.sign.isEnabled)
    window.release.sign.click()
    assert len(window.bench.in_hand.job.release.certificates) == 2


def test_release_takes_conditions_and_status(qtbot, arrived):
    arrived.go_to_stop("release")
    page = arrived.release
    qtbot.waitUntil(lambda: "The procedure is not finished" in page.remarks.text())
    fill(qtbot, page.fields["celsius"], "warm")
    page.waits_for.setFocus()
    assert "does not begin with a number" in arrived.jot.message.text()
    fill(qtbot, page.fields["celsius"], "23,4")
    page.waits_for.setFocus()
    assert arrived.bench.in_hand.job.calibrate.celsius == 23.4
    qtbot.keyClicks(page.waits_for, "two capacitors")
    qtbot.mouseClick(page.status["waiting"], Qt.MouseButton.LeftButton)
    assert (arrived.bench.shelf.lines[0].group, arrived.bench.shelf.lines[0].text) == ("waiting", "two capacitors")


def test_before_it_goes_bars_signing_until_each_is_looked_at_or_let_go(qtbot, arrived):
    arrived.go_to_stop("release")
    page, job = arrived.release, lambda: arrived.bench.in_hand.job
    page.second.name.setText("A. Ferry")
    page.second.sign.click()  # nothing is signed that a second name could stand under
    page.sign.setEnabled(True)
    page.sign.click()
    assert "Release checks: hazards, earth bond" in arrived.jot.message.text()
    assert (page.shown, page.before.isVisible(), page.side.isVisible(), job().release.certificates) == (
        "before",
        True,
        False,
        (),
    )
    page.before.choose("earth")
    for typed in ("0.09 volts", "0.09 ohm at 10 A"):
        fill(qtbot, page.before.text, typed)
        qtbot.keyClick(page.before.text, Qt.Key.Key_Return)
    assert job().release.earth.body.ohms == 0.09
    assert page.before.item().key == "earth"  # the highlight stays where it was
    page.before.choose("insulation")
    assert not page.before.outcomes["bad"].isVisible()  # a reading says by itself whether it is bad
    fill(qtbot, page.before.text, "30 Mohm @500V")
    page.before.outcomes["good"].click()
    assert job().cleaning.insulation.body.ohms == 30e6
    page.before.choose("polarity")
    page.before.outcomes["bad"].click()
    assert "what is not as it should be" in arrived.jot.message.text()
    assert not page.before.override.isVisible()  # nobody has looked at it: no reason lets it go
    jot(qtbot, arrived, "touch 0.9 mA reversed on")
    for item in ("hazards", "polarity", "fuse", "switch", "line capacitors", "controls", "shake", "bag", "batteries"):
        page.before.choose(item)
        if page.before.outcomes["good"].isVisible():
            qtbot.keyClick(page.before.text, Qt.Key.Key_F7)
    left = [i.key for i in page.before.still()]
    assert "touch" in left
    page.before.choose("touch")
    assert "900 µA with plug reversed, switch on" in page.before.ask.text()
    page.before.override.click()
    assert "Write first why it may go" in arrived.jot.message.text()
    fill(qtbot, page.before.reason, "goes to a museum case, cord cut off")
    page.before.override.click()
    assert [i.key for i in page.before.still()] == [key for key in left if key != "touch"]
    for key in [i.key for i in page.before.still()]:  # what Arrive and Parts still owe
        page.before.choose(key)
        assert page.before.item().by_hand is False or not page.before.override.isVisible()
    assert [i.key for i in page.before.still()] == []
    assert page.before.summary.text() == "All release checks done."
    record = page.to_print().record
    assert any("goes to a museum case" in line.text for line in record.remarks)
    assert any(line.text.startswith("Earth bond: OK. 90 mΩ at 10 A") for line in record.leaving)
    page.sign.click()
    assert len(job().release.certificates) == 1


def test_a_job_travels_out_of_one_window_and_into_another(qtbot, show, demo, notebook, tmp_path):
    window, path = show(demo), tmp_path / "vm.candor-job.zip"
    window.shelf.job.emit("sb40188")
    window.go_to_stop("release")
    with qtbot.waitSignal(window.release.papers.work.answered, timeout=20_000):
        window.release.papers.save_travelling(path)
    assert "Saved as vm.candor-job.zip" in window.jot.message.text()
    with qtbot.waitSignal(window.release.papers.work.failed, timeout=20_000):
        window.release.papers.save_travelling(tmp_path / "no such folder" / "x.zip")
    assert "could not be written" in window.jot.message.text()
    other = show(notebook)
    other.enter_room("new job")
    with qtbot.waitSignal(other.new_job.work.failed, timeout=20_000):
        other.new_job.take_in(tmp_path / "none.zip")
    assert "a travelling job was expected" in other.jot.message.text()
    with qtbot.waitSignal(other.new_job.takenIn, timeout=20_000):
        other.new_job.take_in(path)
    assert "Imported:" in other.jot.message.text()
    assert other.bench.in_hand.job.serial == "40188"
    assert "bench-meter-a" in {s.body.key for s in other.bench.shop.standards.values()}


def test_every_paper_is_saved_or_said_why_not(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    window.go_to_stop("release")
    window.release.show_view("papers")
    panel = window.release.papers
    assert panel.isVisible()
    for key in panel.buttons:
        with qtbot.waitSignal(panel.work.answered, timeout=20_000):
            panel.save(key, tmp_path / key)
        content = (tmp_path / key).read_bytes()
        said = content.decode() if key == "digital" else pypdf.PdfReader(tmp_path / key).pages[0].extract_text()
        assert "40188" in said
    with qtbot.waitSignal(panel.work.failed, timeout=20_000):
        panel.save("history", tmp_path / "none" / "history.pdf")
    assert "could not be written" in window.jot.message.text()
    jot(qtbot, window, "disturbed the case")
    with qtbot.waitSignal(panel.work.failed, timeout=20_000):
        panel.save("label", tmp_path / "label.pdf")
    assert "something was written since" in window.jot.message.text()


def test_a_second_signature_is_another_name_under_what_was_signed(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    window.go_to_stop("release")
    second = window.release.second
    qtbot.waitUntil(second.isVisible)
    for name, why in (("", "Write first who"), (window.bench.notebook.who.upper(), "signed it first")):
        fill(qtbot, second.name, name)
        second.sign.click()
        assert why in window.jot.message.text()
    assert second.isVisible()
    fill(qtbot, second.name, "A. Ferry")
    second.sign.click()
    assert window.release.to_print().digest  # it still stands
    qtbot.waitUntil(second.isHidden)
    assert window.release.save(tmp_path / "c.pdf")
    assert "Second signature: A. Ferry" in pypdf.PdfReader(tmp_path / "c.pdf").pages[-1].extract_text()


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
