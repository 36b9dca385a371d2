"""Examples of every sentence about what explains the errors of a run."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from candor.core.suspects.measure_first import MeasureFirst
from candor.core.suspects.next_reading import NextReading
from candor.core.suspects.observed import Observed, Place
from candor.core.suspects.repair import Repair, trimmed
from candor.core.suspects.weigh import Suspect, Weighed
from candor.notebook.work.suspecting import Suspected
from candor.words import first_words, suspects_words

PLACE = Place(
    key="volts/60/30", range="volts/60", function="volts", name="Volts, 60 V range at 30 V", title="Volts, 60 V",
    function_title="Volts", polarity=1, at=0.5, slope=0.5, division=1 / 60,
)  # fmt: skip
READ = (Observed(PLACE, 0.01, 0.002),)
PLAIN = Suspect(
    kind="nothing", of=(), probability=0.93, amount=0.0, u=0.0, amounts=(), pattern=np.zeros(1), explained=np.zeros(1)
)
ZERO = replace(PLAIN, kind="zero", amount=-0.042, u=0.002, probability=0.88)


def suspects_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    few = MeasureFirst((("R12", 0.5), ("R3", 0.3), ("R7", 0.16), *((f"R{n}", 0.002) for n in range(20, 40))), 3)
    yield "Which parts to measure first", "few of many", first_words.say_first(few)
    yield "Which parts to measure first", "all of them", first_words.say_first(MeasureFirst(few.order[:3], 3))
    topic = "What explains the errors"
    off = replace(PLAIN, probability=0.71, amount=0.048, u=0.006)
    examples = (
        PLAIN, ZERO, replace(ZERO, kind="bridge zero"), replace(off, kind="gain", of=("volts",)), replace(off, kind="all gains"),
        replace(ZERO, kind="tracking"), replace(ZERO, kind="friction"), replace(off, kind="range", of=("volts/60",)),
        replace(off, kind="part", of=("R6",)), replace(off, kind="part", of=("R6",), amount=math.inf, u=0.0),
        replace(off, kind="part", of=("R6",), amount=-math.inf, u=0.0), replace(off, kind="part", of=("R6",), amount=1.6, u=0.1),
        replace(off, kind="two parts", of=("R6", "R8"), amounts=(0.05, -0.03)), replace(ZERO, kind="reading", of=(PLACE.key,)),
    )  # fmt: skip
    for one in examples:
        yield topic, one.kind, f"{suspects_words.say_suspect(one, READ)} {suspects_words.advise(one)}"
    part = replace(off, kind="part", of=("R6",), probability=0.4, group=0)
    unsure = Weighed((part, replace(part, of=("R9",), probability=0.3)), 0.001, READ)
    yield topic, "not known yet", " ".join(suspects_words.say_weighed(unsure))
    for shows in (((-0.02, 0.002), (0.01, 0.002)), ((0.01, 0.002), (0.01, 0.002))):
        asked = NextReading(place=PLACE, bits=0.7, minutes=1.0, shows=shows)
        yield topic, "what to read next", suspects_words.say_next(Suspected(unsure, (asked,)))
    two = replace(part, probability=0.75, group=-1), replace(part, of=("R9",), probability=0.2, group=-1)
    sure = Weighed(two, 0.4, READ, {"R6": 0.76})
    for mended in (
        Repair(0.4, 0.1), Repair(1.3, 1.4), trimmed(Repair(1.3, 0.2), "R6", 82e3, 0.048, np.array([9.0])),
    ):  # fmt: skip
        yield topic, "what putting it right does", suspects_words.say_repair(Suspected(sure, (), {}, mended))
    gain = Weighed((replace(off, kind="gain", of=("volts",)),), 0.4, READ)
    yield topic, "what putting it right does", suspects_words.say_repair(Suspected(gain, (), {}, Repair(1.3, 0.2)))
    yield topic, "too little", " ".join(suspects_words.say_suspected(None))
