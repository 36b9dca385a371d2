"""The shop: its stock and orders, and what it has learnt to look for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Nested
from candor.notebook.entries.entry import said
from candor.notebook.entries.fields_entries import NotBelow, Text
from candor.notebook.entries.goods_entries import Goods
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import stay_record


class ItemAdded(Body):
    """An item of one's own on the checklist of a zone, for every instrument of a pack; an entry of the shop."""

    kind: Literal["item_added"] = "item_added"
    pack: str
    zone: str
    item: Annotated[str, Field(min_length=1)]


class OrderLine(Nested):
    """A line of an order, for one job's part or, as a spare, for stock (no job, but what it is)."""

    job: str = ""
    ref: str = ""
    text: Text
    count: Annotated[int, Field(ge=1)]
    supplier: str = ""
    price: NotBelow = 0.0
    goods: Goods | None = None


class StockCounted(Goods, Body):
    """An item of stock as it was counted; the last one for a key holds (an entry of the shop)."""

    kind: Literal["stock"] = "stock"
    key: Text
    count: Annotated[int, Field(ge=0)] = 0
    place: str = ""
    supplier: str = ""
    price: NotBelow = 0.0


class StockMoved(Body):
    """Pieces taken from stock or put back by hand (an entry of the shop).

    With a `job` it was written by an early Candor beside the change that fitted a part; that change moves stock by itself.
    """

    kind: Literal["stock_moved"] = "stock_moved"
    key: Text
    by: int
    job: str = ""
    reason: str = ""


class OrderPlaced(Body):
    """Parts were ordered (an entry of the shop)."""

    kind: Literal["order"] = "order"
    number: Text
    lines: Annotated[tuple[OrderLine, ...], Field(min_length=1)]


class OrderArrived(Body):
    """Lines of an order arrived, by their place in it (an entry of the shop)."""

    kind: Literal["order_arrived"] = "order_arrived"
    order: Text
    lines: tuple[Annotated[int, Field(ge=0)], ...]


WORDS = dict(
    (
        said(ItemAdded, lambda b, _: worded("entries.on_the_checklist_of", pack=b.pack, zone=b.zone, item=b.item)),
        said(StockCounted, lambda b, _: f"stock: {b.count} x {b.component.text}"),
        said(
            StockMoved,
            lambda b, _: worded("entries.stock_of", by=b.by, key=b.key, reason=", " + b.reason if b.reason else ""),
        ),
        said(
            OrderPlaced,
            lambda b, _: worded(
                "entries.order_pieces_lines", number=b.number, count=sum(x.count for x in b.lines), lines=len(b.lines)
            ),
        ),
        said(
            OrderArrived,
            lambda b, n: worded("entries.arrived_of_the_order_in_entry", n=n.get(b.order, 0), lines=len(b.lines)),
        ),
    )
)


@dataclass(frozen=True)
class ShopRecord:
    """What stands of the shop's own entries.

    Attributes
    ----------
    details : mapping of str to str
        Its name, mains, meters and policies.
    items : tuple of ItemAdded
        What it has learnt to look for, in the order it was added.
    """

    details: Mapping[str, str] = field(default_factory=dict)
    items: tuple[ItemAdded, ...] = ()

    def own_items(self, pack: str, zone: str) -> tuple[str, ...]:
        """Return the items added to a zone's checklist for a pack."""
        return tuple(dict.fromkeys(b.item for b in self.items if (b.pack, b.zone) == (pack, zone)))


def shop_record(standing: Standing) -> ShopRecord:
    """Return what stands of the shop's own entries."""
    return ShopRecord(stay_record(standing).details, tuple(e.body for e in standing.of(ItemAdded)))
