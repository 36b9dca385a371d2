"""The spectrum of a waveform: its fundamental, harmonics, THD and THD+N, by one Fourier transform."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from candor.core.waves.figure import Figure, Untold
from candor.core.waves.waveform import Floats, Waveform

Complex = NDArray[np.complex128]
Indices = NDArray[np.int64]
# Four-term Blackman-Harris (F. J. Harris, Proc. IEEE 66 (1978) 51, table 1): side lobes below -92 dB.
TERMS = (0.35875, 0.48829, 0.14128, 0.01168)
LOBE = 5  # bins either side in which a line's power lies
MOST_HARMONICS = 2000
FEWEST_CYCLES = 3.0


@dataclass(frozen=True, eq=False)
class Spectrum:
    """What one transform says.

    Attributes
    ----------
    hertz : float
        Of the fundamental, Hz.
    cycles : float
        Of it in the record.
    lines : array of shape (harmonics,)
        The rms of the fundamental and its harmonics, in the unit of the waveform.
    rest : float
        The rms of everything else but the mean, in the unit of the waveform.
    noise_floor : float
        The rms that noise alone puts into one line, in the unit of the waveform.
    """

    hertz: float
    cycles: float
    lines: Floats
    rest: float
    noise_floor: float


def spectrum_of(wave: Waveform) -> Spectrum | Untold:
    """Return fundamental and harmonics, or why there are none.

    The window is laid on in the spectrum, where it is seven taps; a line's power is the sum over its lobe, so that it need not fall
    on a bin.
    """
    from scipy.fft import next_fast_len  # imported here: slow to load, and only where a spectrum is asked for

    count = wave.count
    used = count if next_fast_len(count, real=True) < 1.2 * count else next_fast_len(int(count / 1.1), real=True)
    used = min(used, count)
    values = wave.values[:used]
    level = float(values.mean())
    bins = np.fft.rfft(values)
    bins[0] = 0.0
    if len(bins) <= 4 * LOBE:
        return Untold("spectrum", f"{count} samples are too few")
    loudest = 1 + int((bins.real[1:] ** 2 + bins.imag[1:] ** 2).argmax())
    near = np.arange(max(loudest - 3, 1), min(loudest + 4, len(bins)))
    power = _windowed(bins, near, used)
    cycles = _fundamental(bins, float((power * near).sum() / power.sum()), used)
    if cycles < FEWEST_CYCLES:
        return Untold("spectrum", f"{cycles:.1f} cycles in the record; at least {FEWEST_CYCLES:g} were expected")
    total = float(np.dot(values, values)) / used - level**2
    harmonics = min(int((len(bins) - LOBE - 2) / cycles), MOST_HARMONICS)
    if not harmonics:
        return Untold("spectrum", "the fundamental lies at half the sampling rate")
    centres = np.rint(cycles * np.arange(1, harmonics + 1)).astype(int)
    reach = min(LOBE, max(int(cycles / 2) - 1, 1))
    around = np.clip(centres[:, None] + np.arange(-reach, reach + 1)[None, :], 0, len(bins) - 1)
    lines = np.sqrt(_windowed(bins, around, used).sum(axis=1))
    rest = math.sqrt(max(total - float((lines**2).sum()), 0.0))
    floor = wave.u_sample * math.sqrt(2 * (2 * reach + 1) / used)
    return Spectrum(hertz=cycles / (used * wave.interval_s), cycles=cycles, lines=lines, rest=rest, noise_floor=floor)


@lru_cache(maxsize=1)
def _gain() -> float:
    """The mean square of the window."""
    return TERMS[0] ** 2 + sum(a * a for a in TERMS[1:]) / 2


def _windowed(bins: Complex, at: Indices, count: int) -> Floats:
    """The mean square of windowed bins, of the shape of `at`: its sum over a lobe is the mean square of a line."""
    laid = TERMS[0] * bins[at]
    for shift, weight in enumerate(TERMS[1:], 1):
        half = (-1) ** shift * weight / 2
        below, above = at - shift, np.minimum(at + shift, len(bins) - 1)
        mirrored = np.where(below < 0, np.conj(bins[np.abs(below)]), bins[np.abs(below)])  # what lies below zero
        laid = laid + half * (mirrored + bins[above])
    found: Floats = (laid.real**2 + laid.imag**2) * (2.0 / (count * count * _gain()))
    return found


def _fundamental(bins: Complex, cycles: float, count: int) -> float:
    """The strongest line may be a harmonic: what is a half or a third of it, and a third as strong, is the fundamental."""
    strongest = float(_windowed(bins, np.array([round(cycles)]), count)[0])
    for part in (2, 3):
        near = round(cycles / part) + np.arange(-2, 3)
        if near[0] <= 2 * LOBE:
            continue
        power = _windowed(bins, near, count)
        if float(power.max()) > 0.1 * strongest:
            return float((power * near).sum() / power.sum())
    return cycles


def distortion(found: Spectrum | Untold) -> list[Figure | Untold]:
    """Return THD of the fundamental and of the total, and THD with noise, as shares.

    THD_F = √(Σ h²) / h1, THD_R = THD_F / √(1 + THD_F²), THD+N = √(total² - h1²) / total: what a notch analyser with a true-rms
    detector reads. By definition; harmonics below the noise are in it as noise.
    """
    if isinstance(found, Untold):
        return [Untold(name, found.why) for name in ("THD", "THD of the total", "THD+N")]
    first, others = float(found.lines[0]), found.lines[1:]
    if not first > 0 or len(others) == 0:
        return [Untold("THD", "no harmonic lies under half the sampling rate")]
    sum_of = math.sqrt(float((others**2).sum()))
    floor = found.noise_floor * math.sqrt(len(others))
    # A sum of squares stands over the truth by the noise's own, and varies with it.
    clean = math.sqrt(max(sum_of**2 - floor**2, 0.0))
    share = clean / first
    u = math.hypot(found.noise_floor, floor**2 / max(2 * clean, floor, 1e-300) if floor else 0.0) / first
    total = math.sqrt(first**2 + sum_of**2 + found.rest**2)
    noisy = math.sqrt(max(total**2 - first**2, 0.0)) / total
    words = f"{len(others)} harmonics of {found.hertz:.6g} Hz, {found.cycles:.1f} cycles"
    all_else = "everything but the fundamental, of the total, to half the sampling rate"
    of_total, u_total = share / math.sqrt(1 + share**2), u / (1 + share**2) ** 1.5
    return [
        Figure("THD", share, "1", u, words=f"of the fundamental, {words}"),
        Figure("THD of the total", of_total, "1", u_total, words=f"of the total, {words}"),
        Figure("THD+N", noisy, "1", found.noise_floor / total, words=all_else),
    ]
