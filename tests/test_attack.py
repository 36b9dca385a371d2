"""A hundredth of the attack of `bench/attack.py`: nothing broken is taken for sound, nothing ends in a traceback."""

import sys
from pathlib import Path

import pytest

sys.path.append(str(Path(__file__).parents[1] / "bench"))

import attack


@pytest.mark.parametrize(("broken", "count"), attack.ATTACKS, ids=[a.__name__ for a, _ in attack.ATTACKS])
def test_a_hundredth_of_the_attack(broken, count):
    share = 500 if broken is attack.kills else 100  # each kill takes a second and a half
    row = broken(max(count // share, 1))
    assert row.is_good, row
