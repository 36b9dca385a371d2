"""What falls short and must stand on page one of a certificate."""

from __future__ import annotations

import datetime as dt

from candor.core.calibration.run import RunResult
from candor.notebook.assessment import unfinished
from candor.notebook.chain import say_broken
from candor.notebook.entries.parts import ALTHOUGH
from candor.notebook.entries.ranges import NO_LIMIT, limit_words
from candor.notebook.job import Job
from candor.notebook.leaving import LeavingItem, open_leaving, say_open
from candor.notebook.standards import Standard
from candor.notebook.states import say_first, states_of, trims_to_repeat, words_of
from candor.packs.borrowing import say_borrowed
from candor.packs.model import Pack
from candor.paper.record import TracedLine


def remarks_of(
    job: Job,
    pack: Pack,
    used: list[Standard],
    on: dt.date,
    found: RunResult,
    left: RunResult,
    now: dt.datetime,
    broken: tuple[int, ...],
    leaving: tuple[LeavingItem, ...],
) -> tuple[TracedLine, ...]:
    """Return what falls short, in sentences with the entry each comes from: it stands on page one."""
    lines = [(say_broken(broken), broken[0])] if broken else []
    for unread in job.unreadable:
        lines.append(
            (
                f"An entry cannot be read by this version and is not in what is stated: {unread.body.why}.",
                unread.number,
            )
        )
    for standard in used:
        how_old = standard.age(on)
        if how_old.state != "in date":
            lines.append((how_old.sentence, standard.entry.number))
    if not used and job.calibrate.readings:
        lines.append(("No reference was named for the readings; nothing is decided.", 0))
    if pack.borrows is not None:
        lines.append((say_borrowed(pack.borrows), 0))
    lines += trims_to_repeat(job, pack)
    if left.waiting:
        openings = states_of(job, pack).waiting
        by_change: dict[int, list[str]] = {}
        for key in left.waiting:
            by_change.setdefault(openings[key].entry.number, []).append(key)
        for number, keys in by_change.items():
            what = words_of(openings[keys[0]])
            points = f"{len(keys)} point waits" if len(keys) == 1 else f"{len(keys)} points wait"
            lines.append(
                (f"{points} to be read again since: {what}. No reading of before is stated as left.", number)
            )
    names = {p.key: f"{p.function} {p.name}" for run in (found, left) for p in run.points}
    lines += say_first(states_of(job, pack), names)
    missing = unfinished(job, pack, now)
    if missing:
        listed = "; ".join(f"{s.title} ({s.phase})" for s in missing[:3])
        more = f" and {len(missing) - 3} more" if len(missing) > 3 else ""
        lines.append((f"The procedure is not finished: {len(missing)} steps are open: {listed}{more}.", 0))
    for entry in job.calibrate.skipped.values():
        title = entry.body.step.split(":")[-1]
        lines.append((f"Left out: {title}, because {entry.body.reason}.", entry.number))
    for bar, override in job.parts.overridden.items():
        lines.append((f"Power although {ALTHOUGH[bar]}. Reason: {override.body.reason}.", override.number))
    for check in job.power.overridden.values():
        lines.append(
            (f"Power although {check.body.item} was not as it should be. Reason: {check.body.reason}.", check.number)
        )
    for finding in job.arrive.overridden:
        mark = finding.mark.capitalize()
        lines.append((f"{mark} overridden: {finding.text}. Reason: {finding.reason}.", finding.entry.number))
    for finding in job.arrive.open_hazards:
        lines.append((f"Hazard not cleared: {finding.text}.", finding.entry.number))
    lines += _not_looked_at(job, leaving)
    for change in job.stay.unproven:
        lines.append((f"A change was not checked afterwards: {change.body.text}.", change.number))
    for made in job.ranges.made.values():
        body = made.body
        if limit_words(body) == NO_LIMIT:
            lines.append(
                (
                    f"{body.function}, {body.title} range: no limit was given, so nothing is decided there.",
                    made.number,
                )
            )
        elif body.by != "maker":
            lines.append((f"{body.function}, {body.title} range: {limit_words(body)}, not the maker's.", made.number))
    for run in (found, left) if left.phase == "as left" else (found,):
        for result in run.results.values():
            if result.remark:
                lines.append((f"{result.point.name}, {run.title}: {result.remark}", result.readings[-1].entry))
            if result.agreement_words:
                lines.append((f"{result.point.name}: {result.agreement_words}", result.readings[-1].entry))
    return tuple(TracedLine(text=text, entry=entry) for text, entry in lines)


def _not_looked_at(job: Job, leaving: tuple[LeavingItem, ...]) -> list[tuple[str, int]]:
    """What was not looked at before it goes, or not as it should be; with the reason where it was let go although."""
    still = say_open(open_leaving(job, leaving))
    lines = [(still.split(". ")[0] + ", not yet looked at or not as it should be.", 0)] if still else []
    for override in job.release.overridden:
        titles = [i.title.casefold() for i in leaving if i.key in override.body.items and i.is_open]
        if titles:
            lines.append(
                (f"It goes although open: {', '.join(titles)}. Reason: {override.body.reason}.", override.number)
            )
    return lines
