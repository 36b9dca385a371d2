"""The hours of a job: by its entries, ahead, for the next quote, against the price agreed."""

from __future__ import annotations

import datetime as dt

import pytest

from candor.core.plan.usual_times import USUAL, WORKS, took
from candor.notebook.entries.stay_entries import PriceAgreed
from candor.notebook.plan.deeds_of_job import Ahead
from candor.notebook.plan.job_time import job_time
from candor.notebook.storage.rows import Row
from candor.notebook.work.job import fold
from candor.words.hours_words import say_hours
from workbench import NOW, open_job

TIMES = {work: took(work) for work in WORKS}


def rows(job, *entries):
    """Rows of a job: kind, and the minutes since the one before."""
    made, at = [], NOW
    for number, (kind, gap) in enumerate((("job_opened", 0), *entries)):
        at += dt.timedelta(minutes=gap)
        made.append(Row(number, f"{job}{number}", job, kind, at.isoformat(), "who", "{}", ""))
    return made


def test_the_minutes_before_entries_count_and_breaks_do_not(notebook, pack):
    open_job(notebook, pack)
    folded = fold("job1", notebook.entries_of("job1"))
    seen = rows(
        "job1", ("looked", 6), ("looked", 9), ("part_measured", 4), ("part_measured", 300), ("part_measured", 5)
    )
    found = job_time(folded, [Ahead("release", "release")], TIMES, seen, ())
    assert found.spent == {"walk": 15, "part": 9}
    assert found.usual == pytest.approx(USUAL["walk"] + 2 * USUAL["part"])
    assert found.ahead.middle == pytest.approx(USUAL["release"])
    assert found.whole.middle == pytest.approx(24 + USUAL["release"]) and found.jobs == 0
    assert "no job of the type is over yet" in " ".join(say_hours(found))


def test_jobs_of_the_type_that_are_over_tell_the_next_quote(notebook, pack):
    open_job(notebook, pack)
    folded = fold("job1", notebook.entries_of("job1"))
    old = [r for n in range(30) for r in rows(f"old{n}", *[("change", 10)] * (18 + n % 5))]
    found = job_time(folded, [Ahead("fit", "fit", 15)], TIMES, old, [f"old{n}" for n in range(30)])
    assert found.jobs == 30
    assert found.whole.middle == pytest.approx(200, rel=0.1)
    assert found.whole.high / found.whole.low < 1.8


def test_a_price_that_will_be_passed_is_asked_about_with_the_words_ready(notebook, pack):
    open_job(notebook, pack)
    notebook.write("job1", PriceAgreed(agreed=60.0, an_hour=60.0))
    folded = fold("job1", notebook.entries_of("job1"))
    seen = rows("job1", *[("looked", 15)] * 3)
    within = say_hours(job_time(folded, [Ahead("settle", "settle")], TIMES, seen, ()))
    assert within[-1] == "Within the price: 45.00 spent and about 10.00 still to come, of 60.00 agreed."
    over = say_hours(job_time(folded, [Ahead("release", "release")], TIMES, seen, ()))
    assert over[-2].startswith("Likely 15.00 over the price") and "Ask the owner before you go on." in over[-2]
    assert "about 75.00 instead of the 60.00 agreed. Shall I go on?" in over[-1]
