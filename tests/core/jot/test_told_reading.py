"""A needle's reading in people's own words: taken where it can mean one thing, offered where it can mean two."""

import math
from dataclasses import replace

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, NoteJot, understand
from candor.core.jot.line import DoubtfulLineError
from candor.core.jot.meaning import DeadJot, ReadingJot
from candor.core.jot.told_reading import meant_by
from candor.core.reading.needle import NEEDLE
from candor.packs.bundled import bundled_pack, bundled_packs
from candor.packs.procedure import point_by_name, procedure

VOLTS = point_by_name(bundled_pack("tarnholm-vm6"), "dc+/150/75")  # of 150 V in 30 divisions: 5 V each
AT = JotContext(point=VOLTS)


@pytest.mark.parametrize(
    ("line", "indicated", "reference", "way"),
    [
        ("reads 72.6", 72.6, None, ""), ("it reads 72.6 V", 72.6, None, ""), ("the needle is at 72.6", 72.6, None, ""),
        ("now 72.6 coming down", 72.6, None, "down"), ("again 72.6 rising", 72.6, None, "up"), ("spot on", 75.0, None, ""),
        ("dead on", 75.0, None, ""), ("right on the mark", 75.0, None, ""), ("half a division low", 72.5, None, ""),
        ("1.5 div high", 82.5, None, ""), ("needle 1 tick below", 70.0, None, ""),
        ("a quarter of a division over", 76.25, None, ""), ("ref 75.004 needle 72.6", 72.6, 75.004, ""),
        ("true 75.004, it shows 72.6", 72.6, 75.004, ""), ("ref 75.004 72.6", 72.6, 75.004, ""),
        ("two divisions low ref 75.004", 65.0, 75.004, ""),
    ],
)  # fmt: skip
def test_what_can_mean_one_thing_is_read(line, indicated, reference, way):
    jot = understand(line, AT)
    assert isinstance(jot, ReadingJot) and (jot.reference, jot.direction) == (reference, way)
    shown = jot.indicated if jot.indicated is not None else VOLTS.indicator.ticks_from(75.0, jot.ticks)
    assert shown == pytest.approx(indicated)


@pytest.mark.parametrize(
    ("line", "meant"),
    [
        ("72.6 75.004", ["72.6 ref 75.004"]), ("72.6 / 75.004", ["72.6 ref 75.004"]), ("75.004, 72.6", ["72.6 ref 75.004"]),
        ("72.6 75.1", ["72.6 ref 75.1", "75.1 ref 72.6"]), ("reads 72.6 at 75.004", ["72.6 ref 75.004"]),
        ("75.004 V in reads 72.6 V", ["72.6 V ref 75.004 V"]), ("75.004 -> 72.6", ["72.6 ref 75.004"]), ("2.4 V low", ["72.6"]),
        ("3 % high", ["77.25"]), ("72.6 ± 0.2", ["72.6"]), ("72.6ish", ["72.6"]), ("72-73", ["72.5"]),
        ("72.6 should be 75", ["72.6"]),
    ],
)  # fmt: skip
def test_what_can_mean_two_or_holds_a_guess_is_offered_and_not_taken(line, meant):
    with pytest.raises(DoubtfulLineError) as asked:
        understand(line, AT)
    assert list(asked.value.meant) == meant


@pytest.mark.parametrize(
    ("line", "meant"),
    [("about 72.6", ("72.6",)), ("between 72 and 73", ("72.5",)), ("off by 2.4", ("72.6", "77.4")), ("low by 2.4", ("72.6",)),
     ("applied 75.004 shows 72.6", ("72.6 ref 75.004",))],
)  # fmt: skip
def test_words_before_a_guess_are_asked_about(line, meant):
    jot = understand(line, AT)
    assert isinstance(jot, NoteJot) and jot.ask and jot.meant == meant


def test_low_of_a_negative_value_may_be_meant_of_its_size_or_of_it():
    below = replace(VOLTS, nominal=-50.0)
    assert meant_by("1 V low", below) == ("−51", "−49") and meant_by("1 V low", VOLTS) == ("74",)


def test_a_needle_that_is_dead_on_is_not_a_dead_instrument():
    for line in ("dead on", "dead right", "dead steady", "dead centre"):
        for context in (AT, JotContext()):
            assert not isinstance(understand(line, context), DeadJot)
    assert isinstance(understand("dead because the line fuse is open", AT), DeadJot)
    assert isinstance(understand("dead short across C4", AT), DeadJot)


def test_whatever_is_offered_is_understood_at_every_needle_of_every_pack():
    points = [
        s.point
        for pack in bundled_packs()
        for s in procedure(pack)
        if s.point is not None and s.point.kind == NEEDLE.key
    ]
    assert len(points) > 300
    offered = 0
    for point in dict.fromkeys(p for p in points if 0 < abs(p.nominal) < math.inf):
        context, bare = JotContext(point=point), point.bare(0.98 * point.nominal, 3)
        for line in ("1 % low", f"{bare} {point.bare(point.nominal, 6)}00", f"{bare} +/- 1"):
            for meant in lines_meant(line, context):
                offered += 1
                assert isinstance(understand(meant, context), ReadingJot), (point.key, line, meant)
    assert offered > 300


def lines_meant(line, context):
    try:
        return getattr(understand(line, context), "meant", ())
    except CandorError as error:
        return getattr(error, "meant", ())
