"""One order for all jobs: what is needed, less what is on hand, plus spares; and time and parts against the price agreed."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Literal, get_args

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.severity import Severity
from candor.core.worded import worded
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.goods_entries import Goods, goods_of
from candor.notebook.entries.shop_entries import OrderArrived, OrderLine, OrderPlaced
from candor.notebook.entries.stay_entries import StatusSet
from candor.notebook.exchange.csv_table import write_table
from candor.notebook.parts.stock import StockItem
from candor.notebook.parts.supplies import Need, Order, key_of, still_waiting


@dataclass(frozen=True)
class DraftLine:
    """One line of the order to be: equal needs of all jobs together.

    Attributes
    ----------
    text, supplier : str
    needed : int
        By the jobs.
    on_hand : int
        Of them from stock.
    spares : int
        More, by the spares policy.
    price : float
        Of one.
    needs : tuple of Need
    """

    text: str
    supplier: str
    needed: int
    on_hand: int
    spares: int
    price: float
    needs: tuple[Need, ...]

    @property
    def count(self) -> int:
        """How many to order."""
        short = self.needed - self.on_hand
        return short + self.spares if short > 0 else 0

    @property
    def cost(self) -> float:
        """What they cost together."""
        return self.count * self.price


@dataclass(frozen=True)
class Spares:
    """How many more to order than are needed: `share` of them, rounded up, of what costs up to `price_up_to` each."""

    share: float = 0.0
    price_up_to: float = math.inf

    @classmethod
    def read(cls, percent: str, price_up_to: str) -> Spares:
        """Return the policy as it is typed; empty texts mean no spares, and spares of whatever costs.

        Raises
        ------
        CandorError
            Where a text is not a number of zero or more, or over 1000 %.
        """
        numbers = []
        for text, what, default, most in (
            (percent, worded("parts.spares_in_per_cent_such_as"), 0.0, 1000.0),
            (price_up_to, worded("parts.a_price_of_one_such_as"), math.inf, math.inf),
        ):
            number = parse_number(text.strip().rstrip("% "), what) if text.strip() else default
            if not 0 <= number <= most:
                raise CandorError(
                    worded("parts.cannot_be_expected", text=text.strip(), what=what), value=text, expected=what
                )
            numbers.append(number)
        return cls(numbers[0] / 100, numbers[1])


LineOrder = Literal["by part", "dearest first", "most first"]
LINE_ORDERS: tuple[LineOrder, ...] = get_args(LineOrder)


def in_order(lines: Sequence[DraftLine], order: LineOrder) -> tuple[DraftLine, ...]:
    """Return lines as they are to be looked at, each supplier's together; what stands alike stands as it came, by part."""
    keys: Mapping[LineOrder, Callable[[DraftLine], float]] = {
        "dearest first": lambda x: -x.cost,
        "most first": lambda x: -x.count,
    }
    suppliers = {x.supplier: place for place, x in enumerate({y.supplier: y for y in lines}.values())}
    return tuple(sorted(lines, key=lambda x: (suppliers[x.supplier], keys[order](x) if order in keys else 0.0)))


def draft(needs: Iterable[Need], on_hand: Iterable[StockItem], spares: Spares | None = None) -> tuple[DraftLine, ...]:
    """Return the order to be: equal texts of one supplier together, less stock, plus spares; by supplier, then text."""
    policy = spares or Spares()
    stock = tuple(on_hand)
    items, left = {i.body.key: i.body for i in stock}, {i.body.key: i.count for i in stock}
    grouped: dict[tuple[str, str], list[Need]] = {}
    for need in needs:
        grouped.setdefault((need.line.supplier, need.line.text), []).append(need)
    lines = []
    for (supplier, text), members in sorted(grouped.items()):
        needed, there = sum(n.count for n in members), 0
        for need in members:
            key = key_of(need.line, items)
            taken = min(left.get(key, 0), need.count)
            left[key] = left.get(key, 0) - taken
            there += taken
        price = max(n.line.price for n in members)
        more = math.ceil((needed - there) * policy.share) if needed > there and price <= policy.price_up_to else 0
        lines.append(
            DraftLine(
                text=text,
                supplier=supplier,
                needed=needed,
                on_hand=there,
                spares=more,
                price=price,
                needs=tuple(members),
            )
        )
    return tuple(lines)


def to_order(number: str, lines: Iterable[DraftLine]) -> OrderPlaced | None:
    """Return the order as it is placed, one line for each job's part and one for the spares; None where nothing is short."""
    found: list[OrderLine] = []
    for line in lines:
        left = line.on_hand
        if not line.count:
            continue
        for need in line.needs:
            taken = min(left, need.count)
            left -= taken
            if need.count > taken:
                found.append(
                    OrderLine(job=need.job, ref=need.ref, text=line.text, count=need.count - taken,
                              supplier=line.supplier, price=line.price)
                )  # fmt: skip
        if line.spares:
            goods = Goods(**goods_of(line.needs[0].line.component))
            found.append(
                OrderLine(text=line.text, count=line.spares, supplier=line.supplier, price=line.price, goods=goods)
            )
    return OrderPlaced(number=number, lines=tuple(found)) if found else None


Placing = OrderPlaced  # an order as it would be placed


def next_number(placed: Iterable[Order], now: dt.datetime) -> str:
    """Return the number the next order gets: the day and its place in it."""
    day = f"{now:%y%m%d}"
    return f"{day}-{sum(order.body.number.startswith(day) for order in placed) + 1}"


def placing(body: OrderPlaced) -> tuple[Draft, ...]:
    """Return the entries of an order that is placed: the order, and for each of its jobs that it waits for parts."""
    jobs = dict.fromkeys(line.job for line in body.lines if line.job)
    waits = StatusSet(status="waiting", text=worded("parts.for_parts_order", number=body.number))
    return Draft("", body), *(Draft(job, waits) for job in jobs)


def arriving(
    placed: Iterable[Order], order: Order, lines: tuple[int, ...]
) -> tuple[tuple[Draft, ...], tuple[str, ...]]:
    """Return the entries of lines that arrived, by their place in the order, and the jobs that then wait no more."""
    before = tuple(placed)
    here = replace(order, arrived=order.arrived | set(lines))
    after = still_waiting(here if o.entry.id == order.entry.id else o for o in before)
    freed = tuple(job for job in still_waiting(before) if job not in after)
    hands = StatusSet(status="wants hands", text=worded("parts.its_parts_are_here"))
    arrived = Draft("", OrderArrived(order=order.entry.id, lines=lines))
    return (arrived, *(Draft(job, hands) for job in freed)), freed


def money_of(job: str, placed: Iterable[Order]) -> float:
    """Return what the parts ordered for a job cost."""
    return sum(line.price * line.count for order in placed for line in order.body.lines if line.job == job)


def order_csv(order: OrderPlaced, instruments: Mapping[str, str]) -> str:
    """Return an order as CSV: supplier, text, count, price, for which job and part."""
    rows = [
        [line.supplier, line.text, line.count, trimmed(line.price) if line.price else "",
         instruments.get(line.job, line.job) or "spare", line.ref]
        for line in sorted(order.lines, key=lambda x: (x.supplier, x.text))
    ]  # fmt: skip
    return write_table(("supplier", "text", "count", "price", "for", "part"), rows)


def say_money(agreed: float, an_hour: float, minutes: float, money: float, ordered: float) -> tuple[str, Severity]:
    """Say time and parts against the price agreed, and how much that matters.

    The warning comes at four fifths of the price (common practice, no source), before it is passed.
    """
    time = an_hour * minutes / 60
    total = money + ordered + time
    said = [f"parts {money + ordered:.2f}"] if money + ordered or not minutes else []
    said += [worded("parts.time_h", time=time, minutes=trimmed(minutes / 60, 2))] if minutes else []
    words = " + ".join(said)
    if not agreed:
        return worded("parts.no_price_is_agreed_2", words=words) if total else worded(
            "parts.no_price_is_agreed"
        ), Severity.NOTE
    if total > agreed:
        return (
            worded(
                "parts.over_the_agreed_ask_the_owner", words=words, total=total, total_2=total - agreed, agreed=agreed
            ),
            Severity.REFUSED,
        )
    if total > 0.8 * agreed:
        return (
            worded(
                "parts.of_the_agreed_left_ask_before",
                words=words,
                total=total,
                agreed=agreed,
                agreed_2=agreed - total,
            ),
            Severity.ASK,
        )
    return worded("parts.of_the_agreed", words=words, total=total, agreed=agreed), Severity.NOTE
