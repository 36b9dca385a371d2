"""How fast points of a kind drift and wander, before their history says so: usual sizes, or pooled from the shop."""

from __future__ import annotations

import math
from collections.abc import Sequence

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

SLOPE, WALK = 1 / 10, 1 / 20  # of the limit, a year and a root year
COUNTS_AS = 5  # histories that the usual prior counts as
# Times slope and walk of the prior, and how likely beforehand (common practice, no source): by simulation the fans then hold where
# both are three times the prior, from two results on, and are at most a third to two fifths wider than were they known.
SCALES = ((1 / 3, 1 / 3, 0.1), (1.0, 1.0, 0.25), (2.0, 3.3, 0.4), (4.0, 4.5, 0.25))
KNOWN = ((1.0, 1.0, 1.0),)  # as the prior says and no other


@dataclass(frozen=True)
class Prior:
    """Slope and random walk as shares of the limit: a year, and a root year; and whose they are.

    Attributes
    ----------
    slope, walk : float
    histories : int
        Of how many histories of the kind they were pooled; 0 where they are the usual ones.
    scales : tuple of (float, float, float)
        Times slope and walk, and the probability of that beforehand.
    """

    slope: float = SLOPE
    walk: float = WALK
    histories: int = 0
    scales: tuple[tuple[float, float, float], ...] = SCALES

    @property
    def words(self) -> str:
        """Whose they are."""
        own = (
            worded("drift.pooled_from_histories_of_this_kind", histories=self.histories)
            if self.histories
            else worded("drift.usual_ones_common_practice_no_source")
        )
        return worded("drift.slope_of_the_limit_a_year", slope=100 * self.slope, walk=100 * self.walk, own=own)


USUAL = Prior()


def pooled(slopes: Sequence[tuple[float, float]], walk: float = WALK) -> Prior:
    """Return the prior of a kind from the slopes of its histories, as shares of the limit a year, each with its u.

    The usual spread counts as five histories (common practice, no source); each adds what its slope is beyond its own u, as in the
    method of moments of DerSimonian and Laird (1986).
    """
    if not slopes:
        return USUAL
    beyond = sum(max(slope**2 - u**2, 0.0) for slope, u in slopes)
    spread = math.sqrt((COUNTS_AS * SLOPE**2 + beyond) / (COUNTS_AS + len(slopes)))
    return Prior(spread, walk, len(slopes))
