"""What a waveform says, against closed forms: edges, levels, shapes, spectra; and what cannot be told."""

import math

import numpy as np
import pytest

from candor.core.errors import CandorError
from candor.core.waves.analysis import analyse, analyse_all
from candor.core.waves.modulation import phase_between
from candor.core.waves.spectrum import distortion, spectrum_of
from candor.core.waves.times import RISE_OF_ONE_POLE, source_rise, two_pole_rise
from candor.core.waves.waveform import Waveform
from generators import coarse, noise, pulse, rc_pulse

CHANCE = np.random.default_rng(11)


def wave(values, interval_s=1e-6, name="ch", noise=0.0, counts=0.0):
    values = np.asarray(values, float) + noise * CHANCE.normal(size=len(values))
    return Waveform(name, "V", np.round(values / counts) * counts if counts else values, interval_s)


def within(figure, truth, most=2.6):
    """A figure holds the truth within most of its own u, and says something."""
    assert abs(figure.value - truth) <= most * figure.u + 1e-12, (figure, truth)
    return True


def pulses(count, period, shape):
    """A pulse train of so many samples: `shape(t)` of the time since each edge in samples, from base 0 to top 1."""
    place = np.arange(count) % period
    half = period / 2
    return np.where(place < half, shape(place), 1 - shape(place - half))


@pytest.mark.parametrize("tau", [3.0, 11.0, 40.0])
@pytest.mark.parametrize("noise", [0.0, 0.004])
def test_the_rise_of_one_pole_is_ln_9_time_constants(tau, noise):
    """And times the bandwidth ln 9 / 2π = 0.3497 (handbook; derived)."""
    found = analyse(wave(pulses(40_000, 1600.0, lambda t: 1 - np.exp(-t / tau)), noise=noise))
    for name in ("rise", "fall"):
        within(found.figure(name), RISE_OF_ONE_POLE * tau * 1e-6)
    assert RISE_OF_ONE_POLE / (2 * math.pi) == pytest.approx(0.34970, abs=1e-5)


@pytest.mark.parametrize("sigma", [4.0, 15.0])
def test_the_rise_of_a_gaussian_edge(sigma):
    """10 to 90 % of an error function: 2 x 1.2815516 sigma (tables of the normal distribution)."""
    from scipy.special import ndtr

    place = np.arange(20_000.0)
    values = sum(s * ndtr((place - 1000.3 - 1500 * i) / sigma) for i, s in enumerate([1, -1] * 6))
    found = analyse(wave(values, noise=0.002))
    within(found.figure("rise"), 2 * 1.2815515655 * sigma * 1e-6)
    assert found.figure("rise").count == 6


def test_what_u_says_is_what_repeats_scatter():
    """Of 200 noisy records of one edge each the rise scatters as u says, within a third."""
    place = np.arange(400.0)
    clean = np.where(place < 100, 0.0, 1 - np.exp(-(place - 100) / 12))
    found = [analyse(wave(clean, noise=0.02)).figure("rise") for _ in range(200)]
    scatter = np.std([f.value for f in found])
    assert 0.6 * scatter < np.median([f.u for f in found]) < 1.7 * scatter
    assert np.mean([abs(f.value - RISE_OF_ONE_POLE * 12e-6) < 2 * f.u for f in found]) > 0.9


@pytest.mark.parametrize(("corner", "hertz"), [(2.0, 60.0), (5.0, 60.0), (20.0, 60.0)])
def test_tilt_through_a_corner_is_tanh(corner, hertz):
    """(start - end)/jump = tanh(π fc / 2f): 2 Hz at 60 Hz is 5.23 %; derived from the steady state of a high pass."""
    x = math.pi * corner / hertz
    top = 2 / (1 + math.exp(-x))
    place = np.arange(40_000) % 2000 / 2000
    values = np.where(place < 0.5, top * np.exp(-2 * x * place), -top * np.exp(-2 * x * (place - 0.5)))
    found = analyse(wave(values, 1 / hertz / 2000, noise=0.002)).figure("tilt")
    assert within(found, math.tanh(x / 2), 4)
    assert math.tanh(math.pi * 2 / 120) == pytest.approx(0.0523, abs=5e-5)


@pytest.mark.parametrize("damping", [0.3, 0.5, 0.7])
def test_overshoot_of_a_second_order_step(damping):
    """exp(-π ζ / √(1-ζ²)) (control handbook; derived)."""
    ringing, fast = math.sqrt(1 - damping**2), 0.03

    def shape(t):
        t = np.maximum(t, 0)
        return 1 - np.exp(-damping * fast * t) * (
            np.cos(fast * ringing * t) + damping / ringing * np.sin(fast * ringing * t)
        )

    found = analyse(wave(pulses(40_000, 4000.0, shape)))
    within(found.figure("overshoot"), math.exp(-math.pi * damping / ringing), 2)
    assert found.figure("aberration").value >= 0.98 * found.figure("overshoot").value


def test_distortion_in_closed_form_and_against_a_known_sum():
    """Square √(π²/8 - 1) = 48.34 % of the fundamental, 43.52 % of the total; triangle √(π⁴/96 - 1) = 12.115, 12.027 %."""
    place = (np.arange(200_000) + 0.5) / 2000.7 % 1
    square, triangle = np.where(place < 0.5, 1.0, -1.0), 4 * np.abs(place - 0.5) - 1
    for values, of_fundamental in (
        (square, math.sqrt(math.pi**2 / 8 - 1)),
        (triangle, math.sqrt(math.pi**4 / 96 - 1)),
    ):
        found = analyse(wave(values)).by_name
        within(found["THD"], of_fundamental)
        within(found["THD of the total"], of_fundamental / math.hypot(1, of_fundamental))
        assert found["THD"].value == pytest.approx(
            of_fundamental, rel=6e-3
        )  # edges of one sample fold harmonics back
    assert math.sqrt(math.pi**2 / 8 - 1) == pytest.approx(0.4834, abs=5e-5)
    angle = 2 * np.pi * np.arange(60_000) / 371.3
    parts = {2: 0.01, 3: 0.003, 5: 0.0007}
    values = np.sin(angle) + sum(a * np.sin(k * angle + k) for k, a in parts.items())
    found = analyse(wave(values, noise=0.0005)).by_name
    within(found["THD"], math.sqrt(sum(a * a for a in parts.values())))
    assert found["THD+N"].value == pytest.approx(math.hypot(found["THD"].value, 0.0005 * math.sqrt(2)), rel=0.02)


@pytest.mark.parametrize("cycles", [2.4, 3.1, 10.3, 57.8])
@pytest.mark.parametrize("kind", ["none", "white", "coloured", "heavy", "coarse"])
def test_distortion_is_covered_whatever_part_of_a_cycle_is_there(cycles, kind):
    """Of 1 % and 0.4 % of a sine, in noise of any kind or in counts of 256: a pure sine once had a THD+N of 10 % at 10.3 cycles."""
    chance, count, size = np.random.default_rng(3), 2000, 0.0 if kind == "none" else 0.002
    held, total, truth = 0, 0, math.hypot(0.01, 0.004)
    count_of = 2.2 / 256 if kind == "coarse" else 0.0
    of_all = math.hypot(truth, math.sqrt(2) * math.hypot(size, count_of / math.sqrt(12)))
    for _ in range(7):
        angle = 2 * np.pi * cycles * np.arange(count) / count + chance.uniform(0, 2 * np.pi)
        values = (
            np.sin(angle) + 0.01 * np.sin(3 * angle + chance.uniform(0, 2 * np.pi)) + 0.004 * np.sin(2 * angle + 1)
        )
        values = values + noise("white" if kind in ("none", "coarse") else kind, size, count, chance)
        thd, _, all_else = distortion(spectrum_of(wave(coarse(values, count_of) if count_of else values)))
        total += 2
        held += abs(thd.value - truth) <= 2 * thd.u + 1e-9
        held += abs(all_else.value - of_all / math.hypot(1, of_all)) <= 2 * all_else.u + 1e-9
        assert thd.u < (0.001 if kind != "none" else 1e-6)
    assert held / total >= (0.85 if kind == "heavy" else 0.92)


@pytest.mark.parametrize(("cycles", "count_of"), [(3.4, 0.0), (2.3, 0.0), (8.7, 2 / 64), (20.2, 0.0)])
def test_a_phase_is_covered_with_part_cycles_and_coarse_counts(cycles, count_of):
    chance, held = np.random.default_rng(5), 0
    for _ in range(16):
        angle, lead = 2 * np.pi * cycles * np.arange(1500) / 1500, chance.uniform(-3, 3)
        pair = [
            np.sin(angle) + chance.normal(0, 0.005, 1500),
            0.8 * np.sin(angle + lead) + chance.normal(0, 0.005, 1500),
        ]
        pair = [coarse(v, count_of) if count_of else v for v in pair]
        found = phase_between(*map(wave, pair))
        held += abs(math.remainder(found.value - math.degrees(lead), 360)) <= 2 * found.u
    assert held / 16 >= 0.92


def test_a_line_is_found_as_scipy_finds_it():
    """On a coherent record the fundamental's rms is that of SciPy's transform, bin by bin."""
    from scipy.fft import rfft

    values = 1.3 * np.sin(2 * np.pi * 40 * np.arange(8192) / 8192) + 0.2 * np.sin(
        2 * np.pi * 120 * np.arange(8192) / 8192
    )
    lines = np.abs(rfft(values)) / 8192 * math.sqrt(2)
    found = spectrum_of(wave(values))
    assert found.cycles == pytest.approx(40, abs=1e-6)
    assert [found.lines[0], found.lines[2]] == pytest.approx([lines[40], lines[120]], rel=1e-6)


@pytest.mark.parametrize("depth", [0.1, 0.45, 0.9])
def test_depth_of_modulation_and_phase(depth):
    place = np.arange(24_000)
    values = (1 + depth * np.sin(2 * np.pi * place / 6_000)) * np.sin(2 * np.pi * place / 60.3)
    found = analyse(wave(values, noise=0.001))
    within(found.figure("AM depth"), depth)
    assert {u.name for u in found.untold} >= {"rise", "tilt", "overshoot"}
    for angle in (-170.0, 0.0, 89.5):
        one, other = (wave(np.sin(2 * np.pi * place / 444.4 + a), noise=0.01) for a in (0.0, math.radians(angle)))
        within(analyse_all((one, other))[1].figure("phase"), angle, 4)


@pytest.mark.parametrize("shown", [(952.0, 885.0), (833.0, 756.0)])
def test_the_rise_behind_an_oscilloscope(shown):
    """√(displayed² - scope²), and by how much two single poles in line miss that rule."""
    displayed, source = shown
    found = source_rise(displayed, 0.0, 350.0, 0.0)
    assert found.value == pytest.approx(source, abs=0.6)
    true = next(x for x in np.arange(source * 0.8, source * 1.2, 0.5) if two_pole_rise(x, 350.0) >= displayed)
    assert abs(true - found.value) <= math.sqrt(3) * found.u + 0.5
    with pytest.raises(CandorError, match="not shorter than the"):
        source_rise(350.0, 0.0, 350.0, 0.0)
    assert two_pole_rise(1.0, 1.0) == pytest.approx(3.3579 / RISE_OF_ONE_POLE, abs=1e-3)


def test_what_cannot_be_told_is_said():
    ramp = analyse(wave(np.linspace(0, 1, 300), noise=1e-3))
    assert "min-max: it rests nowhere" in ramp.warnings[0]
    assert {u.name: u.why for u in ramp.untold}["period"] == "1 crossing of one slope; two make a period"
    one = analyse(wave(np.repeat([0.0, 1.0], 150), noise=0.01))
    assert {u.name for u in one.untold} >= {"fall", "period", "frequency", "duty", "tilt", "THD"}
    sine = 1.4 * np.sin(2 * np.pi * np.arange(6000) / 501.3)
    assert "cut off" in " ".join(analyse(wave(np.clip(sine + CHANCE.normal(size=6000) * 1e-3, -1, 1))).warnings)
    assert "cut off" not in " ".join(analyse(wave(sine, counts=0.02)).warnings)
    glitch = pulses(5000, 500.0, lambda t: t * 0 + 1.0)
    clean = analyse(wave(glitch)).by_name
    glitch[333] = 9.0
    found = analyse(wave(glitch))
    assert found.warnings == ("1 sample stands alone, at 0.000333 s: a glitch, left out of the figures.",)
    assert found.by_name["top"].value == pytest.approx(clean["top"].value)
    still = analyse(wave(np.ones(50)))
    assert still.warnings[-1].startswith("Every sample is alike")


@pytest.mark.parametrize(
    ("values", "interval", "words"),
    [
        (np.ones(3), 1.0, "3 samples; at least 8"),
        (np.ones(9), 0.0, "time does not go forward"),
        (np.r_[np.ones(9), np.nan], 1.0, "sample 10 is not a number"),
    ],
)
def test_what_is_no_waveform(values, interval, words):
    with pytest.raises(CandorError, match=words):
        Waveform("w", "V", values, interval)


@pytest.mark.parametrize(("kind", "size"), [("white", 0.01), ("coloured", 0.01), ("white", 0.002), ("coarse", 0.001)])
@pytest.mark.parametrize("edge", [0.0075, 0.02, 0.2])
def test_figures_of_a_pulse_are_covered_by_their_u(kind, size, edge):
    """Slow and fast edges, three samples an edge, noise of two colours, eight bits: it has no overshoot, tilt or aberration."""
    chance, held, total = np.random.default_rng(6), {}, 0
    truth = {
        "overshoot": 0.0,
        "aberration": 0.0,
        "tilt": 0.0,
        "rise": 0.8 * edge * 400e-6,
        "amplitude": 1.0,
        "period": 400e-6,
    }
    for _ in range(6):
        values = pulse(4000, 400.0, edge, chance) + noise("white" if kind == "coarse" else kind, size, 4000, chance)
        found = analyse(wave(coarse(values, 1 / 200) if kind == "coarse" else values))
        total += 1
        for name, true in truth.items():
            figure = found.figure(name)
            held[name] = held.get(name, 0) + (figure is None or abs(figure.value - true) <= 2 * figure.u + 1e-12)
    assert {name: count for name, count in held.items() if count < 0.8 * total} == {}


@pytest.mark.parametrize("cycles", [3.3, 10.4, 41.7])
def test_mean_and_rms_are_over_whole_cycles(cycles):
    chance, held = np.random.default_rng(7), 0
    for _ in range(24):
        angle = 2 * np.pi * cycles * np.arange(2000) / 2000 + chance.uniform(0, 2 * np.pi)
        found = analyse(wave(0.3 + np.sin(angle) + noise("coloured", 0.005, 2000, chance)))
        held += abs(found.figure("mean").value - 0.3) <= 2 * found.figure("mean").u
        held += abs(found.figure("rms").value - math.sqrt(0.59)) <= 2 * found.figure("rms").u
        ends = found.figure("amplitude")  # a sine rests nowhere
        held += abs(ends.value - 2) <= 2 * ends.u < 0.06
        assert found.figure("mean").u < 0.002
    assert held / 72 >= 0.92


def test_a_level_that_is_still_on_its_way_leaves_the_rise_open():
    """One pole whose half period is five time constants: its levels have 1 % to go, and ln 9 time constants are covered."""
    chance, held = np.random.default_rng(8), 0
    for _ in range(20):
        found = analyse(wave(rc_pulse(4000, 400.0, 0.1, chance) + noise("white", 0.002, 4000, chance)))
        rise = found.figure("rise")
        held += abs(rise.value - math.log(9) * 40e-6) <= 2 * rise.u < 0.12 * rise.value
    assert held >= 18
    still = analyse(wave(pulse(4000, 400.0, 0.1, chance) + noise("white", 0.002, 4000, chance)))
    assert still.figure("rise").u < 0.003 * still.figure("rise").value  # where it rests, nothing is added
