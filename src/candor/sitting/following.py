"""What follows from an entry that was just written: what is to be asked, or warned of. One table by kind of entry."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

from candor.core.power.earthing import EARTHING, is_earthing
from candor.core.power.swap import swapped_rectifier
from candor.core.severity import Severity
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.entry import AnyEntry, Entry
from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.trace_entries import Worsened
from candor.notebook.work.job import Job
from candor.notebook.work.settings import Settings
from candor.notebook.work.states import is_apart
from candor.sitting.command import Told
from candor.words.line_words import say_kept_for_line
from candor.words.supply_words import say_swapped

Follows = Callable[[Any, Job, Settings], Iterable[Told]]


def _after_change(entry: Entry[ChangeMade], job: Job, _: Settings) -> Iterator[Told]:
    """One change, one check: ask for it, and say when another change is still not proven."""
    sentence, before = (
        worded("sitting.what_proves_it_jot_checked"),
        [e for e in job.stay.unproven if e.number < entry.number],
    )
    if before:
        sentence = worded(
            "sitting.entry_is_not_proven_yet_either",
            number=before[-1].number,
            text=before[-1].body.text,
            sentence=sentence,
        )
    yield Told(sentence)
    swap = swapped_rectifier(entry.body.text)
    if swap:
        from candor.notebook.power.alarms import LINE_HIGH, open_volts

        yield Told(say_swapped(swap, open_volts(job, LINE_HIGH)), how="warn")
    if is_earthing(entry.body.text):
        yield Told(EARTHING, how="warn")


def _after_part(entry: Entry[PartMeasured], _: Job, settings: Settings) -> Iterator[Told]:
    """Until it is known at what the shop's ESR meter tests, an ESR acquits nothing."""
    body = entry.body
    if body.esr is not None and not body.hertz and not settings.esr_hertz:
        yield Told(worded("sitting.at_which_frequency_does_your_esr"), Severity.ASK)


def _after_worsened(_: Entry[Worsened], job: Job, __: Settings) -> Iterator[Told]:
    from candor.words.trace_words import say_worsened

    yield Told(say_worsened(job))


def _after_range(entry: Entry[RangeMade], job: Job, _: Settings) -> Iterator[Told]:
    """The frequency of alternating current is asked once for a function."""
    if entry.body.function_key in job.ranges.without_frequency:
        yield Told(worded("sitting.at_which_frequency_is_read_jot", function=entry.body.function))


def _after_standard(_: Entry[StandardChosen], job: Job, __: Settings) -> Iterator[Told]:
    """What was read with no standard named may have been read against it: that is told, never taken for granted."""
    missing = sum(not r.standard and r.body.reference != 0 for r in job.calibrate.readings)
    if missing:
        were = "reading was" if missing == 1 else "readings were"
        yield Told(worded("sitting.taken_with_no_standard_named_was", missing=missing, were=were))


def _after_reading(entry: Entry[ReadingTaken], job: Job, _: Settings) -> Iterator[Told]:
    """A reading at another line than the first of its point is no repeat: that is said at once."""
    same = [r for r in job.calibrate.readings if r.body.point == entry.body.point and r.line_volts]
    if len(same) > 1 and same[-1].entry.id == entry.id and is_apart(same[-1].line_volts, same[0].line_volts):
        yield Told(say_kept_for_line(same[-1].line_volts, same[0].line_volts), Severity.ASK)


FOLLOWS: Mapping[type[Body], Follows] = {
    ChangeMade: _after_change,
    PartMeasured: _after_part,
    RangeMade: _after_range,
    ReadingTaken: _after_reading,
    StandardChosen: _after_standard,
    Worsened: _after_worsened,
}


def following(written: Iterable[AnyEntry], job: Job, settings: Settings) -> tuple[Told, ...]:
    """Return what follows from entries of a job that were just written; the job as it is with them."""
    return tuple(
        told
        for entry in written
        if (follows := FOLLOWS.get(type(entry.body)))
        for told in follows(entry, job, settings)
    )
