"""What is seen, heard or smelt on a live bench that means: plug out; unless it is denied, or expected just then."""

from __future__ import annotations

import re
from collections.abc import Iterable

from candor.core.power.plan import Expected

LATE_S = (
    15.0  # after the end of its time, that what was expected still counts as expected: common practice, no source
)
_SIGNS = (
    r"smok(?:e|es|ed|ing|y)", r"arc(?:s|ed|ing)?(?:[ -]?over)?", r"flash(?:es|ed|ing)?(?:[ -]?over)?", r"bang(?:s|ed)?",
    r"explo(?:ded?|sion)", r"pop(?:s|ped|ping)?(?![ -]?out)", r"smell(?:s|ed|y|ing)?", r"smelt", r"stinks?", r"stench",
    r"burn(?:s|t|ed|ing)?", r"scorch(?:ed|ing)?", r"spark(?:s|ed|ing)?", r"crackl(?:e|es|ed|ing)", r"sizzl(?:e|es|ed|ing)",
    r"fizz(?:es|ed|ing)?", r"flames?", r"fire", r"melt(?:s|ed|ing)?", r"(?:wax|tar|oil) drip(?:s|ped|ping)",
    r"drip(?:s|ping) (?:wax|tar|oil)", r"red[ -]?plat(?:e|ing)", r"plates?(?: is| are)? (?:glow\w*|red|cherry)",
    r"(?:red|cherry|glowing) (?:hot )?plates?", r"resistors?(?: is)? glow\w*", r"red[ -]?hot", r"still (?:as )?bright",
    r"stays? bright", r"fuse (?:is |has )?(?:blew|blows|blown|went)", r"blew (?:the|a|its) fuse",
    r"trip(?:s|ped) (?:the|a|its) (?:breaker|rcd|gfci)", r"breaker (?:trips|tripped)", r"(?:a|got|gives a) shock",
    r"tingl(?:e|es|ed|ing)", r"bulg(?:es|ed|ing)", r"swell(?:s|ing)", r"vent(?:ed|ing)",
)  # fmt: skip
_DANGER = re.compile(rf"\b({'|'.join(_SIGNS)})\b", re.IGNORECASE)
# Of a needle's scale, not of a spark; and what was burnt long ago stands under a finding, not in a live line.
_HARMLESS = re.compile(
    r"\b(of arc|ohms? arc|arc of|arc scale|scale arc|degrees? arc|°\s*arc|burn[ -]?in|burnt[ -]in|fired? up)\b",
    re.IGNORECASE,
)
_DENIED = re.compile(
    r"\b(?:no|not|without|never|neither|nor|none|free of|didn't|doesn't|isn't|no more|nothing)\b(?:\s+\w+){0,3}\s*$",
    re.IGNORECASE,
)
_ABSENT_AFTER = re.compile(
    r"^\s*(?::|is|was|=)?\s*(?:none|no\b|nothing|not (?:seen|heard|smelt|there)|-?\s*free)\b", re.IGNORECASE
)


def danger_in(text: str) -> str:
    """Return the word in a line that means plug out, empty where there is none or every one is denied."""
    clean = _HARMLESS.sub(lambda m: " " * len(m[0]), text)
    for match in _DANGER.finditer(clean):
        before = re.split(r"[.;,]|\bbut\b", clean[: match.start()])[-1]
        # In a list ("no smoke, no smell"; "no smoke or smell") what denies the first denies what "or" and "nor" join to it.
        if _DENIED.search(before) or _ABSENT_AFTER.match(clean[match.end() :]):
            continue
        return match[0].lower()
    return ""


def is_expected(text: str, events: Iterable[Expected], at_s: float) -> bool:
    """Say whether a line is an event that the state expects about now: its words, or one of them, so many s after it began."""
    words = text.casefold().strip(" .")
    for event in events:
        known = event.words.casefold()
        matches = words == known or re.search(rf"\b{re.escape(words)}\b", known) is not None
        if words and matches and event.at_s - event.within_s - LATE_S <= at_s <= event.at_s + event.within_s + LATE_S:
            return True
    return False
