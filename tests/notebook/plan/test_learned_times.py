"""What the moments of entries say of how long work takes here."""

from __future__ import annotations

import datetime as dt
import random
from statistics import median

import pytest

from candor.core.plan.usual_times import USUAL
from candor.notebook.plan.learned_times import BREAK, times_of
from candor.notebook.storage.rows import Row
from workbench import NOW


def rows(kind, job_gaps):
    """Rows of a kind, in jobs of which each has an opening and then entries so many minutes apart."""
    number, made = 0, []
    for job, gaps in enumerate(job_gaps):
        at = NOW + dt.timedelta(days=job)
        for what, gap in (("job_opened", 0.0), *((kind, g) for g in gaps)):
            at += dt.timedelta(minutes=gap)
            number += 1
            made.append(Row(number, f"i{number}", f"job{job}", what, at.isoformat(), "who", "{}", ""))
    return made


def test_without_entries_it_is_what_is_usual():
    assert times_of([])["fit"].minutes == USUAL["fit"]


def test_gaps_are_learned_a_number_for_each_job_and_breaks_are_none():
    draw = random.Random(4)
    gaps = [[draw.gammavariate(4, 2) for _ in range(8)] for _ in range(60)]
    found = times_of(rows("change", [[*job, BREAK + 45] for job in gaps]))["fit"]
    assert found.count == 60
    assert found.minutes == pytest.approx(median(sum(job) / 8 for job in gaps), rel=0.1)


def test_what_is_one_sitting_of_a_job_is_added_up():
    found = times_of(rows("looked", [[3.0] * 10] * 40))["walk"]
    assert found.minutes == pytest.approx(30, rel=0.06)


def test_entries_of_the_shop_and_of_other_kinds_count_for_nothing():
    made = [*rows("soak_read", [[5.0] * 9]), *(r._replace(job="") for r in rows("change", [[5.0] * 9]))]
    assert all(t.count == 0 for t in times_of(made).values())
