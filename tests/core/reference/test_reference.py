"""References of every quantity: bands, chains, detectors, loading, and which one is best."""

import datetime as dt
import math
from dataclasses import replace

import numpy as np
import pytest

from candor.core.calibration.result import assess_point
from candor.core.errors import CandorError, RangeError, UnitError
from candor.core.reading.reading import Reading
from candor.core.reading.repeated import WINDOW, captured, is_still, reference_repeats, window_of
from candor.core.reference.chains import Chain, Link, age_of, build_chain, comes_to, say_links, serve
from candor.core.reference.choice import bears, propose, set_value, shown_for
from candor.core.reference.detector import SHAPES, Detector, d_c_on_full_wave, distortion_half_width, reading_over_rms
from candor.core.reference.loading import loaded, loading_error, stand_in, unloaded
from candor.core.reference.reference import (
    LINEARITY,
    CertifiedPoint,
    Reference,
    SpecificationRange,
    reference_contributions,
)
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import cover
from candor.packs.procedure import test_points as points_of
from everykind import PACK

DAY = dt.date(2026, 6, 1)
METER = Reference("meter", "V", (SpecificationRange(100, 0.05),), calibrated_on=DAY, current="d.c.")
PART = Reference("part", "ohm", points=(CertifiedPoint(4700, 3.0, 2.0),), calibrated_on=DAY, role="fixed part")
AMPS = Chain("amps", "A", "V / R", (Link("V", METER), Link("R", PART)), "d.c.")
POINTS = {p.key: p for p in points_of(PACK, "as found")}


def test_a_specification_and_a_certificate_by_frequency():
    banded = Reference("m", "V", (SpecificationRange(upper=10, percent_of_reading=0.2, low_hertz=40, high_hertz=1e3),
                                  SpecificationRange(upper=10, percent_of_reading=1.0, low_hertz=1e3, high_hertz=2e4)))  # fmt: skip
    sizes = [reference_contributions(banded, 5.0, DAY, hertz=f)[1][0].size * math.sqrt(3) for f in (60, 5e3)]
    assert sizes == pytest.approx([0.01, 0.05])
    with pytest.raises(RangeError, match=r"not specified at 100 kHz: its bands are 40 Hz to 1 kHz; 1 kHz to 20 kHz"):
        reference_contributions(banded, 5.0, DAY, hertz=100e3)
    with pytest.raises(RangeError, match=r"not specified for d\.c\."):
        reference_contributions(banded, 5.0, DAY)
    farads = Reference(
        "c",
        "F",
        points=(CertifiedPoint(10e-9, 1e-12, 2e-12, hertz=1e3), CertifiedPoint(10e-9, 5e-12, 4e-12, hertz=60)),
        role="fixed part",
    )
    assert reference_contributions(farads, 10e-9, DAY, hertz=60)[0] == 5e-12
    with pytest.raises(RangeError, match="certified at 1 kHz, 60 Hz, not at 10 kHz"):
        reference_contributions(farads, 10e-9, DAY, hertz=10e3)


def test_a_chain_is_a_formula_with_a_budget_link_by_link():
    """10 mA as 47 V over a measured 4.7 kohm: I = V/R, u from both by dI/I = dV/V - dR/R."""
    value, found = serve(AMPS, 47.0, DAY)
    assert value(47.0) == pytest.approx(47 / 4703)
    sizes = {c.name: c.size for c in found}
    assert sizes["meter"] == pytest.approx(47 * 0.0005 / math.sqrt(3) / 4703)
    assert sizes["part"] == pytest.approx(47 / 4703**2 * 1.0)
    said = say_links(AMPS, 47.0, DAY)
    assert said[0] == "V at 47 V comes to 9.9936 mA; its links bring:"
    assert said[1].startswith("meter: u = 2.9 µA")
    assert (AMPS.read_unit, AMPS.is_read, comes_to(AMPS, 47.0)) == ("V", True, 0.01)
    assert shown_for(AMPS, 0.01) == pytest.approx(47.0)
    assert (
        age_of(replace(AMPS, links=(Link("V", METER), Link("R", replace(PART, calibrated_on=None)))), DAY).state
        == "never checked"
    )


ONE = (SpecificationRange(200, 1.0),)


def combined(formula, *volts, ranges=ONE, unit="V"):
    """The u of a chain of readings of one meter, the first of them read."""
    meter = Reference("meter", "V", ranges, calibrated_on=DAY)
    names = "abc"[: len(volts)]
    links = tuple(Link(n, meter, None if i == 0 else v) for i, (n, v) in enumerate(zip(names, volts, strict=True)))
    return cover(Budget(tuple(serve(Chain("made", unit, formula, links), volts[0], DAY)[1]))).combined


def test_what_readings_of_one_meter_have_in_common_is_added_with_its_sign():
    """Per cent of reading is one draw on one range (r = 1, GUM 5.2.2); counts, or a tenth of it, are each reading's own."""
    root, tenth = math.sqrt(3), 0.01 * LINEARITY / math.sqrt(3)
    own = tenth * math.hypot(10, 100, 50)
    assert combined("a - b - c", 10.0, 100.0, 50.0) == pytest.approx(math.hypot(1.4 / root, own))
    assert combined("a + b", 40.0, 20.0) == pytest.approx(math.hypot(0.6 / root, tenth * math.hypot(40, 20)))
    assert combined("a - b", 100.0, 100.0) == pytest.approx(tenth * math.hypot(100, 100))
    assert combined("a + b", 100.0, -100.0) == pytest.approx(
        tenth * math.hypot(100, 100)
    )  # its sign turns with the value
    assert combined("a / b", 40.0, 20.0, unit="1") == pytest.approx(2 * tenth * math.sqrt(2))
    counts = (SpecificationRange(200, 1.0, counts=2, resolution=0.1),)
    assert combined("a - b", 100.0, 100.0, ranges=counts) == pytest.approx(0.2 / root * math.sqrt(2))


def test_across_ranges_the_larger_of_both_is_taken():
    """How far the errors of two ranges go together nobody knows: one draw for a sum, each its own for a difference."""
    ranges = (
        SpecificationRange(20, 1.0, counts=1, resolution=0.01),
        SpecificationRange(200, 1.0, counts=1, resolution=0.1),
    )
    own, u = math.hypot(0.01, 0.1) / math.sqrt(3), (0.1 / math.sqrt(3), 1.0 / math.sqrt(3))
    assert combined("a - b", 10.0, 100.0, ranges=ranges) == pytest.approx(math.hypot(*u, own))
    assert combined("a + b", 10.0, 100.0, ranges=ranges) == pytest.approx(math.hypot(sum(u), own))


def test_a_band_ends_where_it_ends():
    line = SpecificationRange(upper=10, percent_of_reading=0.2, low_hertz=40, high_hertz=1e3)
    assert [line.holds_at(f) for f in (39.9, 40, 1e3, 1001, 1990)] == [False, True, True, False, False]


def test_room_frequency_and_day_reach_every_link_of_a_chain():
    """A link alone and the same link in a chain of one bring the same."""
    warm = replace(METER, percent_per_kelvin=0.1)
    bands = (
        SpecificationRange(100, 0.1, low_hertz=40, high_hertz=1e3),
        SpecificationRange(100, 1.0, low_hertz=1e3, high_hertz=1e5),
    )
    banded = Reference("m", "V", bands, calibrated_on=DAY)
    drifting = replace(METER, points=(CertifiedPoint(50.0, 0.0, 0.02),), ranges=(), drift_percent_per_year=1.0)
    later = DAY.replace(year=DAY.year + 2)
    for link, asked in ((warm, {"celsius": 40.0}), (banded, {"hertz": 5e3}), (drifting, {})):
        chain = Chain("all", "V", "V", (Link("V", link),))
        alone, within = (Budget(tuple(serve(of, 50.0, later, **asked)[1])).combined for of in (link, chain))
        assert within == pytest.approx(alone)
        plain = Budget(tuple(serve(link, 50.0, DAY, **({"hertz": 100.0} if asked.get("hertz") else {}))[1])).combined
        assert within > 1.2 * plain


def test_a_chain_keeps_the_current_it_is_of():
    assert build_chain("c", "V", "V", [("V", "m", None)], lambda _key, _above: METER, "d.c.").current == "d.c."


def test_ten_milliamperes_from_a_nominal_resistor():
    """51 V over a nominal 5.1 kohm +-5 % makes 1905 ... 2105 uS of "2000" at 5 V (derived; the brief's check)."""
    spread = [
        comes_to(
            Chain("g", "S", "V / R / e", (Link("V", METER), Link("R", PART, 5100 * k), Link("e", METER, 5.0))), 51.0
        )
        for k in (1.05, 0.95)
    ]
    assert [round(g * 1e6) for g in spread] == [1905, 2105]


@pytest.mark.parametrize(
    ("make", "error", "words"),
    [
        (lambda: replace(AMPS, formula="V + R"), UnitError, "mixes units: V and ohm"),
        (lambda: replace(AMPS, formula="V * R"), UnitError, "comes out in .* and A was expected"),
        (lambda: replace(AMPS, formula="V / Q"), CandorError, "“Q” in “V / Q” is not a name here"),
        (lambda: replace(AMPS, links=(*AMPS.links, Link("x", PART))), CandorError, "does not use"),
        (
            lambda: replace(AMPS, links=(Link("V", METER, 1.0), Link("R", PART))),
            CandorError,
            "one link must be the one that is read",
        ),
        (
            lambda: comes_to(replace(AMPS, links=(Link("V", METER), Link("R", PART, 0.0))), 1.0),
            RangeError,
            "divides by zero",
        ),
        (lambda: serve(AMPS, 470.0, DAY), RangeError, "beyond the specification of meter"),
    ],
)
def test_a_chain_that_cannot_be(make, error, words):
    with pytest.raises(error, match=words):
        make()


def test_a_chain_that_goes_round_is_refused():
    def known(key, above):
        return build_chain(key, "V", "a", [("a", "one" if key == "two" else "two", None)], known, above=(*above, key))

    with pytest.raises(RangeError, match="is a link of itself"):
        known("one", ())


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize(
    ("responds", "marked"),
    [("average", "rms"), ("peak", "rms"), ("peak to peak", "rms"), ("rms", "rms"), ("peak", "peak to peak")],
)
def test_detector_factors_by_integration(shape, responds, marked):
    """Reading over true rms of each waveform, both integrated over a period; right for a sine in what it is marked in."""
    t = (np.arange(200_000) + 0.5) / 200_000
    waves = {
        "sine": np.sin(2 * np.pi * t),
        "square": np.where(t < 0.5, 1.0, -1.0),
        "triangle": 4 * np.abs(t - 0.5) - 1,
    }
    measure = {
        "average": lambda w: np.mean(np.abs(w)),
        "peak": lambda w: w.max(),
        "peak to peak": np.ptp,
        "rms": lambda w: np.sqrt(np.mean(w**2)),
    }
    factor = measure[marked](waves["sine"]) / measure[responds](waves["sine"])
    wanted = measure[responds](waves[shape]) * factor / measure["rms"](waves[shape])
    assert reading_over_rms(Detector(responds, marked), shape) == pytest.approx(wanted, rel=1e-4)


def test_detector_check_values():
    """Any measurement handbook; the brief's: square 1.111 and 0.707, triangle 0.962 and 1.225, d.c. on full wave 1.111."""
    assert [round(reading_over_rms(Detector("average"), s), 3) for s in ("square", "triangle")] == [1.111, 0.962]
    assert [round(reading_over_rms(Detector("peak"), s), 3) for s in ("square", "triangle")] == [0.707, 1.225]
    assert d_c_on_full_wave(Detector("average")) == pytest.approx(1.1107, abs=1e-4)
    assert 5.0 * reading_over_rms(Detector("peak to peak"), "square") == pytest.approx(3.54, abs=0.005)  # 10 V p-p
    with pytest.raises(RangeError, match=r"crest factor of 1\.73; this true-rms meter follows 1\.5"):
        reading_over_rms(Detector("rms", crest_factor=1.5), "triangle")
    with pytest.raises(RangeError, match="does not know how a meter reads a “pulse”"):
        reading_over_rms(Detector(), "pulse")


@pytest.mark.parametrize("responds", ["average", "peak"])
def test_harmonics_of_unknown_order_and_phase_by_integration(responds):
    """Of one THD in any orders and phases an average-responding meter moves by up to 0.483 of it, and by that at the worst of
    them; one that sees the crest by up to all of a single harmonic."""
    h, t, chance = 0.02, np.linspace(0, 1, 8_001)[:-1], np.random.default_rng(4)
    sine, orders = np.sin(2 * np.pi * t), np.arange(3, 60, 2)
    worst = h / orders / np.sqrt(np.sum(1.0 / orders**2))
    mixes = [(orders, worst, np.zeros(len(orders)))] if responds == "average" else []
    for _ in range(60):
        some = chance.choice(np.arange(2, 20), 1 if responds == "peak" else 4, replace=False)
        shares = chance.normal(size=len(some))
        mixes.append((some, h * shares / np.linalg.norm(shares), chance.uniform(0, 2 * np.pi, len(some))))
    moved = []
    for some, shares, phases in mixes:
        wave = sine + sum(s * np.sin(2 * np.pi * n * t + p) for n, s, p in zip(some, shares, phases, strict=True))
        seen = np.mean(np.abs(wave)) / (2 / np.pi) if responds == "average" else wave.max()
        moved.append(abs(seen - 1))
    half = distortion_half_width(Detector(responds), h)
    assert half * 0.9 <= max(moved) <= half * 1.03


def test_an_average_meter_on_a_square_is_converted_with_its_factor():
    volts = Reference("avg", "V", (SpecificationRange(100, 0.5),), detector=Detector("average"), calibrated_on=DAY)
    value, _ = serve(volts, 10.0, DAY, hertz=1e3, waveform="square")
    assert value(10.0) == pytest.approx(10 / 1.1107, rel=1e-4)
    _, clean = serve(volts, 10.0, DAY, hertz=60, waveform="sine")
    _, mains = serve(volts, 10.0, DAY, hertz=60, waveform="sine", distortion=0.04)
    assert {c.name for c in mains} - {c.name for c in clean} == {"avg, waveform"}
    assert mains[-1].size * math.sqrt(3) == pytest.approx(10 * 0.04 * 0.48343, rel=1e-4)


def test_loading_both_ways_and_the_stand_in():
    """V_read = V_open R_m/(R_m + R_s); a stand-in for 1000 ohm/V on 5, 50, 250 V beside 10 M (derived; the brief's checks)."""
    assert unloaded(loaded(100.0, 10e6, 1e6), 10e6, 1e6) == pytest.approx(100.0)
    assert loading_error(10e6, 1e6) == pytest.approx(-0.0909, abs=1e-4)
    found = [stand_in(1000, v, 10e6).ohms for v in (5, 50, 250)]
    assert found == pytest.approx([5002.5, 50.25e3, 256.4e3], rel=1e-4)
    both = 1 / (1 / found[2] + 1 / 10e6)
    assert both == pytest.approx(250e3)
    assert math.isinf(stand_in(1000, 10_000, 10e6).ohms)
    with pytest.raises(RangeError, match="already load more than the 25 MΩ"):
        stand_in(25_000, 1000, 10e6)


def test_the_best_on_hand_by_brute_force():
    """Of six meters of several goodness the one proposed first makes the smallest U; both ratios are said."""
    point = POINTS["volts/10/10"]
    known = {
        str(i): Reference(f"m{i}", "V", (SpecificationRange(20, p),), calibrated_on=DAY)
        for i, p in enumerate((2, 0.5, 0.1, 1, 0.02, 5))
    }
    ranked = propose(point, known, DAY)
    reading = Reading(10.0, 10.0, "up")
    widths = {
        k: assess_point(point, "as found", (reading,), of, DAY, friction_divisions=0.0).coverage.expanded
        for k, of in known.items()
    }
    assert [c.key for c in ranked] == sorted(known, key=lambda k: widths[k])
    assert ranked[0].ratio == pytest.approx(0.3 / widths["4"], rel=1e-6)
    assert ranked[0].span_ratio > ranked[0].ratio
    wrong = {"a": replace(METER, current="a.c."), "b": Reference("o", "ohm"), "c": METER}
    ranked = propose(replace(point, stimulus=replace(point.stimulus, waveform="d.c.")), wrong, DAY)
    assert [(c.key, c.serves) for c in ranked] == [("c", True), ("a", False)]
    assert "is a standard for a.c." in ranked[1].words


def test_a_source_is_set_to_what_makes_the_point():
    box = Reference("box", "V", (SpecificationRange(100, 0.1),), role="source")
    halved = Chain("half", "V", "e / 2", (Link("e", box),))
    assert set_value(halved, POINTS["volts/10/10"]) == pytest.approx(20.0)
    assert set_value(replace(PART, unit="V"), POINTS["volts/10/10"]) == 4700


def test_what_is_captured_brings_its_scatter():
    """s/√n of every captured mean, over the readings (JCGM 100, 4.2.3); a meter that still moves is not read as still."""
    found = captured([10.0, 10.2, 9.8, 10.0], settled=True)
    moved, u = 0.12, math.sqrt(0.072 / 2 / 5) * 3  # the line through them and its u, by hand
    left = (moved + u) / math.sqrt(3)
    assert (found.mean, found.standard_uncertainty) == (
        10.0,
        pytest.approx(math.hypot(math.sqrt(0.08 / 3) / 2, left)),
    )
    term = reference_repeats([(0.1, 5), (0.1, 5), (0.0, 0)])[0]
    assert (term.size, term.dof) == (pytest.approx(0.1 * math.sqrt(2) / 3), 8)
    assert reference_repeats([(0.0, 0)]) == []
    assert not is_still([5.0] * (WINDOW - 1))
    assert not is_still(list(range(WINDOW)))
    assert is_still([5.0, 5.01, 5.01, 5.0] * 7)
    assert is_still([5.0 + 1e-5 * i for i in range(WINDOW)], floor=0.001)


@pytest.mark.parametrize(
    ("height", "readings", "noise"),
    [(0, 1, "white"), (100, 10, "white"), (10, 10, "white"), (20, 20, "white"), (1000, 3, "white"), (10, 30, "white"),
     (0, 1, "coloured"), (50, 10, "coloured"), (0, 1, "heavy"), (50, 10, "coarse")],
)  # fmt: skip
def test_what_a_meter_stood_still_at_is_covered_whatever_its_noise(height, readings, noise):
    """It comes down by exp(-n / readings) from some times its scatter; U at 95.45 % of what was read when it stood still."""
    chance, held = np.random.default_rng(17), 0
    for _ in range(120):
        slow, values = 0.0, []

        def read(n):
            nonlocal slow
            slow = 0.5 * slow + math.sqrt(0.75) * chance.normal()
            about = {
                "white": chance.normal(),
                "coloured": slow,
                "heavy": chance.standard_t(3) / 1.7,
                "coarse": chance.normal(),
            }
            value = height * math.exp(-n / readings) + about[noise]
            return 2.0 * round(value / 2) if noise == "coarse" else value

        while not is_still(values) and len(values) < 600:
            values.append(read(len(values)))
        assert is_still(values)
        kept = values[-window_of(len(values)) :] + [read(len(values) + i) for i in range(3)]
        found = captured(kept, settled=True)
        budget = Budget(tuple(reference_repeats([(found.standard_uncertainty, found.count)])))
        held += abs(found.mean) <= cover(budget).expanded
    assert held / 120 >= 0.92


def test_a_stepped_source_set_on_a_mark_adds_half_a_step():
    """Only where the reference was moved to bring the needle on the mark; through a chain by its slope."""
    source = Reference("source", "V", ranges=(SpecificationRange(20.0, 0.01),), role="source", step=0.02)
    point = next(p for p in points_of(PACK, "as found") if p.key == "volts/10/5")
    found = {}
    for kind in ("needle", "mark"):
        reading = Reading(indicated=5.0, reference=5.01, direction="up", kind=kind)
        result = assess_point(point=point, phase="as found", readings=(reading,), reference=source, on=DAY)
        found[kind] = {c.name: c.size for c in result.budget.contributions}
    assert "source, half a step" not in found["needle"]
    assert found["mark"]["source, half a step"] == pytest.approx(0.01 / math.sqrt(3))
    tenth = Reference("divider", "1", points=(CertifiedPoint(0.1, 0.0, 1e-6),), role="fixed part")
    chain = Chain("divided", "V", "V * k", (Link("V", source), Link("k", tenth, 0.1)))
    _, brought = serve(chain, 10.0, DAY, is_moved=True)
    steps = {c.name: c.size for c in brought}
    assert steps["source, half a step"] == pytest.approx(0.001 / math.sqrt(3))


def test_no_standard_gets_more_than_it_bears():
    """Of a chain every link: a divider bears what comes out, the meter behind it what it reads."""
    meter = Reference("meter", "V", ranges=(SpecificationRange(2000.0, 0.01),), most_volts=600.0)
    bears(meter, -600.0)
    with pytest.raises(RangeError, match=r"meter takes 600 V at most, and 1\.2 kV would be on it"):
        bears(meter, 1200.0)
    divider = Reference("probe", "1", points=(CertifiedPoint(100.0, 0.0, 0.1),), role="fixed part", most_volts=1000.0)
    chain = Chain("meter behind the probe", "V", "V * k", (Link("V", meter), Link("k", divider, 100.0)))
    bears(chain, 9.0)
    with pytest.raises(RangeError, match=r"probe takes 1 kV at most, and 1\.2 kV"):
        bears(chain, 12.0)
    shunt = Reference("shunt", "ohm", points=(CertifiedPoint(10.0, 0.0, 0.01),), role="fixed part", most_volts=2.0)
    current = Chain("amps", "A", "V / R", (Link("V", meter), Link("R", shunt, 10.0)))
    with pytest.raises(RangeError, match="shunt takes 2 V at most"):
        bears(current, 3.0)
    point = replace(next(p for p in points_of(PACK, "as found") if p.key == "volts/10/5"), nominal=1200.0)
    weighed = propose(point, {"m": meter}, DAY)[0]
    assert not weighed.serves
    assert "keep the lead off" in weighed.words


CERTIFIED = Reference(
    "m", "V", points=(CertifiedPoint(1, 0.0, 0.01), CertifiedPoint(20, 0.019, 0.2)), calibrated_on=DAY
)


@pytest.mark.parametrize("shown", [0.0, 0.5, 10.0, -0.5, -10.0])
def test_a_correction_goes_away_from_zero_on_both_sides(shown):
    reference = replace(CERTIFIED, points=(CertifiedPoint(0.0, 0.01, 0.01), CertifiedPoint(20, 0.01, 0.2)))
    value, _ = serve(reference, shown, DAY)
    assert value(shown) == pytest.approx(shown + math.copysign(0.01, shown) if shown else 0.01)


@pytest.mark.parametrize(
    "reference", [CERTIFIED, Reference("m", "V", (SpecificationRange(20, 1.0),), calibrated_on=DAY)]
)
def test_what_two_readings_of_one_standard_share_is_drawn_once(reference):
    """Simulated: the standard's error in common is one draw, that of each reading its own."""
    draw = np.random.default_rng(4)
    for second in (10.0, -10.0, 9.0):
        chain = Chain("difference", "V", "a - b", (Link("a", reference), Link("b", reference, second)))
        combined = Budget(tuple(serve(chain, 10.0, DAY)[1])).combined
        (one,), (other,) = (serve(reference, value, DAY)[1] for value in (10.0, second))
        common, own = draw.standard_normal(40_000), draw.standard_normal((2, 40_000))
        errors = (
            one.shared.common * common
            + one.shared.own * own[0]
            - other.shared.common * common
            - other.shared.own * own[1]
        )
        assert combined == pytest.approx(float(np.std(errors)), rel=0.02)


def test_the_links_of_a_chain_are_said_at_the_frequency_it_is_read_at():
    bands = (
        SpecificationRange(100, 0.1, low_hertz=40, high_hertz=1e3),
        SpecificationRange(100, 1.0, low_hertz=1e3, high_hertz=1e5),
    )
    chain = Chain("all", "V", "V", (Link("V", Reference("m", "V", bands, calibrated_on=DAY)),))
    low, high = (say_links(chain, 50.0, DAY, hertz)[1] for hertz in (100.0, 5e3))
    assert "29 mV" in low
    assert "290 mV" in high
