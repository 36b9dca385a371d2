"""The parts of a pack."""

import pytest

from candor.packs.load import PackError, parse_pack
from workbench import PACK_TEXT


@pytest.mark.parametrize(
    ("old", "new", "fault"),
    [
        ("value: 8.4 M 1%", "value: 8.4 furlongs", "the value of R1 cannot be read"),
        ("value: 8.4 M 1%", "value: 0 k", "Expected: one above zero"),
        ("R7 t1500 0 12k", "R7 t1500 0 zero", "Line 9"),
        ("ref: R14", "ref: R13", "the ref 'R13' is used twice"),
        ("supply: rect", "supply: nowhere", "no node “nowhere”"),
        ("ref: R14", "ref: 14Q", "ref"),
    ],
)  # fmt: skip
def test_faults_in_the_parts_of_a_pack(old, new, fault):
    with pytest.raises(PackError) as caught:
        parse_pack(PACK_TEXT.replace(old, new, 1), "bad.yaml")
    assert fault in str(caught.value)


def test_a_pack_may_have_no_procedure_but_not_half_of_one():
    start = PACK_TEXT.index("dial:")
    end = PACK_TEXT.index("\ncircuit:")
    assert parse_pack(PACK_TEXT[:start] + PACK_TEXT[end:], "parts.yaml").procedure == ()
    with pytest.raises(PackError, match="is missing"):
        parse_pack(PACK_TEXT[: PACK_TEXT.index("procedure:")] + PACK_TEXT[end:], "half.yaml")
