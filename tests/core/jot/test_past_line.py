"""Results of before as they stand on a sticker."""

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot.past_line import PastJot, understand_past


@pytest.mark.parametrize(
    ("text", "jot"),
    [
        (
            "past 2021-03-04 dc+/150/75 +0.12 ± 0.10 V left",
            PastJot("2021-03-04", "dc+/150/75", error=0.12, expanded=0.1, unit="V", when="left"),
        ),
        ("past 2021-03-04 r/1k −3 +- 2 ohm", PastJot("2021-03-04", "r/1k", error=-3.0, expanded=2.0, unit="ohm")),
        (
            "Past 2019-01-02 the 30 V range at 20: 0.2 V U 0.05 V, limit 0.9 V, as found",
            PastJot("2019-01-02", "the 30 V range at 20", error=0.2, expanded=0.05, unit="V", limit=0.9),
        ),
        ("past 2019-01-02 shift 1.5 U 0.5", PastJot("2019-01-02", "shift", error=1.5, expanded=0.5)),
        ("past 2020-05-05 dc+/150/75 dead", PastJot("2020-05-05", "dc+/150/75")),
    ],
)
def test_a_result_of_before(text, jot):
    found = understand_past(text)
    assert (found.date, found.point, found.unit, found.when) == (jot.date, jot.point, jot.unit, jot.when)
    for name in ("error", "expanded", "limit"):
        assert getattr(found, name) == (None if getattr(jot, name) is None else pytest.approx(getattr(jot, name)))
    assert jot.point in found.chips[0]


def test_what_is_none_and_what_goes_on_otherwise():
    assert understand_past("past its best") is None
    for text, words in (
        ("past 2021-03-04 dc+/150/75", "expected such as"), ("past 2021-03-04 dc 1 V", "expected such as"),
        ("past 2021-03-04 dc 1 V ± 2 A", "more than one unit"),
    ):  # fmt: skip
        with pytest.raises(ValueTextError, match=words):
            understand_past(text)
