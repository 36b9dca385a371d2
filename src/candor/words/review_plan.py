"""Examples of every sentence about the plan of the shop's days."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from dataclasses import replace
from typing import get_args

from candor.core.plan.placed_why import Because, Why
from candor.core.plan.promise_risk import Promise, Rescue, Saving
from candor.core.plan.usual_times import Work
from candor.notebook.plan.day import Day, JobTime, PlannedDeed, Spans, Unplanned
from candor.words import hours_words, plan_words

AT = dt.datetime(2026, 3, 31, 9, 0, tzinfo=dt.UTC)


def _deed(work: Work, many: int, of: str, job: str = "a", runs: int = 0, watched: bool = False) -> PlannedDeed:
    return PlannedDeed(
        key=f"{job} {work}", job=job, name=f"voltmeter {job}", work=work, of=of, many=many, begins=AT, hands=25, runs=runs,
        watched=watched, needs=("bench meter",), why=Why("now"), learned=0, likely=(15.0, 41.0),
    )  # fmt: skip


def plan_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "What is to be done"
    made: list[tuple[Work, int, str]] = [
        ("walk", 1, ""), ("settle", 1, ""), ("settle", 2, ""), ("part", 1, "C4"), ("part", 3, "C4, R11, R12"), ("reform", 1, "C8"),
        ("fit", 1, "C1"), ("fit", 2, "C1, C2"), ("before power", 1, ""), ("power up", 1, ""), ("prove", 1, ""), ("prove", 2, ""),
        ("step", 1, "As found"), ("step", 34, "DC volts +, as found"), ("adjust", 1, "As left"), ("adjust", 3, "As left"),
        ("soaking", 1, ""), ("release", 1, ""), ("step", 0, ""), ("compare", 1, "bench meter B"),
    ]  # fmt: skip
    for work, many, of in made:
        yield topic, f"{work}, {many}", plan_words.say_deed(_deed(work, many, of))
    topic = "How long it takes"
    yield topic, "hands alone", plan_words.say_length(_deed("walk", 1, ""))
    yield topic, "then by itself", plan_words.say_length(_deed("soaking", 1, "", runs=240))
    yield topic, "then watched", plan_words.say_length(_deed("reform", 1, "C8", runs=60, watched=True))
    for count in (0, 1, 12):
        yield topic, f"{count} of its own", plan_words.say_rests(replace(_deed("walk", 1, ""), learned=count))
    deed, other = _deed("reform", 1, "C8"), _deed("part", 3, "C4, R11, R12", "b")
    day = Day(
        AT, AT, (deed, other), names={"a": "voltmeter a", "b": "bridge b"}, open=((AT, AT + dt.timedelta(hours=8)),)
    )
    for because in get_args(Because):
        why = Why(because, other.key, "bench meter" if because == "thing" else "")
        yield "Why then", because, plan_words.say_why(replace(deed, why=why), day)
    topic = "A promise"
    for kept in (0.97, 0.8, 0.3):
        promise = Promise("a", 2880, 1700, kept)
        yield topic, promise.standing, plan_words.say_promise(promise, day)
        yield (
            topic,
            f"{promise.standing}, in a line",
            plan_words.say_risk(replace(day, promises=(promise,))) or "nothing",
        )
    for by in get_args(Saving):
        yield (
            topic,
            f"saved: {by}",
            plan_words.say_rescue(Rescue("a", by, 0.95, ("b",) if by == "first" else ()), day),
        )
    topic = "Not planned"
    left = [
        Unplanned("a", "voltmeter a", "waiting", text="for the owner's answer"), Unplanned("a", "voltmeter a", "unreadable"),
        Unplanned("a", "voltmeter a", "far", text="01 Mar 2028"),
        Unplanned("a", "voltmeter a", "hands", "power up"), Unplanned("a", "voltmeter a", "watch", "soaking"),
        Unplanned(job="a", name="voltmeter a", why="none", deed="reform", text="leakage tester"),
    ]  # fmt: skip
    for one in left:
        yield topic, one.why, plan_words.say_unplanned(one)
    topic = "The hours of a job"
    spans = Spans(140.0, 95.0, 210.0)
    hours = JobTime(spent={"walk": 18.0, "part": 75.0}, usual=80.0, ahead=spans, whole=spans)
    yield topic, "no price", " ".join(hours_words.say_hours(hours))
    priced = replace(hours, jobs=4, agreed=180.0, cost=60.0, to_come=93.0)
    yield topic, "within the price", " ".join(hours_words.say_hours(priced))
    yield topic, "over the price", " ".join(hours_words.say_price(replace(priced, to_come=150.0)))
    topic = "The day"
    yield topic, "as lines", " ".join(plan_words.say_plan(replace(day, unplanned=tuple(left[:1]))))
    yield topic, "next", plan_words.say_now(day)
    yield topic, "next, later", plan_words.say_now(replace(day, made=AT - dt.timedelta(hours=1)))
    yield topic, "next, another day", plan_words.say_now(replace(day, made=AT - dt.timedelta(days=1)))
    yield topic, "none fits", plan_words.say_now(replace(day, deeds=(), unplanned=tuple(left)))
    yield topic, "none", plan_words.say_now(replace(day, deeds=()))
    yield topic, "how full", plan_words.say_load(day, AT.date())
    yield topic, "how full, two", plan_words.say_load(replace(day, hands=2), AT.date())
    yield topic, "moved", plan_words.say_moved(replace(day, moved=("a reform",), besides=("b part",)))
    yield topic, "moved, better", plan_words.say_moved(replace(day, besides=("b part",)))
