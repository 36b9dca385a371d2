"""Stock: an item of it, in words, as the core weighs it, and as CSV in and out."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable, Mapping
from typing import Annotated, Literal, get_args

from pydantic import BeforeValidator

from candor.core.combine.exact import Piece
from candor.core.errors import CandorError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.parts.codes import Marked
from candor.core.parts.component import OnHand
from candor.core.parts.part_kinds import kind_of, read_value, unit_of
from candor.core.parts.replacement import Needs
from candor.core.quantities import engineering, parse_number
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.goods_entries import Goods
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.exchange.columns import Folded, Number, TableRow, Volts, Watts, read_rows
from candor.notebook.exchange.csv_table import write_table
from candor.notebook.parts.parts_import import PartsImport, understood_rows


def _share(cell: object) -> object:
    if not isinstance(cell, str):
        return cell
    return parse_number(cell.rstrip("% "), worded("parts.a_tolerance_in_per_cent_such")) / 100


def _pieces(cell: object) -> object:
    return parse_number(cell, worded("parts.a_number_of_pieces_such_as_2")) if isinstance(cell, str) else cell


class StockRow(TableRow):
    """The columns of a table of stock."""

    what: Folded
    value: str
    tolerance: Annotated[float, BeforeValidator(_share)] = 0.0
    make: str = ""
    volts: Volts = 0.0
    watts: Watts = 0.0
    safety: str = ""
    celsius: Number = 0.0
    count: Annotated[float, BeforeValidator(_pieces)]
    place: str = ""
    supplier: str = ""
    price: Number = 0.0


HEADER = StockRow.columns()


@dataclass(frozen=True)
class StockItem:
    """An item of stock: as counted, and how many are there now; `missing` were taken more than that since it was counted."""

    body: StockCounted
    count: int
    missing: int = 0

    @property
    def text(self) -> str:
        """Value, tolerance, rating and make: ``47 nF 10 % 630 V film``."""
        return self.piece.text

    @property
    def piece(self) -> OnHand:
        """The item as the core weighs it for replacing."""
        return OnHand(**self.body.said_of_it(), key=self.body.key, count=self.count)


StockOrder = Literal["by value", "by make", "fewest first", "by place"]
STOCK_ORDERS: tuple[StockOrder, ...] = get_args(StockOrder)


def stock_shown(
    items: Iterable[StockItem], wanted: str = "", order: StockOrder = "by value"
) -> tuple[StockItem, ...]:
    """Return the items of which all the words wanted are said, in an order; what stands alike in it stands by value."""
    words = _spelled(wanted).split()
    kept = [i for i in items if all(w in _spelled(f"{i.text} {i.body.place} {i.body.supplier}") for w in words)]
    keys: Mapping[StockOrder, Callable[[StockItem], tuple[object, ...]]] = {
        "by value": lambda i: (i.body.what, i.body.value),
        "by make": lambda i: (not i.body.make, i.body.make, i.body.what, i.body.value),
        "fewest first": lambda i: (i.count,),
        "by place": lambda i: (not i.body.place, i.body.place.casefold()),
    }
    by_value = sorted(kept, key=keys["by value"])
    return tuple(by_value if order == "by value" else sorted(by_value, key=keys[order]))


def _spelled(text: str) -> str:
    return text.casefold().replace("µ", "u").replace("μ", "u")


def write_stock(items: Iterable[StockItem]) -> str:
    """Return stock as CSV, which `preview_stock` reads back."""
    rows = []
    for item in items:
        b = item.body
        value = engineering(b.value, unit_of(b.what), 6).replace("Ω", "ohm").replace("µ", "u") if b.value else ""
        value = f"{b.type} {value}".strip()
        tolerance = f"{trimmed(100 * b.tolerance)} %" if b.tolerance else ""
        numbers = [trimmed(x) if x else "" for x in (b.volts, b.watts, b.celsius, b.price)]
        rows.append([b.what, value, tolerance, b.make, numbers[0], numbers[1], b.safety, numbers[2], item.count, b.place,
                     b.supplier, numbers[3]])  # fmt: skip
    return write_table(HEADER, rows)


def preview_stock(content: bytes, known: Iterable[StockItem] = ()) -> PartsImport:
    """Understand a table of stock; an item that is there already (all but count, place, supplier and price) is recounted."""
    keys = {identity(item.body): item.body.key for item in known}
    return understood_rows(
        read_rows(content, StockRow),
        lambda row: _counted(row, keys),
        lambda body: f"{body.count} x {StockItem(body, body.count).text}",
        worded("parts.there_is_no_stock_in_the"),
    )


def _counted(row: StockRow, keys: dict[tuple[object, ...], str]) -> StockCounted:
    what = kind_of("", {"r": "resistor", "c": "capacitor"}.get(row.what, row.what), row.value, row.make)
    type_, marks = read_value(row.value, what)
    marked = marks[0] if marks else Marked(0.0)
    count = _whole(row.count, f"{row.count:g}")
    made = StockCounted.model_validate(
        {
            "key": "new",
            "what": what,
            "value": marked.value,
            "type": type_,
            "tolerance": row.tolerance or marked.above or 0.0,
            "count": count,
            **row.said("volts", "watts", "celsius", "price", "make", "safety", "place", "supplier"),
        }
    )
    return made.model_copy(update={"key": keys.get(identity(made)) or uuid.uuid4().hex[:12]})


def _whole(number: float, typed: str) -> int:
    if number != int(number):
        raise CandorError(worded("parts.pieces_expected_a_whole_number", typed=typed), value=typed)
    return int(number)


def read_recount(text: str, there: int) -> int:
    """Return by how many pieces a count changes what is there: ``12`` is the new count, ``+5`` and ``-1`` come and go.

    Raises
    ------
    CandorError
        Where it is not a whole number, or more would be taken than there are.
    """
    typed = text.strip().replace("−", "-")
    number = parse_number(typed, worded("parts.a_number_of_pieces_such_as"))
    whole = _whole(number, typed)
    by = whole if typed[:1] in "+-" else whole - there
    if there + by < 0:
        raise CandorError(worded("parts.there_are_cannot_be_taken_nothing", there=there, by=-by), value=typed)
    return by


def identity(b: Goods) -> tuple[object, ...]:
    """Return what tells a piece from others: equal where one may lie in the drawer of the other."""
    return b.what, f"{b.value:.6g}", f"{b.tolerance:.4g}", b.make, b.volts, b.watts, b.safety, b.celsius


def pieces(
    items: Iterable[StockItem], what: str, wanted: Needs | None = None
) -> tuple[tuple[StockItem, ...], tuple[Piece, ...]]:
    """Return the items of one kind that are there and may be combined for what is wanted, and the same as pieces."""
    there = tuple(
        i for i in items if i.body.what == what and i.count > 0 and (wanted is None or _suits(i.body, wanted))
    )
    return there, tuple(
        Piece(
            value=i.body.value,
            tolerance=i.body.tolerance,
            count=min(i.count, 4),
            name=i.text,
            volts=i.body.volts,
            watts=i.body.watts,
        )
        for i in there
    )


def stock_pieces(content: bytes, what: str) -> tuple[Piece, ...]:
    """Return what a table of stock has of one kind as pieces.

    Raises
    ------
    ValueTextError
        With every line that cannot be read.
    """
    found = preview_stock(content)
    if found.fault:
        raise ValueTextError(worded("parts.the_stock_cannot_be_taken", fault=found.fault), value="stock")
    return pieces((StockItem(b, b.count) for b in found.bodies if isinstance(b, StockCounted)), what)[1]


def _suits(b: StockCounted, wanted: Needs) -> bool:
    """A capacitor that touches the mains must be of a safety class; electrolytics stay among themselves, at their heat."""
    if b.what == "resistor":
        return True
    if wanted.safety and not b.safety:
        return False
    if (b.make == "electrolytic") != (wanted.make == "electrolytic"):
        return False
    return b.celsius >= wanted.celsius
