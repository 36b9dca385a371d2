"""Rectifiers: the current of each kind against its voltage, as straight pieces that a network can be solved with at once."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import cache

from candor.core.late_dataclass import dataclass

OFF_SIEMENS = 1e-9  # what is left when it does not conduct: half a microampere at 500 V
THERMAL_VOLTS = 0.025852  # kT/q at 300 K
ARC_OHMS = 0.5  # of a mercury arc, so that two of them can share
# Currents at which a silicon curve is broken, A: by decades where hardly anything flows, by halves of one where it matters.
SILICON_AMPERES = (1e-6, 1e-5, 1e-4, 1e-3, 3e-3, 0.01, 0.03, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 6.4, 15.0, 50.0)
VACUUM_VOLTS = (2.0, 5.0, 10.0, *(10.0 * 1.5**k for k in range(1, 14)))


@dataclass(frozen=True)
class Curve:
    """A current that rises with its voltage, in straight pieces.

    Attributes
    ----------
    lows : tuple of float
        Where each piece begins, V, rising; the first has no beginning.
    siemens, amperes : tuple of float
        Of each piece: i = siemens v + amperes.
    """

    lows: tuple[float, ...]
    siemens: tuple[float, ...]
    amperes: tuple[float, ...]

    def current(self, volts: float) -> float:
        """Return the current at a voltage, A."""
        piece = max(index for index, low in enumerate(self.lows) if low <= volts)
        return self.siemens[piece] * volts + self.amperes[piece]


def _through(points: Sequence[tuple[float, float]]) -> Curve:
    """Join points (V, A) that rise; before the first it is off, after the last it goes on straight."""
    lows, siemens, amperes = [-math.inf], [OFF_SIEMENS], [0.0]
    before = (points[0][0], OFF_SIEMENS * points[0][0])
    for here in points[1:]:
        slope = (here[1] - before[1]) / (here[0] - before[0])
        lows.append(before[0])
        siemens.append(slope)
        amperes.append(before[1] - slope * before[0])
        before = here
    return Curve(tuple(lows), tuple(siemens), tuple(amperes))


@cache
def silicon(saturation: float, emission: float, series_ohms: float) -> Curve:
    """Return v(i) = N VT ln(1 + i/IS) + RS i in pieces (W. Shockley, Bell System Tech. J. 28, 1949); A, 1, ohm.

    Between two breaks the chord lies at most some 6 mV from the curve where more than a milliampere flows.
    """

    def volts(amperes: float) -> float:
        return emission * THERMAL_VOLTS * math.log1p(amperes / saturation) + series_ohms * amperes

    return _through([(0.0, 0.0), *((volts(a), a) for a in SILICON_AMPERES)])


@cache
def mercury(drop: float) -> Curve:
    """Return the curve of an arc: `drop` V at any current, some tenths of a volt more at an ampere."""
    return _through([(drop, 0.0), (drop + ARC_OHMS, 1.0)])


@cache
def vacuum(perveance: float) -> Curve:
    """Return i = P v^1.5 in pieces (I. Langmuir, Phys. Rev. 2, 1913), P in A/V^1.5.

    The chords are laid so that they err by 0.8 % of the current to either side, which moves a rail by less than a tenth of that.
    """
    law: Callable[[float], float] = lambda volts: perveance * volts**1.5  # noqa: E731
    return _through([(0.0, 0.0), *((v, law(v) * CHORD) for v in VACUUM_VOLTS)])


CHORD = 0.9923  # of v^1.5 at the breaks: a chord over a ratio of 1.5 lies up to 1.55 % above the curve
