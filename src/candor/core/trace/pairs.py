"""Ohms between any two nodes of a quiet network: millivolts first, both ways round, and a lead that lay on the neighbouring tag."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import OPEN, resistance_between
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering

QUIET_V = (
    0.005  # over which something still stands between the leads, and ohms mean nothing: common practice, no source
)
ALIKE = 0.10  # by which both ways round may differ: common practice, no source
FITS = 0.15  # of the expected value: resistors of the period and their tolerances, common practice, no source
NEIGHBOURS = 3  # tags that are named at most

State = Literal["as expected", "low", "high", "not quiet", "differs by direction"]


@dataclass(frozen=True)
class PairRead:
    """What was read between two nodes: ohm one way, the other way round (None where it was not turned), and the volts before."""

    ohms: float
    turned_ohms: float | None = None
    volts: float = 0.0


@dataclass(frozen=True)
class PairJudged:
    """A pair: what was read between its nodes, what should be, ohm, what that means, and which other pairs would read so."""

    one: str
    other: str
    read: PairRead
    expected: float
    state: State
    neighbours: tuple[tuple[str, str], ...] = ()


def say_ohms(ohms: float) -> str:
    """Return ohms in words: open is open, and no number of them."""
    return engineering(ohms, "ohm", 3) if math.isfinite(ohms) else "open"


def judge_pair(netlist: Netlist, one: str, other: str, read: PairRead, tags: Sequence[str] = ()) -> PairJudged:
    """Judge what was read between two nodes, ohm and V.

    Parameters
    ----------
    netlist : Netlist
    one, other : str
    read : PairRead
    tags : sequence of str
        Nodes a lead may have lain on instead; empty for all of the network.

    Raises
    ------
    RangeError
        Where a node is not of this netlist.
    """
    one, other = one.lower(), other.lower()
    expected = resistance_between(netlist, one, other)
    judged = PairJudged(one=one, other=other, read=read, expected=expected, state="as expected")
    if abs(read.volts) > QUIET_V:
        return replace(judged, state="not quiet")
    if read.turned_ohms is not None and _apart(read.ohms, read.turned_ohms) > ALIKE:
        return replace(judged, state="differs by direction")
    if _apart(read.ohms, expected) <= FITS:
        return judged
    found = _neighbours(netlist, one, other, read.ohms, tags or netlist.nodes)
    return replace(judged, state="high" if read.ohms > expected else "low", neighbours=found)


def _apart(one: float, other: float) -> float:
    if one == other:
        return 0.0
    if not (math.isfinite(one) and math.isfinite(other)) or min(one, other) <= 0:
        return math.inf if abs(one - other) > 1 else 0.0
    return max(one, other) / min(one, other) - 1


def _neighbours(
    netlist: Netlist, one: str, other: str, ohms: float, tags: Sequence[str]
) -> tuple[tuple[str, str], ...]:
    """The pairs that share a node with the one meant and would read so, the nearest first."""
    if not math.isfinite(ohms):
        return ()
    found = []
    for kept, moved in ((one, other), (other, one)):
        for tag in tags:
            if tag in (kept, moved):
                continue
            off = _apart(ohms, resistance_between(netlist, kept, tag))
            if off <= FITS and resistance_between(netlist, kept, tag) != OPEN:
                found.append((off, kept, tag))
    return tuple((a, b) for _, a, b in sorted(found)[:NEIGHBOURS])
