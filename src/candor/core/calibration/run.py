"""A whole run: every point of a phase, the verdict of all, and the ribbon that shows them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import field
from functools import cached_property

from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.result import PointResult
from candor.core.late_dataclass import dataclass
from candor.core.verdict.rules import Outcome, whole
from candor.core.worded import worded


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
    after_repair : frozenset of str
        Points that parts were changed for before their first reading: as received after repair, never as found.
    after_adjustment : frozenset of str
        Points that an adjuster was moved for before their first reading: there is no as found of them.
    """

    phase: Phase
    points: tuple[TestPoint, ...]
    results: Mapping[str, PointResult]
    voided: Mapping[str, PointResult] = field(default_factory=dict)
    waiting: tuple[str, ...] = ()
    after_repair: frozenset[str] = frozenset()
    after_adjustment: frozenset[str] = frozenset()

    @property
    def title(self) -> str:
        """What the run is called: its phase, or, where no point was read before a repair, "as received after repair"."""
        return "as received after repair" if self._all_after_repair else self.phase

    @cached_property
    def _all_after_repair(self) -> bool:
        return bool(self.results) and self.after_repair.issuperset(self.results)

    def state_of(self, key: str) -> str:
        """Return what the result of one point is called: its own state, where it is not that of the run."""
        if key in self.results and key in self.after_repair and self.phase == "as found":
            return "as received after repair"
        return self.phase

    def outcome_of(self, key: str) -> Outcome:
        """Return the outcome of one point."""
        result = self.results.get(key)
        return result.verdict.outcome if result else Outcome.NOT_MEASURED

    def _counted(self, key: str) -> Outcome:
        """The outcome that counts for the whole: as found counts nothing that was first read after a repair."""
        mixed = key in self.after_repair and not self._all_after_repair
        return Outcome.NOT_MEASURED if mixed else self.outcome_of(key)

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
        if self.after_repair:
            return Counter(self._counted(p.key) for p in self.decided)
        tally = Counter(self.results[p.key].verdict.outcome for p in self.decided if p.key in self.results)
        missing = len(self.decided) - tally.total()
        return tally + Counter({Outcome.NOT_MEASURED: missing} if missing else {})

    def count(self, outcome: Outcome) -> int:
        """Return how many points have an outcome."""
        return self._tally[outcome]

    @property
    def measured(self) -> int:
        """How many points have at least one reading."""
        return len(self.decided) - self.count(Outcome.NOT_MEASURED)

    @property
    def word(self) -> str:
        """The verdict of the whole in a word: "not finished" where only some of it was measured."""
        return "not finished" if self.outcome is Outcome.NOT_MEASURED and self.measured else str(self.outcome)

    @property
    def sentence(self) -> str:
        """The whole in one line, with its phase."""
        return f"{self.title.capitalize()}: {self.counts}"

    @property
    def counts(self) -> str:
        """How many points pass, fail, cannot be told, are missing."""
        words = ((Outcome.PASS, "pass"), (Outcome.FAIL, "fail"), (Outcome.CANNOT_TELL, "undecided"))
        said = [f"{self.count(outcome)} {word}" for outcome, word in words if self.count(outcome)]
        decided = {p.key for p in self.decided}
        repaired = 0 if self._all_after_repair else len(decided & self.after_repair & set(self.results))
        adjusted = len(decided & self.after_adjustment)
        missing = self.count(Outcome.NOT_MEASURED) - repaired - adjusted
        said += [worded("calibration.not_measured", missing=missing)] if missing else []
        said += [worded("calibration.as_received_after_repair", repaired=repaired)] if repaired else []
        said += [worded("calibration.first_read_after_adjustment", adjusted=adjusted)] if adjusted else []
        return worded("calibration.in_all", listed=", ".join(said) if said else "none", decided=len(self.decided))
