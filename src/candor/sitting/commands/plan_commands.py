"""Commands of the shop's days: what was promised, what a job waits for, where a deed is put by hand."""

from __future__ import annotations

import datetime as dt

from candor.core.errors import CandorError
from candor.core.plan.shop_hours import read_day
from candor.core.worded import worded
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.notebook.entries.stay_entries import PriceAgreed
from candor.notebook.work.job import Job
from candor.sitting.command import Command, command
from candor.sitting.commands.stay_commands import detail, status

QUOTED = "quoted"  # the detail in which the price stands that waits for an answer


def promise(day: str, today: dt.date) -> Command:
    """The owner was promised it for a day, as it is typed; an empty one takes the promise back.

    Raises
    ------
    ValueTextError
        Where it is no day.
    """
    on = read_day(day, today) if day.strip() else None
    return command(f"promised for {on:%d %b %Y}" if on else worded("sitting.no_day_is_promised"), Promised(on=on))


def wait_for(what: str, day: str, today: dt.date) -> Command:
    """The job waits for something, until a day where one is known; without anything it is to do again.

    Raises
    ------
    ValueTextError
        Where it is no day.
    """
    if not what.strip():
        return status("wants hands")
    return status("waiting", f"for {what.strip()}", read_day(day, today) if day.strip() else None)


def quote(job: Job, answer: str, amount: float) -> Command:
    """A price is quoted and the job waits for the answer; approved, it is the price agreed; declined, the job goes back as it is.

    Raises
    ------
    CandorError
        Where an answer is written and nothing was quoted, or the price is nothing.
    """
    if not answer:
        if amount <= 0:
            raise CandorError(worded("sitting.a_quote_of_nothing_is_none"), value=str(amount))
        waits = status("waiting", worded("sitting.for_the_owner_s_answer_to", amount=amount))
        return command(f"quoted {amount:.2f}", *detail(QUOTED, f"{amount:.2f}").bodies, *waits.bodies)
    quoted = job.stay.details.get(QUOTED, "")
    if not quoted:
        raise CandorError(worded("sitting.nothing_was_quoted_yet_write_it"), value=answer)
    done = detail(QUOTED, "").bodies
    if answer == "declined":
        return command(
            answer, *done, *status("wants hands", worded("sitting.declined_at_goes_back_as_it", quoted=quoted)).bodies
        )
    agreed = PriceAgreed(agreed=float(quoted), an_hour=job.stay.an_hour)
    return command(answer, *done, agreed, *status("wants hands", f"approved at {quoted}").bodies)


def pin(job: str, deed: str, at: dt.datetime | None) -> Command:
    """A deed of a job is put at an hour by hand, or let go again."""
    body = DeedPinned(deed=deed, at=at)
    return Command(
        worded("sitting.values", deed=deed, worded=worded("sitting.put_at_an_hour") if at else "planned freely"),
        drafts=(Draft(job, body),),
    )


COMMANDS = (promise, wait_for, quote, pin)
