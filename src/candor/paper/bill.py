"""The bill: time and parts that were written, against the price agreed."""

from __future__ import annotations

import datetime as dt

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import in_unit
from candor.core.worded import worded
from candor.notebook.work.job import Job
from candor.paper.drawn_ribbon import RULE, SOFT
from candor.paper.sheet import Rows, laid, pages, register_fonts, text

WIDTHS = (22 * mm, 88 * mm, 26 * mm, 38 * mm)


class NothingSpentError(CandorError, ValueError):
    """A bill of nothing."""


@dataclass(frozen=True)
class Bill:
    """What a bill says: a line for each entry (number, words, min, money), and what it comes to in the shop's currency.

    Attributes
    ----------
    lines : tuple of (int, str, float, float)
    time, parts : float
    agreed : float
        0 where no price was agreed.
    to_pay : float
        What was agreed where that is less: more was not asked for.
    words : str
    """

    lines: tuple[tuple[int, str, float, float], ...]
    time: float
    parts: float
    agreed: float
    to_pay: float
    words: str


def bill_of(job: Job) -> Bill:
    """Return the bill of a job.

    Raises
    ------
    NothingSpentError
        Where neither time nor money was written.
    """
    stay = job.stay
    if not stay.spent:
        raise NothingSpentError(worded("paper.there_is_no_bill_nothing_was"))
    lines = tuple((e.number, e.body.text, e.body.minutes, e.body.money) for e in stay.spent)
    time = round(stay.an_hour * stay.minutes / 60, 2)
    parts = round(stay.money, 2)
    total = round(time + parts, 2)
    if not stay.an_hour and stay.minutes:
        words = worded("paper.no_rate_was_agreed_time_is")
    elif not stay.agreed:
        words = worded("paper.no_price_was_agreed_it_is")
    elif total > stay.agreed:
        words = worded("paper.more_was_spent_than_the_agreed", total=total - stay.agreed, agreed=stay.agreed)
    else:
        words = worded("paper.within_the_agreed", agreed=stay.agreed)
    # Who agreed on a price was not asked for more: what went beyond it is stated, not charged.
    to_pay = min(total, stay.agreed) if stay.agreed else total
    return Bill(lines=lines, time=time, parts=parts, agreed=stay.agreed, to_pay=to_pay, words=words)


def bill_pdf(job: Job, shop: str, on: dt.date) -> bytes:
    """Return the bill as PDF. Raises as `bill_of` does."""
    bill = bill_of(job)
    register_fonts()
    who = job.stay.details.get("owner", "")
    rows: list[list[Flowable]] = [[text(word, 8, SOFT) for word in ("entry", "what", "time", "money")]]
    for number, words, spent, money in bill.lines:
        cells = (
            str(number),
            words,
            in_unit(spent, "min", 6) if spent else "",
            f"{money:.2f}" if money else "",
        )
        rows.append([text(cell) for cell in cells])
    minutes = in_unit(sum(line[2] for line in bill.lines), "min", 6)
    totals = [[text(""), text("Time"), text(minutes), text(f"{bill.time:.2f}")],
              [text(""), text("Money"), text(""), text(f"{bill.parts:.2f}")],
              [text(""), text("To pay", bold=True), text(""), text(f"{bill.to_pay:.2f}", bold=True)]]  # fmt: skip
    story: list[Flowable] = [
        text(worded("paper.bill_no", name=job.name, serial=job.serial or "none"), 15, bold=True),
        text(f"{shop or 'Candor'}, {on.isoformat()}" + (f", for {who}" if who else "")),
        Spacer(1, 6 * mm),
        laid(Rows([*rows, *totals], WIDTHS), 2.5, "TOP", ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE)),
        Spacer(1, 3 * mm),
        text(bill.words),
    ]
    return pages(story, f"Bill {job.name} {job.serial}")
