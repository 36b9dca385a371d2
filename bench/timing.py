"""Medians of repeated runs, two things in turn, so that a slow moment of the machine hits both."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def seconds(work: Callable[[], object]) -> float:
    """Return how long one call takes."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def in_turn(ours: Callable[[], object], other: Callable[[], object], runs: int) -> tuple[float, float]:
    """Return the median seconds of each, called in turn after one call that is not counted."""
    ours()
    other()
    pairs = [(seconds(ours), seconds(other)) for _ in range(runs)]
    return statistics.median(p[0] for p in pairs), statistics.median(p[1] for p in pairs)


def report(title: str, ours: float, other: float, against: str, wanted: float) -> None:
    """Print one line: both medians, their ratio, and the ratio wanted."""
    ratio = ours / other
    mark = "as wanted" if ratio <= wanted else "NOT as wanted"
    print(
        f"{title}: {1000 * ours:.1f} ms; {against}: {1000 * other:.1f} ms; ratio {ratio:.2f} (at most {wanted:g}: {mark})"
    )


def report_limit(title: str, ours: float, limit: float, other: float, against: str) -> None:
    """Print one line: a median against a limit in seconds, with a yardstick of the same run beside it."""
    mark = "as wanted" if ours <= limit else "NOT as wanted"
    print(
        f"{title}: {1000 * ours:.1f} ms (at most {1000 * limit:g} ms: {mark}); "
        f"{against}: {1000 * other:.1f} ms; ratio {ours / other:.2f}"
    )
