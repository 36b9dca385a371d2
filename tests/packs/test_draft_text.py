"""Changing one place of a pack's text: every other character stays, and what was changed back is what it was, byte for byte."""

from __future__ import annotations

import random
from functools import cache
from importlib import resources

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.packs.draft_text import DraftText, number_or_words, pieces_of
from candor.packs.yaml_text import built

SHIPPED = ("wexcombe-qt1", "halvergate-ev7", "corvane-lm2", "tarnholm-vm6")


@cache
def shipped(name: str) -> str:
    return (resources.files("candor.packs") / "shipped" / f"{name}.yaml").read_text("utf-8")


@cache
def draft(name: str) -> DraftText:
    return DraftText(shipped(name))


def loaded(text: str):
    return built(text)


def at(data, path):
    for part in path:
        data = data[part]
    return data


@pytest.mark.parametrize("name", SHIPPED)
def test_a_value_that_is_changed_and_changed_back_leaves_the_same_bytes(name):
    text, rng = draft(name), random.Random(name)
    scalars = [p for p in pieces_of(text) if text.piece(p).kind == "scalar" and text.piece(p).style not in ("|", ">")]
    for path in rng.sample(scalars, 8):
        was = text.words(path)
        other = DraftText(
            text.with_value(path, "7" if was.replace(".", "").lstrip("-").isdigit() else "Another thing")
        )
        assert other.words(path) in ("7", "Another thing")
        assert len(other.text.splitlines()) == len(text.text.splitlines())
        assert other.with_value(path, was) == text.text


@pytest.mark.parametrize("name", SHIPPED)
def test_things_of_lists_are_moved_copied_and_taken_out_as_the_data_says(name):
    text, rng = draft(name), random.Random(name)
    data = loaded(text.text)
    lists = [
        p
        for p in pieces_of(text)
        if text.piece(p).kind == "list" and len(text.under(p)) > 1 and not text.is_repeated(p)
    ]
    for path in rng.sample(lists, min(5, len(lists))):
        items, was = text.under(path), at(data, path)
        here = rng.randrange(len(items) - 1)
        try:
            moved = DraftText(text.moved(items[here], 1))
            bare = text.without(items[here])
        except CandorError as error:
            assert "take their values from this one" in str(error)
            continue
        order = list(range(len(items)))
        order[here], order[here + 1] = order[here + 1], order[here]
        assert at(loaded(moved.text), path) == [was[i] for i in order]
        assert moved.moved(moved.under(path)[here + 1], -1) == text.text
        assert at(loaded(bare), path) == [one for n, one in enumerate(was) if n != here]
        copied = DraftText(text.copied(items[here]))
        assert len(copied.under(path)) == len(items) + 1
        assert copied.without(copied.under(path)[here + 1]) == text.text
    assert text.moved(lists[0] and text.under(lists[0])[0], -1) == text.text  # not above the first


def test_a_comment_goes_with_what_it_stands_above_and_the_layout_stays():
    text = DraftText(
        "a: 1   # one\nlist:\n  # first of all\n  - {key: x, n: 1}\n\n  # the other\n  - key: y\n    n: 2\nb: 'q'\n"
    )
    moved = text.moved(("list", 1), -1)
    assert moved.index("# the other") < moved.index("key: y") < moved.index("# first of all") < moved.index("key: x")
    assert moved.startswith("a: 1   # one\n") and moved.endswith("b: 'q'\n")
    assert text.without(("list", 1, "n")) == text.text.replace("    n: 2\n", "")
    assert text.without(("list", 1, "key")) == text.text.replace("- key: y\n    n: 2", "- n: 2")
    assert text.without(("list", 0, "n")) == text.text.replace(", n: 1", "")
    assert text.with_value(("list", 1, "more"), "3") == text.text.replace("    n: 2\n", "    n: 2\n    more: 3\n")
    assert text.with_value(("list", 0, "limit", "percent"), "3") == text.text.replace(
        "n: 1}", "n: 1, limit: {percent: 3}}"
    )
    assert loaded(text.with_item(("more",), "{key: z}"))["more"] == [{"key": "z"}]
    assert loaded(text.with_item(("list",), "{key: z}"))["list"][2] == {"key": "z"}
    assert text.words(("nothing", "there")) == "" and text.line_of(("nothing",)) == 0
    assert text.path_at(text.text.index("n: 2")) == ("list", 1, "n")
    assert text.line_of(("list", 1)) == 7


def test_what_others_take_their_values_from_stays_before_them():
    text = DraftText("list:\n  - &a {key: x, n: 1}\n  - {<<: *a, key: y}\n  - {key: z}\n")
    for change in (lambda: text.moved(("list", 0), 1), lambda: text.without(("list", 0))):
        with pytest.raises(CandorError, match="Others take their values from this one"):
            change()
    assert "key: z" not in text.without(("list", 2))


def test_what_is_no_yaml_or_holds_nothing_is_said():
    with pytest.raises(CandorError, match="cannot read the text as YAML"):
        DraftText("a: [1, 2")
    with pytest.raises(CandorError, match="Nothing can be added"):
        DraftText("a: 1\n").with_value(("a", "b"), "x")
    assert DraftText("").under(()) == ()


@given(
    words=st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Zl", "Zp")), min_size=1, max_size=40)
)
@example("0:?")
@example("a:[b]")
@example("yes")
@example("- a: b # c")
@example("'quoted' \"twice\"")
@example("µ 1.5 V: {range}")
def test_whatever_words_are_said_they_are_read_back(words):
    words = " ".join(words.split()) or "x"
    for text in ("a: b\nc: d\n", "a: {x: y}\n", 'a: "b"\n', "a: 'b'\n"):
        path = ("a", "x") if "{" in text else ("a",)
        new = DraftText(text).with_value(path, number_or_words(words), as_words=number_or_words(words) == words)
        found = at(loaded(new), path)
        assert str(found) == words, new


def test_text_of_several_lines_keeps_its_margin():
    text = DraftText("circuit:\n  netlist: |\n    R1 a 0 1k\n    R2 b 0 2k\nend: 1\n")
    new = text.with_value(("circuit", "netlist"), "R1 a 0 1k\n\nR3 c 0 3k")
    assert new == "circuit:\n  netlist: |\n    R1 a 0 1k\n\n    R3 c 0 3k\nend: 1\n"
    folded = DraftText("text: >-\n  one two\n  three\nend: 1\n")
    assert loaded(folded.with_value(("text",), "four " * 40))["text"] == ("four " * 40).strip()
