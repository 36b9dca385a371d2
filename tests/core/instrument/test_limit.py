"""A limit in words, in every form."""

import pytest

from candor.core.instrument.limit import NO_LIMIT, LimitSaid


@pytest.mark.parametrize(
    ("limit", "words"),
    [
        (NO_LIMIT, ""),
        (LimitSaid(percent_of_full_scale=3, percent_of_reading=2), "±(3 % of full scale + 2 % of reading)"),
        (LimitSaid(percent_of_full_scale=3, absolute=2, combine="greater"), "±(the greater of 3 % of full scale and 2 V)"),
        (LimitSaid(percent_of_arc=3), "±(3 % of arc)"),
        (LimitSaid(degrees_of_arc=2), "±(2° of arc)"),
        (LimitSaid(limit_divisions=1.5), "±(1.5 div)"),
        (LimitSaid(factor=2), "within a factor of 2"),
        (LimitSaid(at_least=15, at_most=20), "at least 15 V, at most 20 V"),
    ],
)  # fmt: skip
def test_a_limit_is_said_in_the_form_it_was_given(limit, words):
    assert limit.words("V").replace("\u00a0", " ") == words
    assert limit.is_given == bool(words)
