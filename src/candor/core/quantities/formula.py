"""Formulas of named quantities: read once, their units checked, and calculated with the slope by every name."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import field
from fractions import Fraction
from functools import cache, lru_cache
from typing import TYPE_CHECKING

from candor.core.errors import RangeError, UnitError, ValueTextError
from candor.core.grammar import parser_of
from candor.core.late_dataclass import dataclass
from candor.core.quantities.units import suffix_meaning
from candor.core.worded import worded

if TYPE_CHECKING:
    from lark import Lark

GRAMMAR = r"""
?start: sum
?sum: product | sum "+" product -> add | sum "-" product -> subtract
?product: signed | product ("*"|"×") signed -> multiply | product "/" signed -> divide
?signed: power | "-" signed -> negate
?power: atom | atom ("^"|"**") signed -> raise
?atom: NUMBER UNIT? -> number | FUNCTION "(" sum ")" -> call | PAIR "(" sum "," sum ")" -> call | NAME -> name | "(" sum ")"
PAIR.3: /unphased(?=\s*\()/
FUNCTION.3: /(sqrt|abs|ln|log10|exp)(?=\s*\()/
NUMBER.2: /(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?/
UNIT.2: /(?<=[\d.])\s?[A-Za-zµΩ%]+/
NAME.1: /[A-Za-z_][A-Za-z0-9_]*/
%import common.WS_INLINE
%ignore WS_INLINE
"""
LONGEST = 300  # characters; what is longer is not a formula of a bench

# Dimensions as powers of volt, ampere and second; what is not electrical has none here.
Dimension = tuple[Fraction, Fraction, Fraction]
_POWERS = {"V": (1, 0, 0), "A": (0, 1, 0), "ohm": (1, -1, 0), "S": (-1, 1, 0), "F": (-1, 1, 1), "H": (1, -1, 1), "Hz": (0, 0, -1),
           "s": (0, 0, 1), "W": (1, 1, 0), "1": (0, 0, 0), "dB": (0, 0, 0)}  # fmt: skip
DIMENSIONS: Mapping[str, Dimension] = {
    unit: (Fraction(v), Fraction(a), Fraction(s)) for unit, (v, a, s) in _POWERS.items()
}
NONE: Dimension = DIMENSIONS["1"]


@dataclass(frozen=True)
class Term:
    """A node of a formula: what is done, to which terms; a number with its dimension, or a name."""

    what: str
    terms: tuple[Term, ...] = ()
    number: float = 0.0
    dimension: Dimension = NONE
    name: str = ""


@dataclass(frozen=True)
class Formula:
    """A formula as it was written.

    Attributes
    ----------
    text : str
    term : Term
    names : tuple of str
        In the order they appear.
    """

    text: str
    term: Term
    names: tuple[str, ...]


@dataclass(frozen=True)
class Calculated:
    """A value with its slope by every name.

    Attributes
    ----------
    value : float
    slopes : mapping of str to float
    spread : float
        By what it may lie off either way because it is not known at which phase two of its names add; never negative.
    """

    value: float
    slopes: Mapping[str, float] = field(default_factory=dict)
    spread: float = 0.0


@cache
def _parser() -> Lark:
    return parser_of("formula", GRAMMAR)


@lru_cache(maxsize=512)
def parse_formula(text: str) -> Formula:
    """Read a formula: + - * / ^, brackets, sqrt, abs, ln, log10, exp, names, and numbers with a unit (`50ohm`).

    `unphased(a, b)` is what one of two vectors at one frequency is where a is their sum and b the other, at a phase that nobody
    knows: it lies between |a - b| and a + b.

    Raises
    ------
    ValueTextError
        Where it cannot be read, with the place.
    """
    from lark.exceptions import UnexpectedInput

    if not text.strip() or len(text) > LONGEST:
        raise ValueTextError(worded("quantities.a_formula_of_characters_cannot_be", text=len(text)), value=text)
    try:
        tree = _parser().parse(text)
    except UnexpectedInput as error:
        column = getattr(error, "column", 0)
        raise ValueTextError(
            worded("quantities.cannot_be_read_at_column_expected", text=text, column=column), value=text
        ) from None
    names: list[str] = []
    term = _term(tree, names)
    return Formula(text, term, tuple(dict.fromkeys(names)))


def _term(tree: object, names: list[str]) -> Term:
    what, children = str(tree.data), tree.children  # type: ignore[attr-defined]
    if what == "name":
        names.append(str(children[0]))
        return Term("name", name=str(children[0]))
    if what == "number":
        factor, dimension = 1.0, NONE
        if len(children) > 1:
            meaning = suffix_meaning(str(children[1]).strip(), None)
            if meaning is None or (meaning[1] is not None and meaning[1] not in DIMENSIONS):
                raise ValueTextError(
                    worded("quantities.is_not_a_unit_a_formula", children=children[1]), value=str(children[1])
                )
            factor, dimension = meaning[0], DIMENSIONS[meaning[1] or "1"]
        return Term("number", number=float(children[0]) * factor, dimension=dimension)
    if what == "call":
        return Term(str(children[0]), tuple(_term(child, names) for child in children[1:]))
    return Term(what, tuple(_term(child, names) for child in children))


# --- units ----------------------------------------------------------------------------------------------


def check_units(formula: Formula, units: Mapping[str, str], expected: str) -> None:
    """See that a formula of quantities in `units` comes out in `expected`, all SI.

    Raises
    ------
    UnitError
        Where it mixes units, or comes out in another.
    ValueTextError
        Where it has a name that `units` does not.
    """
    found = _dimension(formula.term, formula, units)
    if found != DIMENSIONS[expected]:
        raise UnitError(
            worded(
                "quantities.comes_out_in_and_was_expected",
                text=formula.text,
                found=say_dimension(found),
                dimensions=say_dimension(DIMENSIONS[expected]),
            ),
            value=formula.text,
            expected=expected,
        )


def say_dimension(dimension: Dimension) -> str:
    """Return the unit of a dimension, or the powers where it has no name."""
    for unit, known in DIMENSIONS.items():
        if known == dimension and unit != "dB":
            return "a bare number" if unit == "1" else unit
    return " ".join(f"{name}^{power}" for name, power in zip(("V", "A", "s"), dimension, strict=True) if power)


def _dimension(term: Term, formula: Formula, units: Mapping[str, str]) -> Dimension:
    if term.what == "name":
        if term.name not in units:
            known = ", ".join(units) or "none"
            raise ValueTextError(
                worded("quantities.in_names_nothing_there_are", name=term.name, text=formula.text, known=known),
                value=term.name,
                expected=known,
            )
        return DIMENSIONS[units[term.name]]
    if term.what == "number":
        return term.dimension
    inner = [_dimension(t, formula, units) for t in term.terms]
    if term.what in ("add", "subtract", "unphased"):
        if inner[0] != inner[1]:
            raise UnitError(
                worded(
                    "quantities.mixes_units_and_cannot_be_added",
                    text=formula.text,
                    first=say_dimension(inner[0]),
                    inner=say_dimension(inner[1]),
                ),
                value=formula.text,
            )
        return inner[0]
    if term.what == "multiply":
        return _combined(inner[0], inner[1], 1)
    if term.what == "divide":
        return _combined(inner[0], inner[1], -1)
    if term.what == "raise":
        if inner[1] != NONE or term.terms[1].what not in ("number", "negate"):
            raise UnitError(worded("quantities.raises_to_a_power_that_is", text=formula.text), value=formula.text)
        power = Fraction(_value(term.terms[1], {}).value).limit_denominator(12)
        return (inner[0][0] * power, inner[0][1] * power, inner[0][2] * power)
    if term.what == "sqrt":
        return (inner[0][0] / 2, inner[0][1] / 2, inner[0][2] / 2)
    if term.what in ("ln", "log10", "exp") and inner[0] != NONE:
        raise UnitError(
            worded(
                "quantities.takes_of_only_of_a_ratio",
                text=formula.text,
                what=term.what,
                first=say_dimension(inner[0]),
            ),
            value=formula.text,
        )
    return inner[0]


def _combined(one: Dimension, other: Dimension, sign: int) -> Dimension:
    return (one[0] + sign * other[0], one[1] + sign * other[1], one[2] + sign * other[2])


# --- values ---------------------------------------------------------------------------------------------


def calculate(formula: Formula, values: Mapping[str, float]) -> Calculated:
    """Return the value of a formula and its partial derivatives by every name, exact to rounding (the chain rule, term by term).

    Parameters
    ----------
    formula : Formula
    values : mapping of str to float
        SI.

    Raises
    ------
    RangeError
        Where it divides by zero, or takes a root or logarithm of what has none.
    """
    try:
        found = _value(formula.term, values)
    except ZeroDivisionError:
        raise RangeError(
            worded("quantities.divides_by_zero_with_what_was", text=formula.text), value=formula.text
        ) from None
    except (ValueError, OverflowError):
        raise RangeError(
            worded("quantities.takes_a_root_a_power_or", text=formula.text), value=formula.text
        ) from None
    except KeyError as error:
        raise RangeError(
            worded("quantities.needs_and_that_was_not_read", text=formula.text, first=error.args[0]),
            value=formula.text,
        ) from None
    if not math.isfinite(found.value):
        raise RangeError(
            worded("quantities.comes_out_without_bounds_with_what", text=formula.text), value=formula.text
        )
    return found


def _value(term: Term, values: Mapping[str, float]) -> Calculated:
    if term.what == "name":
        return Calculated(values[term.name], {term.name: 1.0})
    if term.what == "number":
        return Calculated(term.number)
    inner = [_value(t, values) for t in term.terms]
    return _DOES[term.what](*inner)


def _linear(value: float, *parts: tuple[float, Calculated]) -> Calculated:
    slopes: dict[str, float] = {}
    for factor, part in parts:
        for name, slope in part.slopes.items():
            slopes[name] = slopes.get(name, 0.0) + factor * slope
    # Phases that nobody knows are not known of each by itself: what they may do adds up.
    return Calculated(value, slopes, sum(abs(factor) * part.spread for factor, part in parts))


def _unphased(a: Calculated, b: Calculated) -> Calculated:
    """The middle of |a - b| and a + b is the larger, half their distance the smaller (triangle inequality)."""
    if a.value < 0 or b.value < 0:
        raise ValueError
    larger, smaller = (a, b) if a.value >= b.value else (b, a)
    found = _linear(larger.value, (1.0, larger), (0.0, smaller))
    return Calculated(found.value, found.slopes, found.spread + smaller.value + smaller.spread)


def _raised(a: Calculated, b: Calculated) -> Calculated:
    value = a.value**b.value
    if isinstance(value, complex):
        raise ValueError
    return _linear(value, (b.value * a.value ** (b.value - 1), a))


def _root(a: Calculated) -> Calculated:
    value = math.sqrt(a.value)
    return _linear(value, (1 / (2 * value), a))


_DOES: Mapping[str, Callable[..., Calculated]] = {
    "add": lambda a, b: _linear(a.value + b.value, (1.0, a), (1.0, b)),
    "subtract": lambda a, b: _linear(a.value - b.value, (1.0, a), (-1.0, b)),
    "multiply": lambda a, b: _linear(a.value * b.value, (b.value, a), (a.value, b)),
    "divide": lambda a, b: _linear(a.value / b.value, (1 / b.value, a), (-a.value / b.value**2, b)),
    "negate": lambda a: _linear(-a.value, (-1.0, a)),
    "raise": _raised,
    "sqrt": _root,
    "abs": lambda a: _linear(abs(a.value), (math.copysign(1.0, a.value), a)),
    "ln": lambda a: _linear(math.log(a.value), (1 / a.value, a)),
    "log10": lambda a: _linear(math.log10(a.value), (1 / (a.value * math.log(10)), a)),
    "unphased": _unphased,
    "exp": lambda a: _linear(math.exp(a.value), (math.exp(a.value), a)),
}
