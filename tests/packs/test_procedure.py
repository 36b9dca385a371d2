"""Unfolding a pack: every point once, words filled in, cautions where the volts ask for them."""

from pathlib import Path

import pytest

import candor
from candor.core.errors import RangeError
from candor.notebook.work.states import is_at
from candor.packs.bundled import bundled_pack
from candor.packs.load import PackError, parse_pack
from candor.packs.procedure import point_by_name, point_step, procedure, step_of, test_points

AC5 = Path(candor.__file__).parent / "packs" / "shipped" / "tarnholm-ac5.yaml"


def test_every_range_at_full_half_and_low_in_both_polarities(pack):
    points = test_points(pack, "as found")
    assert len(points) == len({p.key for p in points}) == 42
    shares = {round(p.nominal / p.full_scale, 6) for p in points}
    assert shares == {0.2, 0.5, 1.0}
    assert {p.polarity for p in points} == {1, -1}
    assert [p.key for p in points] == [p.key for p in test_points(pack, "as left")]


def test_steps_have_their_own_keys_and_words_filled_in(pack):
    steps = procedure(pack)
    assert len({s.key for s in steps}) == len(steps)
    assert not any("{" in s.title + s.do + s.aim + s.mistake for s in steps)
    assert all(s.aim and s.mistake for s in steps)
    step = next(s for s in steps if s.point and s.point.key == "dc-/150/75")
    assert step.do.startswith("Function DC volts −, range 150 V. Apply −75 V")


def test_cautions_come_with_the_volts(pack):
    by_key = {s.point.key: [c.key for c in s.cautions] for s in procedure(pack) if s.kind == "point" and s.point}
    assert by_key["dc+/50/50"] == []
    assert by_key["dc+/150/75"] == ["probe"]
    assert by_key["dc+/1500/1500"] == ["high-probe", "probe"]


def test_scales_fit_their_ranges(pack):
    for point in test_points(pack, "as found"):
        assert point.indicator.deflection_of(point.full_scale) == pytest.approx(1.0)
        assert point.indicator.deflection_of(0.0) == pytest.approx(0.0)
        assert point.nominal_limit == pytest.approx(0.03 * point.full_scale)


def test_names_that_do_not_exist(pack):
    assert point_by_name(pack, "dc+/15/7.5").nominal == 7.5
    with pytest.raises(RangeError, match=r"Tarnholm VM-6 has no test point “dc\+/15/8”. Examples: dc\+/15/3"):
        point_by_name(pack, "dc+/15/8")
    with pytest.raises(RangeError, match="has no step “nowhere”"):
        step_of(pack, "nowhere")


def test_points_again_at_other_lines_are_no_points_of_their_own():
    """The line is set before them, with its caution, put back after them; the run as found has each point once."""
    pack = bundled_pack("tarnholm-ac5")
    steps = [s for s in procedure(pack) if s.key.startswith("line")]
    assert [(s.kind, s.line) for s in steps] == [
        ("check", -0.1), ("point", -0.1), ("check", 0.1), ("point", 0.1), ("check", 0.0),
    ]  # fmt: skip
    assert "line 108 where it was 120, line 207 where it was 230" in steps[0].do
    assert [[c.key for c in s.cautions if c.key.startswith("line")] for s in steps] == [
        ["line-set"], [], ["line-high"], ["line-high"], [],
    ]  # fmt: skip
    assert steps[1].point == steps[3].point
    assert len({s.key for s in procedure(pack)}) == len(procedure(pack))
    keys = [p.key for p in test_points(pack, "as found")]
    assert len(keys) == len(set(keys))
    assert point_step(pack, "dc/10/10", "as found").line == 0.0


@pytest.mark.parametrize(("line", "said"), [
    ("[-2, 10]", "off by 5 to 15"), ("[10, 10]", "off by 5 to 15"), ("[20]", "less than or equal to 15"),
])  # fmt: skip
def test_a_line_that_is_none(line, said):
    text = AC5.read_text("utf-8")
    with pytest.raises(PackError, match=said):
        parse_pack(text.replace("line: [-10, 10]", f"line: {line}"), "it")


def test_what_is_read_at_another_line_is_read_before_at_the_one_there_is():
    text = AC5.read_text("utf-8")
    later = text.replace('key: dc-line, ranges: ["10"]', "key: dc-line, function: marks, ranges: [1m]")
    for wrong in (later, text.replace('["10"], line', '["10"], at: [0.5], line')):
        assert wrong != text
        with pytest.raises(PackError, match="Nothing reads these points before"):
            parse_pack(wrong, "it")


@pytest.mark.parametrize("base", [120.0, 230.0])
def test_a_line_is_where_it_was_asked_for_on_either_mains_and_on_its_own_side(base):
    assert is_at(0.9 * base, base, -0.1) and is_at(1.1 * base, base, 0.1)
    assert not any(
        (
            is_at(1.1 * base, base, -0.1),
            is_at(base, base, -0.1),
            is_at(0.93 * base, base, -0.1),
            is_at(base, 0.0, 0.1),
        )
    )
