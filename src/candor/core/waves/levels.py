"""Base and top of a waveform: the modes of the lower and the upper half of its histogram, where it rests there."""

from __future__ import annotations

import math

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.waves.waveform import Floats, Waveform
from candor.core.worded import worded

BINS = 256
PULLED = 2.5
APART = 0.25  # of the span, that two levels lie at least apart: nearer ones are one, in the middle
FINE = 5e-4  # of the span, either side: as narrow as a level is looked for
MOST_SORTED = 20_000  # samples
ENOUGH = 65_536  # samples for a histogram
NEAR = 0.02  # of the span, either side of a mode: what lies there rests at it
RESTS = 0.3  # of a half's samples that must lie there; evenly spread it would be 0.08, of a sine 0.26


@dataclass(frozen=True)
class Levels:
    """The levels that everything else is measured between.

    Attributes
    ----------
    base, top : float
        In the unit of the waveform.
    u_base, u_top : float
    base_rests, top_rests : bool
        Whether the waveform rests there; else the lowest, or the highest, value stands in, and is said.
    method : str
    """

    base: float
    top: float
    u_base: float
    u_top: float
    base_rests: bool
    top_rests: bool
    method: str

    @property
    def amplitude(self) -> float:
        """From base to top, in the unit of the waveform."""
        return self.top - self.base

    @property
    def u_amplitude(self) -> float:
        """Of the amplitude, in the unit of the waveform."""
        return math.hypot(self.u_base, self.u_top)

    def at(self, share: float) -> float:
        """Return the level at a share of the amplitude, in the unit of the waveform."""
        return self.base + share * self.amplitude


def levels_of(wave: Waveform) -> Levels:
    """Return base and top by the modes of the histogram (IEEE 181-2011, 5.2, from memory), in the unit of the waveform.

    Where less than a quarter of a half lies within 2 % of the span of its mode it does not rest there: the end value is used.
    """
    low, high = wave.low, wave.high
    span = high - low
    if span == 0:
        return Levels(
            base=low, top=high, u_base=wave.u_sample, u_top=wave.u_sample, base_rests=False, top_rests=False,
            method=worded("waves.min_max_it_stands_still"),
        )  # fmt: skip
    looked_at = _drawn(wave.values)
    counts = np.bincount(np.minimum(((looked_at - low) * (BINS / span)).astype(np.int32), BINS - 1), minlength=BINS)
    middle = BINS // 2
    base = _mode(wave, looked_at, counts, 0, middle)
    top = _mode(wave, looked_at, counts, middle, BINS)
    if base is not None and top is not None and top[0] - base[0] < APART * span:
        base = top = None
    u_end = math.hypot(wave.u_sample, u_of_greatest(wave.noise, wave.count))
    ends = (
        (base[0], base[1]) if base is not None else (low, u_end),
        (top[0], top[1]) if top is not None else (high, u_end),
    )
    rests = [name for name, found in (("base", base), ("top", top)) if found is not None]
    method = worded("waves.min_max_it_rests_nowhere")
    if rests:
        method = (
            worded("waves.modes_of_the_histogram")
            if len(rests) == 2
            else worded("waves.mode_of_the_histogram_for_the", first=rests[0])
        )
    return Levels(
        base=ends[0][0], top=ends[1][0], u_base=ends[0][1], u_top=ends[1][1], base_rests=base is not None,
        top_rests=top is not None, method=method,
    )  # fmt: skip


def u_of_greatest(noise: float, count: int) -> float:
    """Return the standard uncertainty of a greatest of so many samples, in the unit of their noise.

    It has up to sqrt(2 ln n) standard deviations in it (H. A. David, H. N. Nagaraja, Order Statistics, 2003, 10.5), rectangular.
    """
    return noise * math.sqrt(2 * math.log(max(count, 2)) / 3)


def _drawn(values: Floats) -> Floats:
    """All samples, or so many drawn at random where there are more: a fixed step could fall in with the waveform's own period."""
    if len(values) <= ENOUGH:
        return values
    return values[np.random.default_rng(0).integers(0, len(values), ENOUGH)]


def _mode(wave: Waveform, values: Floats, counts: np.ndarray, first: int, last: int) -> tuple[float, float] | None:
    """The mode of one half, as the mean of what lies near it, and its u; None where the half has none."""
    part = counts[first:last]
    if not part.any():
        return None
    # Smoothed over the width that counts as near, so that a noisy level is not split between bins.
    width = max(round(NEAR * BINS), 1)
    near = np.convolve(part, np.ones(2 * width + 1), "same")
    best = np.flatnonzero(near == near.max())
    at = int(best[len(best) // 2])
    if near[at] < RESTS * part.sum():
        return None
    span = wave.high - wave.low
    centre = wave.low + (first + at + 0.5) * span / BINS
    return _densest(wave, values[np.abs(values - centre) <= (width + 1) * span / BINS], span)


def _densest(wave: Waveform, near: Floats, span: float) -> tuple[float, float]:
    """The level where samples lie densest, as the mean of what noise and counts put round it, and its u.

    An approach that takes its time leaves samples on one side: they are not of the level.
    """
    width = 2 * max(3 * wave.noise, 1.5 * wave.resolution, FINE * span)
    ordered = np.sort(near[:: max(len(near) // MOST_SORTED, 1)])
    counts = np.searchsorted(ordered, ordered + width, side="right") - np.arange(len(ordered))
    best = np.flatnonzero(counts == counts.max())
    begin = int(best[len(best) // 2])
    inside = ordered[begin : begin + int(counts[begin])]
    # What moves there beyond the noise, ringing that dies away, leaves the level open by as much, rectangular.
    ripple = math.sqrt(max(float(inside.var()) - wave.noise**2, 0.0) / 3)
    # Where they lie densest is chosen by the same samples, which pulls their mean along (by simulation).
    u = math.hypot(PULLED * wave.noise / math.sqrt(len(inside)), wave.resolution / math.sqrt(12), ripple)
    return float(inside.mean()), u
