"""A periodic waveform fitted by least squares: mean, fundamental and harmonics together, and their frequency.

y(n) = sum over k of c_k exp(i k w n), k from -K to K (the sine fits of IEEE Std 1057-2017, 4.6, from memory, with all harmonics at
once). Part cycles leak into nothing then: what is left is noise. The normal equations are Toeplitz, their sums in closed form, the
right hand side a chirp z-transform; the frequency goes by Gauss and Newton.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.waves.waveform import Floats

Complex = NDArray[np.complex128]
STEPS = 4  # of Gauss and Newton: from a bin's tenth to the last digits
LOWEST = 8  # harmonics on which the frequency hangs
SURE_CYCLES = 40.0  # from which on a transform tells them well enough to begin with
SMOOTHED = 8  # harmonics over which noise is smoothed
FARTHEST = 0.2  # cycles in the record that a step goes
NYQUIST = 0.98  # of half the sampling rate, to which harmonics are fitted


@dataclass(frozen=True, eq=False)
class HarmonicFit:
    """A fit.

    Attributes
    ----------
    step : float
        Radians of the fundamental from sample to sample.
    cycles : float
        In the record.
    lines : array of shape (harmonics,)
        The rms of the fundamental and its harmonics, in the unit of the values.
    noise : array of shape (harmonics,)
        The rms that all else puts into each of them, by what it puts half a fundamental beside them, smoothed.
    phase : float
        Of the fundamental at the first sample, as a cosine, radians.
    rest, u_rest : float
        The rms of all else, and its standard uncertainty by how its squares scatter, in the unit of the values.
    u_step : float
        Standard uncertainty of the step by what is left, radians.
    """

    step: float
    cycles: float
    lines: Floats
    noise: Floats
    phase: float
    rest: float
    u_rest: float
    u_step: float


def fit_harmonics(values: Floats, cycles: float, most: int) -> HarmonicFit:
    """Fit mean, fundamental and harmonics; `values` of shape (samples,), in any unit.

    Parameters
    ----------
    values : array of shape (samples,)
    cycles : float
        In the record, to a tenth or so.
    most : int
        Harmonics at most; fewer where half the sampling rate or the samples end them.
    """
    count = len(values)
    centred = values - values.mean()
    step = 2 * math.pi * cycles / count
    kept = max(min(int(NYQUIST * math.pi / step), most, (count - 3) // 4), 1)
    step, weight = _step_by_the_lowest(centred, step, cycles, min(kept, LOWEST))
    found = _solve(centred, step, kept)
    left = centred - _values(found, step, count)
    free = max(count - 2 * kept - 2, 1)
    rest = math.sqrt(float(left @ left) / free)
    lines = math.sqrt(2) * np.abs(found[kept + 1 :])
    u_step = rest / math.sqrt(weight) if weight > 0 else math.inf
    return HarmonicFit(
        step=step, cycles=step * count / (2 * math.pi), lines=np.asarray(lines, np.float64),
        noise=_beside(left, step, kept) * math.sqrt(count / free), phase=float(np.angle(found[kept + 1])), rest=rest,
        u_rest=_u_of_rms(left, rest), u_step=u_step,
    )  # fmt: skip


def nearest_cycles(values: Floats, cycles: float) -> float:
    """Return how many cycles go with values best, of those near a first guess; `values` of shape (samples,), in any unit.

    A few cycles are seen by a transform to no better than half of one; least squares of the lowest harmonics tell them.
    """
    centred = values - values.mean()
    if cycles > SURE_CYCLES:
        return cycles

    def left(tried: float) -> float:
        step = 2 * math.pi * tried / len(centred)
        most = max(min(3, int(NYQUIST * math.pi / step), (len(centred) - 3) // 4), 1)
        places = np.exp(-1j * step * np.outer(np.arange(most + 1), np.arange(len(centred))))
        right = places @ centred
        found = _toeplitz(right, step, len(centred))[most:]
        return -float(np.real(2 * (np.conj(found[1:]) @ right[1:]) + np.conj(found[0]) * right[0]))

    return min((cycles + part / 5 for part in range(-4, 5) if cycles + part / 5 > 1), key=left)


def _step_by_the_lowest(values: Floats, step: float, cycles: float, most: int) -> tuple[float, float]:
    """The step by Gauss and Newton on the lowest harmonics, and the weight of the readings in it (1/u² at a scatter of 1)."""
    place = np.arange(len(values)) - (len(values) - 1) / 2  # a shift in time is taken up by the phases
    weight = 0.0
    for _ in range(STEPS):
        turning = np.exp(1j * step * np.arange(len(values)))
        powers = np.cumprod(np.broadcast_to(turning, (most, len(values))), axis=0)

        def fitted(of: Floats, powers: Complex = powers, step: float = step) -> Complex:
            right = np.concatenate(([of.sum()], np.conj(powers) @ of))
            return _toeplitz(right, step, len(of))[most:]

        def made(found: Complex, powers: Complex = powers) -> Floats:
            whole: Floats = found[0].real + 2 * np.real(found[1:] @ powers)
            return whole

        found = fitted(values)
        left = values - made(found)
        slope = place * 2 * np.real((found[1:] * 1j * np.arange(1, most + 1)) @ powers)
        own = slope - made(fitted(slope))
        weight = float(own @ own)
        moved = float(own @ left) / weight if weight > 0 else 0.0
        step += max(min(moved, FARTHEST * step / cycles), -FARTHEST * step / cycles)
        if abs(moved) * len(values) < 1e-10:
            break
    return step, weight


def _solve(values: Floats, step: float, most: int) -> Complex:
    """The coefficients c of least squares, from -most to most, shape (2 most + 1,)."""
    from scipy.signal import czt  # imported here: slow to load, and only where a spectrum is asked for

    return _toeplitz(czt(values, m=most + 1, w=np.exp(-1j * step), a=1.0), step, len(values))


def _u_of_rms(left: Floats, rms: float) -> float:
    """The standard uncertainty of an rms by the scatter of the squares, neighbours tied as they are (JCGM 100:2008, 4.2.3)."""
    squares = left**2 - float(np.mean(left**2))
    whole = float(squares @ squares)
    if whole <= 0 or rms <= 0:
        return 0.0
    tied = min(max(float(squares[1:] @ squares[:-1]) / whole, 0.0), 0.95)
    return math.sqrt(whole * (1 + tied) / (1 - tied)) / len(left) / (2 * rms)


def _beside(left: Floats, step: float, most: int) -> Floats:
    """What is left puts into lines half a fundamental above each harmonic, rms, a mean of neighbours: noise of any colour."""
    from scipy.signal import czt  # imported here: as above

    between = czt(left, m=most, w=np.exp(-1j * step), a=np.exp(1.5j * step))
    squares = 2 * np.abs(between / len(left)) ** 2
    wide = min(SMOOTHED, most)
    padded = np.pad(squares, (wide // 2, wide - 1 - wide // 2), mode="edge")
    return np.sqrt(np.convolve(padded, np.full(wide, 1 / wide), mode="valid"))


def _toeplitz(right: Complex, step: float, count: int) -> Complex:
    """Solve the normal equations: `right` are the sums of values times exp(-i k w n), k from 0 on."""
    from scipy.linalg import solve_toeplitz  # imported here: as above

    most = len(right) - 1
    turned = np.exp(-1j * step * np.arange(0, 2 * most + 1))
    # Sums of exp(-i m w n) over all n, by the geometric series.
    sums = np.full(2 * most + 1, count, np.complex128)
    sums[1:] = (1 - turned[1:] ** count) / (1 - turned[1:])
    toward = np.concatenate((np.conj(right[:0:-1]), right))
    return np.asarray(solve_toeplitz((sums, np.conj(sums)), toward), np.complex128)


def _values(found: Complex, step: float, count: int) -> Floats:
    """What coefficients make at every sample."""
    from scipy.signal import czt  # imported here: as above

    most = len(found) // 2
    one_side = found[most:].copy()
    one_side[0] /= 2
    made: Floats = 2 * np.real(czt(one_side, m=count, w=np.exp(1j * step), a=1.0))
    return made
