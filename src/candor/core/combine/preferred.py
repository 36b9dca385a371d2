"""Preferred values: the E series of IEC 60063."""

from __future__ import annotations

import math
from functools import cache

from candor.core.errors import RangeError
from candor.core.worded import worded

# IEC 60063: E24 does not follow the rounded powers of ten everywhere (2.7 to 4.7, 8.2), so it stands as a table.
E24 = (1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0,
       3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1)  # fmt: skip
SERIES = ("E3", "E6", "E12", "E24", "E48", "E96", "E192")


@cache
def decade(series: str) -> tuple[float, ...]:
    """Return the values of one decade of a series, a ratio from 1 up to 10 (IEC 60063).

    E3 to E24 stand in a table; E48 to E192 are 10^(i/n) to three digits, with 9.20 in E192 where rounding gives 9.19.

    Raises
    ------
    RangeError
        Where there is no such series.
    """
    if series not in SERIES:
        raise RangeError(
            worded("combine.is_not_a_series_of_preferred", series=series, listed=", ".join(SERIES)), value=series
        )
    count = int(series[1:])
    if count <= 24:
        return E24[:: 24 // count]
    values = [round(10 ** (index / count), 2) for index in range(count)]
    return tuple(9.20 if value == 9.19 else value for value in values)


def values_between(series: str, low: float, high: float) -> tuple[float, ...]:
    """Return every value of a series from `low` to `high`, both counted in, in the unit given.

    Raises
    ------
    RangeError
        Where the limits are not above zero or are the wrong way round.
    """
    if not 0 < low <= high < math.inf:
        raise RangeError(worded("combine.preferred_values_lie_between_two_limits", low=low, high=high))
    powers = range(math.floor(math.log10(low)) - 1, math.ceil(math.log10(high)) + 1)
    found = (float(f"{value:.3g}e{power}") for power in powers for value in decade(series))
    return tuple(v for v in found if low * (1 - 1e-12) <= v <= high * (1 + 1e-12))


def nearest(value: float, series: str) -> float:
    """Return the value of a series that is nearest to `value` by ratio; the lower one of two equally near.

    Raises
    ------
    RangeError
        Where `value` is not above zero.
    """
    if not 0 < value < math.inf:
        raise RangeError(worded("combine.a_preferred_value_near_was_asked", value=value))
    candidates = values_between(series, value / 11, value * 11)
    return min(candidates, key=lambda v: abs(math.log(v / value)))
