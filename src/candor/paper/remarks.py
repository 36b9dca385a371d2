"""What falls short: one list of statements, which stands on page one of a certificate and, whole or in short, on every paper."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from itertools import groupby

from candor.core.calibration.run import RunResult
from candor.core.late_dataclass import dataclass
from candor.core.quantities import pair
from candor.core.quantities.show import signed
from candor.core.uncertainty.coverage import FEW_DOF
from candor.core.worded import worded
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
        yield _said("ink", say_broken(asked.broken), asked.broken[0], worded("paper.entries_not_as_written"))
    for fault in asked.faults:
        short = (
            worded("paper.not_as_kept_2", what=fault.what)
            if not fault.file
            else worded("paper.not_as_kept", name=fault.name[:12])
        )
        yield _said("ink", say_fault(fault), fault.numbers[0], short)
    for gone in asked.job.stay.without:
        yield _said("ink", say_gone_on_without(gone.body), gone.number, f"{len(gone.body.files)} files missing")
    for unread in asked.job.unreadable:
        text = worded("paper.this_version_cannot_read_an_entry", why=unread.body.why)
        yield _said("ink", text, unread.number, worded("paper.an_entry_cannot_be_read"))


def _of_references(asked: Stated) -> Iterator[Statement]:
    for standard in asked.used:
        how_old = standard.age(asked.on)
        if how_old.state != "in date":
            yield _said("standard", how_old.sentence, standard.entry.number, f"{standard.name} {how_old.state}")
        if standard.is_typical:
            text = worded("paper.is_specified_by_what_is_usual", name=standard.name)
            yield _said("typical", text, standard.entry.number, f"{standard.name}: typical specification")
    named = {r.named.id: r.named for r in asked.job.calibrate.readings if r.named is not None and not r.body.standard}
    for entry in named.values():
        count = sum(r.named is entry for r in asked.job.calibrate.readings)
        who = f"{entry.who}, {entry.at:%Y-%m-%d}"
        what = "1 reading" if count == 1 else f"{count} readings"
        yield _said(
            "named",
            worded("paper.standard_named_afterwards_for", what=what, who=who),
            entry.number,
            "standard named afterwards",
        )
    if not asked.used and asked.job.calibrate.readings:
        text = worded("paper.no_reference_was_named_for_the")
        yield _said("standard", text, 0, worded("paper.no_reference_was_named"))
    if asked.simulated:
        count, entries = len(asked.simulated), [r.entry.number for r in asked.simulated]
        were = "reading was" if count == 1 else "readings were"
        text = worded("paper.taken_with_a_simulated_meter_or", count=count, were=were)
        yield _said(
            "simulated",
            text,
            entries[0],
            worded("paper.simulated_left_out", count=count, how="reading" if count == 1 else "readings"),
        )
    if asked.pack.borrows is not None:
        yield _said(
            "borrowed", say_borrowed(asked.pack.borrows), 0, worded("paper.procedure_borrowed_from_a_sister_type")
        )


def _of_readings(asked: Stated) -> Iterator[Statement]:
    """In which state the points were read, which wait, and which were not read at all."""
    job, pack = asked.job, asked.pack
    for text, entry in trims_to_repeat(job, pack):
        yield _said("trim", text, entry, worded("paper.a_trim_is_to_be_set"))
    if asked.left.waiting:
        openings = states_of(job, pack).waiting
        by_change: dict[int, list[str]] = {}
        for key in asked.left.waiting:
            by_change.setdefault(openings[key].entry.number, []).append(key)
        for number, keys in by_change.items():
            what = words_of(openings[keys[0]])
            points = f"{len(keys)} point waits" if len(keys) == 1 else f"{len(keys)} points wait"
            text = worded("paper.to_be_read_again_since_no", points=points, what=what)
            yield _said(
                "waiting",
                text,
                number,
                worded(
                    "paper.read_again_since", replace=points.replace("waits", "not").replace("wait", "not"), what=what
                ),
            )
    waived = job.calibrate.waived
    if waived is not None and not job.calibrate.inoperative:
        why = f" Reason: {waived.body.reason}." if waived.body.reason else ""
        text = worded("paper.it_was_changed_without_having_been", why=why)
        yield _said("no as found", text, waived.number, worded("paper.no_as_found_changed_before_it"))
    names = {p.key: f"{p.function} {p.name}" for run in (asked.found, asked.left) for p in run.points}
    for text, entry in say_first(states_of(job, pack), names):
        yield _said("state", text, entry, worded("paper.not_as_found_see_entry", entry=entry))
    if asked.unread:
        # All of them: what is not named here would be taken for read.
        listed = "; ".join(
            f"{function} {', '.join(range_ for _, range_ in ranges)}"
            for function, ranges in groupby(asked.unread, key=lambda pair: pair[0])
        )
        were = "1 range was" if len(asked.unread) == 1 else f"{len(asked.unread)} ranges were"
        yield _said("unread", worded("paper.not_read", were=were, listed=listed), 0, "")


def _of_the_procedure(asked: Stated) -> Iterator[Statement]:
    missing = unfinished(asked.job, asked.pack, asked.now)
    if missing:
        listed = "; ".join(f"{s.title} ({s.phase})" for s in missing[:3])
        more = f" and {len(missing) - 3} more" if len(missing) > 3 else ""
        steps = "1 step is" if len(missing) == 1 else f"{len(missing)} steps are"
        text = worded("paper.the_procedure_is_not_finished_open", steps=steps, listed=listed, more=more)
        yield _said("unfinished", text, 0, "procedure not finished")
    titles = {step.key: step.title for step in procedure(asked.pack)}
    for entry in asked.job.calibrate.skipped.values():
        title = titles.get(entry.body.step, entry.body.step)
        yield _said(
            "left out",
            worded("paper.left_out_because", title=title, reason=entry.body.reason),
            entry.number,
            f"left out: {title}",
        )
    for change in asked.job.stay.unproven:
        text = worded("paper.a_change_was_not_checked_afterwards", text=change.body.text)
        yield _said("unproven", text, change.number, worded("paper.not_checked", text=change.body.text))


def _of_safety(asked: Stated) -> Iterator[Statement]:
    job = asked.job
    for bar, override in job.parts.overridden.items():
        text = worded("paper.power_although_reason", although=ALTHOUGH[bar], reason=override.body.reason)
        yield _said(
            "power",
            text,
            override.number,
            worded("paper.power_although", although=ALTHOUGH[bar], reason=override.body.reason),
        )
    for check in job.power.overridden.values():
        text = worded("paper.power_although_was_not_as_it", item=check.body.item, reason=check.body.reason)
        yield _said(
            "power",
            text,
            check.number,
            worded("paper.power_although_was_bad", item=check.body.item, reason=check.body.reason),
        )
    for finding in job.arrive.overridden:
        text = worded(
            "paper.overridden_reason", mark=finding.mark.capitalize(), text=finding.text, reason=finding.reason
        )
        yield _said(
            "overridden", text, finding.entry.number, f"{finding.mark.capitalize()} overridden: {finding.text}"
        )
    for finding in job.arrive.open_hazards:
        yield _said(
            "hazard",
            worded("paper.hazard_not_cleared", text=finding.text),
            finding.entry.number,
            f"HAZARD: {finding.text}",
        )
    still = open_leaving(job, asked.leaving)
    if still:
        text = worded("paper.release_checks_not_done_or_not", name_open=name_open(still))
        yield _said("not looked at", text, 0, worded("paper.not_all_was_looked_at_before"))
    for let in job.release.overridden:
        titles = [i.title.casefold() for i in asked.leaving if i.key in let.body.items and i.is_open]
        if titles:
            text = worded("paper.it_goes_although_open_reason", listed=", ".join(titles), reason=let.body.reason)
            yield _said("let go", text, let.number, worded("paper.let_go_although", reason=let.body.reason))


def _of_limits(asked: Stated) -> Iterator[Statement]:
    for made in asked.job.ranges.made.values():
        body = made.body
        name = f"{body.function}, {body.title} range"
        if limit_words(body) == NO_LIMIT:
            text = worded("paper.no_limit_was_given_so_nothing", name=name)
            yield _said(
                "no limit", text, made.number, worded("paper.no_limit", function=body.function, title=body.title)
            )
        elif body.by != "maker":
            text = worded("paper.not_the_maker_s", name=name, limit_words=limit_words(body))
            yield _said(
                "limit",
                text,
                made.number,
                worded("paper.limit_not_the_maker_s", function=body.function, title=body.title),
            )


def _of_results(asked: Stated) -> Iterator[Statement]:
    for run in (asked.found, asked.left) if asked.left.phase == "as left" else (asked.found,):
        for result in run.results.values():
            entry, name = result.readings[-1].entry, result.point.name
            if result.remark:
                yield _said(
                    "result",
                    f"{name}, {run.title}: {result.remark}",
                    entry,
                    worded("paper.see_the_certificate", name=name),
                )
            if result.agreements:
                yield _said(
                    "result",
                    f"{name}: {say_agreements(result)}",
                    entry,
                    worded("paper.see_the_certificate", name=name),
                )
        few = [r for r in run.results.values() if r.coverage.dof < FEW_DOF]
        if few:
            names = ", ".join(r.point.name for r in few)
            yield _said(
                "few repeats",
                f"{names}, {run.title}: {FEW_REPEATS}",
                few[-1].readings[-1].entry,
                worded("paper.u_of_few_repeats"),
            )


def _of_the_line(asked: Stated) -> Iterator[Statement]:
    """How another line moves the points that were read at one."""
    known = {s.entry.id: s for s in asked.used}
    for found in line_influence(asked.job, asked.pack, known, asked.left):
        share = signed(100 * (found.volts / found.base_volts - 1), 0)
        short = worded(
            "paper.moves_at_line",
            name=found.point.name,
            change=pair(found.change, found.expanded, found.result.unit),
            share=share,
        )
        yield _said(
            "line", worded("paper.influence_of_the_line", found=say_line_influence(found)), found.entry, short
        )
