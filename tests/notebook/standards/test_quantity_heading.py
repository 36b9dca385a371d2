"""How a handbook heads what a meter measures: its own words for it are read."""

import pytest

from candor.core.errors import CandorError
from candor.notebook.standards.quantity_heading import read_heading
from candor.notebook.standards.standards_table import faults_of, lines_of_rows, pasted
from candor.notebook.standards.standards_text import read_functions


@pytest.mark.parametrize(
    ("words", "unit", "current"),
    [("DC Volts", "V", "d.c."), ("ACV", "V", "a.c."), ("volts, alternating", None, ""), ("V a.c.", "V", "a.c."),
     ("dc mA", "A", "d.c."), ("Current", "A", ""), ("Resistance", "ohm", ""), ("kΩ", "ohm", ""), ("S", "S", ""), ("s", "s", ""),
     ("mS", "S", ""), ("ms", "s", ""), ("µmho", "S", ""), ("Freq", "Hz", ""), ("Capacitance", "F", ""), ("ohm dc", None, ""),
     ("ac dc V", None, ""), ("furlong", None, "")],
)  # fmt: skip
def test_a_quantity_is_known_by_what_handbooks_call_it(words, unit, current):
    found = read_heading(words)
    if found is not None and found.rest:
        with pytest.raises(CandorError, match="not understood"):
            read_functions(f"{words}\n20 V: 1 %")
    else:
        assert (found.unit, found.current) == (unit, current) if unit else found is None


def test_a_table_of_a_handbook_is_pasted_with_its_own_words():
    table = """Function;Range;Resolution;Accuracy
DC Volts;200 mV;0.1 mV;0.5% + 2
Resistance;2 kΩ;1 Ω;0.8% + 2 digits
gm;5000 umho;;1 %
"""
    rows = pasted(table.replace(";", "\t"), False)
    assert faults_of(rows, False) == {}
    functions = read_functions(lines_of_rows(rows, False))
    assert [(f.unit, f.current) for f in functions] == [("V", "d.c."), ("ohm", ""), ("S", "")]
    assert functions[0].ranges[0].counts == 2
    assert functions[0].ranges[0].resolution == pytest.approx(1e-4)
