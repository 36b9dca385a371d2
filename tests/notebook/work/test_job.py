"""The fold: strikes and their return, the job as it stood, the shelf, the assessment of a job."""

import datetime as dt

from hypothesis import given
from hypothesis import strategies as st

from candor.core.verdict.rules import Rule
from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.calibrate_entries import ReadingTaken, RuleChosen, StepDone, StepSkipped
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.stay_entries import ChangeMade, DetailWritten, NoteWritten, StatusSet
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.work.job import extend, fold
from workbench import NOW, open_job

POINT = {"step": "s", "phase": "as found", "point": "p", "indicated": 1.0, "reference": 1.0}


BODIES = st.sampled_from(
    [
        NoteWritten(text="a"),
        ConditionNoted(which="celsius", value=21.0),
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


@given(st.lists(BODIES, max_size=16), st.booleans())
def test_a_job_that_grows_entry_by_entry_is_the_job_folded_whole(bodies, strikes):
    """As a window grows it by what was just written, so it is folded from the notebook: whatever comes between readings."""
    entries = numbered([*bodies, *([Struck(target="id1")] if strikes else []), ReadingTaken.model_validate(POINT)])
    job = fold("job", entries[:1])
    for entry in entries[1:]:
        job = extend(job, [entry])
    whole = fold("job", entries)
    assert job == whole
    assert [(r.place, r.celsius) for r in job.calibrate.readings] == [
        (r.place, r.celsius) for r in whole.calibrate.readings
    ]
