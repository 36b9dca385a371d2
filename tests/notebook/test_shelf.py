"""The shelf."""

from candor.notebook.entries.stay_entries import DetailWritten, StatusSet
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.shelf import shelf, shelf_with
from workbench import open_job


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


def test_the_line_of_one_job_anew_is_the_whole_shelf_anew(demo):
    now = demo.clock()
    lines = shelf(demo, now)
    for line in lines[::3]:
        demo.write(line.job, StatusSet(status="waiting", text="a part"))
        lines = shelf_with(lines, demo, line.job, demo.entries_of(line.job), now)
        assert lines == shelf(demo, now)
    demo.write("sb40217", DetailWritten(field="serial", text="other"))
    assert shelf_with(lines, demo, "sb40217", demo.entries_of("sb40217"), now) == shelf(demo, now)
