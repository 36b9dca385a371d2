"""Looking for instruments and testing one, from the field that its address stands in."""

import threading

import pytest
import pyvisa
from PySide6.QtCore import Qt

from candor.links.loopback import LoopbackInstrument
from desk import fill
from workbench import PATIENCE_MS

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def panel(show, demo):
    """The meters of a way up that has not begun, in the demo's supply."""
    window = show(demo)
    window.shelf.job.emit("sb40265")
    window.go_to_stop("power")
    window.power.show_view("going")
    return window.power.going.links


@pytest.fixture
def found(monkeypatch):
    """Let the driver find these, and never look at the network."""

    def find(*names):
        monkeypatch.setattr(pyvisa.ResourceManager, "list_resources", lambda *_: names)

    return find


def test_a_meter_is_found_tested_and_added_without_a_syntax(qtbot, panel, found):
    with LoopbackInstrument({"*IDN?": "ACME,M1", "READ?": "243.1 V"}.get) as meter:
        found(meter.resource, "GPIB0::INTFC")
        qtbot.mouseClick(panel.tools.look, LEFT)
        qtbot.waitUntil(lambda: not panel.tools.found.isHidden(), timeout=PATIENCE_MS)
        assert "One port or instrument was found" in panel.tools.said.text()
        panel.tools.found.setCurrentIndex(1)
        panel.tools.found.activated.emit(1)
        assert panel.address.text() == meter.resource
        qtbot.mouseClick(panel.tools.test, LEFT)
        qtbot.waitUntil(lambda: "243.1" in panel.tools.said.text(), timeout=PATIENCE_MS)
        assert "It says it is “ACME,M1”." in panel.tools.said.text()
        assert panel.reads.currentText() == "b1" and panel.connect_.isHidden()  # nothing to connect yet
        panel.reads.setEditText("B1")
        qtbot.mouseClick(panel.add, LEFT)
        assert panel.lines.toPlainText() == f"b1 {meter.resource}"
        assert panel.reads.currentText() not in ("", "b1")  # the next one
    fill(qtbot, panel.address, "simulated")  # the rail is read by one meter: this one
    panel.reads.setEditText("b1")
    qtbot.keyClick(panel.address, Qt.Key.Key_Return)
    assert panel.lines.toPlainText() == "b1 simulated"
    qtbot.mouseClick(panel.connect_, LEFT)
    qtbot.waitUntil(lambda: panel._meters.running, timeout=PATIENCE_MS)
    assert not panel.form.isVisible()


def test_what_answers_nothing_is_said_and_a_question_can_be_given_up(qtbot, panel):
    qtbot.mouseClick(panel.tools.test, LEFT)
    assert "Name its address first" in panel.tools.said.text()
    fill(qtbot, panel.address, "TCPIP::127.0.0.1::1::SOCKET")
    qtbot.mouseClick(panel.tools.test, LEFT)
    qtbot.waitUntil(lambda: "Nothing answers" in panel.tools.said.text(), timeout=PATIENCE_MS)
    asked, go = threading.Event(), threading.Event()

    def slow(_):
        asked.set()
        go.wait(20)

    with LoopbackInstrument(slow) as mute:
        fill(qtbot, panel.address, mute.resource)
        assert panel.tools.said.text() == ""  # what was said of another address is gone
        qtbot.mouseClick(panel.tools.test, LEFT)
        qtbot.waitUntil(asked.is_set, timeout=PATIENCE_MS)
        assert not panel.tools.test.isEnabled()
        qtbot.mouseClick(panel.tools.stop, LEFT)
        assert panel.tools.test.isEnabled() and panel.tools.said.text() == ""
        go.set()
    address = panel.address.text()
    qtbot.mouseClick(panel.add, LEFT)  # one that does not answer yet can be named all the same
    assert panel.lines.toPlainText().endswith(address)
