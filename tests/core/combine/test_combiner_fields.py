"""What the combiner is asked."""

import pytest

from candor.core.combine.combiner_fields import asked_for, read_asked
from candor.core.errors import CandorError
from candor.core.parts.part import Measured, Part


def test_a_part_asks_for_its_value_within_its_tolerance_or_a_fifth():
    filter_ = Part(ref="C1", kind="capacitor", nominal=20e-6, make="electrolytic", below=0.1, above=0.5, volts=450)
    wide = Part(ref="C2", kind="capacitor", nominal=20e-6, make="electrolytic", below=0.5, above=1.0)
    assert (asked_for(filter_, Measured())["target"], asked_for(filter_, Measured())["window"]) == ("20 uF", "10")
    assert asked_for(wide, Measured())["window"] == "20"


def test_only_a_resistor_read_lifted_is_trimmed():
    load = Part("R10", "resistor", 100e3)
    assert asked_for(load, Measured(value=118e3))["measured"] == "118 k"
    for m in (Measured(), Measured(value=118e3, in_circuit=True), Measured(state="open")):
        assert asked_for(load, m)["measured"] == ""


def test_the_fields_say_it_back():
    load = Part(ref="R10", kind="resistor", nominal=100e3, below=0.05, above=0.05)
    asked = read_asked(asked_for(load, Measured(value=118e3)), kind="resistor", most=3, series="E24")
    assert (asked.target, asked.below, asked.measured, asked.most, asked.series) == (100e3, 0.05, 118e3, 3, "E24")
    with pytest.raises(CandorError, match="much"):
        read_asked({"target": "much", "window": "", "measured": "", "volts": ""}, kind="resistor", most=3, series="")
