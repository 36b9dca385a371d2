"""How long a kind of work takes the hands: what is usual, then what this shop's own entries say, more and more.

The logarithm of the minutes is taken as normal with unknown mean and variance. What is usual counts as WEIGHT sittings of the
shop's own (normal-inverse-gamma, Gelman et al., Bayesian Data Analysis, 3rd ed., 3.3 [M]); the usual minutes themselves are
common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Literal, get_args

from candor.core.late_dataclass import dataclass

Work = Literal[
    "walk",
    "settle",
    "part",
    "reform",
    "fit",
    "before power",
    "power up",
    "prove",
    "step",
    "adjust",
    "soaking",
    "release",
    "compare",
]
WORKS: tuple[Work, ...] = get_args(Work)
WEIGHT = 4.0
SPREAD = 0.5  # standard deviation of the logarithm: two thirds between 0.6 and 1.65 times the median
# Minutes of hands for one of each: one walk round, one finding, one part, one step ... Common practice, no source.
USUAL: Mapping[Work, float] = {
    "walk": 20, "settle": 10, "part": 3, "reform": 10, "fit": 12, "before power": 15, "power up": 25, "prove": 20,
    "step": 2.5, "adjust": 6, "soaking": 5, "release": 30, "compare": 15,
}  # fmt: skip
COUNTED = (0.2, 240.0)  # min for one: less was typed in afterwards, more was not work alone


@dataclass(frozen=True)
class Took:
    """How long one of a kind of work takes.

    Attributes
    ----------
    minutes : float
        Median, of hands.
    spread : float
        Standard deviation of the logarithm.
    count : int
        Sittings of the shop's own that it rests on; 0 where it is what is usual.
    """

    minutes: float
    spread: float
    count: int = 0

    def likely(self, many: int = 1, beyond: float = 1.0) -> tuple[float, float]:
        """Return the range of so many of them in one sitting, min: two thirds lie within at 1, 95 in 100 at 2."""
        middle, factor = many * self.minutes, math.exp(beyond * self.spread)
        return middle / factor, middle * factor


def together(times: Iterable[tuple[Took, float]]) -> Took:
    """Return how long several works take one after the other, each so many times: a log-normal of the sum's mean and variance.

    By Fenton (1960), from memory; minutes of one kind of work are off together, those of different kinds by themselves. `count` is
    the fewest sittings that one of them rests on.
    """
    kinds = [(one, many) for one, many in times if many > 0]
    means = [many * one.minutes * math.exp(one.spread**2 / 2) for one, many in kinds]
    mean = sum(means)
    if not mean:
        return Took(0.0, 0.0)
    variance = sum(m * m * math.expm1(one.spread**2) for m, (one, _) in zip(means, kinds, strict=True))
    square = math.log1p(variance / (mean * mean))
    return Took(mean * math.exp(-square / 2), math.sqrt(square), min(one.count for one, _ in kinds))


def took(work: Work, sittings: Iterable[float] = ()) -> Took:
    """Return how long one of a kind of work takes, by what is usual and the shop's own minutes for one, a number a sitting."""
    logs = [math.log(x) for x in sittings if COUNTED[0] <= x <= COUNTED[1]]
    count, usual = len(logs), math.log(USUAL[work])
    if not count:
        return Took(USUAL[work], SPREAD)
    mean = sum(logs) / count
    middle = (WEIGHT * usual + count * mean) / (WEIGHT + count)
    squares = sum((x - mean) ** 2 for x in logs) + WEIGHT * count / (WEIGHT + count) * (mean - usual) ** 2
    variance = (WEIGHT * SPREAD**2 + squares) / (WEIGHT + count)
    return Took(math.exp(middle), math.sqrt(variance), count)
