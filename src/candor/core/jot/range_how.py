"""How a range is read, taken out of a line about it: the arc, the dial, the screen, what a look can find."""

from __future__ import annotations

import math
import re
from typing import Any

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.instrument.how import OHMS, HowRead, SecondDial
from candor.core.jot.left import Left
from candor.core.jot.range_figured import take_figured, value_of
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number, parse_quantity
from candor.core.quantities.units import suffix_meaning
from candor.core.worded import worded

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_SIGNED = rf"[+-]?{_NUMBER}"
_QUANTITY = rf"{_NUMBER}\s*(?:[^\W\d_]+|Ω)"
_LOOK = late_pattern(r"\blook\b\s*:?\s*(?P<good>[^|/]+?)\s*(?:[|/]\s*(?P<bad>.+?)\s*)?$", re.I)
_SECOND = late_pattern(
    rf"\b(?:and\s+(?:a\s+)?)?second\s+dial\s+(?P<title>[^\d]+?)\s+(?P<end>{_NUMBER}\s*(?:%|[^\W\d_]+)?)\s+(?P<n>\d+)\s*div\w*\b",
    re.I,
)
_NULL = late_pattern(r"\bdial\s+(?:turned\s+)?(?:at|to)\s+(?:a\s+|the\s+)?(?:null|dip|minimum|widest\s+eye)\b", re.I)
_AT_MARK = late_pattern(r"\bdial\s+at\s+(?:a|its|the)\s+(?:mark|line)\b", re.I)
_ON_MARK = late_pattern(r"\b(?:set\s+)?on\s+(?:a|its|the)\s+mark\b", re.I)
_THRESHOLD = late_pattern(
    r"\bthreshold\b(?:\s*,?\s*(?:on|lit|lights|closed)\s+(?P<side>below|above)(?:\s+it)?)?", re.I
)
_SOURCE = late_pattern(r"\b(?:is|as)\s+a\s+source\b|\bset\s+and\s+measured\b", re.I)
_SCREEN = late_pattern(rf"(?P<per>{_QUANTITY})\s*(?:/|\bper\b)\s*div(?:ision)?\b\.?", re.I)
_EDGES = late_pattern(rf"\bedges?\s+(?:to\s+)?({_NUMBER})(?:\s*div(?:isions?)?\b)?", re.I)
_CENTRE_ZERO = late_pattern(r"\bzero[ -](?:in\s+the\s+)?(?:cent(?:re|er)|middle)\b|\bcent(?:re|er)[ -]zero\b", re.I)
_SIDE = late_pattern(r"\bzero\s+(?:(?:at|on)\s+)?(?:the\s+)?(?P<side>left|right)\b", re.I)
_OHMS = late_pattern(
    rf"(?P<middle>{_QUANTITY})\s*(?:at\s+)?(?:cent(?:re|er)(?:\s+scale)?|(?:mid|half)[ -]?(?:scale|arc))\b", re.I
)
_DECIBELS = late_pattern(rf"(?<![\w.])(?P<low>{_SIGNED})\s*(?:dB\s*)?(?:\.\.|to)\s*(?P<high>{_SIGNED})\s*dB\b", re.I)
_SQUARE = late_pattern(rf"\bsquare\s+law\b(?:\s*,?\s*knee\s+(?:at\s+)?(?P<knee>{_QUANTITY}))?", re.I)
_FROM_TO = late_pattern(
    rf"(?<![\w.])(?P<low>{_SIGNED})\s*(?:\.\.|\bto\b)\s*(?P<high>{_NUMBER})(?P<unit>\s*(?:[^\W\d_]+|Ω|%(?!\s*(?:fs|f\.s|of\b|rdg|read))))?",
    re.I,
)
_ITEM = (
    rf"(?:{_SIGNED}(?:\s?[kKMmuµnpG](?![^\W\d_]))?|inf(?:inity)?|∞)(?:@{_NUMBER}%?)?"
    r"(?!\s*(?:%|div))(?=[\s,;]|$|[^\W\d_]+(?:[\s,;]|$))"
)
_MARKS = late_pattern(
    rf"\bmarks?\s+(?P<list>{_ITEM}(?:[\s,;]+{_ITEM})*)(?P<unit>\s*(?:[^\W\d_]+|Ω)(?=\s|,|$))?", re.I
)
_PLACED = late_pattern(rf"\bplaced\s+to\s+(?:±\s*)?(?P<u>{_NUMBER})\s*%(?:\s+of\s+(?:the\s+)?arc)?", re.I)
_STEPS = late_pattern(
    rf"\b(?:in\s+)?steps?\s+(?P<list>{_ITEM}(?:[\s,;]+{_ITEM})*)(?P<unit>\s*(?:[^\W\d_]+|Ω)(?=\s|,|$))?", re.I
)
_CALLED = late_pattern(r"\bcalled\s+(?:\"([^\"]+)\"|“([^”]+)”|(\S+))", re.I)
_HERE = " \x01 "
_PREFIX = {"k": 1e3, "K": 1e3, "M": 1e6, "G": 1e9, "m": 1e-3, "u": 1e-6, "µ": 1e-6, "n": 1e-9, "p": 1e-12}


@dataclass(frozen=True)
class HowSaid:
    """What a line says of how its range is read, values as they were written.

    Attributes
    ----------
    terms : dict
        Keywords of `HowRead` that need no unit.
    end : str
        The words that say where the range ends, with the unit; empty where they stand elsewhere in the line.
    last : str
        The last of its steps, or the largest of its marks, with their unit, which says it where nothing else does.
    lists : dict
        Marks, places and steps as written.
    begins, knee : str
    name : str
        What the range switch calls it.
    """

    terms: dict[str, Any]
    lists: dict[str, list[str]]
    end: str = ""
    last: str = ""
    begins: str = ""
    knee: str = ""
    name: str = ""


def take_how(left: Left) -> HowSaid:
    """Take how it is read out of what is left of a line.

    Raises
    ------
    ValueTextError, RangeError
        Where it is said by halves.
    """
    terms: dict[str, Any] = {}
    lists: dict[str, list[str]] = {}
    end = last = begins = knee = ""
    behind: dict[str, str] = {}  # the unit that a list ends in
    called = left.take(_CALLED)
    name = next(filter(None, called.groups())) if called else ""
    if match := left.take(_LOOK):
        terms |= {"kind": "look", "passes": _outcomes(match["good"]), "fails": _outcomes(match["bad"] or "")}
        return HowSaid(terms, lists, name=name)
    if figured := take_figured(left):
        return HowSaid(figured[0], lists, end=figured[1], name=name)
    if match := left.take(_SECOND):
        terms["second"] = _second(match)
    terms |= _kind(left)
    for key, pattern in (("marks", _MARKS), ("steps", _STEPS)):
        if match := left.take(pattern, _HERE):
            lists[key] = _items(re.sub(r"\s(?=[kKMmuµnpG](?:[\s,;]|$))", "", match["list"].strip()))
            unit = (match["unit"] or "").strip()
            left.text = left.text.replace(
                _HERE, "" if _is_unit(unit) else f" {unit} "
            )  # another word stays where it was
            behind[key] = unit if _is_unit(unit) else ""
            if behind[key] and key == "steps":
                last = f"{lists[key][-1]} {unit}"
    if match := left.take(_PLACED):
        said_to = parse_number(match["u"], "how well the marks' places are known, such as 0.3 %")
        if not 0 < said_to < 50:
            raise RangeError(worded("jot.marks_placed_to_of_the_arc", u=match["u"]), value=match[0])
        terms["places_u"] = said_to / 100 / 2  # said with 95 %, k = 2
    if match := left.take(_SCREEN):
        terms |= {"kind": "screen"}
        end = match["per"]
    if match := left.take(_EDGES):
        terms["edge"] = parse_number(match[1], "a part of a division such as 0.1")
        if not 0 < terms["edge"] <= 1:
            raise RangeError(worded("jot.edges_to_divisions_expected_a_part", match=match[1]), value=match[0])
    if match := _of_ohms(left):
        side = left.take(_SIDE)
        if side is None:
            raise ValueTextError(
                worded("jot.at_which_end_of_the_ohms"),
                value=left.line,
                expected=worded("jot.zero_left_or_zero_right"),
            )
        terms["shape"] = "ohms rising" if side["side"].lower() == "left" else "ohms falling"
        end = match["middle"]
    elif left.take(_CENTRE_ZERO):
        terms["shape"] = "centre zero"
    elif match := left.take(_DECIBELS):
        low, high = (parse_number(match[side], "a level such as -10") for side in ("low", "high"))
        if not low < high:
            raise RangeError(
                worded("jot.the_levels_run_from_to_db", low=match["low"], high=match["high"]),
                value=match[0],
            )
        terms |= {"shape": "decibels", "begins": low, "ends": high}
    elif match := left.take(_SQUARE):
        if match["knee"] is None:
            raise ValueTextError(
                "Where does the square law end? Give its knee, such as: square law knee 0.5 V; or the marks as they stand, such as "
                "marks 0@0 1@8 2@27 3@55 4@90",
                value=left.line,
            )
        terms["shape"], knee = "square near zero", match["knee"]
    elif match := left.take(_FROM_TO):
        begins, end = match["low"], f"{match['high']}{match['unit'] or ''}"
        if match["unit"] and not _is_unit(match["unit"].strip()):
            left.text += match["unit"]
            end = match["high"]
    if "marks" in lists and any("@" in item for item in lists["marks"]):
        terms["shape"] = "marks"
        lists["places"] = [item.partition("@")[2] for item in lists["marks"]]
        lists["marks"] = [item.partition("@")[0] for item in lists["marks"]]
        last = f"{largest_mark(lists['marks']):.12g} {behind['marks']}" if behind.get("marks") else ""
    elif "places_u" in terms:
        raise ValueTextError(worded("jot.which_marks_are_placed_so_write"), value=left.line)
    return HowSaid(terms, lists, end=end, last=last, begins=begins, knee=knee, name=name)


def _items(words: str) -> list[str]:
    """Part a list. Where blanks part it, one comma between two digits is a decimal comma."""
    if " " not in words:
        return re.split(r"[,;]+", words)
    found = re.split(r",?\s+|;\s*", words)
    return [item for one in found for item in (one.split(",") if one.count(",") > 1 + one.count("@") else [one])]


def _of_ohms(left: Left) -> re.Match[str] | None:
    """The centre of an ohms arc; 5 V centre zero is none."""
    match = _OHMS.search(left.text)
    if match is None or _unit_of(re.sub(rf"^{_NUMBER}\s*", "", match["middle"])) != "ohm":
        return None
    return left.take(_OHMS)


def _kind(left: Left) -> dict[str, Any]:
    found: dict[str, Any] = {}
    if match := left.take(_THRESHOLD):
        side = (match["side"] or "").lower()
        return {"kind": "threshold", "on_side": {"below": -1, "above": 1}.get(side, 0)}
    for kind, pattern in (("at mark", _AT_MARK), ("mark", _ON_MARK), ("null", _NULL), ("source", _SOURCE)):
        if left.take(pattern):
            return found | {"kind": kind}
    return found


def _outcomes(words: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(filter(None, (" ".join(w.split()) for w in words.split(",")))))


def _second(match: re.Match[str]) -> SecondDial:
    words = match["end"].strip()
    if words.endswith("%") or re.fullmatch(_NUMBER, words):
        value = parse_number(words.rstrip("% "), "where the second dial ends, such as 60 %")
        unit, end = "1", value / 100 if words.endswith("%") else value
    else:
        meaning = suffix_meaning(re.sub(rf"^{_NUMBER}\s*", "", words), None)
        unit = (meaning[1] if meaning else "") or "1"
        end = parse_quantity(words, unit).value
    return SecondDial(title=" ".join(match["title"].split()), unit=unit, end=end, divisions=int(match["n"]))


def _unit_of(word: str) -> str | None:
    meaning = suffix_meaning(word.strip().replace("µ", "u").replace("μ", "u").replace("Ω", "ohm"), None)
    return meaning[1] if meaning is not None else None


def _is_unit(word: str) -> bool:
    return suffix_meaning(word.replace("µ", "u").replace("μ", "u"), None) is not None


def resolved(said: HowSaid, unit: str, full_scale: float, factor: float) -> HowRead:
    """Return how a range is read, its values in SI: what is written without a unit is what is printed, `factor` each.

    Raises
    ------
    CandorError
        Where a value cannot be read.
    """
    terms = dict(said.terms)
    if terms.get("shape") == "marks":
        ends = [_printed(item, 1.0) for item in said.lists["marks"]]
        if (
            all(map(math.isfinite, ends)) and max(map(abs, ends)) > 0
        ):  # the numbers are those of the arc, the range says its end
            factor = full_scale / max(map(abs, ends))
    if said.lists.get("marks"):
        marks = tuple(_printed(item, factor) for item in said.lists["marks"])
        by_law = "@" not in "".join(said.lists["marks"]) and not said.lists.get("places")
        # Where the law says where each stands they may be written in either order.
        terms["marks"] = tuple(sorted(marks, reverse=terms.get("shape") == "ohms falling")) if by_law else marks
    if said.lists.get("places"):
        terms["places"] = _places(said.lists["places"])
    if said.lists.get("steps"):
        terms["steps"] = tuple(sorted(_printed(item, factor) for item in said.lists["steps"]))
    if said.begins:
        terms["begins"] = parse_number(said.begins, "where it begins") * factor
    if said.knee:
        terms["knee"] = parse_quantity(said.knee, unit).value
    if terms.get("kind") == "screen":
        terms |= {"per_division": full_scale, "axis": "horizontal" if unit == "s" else "vertical"}
    if terms.get("kind") == "figured":
        terms["comes_to"] = value_of(said.end)[0]
    how = HowRead(**terms)
    if how.marks and not how.places and how.shape not in OHMS and how.shape != "decibels":
        raise ValueTextError(
            "Where do the marks stand? Write each with its place, counted along the arc in any unit, such as: "
            "marks 0@0 1@8 2@27 3@55 4@90",
            value=" ".join(said.lists["marks"]),
        )
    return how


def largest_mark(items: list[str]) -> float:
    """Return the largest of marks as they are written, in the unit of the arc; 1 where one is infinite, or there is none.

    Raises
    ------
    ValueTextError
        Where one is no number.
    """
    sizes = [abs(_printed(item, 1.0)) for item in items]
    return max(sizes, default=1.0) if sizes and all(map(math.isfinite, sizes)) and max(sizes) > 0 else 1.0


def _printed(item: str, factor: float) -> float:
    if re.fullmatch(r"inf(?:inity)?|∞", item, re.I):
        return math.inf
    times = _PREFIX.get(item[-1], 0.0)
    number = parse_number(item[:-1] if times else item, "a mark such as 20")
    return float(f"{number * (times or 1.0) * factor:.9g}")


def _places(items: list[str]) -> tuple[float, ...]:
    """Places along the arc, counted in any unit from any end: 0 at the first, 1 at the last."""
    if not all(items):
        raise ValueTextError(worded("jot.a_mark_has_no_place_write"), value=" ".join(items))
    read = [parse_number(item.rstrip("%"), "a place such as 43") for item in items]
    span = read[-1] - read[0]
    if not span:
        raise CandorError(worded("jot.the_first_and_the_last_mark"), value=" ".join(items))
    return tuple(round((place - read[0]) / span, 9) for place in read)
