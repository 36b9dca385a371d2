"""The history of one point over all its calibrations: segments that end where it was adjusted, or arrived dead."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterable
from itertools import pairwise
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

When = Literal["found", "left"]
DAYS = 365.25


@dataclass(frozen=True)
class Calibration:
    """One result at a point.

    Attributes
    ----------
    on : date
    error, expanded : float
        Instrument minus truth, and its U (k = 2), in one unit.
    when : "found" or "left"
        Before anything was adjusted, or as it left. What was not adjusted may be given once, as found.
    standard : str
        What it was read against: errors of one standard are shared, and do not average out.
    """

    on: dt.date
    error: float
    expanded: float
    when: When = "found"
    standard: str = ""


@dataclass(frozen=True)
class Segment:
    """Results between two adjustments, in order; the first is what the last adjustment left, where that is known."""

    results: tuple[Calibration, ...]

    @property
    def start(self) -> dt.date:
        """Its first day."""
        return self.results[0].on

    def years(self, on: dt.date) -> float:
        """Return the years since its start."""
        return (on - self.start).days / DAYS


@dataclass(frozen=True)
class PointHistory:
    """One point over all calibrations: its segments, its limit as it last was, and the unit of its errors."""

    name: str
    segments: tuple[Segment, ...]
    limit: float
    unit: str


@dataclass(frozen=True)
class Change:
    """What a point moved by between two calibrations: as found less as left before, its u, and the years between."""

    of: Calibration
    before: Calibration

    @property
    def moved(self) -> float:
        """As found now minus as left then, in their unit."""
        return self.of.error - self.before.error

    @property
    def u(self) -> float:
        """Its standard uncertainty, in their unit; what one standard has in common goes out."""
        own = self.of.expanded**2 + self.before.expanded**2
        return math.sqrt(own) / 2

    @property
    def years(self) -> float:
        """Between the two, in years."""
        return (self.of.on - self.before.on).days / DAYS


def segments_of(results: Iterable[Calibration]) -> tuple[Segment, ...]:
    """Return the segments of a history, in order of time whatever order it was given in.

    A result as left after one as found of the same day ends a segment where they differ: it was adjusted. A result as left alone
    begins one too: nobody knows how it arrived, as where it was dead, and an absent value is not a zero.

    Raises
    ------
    RangeError
        Where a day has two results as found, or two as left, against one standard; or an uncertainty is missing or below zero.
    """
    ordered = sorted(results, key=lambda r: (r.on, r.when))  # found comes before left
    for one, other in pairwise(ordered):
        if (one.on, one.when, one.standard) == (other.on, other.when, other.standard):
            raise RangeError(
                worded("drift.has_two_results_as_were_there", on=one.on, when=one.when),
                value=one.on.isoformat(),
                expected=worded("drift.one_as_found_and_one_as"),
            )
    bad = next((r for r in ordered if not r.expanded >= 0), None)
    if bad is not None:
        raise RangeError(
            worded("drift.the_result_of_has_no_uncertainty", on=bad.on),
            value=bad.on.isoformat(),
            expected="U",
        )
    segments: list[list[Calibration]] = []
    for result in ordered:
        last = segments[-1] if segments else None
        if last is None or result.when == "found":
            if last is None:
                segments.append([result])
            else:
                last.append(result)
            continue
        found = last[-1] if last[-1].on == result.on and last[-1].when == "found" else None
        if found is not None and found.error == result.error:
            continue  # left as it was found: one result
        segments.append([result])
    return tuple(Segment(tuple(s)) for s in segments)


def changes_of(segments: Iterable[Segment]) -> tuple[Change, ...]:
    """Return what the point moved by from each calibration to the next within its segments."""
    return tuple(Change(of, before) for s in segments for before, of in pairwise(s.results))
