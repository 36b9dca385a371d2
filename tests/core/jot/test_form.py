"""Forms fit a line whole or not at all; what a place prints it reads again."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.form import Form
from candor.core.jot.slots import SLOTS

QUANTITIES = ("V", "A", "W", "F", "Hz", "s", "ohm", "ohms_above_zero", "small_ohms")


def test_a_line_fits_whole_or_not_at_all():
    form = Form("insulation {ohms:ohm} [@ {volts:V}]")
    assert form.fit("insulation 22 Mohm @500V") == {"ohms": 22e6, "volts": 500.0}
    assert form.fit("Insulation: 22 Mohm at 500 V") == {"ohms": 22e6, "volts": 500.0}
    assert form.fit("insulation 22 Mohm")["volts"] is None
    for line in ("insulation 22 Mohm @500V warm", "insulation", "the insulation 22 Mohm", "insulations 22 Mohm"):
        assert form.fit(line) is None


def test_clauses_stand_in_any_order_and_each_once():
    form = Form("stage {name:prose} <weight {weight:number}> <{minutes:number} min> <band {band:band}>")
    said = form.fit("stage mixer, band 8..12, 5min, weight 2")
    assert said == {"name": "mixer", "band": (8.0, 12.0), "minutes": 5.0, "weight": 2.0}
    with pytest.raises(CandorError, match="says weight twice"):
        form.fit("stage mixer, weight 2, weight 3")


@pytest.mark.parametrize("name", QUANTITIES)
@given(value=st.floats(1e-9, 9e5))
def test_what_a_place_prints_it_reads_again(name, value):
    """Up to a million: from there on old prints write milli in capitals, and nothing on a bench is so large."""
    slot = SLOTS[name]
    printed = slot.says(value)
    assert Form(f"x {{value:{name}}}").fit(f"x {printed}")["value"] == pytest.approx(value, rel=1e-6)
    assert slot.read(slot.example) > 0


def test_a_small_m_before_ohm_is_milli_where_ohms_are_small_and_a_question_elsewhere():
    earth = understand("earth 90 mohm at 10 A", JotContext())
    assert earth.ohms == pytest.approx(0.09)
    with pytest.raises(CandorError, match="milliohms or megohms"):
        understand("chassis b1 90 mohm", JotContext())
