"""Forecasts: against numerical integration, against GTC with a flat prior, and the fans by simulation, wild results among them."""

import datetime as dt
import math

import numpy as np
import pytest
from GTC import type_b, ureal
from scipy.integrate import dblquad

from candor.core.drift.forecast import SHARED, forecast, forecast_all
from candor.core.drift.history import DAYS, Calibration, segments_of
from candor.core.drift.posterior import OFFSET
from candor.core.drift.prior import KNOWN, Prior, pooled
from candor.core.errors import RangeError
from generators import coarse, noise

START = dt.date(2018, 1, 1)


def day(years):
    return START + dt.timedelta(days=round(years * DAYS))


def test_with_a_flat_prior_it_is_the_weighted_line():
    """GTC's weighted fit, slope and its u; no walk, nothing shared, a slope that may be anything."""
    years, errors, u = (0.0, 1.0, 2.0, 3.5, 5.0), (0.1, 0.25, 0.2, 0.5, 0.55), (0.05, 0.04, 0.08, 0.05, 0.06)
    rows = [Calibration(day(t), e, 2 * s) for t, e, s in zip(years, errors, u, strict=True)]
    found = forecast(segments_of(rows), 1.0, Prior(30.0, 0.0, scales=KNOWN), shared=0.0, robust=False)
    at = [(r.on - START).days / DAYS for r in rows]
    line = type_b.line_fit_wls(at, [ureal(e, s) for e, s in zip(errors, u, strict=True)])
    intercept, slope = line.a_b
    assert (found.slope, found.u_slope) == (pytest.approx(slope.x, rel=1e-3), pytest.approx(slope.u, rel=1e-3))
    there = intercept + 7.0 * slope
    mean, spread = found.at(day(7.0))
    assert (mean, spread) == (pytest.approx(there.x, rel=2e-3), pytest.approx(there.u, rel=2e-3))


def test_the_posterior_is_that_of_numerical_integration():
    """Slope and offset integrated over a plane: mean and spread of the error four years on (no walk)."""
    rows = [Calibration(day(t), e, 0.2) for t, e in ((0, 0.1), (1, 0.2), (2, 0.15))]
    found = forecast(segments_of(rows), 1.0, Prior(0.1, 0.0, scales=KNOWN), shared=0.0, robust=False)
    at = [(r.on - START).days / DAYS for r in rows]

    def density(b, a):
        log = -0.5 * (b / 0.1) ** 2 - 0.5 * (a / OFFSET) ** 2
        return math.exp(log - 0.5 * sum(((a + b * t - r.error) / 0.1) ** 2 for t, r in zip(at, rows, strict=True)))

    there = (day(4) - START).days / DAYS
    box = (-0.6, 0.9, lambda _: -0.5, lambda _: 0.6)
    moments = [
        dblquad(lambda b, a, n=n: (a + b * there) ** n * density(b, a), *box, epsabs=1e-9)[0] for n in range(3)
    ]
    mean = moments[1] / moments[0]
    spread = math.sqrt(moments[2] / moments[0] - mean**2)
    assert found.at(day(4)) == (pytest.approx(mean, abs=2e-4), pytest.approx(spread, rel=2e-3))


def draw(random, wild=0.0, missing=0.0, count=6, expanded=0.15):
    """A history by the model itself: slope, walk, adjustments, one standard's offset; results wild or missing."""
    slope, offset, walk, since, rows = random.normal(0, 0.1), random.normal(0, 0.3), 0.0, 0, []
    own = expanded / 2 * math.sqrt(1 - SHARED**2)
    of_standard = random.normal(0, SHARED * expanded / 2)
    for k in range(count):
        walk += random.normal(0, 0.05) if k else 0.0
        shown = offset + slope * (k - since) + walk + of_standard + random.normal(0, own)
        shown += random.normal(0, 1.5) if random.random() < wild else 0.0
        if k == 0 or random.random() >= missing:
            rows.append(Calibration(day(k), shown, expanded, "found", "s"))
        if k and random.random() < 0.2:
            offset, walk, since = random.normal(0, 0.1), 0.0, k
            rows.append(Calibration(day(k), offset + of_standard + random.normal(0, own), expanded, "left", "s"))
    true = offset + slope * (count - since) + walk + random.normal(0, 0.05)
    return segments_of(rows), day(count), true


@pytest.mark.parametrize(("outlier", "missing"), [(0.0, 0.0), (0.03, 0.0), (0.0, 0.3), (0.03, 0.3)])
def test_the_fans_hold_what_they_say(outlier, missing):
    """500 drawn histories, slope and walk as the prior says: the 95 per cent fan holds 93 and more, that of 50 holds 47."""
    random = np.random.default_rng(7)
    drawn = [draw(random, outlier, missing) for _ in range(500)]
    found = forecast_all([(segments, 1.0) for segments, _, _ in drawn])
    off = [abs(true - f.at(on)[0]) / f.at(on)[1] for f, (_, on, true) in zip(found, drawn, strict=True)]
    assert np.mean(np.array(off) <= 1.96) >= 0.93
    assert np.mean(np.array(off) <= 0.6745) >= 0.47


@pytest.mark.parametrize(
    ("count", "slope", "walk", "more", "holds", "widest"),
    [
        (2, 1, 1, "", 0.92, 1.8), (2, 2, 1, "", 0.85, 1.5), (2, 3, 3, "", 0.85, 1.2), (2, 1, 3, "", 0.85, 1.3),
        (10, 1 / 3, 1 / 3, "", 0.92, 1.5), (10, 1, 1, "", 0.92, 1.3), (10, 3, 3, "", 0.92, 1.3), (10, 1, 3, "", 0.9, 1.3),
        (10, 1, 1, "heavy", 0.92, 1.5), (10, 1, 1, "jumps", 0.9, 4.0), (6, 1, 1, "coarse", 0.92, 1.6),
    ],
)  # fmt: skip
def test_fans_hold_where_slope_and_walk_are_of_another_size(count, slope, walk, more, holds, widest):
    """Each history alone; slope and walk a third to three times the prior, heavy tails, jumps, coarse readings. The width is held
    against the fan that would know both."""
    random, held, wide = np.random.default_rng(count), 0, []
    for _ in range(80):
        rows, on, true = walked(random, count=count, slope=0.1 * slope, walk=0.05 * walk, more=more)
        segments = segments_of(rows)
        mean, u = forecast(segments, 1.0).at(on)
        held += abs(true - mean) <= 1.96 * u
        wide.append(u / forecast(segments, 1.0, Prior(0.1 * slope, 0.05 * walk, scales=KNOWN)).at(on)[1])
    assert held / 80 >= holds - 0.01
    assert np.median(wide) <= 1.04 * widest


def walked(random, *, count, slope, walk, more, expanded=0.15):
    """A history of yearly results by one standard, and where it truly is a year after the last."""
    at, level, off, own = 0.0, random.normal(0, slope), random.normal(0, 0.3), expanded / 2 * math.sqrt(1 - SHARED**2)
    of_standard, rows = random.normal(0, SHARED * expanded / 2), []
    for k in range(count + 1):
        at += random.normal(0, walk) if k else 0.0
        at += random.normal(0, 0.3) if k and more == "jumps" and random.random() < 0.1 else 0.0
        scatter = float(noise("heavy" if more == "heavy" else "white", own, 1, random)[0])
        shown = off + level * k + at + of_standard + scatter
        if more == "coarse":
            shown = float(coarse(np.array(shown), expanded / 2))
        rows.append(Calibration(day(k), shown, expanded, "found", "s"))
    return rows[:-1], rows[-1].on, off + level * count + at


def test_one_wild_result_does_not_carry_it():
    rows = [Calibration(day(k), 0.02 * k, 0.1) for k in range(7)]
    spoilt = [*rows[:3], Calibration(rows[3].on, 2.0, 0.1), *rows[4:]]
    clean, wild = (forecast(segments_of(r), 1.0) for r in (rows, spoilt))
    assert wild.at(day(8))[0] == pytest.approx(clean.at(day(8))[0], abs=0.05)


def test_a_newest_result_far_from_its_history_is_said_and_not_smoothed_away():
    rows = [Calibration(day(k), 0.02 * k, 0.1) for k in range(7)]
    assert not forecast(segments_of(rows), 1.0).jumped
    assert forecast(segments_of([*rows[:-1], Calibration(rows[-1].on, 0.9, 0.1)]), 1.0).jumped
    assert not forecast(segments_of([*rows[:3], Calibration(rows[3].on, 0.9, 0.1), *rows[4:]]), 1.0).jumped


def test_one_result_says_little_and_the_prior_says_whose_it_is():
    one = forecast(segments_of([Calibration(day(0), 0.1, 0.1)]), 1.0)
    known = forecast(segments_of([Calibration(day(0), 0.1, 0.1)]), 1.0, Prior(scales=KNOWN))
    assert known.at(day(5))[1] == pytest.approx(math.hypot(0.5, 0.05 * math.sqrt(5), 0.05), rel=0.01)
    assert 2 * known.at(day(5))[1] < one.at(day(5))[1] < 4 * known.at(day(5))[1]
    assert "common practice, no source" in Prior().words
    steady = pooled([(0.01, 0.02)] * 20)
    assert steady.slope == pytest.approx(0.1 * math.sqrt(5 / 25), rel=1e-6)
    assert "pooled from 20 histories" in steady.words
    assert pooled([]) == Prior()
    with pytest.raises(RangeError, match="a limit above zero"):
        forecast((), 1.0)


@pytest.mark.parametrize("robust", [True, False])
def test_what_is_solved_in_steps_is_what_the_whole_matrix_says_on_any_day(robust):
    """The mean on the day of a result is that result less what its own noise is made of: the two ways of solving agree."""
    random = np.random.default_rng(12)
    standards = ["a", "b", "a", "c", "b", "d"]  # c and d once each
    rows = [Calibration(day(k), random.normal(0, 0.2), 0.2, "found", s) for k, s in enumerate(standards)]
    rows.append(Calibration(day(3), 0.1, 0.2, "left", "c"))  # adjusted half way
    rows[4] = Calibration(day(4), 2.5, 0.2, "found", "b")  # and one wild
    found = forecast(segments_of(rows), 1.0, robust=robust)
    for scale, inverse in zip(found.posterior.scales, found.posterior.inverses, strict=True):
        errors = [r.error for s in segments_of(rows) for r in s.results]
        assert inverse @ errors == pytest.approx(scale.solved, rel=1e-7)
