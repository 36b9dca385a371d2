"""One order for all jobs: what is needed, less what is on hand; what is on its way; what arrived frees the jobs that waited."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from candor.core.quantities.show import trimmed
from candor.notebook.csv_table import write_table
from candor.notebook.entries import Entry
from candor.notebook.job import struck_ids
from candor.notebook.part_entries import NeedLine, OrderArrived, OrderLine, OrderPlaced, ReplacementChosen
from candor.notebook.stock import StockItem


@dataclass(frozen=True)
class Need:
    """Something a job needs that is neither fitted nor on order."""

    job: str
    instrument: str
    ref: str
    line: NeedLine


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
class Order:
    """An order that was placed, and which of its lines are here."""

    entry: Entry
    body: OrderPlaced
    arrived: frozenset[int]

    @property
    def open(self) -> bool:
        """Whether something is still on its way."""
        return len(self.arrived) < len(self.body.lines)


@dataclass(frozen=True)
class Spares:
    """How many more to order than are needed: `share` of them, rounded up, of what costs up to `price_up_to` each."""

    share: float = 0.0
    price_up_to: float = math.inf


def open_needs(entries: Iterable[Entry], instruments: Mapping[str, str], placed: Iterable[Order]) -> tuple[Need, ...]:
    """Return what the jobs need and nobody has ordered or fitted yet.

    Parameters
    ----------
    entries : iterable of Entry
        Replacements chosen, changes and strikes of all jobs, in order.
    instruments : mapping of str to str
        Name of the instrument of each job that is on the bench.
    placed : iterable of Order
    """
    kept = tuple(entries)
    struck = struck_ids(kept)
    chosen: dict[tuple[str, str], ReplacementChosen] = {}
    for entry in kept:
        if entry.id in struck:
            continue
        if isinstance(entry.body, ReplacementChosen):
            chosen[entry.job, entry.body.ref] = entry.body
        elif ref := getattr(entry.body, "part", ""):
            for key in [k for k in chosen if k[0] == entry.job and (k[1] == ref or k[1].split()[0] == ref)]:
                del chosen[key]  # of a can all sections
    ordered = {(line.job, line.ref, line.text) for order in placed for line in order.body.lines}
    return tuple(
        Need(job, instruments[job], ref, line)
        for (job, ref), body in chosen.items()
        if job in instruments
        for line in body.lines
        if (job, ref, line.text) not in ordered
    )


def draft(needs: Iterable[Need], on_hand: Iterable[StockItem], spares: Spares | None = None) -> tuple[DraftLine, ...]:
    """Return the order to be: equal texts of one supplier together, less stock, plus spares; by supplier, then text."""
    policy = spares or Spares()
    stock = {item.body.key: item for item in on_hand}
    grouped: dict[tuple[str, str], list[Need]] = {}
    for need in needs:
        grouped.setdefault((need.line.supplier, need.line.text), []).append(need)
    lines = []
    for (supplier, text), members in sorted(grouped.items()):
        needed = sum(n.line.count for n in members)
        keys = {n.line.stock for n in members if n.line.stock in stock}
        there = min(sum(stock[key].count for key in keys), needed)
        price = max(n.line.price for n in members)
        more = math.ceil((needed - there) * policy.share) if needed > there and price <= policy.price_up_to else 0
        lines.append(DraftLine(text, supplier, needed, there, more, price, tuple(members)))
    return tuple(lines)


def to_order(number: str, lines: Iterable[DraftLine]) -> OrderPlaced | None:
    """Return the order as it is placed, one line for each job's part and one for the spares; None where nothing is short."""
    found: list[OrderLine] = []
    for line in lines:
        left = line.on_hand
        if not line.count:
            continue
        for need in line.needs:
            taken = min(left, need.line.count)
            left -= taken
            if need.line.count > taken:
                found.append(
                    OrderLine(job=need.job, ref=need.ref, text=line.text, count=need.line.count - taken,
                              supplier=line.supplier, price=line.price)
                )  # fmt: skip
        if line.spares:
            found.append(OrderLine(text=line.text, count=line.spares, supplier=line.supplier, price=line.price))
    return OrderPlaced(number=number, lines=tuple(found)) if found else None


def orders(entries: Iterable[Entry]) -> tuple[Order, ...]:
    """Fold the shop's entries into its orders, the newest first."""
    kept = tuple(entries)
    struck = struck_ids(kept)
    placed: dict[str, Entry] = {}
    arrived: dict[str, set[int]] = {}
    for entry in kept:
        if entry.id in struck:
            continue
        if isinstance(entry.body, OrderPlaced):
            placed[entry.id] = entry
        elif isinstance(entry.body, OrderArrived):
            arrived.setdefault(entry.body.order, set()).update(entry.body.lines)
    return tuple(Order(e, e.body, frozenset(arrived.get(key, ()))) for key, e in reversed(placed.items()))


def still_waiting(placed: Iterable[Order]) -> Mapping[str, tuple[str, ...]]:
    """Return, for every job that waits, the designators whose parts are on their way."""
    waiting: dict[str, list[str]] = {}
    for order in placed:
        for place, line in enumerate(order.body.lines):
            if line.job and place not in order.arrived:
                waiting.setdefault(line.job, []).append(line.ref)
    return {job: tuple(dict.fromkeys(refs)) for job, refs in waiting.items()}


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


def say_money(agreed: float, an_hour: float, minutes: float, money: float, ordered: float) -> tuple[str, str]:
    """Say time and parts against the price agreed: (sentence, "", "near" or "over").

    The warning comes at four fifths of the price (common practice, no source), before it is passed.
    """
    time = an_hour * minutes / 60
    total = money + ordered + time
    parts = [f"parts {money + ordered:.2f}"] if money + ordered or not minutes else []
    parts += [f"time {time:.2f} ({trimmed(minutes / 60, 2)} h)"] if minutes else []
    words = " + ".join(parts)
    if not agreed:
        return f"{words}; no price is agreed" if total else "no price is agreed", ""
    if total > agreed:
        return (
            f"{words} = {total:.2f}: {total - agreed:.2f} over the {agreed:.2f} agreed. Ask the owner first.",
            "over",
        )
    if total > 0.8 * agreed:
        return (
            f"{words} = {total:.2f} of the {agreed:.2f} agreed: {agreed - total:.2f} left. Ask before more is ordered.",
            "near",
        )
    return f"{words} = {total:.2f} of the {agreed:.2f} agreed", ""
