"""Examples of every sentence under power and after it."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from candor.core.finding import Figure, Finding
from candor.core.power.plan import WATTS, Band, Cut, PlanStep
from candor.core.power.safe import AfterReading, after_power
from candor.core.power.watch import Watched, creeping, judge
from candor.notebook.power.alarms import Alarm
from candor.words import power_words

STEP = PlanStep(
    title="full line", line_volts=230.0, hold_s=600.0,
    bands=(Band("b1", 240.0, 280.0),), cuts=(Cut("b1", 350.0, "its first capacitor"), Cut(WATTS, 60.0, "")),
)  # fmt: skip


def power_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "Under power"
    for name, what, volts, since in (
        ("within", "b1", 262.0, 90.0), ("high", "b1", 301.0, 90.0), ("low", "b1", 190.0, 90.0), ("turned", "b1", -262.0, 90.0),
        ("dead", "b1", 3.0, 90.0), ("beyond its cut", "b1", 366.0, 90.0), ("beyond, without a reason", WATTS, 81.0, 90.0),
        ("no band", "b2", 120.0, 90.0),
    ):  # fmt: skip
        yield topic, name, power_words.say_watched(judge(STEP, what, volts, since))
    for kind, fault in (("unread", ""), ("unread here", ""), ("fault", "no answer for 5 s")):
        yield (
            topic,
            kind,
            power_words.say_watched(
                Watched("b1", "unknown", Finding(f"watch.{kind}", {"name": "b1", "fault": fault}))
            ),
        )
    yield (
        topic,
        "the watts climb",
        power_words.say_creep(creeping([(t, 31.0 + t / 90 + (t % 40) / 80) for t in range(0, 301, 10)])),
    )
    node: dict[str, Figure] = {"node": "n3", "volts": 412.0, "across": 401.0, "part": "C4", "rated": 350.0}
    for found in (
        Finding("alarm.rail", {"name": "b1", "volts": 466.0, "rated": 450.0}), Finding("alarm.node", node),
        Finding("alarm.words", {"words": "smoke from the choke"}),
        Finding("alarm.may be on", {"words": "smoke from the choke"}),
        Finding("alarm.elsewhere", {"words": "smoke from the choke"}),
    ):  # fmt: skip
        alarm = Alarm("e", found, found.kind in ("alarm.words", "alarm.may be on", "alarm.elsewhere"))
        yield topic, "an alarm", power_words.say_watched(alarm)
    yield topic, "an alarm with no job in hand", power_words.say_heard("smoke from the shelf")
    for found in (
        Finding("begin.caution", {"title": "at 70 %", "caution": "The chassis may be live."}),
        Finding("begin.left out", {"names": "“at 50 %”"}), Finding("begin.several left out", {"names": "“at 50 %”, “at 70 %”"}),
    ):  # fmt: skip
        yield topic, "not to be begun yet", power_words.say_may_begin(found)
    topic = "A capacitor's rating, before power"
    over = (
        Finding("over.drawn", {"name": "b1", "volts": 340.0, "rated": 300.0}), Finding("over.rail", {"name": "b1", "volts": 521.0, "bears": 450.0}),
        *(Finding("over.capacitor", {"number": 1, "volts": 521.0, "bears": 450.0, "why": Finding(why)}) for why in ("over.rating", "over.surge")),
    )  # fmt: skip
    for sentence in power_words.say_over(over):
        yield topic, "over it", sentence
    yield from _after()


def _after() -> Iterator[tuple[str, str, str]]:
    topic = "After power"
    lived = (AfterReading(310.0, 170.0), AfterReading(41.0, 100.0))
    for name, out, bleed, readings, proved in (
        ("the plug is in", False, None, (), False), ("no bleeder", True, None, (), False), ("the bleeder works", True, 300.0, (), False),
        ("it should be down", True, 100.0, (), False), ("over", True, None, (AfterReading(180.0, 20.0),), False),
        ("climbed", True, None, (AfterReading(40.0, 90.0), AfterReading(71.0, 10.0)), True),
        ("before the computer was started", True, None, (AfterReading(40.0, None),), True),
        ("not proved", True, None, (AfterReading(2.0, 20.0),), False), ("wait", True, None, (AfterReading(40.0, 20.0),), True),
        ("again", True, None, (AfterReading(40.0, 90.0),), True), ("safe", True, None, (*lived, AfterReading(38.0, 12.0)), False),
    ):  # fmt: skip
        assert all(a.ago_s is None or b.ago_s is None or a.ago_s > b.ago_s for a, b in pairwise(readings))
        found = after_power(is_out=out, out_s=180.0, bleed_s=bleed, readings=readings, proved=proved)
        yield topic, name, power_words.say_safety(found)
