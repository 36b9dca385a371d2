"""The plan of the shop's days: deeds in their places, promises, what could not be planned; and a day of it in lanes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import field
from typing import Any

from candor.core.late_dataclass import dataclass
from candor.core.plan.placed_why import Why
from candor.core.plan.promise_risk import Promise, Rescue
from candor.core.plan.usual_times import Took, Work


@dataclass(frozen=True)
class Spans:
    """Minutes as they are likely: the median, and from where to where in two cases of three."""

    middle: float
    low: float
    high: float

    @classmethod
    def of(cls, took: Took) -> Spans:
        """Return the span of one such time."""
        return cls(took.minutes, *took.likely())


@dataclass(frozen=True)
class JobTime:
    """The hours of a job.

    Attributes
    ----------
    spent : mapping of Work to float
        Minutes of hands so far, by the moments of its entries.
    usual : float
        Minutes that are usual for what was done so far.
    ahead : Spans
        Minutes of hands to come.
    whole : Spans
        Minutes that such a job takes here, for the next quote.
    jobs : int
        Jobs of the type that are over, on which `whole` rests.
    agreed, cost, to_come : float
        The price agreed, what was spent by now, and what the hours ahead cost; 0 where no price or no rate is known.
    """

    spent: Mapping[Work, float] = field(default_factory=dict)
    usual: float = 0.0
    ahead: Spans = Spans(0.0, 0.0, 0.0)
    whole: Spans = Spans(0.0, 0.0, 0.0)
    jobs: int = 0
    agreed: float = 0.0
    cost: float = 0.0
    to_come: float = 0.0

    @property
    def minutes(self) -> float:
        """Of hands so far."""
        return sum(self.spent.values())


@dataclass(frozen=True)
class PlannedDeed:
    """A deed in its place.

    Attributes
    ----------
    key : str
        Of the job and the deed.
    job, name : str
        The instrument.
    work, of : str
        What it is.
    many : int
    begins : datetime
    hands, runs : int
        Minutes.
    watched : bool
    needs : tuple of str
    why : Why
    learned : int
        Sittings of this shop that its minutes rest on; 0 where they are what is usual.
    likely : tuple of (float, float)
        Two thirds of such sittings take so many minutes.
    """

    key: str
    job: str
    name: str
    work: Work
    of: str
    many: int
    begins: dt.datetime
    hands: int
    runs: int
    watched: bool
    needs: tuple[str, ...]
    why: Why
    learned: int
    likely: tuple[float, float]

    @property
    def hands_end(self) -> dt.datetime:
        """When the hands are free again."""
        return self.begins + dt.timedelta(minutes=self.hands)

    @property
    def ends(self) -> dt.datetime:
        """When it has run."""
        return self.hands_end + dt.timedelta(minutes=self.runs)


@dataclass(frozen=True)
class Unplanned:
    """A job, or a deed of it, that has no place: what it waits for, or why it fits into no day."""

    job: str
    name: str
    why: str
    deed: Work | None = None
    text: str = ""


@dataclass(frozen=True)
class Day:
    """The plan.

    Attributes
    ----------
    made, begins : datetime
        When it was made, and from when it counts its minutes.
    deeds : tuple of PlannedDeed
        By when they begin.
    promises : tuple of Promise
        The least likely first.
    rescues : mapping of job to Rescue
        Of those at risk.
    unplanned : tuple of Unplanned
    names : mapping of job to str
    times : mapping of job to JobTime
        The hours of each job.
    open : tuple of (datetime, datetime)
    hands : int
    moved, besides : tuple of str
        What stands elsewhere than in the plan before: because it must, and because it is better so.
    """

    made: dt.datetime
    begins: dt.datetime
    deeds: tuple[PlannedDeed, ...] = ()
    promises: tuple[Promise, ...] = ()
    rescues: Mapping[str, Rescue] = field(default_factory=dict)
    unplanned: tuple[Unplanned, ...] = ()
    names: Mapping[str, str] = field(default_factory=dict)
    times: Mapping[str, JobTime] = field(default_factory=dict)
    open: tuple[tuple[dt.datetime, dt.datetime], ...] = ()
    hands: int = 1
    moved: tuple[str, ...] = ()
    besides: tuple[str, ...] = ()

    def of_day(self, day: dt.date) -> tuple[PlannedDeed, ...]:
        """Return the deeds whose hands begin on a day, by the clock on the wall."""
        return tuple(d for d in self.deeds if d.begins.astimezone().date() == day)

    @property
    def starts(self) -> Mapping[str, dt.datetime]:
        """When each deed begins: what the next plan goes on from."""
        return {d.key: d.begins for d in self.deeds}


@dataclass(frozen=True)
class Laid:
    """A deed, or what then runs, in a lane of the day."""

    deed: PlannedDeed
    lane: str
    begins: dt.datetime
    ends: dt.datetime
    runs: bool = False


def lanes_of(day: Day, on: dt.date) -> tuple[Laid, ...]:
    """Return a day in lanes: a lane for each pair of hands, then what runs by itself."""
    hands: list[dt.datetime] = []
    laid: list[Laid] = []
    for deed in day.of_day(on):
        lane = next((n for n, free in enumerate(hands) if free <= deed.begins), len(hands))
        hands[lane:] = [deed.hands_end, *hands[lane + 1 :]]
        name = "hands" if day.hands == 1 else f"hands {lane + 1}"
        laid.append(Laid(deed, name, deed.begins.astimezone(), deed.hands_end.astimezone()))
    laid.sort(key=lambda x: x.lane)
    running: list[dt.datetime] = []
    for deed in day.deeds:
        if deed.runs and deed.hands_end.astimezone().date() <= on <= deed.ends.astimezone().date():
            lane = next((n for n, free in enumerate(running) if free <= deed.hands_end), len(running))
            running[lane:] = [deed.ends, *running[lane + 1 :]]
            name = "by itself" if not lane else f"by itself {lane + 1}"
            laid.append(Laid(deed, name, deed.hands_end.astimezone(), deed.ends.astimezone(), runs=True))
    at = len(day.of_day(on))
    return (*laid[:at], *sorted(laid[at:], key=lambda x: x.lane))


def _time_from(told: Mapping[str, Any]) -> JobTime:
    spans = {name: Spans(*told[f"{name}_min"]) for name in ("ahead", "whole")}
    return JobTime(
        spent=told["spent_min"], usual=told["usual_min"], jobs=told["jobs"], agreed=told["agreed"], cost=told["cost"],
        to_come=told["to_come"], **spans,
    )  # fmt: skip


def day_from(told: Mapping[str, Any]) -> Day:
    """Return the plan from its JSON, as `candor day --json` prints it."""
    at = dt.datetime.fromisoformat
    return Day(
        made=at(told["made"]), begins=at(told["begins"]), hands=told["hands"], names=told["names"],
        open=tuple((at(a), at(b)) for a, b in told["open"]), moved=tuple(told["moved"]), besides=tuple(told["besides"]),
        deeds=tuple(
            PlannedDeed(
                key=d["key"], job=d["job"], name=d["name"], work=d["work"], of=d["of"], many=d["many"], begins=at(d["begins"]),
                hands=d["hands_min"], runs=d["runs_min"], watched=d["watched"], needs=tuple(d["needs"]),
                why=Why(d["because"], d["other"], d["thing"]), learned=d["learned"], likely=tuple(d["likely_min"]),
            )
            for d in told["deeds"]
        ),
        promises=tuple(Promise(p["job"], p["due_min"], p["over_min"], p["kept"]) for p in told["promises"]),
        rescues={r["job"]: Rescue(r["job"], r["by"], r["kept"], tuple(r["costs"])) for r in told["rescues"]},
        times={job: _time_from(told_of) for job, told_of in told["times"].items()},
        unplanned=tuple(
            Unplanned(job=u["job"], name=u["name"], why=u["why"], deed=u["deed"], text=u["text"])
            for u in told["unplanned"]
        ),
    )  # fmt: skip
