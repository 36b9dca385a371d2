"""Netlists: a subset of SPICE that describes what is connected to what.

One element a line: `R24 grid 0 330k`, `C8 plate grid 0.05u`, `L1 rect b+ 8 r=200`, `V1 b+ 0 250`, `I1 …`, `D1 …`. The
first letter says the kind. A source may swing, `V1 a 0 sin(0 440 50)`: volts at rest, amplitude, hertz; a load may begin
late, `I1 b 0 100m from=10`; a rectifier says what it is, `D1 a k is=1e-9 n=1.5 rs=1`, `D2 a k drop=15` (mercury vapour),
`D3 a k perveance=2.2e-4` (vacuum, A/V^1.5). `E1 out 0 in 0 10` is an amplifier, `G1 plate 0 grid 0 2m` a
transconductance: the voltage over the second pair of nodes controls the first. `S1 tap grid` is a contact that a function
or a range closes. `*` begins a comment line, `;` and `$` one at the end of a line, `+` goes on with
the line before; lines that begin with a point (.title, .end) say nothing of the circuit. A title needs `.title` or a `*`.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from functools import cache, cached_property
from typing import TYPE_CHECKING, Any

from candor.core.circuit.elements import ELEMENTS, Element, Switch
from candor.core.errors import CandorError
from candor.core.grammar import parser_of
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

if TYPE_CHECKING:
    from lark import Lark

GRAMMAR = r"""
start: NAME NODE NODE (VALUE | sine)? option*
sine: SINE VALUE VALUE VALUE ")"
option: KEY "=" VALUE
NAME.2: /[LETTERS][A-Za-z0-9_.-]*/i
KEY.3: /[A-Za-z]+(?=\s*=)/
SINE.4: /sin\s*\(/i
VALUE.1: /[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?[A-Za-zµΩ]*/i
NODE: /[A-Za-z0-9_+.-]+/
%import common.WS_INLINE
%ignore WS_INLINE
"""
SUFFIXES = {
    "t": 1e12,
    "g": 1e9,
    "meg": 1e6,
    "k": 1e3,
    "": 1.0,
    "m": 1e-3,
    "u": 1e-6,
    "n": 1e-9,
    "p": 1e-12,
    "f": 1e-15,
}
GROUND = "0"


class NetlistError(CandorError, ValueError):
    """A netlist that cannot be read; `place` says the line."""


@dataclass(frozen=True)
class Netlist:
    """All elements, in the order they were written."""

    elements: tuple[Element, ...]

    @cached_property
    def nodes(self) -> tuple[str, ...]:
        """Every node, the chassis first, then in the order they appear."""
        seen = dict.fromkeys(node for e in self.elements for node in (e.plus, e.minus))
        return (GROUND, *(node for node in seen if node != GROUND))

    def element(self, name: str) -> Element | None:
        """Return an element by its designator."""
        return next((e for e in self.elements if e.name == name.upper()), None)

    def with_value(self, name: str, value: float) -> Netlist:
        """Return the same netlist with one element of another value."""
        return Netlist(tuple(e.with_value(value) if e.name == name.upper() else e for e in self.elements))

    def without(self, name: str) -> Netlist:
        """Return the same netlist with one element lifted."""
        return Netlist(tuple(e for e in self.elements if e.name != name.upper()))

    def with_closed(self, names: Iterable[str]) -> Netlist:
        """Return the same netlist with so many of its switches closed, the others open and gone."""
        closed = {name.upper() for name in names}
        kept = [e for e in self.elements if not isinstance(e, Switch) or e.name in closed]
        return Netlist(tuple(e.closed() if isinstance(e, Switch) else e for e in kept))

    def at_rest(self) -> Netlist:
        """Return the same netlist with its sources taken out: a supply that is off."""
        return Netlist(tuple(e for e in self.elements if not e.SOURCE))


def joined_to_ground(netlist: Netlist) -> Netlist:
    """Return what hangs together with the chassis; what open contacts leave alone is left out."""
    reached, known = {GROUND}, 0
    while len(reached) > known:
        known = len(reached)
        for e in netlist.elements:
            if reached & {e.plus, e.minus}:
                reached |= {e.plus, e.minus}
    return Netlist(tuple(e for e in netlist.elements if e.plus in reached))


def parse_netlist(text: str) -> Netlist:
    """Read a netlist.

    Raises
    ------
    NetlistError
        With the line, what stands there and what was expected.
    """
    found: dict[str, Element] = {}
    for number, line in _logical_lines(text):
        element = _element(number, line)
        if element.name in found:
            raise _fault(
                number,
                line,
                worded("circuit.is_there_twice", name=element.name),
                worded("circuit.each_designator_once"),
            )
        found[element.name] = element
    if not found:
        raise NetlistError(
            worded("circuit.there_is_no_element_in_this"),
            value=text[:80], place="line 1", expected="R24 grid 0 330k",
        )  # fmt: skip
    return Netlist(tuple(found.values()))


def _logical_lines(text: str) -> list[tuple[int, str]]:
    lines: list[tuple[int, str]] = []
    for number, raw in enumerate(text.splitlines(), 1):
        line = re.split(r"[;$]", raw, maxsplit=1)[0].strip()
        if not line or line[0] in "*.":
            continue
        if line.startswith("+"):
            if not lines:
                raise _fault(
                    number, line, worded("circuit.goes_on_with_a_line_before"), worded("circuit.an_element_first")
                )
            lines[-1] = (lines[-1][0], f"{lines[-1][1]} {line[1:]}")
        else:
            lines.append((number, line))
    return lines


@cache
def _parser() -> Lark:
    return parser_of("netlist", line_grammar())


def line_grammar() -> str:
    """Return the grammar of one line, with the letters of the elements there are."""
    return GRAMMAR.replace("LETTERS", "".join(ELEMENTS))


def _element(number: int, line: str) -> Element:
    from lark.exceptions import UnexpectedInput

    kind = ELEMENTS.get(line[0].upper())
    if kind is None:
        *letters, last = ELEMENTS
        raise _fault(
            number,
            line,
            worded("circuit.is_of_a_kind_this_subset", line=line.split()[0]),
            worded("circuit.or_as_first_letter", listed=", ".join(letters), last=last),
        )
    shape = f"“{kind.EXAMPLE}”"
    line, over = _without_control(number, line, shape) if kind.TERMINALS == 4 else (line, None)
    try:
        tree = _parser().parse(line)
    except UnexpectedInput as error:
        if getattr(getattr(error, "token", None), "type", "") == "$END":
            raise _fault(number, line, worded("circuit.the_line_ends_too_early"), shape) from None
        at = line[max(getattr(error, "column", 1) - 1, 0) :].split()
        raise _fault(number, line, worded("circuit.cannot_stand_there", first=at[0] if at else line), shape) from None
    tokens = [str(t) for t in tree.children if isinstance(t, str)]
    branches = [t for t in tree.children if not isinstance(t, str)]
    options = {str(o.children[0]).lower(): str(o.children[1]) for o in branches if o.data == "option"}
    sine = next(([str(v) for v in b.children[1:]] for b in branches if b.data == "sine"), [])
    name, plus, minus = tokens[:3]
    written = tokens[3] if len(tokens) > 3 else ""
    if plus == minus:
        raise _fault(
            number,
            line,
            worded("circuit.both_ends_of_are_on_node", name=name, plus=plus),
            worded("circuit.two_different_nodes"),
        )
    unknown = set(options) - set(kind.OPTIONS)
    if unknown:
        known = ", ".join(f"{key}=" for key in kind.OPTIONS)
        raise _fault(
            number,
            line,
            worded("circuit.is_not_known_here", unknown=min(unknown)),
            known or worded("circuit.nothing_after_the_value"),
        )
    if sine and not kind.SWINGS:
        raise _fault(number, line, worded("circuit.only_a_voltage_can_be_a"), shape)
    value = _value(number, line, kind.UNIT, sine[0] if sine else written, shape) if kind.UNIT else 0.0
    if kind.POSITIVE and value <= 0:
        raise _fault(
            number, line, worded("circuit.is_not_above_zero_2", written=written), worded("circuit.a_value_above_zero")
        )
    more: dict[str, Any] = {
        kind.OPTIONS[key][0]: _option(number, line, key, text, kind.OPTIONS[key][1]) for key, text in options.items()
    }
    if sine:
        more["amplitude"] = _value(number, line, "V", sine[1], shape)
        more["hertz"] = _value(number, line, "Hz", sine[2], shape)
        if more["hertz"] <= 0:
            raise _fault(
                number,
                line,
                worded("circuit.hz_is_not_a_frequency", sine=sine[2]),
                worded("circuit.sin_rest_amplitude_hertz"),
            )
    if over is not None:
        more["over"] = over
    return kind(name.upper(), plus.lower(), minus.lower(), value, **more)


def _without_control(number: int, line: str, shape: str) -> tuple[str, tuple[str, str]]:
    """Return a line without the two nodes that control it, and these."""
    words = line.split()
    if len(words) != 6:
        raise _fault(
            number, line, worded("circuit.has_words_after_its_name", first=words[0], words=len(words) - 1), shape
        )
    return " ".join((*words[:3], words[5])), (words[3].lower(), words[4].lower())


def _option(number: int, line: str, key: str, written: str, unit: str) -> float:
    value = _value(number, line, unit, written, worded("circuit.with_a_value", key=key))
    if value < 0 or (value == 0 and key not in ("r", "rs", "from")):
        raise _fault(
            number,
            line,
            worded("circuit.is_not_above_zero", key=key, written=written),
            worded("circuit.a_value_above_zero"),
        )
    return value


def _value(number: int, line: str, unit: str, written: str, shape: str) -> float:
    if not written:
        raise _fault(number, line, worded("circuit.the_value_is_missing"), shape)
    match = re.fullmatch(r"([+-]?[\d.]+(?:e[+-]?\d+)?)([A-Za-zµΩ]*)", written, re.I)
    letters = match[2].lower().replace("µ", "u").replace("ω", "") if match else ""
    for ending in (unit.lower(), f"{unit.lower()}s", unit[:1].lower()):
        if letters.endswith(ending) and letters.removesuffix(ending) in SUFFIXES and letters not in SUFFIXES:
            letters = letters.removesuffix(ending)
    if match is None or letters not in SUFFIXES:
        raise _fault(number, line, worded("circuit.is_not_a_value", written=written), shape)
    if unit == "ohm" and letters == "m":
        raise _fault(
            number,
            line,
            worded("circuit.is_a_milliohm_in_spice", written=written),
            worded("circuit.meg_for_a_megohm_for_a"),
        )
    value = float(match[1]) * SUFFIXES[letters]
    if not math.isfinite(value):
        raise _fault(number, line, worded("circuit.is_too_large", written=written), worded("circuit.a_finite_value"))
    return value


def _fault(number: int, line: str, what: str, expected: str) -> NetlistError:
    return NetlistError(
        worded("circuit.line_expected_nothing_was_imported", number=number, line=line, what=what, expected=expected),
        value=line, place=f"line {number}", expected=expected,
    )  # fmt: skip
