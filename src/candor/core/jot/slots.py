"""What can stand at a place of a line, by kind: how it is written, and its one reader, whatever line it stands in."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Callable, Mapping
from typing import Any

from candor.core.circuit.netlist import GROUND
from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.plan.shop_hours import DAY_PATTERN, read_day
from candor.core.quantities import Quantity, engineering, parse_number, parse_quantity
from candor.core.worded import worded


class Calculated(float):
    """A value that was calculated from what was written; `how` says how."""

    how = ""

    @classmethod
    def of(cls, quantity: Quantity) -> float:
        """Return the value of a quantity, marked where it was calculated."""
        if not quantity.note.startswith("calculated: "):
            return quantity.value
        found = cls(quantity.value)
        found.how = quantity.note
        return found


NUMBER = r"[-+−]?\s?(?:\d+(?:[.,]\d+)*\.?(?:\s\d+/\d+|/\d+)?|[.,]\d+)"
_UNIT = r"[A-Za-zµμΩ°][A-Za-zµμΩ/]*\d*|%"
QUANTITY = rf"{NUMBER}(?:e[-+]?\d+)?(?:\s?(?:{_UNIT}))?"
# Calculated on the spot: volts over a resistor, peak to peak of a shape, one time seen with another, a sum; see `derived`.
DERIVED = (
    rf"{QUANTITY}(?:\s?p-?p|\s?pk-pk|\s+peak(?:\s+to\s+peak)?)?(?:\s?\+\s?{QUANTITY})*"
    rf"(?:\s+(?:over|across|by)\s+{QUANTITY})?(?:\s+(?:sine|square|triangle))?"
)
GROUNDS = {"0", "ground", "chassis", "gnd", "earth", "common"}
# Words that begin the next thing said of a node: no name of one runs over them.
_NO_NODE = r"(?:to|with|from|and|at|by|is|joins|between|turned|after|open|volts?)\b"
_NUMBERED = r"(?:pins?|lugs?|tags?|terminals?|posts?|contacts?|tap)"
_WORD = rf"(?!{_NO_NODE}|{_NUMBERED}\b)[A-Za-z+][\w+'/#-]*"
# A node is a word, or a few; a number stands in its name only behind what is numbered: V2 pin 6, edge connector pin 4.
NODE = rf"(?:\d{{1,3}}|{_WORD}(?:(?:\s+{_WORD})*\s+{_NUMBERED}\s+\d+|(?:\s+{_WORD}){{0,3}}))"

# What begins the next thing said of a tube, with or without a comma: "plate n5 grid n3" is two nodes.
_NEXT_OF_TUBE = r"(?!(?:plate|grid|cathode|screen|mu|kind)\s+[^\s,;])"
TUBE_NODE = rf"(?:\d{{1,3}}|{_WORD}(?:(?:\s+{_NEXT_OF_TUBE}{_WORD})*\s+{_NUMBERED}\s+\d+|(?:\s+{_NEXT_OF_TUBE}{_WORD}){{0,3}}))"


@dataclass(frozen=True)
class Slot:
    """A kind of thing that a line says.

    Attributes
    ----------
    pattern : str
        How it is written, as a regular expression without named groups.
    read : callable
        Reads it; raises CandorError with a sentence where it cannot be.
    example : str
        As it is typed.
    says : callable
        Writes a value so that it is read again as itself.
    """

    pattern: str
    read: Callable[[str], Any]
    example: str
    says: Callable[[Any], str] = str


def _quantity(unit: str, low: float | None, example: str, above: bool = False) -> Slot:
    def read(text: str) -> float:
        value = Calculated.of(parse_quantity(text, unit))
        if unit == "ohm" and re.search(r"\d\s?m(?:ohms?)?$", text.strip()) and low != SMALL:
            raise ValueTextError(
                worded(
                    "jot.may_be_milliohms_or_megohms_examples",
                    text=text.strip(),
                    parse_number=parse_number(_digits(text)),
                ),
                value=text,
            )
        if low is not None and (value <= 0 if above else value < 0):
            least = "above zero" if above else "zero or more"
            raise RangeError(
                worded(
                    "jot.cannot_be_here_expected_a_value",
                    value=engineering(value, unit),
                    least=least,
                    example=example,
                ),
                value=text,
            )
        return value

    return Slot(DERIVED, read, example, lambda value: engineering(value, unit, 7))


SMALL = -0.0001  # marks a place of small resistances, where m is milli: an earth bond, an ESR


def _digits(text: str) -> str:
    return re.sub(r"[^\d.,/+-].*$", "", text.strip().replace("−", "-"))


def _open_or_ohms(text: str) -> float:
    if text.strip().casefold() in ("open", "infinite", "inf"):
        return math.inf
    value: float = _quantity("ohm", 0, "47k").read(text)
    return value


def node_name(words: str) -> str:
    """Return a node as netlists write it: ``V2 plate`` is ``v2_plate``, the chassis is ``0``.

    A letter that netlists do not know stands as its number: no two nodes become one.
    """
    spelt = "".join(f"u{ord(c):x}" if c.isalpha() and not c.isascii() else c for c in words.strip().lower())
    name = re.sub(r"[^a-z0-9+.-]+", "_", spelt).strip("_")
    return GROUND if name in GROUNDS else name or "node"


def _whole(text: str) -> int:
    return int(text)


def _percent(text: str) -> float:
    return parse_number(text.replace("%", ""), "per cent such as 3 %")


def _number(text: str) -> float:
    return parse_number(text, "a number such as 2.5")


def _celsius(text: str) -> float:
    """A temperature, °C: of one in F to a tenth, for nobody reads a room closer."""
    match = re.fullmatch(rf"({NUMBER})\s?(?:°|deg(?:rees?)?)?\s?([CF])?\w*", text, re.I)
    value = _number(match[1] if match else text)
    return round((value - 32) / 1.8, 1) if match and (match[2] or "").upper() == "F" else value


def _words(text: str) -> str:
    return " ".join(text.strip(" ,;:").split())


def _per_volt(text: str) -> float:
    number = re.sub(r"\s?(?:ohms?|Ω)?/V$", "", text.strip(), flags=re.I)
    thousands = number.lower().endswith("k")
    return parse_number(number.rstrip("kK"), "ohms per volt such as 1000") * (1000 if thousands else 1)


def _band(text: str) -> tuple[float, float]:
    low, high = text.split("..")
    return _number(low), _number(high)


def _ref(text: str) -> str:
    match = re.fullmatch(r"([A-Za-z]+\d+)\s?([a-z])?", text)
    return f"{match[1].upper()} {match[2]}" if match is not None and match[2] else text.upper()


def _clock(text: str) -> dt.time:
    hour, minute = (int(part) for part in re.split(r"[:.]", text))
    if hour > 23 or minute > 59:
        raise ValueTextError(worded("jot.is_not_a_time_of_day", text=text), value=text)
    return dt.time(hour, minute)


def _day(text: str) -> str:
    read_day(text, dt.date(2000, 1, 1))  # whether it can be one; which is said on the day it is written
    return text.strip()


SLOTS: Mapping[str, Slot] = {
    "V": _quantity("V", None, "182 V"),
    "A": _quantity("A", None, "12 mA"),
    "W": _quantity("W", None, "40 W"),
    "F": _quantity("F", 0, "33 uF", above=True),
    "Hz": _quantity("Hz", 0, "60 Hz", above=True),
    "s": _quantity("s", 0, "5 min"),
    "ohm": _quantity("ohm", 0, "47k"),
    "ohms_above_zero": _quantity("ohm", 0, "220k", above=True),
    "small_ohms": _quantity("ohm", SMALL, "0.12 ohm"),
    "ohms_or_open": Slot(rf"open|infinite|inf|{QUANTITY}", _open_or_ohms, "47k"),
    "ohms_per_volt": Slot(rf"{NUMBER}\s?k?\s?(?:ohms?|Ω)?/V", _per_volt, "2000 ohm/V"),
    "volts_only": Slot(rf"{NUMBER}\s?[mk]?V(?:olts?)?", lambda text: parse_quantity(text, "V").value, "300 V"),
    "watts_only": Slot(rf"{NUMBER}\s?m?W(?:atts?)?", lambda text: parse_quantity(text, "W").value, "10 W"),
    "amperes_only": Slot(rf"{NUMBER}\s?[mµu]?A(?:mps?)?", lambda text: parse_quantity(text, "A").value, "10 mA"),
    "band": Slot(rf"{NUMBER}\s*\.\.\s*{NUMBER}", _band, "8..12"),
    "clock": Slot(r"\d{1,2}[:.]\d{2}", _clock, "14:00"),
    "date": Slot(r"\d\S*", str, "2021-03-04"),
    "day": Slot(DAY_PATTERN, _day, "2026-03-31"),
    "point": Slot(r"\S.*?", _words, "dc+/150/75"),
    "link": Slot(r"\S+", str, "TCPIP::192.168.1.20::5025::SOCKET"),
    "unit": Slot(r"\S+", str, "V"),
    "celsius": Slot(rf"{NUMBER}\s?(?:(?:°|deg(?:rees?)?)?\s?(?:C|F|celsius|fahrenheit)?)", _celsius, "23.1"),
    "ranged": Slot(r"(?=.*(?:\d|\b(?:look|calculated|figured)\b))\S.*", _words, "30 V 30 div 3%fs"),
    "numbers": Slot(r"(?=.*\d)[-−\d].*", str.strip, "10 20 30"),
    "kind": Slot(r"[a-z][a-z ,-]*", _words, "triode, high mu"),
    "node_word": Slot(rf"\d{{1,3}}|{_WORD}", node_name, "n5"),
    "quantity": Slot(QUANTITY, str.strip, "10.0231 V"),
    "number": Slot(NUMBER, _number, "2.5"),
    "count": Slot(r"\d{1,4}", _whole, "2"),
    "percent": Slot(rf"{NUMBER}\s?%", _percent, "3 %"),
    "node": Slot(NODE, node_name, "n5"),
    "tube_node": Slot(TUBE_NODE, node_name, "n5"),
    "named": Slot(NODE, _words, "V2 pin 2"),
    "ref": Slot(r"[A-Za-z]{1,4}\d+(?:\s?[a-z](?=[\s,;:]|$))?", _ref, "R24"),
    "rail": Slot(r"[^\s;:,=@]+", str.lower, "b1"),
    "word": Slot(r"[^\s,;:]+", str, "hv"),
    # Words none of which begins with a figure: a number in them would be a value that stands in no place.
    "prose": Slot(r"[^\s\d.,;:+−-][^\s,;]*(?:[\s,;:]+[^\s\d.,;:+−-][^\s,;]*)*?", _words, "range switch contacts"),
    "text": Slot(r"\S.*?", _words, "a cracked knob"),
}
