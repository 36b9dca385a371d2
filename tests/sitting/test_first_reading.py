"""Before the first change of an instrument that was never read it is asked once what becomes of as found."""

import pytest

from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.stay_entries import JobOpened
from candor.sitting.commands import calibrate_commands, parts_commands, stay_commands
from candor.sitting.sitting import Place
from sitting.test_sitting import JOB, Bench
from workbench import open_job, point_steps, reading


@pytest.fixture
def bench(notebook, pack):
    open_job(notebook, pack)
    return Bench(notebook)


def test_it_is_asked_once_with_what_the_change_would_void_and_the_minutes(bench):
    answer = bench.do(stay_commands.change("trimmed +DC CAL", turned="+DC CAL"))
    assert (answer.written, bench.job().stay.changes) == ((), ())
    asked = bench.sitting.held[1]
    assert {s.point.function for s in asked.steps} == {"DC volts +"}  # the minus side hangs on a trim of its own
    assert [s.point.nominal for s in asked.steps] == [0.3, 0.75, 1.5]
    assert asked.minutes == pytest.approx(33, abs=0.5)  # 30 min of warm-up, a minute a reading
    assert "Nothing has been read as found yet" in asked.words
    assert "about 33 min" in asked.words
    bench.sitting.go_on(bench.seen(), JOB)
    assert [e.body.turned for e in bench.job().stay.changes] == ["+DC CAL"]
    assert bench.job().calibrate.waived is not None
    bench.do(parts_commands.fit("R4", "1 MΩ"))
    assert len(bench.job().stay.changes) == 2


def test_it_arrived_dead_is_written_with_the_change_and_undone_with_it(bench):
    bench.do(parts_commands.fit("R4", "1 MΩ"))
    bench.sitting.go_on(bench.seen(), JOB, dead="no rail comes up")
    assert bench.job().calibrate.inoperative.body.reason == "no rail comes up"
    bench.undo()
    assert (bench.job().stay.changes, bench.job().calibrate.inoperative) == ((), None)


def test_where_power_is_barred_only_what_can_be_read_cold_is_offered_and_why(bench):
    bench.notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    bench.do(stay_commands.change("replaced C1", part="C1"))
    asked = bench.sitting.held[1]
    assert asked.steps == ()
    assert "mechanical zero" in asked.words
    assert "never through a rectifier or a current transformer" in asked.words
    assert "No more than that now. Blocked by a hazard: bare copper" in asked.words


def test_what_was_read_and_what_is_not_changed_is_not_asked_about(bench):
    assert bench.do(stay_commands.note("dusty")).written
    assert bench.do(stay_commands.detail("serial", "7")).written
    assert bench.do(calibrate_commands.step_done(next(s for s in _checks(bench) if not s.trims))).written
    bench.notebook.write("job1", reading(point_steps(bench.seen().pack)[0], ""))
    assert bench.do(stay_commands.change("replaced C1", part="C1")).written
    assert bench.sitting.held is None


def test_by_name_alone_a_range_is_written_first(notebook):
    notebook.write("job1", JobOpened(maker="Corvane", type="V-3", serial="5"))
    bench = Bench(notebook)
    bench.do(stay_commands.change("trimmed the shunt", turned="shunt"), Place(job="job1"))
    assert "Write a range first" in bench.sitting.held[1].words


def _checks(bench):
    from candor.packs.procedure import procedure

    return [s for s in procedure(bench.seen().pack) if s.kind == "check"]
