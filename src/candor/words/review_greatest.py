"""Examples of every sentence about the greatest that a range bears."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from candor.packs.bundled import bundled_pack
from candor.packs.greatest_of_range import Applied, Greatest, OnTheLine, greatest_of
from candor.packs.procedure import procedure
from candor.words import greatest_words

VOLTS = Greatest(
    function="DC volts", range="60 V", where=(0, 0), value=60.0, unit="V", full_scale=60.0, basis="full scale"
)
STATED = replace(VOLTS, value=600.0, basis="maker")
RATED = replace(VOLTS, value=210.0, basis="rating", part="R8", why="watts", bears=0.5)
OHMS = replace(VOLTS, function="Ohms", range="R×10", value=0.0, full_scale=0.0, basis="nothing")


def greatest_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "The greatest that a range bears"
    yield topic, "full scale", greatest_words.say_greatest(VOLTS)
    yield topic, "by its maker", greatest_words.say_greatest(STATED)
    yield topic, "by its maker, for seconds", greatest_words.say_greatest(replace(STATED, seconds=3.0))
    yield topic, "by watts", greatest_words.say_greatest(RATED)
    yield topic, "by volts", greatest_words.say_greatest(replace(RATED, why="rating", bears=250.0))
    yield topic, "by usual volts", greatest_words.say_greatest(replace(RATED, why="usual", bears=350.0))
    yield topic, "by its own use", greatest_words.say_greatest(replace(RATED, why="own use", bears=640.0))
    yield (
        topic,
        "below full scale",
        greatest_words.say_greatest(replace(RATED, range="600 V", value=480.0, full_scale=600.0)),
    )
    yield topic, "nothing", greatest_words.say_greatest(OHMS)
    for on_line in (
        OnTheLine(120.0, holds=True), OnTheLine(230.0, holds=False), OnTheLine(230.0, holds=False, part="R40", times=1.2),
        OnTheLine(230.0, holds=False, part="R40", times=840.0),
    ):  # fmt: skip
        yield topic, "the line on it", greatest_words.say_line(on_line)
    yield topic, "before a lead is moved", greatest_words.say_lead(400.0, VOLTS)
    yield topic, "before a lead is moved", greatest_words.say_lead(400.0, OHMS)
    pack = bundled_pack("halvergate-ev9")
    step = next(s for s in procedure(pack) if s.point is not None and s.point.key.startswith("ohms/"))
    yield topic, "at its step", greatest_words.greatest_words(pack, step)
    yield topic, "before its step", greatest_words.cautions_at(pack, step, Applied(250.0, 250.0))[-1].text
    whole, short = greatest_words.say_most(greatest_of(pack))
    yield topic, "on a certificate", whole
    yield topic, "on a label", short
