"""What was chosen to go in a part's place, as the entry that says so."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.combine.search import Answer, Found
from candor.core.parts.part import UNITS
from candor.core.parts.replacement import Proposal
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.goods_entries import NeedLine, goods_of
from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.parts.stock import StockItem


def of_proposal(
    ref: str, proposal: Proposal, stock: Iterable[StockItem], supplier: str, price: float
) -> ReplacementChosen:
    """Return the choice of a proposal; supplier and price of one are the stock's where it is from there."""
    stocked = next((item.body for item in stock if item.body.key == proposal.piece.key), None)
    need = NeedLine(
        **goods_of(proposal.piece), text=proposal.piece.text, count=proposal.count, stock=proposal.piece.key,
        supplier=stocked.supplier if stocked else supplier, price=stocked.price if stocked else max(price, 0.0),
    )  # fmt: skip
    arrangement = proposal.text + (" in series" if proposal.count > 1 else "")
    return ReplacementChosen(ref=ref, arrangement=arrangement, lines=(need,))


def of_answer(ref: str, found: Found, answer: Answer, stock: Iterable[StockItem]) -> ReplacementChosen:
    """Return the choice of an arrangement of several pieces; equal ones are one line."""
    kind = found.asked.kind
    items = {item.text: item.body for item in stock}
    lines: dict[str, NeedLine] = {}
    for piece in answer.pieces:
        body = items.get(piece.name)
        text = piece.name if body else f"{engineering(piece.value, UNITS[kind])} {trimmed(100 * piece.tolerance)} %"
        lines[text] = NeedLine(
            what=kind, value=piece.value, tolerance=piece.tolerance, text=text, volts=piece.volts, watts=piece.watts,
            count=lines[text].count + 1 if text in lines else 1, make=body.make if body else "",
            safety=body.safety if body else "", celsius=body.celsius if body else 0.0,
            supplier=body.supplier if body else "", price=body.price if body else 0.0, stock=body.key if body else "",
        )  # fmt: skip
    how = worded("parts.with_the_old_one", how=found.trim.how) if found.trim else ""
    return ReplacementChosen(ref=ref, arrangement=f"{answer.text} {how}".strip(), lines=tuple(lines.values()))
