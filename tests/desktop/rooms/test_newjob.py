"""Any instrument on the bench, with nothing but a name."""

import pytest
from PySide6.QtCore import QProcess, Qt
from PySide6.QtWidgets import QApplication

from candor.core.verdict.rules import Outcome
from candor.notebook.entries.stay_entries import JobOpened
from candor.packs.kinds_of_instrument import shipped_kinds
from desk import LEFT, fill, jot, row_titles
from workbench import standard_body

KINDS = tuple(shipped_kinds())


class Keys:
    """Counts every key that is pressed."""

    def __init__(self, qtbot):
        self.qtbot, self.count, self.letters = qtbot, 0, 0

    def press(self, widget, key, modifier=Qt.KeyboardModifier.NoModifier):
        self.count += 1
        self.qtbot.keyClick(widget, key, modifier)

    def type(self, widget, text):
        self.letters += len(text)
        self.qtbot.keyClicks(widget, text)


def test_from_the_first_key_to_a_finding_and_to_a_verdict(qtbot, show, notebook):
    """Under 12 keys beside the words to the first finding, under 40 to the first verdict; here 3 and 8."""
    notebook.write("", standard_body())
    window, keys = show(notebook), Keys(qtbot)
    keys.press(window, Qt.Key.Key_N, Qt.KeyboardModifier.ControlModifier)
    keys.type(QApplication.focusWidget(), "Halvergate signal tracer 1187")
    keys.press(QApplication.focusWidget(), Qt.Key.Key_Return)
    keys.type(QApplication.focusWidget(), "knob missing")
    keys.press(QApplication.focusWidget(), Qt.Key.Key_Return)
    job = window.bench.in_hand.job
    assert [f.text for f in job.arrive.findings] == ["knob missing"]
    assert keys.count < 12
    keys.press(window, Qt.Key.Key_5, Qt.KeyboardModifier.ControlModifier)
    keys.press(window, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    keys.type(QApplication.focusWidget(), "range 30 V 30 div 3%fs")
    keys.press(QApplication.focusWidget(), Qt.Key.Key_Return)
    keys.press(window, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    keys.type(window.jot.edit, "10.2 ref 10.03")
    keys.press(window.jot.edit, Qt.Key.Key_Return)
    assert window.bench.in_hand.found.count(Outcome.PASS) == 1
    assert window.because.word.text() == "Passes"
    assert keys.count == 8 < 40


def test_a_new_notebook_offers_three_ways_and_none_is_a_dead_end(qtbot, show, notebook, monkeypatch):
    started = []
    monkeypatch.setattr(QProcess, "startDetached", lambda _, arguments: started.append(arguments) or True)
    window = show(notebook)
    page = window.new_job
    assert window.work.currentWidget() is page
    qtbot.mouseClick(page.demo, LEFT)
    assert started == [["-m", "candor", "demo"]]
    qtbot.mouseClick(page.standard, LEFT)
    assert window.work.currentWidget() is window.rooms["standards"]
    window.enter_room("new job")
    qtbot.mouseClick(page.put, LEFT)
    assert page.name.hasFocus()
    fill(qtbot, page.name, "A")
    qtbot.keyClick(page.name, Qt.Key.Key_Return)
    assert (window.bench.in_hand.job.name, window.bench.in_hand.job.calibrate.standards) == ("A", ())
    window.enter_room("new job")
    assert not page.ways.isVisible()


def test_a_kind_is_chosen_with_the_arrows_and_what_stays_is_what_was_chosen(qtbot, show, notebook):
    window = show(notebook)
    page = window.new_job
    fill(qtbot, page.name, "Corvane AV-20")
    for _ in range(2):
        qtbot.keyClick(page.name, Qt.Key.Key_Down)
    chosen = page._chosen
    assert chosen.startswith("kind:")
    assert chosen != "kind:something-else"
    qtbot.keyClicks(page.name, " 3310")
    assert page._chosen == chosen
    assert page.understood.text() == "maker Corvane · type AV-20 · no. 3310"
    qtbot.keyClick(page.name, Qt.Key.Key_Return)
    assert window.bench.in_hand.job.stay.opened.body.instrument_kind == chosen.removeprefix("kind:")


@pytest.mark.parametrize(("text", "sentence"), [("", "Nothing was written"), ("x" * 300, "300 characters")])
def test_what_is_no_name_opens_nothing_and_stays(qtbot, show, notebook, text, sentence):
    window = show(notebook)
    window.new_job.name.setText(text)
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    assert sentence in window.jot.message.text()
    assert (window.bench.in_hand.job, window.new_job.name.text()) == (None, text)


def test_two_jobs_of_one_serial_are_open_at_once(qtbot, show, notebook):
    window = show(notebook)
    for _ in range(2):
        window.enter_room("new job")
        fill(qtbot, window.new_job.name, "Corvane AV-20 3310")
        qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    assert [line.serial for line in window.bench.shelf.lines] == ["3310", "3310"]
    assert len(window.bench.shelf.same_instrument("corvane av-20", "3310")) == 2


def test_a_fault_in_a_kind_of_ones_own_is_said_and_the_rest_works(show, notebook):
    notebook.kinds_folder.mkdir()
    (notebook.kinds_folder / "mine.yaml").write_text("kind: 1\nid: mine\ntitle: mine\nzone: []\n", encoding="utf-8")
    window = show(notebook)
    assert "mine.yaml" in window.warning.words.text()
    assert "line" in window.warning.words.text()
    assert len([o for o in window.new_job._offers if o.key.startswith("kind:")]) == 13


def test_every_page_and_room_works_for_every_kind_with_nothing_but_a_name(qtbot, show, notebook):
    """No page, room, paper, shelf line or arm's-length view asks for a pack that is not there."""
    notebook.write("", standard_body())
    for kind in KINDS:
        notebook.write(kind, JobOpened(maker="Corvane", type=kind, serial="1", instrument_kind=kind))
    window = show(notebook)
    for kind in KINDS:
        window.shelf.job.emit(kind)
        assert window.bench.in_hand.job.id == kind
        for stop in ("arrive", "parts", "power", "trace", "calibrate", "release"):
            window.go_to_stop(stop)
            assert window.work.currentWidget() is window.stops[stop]
            window.work.currentWidget().explain(window.because)
        for stop in ("arrive", "power", "trace") if kind in KINDS[::5] else ():
            window.go_to_stop(stop)
            for view in window.stops[stop].views:
                window.stops[stop].show_view(view)
                window.stops[stop].explain(window.because)
        window.toggle_arms_length()  # nothing to read from afar yet: the bench stays
        assert window.bench.place.step is None
        window.toggle_arms_length()
        jot(qtbot, window, "range 30 V 30 div 3%fs")
        jot(qtbot, window, "10.2 ref 10.03")
        jot(qtbot, window, "found knob missing")
        assert window.bench.in_hand.found.measured == 1
        window.toggle_arms_length()
        assert window.arms_length.verdict.text() or window.arms_length.figures.text()
        window.toggle_arms_length()
        window.go_to_stop("release")
        assert window.release.to_print().record is not None
    for room in window.rooms:
        window.enter_room(room)


def test_a_second_unit_is_set_up_as_the_first_and_the_first_again_a_year_later(qtbot, show, notebook):
    window = show(notebook)

    def begin(text):
        fill(qtbot, window.new_job.name, text)
        qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
        window.go_to_stop("calibrate")

    begin("Corvane multimeter AV-90 no. 1")
    jot(qtbot, window, "range DC volts 30 V 30 div 3%fs")
    jot(qtbot, window, "range DC volts 100 V 50 div 3%fs")
    jot(qtbot, window, "part C3 0.1uF 400V paper coupling")
    first = window.bench.in_hand.job
    window.enter_room("new job")
    fill(qtbot, window.new_job.name, "Corvane AV-90 no. 2")
    assert "As the Corvane AV-90 before it, no. 1" in row_titles(window.new_job.list)[1]
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    second = window.bench.in_hand.job
    assert second.id != first.id
    assert set(second.ranges.made) == set(first.ranges.made)
    assert [p.part.ref for p in window.bench.in_hand.parts().lines] == ["C3"]
    assert second.stay.details["serial"] == "2"
    window.enter_room("new job")
    begin("Corvane AV-90 no. 1")
    third = window.bench.in_hand.job
    assert (set(third.ranges.made), len(window.bench.in_hand.parts().lines)) == (set(first.ranges.made), 0)
