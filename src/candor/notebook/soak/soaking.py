"""A soak as it stands: since when it is on, whether what is watched has settled, when it will be ready, and what the watts do."""

from __future__ import annotations

import datetime as dt
from functools import lru_cache

import numpy as np

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import signed, trimmed
from candor.core.stability.settle import LEAST, Settling, settling
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.soak_entries import SoakRead
from candor.notebook.work.facts import say_seconds
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import test_points

SIMULATED = "simulated"  # the link of the meter that comes with Candor
NOT_REAL = worded("soak.read_in_part_on_the_simulated")
PART = 0.1  # of the limit: what may be left
DAY_S = 86400.0  # longer nobody remembers that it is still on
RISES = 0.05  # of the watts: beyond that a rise is said
CAUTIONS = (
    worded("soak.never_leave_it_soaking_unattended_before"),
    worded("soak.leave_no_still_trace_on_a"),
)

settled_as = lru_cache(maxsize=32)(settling)  # every page that is shown asks anew of the very same readings


@dataclass(frozen=True)
class SoakView:
    """What there is to show.

    Attributes
    ----------
    on_words : str
        The on-clock.
    what : str
        What is watched.
    unit : str
    seconds, values : tuple of float
        Of this time it is on; s since it was switched on.
    found : Settling or None
        None where there are too few readings.
    ready_words : str
    beside : tuple of str
        Watts that rise, the retrace after a night off, the scatter.
    simulated : bool
        Whether some of it was read on the simulated meter.
    """

    on_words: str
    what: str = ""
    unit: str = ""
    seconds: tuple[float, ...] = ()
    values: tuple[float, ...] = ()
    found: Settling | None = None
    ready_words: str = ""
    beside: tuple[str, ...] = ()
    simulated: bool = False


def warm_up_left(job: Job, title: str, seconds: float, now: dt.datetime) -> float:
    """Return what is left of a wait, s: a warm-up counts from when it was switched on, where somebody said so within a day.

    At least a second, so that its end is said.
    """
    if "warm" not in title.casefold() or not job.soak.said or job.soak.said[-1][1] is not None:
        return seconds
    been = (now - job.soak.said[-1][0]).total_seconds()
    return max(seconds - been, 1.0) if 0 <= been <= DAY_S else seconds


def soak_view(job: Job, pack: Pack | None, now: dt.datetime) -> SoakView:
    """Return a job's soak as it stands."""
    soak = job.soak
    since = soak.since
    if since is None:
        last = next((off for _, off in reversed(soak.on) if off is not None), None)
        on_words = worded("soak.off_since", last=last) if last else worded("soak.candor_does_not_know_that_it")
    else:
        how = "" if soak.attended else ", unattended"
        on_words = worded(
            "soak.on_for_since",
            now=say_seconds((now - since).total_seconds()),
            astimezone=since.astimezone(),
            how=how,
        )
    begun = since or (soak.on[-1][0] if soak.on else None)
    rows = [e for e in soak.read if begun is not None and e.at >= begun]
    if not rows or begun is None:
        return SoakView(
            on_words,
            ready_words=worded("soak.no_soak_reading_yet_enter_one"),
            beside=_watts(job, begun),
        )
    what, unit = rows[-1].body.what, rows[-1].body.unit
    rows = [e for e in rows if (e.body.what, e.body.unit) == (what, unit)]
    # By the clock they were read by: those taken in from a file say their own seconds.
    read = sorted({(_when(e, begun), e.body.value) for e in rows})
    seconds, values = tuple(s for s, _ in read), tuple(v for _, v in read)
    limit, whose = _limit(pack, what, unit, values[-1])
    part = PART * limit if limit else 0.01 * (max(values) - min(values)) or 1e-12
    found, words = None, worded("soak.readings_or_more_are_needed_before", values=len(values), least=LEAST)
    if len(values) >= LEAST:
        try:
            found = settled_as(seconds, values, part)
            words = _ready(found, begun + dt.timedelta(seconds=seconds[0]), part, unit, whose)
        except CandorError as error:
            words = str(error)
    simulated = any(e.body.link == SIMULATED for e in rows)
    beside = (*_watts(job, begun), *_surroundings(job, begun), *_retrace(job, rows, limit))
    return SoakView(
        on_words, what=what, unit=unit, seconds=seconds, values=values, found=found, ready_words=words,
        beside=(*((NOT_REAL,) if simulated else ()), *beside), simulated=simulated,
    )  # fmt: skip


def _when(entry: Entry[SoakRead], begun: dt.datetime) -> float:
    own = entry.body.seconds
    return own if own is not None else (entry.at - begun).total_seconds()


def _limit(pack: Pack | None, what: str, unit: str, value: float) -> tuple[float, str]:
    """Return half the limit of the point that is watched, the nearest of its unit where none is named; 0 where none is known."""
    points = (
        [p for p in test_points(pack, "as found") if p.unit == unit and p.nominal_limit not in (0.0, float("inf"))]
        if pack
        else []
    )
    named = [p for p in points if what and what.casefold() in f"{p.key} {p.function} {p.range_name}".casefold()]
    near = min(named or points, key=lambda p: abs(p.nominal - abs(value)), default=None)
    if near is None or near.limit.judged_in != "value":
        return 0.0, worded("soak.a_hundredth_of_what_it_moved")
    return near.nominal_limit, worded("soak.a_tenth_of_the_limit_of", name=near.name)


def _ready(found: Settling, first: dt.datetime, part: float, unit: str, whose: str) -> str:
    left = engineering(part, unit, 2) if unit else trimmed(part, 2)
    if not found.can_say:
        return worded("soak.still_moving_cannot_say", why=found.why)
    if found.settled:
        return f"Ready: {found.why} ({left}, {whose})."
    at = first + dt.timedelta(seconds=found.ready_s)
    half = (found.ready_high - found.ready_low) / 2
    return worded(
        "soak.ready_at_when_the_rest_is", astimezone=at.astimezone(), half=say_seconds(half), left=left, whose=whose
    )


def _watts(job: Job, since: dt.datetime | None) -> tuple[str, ...]:
    rows = [e for e in job.soak.watts if since is not None and e.at >= since and e.body.reading > 0]
    if len(rows) < 3:
        return ()
    values = np.array([e.body.reading for e in rows])
    first, last = float(np.mean(values[: len(values) // 3 or 1])), float(np.mean(values[-(len(values) // 3 or 1) :]))
    if last > first * (1 + RISES):
        rise = worded("soak.from_to_w", first=trimmed(first, 3), last=trimmed(last, 3))
        return (worded("soak.the_power_rises_leakage_that_grows", rise=rise),)
    return (worded("soak.the_watts_hold_about_w", last=trimmed(last, 3)),)


def _surroundings(job: Job, since: dt.datetime) -> tuple[str, ...]:
    """Say what the room and the line did meanwhile: what settles may be they."""
    struck, said = job.struck, []
    for which, name, unit in (("celsius", "Room", "°C"), ("line_volts", "line", "V")):
        noted = [
            e.body.value
            for e in job.entries
            if isinstance(e.body, ConditionNoted) and e.body.which == which and e.at >= since and e.id not in struck
        ]
        if noted:
            low, high = trimmed(min(noted)), trimmed(max(noted))
            said.append(f"{name} {low} {unit}" if low == high else f"{name} {low} to {high} {unit}")
    words = ", ".join(said)
    return (worded("soak.since_it_is_on", words=words[:1].upper(), words_2=words[1:]),) if words else ()


def _retrace(job: Job, rows: list[Entry[SoakRead]], limit: float) -> tuple[str, ...]:
    """Say what it comes back to after it was off: what a long soak hides."""
    spans = job.soak.on
    if len(spans) < 2 or spans[-2][1] is None:
        return ()
    begun, ended = spans[-2]
    before = [e for e in job.soak.read if begun <= e.at <= (ended or e.at) and e.body.what == rows[-1].body.what]
    if not before:
        return ()
    moved, unit = rows[-1].body.value - before[-1].body.value, rows[-1].body.unit
    said = engineering(moved, unit, 3) if unit else signed(moved, 4)
    share = worded("soak.of_its_limit", moved=signed(100 * moved / limit, 0)) if limit else ""
    return (worded("soak.after_it_was_off_it_stands", said=said, share=share),)
