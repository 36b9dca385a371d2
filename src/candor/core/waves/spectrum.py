"""The spectrum of a waveform: its fundamental, harmonics, THD and THD+N, found by a Fourier transform and fitted."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.waves.harmonics import fit_harmonics, nearest_cycles
from candor.core.waves.wave_figure import Figure, Untold
from candor.core.waves.waveform import Floats, Waveform
from candor.core.worded import worded

Complex = NDArray[np.complex128]
Indices = NDArray[np.int64]
# Four-term Blackman-Harris (F. J. Harris, Proc. IEEE 66 (1978) 51, table 1): side lobes below -92 dB.
TERMS = (0.35875, 0.48829, 0.14128, 0.01168)
LOBE = 5  # bins either side in which a line's power lies
MOST_HARMONICS = 2000
WIDER = 1.25  # by simulation: noise of other colours, and counts
FEWEST_CYCLES = 2.0  # in the record
MOST_SAMPLES, LEAST_CYCLES = 32_768, 10.0  # that are fitted: no more where there are enough cycles in them


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
    noise : array of shape (harmonics,)
        The rms that noise alone puts into each of them, in the unit of the waveform.
    white : float
        The same by what changes from sample to sample alone.
    coarse : float
        The rms that counts put into one of them where every cycle meets the same ones, in the unit of the waveform.
    rest, u_rest : float
        The rms of everything else but the mean, and its standard uncertainty, in the unit of the waveform.
    samples : int
        That were used.
    phase : float
        Of the fundamental at the first sample, as a cosine, radians.
    u_hertz : float
        Standard uncertainty of the frequency, Hz.
    """

    hertz: float
    cycles: float
    lines: Floats
    noise: Floats
    white: float
    coarse: float
    rest: float
    u_rest: float
    samples: int
    phase: float
    u_hertz: float


def spectrum_of(wave: Waveform) -> Spectrum | Untold:
    """Return fundamental and harmonics, or why there are none.

    Where the fundamental lies is looked for by a transform whose window is laid on in the spectrum, where it is seven taps; what it
    and its harmonics are is fitted by least squares, so that part cycles do not leak (IEEE 1057-2017, see `harmonics`).
    """
    from scipy.fft import next_fast_len  # imported here: slow to load, and only where a spectrum is asked for

    count = wave.count
    used = count if next_fast_len(count, real=True) < 1.2 * count else next_fast_len(int(count / 1.1), real=True)
    used = min(used, count)
    bins = np.fft.rfft(wave.values[:used])
    bins[0] = 0.0
    if len(bins) <= 4 * LOBE:
        return Untold("spectrum", worded("waves.samples_are_too_few", count=count))
    loudest = 1 + int((bins.real[1:] ** 2 + bins.imag[1:] ** 2).argmax())
    near = np.arange(max(loudest - 3, 1), min(loudest + 4, len(bins)))
    power = _windowed(bins, near, used)
    cycles = _fundamental(bins, float((power * near).sum() / power.sum()), used) * count / used
    few = worded("waves.cycles_in_the_record_at_least", cycles=cycles, fewest_cycles=FEWEST_CYCLES)
    if cycles < FEWEST_CYCLES - 0.5:
        return Untold("spectrum", few)
    if cycles > 0.45 * count:
        return Untold("spectrum", worded("waves.the_fundamental_lies_at_half_the"))
    fitted = max(min(count, MOST_SAMPLES), min(count, math.ceil(LEAST_CYCLES * count / cycles)))
    values = wave.values[:fitted]
    found = fit_harmonics(values, nearest_cycles(values, cycles * fitted / count), MOST_HARMONICS)
    if found.cycles < FEWEST_CYCLES:
        return Untold("spectrum", few)
    return Spectrum(
        hertz=found.step / (2 * math.pi * wave.interval_s), cycles=found.cycles * count / fitted, lines=found.lines,
        noise=found.noise, white=wave.u_sample * math.sqrt(2 / fitted),
        coarse=wave.resolution / math.sqrt(12 * len(found.lines)), rest=found.rest, u_rest=found.u_rest,
        samples=fitted, phase=found.phase, u_hertz=found.u_step / (2 * math.pi * wave.interval_s),
    )  # fmt: skip


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
        return [Untold(name, found.why) for name in ("THD", worded("waves.thd_of_the_total"), "THD+N")]
    first, others, noise = float(found.lines[0]), found.lines[1:], found.noise[1:]
    if not first > 0 or len(others) == 0:
        return [Untold("THD", worded("waves.no_harmonic_lies_under_half_the"))]
    squares, floor = float((others**2).sum()), float((noise**2).sum())
    # A sum of squares stands over the truth by the noise's own, and varies with it, and with each line along its phase.
    taken_out = min(floor, len(others) * found.white**2)
    clean = math.sqrt(max(squares - taken_out, 0.0))
    each = np.hypot(noise, found.coarse)
    along = float((np.maximum(others**2 - noise**2, 0.0) * each**2 / 2).sum())
    # What noise beside the lines is taken for what is in them is known from as many of them only.
    u = WIDER * math.sqrt(along + float((each**4).sum()) / 2) / max(clean, math.sqrt(floor), 1e-300) / first
    u = math.hypot(u, float(found.noise[0]) / math.sqrt(2) * clean / first**2)
    # What is left over the samples' own noise may be noise of another colour, or harmonics of a fast edge, folded back.
    folded = max(found.rest**2 - found.samples * found.white**2 / 2, 0.0)
    u = math.hypot(u, folded / max(2 * clean, math.sqrt(floor), 1e-300) / first / math.sqrt(3))
    share = clean / first
    total = math.sqrt(first**2 + clean**2 + found.rest**2)
    noisy = math.sqrt(clean**2 + found.rest**2) / total
    u_noisy = math.hypot(u * first * clean, found.rest * found.u_rest) / max(noisy * total**2, 1e-300)
    words = worded("waves.harmonics_of_hz_cycles", others=len(others), hertz=found.hertz, cycles=found.cycles)
    all_else = worded("waves.everything_but_the_fundamental_of_the")
    of_total, u_total = share / math.sqrt(1 + share**2), u / (1 + share**2) ** 1.5
    return [
        Figure("THD", share, "1", u, words=worded("waves.of_the_fundamental", words=words)),
        Figure(
            worded("waves.thd_of_the_total"), of_total, "1", u_total, words=worded("waves.of_the_total", words=words)
        ),
        Figure("THD+N", noisy, "1", u_noisy, words=all_else),
    ]
