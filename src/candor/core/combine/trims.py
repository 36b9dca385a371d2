"""Putting a value in place: trims, the window that would serve, the share of voltage and power of every piece."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from candor.core.combine.exact import Piece, Tree, value_of
from candor.core.combine.preferred import nearest
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded

NEW_RESISTOR_VOLTS = 350.0  # a metal film resistor to order, 0.5 or 0.6 W; common practice, no source
Kind = Literal["resistor", "capacitor"]


@dataclass(frozen=True)
class Trim:
    """One part that brings a measured part to its value.

    Attributes
    ----------
    how : "across" or "in series"
    exact : float
        F or ohm; infinite where nothing is needed.
    low, high : float
        The window that would serve; `high` may be infinite.
    """

    how: Literal["across", "in series"]
    exact: float
    low: float
    high: float


@dataclass(frozen=True)
class Load:
    """What one piece carries, V and W (0 for a capacitor), and its ratings, 0 where none is known."""

    volts: float
    watts: float
    volts_rated: float = 0.0
    watts_rated: float = 0.0

    @property
    def too_many_volts(self) -> bool:
        """Whether it carries more volts than it is rated for."""
        return bool(self.volts_rated) and self.volts > self.volts_rated * (1 + 1e-9)

    @property
    def too_many_watts(self) -> bool:
        """Whether it carries more watts than it is rated for."""
        return bool(self.watts_rated) and self.watts > self.watts_rated * (1 + 1e-9)

    @property
    def is_over(self) -> bool:
        """Whether it carries more than one of its ratings."""
        return self.too_many_volts or self.too_many_watts


def trim(measured: float, target: float, below: float, above: float, kind: Kind) -> Trim:
    """Return the part that brings `measured` to `target`, and the window that serves target -below/+above (shares).

    A resistor that is high takes a large one across it: x = 1/(1/T - 1/M); one that is low a small one in series:
    x = T - M. Capacitors the other way round: a low one takes one across, a high one takes one in series (Kirchhoff's laws).

    Raises
    ------
    RangeError
        Where a value is not above zero.
    """
    if not (0 < measured < math.inf and 0 < target < math.inf):
        raise RangeError(worded("combine.a_trim_needs_two_values_above", measured=measured, target=target))
    if measured == target:
        return Trim("across", math.inf, math.inf, math.inf)
    ends = (target * (1 - below), target, target * (1 + above))
    adds = measured < target  # what is low needs something that adds
    if adds:
        low, exact, high = (max(end - measured, 0.0) for end in ends)
        return Trim("in series" if kind == "resistor" else "across", exact, low, high)
    low, exact, high = (_beside(end, measured) for end in ends)
    return Trim("across" if kind == "resistor" else "in series", exact, low, high)


def _beside(target: float, measured: float) -> float:
    return 1 / (1 / target - 1 / measured) if target < measured else math.inf


def loads(tree: Tree, pieces: Sequence[Piece], kind: Kind, volts: float) -> tuple[Load, ...]:
    """Return what every piece of an arrangement carries with `volts` across the whole, left to right.

    Resistors in series share the voltage as their values, capacitors in series inversely; side by side all have the
    whole of it. P = V²/R (Ohm's law).
    """

    def over(place: int, across: float) -> Load:
        piece = pieces[place]
        watts = across**2 / piece.value if kind == "resistor" else 0.0
        return Load(across, watts, piece.volts, piece.watts)

    def walk(node: Tree, across: float) -> tuple[Load, ...]:
        if isinstance(node, int):
            return (over(node, across),)
        op, one, other = node
        if (op == "sum") == (kind == "capacitor"):  # side by side
            return walk(one, across) + walk(other, across)
        a, b = _value(one, pieces), _value(other, pieces)
        part = a / (a + b) if kind == "resistor" else b / (a + b)
        return walk(one, across * part) + walk(other, across * (1 - part))

    return walk(tree, volts)


def _value(tree: Tree, pieces: Sequence[Piece]) -> float:
    return value_of(tree, [p.value for p in pieces])


def split_for_voltage(volts: float, rating: float) -> int:
    """Return into how many equal pieces a resistor must be split so that none has more than its rating, V.

    Raises
    ------
    RangeError
        Where the rating is not above zero.
    """
    if rating <= 0:
        raise RangeError(worded("combine.a_voltage_rating_of_v_cannot", rating=rating))
    return max(math.ceil(volts / rating - 1e-9), 1)


def split_resistor(value: float, low: float, high: float, volts: float, rating: float) -> tuple[int, float]:
    """Return how many equal resistors of E96 in series, and of what value, so that none has more than its rating.

    The fewest whose sum lies in the window `low` to `high`, ohm, up to three more than the voltage asks for; where none
    does, the sum nearest to `value`. Volts in V (common practice, no source).

    Raises
    ------
    RangeError
        Where the rating or the value is not above zero.
    """
    least = split_for_voltage(volts, rating)
    tried = [(n, nearest(value / n, "E96")) for n in range(least, least + 4)]
    inside = [(n, each) for n, each in tried if low <= n * each <= high]
    return inside[0] if inside else min(tried, key=lambda x: abs(x[0] * x[1] - value))


def say_tree(tree: Tree, pieces: Sequence[Piece], kind: Kind) -> str:
    """Write an arrangement: ``22 kΩ + (1 MΩ ∥ 4.7 MΩ)``; + is in series, ∥ side by side."""
    unit = "ohm" if kind == "resistor" else "F"

    def walk(node: Tree, inside: str) -> str:
        if isinstance(node, int):
            return engineering(pieces[node].value, unit)
        series = (node[0] == "sum") == (kind == "resistor")
        sign = "+" if series else "∥"
        text = f"{walk(node[1], sign)} {sign} {walk(node[2], sign)}"
        return f"({text})" if inside and inside != sign else text

    return walk(tree, "")
