"""The shelf."""

from candor.notebook.entries.stay import StatusSet
from candor.notebook.entries.timers import TimerStarted
from candor.notebook.shelf import shelf
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
