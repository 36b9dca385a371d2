"""The shelf as the window sees it."""

from candor.desktop.bench.shelf_in_hand import Shelf
from candor.notebook.entries.timers_entries import TimerStarted
from workbench import open_job


def test_every_timer_that_ends_is_announced_once(qapp, notebook, pack, clock):
    for job in ("one", "two"):
        open_job(notebook, pack, job)
        notebook.write(job, TimerStarted(step="warm-up", label=f"Warm-up of {job}", seconds=60))
    shelf, announced = Shelf(notebook, clock), []
    shelf.timerEnded.connect(lambda label, _: announced.append(label))
    assert not shelf.look_for_ended()
    assert len(shelf.running_timers()) == 2
    clock.advance(seconds=61)
    assert shelf.look_for_ended()
    assert sorted(announced) == ["Warm-up of one", "Warm-up of two"]
    assert not shelf.look_for_ended()
    assert len(announced) == 2
