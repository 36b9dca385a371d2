"""The shelf of many jobs: one is found by its words, and its row is opened where one wants it."""

from PySide6.QtCore import Qt

from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from desk import fill, row_titles
from workbench import open_job

Key = Qt.Key


def test_of_many_jobs_one_is_found_and_opened(qtbot, show, demo):
    window = show(demo)
    panel = window.shelf
    assert panel.search.isVisible()
    fill(qtbot, panel.search, "tt-7")
    assert row_titles(panel.list)[1:] == ["Tarnholm TT-7   0419"]
    fill(qtbot, panel.search, "tarnhlom 0419")  # a slip of the pen
    assert row_titles(panel.list)[1:] == ["Tarnholm TT-7   0419"]
    qtbot.keyClick(panel.search, Key.Key_Return)
    assert window.bench.in_hand.job.serial == "0419"
    fill(qtbot, panel.search, "oscilosc")
    assert "Marrowby OS-40   2216" in row_titles(panel.list)
    fill(qtbot, panel.search, "zeppelin")
    assert row_titles(panel.list) == ["no job has “zeppelin”"]
    stop = window.work.currentWidget()
    qtbot.keyClick(panel.search, Key.Key_Escape)  # empties the line, and does nothing else
    assert (panel.search.text(), window.work.currentWidget()) == ("", stop)
    assert len(row_titles(panel.list)) > 10
    qtbot.keyClick(panel.search, Key.Key_Down)
    assert panel.list.hasFocus()


def test_it_is_found_by_its_owner_and_what_it_is(qtbot, show, notebook, pack):
    open_job(notebook, pack)
    for number in range(8):
        notebook.write(
            f"j{number}", JobOpened(maker="Corvane", type="AV-20", serial=f"7{number}", instrument_kind="bridge")
        )
    notebook.write("j3", DetailWritten(field="owner", text="harbour workshop"))
    window = show(notebook)
    fill(qtbot, window.shelf.search, "harbour")
    assert row_titles(window.shelf.list)[1:] == ["Corvane AV-20   73"]
    fill(qtbot, window.shelf.search, "bridge")
    assert len(row_titles(window.shelf.list)) == 9


def test_few_jobs_need_no_search(show, notebook, pack):
    open_job(notebook, pack)
    assert not show(notebook).shelf.search.isVisible()


def test_it_stands_in_the_order_that_is_chosen(show, demo):
    panel = show(demo).shelf
    lines = {f"{x.name}   {x.serial}".rstrip(): x for x in panel._shelf.lines if x.group == "wants hands"}
    keys = {
        "newest first": lambda x: -x.opened.timestamp(),
        "oldest first": lambda x: x.opened,
        "by name": lambda x: x.name.casefold(),
    }
    for order, key in keys.items():
        panel.order.setCurrentText(order)
        shown = [lines[title] for title in row_titles(panel.list) if title in lines]
        assert len(shown) == len(lines) > 5
        assert [key(x) for x in shown] == sorted(map(key, shown)), order
