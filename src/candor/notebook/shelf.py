"""The shelf: all jobs by what each waits for, folded from the few kinds of entry that say so."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Iterable, Mapping
from typing import Literal, get_args

from candor.core.late_dataclass import dataclass
from candor.core.word_search import Thing, found
from candor.core.worded import worded
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import AnyEntry, Entry
from candor.notebook.entries.runs_entries import RunEnded, RunStarted, runs_record
from candor.notebook.entries.soak_entries import DueSet
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import (
    ChangeMade,
    ChangeProven,
    DetailWritten,
    JobOpened,
    StatusSet,
    stay_record,
)
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.entries.timers_entries import Timer, TimerStarted, timers_of
from candor.notebook.store import Notebook

Group = Literal["wants hands", "cooking", "waiting", "gone home"]
GROUPS: tuple[Group, ...] = ("wants hands", "cooking", "waiting", "gone home")
TITLES: Mapping[Group, str] = {
    "wants hands": "to do", "cooking": "running", "waiting": "waiting", "gone home": "returned",
}  # fmt: skip
CANNOT_BE_READ = worded("notebook.an_entry_cannot_be_read_by")
# What the shelf must know of a job without folding all of it.
SHELF_BODIES = (
    JobOpened, DetailWritten, TimerStarted, StatusSet, ChangeMade, ChangeProven, RunStarted, RunEnded, DueSet, Struck, Unstruck,
)  # fmt: skip
SHELF_KINDS = tuple(str(body.model_fields["kind"].default) for body in SHELF_BODIES)


@dataclass(frozen=True)
class ShelfLine:
    """One job on the shelf."""

    job: str
    name: str
    serial: str
    group: Group
    text: str
    timers: tuple[Timer, ...]
    opened: dt.datetime
    told: str = ""  # its owner, its story and what else was written of it: by this too it is found


def shelf(notebook: Notebook, now: dt.datetime) -> tuple[ShelfLine, ...]:
    """Return every job, grouped in the order of GROUPS, the newest first within a group."""
    by_job: dict[str, list[AnyEntry]] = {}
    for entry in (*notebook.entries_of_kinds(SHELF_KINDS), *notebook.unknown_entries()):
        if entry.job:
            by_job.setdefault(entry.job, []).append(entry)
    stops = {place.job: place.stop for place in notebook.places()}
    lines = [
        line
        for job, entries in by_job.items()
        if (line := _line(job, entries, stops.get(job, ""), now, notebook.kind_of_pack))
    ]
    lines.reverse()
    return _in_order(lines)


ShelfOrder = Literal["newest first", "oldest first", "by name"]
SHELF_ORDERS: tuple[ShelfOrder, ...] = get_args(ShelfOrder)


def shelf_found(lines: Iterable[ShelfLine], words: str, order: ShelfOrder = "newest first") -> tuple[ShelfLine, ...]:
    """Return the lines that have all of some words, in an order; a slip of the pen is forgiven, and no word finds all."""
    known = sorted(lines, key=lambda line: line.opened, reverse=order != "oldest first")
    if order == "by name":
        known.sort(key=lambda line: (line.name.casefold(), line.serial))
    things = (
        Thing("job", x.job, f"{x.name} {x.serial}".strip(), f"{x.text} {TITLES[x.group]} {x.told}") for x in known
    )
    kept = {thing.key for thing in found(things, words, len(known))}
    return tuple(line for line in known if line.job in kept or not words.strip())


def shelf_with(
    lines: Iterable[ShelfLine], notebook: Notebook, job: str, entries: Iterable[AnyEntry], now: dt.datetime
) -> tuple[ShelfLine, ...]:
    """Return the shelf with the line of one job anew, by all of its entries; the others stand as they are."""
    place = notebook.place(job)
    counted = [e for e in entries if isinstance(e.body, (*SHELF_BODIES, Unreadable))]
    line = _line(job, counted, place.stop if place is not None else "", now, notebook.kind_of_pack)
    return _in_order([*((line,) if line is not None else ()), *(x for x in lines if x.job != job)])


def _in_order(lines: Iterable[ShelfLine]) -> tuple[ShelfLine, ...]:
    # By the time it came, not by numbers: those of a shop with several benches need not come in order.
    newest = sorted(lines, key=lambda line: line.opened, reverse=True)
    return tuple(line for group in GROUPS for line in newest if line.group == group)


def _line(
    job: str, entries: Iterable[AnyEntry], stop: str, now: dt.datetime, kind_of: Callable[[str], str]
) -> ShelfLine | None:
    standing = Standing(entries)
    stay, unreadable = stay_record(standing), bool(standing.unreadable)
    serial = stay.details.get("serial", "")
    if stay.opened is None:
        if not unreadable:
            return None
        return ShelfLine(
            job=job, name="Cannot be read", serial=serial, group="waiting", text=CANNOT_BE_READ, timers=(),
            opened=standing.entries[0].at,
        )  # fmt: skip
    runs = [_timer_of(run.started) for run in runs_record(standing).runs if run.ended is None]
    running = tuple(t for t in (*{t.step: t for t in timers_of(standing)}.values(), *runs) if t.left(now) > 0)
    # A part under voltage cooks, whatever else the job waits for.
    live = any(t.left(now) > 0 for t in runs)
    cooking = (running and stay.status == "wants hands") or (live and stay.status != "gone home")
    group: Group = "cooking" if cooking else stay.status
    words = stay.status_text or (f"at {stop.capitalize()}" if stop else "just arrived")
    if stay.unproven and group != "gone home":
        words = worded("notebook.not_proven", text=stay.unproven[-1].body.text)
    due = standing.newest(DueSet)
    if due is not None and group == "gone home":
        words = f"due {due.body.on:%d %b %Y}" + (f", {stay.status_text}" if stay.status_text else "")
    if unreadable:
        words = CANNOT_BE_READ
    opened = stay.opened.body
    told = " ".join((opened.instrument_kind, kind_of(opened.pack_digest), *stay.details.values()))
    return ShelfLine(
        job=job, name=stay.name, serial=serial, group=group, text=words, timers=running,
        opened=stay.opened.at, told=told,
    )  # fmt: skip


def _timer_of(run: Entry[RunStarted]) -> Timer:
    """A run on the tester ends by itself at the latest when its plan says."""
    return Timer(run, run.id, f"run on {run.body.ref}", run.at + dt.timedelta(seconds=run.body.most_s))
