"""Cleaning through the window: photographs first, drying, insulation before power."""

from PySide6.QtCore import Qt

from candor.notebook.work.barriers import barrier
from desk import LEFT, fill, row_titles


def test_a_photo_is_asked_for_once_before_what_cannot_be_undone(qtbot, arrived):
    clean = arrived.arrive.cleaning
    arrived.arrive.show_view("clean")
    qtbot.mouseClick(clean.ways["washed"], LEFT)
    assert "Write first what was cleaned" in arrived.jot.message.text()
    fill(qtbot, clean.what, "the whole chassis")
    fill(qtbot, clean.days, "2")
    qtbot.mouseClick(clean.ways["washed"], LEFT)
    assert "Photograph" in arrived.jot.message.text()
    assert arrived.bench.in_hand.job.cleaning.cleaned == ()
    qtbot.mouseClick(clean.ways["washed"], LEFT)
    job = arrived.bench.in_hand.job
    assert [e.body.what for e in job.cleaning.cleaned] == ["the whole chassis"]
    assert barrier(job, None).kind == "insulation"
    assert any("dries until" in title for title in row_titles(clean.list))


def test_insulation_is_a_resistance_and_lifts_the_bar_where_it_is_enough(qtbot, arrived):
    clean = arrived.arrive.cleaning
    arrived.arrive.show_view("clean")
    fill(qtbot, clean.what, "case")
    for _ in range(2):
        qtbot.mouseClick(clean.ways["washed"], LEFT)
    for text, kind in (("fine", "insulation"), ("2 Mohm @500V", "insulation"), ("22 Mohm @500V", "")):
        fill(qtbot, clean.insulation, text)
        qtbot.keyClick(clean.insulation, Qt.Key.Key_Return)
        found = barrier(arrived.bench.in_hand.job, None)
        assert (found.kind if found else "") == kind, text
