"""Understanding a jotted line: `72.6`, `-1/4t`, `72.6 ref 75.004 up`, `found cord perished hazard`."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import TYPE_CHECKING, Literal, cast

from candor.core.calibration.belonging import applied_for, is_at
from candor.core.calibration.point import TestPoint
from candor.core.errors import ValueTextError
from candor.core.grammar import parser_of
from candor.core.jot.adjuster_line import understand_adjuster
from candor.core.jot.arrive_line import understand_arrival
from candor.core.jot.board_line import understand_board
from candor.core.jot.change_line import DONE, change_of, disturbed, proves_nothing
from candor.core.jot.evidence_line import understand_evidence
from candor.core.jot.found_line import found_in_zone, understand_found
from candor.core.jot.leaving_line import understand_leaving
from candor.core.jot.meaning import (
    CheckJot,
    ConditionJot,
    DeadJot,
    DetailJot,
    Jot,
    NoteJot,
    PointsJot,
    PriceJot,
    ReadingJot,
    ShopJot,
    SpentJot,
)
from candor.core.jot.part_line import find_ref, is_remark, understand_part
from candor.core.jot.past_line import understand_past
from candor.core.jot.power_line import understand_power
from candor.core.jot.range_line import check_nominal, understand_points, understand_range
from candor.core.jot.reading_line import understand_reading
from candor.core.jot.soak_line import understand_soak
from candor.core.jot.trace_line import understand_trace
from candor.core.jot.usual_mark import item_in, usual_mark
from candor.core.parts.mains import read_mains
from candor.core.parts.part import Part
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.reading.kinds import kind_named
from candor.core.reading.reading import Direction
from candor.core.reference.chain import Chain, comes_to, read_unit_of
from candor.core.reference.choice import kept_reading
from candor.core.reference.reference import Reference

GRAMMAR = r"""
start: reading | verb
reading: AT? (TICKS | VALUE) (_REF REFERENCE)? DIRECTION?
       | AT? _REF REFERENCE DIRECTION?
verb: FOUND REST | DID REST | DISTURBED REST | DEAD REST | CHECKED REST | CONDITION REST | DETAIL REST
    | NOTE REST | SPENT REST | PRICE REST | MAINS REST | METER REST

AT.5: /@\s*\S+/
TICKS.4: /[+-]?\s*(\d+\s+\d+\/\d+|\d+\/\d+|\d+(\.\d*)?|\.\d+)\s*t(icks?)?(?![A-Za-z])(\s+(low|high|below|above)(?!\S))?/i
VALUE.2: /[+-]?[\d.,][^@]*?(?=\s+(ref(erence)?|from|up|down)(\s|$)|\s*$)/i
_REF.6: /ref(erence)?(?=\s)/i
REFERENCE.3: /[+-]?[\d.,][^@]*?(?=\s+(from|up|down)(\s|$)|\s*$)/i
DIRECTION.6: /(from\s+below|from\s+above|up|down)(?=\s|$)/i
FOUND.6: /found(?=\s)/i
DID.6: /did(?=\s)/i
DISTURBED.6: /disturbed(?=\s)/i
DEAD.6: /(inoperative|dead)(?=\s)/i
CHECKED.6: /checked(?=\s)/i
CONDITION.6: /(temp|temperature|rh|humidity|line)(?=\s+[\d.])/i
DETAIL.6: /(serial|owner|says|stored|cost|missing|repairs|drawing|mismatch)(?=\s)/i
NOTE.6: /note(?=\s)/i
SPENT.6: /spent(?=\s+[\d.])/i
PRICE.6: /(agreed|rate)(?=\s+[\d.])/i
MAINS.6: /mains(?=\s+[\d.])/i
METER.6: /esr\s+meter(?=\s+[\d.])/i
REST.1: /\S.*/
%import common.WS_INLINE
%ignore WS_INLINE
"""

if TYPE_CHECKING:
    from lark import Lark, Token

_CONDITIONS = {"temp": "celsius", "temperature": "celsius", "rh": "humidity", "humidity": "humidity"}
# What a room and a line can be, wide: outside it a slip of the pen is asked about.
POSSIBLE = {"celsius": (-30.0, 60.0, "°C"), "humidity": (0.0, 100.0, "%"), "line_volts": (1.0, 600.0, "V")}


@dataclass(frozen=True)
class JotContext:
    """What is in hand while the line is written.

    Attributes
    ----------
    point : TestPoint or None
        The point that a bare number or ticks belong to.
    zones : tuple of (str, str)
        Key and title of each zone of the instrument, to place a finding.
    parts : mapping of str to Part
        The job's parts list by designator.
    makes_points : bool
        A further point of the point's range is in hand: a bare number says which.
    events : tuple of str
        What the state on the way up expects: such words alone are events.
    served : Reference, Chain or None
        What the point is read against: of a chain the link that is read is what is typed.
    items : tuple of (str, str)
        Zone and item of every checklist of the instrument: a line that names one is a finding.
    case_can_be_live : bool
        Something may join the case to the line: two wires and no earth are a hazard then.
    """

    point: TestPoint | None = None
    zones: tuple[tuple[str, str], ...] = ()
    parts: Mapping[str, Part] = field(default_factory=dict)
    makes_points: bool = False
    events: tuple[str, ...] = ()
    served: Reference | Chain | None = None
    items: tuple[tuple[str, str], ...] = ()
    case_can_be_live: bool = False


@cache
def _parser() -> Lark:
    return parser_of("jot", GRAMMAR)


def understand(text: str, context: JotContext) -> Jot:
    """Say what a line means.

    Words that fit nothing become a plain note; a line that begins like a number must be a value.

    Raises
    ------
    ValueTextError
        Where nothing was written, or a value cannot be read.
    RangeError
        Where a reading lies past the stops of the dial in hand.
    """
    from lark.exceptions import UnexpectedInput

    clean = _spell_fractions(text)
    if not clean:
        raise ValueTextError("Nothing was entered; expected a reading such as 72.6 or -1/4t, or words.", value=text)
    if context.point is not None and not clean.startswith("@"):
        reading = understand_reading(clean, context.point, context.served)
        if reading is not None:
            return reading
        adjuster = understand_adjuster(clean)
        if adjuster is not None:
            return adjuster
    about_range = re.match(r"(range|points?)(?=\s|$)\s*(.*)", clean, re.I)
    if about_range and re.search(r"\d", about_range[2]):
        said = about_range[2]
        return understand_range(said) if about_range[1].lower() == "range" else understand_points(said, context.point)
    evidence = understand_evidence(clean)
    if evidence is not None:
        return evidence
    arrival = understand_arrival(clean)
    if arrival is not None:
        return arrival
    traced = understand_trace(clean)
    if traced is not None:
        return traced
    board = understand_board(clean, context.parts)
    if board is not None:
        return board
    soaking = understand_soak(clean)
    if soaking is not None:
        return soaking
    past = understand_past(clean)
    if past is not None:
        return past
    leaving = understand_leaving(clean)
    if leaving is not None:
        return leaving
    on_the_way_up = understand_power(clean, context.events)
    if on_the_way_up is not None:
        return on_the_way_up
    about_part = _about_part(clean, context)
    if about_part is not None:
        return about_part
    try:
        tree = _parser().parse(clean)
    except UnexpectedInput:
        if re.match(r"[+-]?[\d.,]|@|ref\b", clean):
            return _misread_number(clean, context)
        if DONE.match(clean):
            return change_of(clean, context.parts)
        zone, item = item_in(clean, context.items)
        if item:
            return found_in_zone(clean, usual_mark(clean, context.case_can_be_live), context.zones, zone)
        return NoteJot(text.strip(), (f"note: {text.strip()}",))
    part = tree.children[0]
    tokens = [cast("Token", t) for t in part.children]  # type: ignore[union-attr]
    if part.data == "reading":  # type: ignore[union-attr]
        return _reading(tokens, context)
    return _verb(str(tokens[0]).lower(), str(tokens[1]).strip(), context)


def _about_part(clean: str, context: JotContext) -> Jot | None:
    ref, rest = find_ref(clean, context.parts)
    if ref and not is_remark(rest):
        return understand_part(ref, rest, context.parts[ref])
    other = re.match(r"([RC]\d+)\s+[\d.]", clean)
    if other and context.parts:
        near = ", ".join(list(context.parts)[:4])
        raise ValueTextError(f"{other[1]} is not on this job's parts list; there are such as {near}.", value=other[1])
    return None


def _misread_number(clean: str, context: JotContext) -> Jot:
    parse_quantity(clean, context.point.unit if context.point else "V")
    raise ValueTextError(
        f"“{clean}” begins like a reading but does not go on like one; "
        "expected such as 72.6, -1/4t, 72.6 ref 75.004 or 72.6 up.",
        value=clean,
    )


def _reading(tokens: list[Token], context: JotContext) -> ReadingJot | PointsJot:
    found = {token.type: str(token).strip() for token in tokens}
    point, chips = context.point, []
    key = found["AT"].lstrip("@ ") if "AT" in found else ""
    if key:
        chips.append(f"at {key}")
        if point is not None and key != point.key:
            point = None
    indicated = ticks = reference = None
    unit = point.unit if point else "V"
    if "TICKS" in found:
        ticks = _ticks(found["TICKS"])
        if point is not None:
            indicated = point.indicator.check(point.indicator.ticks_from(point.nominal, ticks))
        chips.append(_ticks_chip(ticks, point, indicated))
    elif "VALUE" in found:
        value = parse_quantity(found["VALUE"], unit).value
        indicated = abs(value) if point is not None and point.polarity < 0 else value
        if point is not None:
            indicated = point.indicator.check(indicated)
            if context.makes_points and "REFERENCE" not in found:
                value = check_nominal(indicated, point)
                return PointsJot((value,), (f"next point: {engineering(value, unit, 6)}",))
        chips.append(f"needle {engineering(indicated, unit, 6)}")
    if "REFERENCE" in found:
        served = context.served if point is not None else None
        value = parse_quantity(found["REFERENCE"], read_unit_of(served) if served is not None else unit).value
        reference = kept_reading(context.served, point, value) if point is not None else value
        chips.append(f"reference {engineering(reference, read_unit_of(served) if served is not None else unit, 7)}")
    if point is not None and indicated is not None and reference is not None and not context.makes_points:
        shows = reference if context.served is None else comes_to(context.served, reference)
        applied = applied_for(point, kind_named("needle"), indicated, shows)
        if applied is not None and not is_at(point, applied):
            chips.append(f"at {engineering(applied, point.unit, 5)}, not {engineering(point.nominal, point.unit)}")
    direction = _direction(found.get("DIRECTION", ""))
    if direction:
        chips.append("from below" if direction == "up" else "from above")
    return ReadingJot(
        indicated=indicated, ticks=ticks, reference=reference, direction=direction, point=key, chips=tuple(chips)
    )


def _verb(verb: str, rest: str, context: JotContext) -> Jot:
    if verb == "found":
        return understand_found(rest, context.zones, context.items, context.case_can_be_live)
    if verb == "did":
        return change_of(rest, context.parts)
    if verb == "disturbed":
        return disturbed(rest, context.parts)
    if verb in ("inoperative", "dead"):
        reason = re.sub(r"^(,|:)?\s*(because|as found)\s+", "", rest, flags=re.I)
        return DeadJot(reason, (f"as found: inoperative, because {reason}",))
    if verb == "spent":
        return _spent(rest)
    if verb in ("agreed", "rate"):
        value = parse_number(rest, "an amount such as 60")
        words = f"price agreed {value:.2f}" if verb == "agreed" else f"{value:.2f} an hour"
        return PriceJot("agreed" if verb == "agreed" else "an_hour", value, (words,))
    if verb == "mains":
        mains = read_mains(rest)
        return ShopJot("mains", mains.words, (f"the shop's mains: {mains.words}",))
    if verb.startswith("esr"):
        at = engineering(parse_quantity(rest, "Hz").value, "Hz")
        return ShopJot("esr_meter", at, (f"the shop's ESR meter tests at {at}",))
    if verb == "checked" and proves_nothing(rest):
        raise ValueTextError(
            f"“{rest}” proves nothing: say what was measured or seen that shows the change, such as: checked rail "
            "312 V, ripple gone.",
            value=rest, expected="what was measured or seen",
        )  # fmt: skip
    if verb == "checked":
        return CheckJot(rest, (f"proves the last change: {rest}",))
    if verb == "note":
        return NoteJot(rest, (f"note: {rest}",))
    if verb == "line":
        volts = possible_condition("line_volts", parse_quantity(rest, "V").value, rest)
        return ConditionJot("line_volts", volts, (f"line {trimmed(volts)} V",))
    if verb in _CONDITIONS:
        which = cast(Literal["celsius", "humidity"], _CONDITIONS[verb])
        value = possible_condition(which, parse_number(rest.rstrip(" %C°"), "a number such as 23.1"), rest)
        chip = f"{trimmed(value)} °C" if which == "celsius" else f"{trimmed(value)} % relative humidity"
        return ConditionJot(which, value, (chip,))
    return DetailJot(verb, rest, (f"{verb}: {rest}",))


def possible_condition(which: str, value: float, written: str) -> float:
    """Return a condition of room or line ("celsius", °C; "humidity", %; "line_volts", V) where it can be.

    Raises
    ------
    ValueTextError
        Where it cannot: a question about what was `written`.
    """
    low, high, unit = POSSIBLE[which]
    if not low <= value <= high:
        raise ValueTextError(
            f"{trimmed(value)} {unit}? Expected {trimmed(low)} to {trimmed(high)} {unit}; is a decimal point missing?",
            value=written,
        )
    return value


def _spent(rest: str) -> SpentJot:
    match = re.match(r"([\d.,]+)\s*(min|minutes|h|hours)?\b\s*(.*)", rest, re.I)
    if match is None:
        raise ValueTextError(f"“{rest}” is neither time nor money; expected 45 min, 1.5 h or 12.50.", value=rest)
    value = parse_number(match[1], "time or money such as 45 min or 12.50")
    if value <= 0:
        raise ValueTextError(f"“{rest}” is nothing spent; expected 45 min, 1.5 h or 12.50.", value=rest)
    if match[2]:
        minutes = value * (60 if match[2].lower().startswith("h") else 1)
        return SpentJot(minutes, 0.0, match[3], (f"{trimmed(minutes)} min", *filter(None, [match[3]])))
    return SpentJot(0.0, value, match[3], (f"{value:.2f} spent", *filter(None, [match[3]])))


def _ticks(text: str) -> float:
    number = re.sub(r"\s*t(icks?)?\b.*$", "", text, flags=re.I).replace(" ", "") if " " not in text.strip() else None
    if number is None:
        number = re.sub(r"\s*t(icks?)?(\s+(low|high|below|above))?$", "", text.strip(), flags=re.I)
    value = parse_number(re.sub(r"^([+-])\s+", r"\1", number), "a number of ticks such as -1/4t")
    return -abs(value) if re.search(r"(low|below)$", text, re.I) else value


def _ticks_chip(ticks: float, point: TestPoint | None, indicated: float | None) -> str:
    if ticks == 0:
        words = "on"
    else:
        amount = say_ticks(abs(ticks))
        words = f"{amount} {'above' if ticks > 0 else 'below'}"
    if point is None or indicated is None:
        return f"{words} the mark in hand"
    return f"{words} {engineering(point.nominal, point.unit)} → {engineering(indicated, point.unit, 5)}"


def say_ticks(size: float) -> str:
    """Return a number of ticks as people say it: ``¼ tick``, ``1½ ticks``."""
    whole, part = divmod(round(size * 100) / 100, 1)
    fraction = {0.0: "", 0.25: "¼", 0.5: "½", 0.75: "¾", 0.2: "⅕"}.get(round(part, 2))
    text = trimmed(size, 2) if fraction is None else f"{int(whole) if whole or not fraction else ''}{fraction}"
    return f"{text} tick{'s' if size > 1 else ''}"


def _direction(text: str) -> Direction:
    if not text:
        return ""
    return "up" if text.lower().replace(" ", "") in ("up", "frombelow") else "down"


def _spell_fractions(text: str) -> str:
    clean = text.strip()
    for character, written in (("−", "-"), ("½", " 1/2"), ("¼", " 1/4"), ("¾", " 3/4"), ("⅕", " 1/5")):
        clean = clean.replace(character, written)
    return re.sub(r"^([+-])\s+", r"\1", clean.strip())
