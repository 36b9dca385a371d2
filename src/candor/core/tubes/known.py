"""A tube's transconductance measured here, on bench supplies: dI_p/dV_g about a point, with its uncertainty."""

from __future__ import annotations

import math
from collections.abc import Sequence

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import Coverage, cover
from candor.core.worded import worded

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
        raise RangeError(worded("tubes.a_slope_needs_the_plate_current"), value=str(len(points)))
    volts, amperes = zip(*points, strict=True)
    n, mean = len(points), sum(volts) / len(points)
    spread = sum((v - mean) ** 2 for v in volts)
    half = (max(volts) - min(volts)) / 2
    if half == 0:
        raise RangeError(worded("tubes.all_currents_were_read_at_one"), value=f"{mean:g}")
    if half > WIDEST:
        raise RangeError(
            worded("tubes.the_grid_was_moved_v_over", half=2 * half),
            value=f"{2 * half:g}",
            expected=worded("tubes.v_to_either_side"),
        )
    current = sum(amperes) / n
    siemens = sum((v - mean) * (i - current) for v, i in points) / spread
    if siemens <= 0:
        raise RangeError(worded("tubes.the_plate_current_falls_as_the"), value=f"{siemens:g}")
    parts = [
        Contribution(
            worded("tubes.plate_current_each_reading"),
            u_amperes / math.sqrt(spread),
            reason=worded("tubes.by_least_squares_over_the_grid"),
        ),
        Contribution(
            worded("tubes.grid_volts_each_reading"),
            siemens * u_volts / math.sqrt(spread),
            reason=worded("tubes.by_the_slope_itself"),
        ),
    ]
    reach = 1.5 * current / siemens  # V of the three-halves law
    if n > 2:
        squares = sum((i - current - siemens * (v - mean)) ** 2 for v, i in points)
        if not _explained(squares, u_amperes**2 + (siemens * u_volts) ** 2, n - 2):
            left = math.sqrt(squares / (n - 2))
            parts.append(
                Contribution(
                    "scatter",
                    left / math.sqrt(spread),
                    dof=n - 2,
                    reason=worded("tubes.about_the_line"),
                    kind="scatter",
                )
            )
    if current > 0:
        reach = 1.5 * current / siemens  # V of the three-halves law
        bends = sum((v - mean) ** 4 for v in volts) / spread / (24 * reach**2)
        parts.append(rectangular("chord for slope", siemens * bends, worded("tubes.by_the_three_halves_law_and")))
        siemens *= 1 + bends
    budget = Budget(tuple(parts))
    return Slope(siemens=siemens, coverage=cover(budget), budget=budget, grid_volts=mean, plate_amperes=current)


def _explained(squares: float, variance: float, dof: int) -> bool:
    """Whether what is left about the line is no more than the readings' own u make, 19 times in 20 (chi squared)."""
    from scipy.special import chdtri

    return variance > 0 and squares / variance <= float(chdtri(dof, 0.05))
