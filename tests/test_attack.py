"""A share of the attack of `bench/attack.py`: nothing broken is taken for sound, nothing ends in a traceback."""

import sys
from pathlib import Path

import pytest

sys.path.append(str(Path(__file__).parents[1] / "bench"))

import attack

SHARES = {attack.notebooks: 100, attack.instruments: 20, attack.kills: 800, attack.signals: 100}


@pytest.mark.parametrize(("broken", "count"), attack.ATTACKS, ids=[a.__name__ for a, _ in attack.ATTACKS])
def test_a_share_of_the_attack(broken, count):
    row = broken(max(count // SHARES.get(broken, 300), 1))
    assert row.is_good, row
