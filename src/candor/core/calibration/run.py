"""A whole run: every point of a phase, the verdict of all, and the ribbon that shows them."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from candor.core.calibration.point import Phase, PointResult, TestPoint
from candor.core.verdict.rules import Outcome, whole


@dataclass(frozen=True)
class RunResult:
    """All points of one phase.

    Attributes
    ----------
    phase : "as found" or "as left"
    points : tuple of TestPoint
        In the order of the procedure.
    results : mapping of point key to PointResult
        Those that have readings.
    """

    phase: Phase
    points: tuple[TestPoint, ...]
    results: Mapping[str, PointResult]

    def outcome_of(self, key: str) -> Outcome:
        """Return the outcome of one point."""
        result = self.results.get(key)
        return result.verdict.outcome if result else Outcome.NOT_MEASURED

    @property
    def outcome(self) -> Outcome:
        """The verdict of the whole."""
        return whole(list(self._tally))

    @cached_property
    def _tally(self) -> Counter[Outcome]:
        return Counter(self.outcome_of(p.key) for p in self.points)

    def count(self, outcome: Outcome) -> int:
        """Return how many points have an outcome."""
        return self._tally[outcome]

    @property
    def measured(self) -> int:
        """How many points have at least one reading."""
        return len(self.points) - self.count(Outcome.NOT_MEASURED)

    @property
    def sentence(self) -> str:
        """The whole in one line, with its phase."""
        return f"{self.phase.capitalize()}: {self.counts}"

    @property
    def counts(self) -> str:
        """How many points pass, fail, cannot be told, are missing."""
        words = (
            (Outcome.PASS, "pass"),
            (Outcome.FAIL, "fail"),
            (Outcome.CANNOT_TELL, "cannot be told"),
            (Outcome.NOT_MEASURED, "not measured"),
        )
        parts = [f"{self.count(outcome)} {word}" for outcome, word in words if self.count(outcome)]
        return (", ".join(parts) if parts else "none") + f", of {len(self.points)}"


@dataclass(frozen=True)
class RibbonPoint:
    """One place on the error ribbon.

    Attributes
    ----------
    key, group : str
        The point, and the range it stands under.
    result : PointResult or None
        None where it is not measured yet.
    height, bar : float
        Error and U as shares of the limit; 0 where not measured.
    """

    key: str
    group: str
    result: PointResult | None
    height: float
    bar: float


def ribbon(run: RunResult) -> tuple[RibbonPoint, ...]:
    """Lay the points of a run side by side: error and U as shares of each point's limit.

    A point whose limit is zero is drawn at the edge of the ribbon (+-2 limits) unless its error is zero.
    """
    laid = []
    for point in run.points:
        result = run.results.get(point.key)
        height, bar = 0.0, 0.0
        if result is not None:
            limit, share = result.verdict.limit, result.share_of_limit
            height = share if math.isfinite(share) else math.copysign(2.0, share)
            bar = result.coverage.expanded / limit if limit > 0 else 0.0
        laid.append(RibbonPoint(point.key, f"{point.function}|{point.range_name}", result, height, bar))
    return tuple(laid)
