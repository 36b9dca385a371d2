"""What a tester says turned into what is: a robust line through tubes of known figures, with its prediction uncertainty."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

LEAST = 3  # known tubes: a line through two has nothing to be held against
BEYOND = 0.2  # of their span: how far outside it a correction still holds (common practice, no source)
Floats = NDArray[np.float64]
ACCUSED = 1e-3  # how often a sound set of known tubes has one left out
CONTRADICTS = 3.5  # robust standard deviations (Iglewicz and Hoaglin 1993, from memory)
COVERED = 0.9545
_TO_SIGMA = 1.4826  # median absolute deviation of a normal


@dataclass(frozen=True)
class Known:
    """A tube of known figure on a tester.

    Attributes
    ----------
    name : str
    shown, figure : float
        What the tester says and what is; each in its own unit.
    u : float
        Standard uncertainty of the figure.
    """

    name: str
    shown: float
    figure: float
    u: float = 0.0


@dataclass(frozen=True)
class Correction:
    """figure = intercept + slope x shown, and how well.

    Attributes
    ----------
    intercept, slope : float
    scatter : float
        Standard deviation about the line, in the unit of the figure; not below what the known tubes themselves are known to.
    count : int
        Tubes that the line goes through.
    mean, spread : float
        Mean of what was shown, and the sum of its squares about it.
    low, high : float
        Between what was shown it holds: the span of the known ones and a fifth of it at either end.
    contradict : tuple of str
        Known tubes left out because they contradict the others.
    doubted : tuple of str
        Who contradicts the others, where nobody can say which is wrong.
    u_slope, u_intercept : float
    """

    intercept: float
    slope: float
    scatter: float
    count: int
    mean: float
    spread: float
    low: float
    high: float
    contradict: tuple[str, ...] = ()
    doubted: tuple[str, ...] = ()

    @property
    def dof(self) -> int:
        """Degrees of freedom, a number of tubes less two."""
        return self.count - 2

    @property
    def u_slope(self) -> float:
        """Standard uncertainty of the slope, in its unit."""
        return self.scatter / math.sqrt(self.spread)

    @property
    def u_intercept(self) -> float:
        """Standard uncertainty of the intercept, in the unit of the figure."""
        return self.scatter * math.sqrt(1 / self.count + self.mean**2 / self.spread)

    def corrected(self, shown: float, u_shown: float = 0.0) -> tuple[float, float]:
        """Return what a tube truly has and its U, in the unit of the figure.

        U of one prediction, t s sqrt(1 + 1/n + (x - mean)^2/S_xx) (any handbook of regression, such as Draper and Smith 1998), with
        what the new reading itself is uncertain by beside it: 95.45 per cent.

        Raises
        ------
        RangeError
            Outside the span of the known tubes and a fifth of it.
        """
        from scipy.special import stdtrit

        if not self.low <= shown <= self.high:
            raise RangeError(
                worded("tubes.is_outside_to_the_span_of", shown=shown, low=self.low, high=self.high),
                value=f"{shown:g}",
                expected=f"{self.low:g} to {self.high:g}",
            )
        of_line = self.scatter * math.sqrt(1 + 1 / self.count + (shown - self.mean) ** 2 / self.spread)
        times = float(stdtrit(self.dof, (1 + COVERED) / 2))
        return self.intercept + self.slope * shown, math.hypot(times * of_line, 2 * abs(self.slope) * u_shown)


def correct_by(known: Sequence[Known]) -> Correction:
    """Return the line through tubes of known figures, without those that contradict the others.

    It begins from the median of all slopes (Theil 1950, Sen 1968); what lies more than 3.5 robust standard deviations off is set
    aside, and left out by name where Student's t says that chance would hardly have it; the rest is fitted by least squares.
    Where too few would be left to say which is wrong, all are kept and it is said.

    Parameters
    ----------
    known : sequence of Known
        At least three, each in the same units.

    Raises
    ------
    RangeError
        Of fewer than three, or where all were shown alike.
    """
    if len(known) < LEAST:
        raise RangeError(
            worded(
                "tubes.known_tube_a_correction_needs_at",
                known=len(known),
                plural="s" if len(known) != 1 else "",
                least=LEAST,
            ),
            value=str(len(known)),
            expected=worded("tubes.or_more"),
        )
    x, y, u = (np.array([getattr(k, name) for k in known]) for name in ("shown", "figure", "u"))
    if np.ptp(x) <= 0:
        raise RangeError(worded("tubes.all_known_tubes_were_shown_alike"), value=f"{x[0]:g}")
    one, other = np.triu_indices(len(x), 1)
    apart = x[one] != x[other]
    slope = float(np.median((y[other] - y[one])[apart] / (x[other] - x[one])[apart]))
    off = y - slope * x
    off = off - np.median(off)
    scale = max(_TO_SIGMA * float(np.median(np.abs(off))), 1e-12 * float(np.max(np.abs(y))))
    wrong = _wrong(x, y, u, np.abs(off) <= CONTRADICTS * np.maximum(scale, u))
    doubted: tuple[str, ...] = ()
    # With three, any one of them can be blamed; with a minority of sound ones, the others can.
    if wrong.any() and (np.sum(~wrong) < LEAST or np.sum(wrong) >= len(x) / 2):
        doubted = tuple(k.name for k, bad in zip(known, wrong, strict=True) if bad)
        wrong = np.zeros(len(x), bool)
    kept = ~wrong
    x, y, u = x[kept], y[kept], u[kept]
    if np.ptp(x) <= 0:
        raise RangeError(worded("tubes.the_known_tubes_that_agree_were"), value=f"{x[0]:g}")
    mean = float(np.mean(x))
    spread = float(np.sum((x - mean) ** 2))
    slope, intercept, residual = _line(x, y)
    span = float(np.ptp(x))
    return Correction(
        intercept=intercept, slope=slope, scatter=max(residual, math.sqrt(float(np.mean(u**2)))), count=len(x), mean=mean,
        spread=spread, low=float(np.min(x)) - BEYOND * span, high=float(np.max(x)) + BEYOND * span,
        contradict=tuple(k.name for k, bad in zip(known, wrong, strict=True) if bad), doubted=doubted,
    )  # fmt: skip


def _wrong(x: Floats, y: Floats, u: Floats, sound: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return which contradict: what lies off the line of the sound ones by more than chance would have it among so many.

    Each that was set aside is held against the prediction of those that were not, by Student's t at one in a thousand shared among
    all (Bonferroni), and comes back where it fits; so a sound tube is hardly ever accused.
    """
    from scipy.special import ndtri, stdtrit

    share = 1 - ACCUSED / (2 * len(x))
    while True:
        if np.sum(sound) < LEAST or np.ptp(x[sound]) <= 0:
            return ~sound
        slope, intercept, s = _line(x[sound], y[sound])
        mean = float(np.mean(x[sound]))
        spread = float(np.sum((x[sound] - mean) ** 2))
        stretch = np.sqrt(1 + 1 / np.sum(sound) + (x - mean) ** 2 / spread)
        known = math.sqrt(float(np.mean(u[sound] ** 2)))
        apart = max(float(stdtrit(np.sum(sound) - 2, share)) * s, float(ndtri(share)) * known)
        fits = np.abs(y - intercept - slope * x) <= np.hypot(apart * stretch, float(ndtri(share)) * u)
        if not (fits & ~sound).any():
            return ~sound
        sound = sound | fits


def _line(x: Floats, y: Floats) -> tuple[float, float, float]:
    """Return slope, intercept and residual standard deviation by least squares."""
    mean = float(np.mean(x))
    slope = float(np.sum((x - mean) * (y - np.mean(y))) / np.sum((x - mean) ** 2))
    intercept = float(np.mean(y)) - slope * mean
    return slope, intercept, math.sqrt(float(np.sum((y - intercept - slope * x) ** 2)) / (len(x) - 2))
