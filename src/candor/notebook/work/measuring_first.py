"""Which parts of a job to measure first, by its circuit, its limits and what was measured already."""

from __future__ import annotations

import math

from candor.core.suspects.measure_first import MeasureFirst, measure_first
from candor.packs.model import Pack
from candor.packs.patterns import part_patterns
from candor.packs.procedure import test_points


def first_of(pack: Pack, measured: tuple[tuple[str, float], ...] = ()) -> MeasureFirst:
    """Return which parts of a pack's circuit to measure first; none where no circuit says what makes its ranges.

    Parameters
    ----------
    pack : Pack
    measured : tuple of (str, float)
        Parts that were measured, ohm: they are asked for no more.
    """
    limits: dict[str, tuple[float, float]] = {}  # by range, where on it and the share that its limit leaves there
    for point in test_points(pack, "as found"):
        limit, range_ = point.nominal_limit, "/".join(point.key.split("/")[:2]).split("*")[0]
        if point.nominal and 0 < limit < math.inf and abs(point.nominal) > limits.get(range_, (0.0, 0.0))[0]:
            limits[range_] = abs(point.nominal), limit / abs(point.nominal)
    return measure_first(part_patterns(pack, measured), {range_: share for range_, (_, share) in limits.items()})
