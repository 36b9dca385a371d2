"""A long record at any width: the lowest and highest of what falls on each pixel, so that a spike of one reading is never lost."""

from __future__ import annotations

from bisect import bisect_left

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
BLOCK = 64  # readings that are summed up once and for all


class Overview:
    """The blocks of a record that grows."""

    def __init__(self) -> None:
        self._blocks: list[Array] = []  # each of shape (blocks, 3): begin in s, lowest, highest
        self._joined: Array = np.zeros((0, 3))
        self._done = 0

    def grow(self, readings: Array) -> None:
        """Take in what was added to a record of shape (readings, 2), s and value; whole blocks only."""
        count = (len(readings) - self._done) // BLOCK
        if count <= 0:
            return
        part = np.array(readings[self._done : self._done + count * BLOCK]).reshape(count, BLOCK, 2)
        made = np.stack((part[:, 0, 0], part[:, :, 1].min(1), part[:, :, 1].max(1)), 1)
        self._joined = np.concatenate((self._joined, made))
        self._done += count * BLOCK

    def between(self, readings: Array, begin_s: float, end_s: float, pixels: int) -> tuple[Array, Array]:
        """Return what is drawn of a record between two times, s, on so many pixels: times and values, each of shape (points,).

        At most four points a pixel: every reading where they are few, else the lowest and highest of each stretch.
        """
        first = max(bisect_left(range(len(readings)), begin_s, key=lambda i: readings[i, 0]) - 1, 0)
        last = min(bisect_left(range(len(readings)), end_s, key=lambda i: readings[i, 0]) + 1, len(readings))
        count, most = last - first, max(2 * pixels, 2)
        if count <= most:
            shown = np.array(readings[first:last])
            return shown[:, 0], shown[:, 1]
        if count < most * BLOCK:
            shown = np.array(readings[first:last])
            return _extremes(shown[:, 0], shown[:, 1], shown[:, 1], pixels)
        blocks = self._joined[first // BLOCK : -(-last // BLOCK)]  # the block that is only begun too
        tail = np.array(readings[max(self._done, first) : last])
        times = np.concatenate((blocks[:, 0], tail[:, 0]))
        low, high = np.concatenate((blocks[:, 1], tail[:, 1])), np.concatenate((blocks[:, 2], tail[:, 1]))
        return _extremes(times, low, high, pixels)


def _extremes(times: Array, low: Array, high: Array, pixels: int) -> tuple[Array, Array]:
    """The lowest and highest of each of some stretches, one after the other."""
    edges = np.unique(np.linspace(0, len(times), min(pixels, len(times)) + 1).astype(int)[:-1])
    lows, highs = np.minimum.reduceat(low, edges), np.maximum.reduceat(high, edges)
    return np.repeat(times[edges], 2), np.stack((lows, highs), 1).ravel()
