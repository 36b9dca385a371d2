"""Trace, driven through the window: nodes, ohms, the signal, the ledger."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.parts_entries import CircuitTaken
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened, StatusSet
from candor.notebook.entries.trace_entries import NodeRead
from desk import LEFT, fill, jot, row_titles
from workbench import PATIENCE_MS, goes_on, put

NETLIST = "R1 b1 n1 10k\nR2 n1 n2 22k\nR3 n2 0 47k\nR4 n1 n3 33k\nR5 n3 0 68k"


@pytest.fixture
def trace(show, notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
    goes_on(notebook, "j")
    notebook.write("j", CircuitTaken(netlist=NETLIST, supply="b1"))
    window = show(notebook)
    window.go_to_stop("trace")
    return window


def enter(qtbot, field, text):
    fill(qtbot, field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def test_nodes_are_read_and_judged_and_what_does_not_add_up_is_said(qtbot, trace):
    nodes = trace.trace.nodes
    assert nodes.summary.text() == "0 of 4 nodes read, 0 not as expected"
    jot(qtbot, trace, "rail b1 is 250 V")
    for text in ("b1 250", "n1 185.6", "n2 126.4", "n3 80"):
        enter(qtbot, nodes.read, text)
    enter(qtbot, nodes.read, "nonsense")
    assert "Give a node and its voltage" in trace.jot.message.text()
    assert nodes.summary.text() == "4 of 4 nodes read, 1 not as expected"
    assert row_titles(nodes.list)[0] == "n3"  # what is off stands first
    assert "n3: " in nodes.words.text()
    qtbot.waitUntil(lambda: nodes.explained.lines[0].text().startswith("R5 is between"))
    assert row_titles(nodes.loads)[0].startswith("R1, if it has its value: 6.")
    jot(qtbot, trace, "node n3 is V2 pin 6")
    nodes.choose("n3")
    assert nodes.chain._chain.nodes == ("b1", "n1", "n3", "0")
    assert nodes.chain._said["n3"][1] == "brick"
    assert "V2 pin 6" in row_titles(nodes.list)[0]
    assert "low" in trace.because.sentence.text()
    jot(qtbot, trace, "node V2 pin 6 125.6")
    qtbot.waitUntil(lambda: nodes.explained.lines[0].text().startswith("R1 is between"))
    assert nodes.summary.text() == "4 of 4 nodes read, 0 not as expected"


def test_what_was_just_listed_is_joined_in_the_next_line(qtbot, trace):
    for text in (
        "part R7 47k 1 W carbon composition load",
        "R7 joins n3 and n7",
        "part R8 22k load",
        "R8 joins n7 and 0",
    ):
        jot(qtbot, trace, text)
    assert {"n3", "n7"} <= {line.node for line in trace.trace.nodes.view().lines}


def test_a_healthy_sister_says_what_a_node_should_be(qtbot, show, notebook):
    for job in ("home", "here"):
        notebook.write(job, JobOpened(maker="Corvane", type="AV-20", serial=job))
    notebook.write("home", NodeRead(node="n9", volts=112.0, meter_ohms=10e6))
    notebook.write("home", StatusSet(status="gone home"))
    window = show(notebook)
    window.shelf.job.emit("here")
    window.go_to_stop("trace")
    enter(qtbot, window.trace.nodes.read, "n9 60")
    line = window.trace.nodes.view().lines[0]
    assert (line.expected.source, line.expected.volts, line.judged.state) == ("sister", 112.0, "low")


def test_ohms_of_a_pair_are_judged_by_the_network(qtbot, trace):
    trace.trace.show_view("ohms")
    ohms = trace.trace.ohms
    enter(qtbot, ohms.read, "b1 to n1 10.1k")
    enter(qtbot, ohms.read, "n1 n2 0.5k, turned 0.5k")
    assert row_titles(ohms.list) == ["b1 to n1", "n1 to n2"]
    rows = [ohms.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(2)]
    assert [r.shape for r in rows] == ["full", "cross"]
    enter(qtbot, ohms.read, "b1")
    assert "Give two nodes" in trace.jot.message.text()


def test_a_signal_is_followed_to_its_cause_with_keys_and_taken_back(qtbot, trace):
    trace.trace.show_view("signal")
    signal = trace.trace.signal
    for name in ("input", "mixer", "filter, band 8..12", "detector", "meter"):
        enter(qtbot, signal.stage, name)
    assert "First prove the test lead" in signal.words.text()
    qtbot.mouseClick(signal.lead, LEFT)
    assert signal.words.text().startswith("Next: behind mixer") or signal.words.text().startswith(
        "Next: behind filter"
    )
    trace.trace.setFocus()
    first = signal._place()
    qtbot.keyClick(trace.trace, Qt.Key.Key_G)
    assert trace.bench.in_hand.job.trace.looks[0].body.stage == first
    qtbot.mouseClick(signal.back, LEFT)
    assert trace.bench.in_hand.job.trace.looks == ()
    jot(qtbot, trace, "behind mixer good")
    signal.choose("filter")
    enter(qtbot, signal.value, "3.1")
    assert trace.bench.in_hand.job.trace.looks[-1].body.outcome == "bad"
    assert signal.words.text().startswith("filter: ")
    jot(qtbot, trace, "behind oven good")
    assert "is not a stage of this chain" in trace.jot.message.text()
    signal.cause.setFocus()
    qtbot.keyClick(signal.cause, Qt.Key.Key_Return)
    assert "good behind mixer" in trace.bench.in_hand.job.trace.causes[0].body.text
    assert signal.words.text().startswith("Found: filter")


def test_the_ledger_names_what_no_check_has_proven(qtbot, trace):
    trace.trace.show_view("changes")
    changes = trace.trace.changes
    put(trace.bench.writer, ChangeMade(text="swapped V1 with V2"))
    enter(qtbot, changes.change, "replaced R5")
    assert "is not proven yet either" in trace.jot.message.text()
    assert changes.words.text() == "2 not proven"
    enter(qtbot, changes.check, "n3 reads 125 V")
    assert changes.words.text() == "1 not proven"
    enter(qtbot, changes.worse, "the sweep")
    assert "Suspect first what no check has proven: entry" in trace.jot.message.text()
    assert "swapped V1 with V2" in trace.jot.message.text()
    assert row_titles(changes.list)[0] == "stopped working: the sweep"


def test_what_is_calculated_has_the_tube_in_it(qtbot, show, notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
    notebook.write("j", CircuitTaken(netlist="R1 b1 p 47k\nR2 k 0 1.5k\nR3 g 0 470k", supply="b1"))
    window = show(notebook)
    window.go_to_stop("trace")
    for text in (
        "rail b1 is 250 V",
        "tube V1 plate p, grid g, cathode k, mu 20, 10 mA at 250 V and -8.5 V",
        "node b1 250",
        "node p 246",
    ):
        jot(qtbot, window, text)
    line = {x.node: x for x in window.trace.nodes.view().lines}["p"]
    assert (line.expected.source, 120 < line.expected.volts < 200, line.judged.state) == ("calculated", True, "high")


def test_a_node_carries_a_photo_whatever_is_read_there_later(qtbot, trace, tmp_path):
    picture = tmp_path / "board.png"
    QImage(300, 200, QImage.Format.Format_RGB32).save(str(picture))
    nodes = trace.trace.nodes
    nodes.choose("n1")
    nodes.attach([picture])
    assert "Read the node first" in trace.jot.message.text()
    enter(qtbot, nodes.read, "n1 185")
    nodes.choose("n1")
    nodes.attach([picture])
    enter(qtbot, nodes.read, "n1 186")
    (file,) = trace.bench.in_hand.job.trace.photos["n1"]
    assert (trace.bench.notebook.photo_folder / file).read_bytes() == picture.read_bytes()
    qtbot.waitUntil(lambda: nodes.photos.isVisible() and bool(nodes.photos.findChildren(QLabel)))


def test_adjusters_that_move_each_other_are_set_together_and_kept_as_a_note(qtbot, trace):
    trace.trace.show_view("turns")
    panel = trace.trace.turns
    said = " ".join(x.text() for x in panel.caution.findChildren(QLabel) if x.isVisible())
    assert (
        "may be live" in said and panel.caution.geometry().bottom() <= panel.lines.geometry().top()
    )  # before the deed
    panel.lines.setPlainText("start 3.2 -1.8")
    qtbot.mouseClick(panel.calculate, LEFT)
    assert "one for each adjuster" in trace.jot.message.text()
    panel.lines.setPlainText("start 3.2 -1.8\ncoil 1/2: 1.1 -2.4\ntrimmer 1/4: 3.0 1.2\nlimit 1")
    qtbot.mouseClick(panel.calculate, LEFT)
    qtbot.waitUntil(lambda: panel.answer.text().startswith("All at once"), timeout=30000)
    notes = [e.body.text for e in trace.bench.in_hand.job.stay.notes]
    assert len(notes) == 1 and notes[0].startswith("adjusters: start 3.2 -1.8; coil 1/2")


def test_what_each_adjuster_moves_is_taken_from_the_circuit(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40257")
    window.go_to_stop("trace")
    window.trace.show_view("turns")
    panel = window.trace.turns
    qtbot.mouseClick(panel.drawn, LEFT)
    qtbot.waitUntil(lambda: bool(panel.lines.toPlainText()) or bool(window.jot.message.text()), timeout=PATIENCE_MS)
    assert "R12" in panel.moves.text() and panel.lines.toPlainText().startswith("in per cent of the part\nstart ")
    qtbot.mouseClick(panel.calculate, LEFT)
    qtbot.waitUntil(lambda: bool(panel.answer.text()), timeout=PATIENCE_MS)
    window.shelf.job.emit("sb40217")  # its pack names no part of an adjuster
    window.go_to_stop("trace")
    assert panel.lines.toPlainText() == panel.moves.text() == ""
    qtbot.mouseClick(panel.drawn, LEFT)
    qtbot.waitUntil(lambda: "Of no adjuster" in window.jot.message.text(), timeout=PATIENCE_MS)
    assert panel.moves.text() == ""


def test_what_was_read_before_a_change_explains_nothing_after_it(qtbot, trace):
    jot(qtbot, trace, "rail b1 is 250 V")
    nodes = trace.trace.nodes
    for text in ("b1 250", "n1 185.6", "n2 126.4", "n3 80"):
        enter(qtbot, nodes.read, text)
    qtbot.waitUntil(lambda: nodes.explained.lines[0].text().startswith("R5 is between"))
    put(trace.bench.writer, ChangeMade(text="replaced R5 with 68k"))
    qtbot.waitUntil(lambda: not nodes.explained.isVisible())


def test_turns_of_one_job_are_not_those_of_another(qtbot, trace):
    trace.trace.show_view("turns")
    panel = trace.trace.turns
    panel.lines.setPlainText("start 1\ncoil 1: 2\nlimit 1")
    panel.ask()
    qtbot.waitUntil(lambda: bool(panel.answer.text()), timeout=30000)
    trace.bench.notebook.write("other", JobOpened(maker="Corvane", type="AV-21", serial="1"))
    trace._open_job("other")
    trace.go_to_stop("trace")
    trace.trace.show_view("turns")
    assert not panel.lines.toPlainText() and not panel.answer.text()
