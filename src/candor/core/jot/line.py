"""Understanding a jotted line: `72.6`, `-1/4t`, `72.6 ref 75.004 up`, `found cord perished hazard`.

One understanding with three outcomes. A line that fits one row of the table of verbs (`rows`) whole, or is a reading of
the point in hand, is understood. One that fits several is doubtful: each is shown, none is taken. One that fits none is a note,
after it was asked what was meant where it holds a number, a deed or a name that Candor knows.
"""

from __future__ import annotations

import contextlib
import difflib
import re
from functools import cache

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.adjuster_line import understand_adjuster
from candor.core.jot.change_line import as_a_deed, names_a_deed, refs_in, without_who
from candor.core.jot.clean_line import clean_line
from candor.core.jot.context import JotContext
from candor.core.jot.found_line import found_in_zone
from candor.core.jot.meaning import FindingJot, Jot, NoteJot, PointsJot, ReadingJot
from candor.core.jot.part_line import example_of, unlisted_in
from candor.core.jot.range_line import check_nominal
from candor.core.jot.reading_line import elsewhere, read_at
from candor.core.jot.rows import VERBS
from candor.core.jot.rows.power_rows import EVENTS, event_of, plug_out_of
from candor.core.jot.rows.stay_rows import STAY
from candor.core.jot.rows.told import told_lines
from candor.core.jot.slots import NUMBER
from candor.core.jot.ticks_line import read_ticks, ticks_chip
from candor.core.jot.told_reading import as_typed, meant_by
from candor.core.jot.usual_mark import hazard_told, item_in, usual_mark
from candor.core.jot.verb import Verb, by_first_word
from candor.core.late_pattern import late_pattern
from candor.core.power.danger_words import danger_now_in
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.derived import of_one_standard
from candor.core.quantities.show import old_units_in, showing_old, shown_old
from candor.core.reading.reading import Direction
from candor.core.reference.chains import read_unit_of
from candor.core.reference.choice import kept_reading
from candor.core.worded import worded

MOST_ASKED = 3  # readings of a line that are offered
NEAR = 0.75  # of difflib's ratio: a verb with a letter more, less or other
LONGEST = 100_000  # characters of a note: what is longer is a file that was pasted
# Places of a quantity with its unit: verbs that have one are offered for a line with a number that is not understood.
_QUANTITIES = {"V", "A", "W", "F", "Hz", "ohm", "ohms_above_zero", "ohms_or_open", "volts_only", "amperes_only"}
# What begins a measurement: said of nothing, it is asked of what.
_MEASURED = late_pattern(r"(?:esr|leak(?:s|age)?|ir|open|shorted|ripple|gm|emission)\b(?:\s+\S+){0,2}$", re.I)
_READING = late_pattern(
    rf"(?:@\s*(?P<at>\S+)\s*)?(?:(?P<ticks>{NUMBER}\s*t(?:icks?)?(?:\s+(?:low|high|below|above))?)|(?P<value>[-+]?[\d.,][^@]*?))?"
    r"(?:\s*\bref(?:erence)?\s+(?P<ref>[-+]?[\d.,][^@]*?))?(?:\s+(?P<way>from\s+below|from\s+above|up|down))?",
    re.I,
)


_CELSIUS = late_pattern(r"^[-+]?[\d.,]+\s?(?:°|deg)")


class DoubtfulLineError(ValueTextError):
    """A line that can be several things: `meant` are lines that each say one of them."""

    def __init__(self, message: str, line: str, meant: tuple[str, ...]) -> None:
        super().__init__(message, value=line)
        self.meant = meant


def understand(text: str, context: JotContext) -> Jot:
    """Say what a line means.

    Words that fit nothing become a note; its `ask` is a question where it looks as if something else was meant.

    Raises
    ------
    ValueTextError
        Where nothing was written, or a value cannot be read.
    DoubtfulLineError
        Where it can be several things.
    RangeError
        Where a reading lies past the stops of the dial in hand.
    """
    clean = clean_line(text)
    if not clean:
        raise ValueTextError(worded("jot.nothing_was_entered_examples_t_found"), value=text)
    if len(clean) > LONGEST:
        raise ValueTextError(
            worded("jot.characters_are_too_long_for_one", clean=len(clean), longest=LONGEST),
            value=clean[:60],
        )
    with showing_old((*shown_old(), *old_units_in(clean))):  # its chips say it as it is typed
        try:
            return _understood(clean, text, context)
        except CandorError:
            # Smoke is heard at once, whatever else the line holds that cannot be read.
            if danger_now_in(clean):
                return _note(text, clean, context)
            raise


def _understood(clean: str, text: str, context: JotContext) -> Jot:
    if context.point is not None and not clean.startswith("@"):
        told = as_typed(clean, context.point)
        found = read_at(told, context.point, context.served) or understand_adjuster(clean)
        if found is not None:
            return found
        if told != clean and _is_reading(told):
            with contextlib.suppress(CandorError):
                return _reading(told, context)
            if _readings_meant(told, context):
                return _reading_or_meant(told, context)
    if event := event_of(clean, context.events) or plug_out_of(clean):
        return event
    if re.match(r"note[\s:]", clean, re.I):  # of any length: the rows look at lines alone
        kept = clean[5:].strip()
        return NoteJot(kept, (f"note: {_short(kept)}",))
    if _is_reading(clean):
        return _reading_or_meant(clean, context)
    fits, wrong = _fits(VERBS, clean, context)
    if not fits and wrong is None:
        fits, wrong = _fits(VERBS, without_who(clean), context)
    if len(fits) > 1:
        raise DoubtfulLineError(
            worded(
                "jot.can_mean_several_things_say_which",
                clean=clean,
                listed="; ".join((", ".join(jot.chips) for _, jot in fits)),
            ),
            clean,
            tuple(f"{verb.name} {clean}" for verb, _ in fits),
        )
    if fits:
        return fits[0][1]
    if wrong is not None:
        raise wrong
    zone, item = item_in(clean, context.items)
    if item:
        return found_in_zone(clean, usual_mark(clean, context.case_can_be_live), context.zones, zone)
    return _note(text, clean, context)


def understand_at(stop: str, text: str, context: JotContext | None = None) -> Jot | None:
    """Say what a line means by the verbs of one stop alone, as its own fields ask; None where it is none of them.

    Raises
    ------
    CandorError
        Where it is one of them and cannot be read.
    """
    seen, clean = context or JotContext(), clean_line(text)
    event = (event_of(clean, seen.events) or plug_out_of(clean)) if stop == "power" else None
    fits, wrong = _fits(tuple(v for v in VERBS if v.stop == stop), clean, seen)
    if event is None and not fits and wrong is not None:
        raise wrong
    return event or (fits[0][1] if fits else None)


@cache
def examples_at(stop: str) -> tuple[str, ...]:
    """Return lines as they are typed at a stop, one for each of its verbs; of Arrive where it has none of its own."""
    own = tuple(verb.examples[0] for verb in sorted(VERBS, key=lambda v: v in STAY) if verb.stop == stop)
    return own or tuple(verb.examples[0] for verb in VERBS if verb.stop == "arrive")


def words_to_complete() -> tuple[str, ...]:
    """Return the words that lines begin with, each with what stands behind it in a line: a space."""
    return tuple(
        f"{word} " for word in dict.fromkeys(w for v in VERBS for w in sorted(v.first_words)) if len(word) > 1
    )


def _fits(
    verbs: tuple[Verb, ...], clean: str, context: JotContext
) -> tuple[list[tuple[Verb, Jot]], CandorError | None]:
    """Return each different thing that a line is whole, and the first question about one that it would be."""
    fits: list[tuple[Verb, Jot]] = []
    wrong: CandorError | None = None
    tried = by_first_word(verbs, clean)
    for verb in tried:
        try:
            jot = verb.fit(clean, context)
        except CandorError as error:
            wrong = wrong or error
            continue
        if jot is not None and all(jot != other for _, other in fits):
            fits.append((verb, jot))
    if not fits and wrong is None:
        wrong = next((verb.misfit(clean) for verb in tried if verb.commits(clean)), None)
    return fits, wrong


# --- not understood ---------------------------------------------------------------------------------------------------------


def _note(text: str, clean: str, context: JotContext) -> NoteJot | FindingJot:
    kept = text.strip()
    hazard = hazard_told(clean, context.case_can_be_live)
    if danger_now_in(clean):  # nobody is asked to enter it once more
        return found_in_zone(kept, "hazard", context.zones, "") if hazard else NoteJot(kept, (f"note: {kept}",))
    named = refs_in(clean, context.parts)
    looks = (
        re.search(r"\d", clean)
        or named
        or names_a_deed(clean)
        or _verb_like(clean)
        or _MEASURED.match(clean)
        or hazard
        or told_lines(clean, context.stop)
    )
    if not looks:
        return NoteJot(kept, (f"note: {kept}",))
    unlisted = unlisted_in(clean) if not named else ""
    if unlisted and context.parts and re.match(r"\S+\s+[\d.]", clean):
        near = ", ".join(list(context.parts)[:4])
        raise ValueTextError(worded("jot.is_not_in_this_job_s", unlisted=unlisted, near=near), value=unlisted)
    meant = suggestions(clean, context) if not unlisted else ()
    meant = _readings_meant(clean, context) or meant
    if unlisted:
        asked = worded("jot.is_not_listed_this_adds_it", ref=unlisted, line=example_of(unlisted))
    elif meant:
        asked = worded("jot.did_you_mean", listed=" or ".join(f"“{line}”" for line in meant))
    else:
        asked = _examples_for(context)
    ask = worded("jot.candor_does_not_understand_enter_once", short=_short(clean), asked=asked)
    return NoteJot(kept, (worded("jot.not_understood_a_note", short=_short(kept)),), ask, meant)


def suggestions(clean: str, context: JotContext) -> tuple[str, ...]:
    """Return lines that are understood and near to one that is not: with a verb before it, or one put right."""
    first, _, rest = clean.partition(" ")
    near = difflib.get_close_matches(first.lower(), _first_words(), n=2, cutoff=NEAR)
    tried = [f"temp {clean}"] if _CELSIUS.search(clean) else []
    tried += [f"found {clean}"] if hazard_told(clean, context.case_can_be_live) else []
    tried += [f"{word} {rest}" for word in near]
    if names_a_deed(clean) or refs_in(clean, context.parts):
        tried += [as_a_deed(clean)] if names_a_deed(clean) else [f"found {clean}"]
    # A bare k or M is mostly of ohms; a number without a unit mostly of something else.
    ohms_first = re.search(r"\d\s?[kM]$", clean) is not None
    of_ohms = ohms_first or re.search(r"\d\s?[kM]?(?:ohms?|Ω)", clean, re.I) is not None
    starts = sorted(_starts(), key=lambda start: ohms_first and not start[1])
    begun = [(f"{start} {clean}", ohms, stop) for start, ohms, stop in starts if start.lower() != first.lower()]
    found = [line for line in dict.fromkeys(tried) if _is_one(line, context)]
    fit = [it for it in begun if it[0] not in found and _is_one(it[0], context)]
    fit = [it for it in fit if of_ohms or not it[1]] or fit
    # Where the stop that is shown has such a line, that of another is hardly meant.
    here = [it for it in fit if it[2] == context.stop]
    return tuple((*found, *(line for line, _, _ in here or fit))[:MOST_ASKED])


def _is_one(line: str, context: JotContext) -> bool:
    return len(_fits(VERBS, line, context)[0]) == 1


@cache
def _starts() -> tuple[tuple[str, bool, str], ...]:
    """The words that lines begin with whose verbs take quantities, not any words, whether those are ohms, and at which stop."""
    found: dict[str, tuple[bool, str]] = {}
    for verb, form in ((one, form) for one in VERBS for form in one.read_forms):
        slots = {m["slot"] for m in re.finditer(r"\{\w+:(?P<slot>\w+)\}", form.text)} & _QUANTITIES
        start = re.split(r"[{\[<@]", form.text)[0].strip()
        if slots and start and not re.search(r"[=?]", start):
            words = start.split("|")[0].replace("_", " ")
            found.setdefault(words, (any("ohms" in slot or slot == "ohm" for slot in slots), verb.stop))
    return tuple((start, *rest) for start, rest in found.items())


def _first_words() -> tuple[str, ...]:
    return tuple(dict.fromkeys(word for verb in VERBS for word in sorted(verb.first_words) if len(word) > 3))


def _verb_like(clean: str) -> bool:
    """Whether a line begins with a verb that takes values: such words alone may be prose, a letter off may be a slip."""
    first = re.split(r"[\s,:;@]", clean, maxsplit=1)[0].lower()
    if any(word in first for word in EVENTS):
        return False  # what is smelt and heard is told in prose too
    return first not in _first_words() and bool(difflib.get_close_matches(first, _first_words(), n=1, cutoff=0.85))


def _examples_for(context: JotContext) -> str:
    reading = "72.6 ref 75.004" if context.point is not None else "found cord perished hazard"
    return worded("jot.examples_did_replaced_the_cord_note", reading=reading)


def _short(text: str) -> str:
    return text if len(text) <= 80 else f"{text[:77]} …"


# --- readings ---------------------------------------------------------------------------------------------------------------


def _is_reading(clean: str) -> bool:
    """Whether a line begins like a reading: such a one must be one."""
    return re.match(r"[+-]?\s?[\d.,]|@|ref(?:erence)?\s+[-+\d.,]", clean, re.I) is not None


def _reading_or_meant(clean: str, context: JotContext) -> ReadingJot | PointsJot | NoteJot:
    """Return a reading, or ask which of the readings that it may tell is meant."""
    try:
        found = _reading(clean, context)
    except CandorError:
        meant = _readings_meant(clean, context)
        if not meant:
            raise
    else:
        meant = _readings_meant(clean, context) if context.point is None else ()
        if not meant:
            return found
    ask = worded("jot.did_you_mean", listed=" or ".join(f"“{line}”" for line in meant))
    raise DoubtfulLineError(worded("jot.candor_cannot_read_as_a_reading", short=_short(clean), ask=ask), clean, meant)


def _readings_meant(clean: str, context: JotContext) -> tuple[str, ...]:
    """Return the readings that a line may tell and that can be ones of the point, or of the soak, in hand."""
    told = told_lines(clean, context.stop)
    found = [line for line in told if len(_fits(VERBS, line, context)[0]) == 1]
    for line in meant_by(clean, context.point) if context.point is not None else ():
        with contextlib.suppress(CandorError):
            _reading(line, context)
            found.append(line)
    return tuple(found)


def _reading(clean: str, context: JotContext) -> ReadingJot | PointsJot | NoteJot:
    match = _READING.fullmatch(clean)
    if match is None or not any(match[name] for name in ("ticks", "value", "ref")):
        return _misread(clean, context)
    key, point, chips = match["at"] or "", context.point, []
    if key:
        chips.append(f"at {key}")
        if point is not None and key.casefold() != point.key.casefold():
            point = None
    if context.point is None and match["value"] and not re.fullmatch(rf"{NUMBER}(?:\s?m?V)?", match["value"].strip()):
        return _misread(clean, context)
    indicated = ticks = reference = None
    unit = point.unit if point else "V"
    if match["ticks"]:
        ticks = read_ticks(match["ticks"])
        if point is not None:
            indicated = point.indicator.check(point.indicator.ticks_from(point.nominal, ticks))
        chips.append(ticks_chip(ticks, point, indicated))
    elif match["value"]:
        value, how = _read(match["value"], point, unit)
        indicated = abs(value) if point is not None and point.polarity < 0 else value
        if point is not None:
            indicated = point.indicator.check(indicated)
            if context.makes_points and not match["ref"]:
                value = check_nominal(indicated, point)
                return PointsJot((value,), (f"next point: {engineering(value, unit, 6)}",))
        chips += [f"needle {engineering(indicated, unit, 6)}", *how]
    if match["ref"]:
        served = context.served if point is not None else None
        read_unit = read_unit_of(served) if served is not None else point.asked_unit if point else unit
        value, how = _read(of_one_standard(match["ref"]), point, read_unit)
        reference = kept_reading(context.served, point, value) if point is not None else value
        chips += [f"reference {engineering(reference, read_unit, 7)}", *how]
    if not context.makes_points:
        chips += elsewhere(point, context.served, indicated, reference)
    direction = _direction(match["way"] or "")
    if direction:
        chips.append("from below" if direction == "up" else "from above")
    return ReadingJot(
        indicated=indicated, ticks=ticks, reference=reference, direction=direction, point=key, chips=tuple(chips)
    )


def _misread(clean: str, context: JotContext) -> NoteJot:
    """Ask about a line that begins like a number and is not a reading: of what is it?"""
    meant = suggestions(clean, context)
    if context.point is not None or not (meant or " " in clean):
        value = re.split(r"\s+ref(?:erence)?\b|\s+up\b|\s+down\b", clean)[0]
        parse_quantity(value, context.point.unit if context.point else "V")
    ask = (
        worded("jot.did_you_mean", listed=" or ".join(f"“{line}”" for line in meant))
        if meant
        else worded("jot.examples_t_ref_up")
    )
    if context.point is None and meant:
        raise DoubtfulLineError(worded("jot.of_what", short=_short(clean), ask=ask), clean, meant)
    raise ValueTextError(worded("jot.candor_cannot_read_as_a_reading", short=_short(clean), ask=ask), value=clean)


def _read(text: str, point: TestPoint | None, unit: str) -> tuple[float, tuple[str, ...]]:
    """A value, SI, and how it was calculated, where it was."""
    bare = point.marked_factor if point is not None and unit == point.unit else 1.0
    read = parse_quantity(text, unit, bare)
    return read.value, (read.note,) if read.note.startswith("calculated: ") else ()


def _direction(text: str) -> Direction:
    if not text:
        return ""
    return "up" if text.lower().replace(" ", "") in ("up", "frombelow") else "down"
