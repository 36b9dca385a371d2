"""A jotted line about a part: `R12 6.72M`, `C4 8.8u esr 11`, `C4 leak 310u @400V 5min`, `R24 366k cold 374k warm`."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.meaning import DecisionJot, LimitJot, Loss, PartJot
from candor.core.late_pattern import late_pattern
from candor.core.leakage.capacitor import dissipation_from_power_factor
from candor.core.parts.part import UNITS, VALUED, Part
from candor.core.quantities import Quantity, engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

EXPECTED = "R24 366k cold 374k warm; C4 8.8u esr 11; C4 leak 310u @400V 5min; C4 open; C4 keep because it is new"
# Not “was”: that is a part that has gone.
_READS = r"reads?|measure[sd]?|tests?|tested|is|(?:has\s+)?(?:drifted|gone|went)\s+(?:up\s+|down\s+)?to"
_NO_UNIT = f"at|esr|leak|leaks|leakage|ir|d|pf|warm|cold|open|short|intermittent|good|worn|weak|leaky|really|limit|in|now|{_READS}"
_VALUE = rf"[\d.,]+\s?(?:(?!(?:{_NO_UNIT})\b)[A-Za-zµΩ]+\d*)?"
_TIME = r"(?:minutes?|mins?|m|seconds?|secs?|s|hours?|hrs?|h)"
MOST_AMPERES = 0.5  # through a capacitor on a tester: more is a slip of the pen
FAR_OFF = 100.0  # times its nominal value, or a hundredth of it: asked about before it is written

_NUMBER = r"[\d.,]+\s?"
_OHMS = rf"{_NUMBER}(?:[kMG]?\s?(?:ohms?|Ω)|(?:meg|gig)(?:a?ohms?|s)?)"
# Of a capacitor alone: a current is what it leaks, a resistance what its insulation is; the loss has other names, and its
# frequency may stand without a word.
_OF_CAPACITORS = (
    (rf"^(?=({_NUMBER}[munpµμ]?A)\b)", "leak "),
    (
        rf"(?<=\s)(?=({_NUMBER}[munpµμ]?A)\b)(?<!leak )(?<!leaks )(?<!leakage )(?<!is )(?<!of )(?<!current )(?<!limit )",
        "leak ",
    ),
    (rf"\b({_OHMS})\s+(?:of\s+)?esr\b", r"esr \1"),
    (rf"^insulation\s+(?:is\s+)?(?={_NUMBER})", "ir "),
    (rf"^(?={_OHMS}\s*(?:@|at\b))", "ir "),
    (r"\b(?:df|tan(?:\s?(?:d|δ|delta))?)\s+(?=[\d.])", "d "),
    (rf"(?<=[\dΩ%ms])\s+(?=({_NUMBER}k?Hz)\b)", " at "),
)
_ITEMS = late_pattern(
    rf"""[\s,;]*(?:now\s+)?(?:(?:{_READS})(?:\s+(?:at|as))?\s+|[=:]\s*)?(?:
      (?P<in_circuit>in\s+circuit)
    | (?P<lifted>(?:with\s+)?(?:one\s+)?(?:leg|end|side|lead)?\s*lifted|out\s+of\s+circuit)
    | (?P<state>open|short|intermittent|good|worn|weak|leaky)(?:ed)?\b
    | (?P<really>really)\b
    | limit\s+(?P<limit>{_VALUE})(?:\s+by\s+its\s+sheet)?
    | (?P<leak>leak(?:age|s)?)(?:\s+(?:current|is|of))*\s*[=:]?\s*(?P<leakage>{_VALUE})(?:\s*(?:@|\bat\b)\s*(?P<at>{_VALUE}))?
      (?:\s+(?:after\s+)?(?P<dwell>[\d.,]+\s?{_TIME}\b))?
    | ir\s+(?P<ir>{_VALUE})(?:\s*(?:@|\bat\b)\s*(?P<ir_at>{_VALUE}))?
    | esr\s+(?P<esr>{_VALUE})(?:\s*(?:@|\bat\b)\s*(?P<esr_at>{_VALUE}))?
    | d\s+(?P<d>[\d.,]+)(?:\s*(?:@|\bat\b)\s*(?P<d_at>{_VALUE}))?
    | pf\s+(?P<pf>[\d.,]+)\s*%(?:\s*(?:@|\bat\b)\s*(?P<pf_at>{_VALUE}))?
    | (?:±|\+-|\+/-)\s*(?P<percent>[\d.,]+)\s*%
    | (?P<warm>{_VALUE})\s+warm\b
    | (?P<value>{_VALUE})(?:\s+cold\b)?
    )(?=[\s,;]|$)""",
    re.X | re.I,
)


_OVER_RANGE = late_pattern(r"(?:now\s+)?(?:(?:reads?|is|measures?|shows?)\s+)?(?:OL|over\s?load|infinit[ey]|∞)", re.I)
METER_REACH = 5e6  # ohm: what is not above it is open where a bench meter shows none; common practice, no source
_SAID_OTHERWISE = (
    (late_pattern(r"(?<=\d)\s*([kMG])\s+(?=(?:ohms?|Ω)(?:\s|[,;]|$))", re.I), r"\1"),
    (late_pattern(r"\b(?:when\s+)?(?:warm|hot)\b", re.I), "warm"),
    (late_pattern(rf"(?<=[,;])\s*warm\s+({_VALUE})", re.I), r" \1 warm"),
    (late_pattern(r"(?<=[\s,;])d\s*[=:]\s*(?=[\d.])", re.I), "d "),
    (
        late_pattern(r"(?<=\w)[\s,;]+(?:so\s+)?(?:ok(?:ay)?|fine)[.!]?$", re.I),
        "",
    ),  # what was measured decides, not the word behind it
)


def find_ref(text: str, parts: Mapping[str, Part]) -> tuple[str, str]:
    """Return (designator, rest) where a line begins with a part on the list, else two empty strings."""
    match = re.match(r"(?:(?:measured|tested)\s+)?([A-Z]{1,4}\d+)(\s?[a-z])?(?=\s|[=:]|$)\s*(.*)", text.strip(), re.I)
    if not match:
        return "", ""
    first, letter, rest = match[1].upper(), (match[2] or "").strip().lower(), match[3]
    if letter and f"{first} {letter}" in parts:
        return f"{first} {letter}", rest
    return (first, f"{letter} {rest}".strip()) if first in parts else ("", "")


# How a part of a letter is put on the list.
_ADDED = {"R": "part {} 470k", "C": "part {} 0.05u 400V paper", "V": "part {} tube 12AX7", "L": "part {} 10 H"}


def unlisted_in(text: str) -> str:
    """Return the designator that a text says something of as of a part: ``C3 leaky``, ``R7 reads 620k``; else nothing."""
    match = re.match(rf"([RCLV]\d+)\b\s*[=:]?\s*(?:[\d.]|(?:{_NO_UNIT}|shorted|burn\w*|replaced)\b)", text, re.I)
    return match[1].upper() if match else ""


def example_of(ref: str) -> str:
    """Return the line that puts a part of this designator on the list."""
    return _ADDED[ref[0]].format(ref)


def find_replaced(text: str, parts: Mapping[str, Part]) -> str:
    """Return the designator of a part on the list, or the name of a can of several sections, that a text begins with."""
    ref = find_ref(text, parts)[0]
    first = text.split(maxsplit=1)[0].upper() if text.strip() else ""
    return ref or (first if any(p.can == first for p in parts.values()) else "")


def is_remark(rest: str) -> bool:
    """Say whether what stands after a designator is a remark for a note rather than something measured or decided."""
    return not re.search(r"\d", rest) and not re.match(
        rf"(?:now\s+)?(?:(?:{_READS})\s+)?(open|OL|over\s?load|infinit[ey]|short|shorted|intermittent|good|worn|weak|leaky|keep|replace|in\s+circuit)\b|$",
        rest,
        re.I,
    )


def understand_part(ref: str, rest: str, part: Part) -> PartJot | DecisionJot | LimitJot:
    """Say what a line says of a part.

    Raises
    ------
    ValueTextError, UnitError
        Where it cannot be read.
    """
    decided = re.match(r"(keep|replace)\b[\s:,]*(?:because\s+)?(.*)", rest, re.I)
    if decided:
        return _decision(ref, decided[1].lower(), decided[2].strip())
    found: dict[str, str] = {}
    place = 0
    for written, meant in _OF_CAPACITORS if part.kind == "capacitor" else ():
        rest = re.sub(written, meant, rest, flags=re.I)
    if _OVER_RANGE.fullmatch(rest.strip()):
        if part.kind == "capacitor" or part.nominal > METER_REACH:
            raise ValueTextError(
                worded("jot.that_may_be_the_meter", ref=ref, words=part.words), value=rest, expected=f"{ref} open"
            )
        rest = "open"
    for pattern, meant in _SAID_OTHERWISE:
        rest = pattern.sub(meant, rest)
    while place < len(rest.rstrip()):
        match = _ITEMS.match(rest, place)
        if not match or match.end() == place:
            raise ValueTextError(
                worded(
                    "jot.candor_cannot_read_after_examples", rest=rest[place:].strip(), ref=ref, expected=EXPECTED
                ),
                value=rest,
            )
        said = {name: text for name, text in match.groupdict().items() if text}
        for name in found.keys() & said.keys():
            if name != "value" or not _is_marked(
                found[name], part
            ):  # R5 4k7 measured 5k1: what it is marked, then what it is
                raise ValueTextError(
                    worded(
                        "jot.or_two_of_one_kind_were", ref=ref, found=found[name], said=said[name], expected=EXPECTED
                    ),
                    value=rest,
                )
        found |= {name: text.rstrip(",;") for name, text in said.items()}
        place = match.end()
    if "limit" in found:
        return _sheet_limit(ref, found, part)
    if not found:
        raise ValueTextError(worded("jot.what_did_you_measure_examples", ref=ref, expected=EXPECTED), value=rest)
    return _measured(ref, found, part)


def _is_marked(text: str, part: Part) -> bool:
    """Whether a value is what the part is marked with."""
    try:
        return math.isclose(_value(part.ref, text, part, really=True).value, part.nominal, rel_tol=0.01)
    except CandorError:
        return False


def _sheet_limit(ref: str, found: dict[str, str], part: Part) -> LimitJot:
    if part.kind != "capacitor" or found.keys() - {"limit", "really"}:
        raise ValueTextError(worded("jot.a_limit_from_its_own_sheet", ref=ref), value=found["limit"])
    amperes = _current(ref, found["limit"], "really" in found)
    return LimitJot(
        part,
        amperes,
        (f"{ref}, {part.words}", worded("jot.leaks_at_most_by_its_own", amperes=engineering(amperes, "A", 3))),
    )


def _value(ref: str, text: str, part: Part, really: bool) -> Quantity:
    """Read a value; a bare one of a capacitor is taken in the unit that comes near its nominal, and far off is a question."""
    unit = UNITS.get(part.kind, "")
    if not unit:
        expected = worded("jot.good_or_open", ref=ref)
        raise ValueTextError(
            worded("jot.is_a_it_has_no_value", ref=ref, kind=part.kind, expected=expected), value=text
        )
    bare = unit == "F" and re.fullmatch(r"[\d.,]+", text.strip())
    read = _nearest(text.strip(), part) if bare else parse_quantity(text, unit)
    value = _above_zero(ref, read.value)
    if not really and part.nominal and not 1 / FAR_OFF < value / part.nominal < FAR_OFF:
        raise ValueTextError(
            worded("jot.it_is_by_its_drawing_write", ref=ref, value=engineering(value, unit), words=part.words),
            value=text,
        )
    return read


def _nearest(text: str, part: Part) -> Quantity:
    """Return a capacitance written without a unit in that of p, n and u that comes nearest its nominal value.

    Raises
    ------
    ValueTextError
        Where none comes near.
    """
    read = [
        (parse_quantity(f"{text}{prefix}", "F").value, sign)
        for prefix, sign in (("p", "pF"), ("n", "nF"), ("u", "µF"))
    ]
    value, sign = min(read, key=lambda pair: abs(math.log(pair[0] / part.nominal)) if pair[0] > 0 else math.inf)
    # A sign is a thousand times another: within five times one only can be meant.
    if not 0.2 < value / part.nominal < 5:
        raise ValueTextError(
            worded("jot.of_what_it_is_write_the", ref=part.ref, text=text, words=part.words), value=text
        )
    return Quantity(value, "F", text, worded("jot.without_a_unit_read_as", sign=sign))


def _current(ref: str, text: str, really: bool) -> float:
    read = parse_quantity(text, "A")
    if read.value == 0:  # what it leaks under the least that the meter shows nobody knows
        raise ValueTextError(worded("jot.zero_is_what_the_meter_cannot_show", ref=ref), value=text, expected="0.1u")
    _bears(ref, read.value, text, really)
    return read.value


def _bears(ref: str, amperes: float, text: str, really: bool) -> None:
    """Ask about a current that no tester drives through a capacitor."""
    if amperes > MOST_AMPERES and not really:
        shown = trimmed(amperes)
        raise ValueTextError(worded("jot.a_through_a_capacitor_write_the", ref=ref, shown=shown), value=text)


_TOLD = late_pattern(
    r"(?:(?:to do|todo|must|should|have to|need to|will|going to|then|next|please)[:,]?\s+)*"
    r"(?P<action>keep|leave|replace|swap|exchange|change)\s+(?:the\s+)?(?P<ref>[A-Z]{1,4}\d+(?:\s[a-z])?)"
    r"(?:[\s:,]+(?:because|as|since)\s+(?P<reason>.*))?[.!]?",
    re.I,
)


def is_decided(text: str) -> bool:
    """Return whether a line tells what is to be done with a part, the deed first: ``replace C4 because it is old``."""
    return _TOLD.fullmatch(text.strip()) is not None


def understand_decision(text: str, parts: Mapping[str, Part]) -> DecisionJot | None:
    """Say what is to be done with a part on the list; None where the line tells no such thing.

    Raises
    ------
    ValueTextError
        Without a reason; where it may be told of what was done.
    """
    match = _TOLD.fullmatch(text.strip())
    ref = find_ref(match["ref"], parts)[0] if match is not None else ""
    if match is None or not ref:
        return None
    action = "keep" if match["action"].lower() in ("keep", "leave") else "replace"
    if action == "replace" and not match["reason"]:
        raise ValueTextError(worded("jot.is_it_replaced_or_to_be", ref=ref), value=text, expected=f"replaced {ref}")
    return _decision(ref, action, match["reason"] or "")


def _decision(ref: str, action: str, reason: str) -> DecisionJot:
    if not reason:
        raise ValueTextError(
            worded("jot.say_why_because_nothing_was_written", ref=ref, action=action), value=ref, expected="a reason"
        )
    return DecisionJot(ref, "keep" if action == "keep" else "replace", reason, (ref, action, reason))


def _measured(ref: str, found: dict[str, str], part: Part) -> PartJot:
    unit, chips = UNITS.get(part.kind, ""), [f"{ref}, {part.words}"]
    numbers: dict[str, float] = {}
    for name, where in (("value", "cold" if "warm" in found else ""), ("warm", "warm")):
        if name in found:
            read = _value(ref, found[name], part, "really" in found)
            numbers[name] = read.value
            chips.append(
                f"{engineering(numbers[name], unit)} {where}".strip() + (f" ({read.note})" if read.note else "")
            )
    if "in_circuit" in found and "lifted" in found:
        raise ValueTextError(worded("jot.in_circuit_or_lifted", ref=ref), value=ref)
    if "in_circuit" in found or "lifted" in found:
        chips.append("in circuit" if "in_circuit" in found else "lifted")
    if "state" in found:
        chips.append(found["state"].lower())
    if "state" in found and found["state"].lower() in ("good", "worn", "weak", "leaky") and part.kind in VALUED:
        said = found["state"].lower()
        raise ValueTextError(
            worded("jot.is_a_a_measurement_decides_not", ref=ref, kind=part.kind, said=said, expected=EXPECTED),
            value=said,
        )
    if part.kind != "capacitor" and found.keys() & {"leakage", "ir", "esr", "d", "pf"}:
        raise ValueTextError(worded("jot.is_a_it_has_no_leakage", ref=ref, kind=part.kind), value=ref)
    if not found.keys() & {"value", "warm", "state", "leakage", "ir", "esr", "d", "pf"}:
        said = _beside(found)
        raise ValueTextError(
            worded("jot.alone_is_not_a_measurement_examples", ref=ref, said=said, expected=EXPECTED), value=said
        )
    _losses(ref, found, numbers, chips)
    _leakage(ref, found, numbers, chips, part)
    if "percent" in found:
        numbers["percent"] = _above_zero(ref, parse_number(found["percent"], "per cent such as 1"))
        chips.append(f"± {trimmed(numbers['percent'])} %")
    loss: Loss = "esr" if "esr" in found else "pf" if "pf" in found else "d" if "d" in found else ""
    return PartJot(
        ref=ref,
        unit=unit,
        numbers=numbers,
        state=found.get("state", "").lower(),
        in_circuit="in_circuit" in found,
        loss=loss,
        chips=tuple(chips),
    )


def _beside(found: Mapping[str, str]) -> str:
    """Return what stands beside a figure, as it was written."""
    return " ".join(f"±{text} %" if name == "percent" else text for name, text in found.items())


def _losses(ref: str, found: dict[str, str], numbers: dict[str, float], chips: list[str]) -> None:
    frequency = next((found[name] for name in ("esr_at", "d_at", "pf_at") if name in found), "")
    if frequency:
        numbers["hertz"] = parse_quantity(frequency, "Hz").value
    at = f" at {engineering(numbers['hertz'], 'Hz')}" if "hertz" in numbers else ""
    if "esr" in found:
        numbers["esr"] = parse_quantity(found["esr"], "ohm").value
        if numbers["esr"] == 0:  # a shorted capacitor reads so too
            raise ValueTextError(
                worded("jot.an_esr_of_zero_is_a_short_or", ref=ref), value=found["esr"], expected="0.1"
            )
        chips.append(f"ESR {engineering(numbers['esr'], 'ohm')}{at}")
    if "d" in found:
        numbers["dissipation"] = parse_number(found["d"], "a dissipation factor such as 0.05")
    if "pf" in found:
        share = parse_number(found["pf"], "a power factor in per cent such as 8") / 100
        numbers["dissipation"] = dissipation_from_power_factor(share)
    if "dissipation" in numbers:
        chips.append(f"D {trimmed(numbers['dissipation'], 3)}{at}")


def _leakage(ref: str, found: dict[str, str], numbers: dict[str, float], chips: list[str], part: Part) -> None:
    at = found.get("at") or found.get("ir_at")
    if "leakage" not in found and "ir" not in found:
        return
    if not at:
        if "leakage" in found:
            _current(ref, found["leakage"], "really" in found)
        raise ValueTextError(worded("jot.at_what_voltage_does_leak_example", ref=ref), value=ref)
    volts = numbers["leakage_volts"] = _above_zero(ref, parse_quantity(at, "V").value)
    if "ir" in found:
        numbers["leakage"] = volts / _above_zero(ref, parse_quantity(found["ir"], "ohm").value)
        _bears(ref, numbers["leakage"], found["ir"], "really" in found)
        chips.append(f"{engineering(volts / numbers['leakage'], 'ohm')} = {engineering(numbers['leakage'], 'A', 3)}")
    else:
        numbers["leakage"] = _current(ref, found["leakage"], "really" in found)
        chips.append(f"leaks {engineering(numbers['leakage'], 'A', 3)}")
    chips.append(worded("jot.at_v", volts=trimmed(volts)))
    if "dwell" in found:
        numbers["dwell_s"] = parse_quantity(found["dwell"], "s").value
        chips.append(worded("jot.after_s", dwell_s=trimmed(numbers["dwell_s"])))
    if part.volts and volts > part.volts:
        chips.append(worded("jot.caution_above_its_v", volts=trimmed(part.volts)))


def _above_zero(ref: str, value: float) -> float:
    if value <= 0:
        raise ValueTextError(worded("jot.is_not_above_zero_nothing_was", ref=ref, value=value), value=str(value))
    return value
