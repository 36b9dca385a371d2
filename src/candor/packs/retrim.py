"""What the part that an adjuster acts on must be, so that a point that was read off is right; and what goes across it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from difflib import get_close_matches

from candor.core.combine.exact import Piece
from candor.core.combine.preferred import nearest
from candor.core.combine.trims import Trim, trim
from candor.core.errors import CandorError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.packs.functions import Function, Range
from candor.packs.made import missed
from candor.packs.model import Pack
from candor.packs.pack_parts import read_circuit

INDICATES = ("shows", "amplifies")  # what is high must show less; what is set or swept must give more
SERVES = 0.25  # of the limit: how near is near enough
FARTHEST = 3.0  # times its value: what needs more is another fault


@dataclass(frozen=True)
class Retrim:
    """A part, what it is and what it must be, in ohm or farad.

    Attributes
    ----------
    ref : str
    value, wanted : float
        As drawn or measured, and as it must be.
    added : Trim
        The one part that brings it there, with the window that serves.
    size : float
        Of the piece that goes in, the nearest on hand within the window, else the nearest of E24; 0 where none can.
    stock : Piece or None
        Where it is from stock.
    asked_stock : bool
        Whether the stock was looked through.
    left : float
        Share by which the point is then off.
    """

    ref: str
    value: float
    wanted: float
    added: Trim
    size: float
    stock: Piece | None
    asked_stock: bool
    left: float
    unit: str


def named_in(pack: Pack, adjuster: str, function: str, range_: str) -> None:
    """Refuse an adjuster or a range that the pack does not have, with those it has.

    Raises
    ------
    RangeError
    """
    adjusters = [a.key for a in pack.adjusters]
    if adjuster not in {*adjusters, *(a.name for a in pack.adjusters)}:
        listed = ", ".join(adjusters) or "none"
        raise RangeError(
            worded("packs.has_no_adjuster_it_has", name=pack.name, adjuster=adjuster, listed=listed),
            value=adjuster,
            expected=listed,
        )
    ranges = {f"{f.key}/{r.key}" for f in pack.functions for r in f.ranges}
    wanted = f"{function}/{range_}"
    if wanted not in ranges:
        near = get_close_matches(wanted, ranges, 4, 0.3) or sorted(ranges)[:4]
        listed = ", ".join(near)
        raise RangeError(
            worded("packs.has_no_range_did_you_mean", name=pack.name, wanted=wanted, listed=listed),
            value=wanted,
            expected=listed,
        )


def retrim(
    pack: Pack,
    adjuster: str,
    function: str,
    range_: str,
    share: float,
    measured: float = 0.0,
    pieces: Iterable[Piece] | None = None,
) -> Retrim | None:
    """Return what the part of an adjuster must be, None where the pack does not say which it is or how the range is made.

    The circuit is solved with the part at other values until what it makes has moved by what the point was off: 1/(1 + e) of
    what an instrument shows, 1 + e of what it gives.

    Parameters
    ----------
    pack : Pack
    adjuster : str
        Its key or its name.
    function, range_ : str
        Keys of the point that was read.
    share : float
        Its error, instrument minus truth, as a share of the truth.
    measured : float, optional
        The part's own value, ohm or farad; as drawn where nobody measured it.
    pieces : iterable of Piece, optional
        On hand; None where nobody asked.

    Raises
    ------
    RangeError
        Where no value of the part does it.
    """
    acts = next((a.acts for a in pack.adjusters if adjuster in (a.key, a.name)), "")
    found = next(((f, r) for f in pack.functions if f.key == function for r in f.ranges if r.key == range_), None)
    if not acts or pack.circuit is None or found is None:
        return None  # a job asks of whatever is in hand; who names them is told by `named_in`
    f, r = found
    making, element = pack.circuit.making_of(f.made_by), read_circuit(pack.circuit.netlist).element(acts)
    if making is None or element is None:
        return None
    value = measured or element.value
    wanted_times = 1 / (1 + share) if making.how in INDICATES else 1 + share

    def off(times: float) -> float:
        return _made(pack, f, r, acts, value * times) / here - wanted_times

    here = _made(pack, f, r, acts, value)
    times = _root(off, acts)
    limit = r.limit.core()
    allowed = (
        SERVES * limit.at(r.full_scale, r.full_scale) / r.full_scale if limit.given and not limit.on_value else 0.0025
    )
    ends = [_root(lambda t, d=d: off(t) - d, acts) for d in (-allowed, allowed)]
    below, above = 1 - min(ends) / times, max(ends) / times - 1
    unit, kind = ("F", "capacitor") if acts.upper().startswith("C") else ("ohm", "resistor")
    added = trim(value, value * times, below, above, kind)  # type: ignore[arg-type]
    stock, size = _piece(added, pieces)
    left = math.nan
    if size:
        beside = added.how == ("across" if unit == "ohm" else "in series")
        made = 1 / (1 / value + 1 / size) if beside else value + size
        got = _made(pack, f, r, acts, made) / here / wanted_times
        left = got - 1 if making.how in INDICATES else 1 / got - 1
    return Retrim(
        ref=acts,
        value=value,
        wanted=value * times,
        added=added,
        size=size,
        stock=stock,
        asked_stock=pieces is not None,
        left=left,
        unit=unit,
    )


def _made(pack: Pack, function: Function, range_: Range, part: str, value: float) -> float:
    circuit = pack.circuit
    making = circuit.making_of(function.made_by) if circuit else None
    if circuit is None or making is None:
        raise RangeError(worded("packs.does_not_say_how_is_made", name=pack.name, title=function.title))
    netlist = read_circuit(circuit.netlist).with_value(part, value).with_closed((*function.closes, *range_.closes))
    return 1 + missed(netlist, making, function, range_)


def _root(off, part: str) -> float:  # type: ignore[no-untyped-def]
    from scipy.optimize import brentq

    low, high = -math.log(FARTHEST), math.log(FARTHEST)
    try:
        return math.exp(brentq(lambda x: off(math.exp(x)), low, high, xtol=1e-10))
    except (ValueError, CandorError):
        raise RangeError(worded("packs.no_value_of_between_a_third", part=part), value=part) from None


def _piece(added: Trim, pieces: Iterable[Piece] | None) -> tuple[Piece | None, float]:
    if math.isinf(added.exact) or added.exact <= 0:
        return None, 0.0
    there = [p for p in pieces or () if added.low <= p.value <= added.high and p.count > 0]
    if there:
        best = min(there, key=lambda p: abs(math.log(p.value / added.exact)))
        return best, best.value
    return None, nearest(added.exact, "E24")
