"""The fold: strikes and their return, the job as it stood, the shelf, the assessment of a job."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.verdict.rules import Outcome, Rule
from candor.notebook.assessment import as_left_run, assess_run, first_open, standards, step_state, unfinished
from candor.notebook.entries.arrive import FindingNoted, FindingSettled
from candor.notebook.entries.calibrate import (
    AdjustmentMade,
    ReadingTaken,
    RuleChosen,
    StepDone,
    StepSkipped,
    TimerStarted,
)
from candor.notebook.entries.entry import Entry, drafts_of
from candor.notebook.entries.stay import ChangeMade, DetailWritten, NoteWritten, StatusSet
from candor.notebook.entries.strikes import Struck, Unstruck
from candor.notebook.job import fold
from candor.notebook.shelf import shelf
from candor.notebook.states import states_of
from candor.packs.procedure import procedure
from workbench import NOW, open_job, point_steps, reading, standard_body

POINT = {"step": "s", "phase": "as found", "point": "p", "indicated": 1.0, "reference": 1.0}
BODIES = st.sampled_from(
    [
        NoteWritten(text="a"),
        DetailWritten(field="owner", text="b"),
        DetailWritten(field="owner", text="c"),
        ReadingTaken.model_validate(POINT),
        FindingNoted(zone="z", mark="hazard", text="d"),
        StepDone(step="s"),
        StepSkipped(step="s", reason="e"),
        RuleChosen(rule=Rule.PLAIN),
        ChangeMade(text="f"),
        StatusSet(status="waiting", text="g"),
        TimerStarted(step="s", label="h", seconds=60),
    ]
)


def numbered(bodies) -> list[Entry]:
    return [
        Entry(number=i, id=f"id{i}", job="job", at=NOW + dt.timedelta(minutes=i), who="t", body=b)
        for i, b in enumerate(bodies, 1)
    ]


def facts(job) -> tuple:
    """What a job says, without its list of entries."""
    return (
        dict(job.stay.details), job.arrive, dict(job.calibrate.done), dict(job.calibrate.skipped), job.calibrate.timers,
        [r.entry for r in job.calibrate.readings], job.calibrate.rule, job.stay.changes, job.stay.notes, job.stay.status,
        job.stay.status_text,
    )  # fmt: skip


@given(st.lists(BODIES, max_size=12), st.data())
def test_struck_is_as_if_never_written_and_unstruck_as_if_never_struck(bodies, data):
    entries = numbered(bodies)
    target = data.draw(st.integers(0, len(entries)), label="target")
    if target == len(entries):
        return
    strike = Entry(
        number=90,
        id="strike",
        job="job",
        at=NOW + dt.timedelta(days=1),
        who="t",
        body=Struck(target=entries[target].id),
    )
    back = Entry(
        number=91,
        id="back",
        job="job",
        at=NOW + dt.timedelta(days=2),
        who="t",
        body=Unstruck(target=entries[target].id),
    )
    without = entries[:target] + entries[target + 1 :]
    assert facts(fold("job", [*entries, strike])) == facts(fold("job", without))
    assert facts(fold("job", [*entries, strike, back])) == facts(fold("job", entries))
    assert len(fold("job", [*entries, strike]).entries) == len(entries) + 1


@given(st.lists(BODIES, max_size=10), st.integers(0, 10))
def test_a_job_can_be_seen_as_it_was(bodies, minutes):
    entries = numbered(bodies)
    moment = NOW + dt.timedelta(minutes=minutes)
    assert facts(fold("job", entries, until=moment)) == facts(fold("job", [e for e in entries if e.at <= moment]))


def test_undo_walks_back_and_redo_forward(notebook, pack):
    open_job(notebook, pack)
    for text in ("one", "two"):
        notebook.write("job1", ChangeMade(text=text))
    for expected in ("two", "one"):
        job = fold("job1", notebook.entries_of("job1"))
        assert job.last_standing().body.text == expected
        notebook.write("job1", Struck(target=job.last_standing().id))
    job = fold("job1", notebook.entries_of("job1"))
    assert job.stay.changes == ()
    assert job.last_struck().body.text == "one"
    notebook.write("job1", Unstruck(target=job.last_struck().id))
    assert [e.body.text for e in fold("job1", notebook.entries_of("job1")).stay.changes] == ["one"]


def test_hazards_stand_until_settled(notebook, pack):
    open_job(notebook, pack)
    hazard = notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="perished"))
    assert [f.text for f in fold("job1", notebook.entries_of("job1")).arrive.open_hazards] == ["perished"]
    settled = FindingSettled(finding=hazard.id, how="overridden", reason="only looked at, not powered")
    notebook.write("job1", settled)
    job = fold("job1", notebook.entries_of("job1"))
    assert job.arrive.open_hazards == ()
    assert job.arrive.overridden[0].reason == "only looked at, not powered"


def test_shelf_groups_by_what_a_job_waits_for(notebook, pack, clock):
    for job in ("hands", "cooking", "waiting", "home"):
        open_job(notebook, pack, job)
    notebook.write("cooking", TimerStarted(step="warm-up", label="Warm-up", seconds=600))
    notebook.write("waiting", StatusSet(status="waiting", text="two parts"))
    notebook.write("home", StatusSet(status="gone home", text="due again May 2028"))
    assert [(line.job, line.group) for line in shelf(notebook, clock())] == [
        ("hands", "wants hands"), ("cooking", "cooking"), ("waiting", "waiting"), ("home", "gone home"),
    ]  # fmt: skip
    clock.advance(seconds=601)
    groups = {line.job: line.group for line in shelf(notebook, clock())}
    assert groups["cooking"] == "wants hands"


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
    assert "1.5 kV is beyond the specification" in result[step.point.key].sentence


@pytest.mark.parametrize(
    ("ratio", "outcome"), [(1.0, Outcome.PASS), (1.1, Outcome.FAIL), (1.02, Outcome.CANNOT_TELL)]
)
def test_the_whole_of_a_job(notebook, pack, ratio, outcome):
    standard = open_job(notebook, pack)
    job = read_all(notebook, pack, standard, ratio=min(ratio, 1.05))
    assert assess_run(job, pack, standards(notebook), "as found").outcome is outcome
