"""A point read again at another line: no repeat, but how far the line moves it, with the U of the difference."""

import math

import pytest

from candor.core.uncertainty.budget import Budget
from candor.notebook.entries.calibrate_entries import AdjustmentMade
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.job import fold
from candor.notebook.work.line_influence import line_influence
from candor.notebook.work.states import is_apart
from candor.paper.gather import make_certificate
from workbench import NOW, open_job, point_steps, reading, standard_body


def line(volts):
    return ConditionNoted(which="line_volts", value=volts)


@pytest.fixture
def read(notebook, pack):
    """A job with one point at 120, 108 and 132 V; returns it, its pack, the standards, what stands, and the step."""
    open_job(notebook, pack)
    known = notebook.write("", standard_body()).id
    step = point_steps(pack)[4]
    at = [
        line(120),
        reading(step, known, 1.00),
        line(108),
        reading(step, known, 0.97),
        line(132),
        reading(step, known, 1.02),
    ]
    notebook.append(drafts_of("job1", at))

    def now(*more):
        notebook.append(drafts_of("job1", more))
        job = fold("job1", notebook.entries_of("job1"))
        of = standards(notebook)
        found = assess_run(job, pack, of, "as found")
        return job, of, as_left_run(job, pack, found, assess_run(job, pack, of, "as left"))

    return now, step, known


def test_readings_at_another_line_are_not_averaged_in(read, pack):
    now, step, _ = read
    job, known, run = now()
    stands = run.results[step.point.key]
    assert len(stands.readings) == 1
    assert stands.error == pytest.approx(0, abs=1e-9)
    down, up = line_influence(job, pack, known, run)
    assert (down.base_volts, down.volts, up.volts) == (120, 108, 132)
    assert down.change == pytest.approx(-0.03 * step.point.nominal)
    assert up.change == pytest.approx(0.02 * step.point.nominal)


def test_what_the_reference_brings_to_both_cancels_in_u(read, pack):
    """JCGM 100:2008, F.1.2.3: the same reference at the same value is no part of a difference."""
    now, step, _ = read
    job, known, run = now()
    down, _ = line_influence(job, pack, known, run)
    both = (run.results[step.point.key].budget, down.result.budget)
    own = [Budget(tuple(c for c in b.contributions if c.kind != "reference")).combined for b in both]
    assert down.expanded == pytest.approx(2 * math.hypot(*own))
    assert down.expanded < 2 * math.hypot(*(b.combined for b in both))


def test_after_a_trim_what_was_seen_of_the_line_before_is_history(read, pack):
    now, step, known = read
    turned = AdjustmentMade(step="t", trim=pack.adjusters[0].name if pack.adjusters else "gain")
    job, of, run = now(line(120), turned, reading(step, known, 1.001, phase="as left"))
    assert line_influence(job, pack, of, run) == ()


def test_it_stands_on_the_certificate(read, pack):
    job, known, _ = read[0]()
    record = make_certificate(job=job, pack=pack, known=known, shop="My Bench", who="tester", now=NOW).record
    said = [r.text for r in record.remarks if r.kind == "line"]
    assert len(said) == 2
    assert "108 V line (−10 %): the error changes by −" in said[0]
    assert "from that at 120 V line" in said[0]


@pytest.mark.parametrize(
    ("volts", "base", "apart"), [(108, 120, True), (116, 120, False), (0, 120, False), (245, 230, True)]
)
def test_what_a_line_does_by_itself_is_no_other_line(volts, base, apart):
    assert is_apart(volts, base) is apart
