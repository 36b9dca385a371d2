"""An order on paper: by supplier, with what each line is for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from candor.notebook.entries.shop_entries import OrderLine, OrderPlaced
from candor.paper.drawn_ribbon import RULE, SOFT
from candor.paper.sheet import Rows, laid, pages, register_fonts, text

WIDTHS = (16 * mm, 68 * mm, 18 * mm, 22 * mm, 50 * mm)


def order_pdf(order: OrderPlaced, instruments: Mapping[str, str], shop: str, on: dt.date) -> bytes:
    """Return an order as PDF: equal texts of a supplier in one line, with what they are for; a total where priced."""
    register_fonts()
    story: list[Flowable] = [
        text(f"Order {order.number}", 15, bold=True),
        text(f"{shop or 'Candor'}, {on.isoformat()}"),
    ]
    for supplier in sorted({line.supplier for line in order.lines}):
        story += [Spacer(1, 6 * mm), text(supplier or "supplier not said", bold=True), Spacer(1, 1 * mm)]
        rows: list[list[Flowable]] = [[text(word, 8, SOFT) for word in ("count", "what", "each", "together", "for")]]
        lines = [line for line in order.lines if line.supplier == supplier]
        rows += [_row([x for x in lines if x.text == what], instruments) for what in sorted({x.text for x in lines})]
        story.append(laid(Rows(rows, WIDTHS), 2, "TOP", ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE)))
    total = sum(line.count * line.price for line in order.lines)
    if total:
        story += [Spacer(1, 5 * mm), text(f"Together {total:.2f}", bold=True)]
    return pages(story, f"Order {order.number}")


def _row(lines: list[OrderLine], instruments: Mapping[str, str]) -> list[Flowable]:
    count, price = sum(x.count for x in lines), max(x.price for x in lines)
    whose = "; ".join(f"{x.ref} of {instruments.get(x.job, 'a job')}" if x.job else f"{x.count} spare" for x in lines)
    cells = (
        str(count),
        lines[0].text,
        f"{price:.2f}" if price else "",
        f"{count * price:.2f}" if price else "",
        whose,
    )
    return [text(cell) for cell in cells]
