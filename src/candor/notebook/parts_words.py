"""Entries about parts, stock, orders and money in words."""

from __future__ import annotations

from candor.core.parts.part import UNITS
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.notebook.entry import Entry
from candor.notebook.part_entries import (
    CircuitTaken,
    OrderPlaced,
    PartDecided,
    PartListed,
    PartMeasured,
    PolicyChosen,
    PriceAgreed,
    ReplacementChosen,
    RunStarted,
    Spent,
    StockCounted,
    StockMoved,
)
from candor.notebook.parts_record import to_part
from candor.notebook.stock import StockItem


def parts_in_words(entry: Entry) -> str:
    """Return such an entry as a line of words; an empty string for any other."""
    match entry.body:
        case PartListed() as b:
            return f"on the list: {b.ref}, {to_part(b).words}" if b.fitted else f"not in this unit: {b.ref}"
        case CircuitTaken() as b:
            return f"circuit taken in, {len(b.netlist.splitlines())} lines"
        case PartMeasured() as b:
            return _measured(b)
        case PolicyChosen() as b:
            return f"policy: paper {b.sight}; electrolytics {b.electrolytics}; leakage limit {b.rule}"
        case PartDecided() as b:
            return (
                f"{b.ref}: {b.action}, decided because {b.reason}" if b.action else f"{b.ref}: by its figures again"
            )
        case ReplacementChosen() as b:
            return f"goes in for {b.ref}: {b.arrangement}" if b.lines else f"choice for {b.ref} taken back"
        case RunStarted() as b:
            what = "reforming" if b.mode == "reform" else "leakage"
            return f"{what} run on {b.ref} begun, to {trimmed(b.target_volts)} V, on the tester {b.tester}"
        case StockCounted() as b:
            return f"stock: {b.count} x {StockItem(b, b.count).text}"
        case StockMoved() as b:
            return f"stock: {b.by:+d} of {b.key}{', ' + b.reason if b.reason else ''}"
        case OrderPlaced() as b:
            return f"order {b.number}: {sum(x.count for x in b.lines)} pieces, {len(b.lines)} lines"
        case Spent() as b:
            return f"spent: {_spent(b)}{', ' + b.text if b.text else ''}"
        case PriceAgreed() as b:
            return f"price agreed {b.agreed:.2f}, {b.an_hour:.2f} an hour"
    return ""


def _spent(b: Spent) -> str:
    return " and ".join([f"{trimmed(b.minutes)} min"] * bool(b.minutes) + [f"{b.money:.2f}"] * bool(b.money))


def _measured(b: PartMeasured) -> str:
    unit = UNITS["resistor" if b.ref.startswith("R") else "capacitor"]
    words: list[str] = [b.state] if b.state else []
    words += (
        [f"{engineering(b.value, unit, 6)}{' in circuit' if b.in_circuit else ''}"] if b.value is not None else []
    )
    words += [f"{engineering(b.warm, unit, 6)} warm"] if b.warm is not None else []
    words += [f"ESR {engineering(b.esr, 'ohm')}"] if b.esr is not None else []
    words += [f"D {trimmed(b.dissipation)}"] if b.dissipation is not None else []
    if b.leakage is not None:
        words.append(
            f"leaks {engineering(b.leakage, 'A')} at {trimmed(b.leakage_volts)} V after {trimmed(b.dwell_s)} s"
        )
    return f"{b.ref} measured: {', '.join(words)}"
