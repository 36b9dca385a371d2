"""Times of a waveform: rise and fall, period, frequency, duty; and the rise of what stands behind an oscilloscope."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np

from candor.core.errors import RangeError
from candor.core.waves.edges import Edges, transitions
from candor.core.waves.levels import Levels
from candor.core.waves.wave_figure import Figure, Untold, greater, mean_of
from candor.core.waves.waveform import Waveform
from candor.core.worded import worded

RISE_OF_ONE_POLE = math.log(9)  # time constants from 10 to 90 %; ln 9 / 2π = 0.3497 is rise times bandwidth
LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9
CORNER, FEW_FOR_CORNERS = 0.25, 8.0
FEW = 3.0  # samples on an edge; with fewer a rise time is mostly sampling


def rise_and_fall(wave: Waveform, levels: Levels) -> list[Figure | Untold]:
    """Return the mean 10 to 90 % transition times, s (IEEE 181-2011, 5.3, from memory)."""
    found: list[Figure | Untold] = []
    for name, edges in zip(("rise", "fall"), transitions(wave, levels.at(LOW), levels.at(HIGH)), strict=True):
        if not edges.count:
            found.append(Untold(name, worded("waves.no_edge_that_s_from_to", name=name)))
            continue
        each = math.hypot(edges.u_start_s, edges.u_end_s)
        lasts = edges.ends - edges.starts
        # A level that is off moves its crossing by its slope: 10 % hangs on the base nine times as much as on the top.
        near, far = (levels.u_base, levels.u_top) if edges.rising else (levels.u_top, levels.u_base)
        by_levels = math.hypot(
            math.hypot(HIGH * near, LOW * far) / max(edges.slopes[0], 1e-300),
            math.hypot(HIGH * far, LOW * near) / max(edges.slopes[1], 1e-300),
        )
        # Between two samples a corner of the edge may lie: a straight line through them misses it by up to a quarter of the step.
        step = float(lasts.mean()) / max(edges.samples, 1e-9)
        corner = CORNER * math.sqrt(2 / 3) * step if edges.samples < FEW_FOR_CORNERS else 0.0
        common = math.hypot(math.sqrt(2) * edges.u_line_s, by_levels, corner)
        value, u = mean_of(lasts.tolist(), each, common)
        few = worded("waves.samples_an_edge_mostly_sampling", samples=edges.samples) if edges.samples < FEW else ""
        found.append(
            Figure(name, value, "s", u, count=edges.count, words=worded("waves.to", method=levels.method, few=few))
        )
    return found


def middle_edges(wave: Waveform, levels: Levels) -> tuple[Edges, Edges]:
    """Return rising and falling crossings of the half level, s, with 10 % of the amplitude either side for noise to turn in."""
    return transitions(wave, levels.at(MIDDLE - 0.1), levels.at(MIDDLE + 0.1))


def period_and_duty(middle: tuple[Edges, Edges]) -> list[Figure | Untold]:
    """Return period, s, frequency, Hz, and duty, a share, between crossings of the half level (IEEE 181-2011, from memory)."""
    up, down = middle
    best = up if up.count >= down.count else down
    if best.count < 2:
        why = worded("waves.crossing_of_one_slope_two_make", count=best.count, plural="" if best.count == 1 else "s")
        return [Untold("period", why), Untold("frequency", why), Untold("duty", why)]
    times = best.middles
    u_one = math.hypot(best.u_middle_s, best.u_line_s)
    periods = len(times) - 1
    period = float(times[-1] - times[0]) / periods
    gaps = np.diff(times)
    scatter = float(gaps.std(ddof=1)) / math.sqrt(periods) if periods > 1 else 0.0
    u = greater(scatter / math.sqrt(periods), math.sqrt(2) * u_one / periods, periods)
    words = worded("waves.over_period_between_crossings_of_the", periods=periods, plural="" if periods == 1 else "s")
    found: list[Figure | Untold] = [
        Figure("period", period, "s", u, count=periods, words=words),
        Figure("frequency", 1 / period, "Hz", u / period**2, count=periods, words=words),
    ]
    return [*found, _duty(up, down, period, u_one)]


def _duty(up: Edges, down: Edges, period: float, u_one: float) -> Figure | Untold:
    crossings = sorted([*((t, True) for t in up.middles[:2000]), *((t, False) for t in down.middles[:2000])])
    highs = [later - sooner for (sooner, rose), (later, again) in pairwise(crossings) if rose and not again]
    if not highs:
        return Untold("duty", worded("waves.no_whole_pulse_lies_between_the"))
    value, u = mean_of(highs, math.sqrt(2) * u_one)
    return Figure(
        "duty", value / period, "1", u / period, count=len(highs), words=worded("waves.share_of_the_period_above_the")
    )


def source_rise(displayed_s: float, u_displayed_s: float, scope_s: float, u_scope_s: float) -> Figure:
    """Return the rise time of what was looked at, s: √(displayed² - scope²), with what that assumption is worth.

    Squares add for near-Gaussian responses. Two single poles in line are the worst that is usual; by how much the rule misses
    those is taken as a rectangle (common practice, no source).

    Parameters
    ----------
    displayed_s, u_displayed_s, scope_s, u_scope_s : float
        10 to 90 %, s, with their standard uncertainties.

    Raises
    ------
    RangeError
        Where the oscilloscope is not faster than what is displayed.
    """
    if not 0 < scope_s < displayed_s:
        raise RangeError(
            worded("waves.the_oscilloscope_s_own_s_is", scope_s=scope_s, displayed_s=displayed_s),
            value=f"{scope_s:.3g}",
        )
    source = math.sqrt(displayed_s**2 - scope_s**2)
    by_rule = abs(_single_pole_behind(displayed_s, scope_s) - source) / math.sqrt(3)
    u = math.hypot(displayed_s / source * u_displayed_s, scope_s / source * u_scope_s, by_rule)
    words = worded("waves.displayed_scope_the_rule_of_squares", sqrt=math.sqrt(3) * by_rule / source)
    return Figure(worded("waves.rise_of_the_source"), source, "s", u, words=words)


def two_pole_rise(one_s: float, other_s: float) -> float:
    """Return the 10 to 90 % rise, s, of two single poles in line whose own rises are `one_s` and `other_s`, s.

    1 - (τ1 e^(-t/τ1) - τ2 e^(-t/τ2))/(τ1 - τ2), solved by bisection (by definition).
    """
    first, second = one_s / RISE_OF_ONE_POLE, other_s / RISE_OF_ONE_POLE
    if math.isclose(first, second, rel_tol=1e-6):
        second *= 1 + 1e-5

    def at(seconds: float) -> float:
        return 1 - (first * math.exp(-seconds / first) - second * math.exp(-seconds / second)) / (first - second)

    def reaches(share: float) -> float:
        low, high = 0.0, 20 * (first + second)
        for _ in range(80):
            middle = (low + high) / 2
            low, high = (middle, high) if at(middle) < share else (low, middle)
        return (low + high) / 2

    return reaches(HIGH) - reaches(LOW)


def _single_pole_behind(displayed: float, scope: float) -> float:
    """The rise of a single pole that through the scope's single pole shows `displayed`, s."""
    low, high = 1e-6 * displayed, displayed
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if two_pole_rise(middle, scope) < displayed else (low, middle)
    return (low + high) / 2
