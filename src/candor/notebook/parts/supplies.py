"""What the shop has, needs and awaits, folded in one pass from its stock, its orders and the changes in all jobs.

A part fitted from stock is gone from it, struck it is there again; spares that arrive go into stock; what a job wants of
stock is spoken for until it is fitted or wanted no more.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.entry import AnyEntry, Entry, says
from candor.notebook.entries.goods_entries import Goods, NeedLine
from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.entries.shop_entries import OrderArrived, OrderPlaced, StockCounted, StockMoved
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.strikes_entries import struck_ids
from candor.notebook.parts.stock import StockItem, identity

KINDS = ("stock", "stock_moved", "order", "order_arrived", "replacement", "change", "strike", "unstrike")


@dataclass(frozen=True)
class Need:
    """Something a job needs that is neither fitted nor on order: `count` of a line."""

    job: str
    instrument: str
    ref: str
    line: NeedLine
    count: int


@dataclass(frozen=True)
class Order:
    """An order that was placed, and which of its lines are here."""

    entry: Entry[OrderPlaced]
    arrived: frozenset[int]

    @property
    def body(self) -> OrderPlaced:
        """What was ordered."""
        return self.entry.body

    @property
    def open(self) -> bool:
        """Whether something is still on its way."""
        return len(self.arrived) < len(self.body.lines)


@dataclass(frozen=True)
class Supplies:
    """The whole shop's parts.

    Attributes
    ----------
    stock : tuple of StockItem
        By kind and value.
    needs : tuple of Need
        Of the jobs on the bench.
    orders : tuple of Order
        The newest first.
    """

    stock: tuple[StockItem, ...]
    needs: tuple[Need, ...]
    orders: tuple[Order, ...]

    def missing(self) -> tuple[str, ...]:
        """Say of which items more were taken than were counted."""
        return tuple(
            worded("parts.more_taken_than_counted", text=i.text, missing=i.missing) for i in self.stock if i.missing
        )

    def free(self, job: str, ref: str) -> tuple[StockItem, ...]:
        """Return stock less what is spoken for by other parts than `ref` of `job`."""
        claimed: Counter[str] = Counter()
        items = {i.body.key: i.body for i in self.stock}
        for need in self.needs:
            if (need.job, need.ref) != (job, ref):
                claimed[key_of(need.line, items)] += need.count
        return tuple(StockItem(i.body, max(i.count - claimed[i.body.key], 0)) for i in self.stock)


def key_of(goods: Goods, items: Mapping[str, StockCounted]) -> str:
    """Return the key of the stock item meant, or of one that is the same; nothing where there is none."""
    if isinstance(goods, NeedLine) and goods.stock in items:
        return goods.stock
    wanted = identity(goods)
    return next((key for key, item in items.items() if identity(item) == wanted), "")


class _Fold:
    def __init__(self) -> None:
        self.items: dict[str, StockCounted] = {}
        self.counts: Counter[str] = Counter()
        self.missing: Counter[str] = Counter()
        self.chosen: dict[tuple[str, str], ReplacementChosen] = {}
        self.ordered: Counter[tuple[str, str, str]] = Counter()
        self.placed: dict[str, Entry[OrderPlaced]] = {}
        self.arrived: dict[str, set[int]] = {}

    def take(self, entry: AnyEntry) -> None:
        match entry.body:
            case StockCounted() as body:
                self.items[body.key], self.counts[body.key], self.missing[body.key] = body, body.count, 0
            case StockMoved(job="") as body:
                self._move(body.key, body.by)
            case ReplacementChosen() as body:
                self.chosen[entry.job, body.ref] = body
            case ChangeMade(part=part) if part:
                self._fit(entry.job, part)
            case OrderPlaced() if says(entry, OrderPlaced):
                self.placed[entry.id] = entry
                for line in entry.body.lines:
                    self.ordered[line.job, line.ref, line.text] += line.count
            case OrderArrived() as body:
                self._arrive(body)

    def left(self, job: str, ref: str, line: NeedLine) -> int:
        """How many of a line are not on order."""
        return max(line.count - self.ordered[job, ref, line.text], 0)

    def _move(self, key: str, by: int) -> None:
        if key in self.items:
            left = self.counts[key] + by
            self.counts[key] = max(left, 0)
            self.missing[key] += max(-left, 0)  # two benches took the last one, or one was miscounted

    def _fit(self, job: str, part: str) -> None:
        """The part is in: what was chosen for it, or for all sections of the can, is needed no more."""
        for ref in [ref for j, ref in self.chosen if j == job and (ref == part or ref.split()[0] == part)]:
            for line in self.chosen.pop((job, ref)).lines:
                self._move(key_of(line, self.items), -self.left(job, ref, line))
                self.ordered.pop((job, ref, line.text), None)

    def _arrive(self, body: OrderArrived) -> None:
        here = self.arrived.setdefault(body.order, set())
        placed = self.placed.get(body.order)
        new = [x for x in body.lines if x not in here]
        here.update(new)
        for place, line in enumerate(placed.body.lines if placed else ()):
            if place in new and line.goods is not None and not line.job:
                key = key_of(line.goods, self.items) or f"{body.order}-{place}"
                if key not in self.items:
                    self.items[key] = StockCounted(
                        key=key, supplier=line.supplier, price=line.price, **line.goods.model_dump()
                    )
                self.counts[key] += line.count


def supplies(entries: Iterable[AnyEntry], instruments: Mapping[str, str]) -> Supplies:
    """Fold entries into what the shop has, needs and awaits.

    Parameters
    ----------
    entries : iterable of Entry
        Of `KINDS`, of all jobs and the shop, in order.
    instruments : mapping of str to str
        Name of the instrument of each job that is on the bench.
    """
    kept = tuple(entries)
    struck = struck_ids(kept)
    fold = _Fold()
    for entry in kept:
        if entry.id not in struck:
            fold.take(entry)
    items = (StockItem(body, fold.counts[key], fold.missing[key]) for key, body in fold.items.items())
    needs = (
        Need(job=job, instrument=instruments[job], ref=ref, line=line, count=fold.left(job, ref, line))
        for (job, ref), body in fold.chosen.items()
        if job in instruments
        for line in body.lines
    )
    return Supplies(
        tuple(sorted(items, key=lambda i: (i.body.what, i.body.value, -i.body.volts))),
        tuple(n for n in needs if n.count),
        tuple(Order(e, frozenset(fold.arrived.get(key, ()))) for key, e in reversed(fold.placed.items())),
    )


def still_waiting(placed: Iterable[Order]) -> Mapping[str, tuple[str, ...]]:
    """Return, for every job that waits, the designators whose parts are on their way."""
    waiting: dict[str, list[str]] = {}
    for order in placed:
        for place, line in enumerate(order.body.lines):
            if line.job and place not in order.arrived:
                waiting.setdefault(line.job, []).append(line.ref)
    return {job: tuple(dict.fromkeys(refs)) for job, refs in waiting.items()}
