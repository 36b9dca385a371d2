"""Commands of the whole stay: changes and their checks, details, notes, price, where the job stands, strikes."""

from __future__ import annotations

import datetime as dt

from candor.core.errors import CandorError
from candor.core.jot.change_line import proves_nothing
from candor.core.worded import worded
from candor.notebook.entries.arrive_entries import FindingSettled
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, Draft
from candor.notebook.entries.stay_entries import (
    ChangeMade,
    ChangeProven,
    DetailWritten,
    FilesGone,
    NoteWritten,
    PackTaken,
    StatusSet,
)
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.work.job import Job
from candor.sitting.command import Command, command, of_shop


def change(text: str, part: str = "", turned: str = "", touches: str = "") -> Command:
    """Something was done to the instrument; `part` was replaced, `touches` disturbed, the adjuster `turned` moved."""
    return command(text, ChangeMade(text=text, part=part, turned=turned, touches=touches))


def check(job: Job, text: str) -> Command:
    """A check: it proves the newest change that is not proven yet; without one it is a note.

    Raises
    ------
    CandorError
        Where the words say only that somebody looked.
    """
    if proves_nothing(text):
        raise CandorError(
            worded("sitting.proves_nothing_say_what_was_measured", text=text),
            value=text,
        )
    newest = job.stay.unproven[-1:]
    if not newest:
        return note(f"checked {text}")
    return command(f"checked {text}", ChangeProven(change=newest[0].id, check=text))


def note(text: str, stop: str = "") -> Command:
    """A note, and at which stop it was written."""
    return command("a note", NoteWritten(text=text, stop=stop))


def go_on_without(files: tuple[str, ...], reason: str) -> Command:
    """The job goes on without files that are missing or no longer what was kept; every paper of it says so.

    Raises
    ------
    CandorError
        Where no reason is given.
    """
    if not reason.strip():
        raise CandorError(worded("sitting.say_why_the_job_goes_on"), value=reason)
    return command(worded("sitting.goes_on_without_files"), FilesGone(files=files, reason=reason.strip()))


def instead_of_note(of: AnyEntry, told: Command) -> Command:
    """What a note turned out to tell: its entries at the time of the note, which is struck."""
    made = tuple(Draft(of.job, body, of.at) for body in told.bodies)
    return Command(
        worded("sitting.from_a_note", name=told.name),
        drafts=(*made, *told.drafts, Draft(of.job, Struck(target=of.id))),
    )


def detail(field: str, text: str) -> Command:
    """A detail of the job, such as its serial number."""
    return command(field, DetailWritten(field=field, text=text))


def shop_details(**fields: str) -> Command:
    """Details of the shop, kept for all jobs."""
    return of_shop(", ".join(fields), *(DetailWritten(field=field, text=text) for field, text in fields.items()))


def status(which: str, text: str = "", until: dt.date | None = None) -> Command:
    """Where the job stands on the shelf, and what it waits for, until a day where one is known."""
    body = StatusSet.model_validate({"status": which, "text": text, "until": until})
    return command(worded("sitting.on_the_shelf", which=which), body)


def take_pack(digest: str) -> Command:
    """The job goes on with another pack."""
    return command(worded("sitting.went_on_with_another_pack"), PackTaken(pack_digest=digest))


def strike(entry: AnyEntry) -> Command:
    """An entry is struck out; it stays readable."""
    return Command(f"struck entry {entry.number}", (Struck(target=entry.id),), of_shop=not entry.job)


def unstrike(entry: AnyEntry) -> Command:
    """A struck entry stands again."""
    return Command(
        worded("sitting.entry_stands_again", number=entry.number), (Unstruck(target=entry.id),), of_shop=not entry.job
    )


def settle(finding: str, how: str, reason: str) -> Command:
    """A finding is cleared, or overridden with a reason."""
    body = FindingSettled.model_validate({"finding": finding, "how": how, "reason": reason.strip()})
    return command(f"{how} a finding", body)


def taken_in(name: str, *bodies: Body) -> Command:
    """Rows of a file that was previewed."""
    return command(name, *bodies)


def taken_in_by_shop(name: str, *bodies: Body) -> Command:
    """Rows of a file of the shop's own that was previewed."""
    return of_shop(name, *bodies)


COMMANDS = (
    change,
    check,
    note,
    go_on_without,
    instead_of_note,
    detail,
    shop_details,
    status,
    take_pack,
    strike,
    unstrike,
    settle,
    taken_in,
    taken_in_by_shop,
)
