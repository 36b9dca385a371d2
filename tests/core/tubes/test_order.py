"""The order of a tube's tests: what it enforces, and what ends it."""

from itertools import permutations

import pytest

from candor.core.tubes.order import BY_KEY, OutOfOrder, next_test, out_of_order
from candor.core.tubes.order import tests_of as order_of

TRIODE = order_of("triode, medium mu", 2)


def test_a_good_tube_goes_through_all_in_order():
    done, gone = {}, []
    while (asked := next_test(TRIODE, done)) is not None:
        gone.append(asked.key)
        done[asked.key] = "good"
    assert gone == ["look", "heater", "shorts", "gas", "emission", "balance", "noise"]
    assert out_of_order("gm", TRIODE, done) is None  # after emission it may still be measured
    assert [t.key for t in order_of("rectifier, directly heated", 2)] == [
        "look",
        "heater",
        "shorts",
        "emission",
        "balance",
    ]
    assert [t.key for t in order_of("eye, single shadow")] == ["look", "heater", "shorts", "eye open", "eye closed"]


@pytest.mark.parametrize("failed", ["look", "heater", "shorts", "gas"])
def test_a_tube_that_fails_one_of_these_meets_no_other(failed):
    before = [t.key for t in TRIODE][: [t.key for t in TRIODE].index(failed)]
    done = dict.fromkeys(before, "good") | {failed: "bad"}
    assert next_test(TRIODE, done) is None
    later = [t.key for t in TRIODE if t.key not in done]
    assert all(out_of_order(key, TRIODE, done) == OutOfOrder("ended", BY_KEY[failed]) for key in later)
    assert out_of_order(failed, TRIODE, done) is None  # it may be tried again


def test_no_test_comes_before_one_that_should_precede_it():
    for first, second in permutations([t.key for t in TRIODE], 2):
        keys = [t.key for t in TRIODE]
        before = dict.fromkeys(keys[: keys.index(first)], "good")
        if keys.index(second) > keys.index(first) and first != "gm" and (first, second) != ("emission", "gm"):
            assert out_of_order(second, TRIODE, before).why == "before", (first, second)
    eye = out_of_order("gm", order_of("eye, single shadow"), dict.fromkeys(BY_KEY, "good"))
    assert eye == OutOfOrder("other kind", BY_KEY["gm"])
