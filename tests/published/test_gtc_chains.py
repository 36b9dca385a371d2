"""Chains and figured points against GTC, an independent calculator, and worked examples of EA-4/02."""

import datetime as dt
import math
import random
from dataclasses import replace

import GTC
import pytest

from candor.core.calibration.from_others import figure_point
from candor.core.calibration.point import Formula
from candor.core.calibration.result import assess_point
from candor.core.quantities.formula import calculate, parse_formula
from candor.core.reading.reading import Reading
from candor.core.reference.chains import Chain, Link, serve
from candor.core.reference.reference import LINEARITY, CertifiedPoint, Reference, SpecificationRange
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.rules import Rule
from candor.packs.procedure import test_points as points_of
from everykind import PACK

DAY = dt.date(2026, 6, 1)
POINTS = {p.key: p for p in points_of(PACK, "as found")}
FORMULAS = (
    "V / R",
    "V * V / R",
    "sqrt(V * V + W * W) / R",
    "(V - W) / (R + S)",
    "V / R - W / S",
    "abs(W - V) / R * exp(W / V)",
)


@pytest.mark.parametrize("text", FORMULAS)
@pytest.mark.parametrize("seed", range(4))
def test_a_formula_and_its_uncertainty_against_gtc(text, seed):
    """Value and combined standard uncertainty of a formula of independent quantities, to 1e-9."""
    chance = random.Random(seed)
    values = {name: chance.uniform(2, 9) for name in "VWRS"}
    widths = {name: chance.uniform(0.001, 0.1) for name in "VWRS"}
    found = calculate(parse_formula(text), values)
    u = math.sqrt(sum((slope * widths[name]) ** 2 for name, slope in found.slopes.items()))
    wanted = eval(  # the same words, by the other program's numbers
        text,
        {
            "sqrt": GTC.sqrt,
            "exp": GTC.exp,
            "abs": GTC.magnitude,
            **{n: GTC.ureal(values[n], widths[n]) for n in "VWRS"},
        },
    )
    assert found.value == pytest.approx(GTC.value(wanted), rel=1e-12)
    assert u == pytest.approx(GTC.uncertainty(wanted), rel=1e-9)


def test_a_chain_with_a_shared_standard_against_gtc():
    """I = (V1 - V2)/R, both volts by one meter: its gain error is one error, a tenth of it each reading has of its own."""
    meter = Reference("meter", "V", (SpecificationRange(100, 0.02),), calibrated_on=DAY)
    part = Reference("part", "ohm", points=(CertifiedPoint(2200, 1.5, 0.8),), role="fixed part", calibrated_on=DAY)
    chain = Chain("i", "A", "(a - b) / R", (Link("a", meter), Link("b", meter, 12.0), Link("R", part)))
    value, found = serve(chain, 34.0, DAY)
    gain = GTC.ureal(1.0, 0.0002 / math.sqrt(3))
    alone = [GTC.ureal(0.0, LINEARITY * volts * 0.0002 / math.sqrt(3)) for volts in (34.0, 12.0)]
    wanted = (34.0 * gain + alone[0] - 12.0 * gain - alone[1]) / GTC.ureal(2201.5, 0.4)
    assert value(34.0) == pytest.approx(GTC.value(wanted), rel=1e-12)
    assert cover(Budget(tuple(found))).combined == pytest.approx(GTC.uncertainty(wanted), rel=1e-9)


@pytest.mark.parametrize(
    ("takes", "formula"), [("error", "(a - b) / 2"), ("shown", "(a + b) / 2"), ("shown", "a * b / a")]
)
def test_a_figured_point_against_gtc(takes, formula):
    """Two readings by one standard: of errors what it brings is common, of what was shown it is not a part at all."""
    reference = Reference("std", "V", (SpecificationRange(20, 0.5),), calibrated_on=DAY)
    shown = {"a": (POINTS["volts/10/10"], 10.1, 10.0), "b": (POINTS["volts/10/5"], 5.1, 5.02)}
    results = {
        p.key: assess_point(p, "as found", (Reading(read, true, "up"), Reading(read, true, "down")), reference, DAY)
        for p, read, true in shown.values()
    }
    point = replace(
        POINTS["diff/d/5"], formula=Formula(formula, tuple((n, p.key) for n, (p, *_) in shown.items()), takes)
    )
    found = figure_point(point, "as found", results, Rule.GUARDED)
    common = GTC.ureal(1.0, 0.005 / math.sqrt(3))
    own = {
        name: GTC.ureal(
            read, math.sqrt(sum(c.size**2 for c in results[p.key].budget.contributions if c.kind != "reference"))
        )
        for name, (p, read, _) in shown.items()
    }
    if takes == "error":
        alone = {
            name: GTC.ureal(0.0, LINEARITY * true * 0.005 / math.sqrt(3)) for name, (_, _, true) in shown.items()
        }
        own = {name: own[name] - true * common + alone[name] for name, (_, _, true) in shown.items()}
    wanted = eval(formula, own)
    assert found.indicated == pytest.approx(GTC.value(wanted), rel=1e-9)
    assert found.coverage.combined == pytest.approx(GTC.uncertainty(wanted), rel=1e-9)


def test_ea402_s2_a_resistor_of_10_kilohm():
    """EA-4/02, example S2 (figures from memory): R_X = (R_S + dR_D + dR_TS) r_C r - dR_TX; 10 000.178 ohm, u 8.33 mohm."""
    formula = parse_formula("(RS + RD + RTS) * rC * r - RTX")
    values = {"RS": 10000.053, "RD": 0.020, "RTS": 0.0, "rC": 1.0, "r": 1.0000105, "RTX": 0.0}
    rectangle, triangle = math.sqrt(3), math.sqrt(6)
    widths = {
        "RS": 2.5e-3,
        "RD": 10e-3 / rectangle,
        "RTS": 2.75e-3 / rectangle,
        "rC": 1.0e-6 / triangle,
        "r": 0.07e-6,
        "RTX": 5.5e-3 / rectangle,
    }
    found = calculate(formula, values)
    assert found.value == pytest.approx(10000.178, abs=5e-4)
    u = math.sqrt(sum((found.slopes[n] * widths[n]) ** 2 for n in widths))
    assert u == pytest.approx(8.33e-3, rel=0.005)
