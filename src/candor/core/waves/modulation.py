"""Amplitude modulation by the envelope, and the phase between two channels."""

from __future__ import annotations

import math

import numpy as np

from candor.core.errors import RangeError
from candor.core.waves.edges import transitions
from candor.core.waves.harmonics import fit_harmonics
from candor.core.waves.spectrum import MOST_HARMONICS, Spectrum, spectrum_of
from candor.core.waves.wave_figure import Figure, Untold
from candor.core.waves.waveform import Waveform
from candor.core.worded import worded

FEWEST_CYCLES = 20  # of a carrier, for an envelope
FEWEST_SAMPLES = 6.0  # of one cycle


def modulation_depth(wave: Waveform) -> Figure | Untold:
    """Return the depth of amplitude modulation, a share: (A - B)/(A + B) of the greatest and least envelope (by definition).

    The envelope is half of what each cycle swings. A peak between two samples is missed by up to 1 - cos(π/n) of n samples a cycle.
    """
    name, centre, span = "AM depth", float(wave.values.mean()), wave.high - wave.low
    step = max(4 * wave.u_sample, 0.01 * span)
    edges, _ = transitions(wave, centre - step, centre + step)
    if edges.count <= FEWEST_CYCLES:
        return Untold(
            name, worded("waves.cycles_of_a_carrier_more_than", count=edges.count, fewest_cycles=FEWEST_CYCLES)
        )
    begins = np.floor((edges.starts - wave.start_s) / wave.interval_s).astype(int)
    samples = float(np.diff(begins).mean())
    if samples < FEWEST_SAMPLES:
        return Untold(
            name, worded("waves.samples_a_cycle_at_least_were", samples=samples, fewest_samples=FEWEST_SAMPLES)
        )
    whole = wave.values[begins[0] : begins[-1]]
    places = begins[:-1] - begins[0]
    swings = (np.maximum.reduceat(whole, places) - np.minimum.reduceat(whole, places)) / 2
    greatest, least = float(swings.max()), float(swings.min())
    missed = (1 - math.cos(math.pi / samples)) * greatest / math.sqrt(3)
    each = math.hypot(wave.u_sample / math.sqrt(2), missed)
    if greatest - least < 4 * each:
        return Untold(name, worded("waves.the_envelope_does_not_move_by"))
    total = greatest + least
    depth = (greatest - least) / total
    u = 2 * each / total**2 * math.hypot(greatest, least)
    return Figure(
        name,
        depth,
        "1",
        u,
        count=len(swings),
        words=worded("waves.a_b_a_b_over_cycles", swings=len(swings), samples=samples),
    )


def _turns_of(found: Spectrum, wave: Waveform) -> float:
    """Return by how many radians a fundamental turns from sample to sample."""
    return 2 * math.pi * found.hertz * wave.interval_s


def phase_between(one: Waveform, other: Waveform) -> Figure | Untold:
    """Return by how much the second channel leads the first at their common fundamental, degrees, from -180 to 180.

    By the projection of both on one sine; a figure drawn of one against the other opens by |sin φ| = B/A (by definition).

    Raises
    ------
    RangeError
        Where the channels are not sampled together.
    """
    if one.count != other.count or not math.isclose(one.interval_s, other.interval_s, rel_tol=1e-9):
        raise RangeError(worded("waves.and_are_not_sampled_together_no", name=one.name, other_name=other.name))
    found = spectrum_of(one)
    if not isinstance(found, Spectrum):
        return Untold("phase", found.why)
    second = fit_harmonics(other.values[: found.samples], found.cycles * found.samples / one.count, MOST_HARMONICS)
    first = float(found.lines[0])
    if second.lines[0] < 4 * second.noise[0] or not math.isclose(
        second.step, _turns_of(found, one), rel_tol=0.5 / found.cycles
    ):
        return Untold("phase", worded("waves.has_nothing_at_hz", name=other.name, hertz=found.hertz))
    # Both at the middle of the record, where a phase hangs on the frequency the least.
    middle = (found.samples - 1) / 2
    angle = math.degrees(
        math.remainder(
            second.phase + second.step * middle - found.phase - _turns_of(found, one) * middle, 2 * math.pi
        )
    )
    each = (found.noise[0] / first, second.noise[0] / second.lines[0])
    u = math.degrees(math.hypot(*each))
    return Figure(
        "phase",
        angle,
        "degrees",
        u,
        words=worded("waves.against_at_hz_leads", name=other.name, one_name=one.name, hertz=found.hertz),
    )
