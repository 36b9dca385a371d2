"""What bars power, settled where the work is: found, overridden, or cleared only by doing."""

from candor.notebook.work.barriers import barrier
from desk import LEFT, fill, jot


def test_a_lost_screw_is_found_and_a_wash_is_overridden_only_with_a_reason(qtbot, arrived):
    jot(qtbot, arrived, "unaccounted 1 screw M3")
    jot(qtbot, arrived, "washed the chassis, 2 days")
    arrived.go_to_stop("calibrate")
    assert "1 missing (screw M3)" in arrived.calibrate.barred.words.words.text()
    qtbot.mouseClick(arrived.calibrate.barred.settle, LEFT)
    assert arrived.bench.place.stop == "power"
    bar = arrived.power.barrier
    assert "1 missing (screw M3)" in bar.words.words.text()
    assert bar.cleared.isVisible()
    qtbot.mouseClick(bar.cleared, LEFT)
    assert "Write first" in arrived.jot.message.text()
    fill(qtbot, bar.reason, "under the fan")
    qtbot.mouseClick(bar.cleared, LEFT)
    assert arrived.bench.in_hand.job.unit.missing == 0
    assert bar.reason.text() == ""
    assert barrier(arrived.bench.in_hand.job, None).kind == "insulation"
    assert not bar.cleared.isVisible()
    fill(qtbot, bar.reason, "only the knobs were washed")
    qtbot.mouseClick(bar.override, LEFT)
    assert barrier(arrived.bench.in_hand.job, None) is None
    assert not bar.isVisible()
