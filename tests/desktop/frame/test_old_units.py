"""Who types umho is shown umho from then on: in the chip, on the range, at the needle, on paper; the SI is kept."""

import pytest
from PySide6.QtCore import Qt

from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.store import Notebook
from workbench import PATIENCE_MS


def test_a_range_typed_in_umho_is_read_and_shown_in_umho(qtbot, show, notebook):
    notebook.write("t", JobOpened(maker="Halvergate", type="tube tester", serial="1", pack_digest=""))
    window = show(notebook)
    window.bench.open_job("t")
    window.go_to_stop("calibrate")
    window.jot.edit.setFocus()
    qtbot.keyClicks(window.jot.edit, "range gm 3000 umho 30 div 10%fs")
    chips = [window.jot.chips.itemAt(i).widget().text() for i in range(window.jot.chips.count())]
    assert "0 to 3000 µmho" in " ".join(chips).replace("\u00a0", " ")
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    made = next(e.body for e in notebook.entries_of("t") if isinstance(e.body, RangeMade))
    assert made.full_scale == 3e-3  # the SI is kept
    window.jot.edit.setFocus()
    qtbot.keyClicks(window.jot.edit, "2900 ref 2950")  # bare, as its face has it
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    reading = window.bench.in_hand.job.calibrate.readings[-1]
    assert (reading.body.indicated, reading.body.reference) == pytest.approx((2.9e-3, 2.95e-3))
    assert "µmho" in window.calibrate.readout.error.text().replace("\u00a0", " ")
    assert window.bench.shop.settings.units == ("umho",)
    window.close_now()
    again = show(Notebook(notebook.path, "x"))
    again.bench.open_job("t")
    again.go_to_stop("calibrate")
    qtbot.waitUntil(lambda: "µmho" in again.calibrate.title.text() + again.calibrate.do.text(), timeout=PATIENCE_MS)
    again.enter_room("look")
    qtbot.mouseClick(again.look.units["umho"], Qt.MouseButton.LeftButton)
    assert again.bench.shop.settings.units == ()
