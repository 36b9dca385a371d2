"""A tube's transconductance measured here, on bench supplies: dI_p/dV_g about a point, with its uncertainty."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from candor.core.errors import RangeError
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import Coverage, cover

WIDEST = 1.0  # V to either side: beyond, the chord is not the slope


@dataclass(frozen=True)
class Slope:
    """A transconductance.

    Attributes
    ----------
    siemens : float
    coverage : Coverage
        Its U and k, S.
    budget : Budget
    grid_volts, plate_amperes : float
        The point it holds at, V and A.
    """

    siemens: float
    coverage: Coverage
    budget: Budget
    grid_volts: float
    plate_amperes: float


def transconductance(points: Sequence[tuple[float, float]], u_volts: float, u_amperes: float) -> Slope:
    """Return dI_p/dV_g from plate currents at grid voltages about a point.

    The slope is by least squares over V_g. What a chord is off a curve by I = K v^1.5 (Langmuir's three-halves law, 1913) is
    taken out, h^2/(24 v^2) of the slope with v = 1.5 I/g (derived; a test holds it by finite difference). All of it stands in the
    budget too, as real tubes follow the law only roughly; beside it each reading's own u.

    Parameters
    ----------
    points : sequence of (float, float)
        Grid volts and plate amperes, two or more, at the same plate and screen volts.
    u_volts, u_amperes : float
        Standard uncertainties of one reading of each, of what is not common to all, V and A.

    Raises
    ------
    RangeError
        Of fewer than two, at one voltage, further apart than a volt to either side, or where the current falls as the grid rises.
    """
    if len(points) < 2:
        raise RangeError("A slope needs the plate current at two grid voltages or more.", value=str(len(points)))
    volts, amperes = zip(*points, strict=True)
    n, mean = len(points), sum(volts) / len(points)
    spread = sum((v - mean) ** 2 for v in volts)
    half = (max(volts) - min(volts)) / 2
    if half == 0:
        raise RangeError("All currents were read at one grid voltage: there is no slope.", value=f"{mean:g}")
    if half > WIDEST:
        raise RangeError(
            f"The grid was moved {2 * half:g} V: over so much the chord is not the slope. A quarter of a volt to either side was "
            "expected.",
            value=f"{2 * half:g}",
            expected="0.25 V to either side",
        )
    current = sum(amperes) / n
    siemens = sum((v - mean) * (i - current) for v, i in points) / spread
    if siemens <= 0:
        raise RangeError(
            "The plate current falls as the grid rises: are the columns or a sign changed over?", value=f"{siemens:g}"
        )
    parts = [
        Contribution(
            "plate current, each reading",
            u_amperes / math.sqrt(spread),
            reason="By least squares over the grid volts.",
        ),
        Contribution(
            "grid volts, each reading", siemens * u_volts / math.sqrt(spread), reason="By the slope itself."
        ),
    ]
    reach = 1.5 * current / siemens  # V of the three-halves law
    if n > 2:
        squares = sum((i - current - siemens * (v - mean)) ** 2 for v, i in points)
        if not _explained(squares, u_amperes**2 + (siemens * u_volts) ** 2, n - 2):
            left = math.sqrt(squares / (n - 2))
            parts.append(
                Contribution("scatter", left / math.sqrt(spread), dof=n - 2, reason="About the line.", kind="scatter")
            )
    if current > 0:
        reach = 1.5 * current / siemens  # V of the three-halves law
        bends = sum((v - mean) ** 4 for v in volts) / spread / (24 * reach**2)
        parts.append(rectangular("chord for slope", siemens * bends, "By the three-halves law, and taken out by it."))
        siemens *= 1 + bends
    budget = Budget(tuple(parts))
    return Slope(siemens=siemens, coverage=cover(budget), budget=budget, grid_volts=mean, plate_amperes=current)


def _explained(squares: float, variance: float, dof: int) -> bool:
    """Whether what is left about the line is no more than the readings' own u make, 19 times in 20 (chi squared)."""
    from scipy.special import chdtri

    return variance > 0 and squares / variance <= float(chdtri(dof, 0.05))
