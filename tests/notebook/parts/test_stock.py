"""Stock, counted, moved, written and read back."""

import pytest

from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.shop_entries import StockMoved
from candor.notebook.parts.stock import pieces, preview_stock, stock_shown, write_stock
from stockroom import film, supplied


def test_stock_is_counted_moved_written_and_read_back(notebook):
    notebook.append(
        drafts_of("", [film(), film("r", 4, what="resistor", value=330e3, volts=350, watts=0.5, price=0.1)])
    )
    notebook.write("", StockMoved(key="f", by=-2, reason="C8"))
    items = supplied(notebook).stock
    assert [(i.body.key, i.count) for i in items] == [("f", 1), ("r", 4)]
    text = write_stock(items)
    back = preview_stock(text.encode(), items)
    assert back.faults == ()
    assert [(b.key, b.count, b.value) for b in back.bodies] == [("f", 1, pytest.approx(47e-9)), ("r", 4, 330e3)]
    assert preview_stock(text.replace(",", ";").replace(".", ",").encode("latin-1"), items).bodies == back.bodies
    assert len(pieces(items, "resistor")[1]) == 1


def test_it_is_shown_in_the_order_that_is_chosen_and_of_the_words_wanted(notebook):
    made = (
        film("f", 9),
        film("g", 2, value=0.22e-6, make="mica", place="box 2"),
        film("h", 5, value=1e-9, make="mica", place="box 1"),
    )
    notebook.append(drafts_of("", made))
    items = supplied(notebook).stock
    orders = {"by value": "hfg", "fewest first": "ghf", "by place": "hgf"}
    assert {o: "".join(i.body.key for i in stock_shown(items, order=o)) for o in orders} == orders
    assert [i.body.key for i in stock_shown(items, "BOX mica", "by make")] == ["h", "g"]


@pytest.mark.parametrize(
    ("row", "fault"),
    [("resistor,47k,2.5", "whole number"), ("gizmo,5,1", "not a kind of part"), ("resistor,0,1", "value"),
     ("capacitor,47n,-3", "count"), ("resistor,47 nF,1", "is a capacitance")],
)  # fmt: skip
def test_stock_that_cannot_be(row, fault):
    assert fault in preview_stock(f"what,value,count\n{row}\n".encode()).faults[0]
