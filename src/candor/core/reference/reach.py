"""How sure a reference is over what it reaches: by its specification a curve for each range, by its certificate its points."""

from __future__ import annotations

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.reference.reference import Reference

DOWN_TO = 0.1  # of a range: below it the next finer one is read
STEPS = 25


@dataclass(frozen=True)
class Reach:
    """One range, or one point of a certificate.

    Attributes
    ----------
    upper : float
        Where the range ends, SI; the value of a point.
    values, shares : tuple of float
        Values, SI, and the half-width of the specification, or U of the certificate, over each of them.
    is_point : bool
    """

    upper: float
    values: tuple[float, ...]
    shares: tuple[float, ...]
    is_point: bool = False


def reach(reference: Reference) -> tuple[Reach, ...]:
    """Return how sure a reference is over what it reaches, by rising ends.

    A specification is +-(a % of reading + b % of range + counts) (common practice, no source), the narrowest of its bands; a
    certificate U as it is stated. Zero has no share and is left out.
    """
    found: dict[float, Reach] = {}
    for line in reference.ranges:
        values = np.geomspace(DOWN_TO * line.upper, line.upper, STEPS)
        shares = tuple(line.half_width(float(value)) / float(value) for value in values)
        known = found.get(line.upper)
        if known is None or shares[-1] < known.shares[-1]:
            found[line.upper] = Reach(line.upper, tuple(map(float, values)), shares)
    points = tuple(
        Reach(p.value, (p.value,), (p.expanded / p.value,), is_point=True) for p in reference.points if p.value > 0
    )
    return (*sorted(found.values(), key=lambda r: r.upper), *points)
