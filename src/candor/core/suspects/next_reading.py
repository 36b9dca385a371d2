"""Which reading would tell most: the expected cut of entropy for the minute, over everything that may be wrong."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.suspects.observed import Circuit, Floats, Observed, Place
from candor.core.suspects.weigh import Model

# Minutes of a reading: on a range that was read, on another, on another function. Common practice, no source.
SAME_RANGE, OTHER_RANGE, OTHER_FUNCTION = 1.0, 1.5, 3.0
COUNTS = 0.01  # probability from which a hypothesis is asked
LEAST_BITS = 0.02  # under which no reading tells anything
NODES, WEIGHTS = np.polynomial.hermite_e.hermegauss(9)


@dataclass(frozen=True)
class NextReading:
    """A reading that would tell: its point, how many bits are expected of it, its minutes, and what each suspect would show there.

    `shows` are (error expected as share of the arc, its standard deviation), of the hypotheses in order of probability.
    """

    place: Place
    bits: float
    minutes: float
    shows: tuple[tuple[float, float], ...]

    @property
    def per_minute(self) -> float:
        """Bits for the minute."""
        return self.bits / self.minutes


def next_readings(
    observed: Sequence[Observed], circuit: Circuit | None, beyond: Sequence[Place]
) -> tuple[NextReading, ...]:
    """Return the readings that would tell, the most for the minute first; none where nothing more can be told.

    The entropy of the hypotheses now less what is expected after the reading (D. V. Lindley, On a measure of the information
    provided by an experiment, Ann. Math. Statist. 27, 1956), by Gauss-Hermite sums over what each hypothesis expects there.

    Parameters
    ----------
    observed : sequence of Observed
        Shares of the arc.
    circuit : Circuit or None
    beyond : sequence of Place
        Points that can be read.
    """
    if len(observed) < 2 or not beyond:
        return ()
    model = Model(observed, circuit or Circuit(), beyond)
    kept = np.flatnonzero(model.probabilities >= COUNTS)
    probabilities = model.probabilities[kept] / model.probabilities[kept].sum()
    means, variances = zip(*(_expects(model, int(i)) for i in kept), strict=True)
    own = float(np.median([o.own for o in observed]))
    expected, spread = np.array(means), np.sqrt(np.array(variances) + own**2)  # shape (hypotheses, points)
    bits = expected_bits(probabilities, expected, spread)
    order = np.argsort(-probabilities)
    found = [
        NextReading(
            place,
            float(bits[i]),
            _minutes(model, place),
            tuple((float(expected[k, i]), float(spread[k, i])) for k in order),
        )
        for i, place in enumerate(beyond)
    ]
    return tuple(sorted((f for f in found if f.bits >= LEAST_BITS), key=lambda f: -f.per_minute))


def expected_bits(probabilities: Floats, expected: Floats, spread: Floats) -> Floats:
    """Return by how many bits each reading is expected to cut the entropy of hypotheses, shape (readings,).

    By Gauss-Hermite sums over what each hypothesis expects (D. V. Lindley, Ann. Math. Statist. 27, 1956).

    Parameters
    ----------
    probabilities : array, shape (hypotheses,)
    expected, spread : array, shape (hypotheses, readings)
        Mean and standard deviation of what is read, in any unit.
    """
    after = np.zeros(expected.shape[1])
    for k, probability in enumerate(probabilities):
        for node, weight in zip(NODES, WEIGHTS / math.sqrt(2 * math.pi), strict=True):
            shown = expected[k] + node * spread[k]
            likely = np.exp(-0.5 * ((shown - expected) / spread) ** 2) / spread * probabilities[:, None]
            after += probability * weight * _entropy(likely / likely.sum(axis=0))
    bits: Floats = _entropy(probabilities[:, None])[0] - after
    return bits


def _entropy(probabilities: Floats) -> Floats:
    """Bits of columns of probabilities."""
    inside = np.where(probabilities > 0, probabilities, 1.0)
    made: Floats = -(inside * np.log2(inside)).sum(axis=0)
    return made


def _minutes(model: Model, place: Place) -> float:
    ranges, functions = model.columns.read
    return SAME_RANGE if place.range in ranges else OTHER_RANGE if place.function in functions else OTHER_FUNCTION


def _expects(model: Model, index: int) -> tuple[Floats, Floats]:
    """What a hypothesis expects at the points not read, mean and variance: of its likeliest ways, given what was read."""
    hypothesis, fits = model.hypotheses[index], model.fits[index]
    scores = np.array([f.score for f in fits])
    weights = np.exp(scores - scores.max())
    best = np.argsort(-weights)[:4]
    weights = weights[best] / weights[best].sum()
    means, variances = [], []
    n = model.read
    for which in best:
        c = hypothesis.components[which]
        columns = np.hstack((c.columns * c.spread, c.gains(model.columns.gains)))
        whole = model.covariance + columns @ columns.T
        gain = np.linalg.solve(whole[:n, :n], whole[:n, n:]).T  # shape (new, read)
        means.append(c.mean[n:] + gain @ (model.errors - c.mean[:n]))
        variances.append(np.diag(whole[n:, n:] - gain @ whole[:n, n:]))
    mean = weights @ np.array(means)
    made: Floats = weights @ (np.array(variances) + (np.array(means) - mean) ** 2)
    return mean, made
