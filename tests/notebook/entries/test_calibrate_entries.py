"""What the entries of a calibration amount to."""

from candor.notebook.entries.calibrate_entries import ReadingTaken, StepDone, StepSkipped, calibrate_record
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts_entries import PartMeasured, parts_record
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.standing_entries import Standing
from workbench import NOW


def standing(*bodies):
    return Standing(
        Entry(number=i, id=f"e{i}", job="j", at=NOW, who="w", body=body) for i, body in enumerate(bodies, 1)
    )


def test_a_step_that_was_left_out_and_then_done_or_read_is_left_out_no_more():
    out = [StepSkipped(step=step, reason="no source") for step in ("a", "b", "c")]
    read = ReadingTaken(step="b", phase="as found", point="p", indicated=1, reference=1)
    record = calibrate_record(standing(*out, StepDone(step="a"), read))
    assert set(record.skipped) == {"c"}
    again = calibrate_record(standing(StepDone(step="a"), *out))
    assert set(again.skipped) == {"a", "b", "c"}


def test_entries_of_several_kinds_come_in_the_order_they_were_written():
    run = RunEnded(run="r", ref="C1", leakage=3e-4, volts=280, dwell_s=60, readings=9)
    meter = PartMeasured(ref="C1", leakage=1e-4, leakage_volts=280, dwell_s=60)
    for bodies in ((run, meter, run), (meter, run)):
        kinds = [type(e.body) for e in parts_record(standing(*bodies)).measured["C1"]]
        assert kinds == [type(b) for b in bodies]
