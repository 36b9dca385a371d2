"""What is seen, heard or smelt on a live bench that means: plug out; unless it is denied, or expected just then."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from candor.core.late_pattern import late_pattern
from candor.core.power.plan import Expected

BRIGHT_S = 60.0  # that a lamp in series lights cold heaters: no short can be told from them before; common practice, no source
LATE_S = (
    15.0  # after the end of its time, that what was expected still counts as expected: common practice, no source
)
_HOT = r"(?:caps?|capacitors?|electrolytics?|transformers?|chokes?|resistors?|rectifiers?|seleniums?|[crtl]\d+)"
_MELTS = r"(?:wax|tar|oil|pitch|electrolyte|goo)"
_CASE = r"(?:chassis|case|cabinet|frame|front panel|metalwork)"
# From 30 V on: what may be touched ends at 30 V r.m.s. (IEC 61010-1, 6.3.1, from memory).
_SHOCKING = r"(?:[3-9]\d|\d{3,})(?:[.,]\d+)?\s?v(?:olts?|ac)?(?: a\.?c\.?)?"
_EARTH = r"(?:earth|ground|neutral|the (?:water )?pipe)"
# Of a chassis against earth, not of a rail against its chassis.
VOLTS_ON_CASE = (
    rf"\b{_SHOCKING} on (?:the )?{_CASE}\b|\b{_SHOCKING} (?:from|between)?\s?(?:the )?{_CASE} (?:to|and) {_EARTH}\b"
    rf"|\b{_CASE} (?:is |at |has |reads |= ?)*{_SHOCKING} (?:to|from|against|above) {_EARTH}\b"
    rf"|\b{_CASE} (?:to|and|against) {_EARTH}\W+(?:is |has |reads |measures )?{_SHOCKING}\b"
)
# The lamp in series, not one of the panel; a lamp that dims again was lit by cold heaters.
_LAMP = (
    r"(?<!pilot )(?<!dial )(?<!scale )(?<!panel )(?<!neon )(?:lamp|bulb|limiter)"
    r"(?: is| at| goes| lights?| lit| glows?| burns?| stays?| still)*(?: as| full(?:y)?| very| at)*"
)
LAMP_BRIGHT = (
    rf"{_LAMP} (?:bright(?:ly|ness)?|full|fully)\b(?!.*\b(?:then|dim(?:s|med|ming)?|fad(?:es|ed|ing)|(?:goes|went) down|and out)\b)"
    rf"|{_LAMP} (?:won't|will not|doesn't|does not|isn't|is not|not|never) (?:go(?:ing)? )?dim(?:s|ming)?"
)
_SIGNS = (
    # Smoke and its kin.
    r"smok(?:e|es|ed|ing|y)", r"smou?lder\w*", r"fumes?", r"acrid", r"steam(?:s|ing)?", r"smell(?:s|ed|y|ing)?", r"smelt",
    r"stink(?:s|ing)?", r"stench", r"burn(?:s|t|ed|ing)?", r"scorch(?:es|ed|ing)?", r"sing(?:es|ed|eing)",
    r"char(?:red|ring)", r"flames?", r"fire", r"melt(?:s|ed|ing)?", rf"{_MELTS}(?: \w+)? (?:drip|leak|ooz|boil|run)\w*",
    rf"(?:drip|leak|ooz|runn?)\w*(?: hot)? {_MELTS}",
    # What is heard, and what bursts.
    r"arc(?:s|ed|ing)?(?:[ -]?over)?", r"flash(?:es|ed|ing)?(?:[ -]?over)?", r"corona", r"bang(?:s|ed)?", r"booms?",
    r"boomed", r"explod\w*", r"explosion", r"bl(?:ew|ows|own|owing) (?:it )?up", r"burst(?:s|ing)?", r"ruptur\w+",
    r"pop(?:s|ped|ping)?(?![ -]?out)", r"spark(?:s|ed|ing)?", r"crackl(?:e|es|ed|ing)",
    r"loud (?:crack|snap|thump|hum|buzz|noise)\w*", r"sizzl(?:e|es|ed|ing)", r"fizz(?:es|ed|ing)?",
    rf"{_HOT}(?: is| are)? (?:hiss|boil)\w*", rf"hiss\w* (?:from|in|at|of) (?:the |a |its )?{_HOT}", r"bulg(?:es|ed|ing)",
    r"swell(?:s|ing)", r"swollen", r"vent(?:ed|ing)",
    # What glows or is hot.
    r"red[ -]?plat(?:e|ing)", r"(?:plates?|anodes?)(?: of \w+)?(?: is| are| goes| go| turns?| dull)* (?:glow\w*|red|cherry)",
    r"(?:red|cherry|glowing)(?: hot)? (?:plates?|anodes?)", r"glow\w* (?:\w+ )?(?:red|cherry)", r"(?:dull|cherry)[ -]red",
    r"(?:resistors?|r\d+)(?: is| are)? glow\w*", r"glowing resistors?", r"red[ -]?hot",
    r"(?:too|very|getting|gets|got|scalding|boiling) hot",
    rf"{_HOT}(?: is| are)?(?: too| very| quite| so)? hot(?! (?:end|side|lead|wire|terminal|chassis))",
    r"still (?:as )?bright", r"stays? bright", LAMP_BRIGHT,
    # What protects has acted, and who was hurt.
    r"fuse(?: is| has| just)* (?:blew|blows|blown|went|gone)", r"(?:blew|blows|blown)(?: the| a| its)? fuse",
    r"trip(?:s|ped) (?:the|a|its) (?:breaker|rcd|gfci)",
    r"(?:breaker|rcd|rcbo|gfci)(?: is| has| just)* (?:trip|open|went|gone)\w*", r"(?:a|got|gives a) shock",
    r"shock(?:ed|s) (?:me|him|her|us|you)", r"(?:was|were|been|got|getting) (?:shocked|zapped|bitten|stung)",
    r"(?:bit|bites|bitten|zap(?:s|ped)?|stung|stings) (?:me|him|her|us|you)", r"zap(?:s|ped)?", r"tingl(?:e|es|ed|ing)",
    r"tickles?(?! (?:the|it))", rf"{_CASE}(?: is| are| goes)? (?:live|hot(?! end)|bit(?:es|ing)?|sting(?:s|ing)?)", VOLTS_ON_CASE,
)  # fmt: skip
_DANGER = late_pattern(rf"\b({'|'.join(_SIGNS)})\b", re.IGNORECASE)
# Of a needle's scale, not of a spark; a burst that is a signal; a heater, which should glow. What was burnt long ago stands under a
# finding, not in a live line.
_HARMLESS = late_pattern(
    r"\b(of arc|ohms? arc|arc of|arc scale|scale arc|degrees? arc|°\s*arc|burn[ -]?in|burnt[ -]in|fired? up"
    r"|(?:tone|colou?r|noise) bursts?|bursts? (?:generator|mode|of (?:noise|tone|signal))"
    r"|(?:heaters?|filaments?|cathodes?|pilots?|lamps?|neons?|dials?)(?: \w+){0,2} (?:glow\w*|dull|cherry)(?:[ -]\w+){0,2})\b",
    re.IGNORECASE,
)
_STOP = late_pattern(
    r"(?:emergency )?(?:stop|abort|halt)(?: it| now| the run)*[.!]*|(?:source )?to zero[.!]*", re.IGNORECASE
)
_OF_LONG_AGO = late_pattern(
    r"burn(?:t|ed)|scorched|singed|charred|melted|swollen|bulg\w+|vented|smoked|burst|exploded|(?:blown|blew)\b.*"
)
_DENIED = late_pattern(
    r"\b(?:no|not|without|never|neither|nor|none|free of|didn't|doesn't|isn't|no more|nothing)\b(?:\s+\w+){0,3}\s*$",
    re.IGNORECASE,
)
_ABSENT_AFTER = late_pattern(
    r"^\s*(?::|is|was|=)?\s*(?:none|no\b|nothing|not (?:seen|heard|smelt|there)|-?\s*free)\b", re.IGNORECASE
)


def danger_in(text: str) -> str:
    """Return the word in a line that means plug out, empty where there is none or every one is denied."""
    return next(_dangers(text), "")


def _dangers(text: str) -> Iterator[str]:
    clean = _HARMLESS.sub(lambda m: " " * len(m[0]), text)
    for match in _DANGER.finditer(clean):
        before = re.split(r"[.;,]|\bbut\b", clean[: match.start()])[-1]
        # In a list ("no smoke, no smell"; "no smoke or smell") what denies the first denies what "or" and "nor" join to it.
        if _DENIED.search(before) or _ABSENT_AFTER.match(clean[match.end() :]):
            continue
        yield match[0].lower()


def danger_now_in(text: str) -> str:
    """Return the word in a line that means plug out and can hardly be of long ago: ``burnt`` may stand beside any old part."""
    return next((word for word in _dangers(text) if not _OF_LONG_AGO.fullmatch(word)), "")


def is_stop(text: str) -> bool:
    """Whether a line asks for nothing but that what is live be stopped: ``stop``, ``Stop!``, ``abort``, ``emergency stop``."""
    return _STOP.fullmatch(text.strip()) is not None


def is_expected(text: str, events: Iterable[Expected], at_s: float) -> bool:
    """Say whether a line is an event that the state expects about now: its words, or one of them, so many s after it began."""
    words = text.casefold().strip(" .")
    if at_s <= BRIGHT_S and re.search(rf"\b(?:{LAMP_BRIGHT})", text, re.I):
        return True
    for event in events:
        known = event.words.casefold()
        matches = words == known or re.search(rf"\b{re.escape(words)}\b", known) is not None
        if words and matches and event.at_s - event.within_s - LATE_S <= at_s <= event.at_s + event.within_s + LATE_S:
            return True
    return False
