"""The fields of every way a range is read say a line that is understood, and are found again from what was understood."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.instrument.limit import LimitSaid
from candor.core.jot.range_fields import WAYS, fields_of, limit_text, range_line
from candor.core.jot.range_line import understand_range

LINES = (
    "DC volts − 15 V 30 div mirror 2% owner", "galvanometer 5 V 50 div zero centre 2%fs", "output 20 V 100 div at least 15 V",
    "Ohms called Rx1 10 ohm centre zero right 3% of arc", "output -20..+2 dB ±0.5 dB",
    "sensitivity 0..100 100 div dial at its mark ±8 div", "shorts 250 kohm threshold on below 20% of reading",
    "R called Rx1k 10 kohm centre zero left marks 0 1 2 5 10 20 50 inf 5 div 3% of arc",
    "leak 1 Mohm marks 0@0 0.1@8 0.2@17 0.5@40 1@60 5@75 inf@90 5 div between 3% of arc",
    "vertical 0.5 V/div 8 div edges 0.05 3% of reading", "AC volts 3 V square law knee 0.5 V 5 div 5%fs",
    "capacitance 0.1 uF 100 div dial at a null second dial phase 60 % 60 div 3% of reading",
    "supply 10 V as a source steps 1 2 5 10 V 2% of reading", "supply 10 V 100 div as a source 3% fs or 0.1 V, the greater",
    "gain 3 V 30 div factor 2", "frequency 100..300 kc 20 div 2% of reading", "line 120 V 60 div on its mark 2 degrees of arc",
    "hum look: still, under a tick | a tick or more, beats", "volts 30 V 30 div 3% + ±0.1 V", "power factor 0..60 60 div ±3 div",
    "Turnover calculated (a - b) / 2 of a dc+/150/75, b dc-/150/75 comes to 0 V ±0.5 V",
    "gain calculated b/a of a v/1/0.1, b v/10/1 comes to 10 ±0.2",
    "loss calculated 20*log10(b/a) of a v/1/0.1, b v/10/1 comes to -3 dB ±0.5 dB",
    "leak calculated V/R of V v/1/0.1, R r/1k/1000 comes to -100 uA ±1 uA",
    "Ratio calculated b/a of a volts/10v/5, b volts/10v/2.5 comes to 0.5 2% of reading owner",
)  # fmt: skip


@pytest.mark.parametrize("line", LINES)
def test_what_was_understood_is_said_again_by_its_fields(line):
    jot = understand_range(line)
    way, said, limit = fields_of(jot)
    again = understand_range(range_line(way, jot.function, said, limit, jot.limit.by, jot.mirror))
    # The frequency of alternating current is said for its function, not with a range.
    assert replace(again, chips=(), hertz=0.0, current="") == replace(jot, chips=(), hertz=0.0, current="")


def test_a_series_is_said_again_whole():
    jot = understand_range("Microvolts 1 3 10 ... 300 uV 50 div zero centre 3%fs")
    way, said, limit = fields_of(jot)
    again = understand_range(range_line(way, jot.function, said, limit, "maker"))
    assert [r.full_scale for r in again.beside] == [r.full_scale for r in jot.beside]


@pytest.mark.parametrize("way", WAYS, ids=[way.key for way in WAYS])
def test_the_examples_in_the_fields_are_understood_together(way):
    said = {f.key: f.example or next((key for key, _ in f.choices), "") for f in way.fields}
    if way.key == "source":
        said.pop("divisions")  # switched or turned
    jot = understand_range(range_line(way, "Thing", said, way.limit, "maker"))
    assert jot.function == "Thing"
    assert fields_of(jot)[0] is way
    assert jot.limit.is_given or way.key == "look"


@given(
    st.sampled_from(("V", "A", "ohm", "F", "Hz", "S")), st.floats(1e-9, 9e4), st.integers(1, 400), st.floats(0.01, 99),
)  # fmt: skip
def test_any_even_range_is_said_again_by_its_fields(unit, end, divisions, percent):
    end, percent = (float(f"{x:.4g}") for x in (end, percent))
    way, said, limit = fields_of(
        replace(understand_range("30 V 30 div"), unit=unit, full_scale=end, divisions=divisions,
                limit=LimitSaid(percent_of_full_scale=percent))
    )  # fmt: skip
    again = understand_range(range_line(way, "Thing", said, limit, "maker"))
    assert (again.unit, again.full_scale, again.divisions) == (unit, pytest.approx(end, rel=1e-8), divisions)
    assert limit_text(again.limit, unit) == limit
