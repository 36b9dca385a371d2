"""The workshop in the real window: a description changed by fields and by its text, begun anew, left, and made an edition."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from candor.core.severity import Severity
from candor.notebook.arrive.pack_choice import packs_at_hand
from candor.notebook.arrive.workshop import Workshop
from candor.notebook.work.job import fold
from candor.packs.draft_text import DraftText
from desk import LEFT
from workbench import open_job, point_steps, reading, standard_body

PATIENCE_MS = 20_000


@pytest.fixture
def room(show, notebook):
    window = show(notebook)
    window.enter_room("packs")
    made = window.rooms["packs"]
    made.window_of = window
    return made


def looked(qtbot, bench):
    """Wait until what stands in the text was looked at."""
    qtbot.waitUntil(
        lambda: bench._looked is not None and bench._looked.judged.text == bench.text.toPlainText(),
        timeout=PATIENCE_MS,
    )


def work_on(qtbot, room, name):
    room._choose(next(head.digest for head in packs_at_hand(room._notebook) if head.id == name))
    qtbot.mouseClick(room.work_on, LEFT)
    looked(qtbot, room.bench)
    return room.bench


def choose(bench, title):
    """Choose the line of the outline that is called so."""
    row = next(n for n in range(bench.outline.count()) if bench.outline.item(n).text().strip() == title)
    bench.outline.itemClicked.emit(bench.outline.item(row))


def say(qtbot, bench, title, value):
    edit = bench.form.edits[title]
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClicks(edit, value)
    QTest.keyClick(edit, Qt.Key.Key_Return)
    looked(qtbot, bench)


def test_a_field_and_the_text_are_one_and_what_comes_of_it_is_shown(qtbot, room):
    bench = work_on(qtbot, room, "tarnholm-vm6")
    before = bench.text.toPlainText()
    assert bench.state.text() == "Edition 3. It can be used."
    for title in ("Functions · 2", "DC volts +", "Ranges · 7", "150 V"):
        choose(bench, title)
    assert bench.form.edits["full scale"].text() == "150"
    assert bench.text.line_in_hand() == 107
    assert bench.dial.isVisible() and bench.steps.item(0).text().startswith("150 V range at 30 V")
    say(qtbot, bench, "limit: percent of full scale", "2")
    assert bench.text.toPlainText() == before.replace(
        "scale: upper, limit: {percent_of_full_scale: 3}, tap: t150}",
        "scale: upper, limit: {percent_of_full_scale: 2}, tap: t150}",
    )
    assert Workshop(room._notebook).text("tarnholm-vm6") == bench.text.toPlainText()  # kept as it is written
    qtbot.mouseClick(bench.undo, LEFT)
    assert bench.text.toPlainText() == before
    looked(qtbot, bench)
    assert bench.form.edits["limit: percent of full scale"].text() == "3"
    QTest.keyClick(
        room.window_of, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    )
    assert bench.text.toPlainText() != before
    QTest.keyClick(
        room.window_of, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier
    )  # of the text, not of the notebook
    assert bench.text.toPlainText() == before
    looked(qtbot, bench)
    assert not bench.made.isVisible()
    choose(bench, "Circuit")
    assert bench.made.isVisible() and "makes 14 ranges; the worst is DC volts" in bench.made.accessibleDescription()
    bench.text.go_to_line(120)
    bench.text.stoodOn.emit(150)
    assert bench.steps.item(0).text().startswith("1.5 V range at 300 mV")  # the step that the cursor stands in


def test_a_fault_is_marked_where_it_stands_and_bars_the_use_alone(qtbot, room):
    bench = work_on(qtbot, room, "halvergate-ev7")
    good = bench.text.toPlainText()
    bench.text.show_text(good.replace("maker:", "makers:", 1))
    looked(qtbot, bench)
    assert not bench.edition.isEnabled() and "bar its use" in bench.state.text()
    line = good[: good.index("maker:")].count("\n") + 1
    assert any(bench.faults.item(n).text().startswith(f"line {line},") for n in range(bench.faults.count()))
    bench.faults.picked.emit(str(line))
    assert "not a key that belongs here" in bench.text.accessibleDescription()
    bench.text.show_text("maker: [")
    looked(qtbot, bench)
    assert bench.faults.isVisible()
    bench.text.show_text(good)
    looked(qtbot, bench)
    assert bench.edition.isEnabled() and not bench.faults.isVisible()


def test_an_instrument_of_ones_own_is_described_left_gone_on_with_and_made_an_edition(qtbot, room, show, notebook):
    qtbot.mouseClick(room.begin, LEFT)
    assert "maker and type" in room.window_of.jot.message.text()
    room.name.setText("Corvane AV-20")
    room.begin_with.setCurrentIndex(room.begin_with.findText("with what is usual of a vacuum tube voltmeter"))
    qtbot.mouseClick(room.begin, LEFT)
    bench = room.bench
    looked(qtbot, bench)
    for title in ("Scales · none", "Functions · none"):
        choose(bench, title)
        qtbot.mouseClick(bench.add, LEFT)
        looked(qtbot, bench)
    assert not bench.edition.isEnabled()  # functions need a procedure
    room.window_of.close_now()
    window = show(type(notebook)(notebook.path, "x", notebook.clock))
    window.enter_room("packs")
    room = window.rooms["packs"]
    room.begin_with.setCurrentIndex(room.begin_with.findText("where corvane-av-20 was left"))
    qtbot.mouseClick(room.begin, LEFT)
    bench = room.bench
    looked(qtbot, bench)
    choose(bench, "Procedure · none")
    qtbot.mouseClick(bench.add, LEFT)
    looked(qtbot, bench)
    choose(bench, "Functions · 1")
    choose(bench, "DC volts")
    choose(bench, "Ranges · 1")
    choose(bench, "10 V")
    say(qtbot, bench, "limit: percent of full scale", "2")
    qtbot.mouseClick(bench.copy, LEFT)
    looked(qtbot, bench)
    assert DraftText(bench.text.toPlainText()).words(("functions", 0, "ranges", 1, "key")) == "new-2"
    qtbot.mouseClick(bench.down, LEFT)
    looked(qtbot, bench)
    assert DraftText(bench.text.toPlainText()).words(("functions", 0, "ranges", 0, "key")) == "new-2"
    qtbot.mouseClick(bench.up, LEFT)
    looked(qtbot, bench)
    assert DraftText(bench.text.toPlainText()).words(("functions", 0, "ranges", 1, "key")) == "new-2"
    qtbot.mouseClick(bench.down, LEFT)
    looked(qtbot, bench)
    qtbot.mouseClick(bench.remove, LEFT)
    looked(qtbot, bench)
    qtbot.mouseClick(bench.edition, LEFT)
    assert window.jot.message.text() == "Corvane AV-20, edition 1, is kept in this notebook."
    assert not bench.jobs.isVisible()
    qtbot.mouseClick(bench.leave, LEFT)
    assert "Corvane AV-20" in [room.packs.item(n).text().split(",")[0] for n in range(room.packs.count())]


def test_an_open_job_goes_over_to_the_edition_with_every_reading(qtbot, show, notebook, pack):
    open_job(notebook, pack)
    standard = notebook.write("", standard_body())
    for step in point_steps(pack)[:3]:
        notebook.write("job1", reading(step, standard.id))
    window = show(notebook)
    window.enter_room("packs")
    room = window.rooms["packs"]
    bench = work_on(qtbot, room, pack.id)
    bench.text.show_text(bench.text.toPlainText().replace("Tap the case lightly", "Tap the glass"))
    looked(qtbot, bench)
    qtbot.mouseClick(bench.edition, LEFT)
    assert bench.jobs.isVisible() and "3 points were read" in bench.jobs.item(0).text()
    bench.jobs.setCurrentRow(0)
    qtbot.mouseClick(bench.go_over, LEFT)
    job = fold("job1", notebook.entries_of("job1"))
    assert notebook.pack(job.pack_digest).edition == "4"
    assert len(job.calibrate.readings) == 3
    assert not bench.jobs.isVisible()
    assert window.jot.message.property("tint") != Severity.REFUSED


def test_what_is_only_looked_at_is_not_kept_and_two_windows_do_not_overwrite_each_other(qtbot, room):
    bench, shop = work_on(qtbot, room, "tarnholm-vm6"), Workshop(room._notebook)
    assert shop.begun() == ()
    good = bench.text.toPlainText()
    bench.text.show_text(good.replace("maker: Tarnholm", "maker: Tarnholm Bros"))
    looked(qtbot, bench)
    assert shop.begun() == ("tarnholm-vm6",)
    qtbot.mouseClick(bench.undo, LEFT)
    looked(qtbot, bench)
    assert shop.begun() == ()  # it is again what it was
    qtbot.mouseClick(bench.redo, LEFT)
    looked(qtbot, bench)
    shop.keep("tarnholm-vm6", "from another window")
    bench.text.show_text(good.replace("maker: Tarnholm", "maker: Tarnholm & Sons"))
    looked(qtbot, bench)
    assert "goes on as tarnholm-vm6-2" in room.window_of.jot.message.text()
    assert shop.text("tarnholm-vm6") == "from another window"
    assert "Tarnholm & Sons" in shop.text("tarnholm-vm6-2")


def test_what_was_chosen_and_is_gone_from_the_text_is_refused_in_a_sentence(qtbot, room):
    """Until the text is looked at again the buttons are those of what stood there: they ended in a traceback."""
    bench = work_on(qtbot, room, "tarnholm-vm6")
    told = []
    room._voice.told.connect(lambda sentence, severity: told.append((sentence, severity)))
    bench.text.setPlainText("pack: 1\nid: mine\n")
    for title in ("Functions · 2", "DC volts +"):
        choose(bench, title)
    for made in (bench.up, bench.down, bench.copy, bench.remove):
        qtbot.mouseClick(made, LEFT)
    assert [severity for _, severity in told] == [Severity.REFUSED] * 4
    assert all("gone from the text" in sentence for sentence, _ in told)
    assert DraftText("pack: 1\nid: mine\n").moved((), 1) == "pack: 1\nid: mine\n"


def test_the_circuit_is_drawn_as_a_chain_through_what_is_chosen(qtbot, room):
    bench = work_on(qtbot, room, "tarnholm-vm6")
    assert not bench.chain.isVisible()
    choose(bench, "Circuit")
    assert bench.chain.isVisible()
    assert bench.chain.accessibleDescription().startswith("probe, in, t5, t15")
    choose(bench, "Parts · 20")
    choose(bench, "R12")
    assert bench.chain.accessibleDescription() == "rect, plus, minus, 0"
    assert bench.chain.accessibleName() == "The chain through R12"
    choose(bench, "Functions · 2")
    assert not bench.chain.isVisible()
