"""What the readings of a job say."""

import datetime as dt

import pytest

from candor.core.verdict.rules import Outcome
from candor.notebook.entries.calibrate_entries import AdjustmentMade, StepDone, StepSkipped
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import as_left_run, assess_run, first_open, step_state, unfinished
from candor.notebook.work.job import fold
from candor.notebook.work.states import states_of
from candor.packs.procedure import procedure
from candor.words.results import say_result
from workbench import open_job, point_steps, reading, standard_body


def test_steps_open_running_done_skipped(notebook, pack, clock):
    standard = open_job(notebook, pack)
    zero, warm, electrical, point = procedure(pack)[:4]
    notebook.write("job1", StepDone(step=zero.key))
    notebook.write("job1", TimerStarted(step=warm.key, label="Warm-up", seconds=1800))
    job = fold("job1", notebook.entries_of("job1"))

    def state(job, step):
        return step_state(job, step, clock(), states_of(job, pack))

    assert [state(job, s) for s in (zero, warm, electrical)] == ["done", "running", "open"]
    assert first_open(job, pack, clock()) == electrical
    clock.advance(minutes=31)
    assert state(job, warm) == "done"
    notebook.write("job1", StepSkipped(step=point.key, reason="no source"))
    assert state(fold("job1", notebook.entries_of("job1")), point) == "skipped"
    notebook.write("job1", reading(point, standard))
    assert state(fold("job1", notebook.entries_of("job1")), point) == "done"


def read_all(notebook, pack, standard, phase="as found", ratio=1.0):
    notebook.append(drafts_of("job1", [reading(s, standard, ratio) for s in point_steps(pack, phase)]))
    return fold("job1", notebook.entries_of("job1"))


def test_as_found_stands_as_left_while_nothing_is_touched(notebook, pack, clock):
    standard = open_job(notebook, pack)
    notebook.write("job1", ChangeMade(text="new cord, before any reading"))
    job = read_all(notebook, pack, standard)
    known = standards(notebook)

    def standing(job):
        found, left = (assess_run(job, pack, known, phase) for phase in ("as found", "as left"))
        return as_left_run(job, pack, found, left)

    assert standing(job).phase == "as found"
    assert standing(job).outcome is Outcome.PASS
    assert {s.phase for s in unfinished(job, pack, clock())} == {"preparation"}
    trim = next(s for s in procedure(pack) if s.kind == "adjust")
    notebook.write("job1", AdjustmentMade(step=trim.key, trim=trim.trim, indicated=5.0, reference=5.0))
    job = fold("job1", notebook.entries_of("job1"))
    assert standing(job).outcome is Outcome.NOT_MEASURED
    points = [s for s in unfinished(job, pack, clock()) if s.phase == "as left" and s.kind == "point"]
    assert len(points) == 21
    assert {s.point.function for s in points} == {"DC volts +"}  # the trim is in series on + only


def test_each_reading_is_judged_by_the_standard_it_names(notebook, pack):
    """A standard recorded again supersedes, but old readings keep the state they were read with."""
    first = open_job(notebook, pack)
    second = notebook.write("", standard_body(calibrated_on=dt.date(2026, 6, 1))).id
    steps = point_steps(pack)
    notebook.append(drafts_of("job1", [reading(steps[0], first), reading(steps[1], second)]))
    known = standards(notebook)
    assert [known[first].current, known[second].current] == [False, True]
    run = assess_run(fold("job1", notebook.entries_of("job1")), pack, known, "as found")
    ages = [run.results[s.point.key].age.sentence for s in steps[:2]]
    assert "2026-01-10" in ages[0]
    assert "2026-06-01" in ages[1]


def test_a_standard_that_cannot_serve_the_value_is_said_not_crashed(notebook, pack):
    open_job(notebook, pack)
    small = notebook.write("", standard_body(key="small", ranges=[{"upper": 1.0, "percent_of_reading": 0.1}])).id
    step = point_steps(pack)[-1]
    notebook.write("job1", reading(step, small))
    result = assess_run(fold("job1", notebook.entries_of("job1")), pack, standards(notebook), "as found").results
    assert result[step.point.key].verdict.outcome is Outcome.CANNOT_TELL
    assert "1.5 kV is beyond the specification" in say_result(result[step.point.key])


@pytest.mark.parametrize(
    ("ratio", "outcome"), [(1.0, Outcome.PASS), (1.1, Outcome.FAIL), (1.02, Outcome.CANNOT_TELL)]
)
def test_the_whole_of_a_job(notebook, pack, ratio, outcome):
    standard = open_job(notebook, pack)
    job = read_all(notebook, pack, standard, ratio=min(ratio, 1.05))
    assert assess_run(job, pack, standards(notebook), "as found").outcome is outcome
