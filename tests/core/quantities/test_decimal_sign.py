"""Numbers as a country writes them, and what is no number left alone."""

import pytest

from candor.core.quantities.decimal_sign import with_decimal_sign
from candor.words.review import cases

COMMA = (
    ("1.00 ± 0.38 V", "1,00 ± 0,38 V"),
    ("4.7k, −0.5 div; 12.5%", "4,7k, −0,5 div; 12,5%"),
    ("Half of it (JCGM 100, 4.3.7). U 0.38 V.", "Half of it (JCGM 100, 4.3.7). U 0,38 V."),
    ("the rule (JCGM 106, 8.3; ILAC-G8, 4.2), 0.05 %", "the rule (JCGM 106, 8.3; ILAC-G8, 4.2), 0,05 %"),
    ("Candor cannot read “0.5 x”. Example: 0.5 V", "Candor cannot read “0.5 x”. Example: 0.5 V"),
    ("TCPIP::192.168.1.20::5025, Candor 0.1.0, v1.5, R1.5", "TCPIP::192.168.1.20::5025, Candor 0.1.0, v1.5, R1.5"),
    ("Corvane VM-6.5 no. 40.217, edition 1.2: 0.5 V", "Corvane VM-6.5 no. 40.217, edition 1.2: 0,5 V"),
    ("edge 1.5.csv and edge-1.5.yaml: -1.5 V", "edge 1.5.csv and edge-1.5.yaml: -1,5 V"),
    ("It is 5. Then 3.", "It is 5. Then 3."),
    ("read 3.0.", "read 3,0."),
)


@pytest.mark.parametrize(("text", "shown"), COMMA)
def test_a_comma_stands_in_numbers_alone(text, shown):
    assert with_decimal_sign(text, ",") == shown
    assert with_decimal_sign(text, ".") == text


def test_all_that_candor_says_of_results_keeps_its_words():
    """Nothing but points between digits is changed, in any example of the review table; with a point nothing at all."""
    for case in cases():
        shown = with_decimal_sign(case.sentence, ",")
        assert len(shown) == len(case.sentence)
        changed = [i for i, (a, b) in enumerate(zip(case.sentence, shown, strict=True)) if a != b]
        assert all(case.sentence[i] == "." and case.sentence[i - 1 : i + 2 : 2].isdigit() for i in changed)
