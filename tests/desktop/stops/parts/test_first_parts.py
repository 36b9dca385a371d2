"""What to measure first, above the list of parts."""

from candor.notebook.entries.parts_entries import PartMeasured
from candor.sitting.command import command


def test_it_is_said_and_what_was_measured_is_asked_for_no_more(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40243")
    window.go_to_stop("parts")
    line = window.parts.first.label
    qtbot.waitUntil(lambda: "measure these first: R1, R30," in line.text())
    assert line.isVisible()
    body = PartMeasured(ref="R1", value=2.0, unit="ohm")
    window.bench.writer.do(command("R1 measured", body))
    qtbot.waitUntil(lambda: "measure these first: R2, R10," in line.text())
    window.shelf.job.emit("sb40224")  # no circuit says what makes its ranges
    window.go_to_stop("parts")
    qtbot.waitUntil(lambda: not line.isVisible())
