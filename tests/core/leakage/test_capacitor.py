"""Identities of a lossy capacitor, and the trade's leakage rules with their worked values."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import RangeError, ValueTextError
from candor.core.leakage.capacitor import (
    LeakageRule,
    charging_over,
    corner_hertz,
    discharge_time,
    dissipation_from_esr,
    dissipation_from_power_factor,
    esr_from_dissipation,
    grid_shift,
    insulation_limit,
    insulation_product,
    insulation_resistance,
    leakage_limit,
    loss_at,
    power_factor,
    tantalum_limit,
    touch_current,
)
from candor.core.parts.mains import Mains, most_to_chassis, read_mains


def test_power_factor_of_ten_microfarad_at_60_hz():
    """8 % at 60 Hz on 10 µF is 21.3 ohm: power factor, D and ESR are one figure three ways."""
    d = dissipation_from_power_factor(0.08)
    assert esr_from_dissipation(10e-6, d, 60) == pytest.approx(21.3, abs=0.05)
    assert d == pytest.approx(math.tan(math.asin(0.08)))


@given(st.floats(1e-12, 1e-2), st.floats(1e-3, 1e5), st.floats(10, 1e5))
def test_esr_and_dissipation_undo_each_other(farads, ohms, hertz):
    d = dissipation_from_esr(farads, ohms, hertz)
    assert esr_from_dissipation(farads, d, hertz) == pytest.approx(ohms)
    if d < 1e4:
        assert dissipation_from_power_factor(power_factor(d)) == pytest.approx(d, rel=1e-6)


@pytest.mark.parametrize(
    ("farads", "volts", "rule", "microamperes"),
    [
        (10e-6, 450, LeakageRule.ROOT, 201.2),  # common practice, no source
        (470e-6, 250, LeakageRule.TENTH, 4800),  # common practice, no source
        (1e-6, 100, LeakageRule.TENTH, 50),
        (10e-6, 100, LeakageRule.TENTH, 140),  # CV = 1000: the first half of the rule still holds
        (10e-6, 450, LeakageRule.HUNDREDTH, 45),
        (1e-6, 50, LeakageRule.HUNDREDTH, 3),  # the greater of the two
        (10e-6, 450, LeakageRule.PERIOD, 700),  # from memory
        (10e-6, 100, LeakageRule.PERIOD, 400),
        (10e-6, 250, LeakageRule.PERIOD, 500),
        (10e-6, 350, LeakageRule.PERIOD, 550),
        (10e-6, 450, LeakageRule.SIX, 280),
    ],
)
def test_leakage_limits(farads, volts, rule, microamperes):
    assert leakage_limit(farads, volts, rule) * 1e6 == pytest.approx(microamperes, rel=1e-3)


@pytest.mark.parametrize("bad", [(0, 100), (1e-6, 0), (-1e-6, 100)])
def test_limits_need_a_capacitance_and_a_voltage(bad):
    with pytest.raises(RangeError, match="above zero"):
        leakage_limit(*bad, LeakageRule.ROOT)
    with pytest.raises(RangeError, match="above zero"):
        esr_from_dissipation(bad[0], 0.1, bad[1])


def test_consequences():
    """16 µA in 470 k moves a grid 7.5 V; 6 mA at 480 V is 2.9 W; 1 mV on 1 k is 1 µA."""
    assert grid_shift(16e-6, 470e3) == pytest.approx(7.52)
    assert pytest.approx(2.88) == 480 * 6e-3
    assert insulation_resistance(1e-3, 1e-6) == pytest.approx(1e3)
    assert insulation_resistance(400, 0) == math.inf
    assert insulation_product(0.1e-6, 1e10) == pytest.approx(1000)
    assert corner_hertz(0.05e-6, 560e3) == pytest.approx(5.68, abs=0.01)
    assert touch_current(10e-9, 120, 60) == pytest.approx(452e-6, rel=1e-3)


def test_charging_is_over_when_little_of_it_is_left():
    seconds = charging_over(280, 22e3, 40e-6, 50e-6)
    assert seconds == pytest.approx(22e3 * 40e-6 * math.log(280 / 22e3 / 50e-6))
    assert charging_over(1, 22e3, 40e-6, 1) == 0
    assert charging_over(280, 22e3, 40e-6, 0) == math.inf


@given(st.floats(0.1, 5000))
def test_discharge_counts_down_to_nothing(volts):
    seconds = discharge_time(4.7e3, 40e-6, volts, 50)
    assert seconds >= 0
    assert (seconds == 0) == (volts <= 50)


@pytest.mark.parametrize("safe", [0, -5, 61, 400])
def test_the_safe_voltage_can_only_be_set_downward(safe):
    """60 V d.c., IEC 61010-1 normal condition, from memory: never above."""
    with pytest.raises(RangeError, match="60 V"):
        discharge_time(4.7e3, 40e-6, 400, safe)


@pytest.mark.parametrize("factor", [-0.1, 1.0, 2.0])
def test_power_factors_that_cannot_be(factor):
    with pytest.raises(RangeError, match="below 1"):
        dissipation_from_power_factor(factor)


def test_the_periods_rule_goes_by_the_rating_not_by_the_test():
    assert leakage_limit(10e-6, 300, LeakageRule.PERIOD, 450) == pytest.approx(700e-6)


def test_tantalum_and_insulation():
    """The greater of 0.01 CV and 0.5 µA, from memory; R x C of films, common practice, from memory."""
    assert tantalum_limit(10e-6, 35) == pytest.approx(3.5e-6)
    assert tantalum_limit(1e-6, 20) == pytest.approx(0.5e-6)
    assert insulation_limit(2e-6, 400, 800) == pytest.approx(1e-6)  # 1 µA at 400 V is 800 MΩ·µF for 2 µF
    assert insulation_limit(5e-9, 400, 100) == insulation_limit(10e-9, 400, 100)
    with pytest.raises(RangeError):
        tantalum_limit(0, 35)


@pytest.mark.parametrize(
    ("measured_at", "dissipation", "bound"),
    [
        (120, 0.1, ""),
        (100, 0.12, "at most"),
        (1000, 0.012, "at least"),
        (1e5, 0.00012, "at least"),
        (0, 0.1, "at least"),
        (50, 0.24, "at most"),
    ],
)
def test_what_a_loss_at_one_frequency_says_of_another(measured_at, dissipation, bound):
    """ESR only falls with frequency (of a series R beside a lossy dielectric), so one reading bounds the other."""
    found, said = loss_at(120, 0.1, measured_at)
    assert (found, said) == (pytest.approx(dissipation), bound)


@given(st.floats(0.1, 50), st.floats(1e-3, 0.2), st.floats(1e-6, 1e-4), st.floats(10, 1e6))
def test_the_bound_holds_for_a_real_capacitor(series_ohms, tan_oxide, farads, hertz):
    """ESR(f) = R + tan d / (w C), the two parts a capacitor's loss is made of (brute force over all of them)."""

    def esr(at):
        return series_ohms + tan_oxide / (2 * math.pi * at * farads)

    def loss(at):
        return 2 * math.pi * at * farads * esr(at)

    found, bound = loss_at(120, loss(hertz), hertz)
    if bound == "at least":
        assert loss(120) >= found * (1 - 1e-9)
    elif bound == "at most":
        assert loss(120) <= found * (1 + 1e-9)
    else:
        assert loss(120) == pytest.approx(found, rel=0.3)


@pytest.mark.parametrize(
    ("mains", "most"),
    [(Mains(120, 60), 10.05e-9), (Mains(230, 50), 6.29e-9), (None, 6.29e-9), (Mains(100, 50), 14.47e-9)],
)
def test_what_may_lie_from_line_to_chassis_follows_from_the_mains(mains, most):
    """0.5 mA at the line and 10 % more (IEC 61010-1, from memory); unsaid, the worse of the usual mains."""
    found = most_to_chassis(mains)
    assert found == pytest.approx(most, rel=1e-3)
    at = mains or Mains(230, 50)
    assert touch_current(found, 1.1 * at.volts, at.hertz) == pytest.approx(0.5e-3)


@pytest.mark.parametrize("text", ["230 V 50 Hz", "230/50", "230 VAC, 50 c/s", "230V 50Hz"])
def test_mains_as_people_write_them(text):
    assert read_mains(text) == Mains(230, 50)
    assert read_mains(read_mains(text).words) == Mains(230, 50)


@pytest.mark.parametrize("text", ["230", "50 Hz", "12 V 50 Hz", "230 V 5 kHz", "mains", ""])
def test_what_is_no_mains_is_said(text):
    with pytest.raises(ValueTextError, match="Expected: 230 V 50 Hz"):
        read_mains(text)
