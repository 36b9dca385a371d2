"""Everything a waveform says: figures with their uncertainty, the levels that were used, and what cannot be told."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import cached_property

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.waves.levels import Levels, levels_of, u_of_greatest
from candor.core.waves.modulation import modulation_depth, phase_between
from candor.core.waves.shape import Plateau, overshoot_and_aberration, plateaus, still_to_go, tilt
from candor.core.waves.spectrum import Spectrum, distortion, spectrum_of
from candor.core.waves.times import middle_edges, period_and_duty, rise_and_fall
from candor.core.waves.wave_figure import Figure, Untold
from candor.core.waves.waveform import Floats, Waveform
from candor.core.worded import worded

FEW_REST = 0.1  # of the amplitude: of a waveform with more its lines are not all there is
OF_STEADY = ("rise", "fall", "overshoot", "aberration", "tilt")  # figures that a moving envelope makes meaningless
TIED = 1.5  # times: the noise beside a few lines is not known better (by simulation)
CLIPPED = 0.25  # of a half's samples that stand at one end value exactly, with noise elsewhere: cut off
FEW_AT_END = 10  # samples at one end value that say nothing
MOST_ALONE = 1e-3  # of all samples; more are a signal of narrow pulses
ALONE = 0.25  # of the span, to both neighbours, for a sample that stands alone


@dataclass(frozen=True, eq=False)
class Analysis:
    """What one channel says.

    Attributes
    ----------
    wave : Waveform
    levels : Levels
    figures : tuple of Figure
    untold : tuple of Untold
    warnings : tuple of str
        What makes figures doubtful: clipped, a glitch, few samples on an edge.
    """

    wave: Waveform
    levels: Levels
    figures: tuple[Figure, ...]
    untold: tuple[Untold, ...]
    warnings: tuple[str, ...]

    def figure(self, name: str) -> Figure | None:
        """Return a figure by its name, None where it was not told."""
        return next((f for f in self.figures if f.name == name), None)

    @cached_property
    def by_name(self) -> dict[str, Figure]:
        """All figures by name."""
        return {f.name: f for f in self.figures}


def analyse(wave: Waveform) -> Analysis:
    """Return everything a waveform says: amplitudes in its unit, times in s, frequencies in Hz, shares as shares."""
    raw, alone = wave, _alone(wave)
    if len(alone):
        wave = _mended(wave, alone)
    levels = levels_of(wave)
    lines = spectrum_of(wave) if levels.amplitude > 0 else None
    middle = middle_edges(wave, levels) if levels.amplitude > 0 else None
    held = plateaus(wave, middle) if middle is not None else []
    levels = _as_they_rest(wave, levels, held, lines.rest if isinstance(lines, Spectrum) else 0.0)
    found: list[Figure | Untold] = [*_sizes(wave, levels, lines if isinstance(lines, Spectrum) else None)]
    if middle is not None:
        found += rise_and_fall(wave, levels)
        found += period_and_duty(middle)
        found += overshoot_and_aberration(wave, levels, held)
        found.append(tilt(wave, levels, held))
        resting = levels.base_rests and levels.top_rests
        depth = Untold("AM depth", worded("waves.it_rests_at_both_levels_no")) if resting else modulation_depth(wave)
        if isinstance(depth, Figure):
            found = [
                f if f.name not in OF_STEADY else Untold(f.name, worded("waves.the_envelope_moves_it_is_modulated"))
                for f in found
            ]
        found.append(depth)
        found += distortion(lines) if lines is not None else []
    return Analysis(
        wave=raw,
        levels=levels,
        figures=tuple(f for f in found if isinstance(f, Figure)),
        untold=tuple(f for f in found if isinstance(f, Untold)),
        warnings=(*_glitches(raw, alone), *_warnings(wave, levels)),
    )


def _as_they_rest(wave: Waveform, levels: Levels, held: list[Plateau], rest: float) -> Levels:
    """What its levels have still to go when the next edge comes leaves them open: it is one way off, so it stands in u whole.

    Where it rests nowhere, an end value has slow noise in it too, which hardly changes from sample to sample: the `rest` of
    its lines.
    """
    base, top = (still_to_go(wave, held, is_top, levels.at(float(is_top))) for is_top in (False, True))
    if rest < FEW_REST * levels.amplitude:
        slow = u_of_greatest(rest, wave.count)
        base, top = (
            x if rests else max(x, slow) for x, rests in ((base, levels.base_rests), (top, levels.top_rests))
        )
    return replace(levels, u_base=math.hypot(levels.u_base, base), u_top=math.hypot(levels.u_top, top))


def analyse_all(waves: tuple[Waveform, ...]) -> tuple[Analysis, ...]:
    """Return what each channel says; the phase of every further one against the first stands with it, degrees.

    Raises
    ------
    RangeError
        Where channels are not sampled together.
    """
    found = [analyse(wave) for wave in waves]
    for index, wave in enumerate(waves[1:], 1):
        phase = phase_between(waves[0], wave)
        kept = found[index]
        figures = (*kept.figures, phase) if isinstance(phase, Figure) else kept.figures
        untold = kept.untold if isinstance(phase, Figure) else (*kept.untold, phase)
        found[index] = replace(kept, figures=figures, untold=untold)
    return tuple(found)


def _sizes(wave: Waveform, levels: Levels, lines: Spectrum | None) -> list[Figure]:
    unit, said = wave.unit, levels.method
    whole = lines.cycles if lines is not None else 0.0
    mean, u_mean = _over_cycles(wave, wave.values, lines)
    square, u_square = _over_cycles(wave, wave.values**2, lines)
    rms = math.sqrt(max(square, 0.0))
    u_rms = u_square / (2 * rms) if rms > 0 else u_square
    over = (
        worded("waves.over_whole_cycles", floor=math.floor(whole + 1e-06)) if lines is not None else "of all samples"
    )
    return [
        Figure("base", levels.base, unit, levels.u_base, words=said),
        Figure("top", levels.top, unit, levels.u_top, words=said),
        Figure("amplitude", levels.amplitude, unit, levels.u_amplitude, words=worded("waves.top_less_base", said=said)),
        Figure(
            "peak to peak", wave.high - wave.low, unit, wave.u_sample * 2**0.5,
            words=worded("waves.highest_less_lowest_sample_noise_in"),
        ),
        Figure("mean", mean, unit, u_mean, count=wave.count, words=over),
        Figure("rms", rms, unit, u_rms, count=wave.count, words=worded("waves.the_mean_in_it", over=over)),
    ]  # fmt: skip


def _over_cycles(wave: Waveform, values: Floats, lines: Spectrum | None) -> tuple[float, float]:
    """Return the mean of values over as many whole cycles as there are, and its u: by noise, and by how well the cycle is known. Of
    what has no cycle the mean of all, as if it were whole."""
    if lines is None:
        scatter = wave.u_sample * (2 * float(np.abs(wave.values).mean()) if values is not wave.values else 1.0)
        return float(values.mean()), scatter / math.sqrt(len(values))
    samples = math.floor(lines.cycles + 1e-6) / lines.cycles * wave.count
    full = min(int(samples), wave.count - 1)
    part = min(samples - full, 1.0)
    # The last sample counts for its part; by the trapezium, so that a cycle that begins between samples closes.
    whole = (
        float(values[:full].sum())
        + part * float(values[full])
        - (1 - part) * part / 2 * float(values[full] - values[full - 1])
    )
    mean = whole / samples
    slope = 2 * float(np.sqrt(np.mean(wave.values**2))) if values is not wave.values else 1.0
    # Of any colour: what noise puts into a line beside the fundamental it puts into the mean, over √2.
    noise = slope * TIED * max(float(lines.noise[0]) / math.sqrt(2), wave.u_sample / math.sqrt(samples))
    cycle = lines.u_hertz / lines.hertz * abs(float(values[full]) - mean)
    corner = abs(float(values[full] - values[full - 1])) / samples / math.sqrt(12)
    return mean, math.hypot(noise, cycle, corner)


def _warnings(wave: Waveform, levels: Levels) -> list[str]:
    said = []
    span = wave.high - wave.low
    if span == 0:
        return [worded("waves.every_sample_is_alike_there_is")]
    if not (levels.base_rests and levels.top_rests):
        said.append(worded("waves.it_does_not_rest_at_both", method=levels.method))
    said += _clipped(wave)
    return said


def _clipped(wave: Waveform) -> list[str]:
    """Both ends: a run of samples at exactly one value, where the level below it is noisy, was cut off."""
    said = []
    span = wave.high - wave.low
    for name, end in (("top", wave.high), ("bottom", wave.low)):
        at_end = wave.values == end
        count = int(np.count_nonzero(at_end))
        if count <= FEW_AT_END:
            continue
        share = count / int(np.count_nonzero(np.abs(wave.values - end) <= 0.05 * span))
        if share > CLIPPED and wave.noise > 2 * wave.resolution / 12**0.5:
            said.append(worded("waves.samples_stand_at_exactly_the_value_it", count=count, name=name))
        elif share > 0.5 and _comes_sloping(wave, at_end):
            said.append(worded("waves.samples_stand_at_exactly_the_value", count=count, name=name))
    return said


def _comes_sloping(wave: Waveform, at_end: np.ndarray) -> bool:
    """Whether it comes to the run at its end on a slope of many samples, and leaves it so: a sine that was cut off does."""
    edges = np.flatnonzero(np.diff(at_end.astype(np.int8)))
    if len(edges) == 0:
        return False
    span = wave.high - wave.low
    steps = [abs(float(wave.values[i + 1] - wave.values[i])) for i in edges[:50]]
    before = [abs(float(wave.values[i] - wave.values[i - 1])) for i in edges[:50] if i > 0]
    slopes = [s for s in (*steps, *before) if s > 0]
    return bool(slopes) and max(slopes) < 0.1 * span and min(slopes) > 0.002 * span


def _glitches(wave: Waveform, alone: np.ndarray) -> list[str]:
    if not len(alone):
        return []
    where = wave.seconds(int(alone[0]))
    many = (
        worded("waves.samples_stand_alone_the_first", alone=len(alone))
        if len(alone) > 1
        else worded("waves.sample_stands_alone")
    )
    return [worded("waves.at_s_a_glitch_left_out", many=many, where=where)]


def _mended(wave: Waveform, alone: np.ndarray) -> Waveform:
    """A copy in which samples that stand alone are the mean of their neighbours."""
    values = wave.values.copy()
    values[alone] = (values[alone - 1] + values[alone + 1]) / 2
    return replace(wave, values=values)


def _alone(wave: Waveform) -> np.ndarray:
    """Samples that lie far from both their neighbours, which agree; indices of shape (samples,). None where they are many."""
    values, span = wave.values, wave.high - wave.low
    far = np.flatnonzero(np.abs(np.diff(values)) > ALONE * span)
    inner = far[(far > 0) & (far < wave.count - 1)]
    here = inner[np.isin(inner - 1, far)]  # a step before it and one after it
    found = here[np.abs(values[here + 1] - values[here - 1]) < ALONE / 2 * span]
    return found if len(found) <= max(MOST_ALONE * wave.count, 1) else found[:0]
