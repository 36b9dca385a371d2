"""The shelf: all jobs by what each waits for, folded from the few entries that say so."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from candor.notebook.entries import ChangeMade, ChangeProven, DetailWritten, Entry, JobOpened, StatusSet, TimerStarted
from candor.notebook.job import Timer, struck_ids
from candor.notebook.part_entries import RunEnded, RunStarted
from candor.notebook.store import Notebook

Group = Literal["wants hands", "cooking", "waiting", "gone home"]
CANNOT_BE_READ = "an entry cannot be read by this version"
GROUPS: tuple[Group, ...] = ("wants hands", "cooking", "waiting", "gone home")


@dataclass(frozen=True)
class ShelfLine:
    """One job on the shelf."""

    job: str
    name: str
    serial: str
    group: Group
    text: str
    timers: tuple[Timer, ...]


def shelf(notebook: Notebook, now: dt.datetime) -> tuple[ShelfLine, ...]:
    """Return every job, grouped in the order of GROUPS, the newest first within a group."""
    by_job: dict[str, list[Entry]] = {}
    for entry in notebook.shelf_entries():
        by_job.setdefault(entry.job, []).append(entry)
    stops = {place.job: place.stop for place in notebook.places()}
    lines = [line for job, entries in by_job.items() if (line := _line(job, entries, stops.get(job, ""), now))]
    return tuple(line for group in GROUPS for line in reversed(lines) if line.group == group)


def _line(job: str, entries: Iterable[Entry], stop: str, now: dt.datetime) -> ShelfLine | None:
    kept = list(entries)
    struck = struck_ids(kept)
    opened: JobOpened | None = None
    serial, status, text = "", "wants hands", ""
    timers: dict[str, Timer] = {}
    unproven: dict[str, str] = {}
    unreadable = False
    for entry in kept:
        if entry.id in struck:
            continue
        if entry.body is None:
            unreadable = True
            continue
        match entry.body:
            case JobOpened() as body:
                opened, serial = body, body.serial
            case DetailWritten() as body:
                serial = body.text
            case StatusSet() as body:
                status, text = body.status, body.text
            case ChangeMade() as body:
                unproven[entry.id] = body.text
            case ChangeProven() as body:
                unproven.pop(body.change, None)
            case TimerStarted() as body:
                ends = entry.at + dt.timedelta(seconds=body.seconds)
                timers[body.step] = Timer(entry, body.step, body.label, ends)
            case RunStarted() as body:
                label = f"{body.ref} {'reforming' if body.mode == 'reform' else 'on the tester'}"
                timers[entry.id] = Timer(entry, entry.id, label, entry.at + dt.timedelta(seconds=body.most_s))
            case RunEnded() as body:
                timers.pop(body.run, None)
    if opened is None:
        return ShelfLine(job, "Cannot be read", serial, "waiting", CANNOT_BE_READ, ()) if unreadable else None
    running = tuple(t for t in timers.values() if t.left(now) > 0)
    # A part under voltage cooks, whatever else the job waits for.
    live = any(isinstance(t.entry.body, RunStarted) for t in running)
    cooking = (running and status == "wants hands") or (live and status != "gone home")
    group: Group = "cooking" if cooking else status  # type: ignore[assignment]
    words = text or _stop_words(stop)
    if unproven and group != "gone home":
        words = f"not proven: {next(reversed(unproven.values()))}"
    if unreadable:
        words = CANNOT_BE_READ
    return ShelfLine(job, f"{opened.maker} {opened.type}", serial, group, words, running)


def _stop_words(stop: str) -> str:
    return f"at {stop.capitalize()}" if stop else "just arrived"
