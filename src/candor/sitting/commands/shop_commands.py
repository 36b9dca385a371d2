"""Commands of the shop: stock, orders, standards, tubes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping

from candor.core.errors import ValueTextError
from candor.core.plan.shop_hours import read_day
from candor.core.worded import worded
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.shop_entries import OrderPlaced, StockMoved
from candor.notebook.entries.standards_entries import (
    ChainRecorded,
    StandardCompared,
    StandardRecorded,
    StandardWithdrawn,
)
from candor.notebook.entries.tubes_entries import LineSag, NudgeSaid, TubeGone, TubeKnown, TubeRecorded, TubeTested
from candor.notebook.parts.orders import placing
from candor.notebook.standards.chain_text import chains_on
from candor.notebook.standards.standards import Standard
from candor.sitting.command import Command, of_jobs, of_shop

FARTHEST = 366  # days that something may be waited for


def move_stock(key: str, by: int, reason: str) -> Command:
    """Stock came or went."""
    return of_shop(f"{reason}: {by:+d}", StockMoved(key=key, by=by, reason=reason))


def place_order(order: OrderPlaced) -> Command:
    """An order is placed: its jobs wait for their parts."""
    return of_jobs(f"order {order.number}", placing(order))


def receive_order(drafts: Iterable[Draft]) -> Command:
    """Lines of an order arrived."""
    return of_jobs("arrived", drafts)


def record_standard(recorded: StandardRecorded | ChainRecorded, older: str, known: Mapping[str, Standard]) -> Command:
    """A standard or a chain is recorded; anew where `older` is the entry of what it was: then the chains on it are, too.

    Jobs that read against it go on with what it is now: see notebook.standards.chosen_for.
    """
    first = Draft("", recorded)
    drafts, waiting = [first], [(older, first.id)] if older else []
    while waiting:
        of, by = waiting.pop()
        for chain, body in chains_on(of, by, tuple(known.values())):
            again = Draft("", body)
            drafts.append(again)
            waiting.append((chain, again.id))
    return of_jobs(f"recorded {recorded.name}", drafts)


def compare_standard(compared: StandardCompared) -> Command:
    """A standard was checked against another."""
    return of_shop(f"checked {compared.standard}", compared)


def withdraw_standard(key: str, reason: str, back: str = "", today: dt.date = dt.date.min) -> Command:
    """A standard is out of service, until a day where one is said; without a reason it is in it again.

    Raises
    ------
    ValueTextError
        Where the day is none, or none of the year that lies ahead.
    """
    until = read_day(back, today) if back.strip() and reason else None
    if until is not None and not 0 < (until - today).days <= FARTHEST:
        raise ValueTextError(
            worded("plan.is_no_day_of_the_year_ahead", text=back.strip()),
            value=back,
            expected=worded("plan.march_friday"),
        )
    body = StandardWithdrawn(standard=key, reason=reason, until=until)
    return of_shop(f"{key} {'out of' if reason else 'in'} service", body)


def record_tube(tube: TubeRecorded) -> Command:
    """A tube is on hand, by its key."""
    return of_shop(f"tube {tube.key}", tube)


def know_tube(**said: object) -> Command:
    """A figure of a tube that was found apart from any tester, by the fields of `TubeKnown`."""
    known = TubeKnown.model_validate(said)
    return of_shop(f"figure of {known.tube}", known)


def tube_tested(test: TubeTested) -> Command:
    """What a tube was tested for."""
    return of_shop(f"{test.test} of {test.tube}", test)


def nudge_sheet(*sheet: NudgeSaid) -> Command:
    """The sheet of a tester: what it says of known tubes."""
    return of_shop(worded("sitting.sheet_of_a_tester"), *sheet)


def line_sag(sag: LineSag) -> Command:
    """The line of a tester, empty and with one heavy tube."""
    return of_shop(worded("sitting.line_of_a_tester"), sag)


def move_tube(name: str, drafts: Iterable[Draft]) -> Command:
    """A tube is put into a socket, or taken out of it: a change of that job."""
    return of_jobs(name, drafts)


def tube_gone(key: str, reason: str) -> Command:
    """A tube is gone: why."""
    return of_shop(f"{key} gone", TubeGone(tube=key, reason=reason))


COMMANDS = (
    move_stock, place_order, receive_order, record_standard, compare_standard, withdraw_standard, record_tube, know_tube,
    tube_tested, nudge_sheet, line_sag,
    move_tube, tube_gone,
)  # fmt: skip
