"""What a unit has, by buttons and fields; and what stays with the instrument over its jobs."""

from PySide6.QtCore import Qt

from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.entries.unit_entries import NotAsDrawn
from desk import LEFT, fill, row_titles


def test_functions_deviations_and_lost_screws_are_written_from_their_fields(qtbot, arrived):
    page = arrived.arrive
    page.show_view("who")
    unit = page.details.unit
    first = next(iter(unit.functions))
    qtbot.mouseClick(unit.functions[first], LEFT)
    for field, text in (
        (unit.function, "Line volts faded"),
        (unit.drawn, "a fuse added"),
        (unit.missed, "2 screws M3"),
    ):
        fill(qtbot, field, text)
        qtbot.keyClick(field, Qt.Key.Key_Return)
        assert field.text() == ""
    kept = arrived.bench.in_hand.job.unit
    assert [(e.body.function, e.body.faded) for e in kept.functions] == [(first, False), ("Line volts", True)]
    assert unit.functions["Line volts"].text() == "Line volts · faded"
    assert (kept.not_as_drawn[0].body.text, kept.missing) == ("a fuse added", 2)
    qtbot.mouseClick(unit.functions[first], LEFT)
    assert [e.body.function for e in arrived.bench.in_hand.job.unit.functions] == ["Line volts"]
    fill(qtbot, unit.missed, "")
    qtbot.keyClick(unit.missed, Qt.Key.Key_Return)
    assert len(arrived.bench.in_hand.job.unit.unaccounted) == 1


def test_a_serial_put_right_joins_the_instrument_to_its_history(qtbot, show, notebook):
    for job, serial in (("old", "3310"), ("new", "3301")):
        notebook.write(job, JobOpened(maker="Corvane", type="AV-20", serial=serial))
    notebook.write("old", NotAsDrawn(text="a fuse added"))
    window = show(notebook)
    window.shelf.job.emit("new")
    window.go_to_stop("arrive")
    window.arrive.show_view("who")
    assert window.bench.in_hand.earlier_deviations() == ()
    fill(qtbot, window.arrive.fields["serial"], "3310")
    window.arrive.fields["owner"].setFocus()
    assert window.bench.in_hand.earlier_deviations() == ("a fuse added",)
    assert any("a fuse added" in title for title in row_titles(window.arrive.details.unit.list))


def test_ones_own_item_waits_for_the_next_of_the_kind(qtbot, show, notebook):
    for job, kind in (("one", "signal-generator"), ("two", "signal-generator"), ("other", "capacitor-checker")):
        notebook.write(job, JobOpened(maker="Corvane", type=job, serial="1", instrument_kind=kind))
    window = show(notebook)
    checklist = window.arrive.checklist

    def items(job):
        window.shelf.job.emit(job)
        window.go_to_stop("arrive")
        window.arrive.show_view("walk")
        window.arrive.zones.picked.emit("cord")
        return checklist.items

    items("one")
    qtbot.mouseClick(checklist.another, LEFT)
    fill(qtbot, checklist.own, "cord too short for the shelf")
    qtbot.keyClick(checklist.own, Qt.Key.Key_Return)
    assert "cord too short for the shelf" in items("two")
    assert "cord too short for the shelf" not in items("other")
