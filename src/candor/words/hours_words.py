"""What is said of a job's hours: by stop, ahead, for the next quote, and against the price agreed."""

from __future__ import annotations

from candor.notebook.plan.day import JobTime, Spans
from candor.notebook.work.progress import STOP_OF
from candor.words.plan_words import say_minutes

FINE = 15.0  # min from which minutes are said by quarters of an hour: nobody knows them better


def _about(minutes: float) -> str:
    return say_minutes(FINE * max(1, round(minutes / FINE)) if minutes > 2 * FINE else max(1.0, minutes))


def _span(spans: Spans) -> str:
    return f"about {_about(spans.middle)}, {_about(spans.low)} to {_about(spans.high)} in two cases of three"


def say_hours(time: JobTime) -> list[str]:
    """Return the hours of a job as sentences."""
    by_stop: dict[str, float] = {}
    for work, minutes in time.spent.items():
        stop = STOP_OF[work].capitalize()
        by_stop[stop] = by_stop.get(stop, 0.0) + minutes
    said = []
    if by_stop:
        each = ", ".join(f"{stop} {_about(minutes)}" for stop, minutes in by_stop.items())
        said.append(f"Hands so far: {_about(time.minutes)} ({each}); usual for that: {_about(time.usual)}.")
    if time.ahead.middle:
        said.append(f"Still ahead: {_span(time.ahead)}.")
    if time.whole.middle:
        rests = (
            f"from {time.jobs} job{'' if time.jobs == 1 else 's'} of the type that are over"
            if time.jobs
            else "no job of the type is over yet"
        )
        said.append(f"For the next quote, the whole job: {_span(time.whole)}; {rests}.")
    if time.agreed:
        said += say_price(time)
    return said


def say_price(time: JobTime) -> list[str]:
    """Return how what was spent and what lies ahead stand to the price agreed; where it is passed, what to ask the owner."""
    total = time.cost + time.to_come
    known = f"{time.cost:.2f} spent and about {time.to_come:.2f} still to come, of {time.agreed:.2f} agreed"
    if total <= time.agreed:
        return [f"Within the price: {known}."]
    return [
        f"Likely {total - time.agreed:.2f} over the price: {known}. Ask the owner before you go on.",
        f"To the owner: “So far your instrument took {_about(time.minutes)}, and about {_about(time.ahead.middle)} more are needed. "
        f"That comes to about {total:.2f} instead of the {time.agreed:.2f} agreed. Shall I go on?”",
    ]
