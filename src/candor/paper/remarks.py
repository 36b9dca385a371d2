"""What falls short: one list of statements, which stands on page one of a certificate and, whole or in short, on every paper."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby

from candor.core.calibration.run import RunResult
from candor.core.quantities import pair
from candor.core.quantities.show import signed
from candor.core.uncertainty.coverage import FEW_DOF
from candor.notebook.entries.calibrate_entries import TakenReading
from candor.notebook.entries.parts_entries import ALTHOUGH
from candor.notebook.entries.ranges_entries import NO_LIMIT, limit_words
from candor.notebook.release.leaving import LeavingItem, name_open, open_leaving
from candor.notebook.standards.standards import Standard
from candor.notebook.storage.chain import say_broken
from candor.notebook.storage.fault import Fault
from candor.notebook.work.assessment import unfinished
from candor.notebook.work.job import Job
from candor.notebook.work.line_influence import line_influence
from candor.notebook.work.states import say_first, states_of, trims_to_repeat, words_of
from candor.packs.borrowing import say_borrowed
from candor.packs.model import Pack
from candor.packs.procedure import procedure
from candor.paper.record import Statement
from candor.words.faults import say_fault, say_gone_on_without
from candor.words.line_words import say_line_influence
from candor.words.results import FEW_REPEATS, say_agreements


@dataclass(frozen=True)
class Stated:
    """What the statements are made of: the job as evidence, its runs, and what was looked at before it goes.

    Attributes
    ----------
    job : Job
        With the readings alone that are evidence.
    used : list of Standard
        Those that readings were taken by.
    on, now : date, datetime
        The day of the last reading; the moment.
    broken : tuple of int
        Numbers of entries that are not as they were written.
    faults : tuple of Fault
        Pack and files that are not what was kept.
    simulated : tuple of TakenReading
        What was left out, being practice.
    unread : tuple of (str, str)
        Function and range that are declared and were not read.
    """

    job: Job
    pack: Pack
    used: list[Standard]
    on: dt.date
    found: RunResult
    left: RunResult
    now: dt.datetime
    broken: tuple[int, ...]
    faults: tuple[Fault, ...]
    leaving: tuple[LeavingItem, ...]
    simulated: tuple[TakenReading, ...] = ()
    unread: tuple[tuple[str, str], ...] = ()


def remarks_of(asked: Stated) -> tuple[Statement, ...]:
    """Return what falls short, in sentences with the entry each comes from, the gravest first."""
    return (
        *_of_the_ink(asked), *_of_references(asked), *_of_readings(asked), *_of_the_procedure(asked), *_of_safety(asked),
        *_of_limits(asked), *_of_results(asked), *_of_the_line(asked),
    )  # fmt: skip


def _said(kind: str, text: str, entry: int, short: str) -> Statement:
    return Statement(kind=kind, text=text, entry=entry, short=short)


def _of_the_ink(asked: Stated) -> Iterator[Statement]:
    if asked.broken:
        yield _said("ink", say_broken(asked.broken), asked.broken[0], "entries not as written")
    for fault in asked.faults:
        short = f"{fault.what} not as kept" if not fault.file else f"{fault.name[:12]}… not as kept"
        yield _said("ink", say_fault(fault), fault.numbers[0], short)
    for gone in asked.job.stay.without:
        yield _said("ink", say_gone_on_without(gone.body), gone.number, f"{len(gone.body.files)} files missing")
    for unread in asked.job.unreadable:
        text = f"This version cannot read an entry; it is not included in this certificate: {unread.body.why}."
        yield _said("ink", text, unread.number, "an entry cannot be read")


def _of_references(asked: Stated) -> Iterator[Statement]:
    for standard in asked.used:
        how_old = standard.age(asked.on)
        if how_old.state != "in date":
            yield _said("standard", how_old.sentence, standard.entry.number, f"{standard.name} {how_old.state}")
        if standard.is_typical:
            text = (
                f"{standard.name} is specified by what is usual for its class, not by its own handbook or certificate: what was "
                "read against it is as sure as that."
            )
            yield _said("typical", text, standard.entry.number, f"{standard.name}: typical specification")
    named = {r.named.id: r.named for r in asked.job.calibrate.readings if r.named is not None and not r.body.standard}
    for entry in named.values():
        count = sum(r.named is entry for r in asked.job.calibrate.readings)
        who = f"{entry.who}, {entry.at:%Y-%m-%d}"
        what = "1 reading" if count == 1 else f"{count} readings"
        yield _said(
            "named", f"Standard named afterwards for {what} ({who}).", entry.number, "standard named afterwards"
        )
    if not asked.used and asked.job.calibrate.readings:
        text = "No reference was named for the readings; nothing is decided."
        yield _said("standard", text, 0, "no reference was named")
    if asked.simulated:
        count, entries = len(asked.simulated), [r.entry.number for r in asked.simulated]
        were = "reading was" if count == 1 else "readings were"
        text = f"{count} {were} taken with a simulated meter or source: practice, no evidence, and not stated here."
        yield _said(
            "simulated", text, entries[0], f"{count} simulated {'reading' if count == 1 else 'readings'} left out"
        )
    if asked.pack.borrows is not None:
        yield _said("borrowed", say_borrowed(asked.pack.borrows), 0, "procedure borrowed from a sister type")


def _of_readings(asked: Stated) -> Iterator[Statement]:
    """In which state the points were read, which wait, and which were not read at all."""
    job, pack = asked.job, asked.pack
    for text, entry in trims_to_repeat(job, pack):
        yield _said("trim", text, entry, "a trim is to be set again")
    if asked.left.waiting:
        openings = states_of(job, pack).waiting
        by_change: dict[int, list[str]] = {}
        for key in asked.left.waiting:
            by_change.setdefault(openings[key].entry.number, []).append(key)
        for number, keys in by_change.items():
            what = words_of(openings[keys[0]])
            points = f"{len(keys)} point waits" if len(keys) == 1 else f"{len(keys)} points wait"
            text = f"{points} to be read again since: {what}. No earlier reading is stated as left."
            yield _said(
                "waiting",
                text,
                number,
                f"{points.replace('waits', 'not').replace('wait', 'not')} read again since {what}",
            )
    waived = job.calibrate.waived
    if waived is not None and not job.calibrate.inoperative:
        why = f" Reason: {waived.body.reason}." if waived.body.reason else ""
        text = f"It was changed without having been read as found first: how it came is not known.{why}"
        yield _said("no as found", text, waived.number, "no as found: changed before it was read")
    names = {p.key: f"{p.function} {p.name}" for run in (asked.found, asked.left) for p in run.points}
    for text, entry in say_first(states_of(job, pack), names):
        yield _said("state", text, entry, f"not as found, see entry {entry}")
    if asked.unread:
        # All of them: what is not named here would be taken for read.
        listed = "; ".join(
            f"{function} {', '.join(range_ for _, range_ in ranges)}"
            for function, ranges in groupby(asked.unread, key=lambda pair: pair[0])
        )
        were = "1 range was" if len(asked.unread) == 1 else f"{len(asked.unread)} ranges were"
        yield _said("unread", f"{were} not read: {listed}.", 0, "")


def _of_the_procedure(asked: Stated) -> Iterator[Statement]:
    missing = unfinished(asked.job, asked.pack, asked.now)
    if missing:
        listed = "; ".join(f"{s.title} ({s.phase})" for s in missing[:3])
        more = f" and {len(missing) - 3} more" if len(missing) > 3 else ""
        steps = "1 step is" if len(missing) == 1 else f"{len(missing)} steps are"
        text = f"The procedure is not finished: {steps} open: {listed}{more}."
        yield _said("unfinished", text, 0, "procedure not finished")
    titles = {step.key: step.title for step in procedure(asked.pack)}
    for entry in asked.job.calibrate.skipped.values():
        title = titles.get(entry.body.step, entry.body.step)
        yield _said(
            "left out", f"Left out: {title}, because {entry.body.reason}.", entry.number, f"left out: {title}"
        )
    for change in asked.job.stay.unproven:
        text = f"A change was not checked afterwards: {change.body.text}."
        yield _said("unproven", text, change.number, f"not checked: {change.body.text}")


def _of_safety(asked: Stated) -> Iterator[Statement]:
    job = asked.job
    for bar, override in job.parts.overridden.items():
        text = f"Power although {ALTHOUGH[bar]}. Reason: {override.body.reason}."
        yield _said("power", text, override.number, f"Power although {ALTHOUGH[bar]}: {override.body.reason}")
    for check in job.power.overridden.values():
        text = f"Power although {check.body.item} was not as it should be. Reason: {check.body.reason}."
        yield _said("power", text, check.number, f"Power although {check.body.item} was bad: {check.body.reason}")
    for finding in job.arrive.overridden:
        text = f"{finding.mark.capitalize()} overridden: {finding.text}. Reason: {finding.reason}."
        yield _said(
            "overridden", text, finding.entry.number, f"{finding.mark.capitalize()} overridden: {finding.text}"
        )
    for finding in job.arrive.open_hazards:
        yield _said("hazard", f"Hazard not cleared: {finding.text}.", finding.entry.number, f"HAZARD: {finding.text}")
    still = open_leaving(job, asked.leaving)
    if still:
        text = f"Release checks: {name_open(still)}: not done, or not OK."
        yield _said("not looked at", text, 0, "not all was looked at before it went")
    for let in job.release.overridden:
        titles = [i.title.casefold() for i in asked.leaving if i.key in let.body.items and i.is_open]
        if titles:
            text = f"It goes although open: {', '.join(titles)}. Reason: {let.body.reason}."
            yield _said("let go", text, let.number, f"Let go although: {let.body.reason}")


def _of_limits(asked: Stated) -> Iterator[Statement]:
    for made in asked.job.ranges.made.values():
        body = made.body
        name = f"{body.function}, {body.title} range"
        if limit_words(body) == NO_LIMIT:
            text = f"{name}: no limit was given, so nothing is decided there."
            yield _said("no limit", text, made.number, f"no limit: {body.function} {body.title}")
        elif body.by != "maker":
            text = f"{name}: {limit_words(body)}, not the maker's."
            yield _said("limit", text, made.number, f"limit not the maker's: {body.function} {body.title}")


def _of_results(asked: Stated) -> Iterator[Statement]:
    for run in (asked.found, asked.left) if asked.left.phase == "as left" else (asked.found,):
        for result in run.results.values():
            entry, name = result.readings[-1].entry, result.point.name
            if result.remark:
                yield _said("result", f"{name}, {run.title}: {result.remark}", entry, f"{name}: see the certificate")
            if result.agreements:
                yield _said("result", f"{name}: {say_agreements(result)}", entry, f"{name}: see the certificate")
        few = [r for r in run.results.values() if r.coverage.dof < FEW_DOF]
        if few:
            names = ", ".join(r.point.name for r in few)
            yield _said(
                "few repeats", f"{names}, {run.title}: {FEW_REPEATS}", few[-1].readings[-1].entry, "U of few repeats"
            )


def _of_the_line(asked: Stated) -> Iterator[Statement]:
    """How another line moves the points that were read at one."""
    known = {s.entry.id: s for s in asked.used}
    for found in line_influence(asked.job, asked.pack, known, asked.left):
        share = signed(100 * (found.volts / found.base_volts - 1), 0)
        short = f"{found.point.name} moves {pair(found.change, found.expanded, found.result.unit)} at line {share} %"
        yield _said("line", f"Influence of the line: {say_line_influence(found)}", found.entry, short)
