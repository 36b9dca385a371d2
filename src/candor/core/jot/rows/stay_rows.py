"""Lines of the job as a whole: findings, what was done and what proves it, notes, details, time and money, the shop's own."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.jot.change_line import DID, disturbed, proves_nothing
from candor.core.jot.form import Said
from candor.core.jot.found_line import understand_found
from candor.core.jot.meaning import (
    ChangeJot,
    CheckJot,
    DetailJot,
    FindingJot,
    HelpJot,
    NoteJot,
    PriceJot,
    ShopJot,
    SpentJot,
)
from candor.core.jot.rows.plan_rows import PLAN
from candor.core.jot.verb import Verb
from candor.core.late_pattern import late_pattern
from candor.core.parts.mains import read_mains
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit
from candor.core.worded import worded

_SAYS = late_pattern(r"(?:says|said|reports|reported|tells|told)\s+(?:(?:me|us)\s+)?(?:that\s+)?", re.I)
_ANSWER = late_pattern(r"(?:approved|accepted|declined)[.!]?", re.I)
_NO_NAME = late_pattern(
    r"(?:wants?|would|has|had|is|was|will|can|cannot|does|did|needs?|asks?|thinks?|complain\w*|heard|wrote|writes|likes?|calls?|rang|came"
    r"|comes|brought|brings|left|paid|pays|sent|sends|lives|died|moved|bought|sold|knows|knew|uses|used|lost|found|gave|took|tried"
    r"|[a-z]{3,}ed)\b",
)
# What is told of a drawing or a number is not what it is: a line of words, kept as such.
_NO_DRAWING = late_pattern(
    r"(?:is|was|are|shows?|differs?|says|has|had|does|seems|lacks|misses|looks|needs|agrees|disagrees)\b", re.I
)
_NO_SERIAL = late_pattern(
    r"(?:number\s+)?(?:is\s+)?(?:worn|missing|gone|illegible|unreadable|not|faded|scratched|hidden|painted|filed)\b",
    re.I,
)
DETAILS = ("serial", "owner", "says", "stored", "cost", "missing", "repairs", "drawing", "mismatch")


def _found(said: Said) -> FindingJot:
    seen = said.context
    return understand_found(said["text"], seen.zones, seen.items, seen.case_can_be_live)


def _disturbed(said: Said) -> ChangeJot:
    return disturbed(said["text"], said.context.parts)


def _checked(said: Said) -> CheckJot:
    text = said["text"]
    if proves_nothing(text):
        raise ValueTextError(
            worded("jot.proves_nothing_say_what_you_measured", text=text),
            value=text, expected=worded("jot.what_was_measured_or_seen"),
        )  # fmt: skip
    return CheckJot(text, (worded("jot.proves_the_last_change", text=text),))


def _detail(said: Said) -> DetailJot | NoteJot | None:
    name, text = (said.texts.get("field") or "says").lower(), said["text"]
    told = _SAYS.match(text) if name == "owner" else None
    if told is not None:
        name, text = "says", text[told.end() :]
    elif (name == "drawing" and _NO_DRAWING.match(text)) or (name == "serial" and _NO_SERIAL.match(text)):
        return NoteJot(said.line, (f"note: {said.line}",))
    elif name == "drawing" and re.fullmatch(
        r"(?:about )?[\d.,]+ ?(?:m?A|amps?|amperes?|m?W|watts?|V|volts?)\b.*", text, re.I
    ):
        return None  # what it takes from the line, not what was drawn
    elif name == "owner" and _ANSWER.fullmatch(text):
        return None  # to a quote: a line of its own
    elif name == "owner" and _NO_NAME.match(text):  # what somebody does is not what somebody is called
        return NoteJot(said.line, (f"note: {said.line}",))
    return DetailJot(name, text, (f"{name}: {text}",))


def _note(said: Said) -> NoteJot:
    return NoteJot(said["text"], (f"note: {said['text']}",))


def _spent(said: Said) -> SpentJot:
    value, text = said["amount"], said["what"] or ""
    if not said["unit"] and re.search(r"\b(?:min|mins|minutes?|h|hrs?|hours?)\b", text, re.I):
        raise ValueTextError(worded("jot.is_a_time_or_an_amount", line=said.line), value=said.line)
    if value <= 0:
        raise ValueTextError(worded("jot.spends_nothing_examples_spent_min_spent", line=said.line), value=said.line)
    if said["unit"]:
        minutes = value * (60 if said.texts["unit"].lower().startswith("h") else 1)
        return SpentJot(minutes, 0.0, text, (in_unit(minutes, "min"), *filter(None, [text])))
    return SpentJot(0.0, value, text, (f"{value:.2f} spent", *filter(None, [text])))


def _price(said: Said) -> PriceJot:
    value, agreed = said["amount"], said.texts["which"].lower() == "agreed"
    words = f"price agreed {value:.2f}" if agreed else f"{value:.2f} an hour"
    return PriceJot("agreed" if agreed else "an_hour", value, (words,))


def _mains(said: Said) -> ShopJot:
    mains = read_mains(said["text"])
    return ShopJot("mains", mains.words, (worded("jot.the_shop_s_mains", words=mains.words),))


def _esr_meter(said: Said) -> ShopJot:
    at = engineering(said["hertz"], "Hz")
    return ShopJot("esr_meter", at, (worded("jot.the_shop_s_esr_meter_tests", at=at),))


STAY = (
    Verb(
        "found",
        "arrive",
        "something found, with its mark: hazard, fix or note",
        forms=("found {text:text}",),
        examples=("found cord perished hazard",),
        means=_found,
        fielded=("found {text:text} [mark=hazard|fix|note]",),
        titles={"text": "what you found", "mark": "its mark"},
    ),
    DID,
    Verb(
        "disturbed",
        "parts",
        "something moved without being changed: readings that use it are read again",
        forms=("disturbed {text:text}",),
        examples=("disturbed C4, R24",),
        means=_disturbed,
        titles={"text": "what was moved"},
    ),
    Verb(
        "checked",
        "trace",
        "what proves the last change",
        forms=("checked {text:text}",),
        examples=("checked rail 312 V, ripple gone",),
        means=_checked,
        titles={"text": "what you measured or saw"},
    ),
    Verb(
        "detail",
        "arrive",
        "a detail of the instrument, its owner or its stay",
        forms=(f"field={'|'.join(DETAILS)} {{text:text}}", "the_owner says|said|reports [that] {text:text}"),
        examples=("serial 4711", "says the needle sticks", "owner A. Ferry"),
        means=_detail,
        titles={"field": "which detail", "text": "what it says"},
    ),
    Verb(
        "note",
        "arrive",
        "a note, kept as it is written",
        forms=("note {text:text}",),
        examples=("note the knobs are not original",),
        means=_note,
        titles={"text": "the note"},
    ),
    Verb(
        "spent",
        "arrive",
        "time or money spent on this job",
        forms=(
            "spent {amount:number} unit=min|mins|minutes|minute|h|hours|hour|hr [{what:text}]",
            "spent {amount:number} [{what:text}]",
        ),
        examples=("spent 45 min cleaning", "spent 12.50 rubber feet"),
        means=_spent,
        fielded=("spent {amount:number} [unit=min|h] [{what:text}]",),
        titles={"amount": "how much", "unit": "time, else money", "what": "on what"},
        begins=r"spent\s+[\d.]",
    ),
    Verb(
        "price",
        "arrive",
        "the price agreed, or what an hour costs",
        forms=("which=agreed|rate {amount:number}",),
        examples=("agreed 60", "rate 40"),
        means=_price,
        titles={"which": "which price", "amount": "amount"},
    ),
    Verb(
        "mains",
        "power",
        "the shop's mains",
        forms=("mains {text:numbers}",),
        examples=("mains 230 V 50 Hz", "mains 120 V 60 Hz"),
        means=_mains,
        titles={"text": "volts and frequency"},
    ),
    Verb(
        "esr meter",
        "parts",
        "at which frequency the shop's ESR meter tests",
        forms=("esr_meter {hertz:Hz}",),
        examples=("esr meter 90 kHz",),
        means=_esr_meter,
        titles={"hertz": "test frequency"},
    ),
    Verb(
        "help", "arrive", "what can be typed here", forms=("help", "?"), examples=("help",), means=lambda _: HelpJot()
    ),
    *PLAN,
)
