"""YAML is read by the core schema of YAML 1.2.2 (10.3.2, Tag Resolution: its table and its example), and written to be read so."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.packs.yaml_text import Literal, built, written


@pytest.mark.parametrize(
    ("plain", "is_"),
    [
        ("null", None), ("NULL", None), ("~", None), ("", None),
        ("true", True), ("False", False), ("0", 0), ("0o7", 7), ("0x3A", 58),
        ("-19", -19), ("0.", 0.0), ("-0.0", -0.0), (".5", 0.5), ("+12e03", 12000.0), ("-2E+05", -200000.0), (".inf", math.inf),
        ("-.Inf", -math.inf), ("+.INF", math.inf), ("yes", "yes"), ("Off", "Off"), ("12:30", "12:30"), ("2026-12-01", "2026-12-01"),
        ("1_000", "1_000"), ("'12'", "12"), ("0o8", "0o8"), ("1.2.3", "1.2.3"),
    ],
)  # fmt: skip
def test_a_plain_value_is_what_the_core_schema_says(plain, is_):
    found = built(f"a: {plain}")["a"]
    assert (found, type(found)) == (is_, type(is_))


def test_a_number_that_is_none():
    assert math.isnan(built("a: .NaN")["a"])


def test_each_key_and_item_knows_its_place_and_what_is_taken_over_stands_behind():
    data = built("base: &it\n  x: 1\n  y: 2\nlist:\n  - a\n  - <<: *it\n    x: 3\n")
    assert data == {"base": {"x": 1, "y": 2}, "list": ["a", {"x": 3, "y": 2}]}
    assert data.places == {"base": (0, 0), "list": (3, 0)}
    assert data["base"].places["y"] == (2, 2)
    assert data["list"].places == [(4, 4), (5, 4)]
    assert list(data["list"][1]) == ["x", "y"]


def test_what_is_repeated_is_built_once():
    data = built("a: &one [1, 2]\nb: *one\n")
    assert data["a"] is data["b"]


_WORDS = st.text(st.characters(codec="utf-8", exclude_categories=["Cc", "Cs"]))
_SCALARS = st.one_of(_WORDS, st.integers(), st.booleans(), st.none(), st.floats(allow_nan=False))


@given(st.dictionaries(st.text("abcyn0o.~", min_size=1), st.one_of(_SCALARS, st.lists(_SCALARS))))
def test_what_is_written_is_read_back_whatever_it_is(data):
    assert built(written({"it": data})) == {"it": data}


def test_words_of_several_lines_are_written_as_a_block_and_a_list_two_in():
    text = written({"netlist": Literal("R1 a 0 1k\nR2 a b 2k\n"), "list": ["one", "0o14", "12:30"]})
    assert text == "netlist: |\n  R1 a 0 1k\n  R2 a b 2k\nlist:\n  - one\n  - '0o14'\n  - 12:30\n"
    assert built(text)["list"] == ["one", "0o14", "12:30"]
