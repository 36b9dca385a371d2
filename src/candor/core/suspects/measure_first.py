"""Which parts to measure first, before anything is known: those whose usual drift spoils a range, the likeliest culprit in front.

How far a part drifts is what `hypotheses` takes: its usual drift, wider, gone altogether (common practice, no source). A part
spoils a range where the share by which the range then shows more or less passes its limit. Where one part alone is to blame, each
is the culprit as often as it spoils anything.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.suspects.hypotheses import drift_weights
from candor.core.suspects.observed import Circuit, PartPatterns

MISS = 0.05  # chance of missing the culprit that is left
HALF = 0.5


@dataclass(frozen=True)
class MeasureFirst:
    """Parts in the order in which they are worth measuring.

    Attributes
    ----------
    order : tuple of (str, float)
        Every part that acts on a range, with its share of all culprits; the largest first.
    least : int
        So many of the first leave less than MISS.
    """

    order: tuple[tuple[str, float], ...]
    least: int

    def found(self, count: int) -> float:
        """Return the share of culprits among the first so many."""
        return sum(share for _, share in self.order[:count])

    @property
    def half(self) -> int:
        """How many of the first find one culprit of two."""
        return next((n for n in range(len(self.order)) if self.found(n) >= HALF), len(self.order))

    def at_random(self, count: int) -> float:
        """Return the share of culprits among so many that are picked at random."""
        return min(1.0, count / len(self.order)) if self.order else 0.0


def measure_first(circuit: Circuit, limits: Mapping[str, float]) -> MeasureFirst:
    """Return which parts to measure first.

    Parameters
    ----------
    circuit : Circuit
        Parts that were measured are in it no more.
    limits : mapping of str to float
        By range, the share of what is shown that its limit leaves at full scale; a range without one is spoilt by nothing.
    """
    shares = {part.ref: _spoils(part, limits) for part in circuit.parts}
    whole = sum(shares.values())
    if not whole:
        return MeasureFirst((), 0)
    order = sorted(((ref, share / whole) for ref, share in shares.items() if share > 0), key=lambda x: (-x[1], x[0]))
    so_far = np.cumsum([share for _, share in order])
    return MeasureFirst(tuple(order), int(np.searchsorted(so_far, 1 - MISS)) + 1)


def _spoils(part: PartPatterns, limits: Mapping[str, float]) -> float:
    """Return how often a part that is wrong spoils a range: its share of steps, by how often it goes so far."""
    weights = drift_weights(part, outside=0.0)
    passed = np.zeros(len(weights), bool)
    for range_, shown in part.shown.items():
        if range_ in limits:
            passed |= ~(np.abs(shown) <= limits[range_])
    return float(weights[passed].sum())
