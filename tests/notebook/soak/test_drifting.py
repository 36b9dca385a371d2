"""An instrument over its jobs: its history, with what was known before, its forecast, adjust or leave, the day it is due."""

import datetime as dt

import pytest

from candor.notebook.entries.calibrate_entries import AdjustmentMade
from candor.notebook.entries.soak_entries import DueSet, PastResult
from candor.notebook.soak.drifting import drift_asked, drift_view, due_choices
from candor.notebook.soak.past_import import preview_past
from candor.notebook.standards.standards import standards
from candor.notebook.work.job import fold
from candor.paper.gather import make_certificate
from candor.words.drift_words import say_advice, say_due
from workbench import open_job, point_steps, reading

POINT = "DC volts +, 150 V range at 75 V"


def calibrated(notebook, pack, job, ratio, left=None):
    standard = open_job(notebook, pack, job)
    step = next(s for s in point_steps(pack) if s.point.key == "dc+/150/75")
    notebook.write(job, reading(step, standard, ratio))
    if left is not None:
        notebook.write(job, AdjustmentMade(step="trim-plus", trim="+DC CAL"))
        again = next(s for s in point_steps(pack, "as left") if s.point.key == "dc+/150/75")
        notebook.write(job, reading(again, standard, left))


def view(notebook, job, today):
    known = standards(notebook)
    return drift_view(drift_asked(notebook, fold(job, notebook.entries_of(job)), known), today)


def test_the_history_is_that_of_one_instrument_over_all_its_jobs(notebook, clock, pack):
    calibrated(notebook, pack, "one", 1.01)
    clock.advance(days=365)
    calibrated(notebook, pack, "two", 1.02, left=1.0)
    clock.advance(days=365)
    calibrated(notebook, pack, "three", 1.005)
    found = view(notebook, "three", clock.now.date())
    point = next(p for p in found.points if p.name == POINT)
    assert [[round(r.error, 3) for r in s.results] for s in point.segments] == [[0.75, 1.5], [0.0, 0.375]]
    assert [r.when for r in point.segments[1].results] == ["left", "found"]
    assert point.limit == pytest.approx(4.5)
    assert found.forecasts[POINT].slope > 0
    assert say_advice(found.advice[POINT]).startswith("Leave it: ")
    choices = due_choices(found, pack.kind, clock.now.date())
    assert set(choices) == {"custom", "staircase", "forecast"}
    assert "the interval stays" in say_due(choices["staircase"])


def test_what_was_known_before_comes_in_as_a_table(notebook, clock, pack):
    calibrated(notebook, pack, "one", 1.01)
    rows = (f"{year}-05-01;{POINT};{error} V;0.3 V;4.5 V;found" for year, error in ((2024, 0.2), (2025, 0.5)))
    table = "\n".join(("date;point;error;U;limit;when", *rows))
    job = fold("one", notebook.entries_of("one"))
    for body in preview_past(table.encode(), clock.now.date(), pack, job).bodies:
        notebook.write("one", body)
    point = next(p for p in view(notebook, "one", clock.now.date()).points if p.name == POINT)
    assert [round(r.error, 3) for s in point.segments for r in s.results] == [0.2, 0.5, 0.75]
    notebook.write("one", PastResult(on=dt.date(2023, 5, 1), point=POINT, error=1, expanded=1, limit=2, unit="A"))
    assert "2023-05-01 was left out" in " ".join(view(notebook, "one", clock.now.date()).faults)
    late = preview_past(table.replace("2025", "2099").encode(), clock.now.date(), pack, job)
    assert "is in the future" in late.faults[0]


def test_with_no_history_the_custom_of_its_kind(notebook, clock, pack):
    open_job(notebook, pack, "one")
    found = view(notebook, "one", clock.now.date())
    assert found.points == ()
    assert "usual for this kind" in say_due(found.due)
    assert set(due_choices(found, pack.kind, clock.now.date())) == {"custom"}


def test_the_day_stands_on_the_certificate_with_its_reason(notebook, clock, pack):
    calibrated(notebook, pack, "one", 1.01)
    notebook.write("one", DueSet(on=dt.date(2027, 5, 1), reason="volts decide"))
    job = fold("one", notebook.entries_of("one"))
    record = make_certificate(job, pack, standards(notebook), "shop", "me", clock.now).record
    assert record.due.text == "01 May 2027, by forecast: volts decide."
    assert record.due.entry == job.entries[-1].number
