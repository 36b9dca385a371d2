"""What was chosen to go in a part's place."""

import pytest

from candor.core.combine.exact import Piece
from candor.core.combine.search import Asked, search
from candor.core.parts.part import Part
from candor.core.parts.replacement import propose
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.parts.replacing import of_answer, of_proposal
from candor.notebook.parts.stock import StockItem

TENS = StockItem(
    StockCounted(key="ten", what="resistor", value=10e3, tolerance=0.01, make="metal film", watts=0.5, volts=350,
                 supplier="Quayside", price=0.1), 8,
)  # fmt: skip


def test_equal_pieces_of_an_arrangement_are_one_line():
    asked = Asked(kind="resistor", target=30e3, below=0.02, above=0.02, measured=None, volts=0.0, most=3, series="")
    found = search(asked, [Piece(value=10e3, tolerance=0.01, count=4, name=TENS.text)])
    answer = next(a for a in found.answers if len(a.pieces) == 3)
    (line,) = of_answer("R7", found, answer, [TENS]).lines
    assert (line.count, line.stock, line.supplier, line.price) == (3, "ten", "Quayside", 0.1)


@pytest.mark.parametrize(("stock", "supplier", "price"), [([TENS], "Quayside", 0.1), ([], "elsewhere", 0.3)])
def test_a_proposal_from_stock_has_the_stocks_supplier_and_price(stock, supplier, price):
    part = Part(ref="R7", kind="resistor", nominal=10e3, below=0.05, above=0.05)
    proposal = propose(part, [item.piece for item in stock])[0]
    (line,) = of_proposal(ref="R7", proposal=proposal, stock=stock, supplier="elsewhere", price=0.3).lines
    assert (line.value, line.supplier, line.price, bool(line.stock)) == (10e3, supplier, price, bool(stock))
