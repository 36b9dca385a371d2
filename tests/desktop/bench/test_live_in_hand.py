"""What runs live, as the views see it."""

import datetime as dt

from candor.core.leakage.leakage_run import Plan
from candor.core.parts.part import Part
from candor.desktop.bench.live_in_hand import Live
from candor.notebook.entries.runs_entries import Run
from candor.notebook.runs.run_files import cut_off, is_held
from workbench import by_command


def test_a_run_is_held_while_it_goes_on_and_warns_when_it_is_left(qtbot, notebook):
    """Another window sees the lock and leaves it alone; closed over a charged part, what must be known is passed on."""
    live = Live(notebook, by_command(notebook))
    told = []
    live.ended.connect(lambda *words: told.append(words))
    assert live.start("j", Part("C1/2", "capacitor", 1e-6), Plan(100, 1e-6, 1e-6), "by hand")
    (path,) = notebook.run_folder.iterdir()
    assert is_held(path)
    runs = [Run(live.started)]
    later = notebook.clock() + dt.timedelta(days=1)
    assert list(cut_off(notebook.run_folder, runs, later)) == []
    for volts in (49.0, 98.0):
        live.take(volts, 1e-6)
    live.close()
    assert not is_held(path)
    assert told == [
        (
            "C1/2",
            "the window was closed",
            "The part on the clips was not measured safe. Discharge it and measure before you touch.",
        )
    ]
    assert notebook.entries_of("j")[-1].body.measured_volts == 98.0


def test_a_notebook_that_cannot_be_written_starts_no_run(qtbot, notebook):
    live = Live(notebook, lambda *_: None)
    plan = Plan(100, 1e-6, 1e-6)
    assert not live.start("j", Part("C1", "capacitor", 1e-6), plan, "simulated")
    assert not live.running
    live.cancel()
    live.close()
    assert (live.caution(), live.ref, live.job, live.status(), live.plan) == ("", "", "", None, None)
