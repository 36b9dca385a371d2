"""A whole run: every point of a phase, the verdict of all, and the ribbon that shows them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.result import PointResult
from candor.core.verdict.rules import Outcome, whole


def last_read(run: RunResult, point: TestPoint) -> PointResult | None:
    """Return the result of the point of a range that was read last, None where none was; `point` is any of that range."""
    start = f"{point.key.rsplit('/', 1)[0]}/"
    found = [r for key, r in run.results.items() if key.startswith(start)]
    return max(found, key=lambda r: max(n.entry for n in r.readings), default=None)


@dataclass(frozen=True)
class RunResult:
    """All points of one phase.

    Attributes
    ----------
    phase : "as found" or "as left"
    points : tuple of TestPoint
        In the order of the procedure.
    results : mapping of point key to PointResult
        Those that have readings which stand.
    voided : mapping of point key to PointResult
        History: read, and something they depend on was changed since.
    waiting : tuple of str
        Points that were read and wait to be read again.
    after_repair : bool
        Parts were changed before the first reading: as received after repair, never as found.
    """

    phase: Phase
    points: tuple[TestPoint, ...]
    results: Mapping[str, PointResult]
    voided: Mapping[str, PointResult] = field(default_factory=dict)
    waiting: tuple[str, ...] = ()
    after_repair: bool = False

    @property
    def title(self) -> str:
        """What the run is called: "as found", "as left", or "as received after repair"."""
        return "as received after repair" if self.after_repair else self.phase

    def outcome_of(self, key: str) -> Outcome:
        """Return the outcome of one point."""
        result = self.results.get(key)
        return result.verdict.outcome if result else Outcome.NOT_MEASURED

    @property
    def outcome(self) -> Outcome:
        """The verdict of the whole."""
        return whole(list(self._tally))

    @cached_property
    def decided(self) -> tuple[TestPoint, ...]:
        """The points that something is decided by; those only noted are not among them."""
        return tuple(p for p in self.points if not p.noted)

    @cached_property
    def _tally(self) -> Counter[Outcome]:
        return Counter(self.outcome_of(p.key) for p in self.decided)

    def count(self, outcome: Outcome) -> int:
        """Return how many points have an outcome."""
        return self._tally[outcome]

    @property
    def measured(self) -> int:
        """How many points have at least one reading."""
        return len(self.decided) - self.count(Outcome.NOT_MEASURED)

    @property
    def sentence(self) -> str:
        """The whole in one line, with its phase."""
        return f"{self.title.capitalize()}: {self.counts}"

    @property
    def counts(self) -> str:
        """How many points pass, fail, cannot be told, are missing."""
        words = (
            (Outcome.PASS, "pass"),
            (Outcome.FAIL, "fail"),
            (Outcome.CANNOT_TELL, "cannot be told"),
            (Outcome.NOT_MEASURED, "not measured"),
        )
        said = [f"{self.count(outcome)} {word}" for outcome, word in words if self.count(outcome)]
        return (", ".join(said) if said else "none") + f", of {len(self.decided)}"
