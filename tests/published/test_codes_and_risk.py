"""IEC 60062 letter codes, old units, global risk and contrast: small published facts."""

import numpy as np
import pytest
from scipy import integrate, stats

from candor.core.quantities import parse_quantity
from candor.core.verdict.risk import shop_risk
from candor.core.verdict.rules import Rule
from candor.desktop.frame.theme import DARK, LIGHT, Colours


@pytest.mark.parametrize(
    ("code", "unit", "value"),
    [
        ("R15", "ohm", 0.15), ("1R5", "ohm", 1.5), ("15R", "ohm", 15.0), ("1K5", "ohm", 1.5e3), ("15K", "ohm", 15e3),
        ("1M5", "ohm", 1.5e6), ("1G5", "ohm", 1.5e9), ("1T", "ohm", 1e12), ("p15", "F", 0.15e-12),
        ("1p5", "F", 1.5e-12), ("15p", "F", 15e-12), ("1n5", "F", 1.5e-9), ("15n", "F", 15e-9), ("1u5", "F", 1.5e-6),
        ("1m5", "F", 1.5e-3), ("590R", "ohm", 590.0), ("5K9", "ohm", 5900.0), ("1µ5", "F", 1.5e-6),
    ],
)  # fmt: skip
def test_letter_codes(code, unit, value):
    """IEC 60062:2016, tables of resistance and capacitance codes (examples from memory)."""
    assert parse_quantity(code, unit).value == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("7.34M", "ohm", 7.34e6), ("4k7", "ohm", 4700.0), ("R47", "ohm", 0.47), ("4n7", "F", 4.7e-9),
        ("0.0047u", "F", 4.7e-9), ("4700p", "F", 4.7e-9), ("10uF", "F", 1e-5), ("10 mfd", "F", 1e-5),
        ("250 mmf", "F", 250e-12), ("0.25 meg", "ohm", 250e3), ("3000 umho", "S", 3e-3), ("50 cps", "Hz", 50.0),
        ("1.4 Mc", "Hz", 1.4e6), ("2 1/2", "V", 2.5), ("2½", "V", 2.5), ("455 kc", "Hz", 455e3),
        ("30 uuf", "F", 30e-12), ("8 MFD", "F", 8e-6), ("1.5 megohms", "ohm", 1.5e6), ("73,8", "V", 73.8),
        ("−1.2 V", "V", -1.2), (".5", "V", 0.5), ("5 min", "s", 300.0), ("4.7 kΩ", "ohm", 4700.0),
    ],
)  # fmt: skip
def test_values_as_people_write_them(text, unit, value):
    """Old abbreviations: common practice, no source."""
    assert parse_quantity(text, unit).value == pytest.approx(value, rel=1e-12)


def test_four_to_one_risk():
    """TUR 4, 95 % in tolerance: 0.8-0.9 % false accept, 1.5-1.6 % false reject (common practice, no source)."""
    risk = shop_risk(4.0)
    assert 100 * risk.false_accept == pytest.approx(0.86, abs=0.01)
    assert 100 * risk.false_reject == pytest.approx(1.55, abs=0.01)


@pytest.mark.parametrize(
    ("ratio", "rule", "factor", "guarded"),
    [
        (4.0, Rule.PLAIN, 2.0, False), (2.0, Rule.PLAIN, 1.71, False), (3.0, Rule.GUARDED, 2.0, True),
        (4.0, Rule.FOUR_TO_ONE, 2.0, False), (3.0, Rule.FOUR_TO_ONE, 1.65, True),
    ],
)  # fmt: skip
def test_risk_against_scipy(ratio, rule, factor, guarded):
    """JCGM 106:2012, 9.5: the same double integral by SciPy's adaptive quadrature; u = U/k."""
    prior, u = 1 / stats.norm.ppf(0.975), 1 / (factor * ratio)
    accept = 1 - 1 / ratio if guarded else 1.0

    def density(x):
        chance = stats.norm.cdf((accept - x) / u) - stats.norm.cdf((-accept - x) / u)
        return stats.norm.pdf(x, scale=prior) * chance

    outside = 2 * integrate.quad(density, 1, 6, epsabs=1e-12)[0]
    inside = 2 * integrate.quad(density, 0, 1, epsabs=1e-12)[0]
    risk = shop_risk(ratio, rule=rule, factor=factor)
    assert risk.false_accept == pytest.approx(outside, abs=1e-8)
    assert risk.false_reject == pytest.approx(0.95 - inside, abs=1e-8)


def test_where_the_guard_bands_meet_nothing_is_accepted():
    for rule in (Rule.GUARDED, Rule.FOUR_TO_ONE):
        assert shop_risk(0.9, rule=rule).false_accept == 0.0
        assert shop_risk(0.9, rule=rule).false_reject == 0.95


def luminance(colour: str) -> float:
    parts = np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)]) / 255
    linear = np.where(parts <= 0.04045, parts / 12.92, ((parts + 0.055) / 1.055) ** 2.4)
    return float(linear @ [0.2126, 0.7152, 0.0722])


def contrast(first: str, second: str) -> float:
    light, dark = sorted((luminance(first), luminance(second)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=["light", "dark"])
@pytest.mark.parametrize("text", ["ink", "soft", "petrol", "brass", "brick"])
@pytest.mark.parametrize("ground", ["ground", "panel", "dial", "inside"])
def test_text_contrast(theme: Colours, text: str, ground: str):
    """WCAG 2.2, 1.4.3 (AA): 4.5 to 1 for text."""
    assert contrast(getattr(theme, text), getattr(theme, ground)) >= 4.5


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=["light", "dark"])
def test_shape_contrast(theme: Colours):
    """WCAG 2.2, 1.4.11 (AA): 3 to 1 for shapes that carry meaning, and for the main button's words 4.5."""
    assert contrast(theme.faint, theme.ground) >= 3
    assert contrast(theme.on_petrol, theme.petrol) >= 4.5
