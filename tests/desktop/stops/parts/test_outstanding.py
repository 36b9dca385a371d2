"""What is owed before power, and the joints done as one change."""

from desk import LEFT, jot


def test_joints_are_re_soldered_as_one_change(qtbot, arrived):
    arrived.go_to_stop("parts")
    owed = arrived.parts.outstanding
    assert not owed.isVisible()
    for where in ("V3 pin 6", "the ground lug"):
        jot(qtbot, arrived, f"joint {where}")
    assert owed.words.text() == "To re-solder: 2 (V3 pin 6, the ground lug)."
    before = len(arrived.bench.in_hand.job.stay.changes)
    qtbot.mouseClick(owed.done, LEFT)
    job = arrived.bench.in_hand.job
    assert (len(job.stay.changes) - before, job.unit.joints) == (1, ())
    assert "V3 pin 6, the ground lug" in job.stay.changes[-1].body.text
    assert not owed.isVisible()
