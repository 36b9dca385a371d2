"""A waveform: evenly spaced samples, with the noise and the resolution that can be told from them."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Floats = NDArray[np.float64]
FEWEST = 8  # samples that say anything of a shape
LOOKED_AT = 20_000  # samples that noise and resolution are told from
COUNTS = 64  # of a converter, at the least, that a waveform spans


@dataclass(frozen=True, eq=False)
class Waveform:
    """Samples of one channel.

    Attributes
    ----------
    name, unit : str
    values : array of shape (samples,)
        In `unit`.
    interval_s, start_s : float
        Between two samples, and of the first one, s.
    """

    name: str
    unit: str
    values: Floats
    interval_s: float
    start_s: float = 0.0

    def __post_init__(self) -> None:
        if len(self.values) < FEWEST:
            raise RangeError(
                worded(
                    "waves.samples_at_least_were_expected_2", name=self.name, values=len(self.values), fewest=FEWEST
                ),
                value=str(len(self.values)),
            )
        if not self.interval_s > 0:
            raise RangeError(
                worded("waves.time_does_not_go_forward_from", name=self.name, interval_s=self.interval_s),
                value=f"{self.interval_s:g}",
            )
        if not np.isfinite(self.values).all():
            where = int(np.flatnonzero(~np.isfinite(self.values))[0])
            raise RangeError(
                worded("waves.sample_is_not_a_number", name=self.name, where=where + 1),
                value=str(where + 1),
                place=self.name,
            )

    @property
    def count(self) -> int:
        """How many samples there are."""
        return len(self.values)

    @property
    def span_s(self) -> float:
        """From the first sample to the last, s."""
        return (self.count - 1) * self.interval_s

    def seconds(self, index: float) -> float:
        """Return the time of a sample, s; a share of a sample lies between two."""
        return self.start_s + index * self.interval_s

    @cached_property
    def _looked_at(self) -> Floats:
        if self.count <= LOOKED_AT:
            return self.values
        middle = (self.count - LOOKED_AT) // 2
        return self.values[middle : middle + LOOKED_AT]

    @cached_property
    def resolution(self) -> float:
        """The smallest step between two values that occur, in `unit`: one count of the converter; 0 where all are alike.

        Never more than a 64th of the span: a waveform of two values alone says nothing of counts, and one that fills a quarter of
        eight bits has as many.
        """
        steps = np.diff(np.unique(self._looked_at))
        scale = float(np.abs(self._looked_at).max())
        kept = steps[steps > 1e-9 * scale] if scale else steps
        return min(float(kept.min()), (self.high - self.low) / COUNTS) if len(kept) else 0.0

    @cached_property
    def noise(self) -> float:
        """Standard deviation of what changes from one sample to the next, in `unit`: 1.4826 MAD of differences of high order, each
        over the root of the sum of its squared binomial coefficients.

        Of several orders the least counts: a smooth signal has next to nothing of the higher ones, white noise the same of all.
        """
        found = []
        for order in (2, 4, 6):
            if self.count > 4 * order:
                bends = np.diff(self._looked_at, n=order)
                found.append(
                    1.4826 * np.median(np.abs(bends - np.median(bends))) / math.sqrt(math.comb(2 * order, order))
                )
        return float(min(found, default=0.0))

    @property
    def u_sample(self) -> float:
        """Standard uncertainty of one sample, in `unit`: its noise, and half a count, rectangular (JCGM 100:2008, 4.3.7)."""
        return math.hypot(self.noise, self.resolution / math.sqrt(12))

    @cached_property
    def low(self) -> float:
        """The least value, in `unit`."""
        return float(self.values.min())

    @cached_property
    def high(self) -> float:
        """The greatest value, in `unit`."""
        return float(self.values.max())
