"""Edges of a waveform: where it crosses levels, between samples, with the uncertainty of each crossing."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.waves.waveform import Floats, Waveform

Indices = NDArray[np.int64]
CLEAN = 3.0  # times the noise, that a waveform moves from sample to sample where it crosses a level but once


@dataclass(frozen=True, eq=False)
class Edges:
    """Transitions from one level to another, each complete: it left the one and reached the other.

    Attributes
    ----------
    starts, ends : array of shape (edges,)
        When it left the first level and reached the second, s.
    rising : bool
    slopes : (float, float)
        At the first level and at the second, in the unit of the waveform a second, without sign.
    u_start_s, u_end_s : float
        Standard uncertainty of one crossing of each, s, of noise and resolution by the slope there.
    u_line_s : float
        Of the straight line between samples, s: all edges share it where they fall alike between them.
    samples : float
        Between the two crossings, on the average.
    """

    starts: Floats
    ends: Floats
    rising: bool
    slopes: tuple[float, float]
    u_start_s: float
    u_end_s: float
    u_line_s: float
    samples: float

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self.starts)

    @property
    def u_middle_s(self) -> float:
        """Of the middle of one edge, s."""
        return math.hypot(self.u_start_s, self.u_end_s) / 2

    @property
    def middles(self) -> Floats:
        """Halfway between the two crossings of each, s, of shape (edges,)."""
        return (self.starts + self.ends) / 2


def transitions(wave: Waveform, low: float, high: float) -> tuple[Edges, Edges]:
    """Return every rising and every falling transition between two levels, in the unit of the waveform; crossings by a straight
    line between samples.

    What turns back before it reached the other level is not a transition: noise makes none.
    """
    place = (wave.values >= high).view(np.int8) - (wave.values <= low).view(np.int8)
    starts = np.concatenate(([0], np.flatnonzero(place[1:] != place[:-1]) + 1))
    ends = np.concatenate((starts[1:] - 1, [len(place) - 1]))
    sides = place[starts]
    starts, ends, sides = (
        starts[sides != 0],
        ends[sides != 0],
        sides[sides != 0],
    )  # stretches beyond one level or the other
    turns = np.flatnonzero(sides[:-1] != sides[1:])
    rises = turns[sides[turns] == -1], turns[sides[turns] == 1]
    rising, falling = (
        _edges(wave, ends[at], starts[at + 1], (low, high), rising=is_rising)
        for at, is_rising in zip(rises, (True, False), strict=True)
    )
    return rising, falling


def _edges(wave: Waveform, before: Indices, after: Indices, levels: tuple[float, float], *, rising: bool) -> Edges:
    first, second = levels if rising else levels[::-1]
    starts = _crossing(wave, before, first)
    ends = _crossing(wave, after - 1, second)
    steps = (ends - starts) / wave.interval_s
    between = float(steps.mean()) if len(steps) else 0.0
    reach = max(round(between / 8), 0)
    slopes = _slope(wave, before, reach), _slope(wave, after - 1, reach)
    if len(steps) and wave.noise > min(slopes) * wave.interval_s / CLEAN:  # noise crosses a level several times
        starts = _evened(wave, starts, first, between)
        ends = _evened(wave, ends, second, between)
    u_start, u_end = (wave.u_sample / slope if slope else math.inf for slope in slopes)
    # A straight line between samples follows a curve of n samples to a quarter of a sample over n, rectangular.
    by_line = wave.interval_s / (4 * max(between, 0.5)) / math.sqrt(3)
    return Edges(
        starts=starts, ends=ends, rising=rising, slopes=slopes, u_start_s=u_start, u_end_s=u_end, u_line_s=by_line, samples=between
    )  # fmt: skip


def _slope(wave: Waveform, before: Indices, reach: int) -> float:
    """The mean slope over some samples round crossings, in the unit of the waveform a second, without sign."""
    if not len(before):
        return 0.0
    left, right = np.maximum(before - reach, 0), np.minimum(before + 1 + reach, wave.count - 1)
    rise = np.abs(wave.values[right] - wave.values[left]) / ((right - left) * wave.interval_s)
    return float(rise.mean())


def _evened(wave: Waveform, times: Floats, level: float, between: float) -> Floats:
    """The mean of all crossings of a level within half an edge of each: the first alone comes early, the last late."""
    above = wave.values >= level
    found = np.flatnonzero(above[1:] != above[:-1])
    crossings = _crossing(wave, found, level)
    sums = np.concatenate(([0.0], np.cumsum(crossings - wave.start_s)))
    window = max(between / 2, 1.0) * wave.interval_s
    left, right = np.searchsorted(crossings, times - window), np.searchsorted(crossings, times + window, side="right")
    count = right - left
    mean = (sums[right] - sums[left]) / np.maximum(count, 1) + wave.start_s
    evened: Floats = np.where(count > 0, mean, times)
    return evened


def _crossing(wave: Waveform, before: Indices, level: float) -> Floats:
    """When the waveform crosses a level between a sample and the next, s."""
    here, there = wave.values[before], wave.values[before + 1]
    step = there - here
    share = np.divide(level - here, step, out=np.zeros_like(step), where=step != 0)
    found: Floats = wave.start_s + (before + np.clip(share, 0.0, 1.0)) * wave.interval_s
    return found
