"""What is done next in a job, and because of what: advice by the usual order of the work, never a bar."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.work.progress import Progress, Stop

Deed = Literal["live", "unbar", "walk", "settle", "prove", "parts", "power", "range", "steps", "release", "nothing"]


@dataclass(frozen=True)
class NextDeed:
    """One deed: what it is, the stop where it is done, and why."""

    deed: Deed
    stop: Stop
    because: str = ""


def next_deed(states: Mapping[Stop, Progress]) -> NextDeed:
    """Return what is next by how each stop stands: what is dangerous first, then the route in its order."""
    return next(_deeds(states), NextDeed("nothing", "release"))


def _deeds(states: Mapping[Stop, Progress]) -> Iterator[NextDeed]:
    def of(stop: Stop) -> Progress:
        return states.get(stop, Progress())

    arrive, parts, power, trace = of("arrive"), of("parts"), of("power"), of("trace")
    calibrate, release = of("calibrate"), of("release")
    if power.count == "live":
        yield NextDeed("live", "power", power.why)
    if power.standing == "barred" or calibrate.standing == "barred":
        yield NextDeed("unbar", "arrive", (power if power.standing == "barred" else calibrate).why)
    if arrive.standing == "untouched":
        yield NextDeed("walk", "arrive", worded("work.nothing_was_looked_at_yet"))
    reading = calibrate.standing in ("begun", "done")  # who reads it already has it under power, or needs none
    if trace.count:
        yield NextDeed("prove", "trace", trace.why)
    if calibrate.standing == "begun":  # who is at it goes on; what else is open waits
        yield NextDeed("steps", "calibrate", calibrate.why)
    if arrive.standing == "begun":
        yield NextDeed("settle", "arrive", arrive.why)
    if parts.standing == "begun" and not reading:
        yield NextDeed("parts", "parts", parts.why)
    if power.standing != "done" and not reading and power.why[:1].isdigit():
        yield NextDeed("power", "power", power.why)
    if calibrate.standing != "done":
        no_range = calibrate.why.startswith("no range")
        yield NextDeed("range" if no_range else "steps", "calibrate", calibrate.why)
    if release.standing != "done":
        yield NextDeed("release", "release", release.why)
