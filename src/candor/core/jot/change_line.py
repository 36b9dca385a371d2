"""Lines about what was done to the instrument, as people say it: replaced, added, lifted, trimmed; and what proves nothing.

In the present or the past, with or without *did*, the part before or behind the deed. A line that names a part on the list and a
deed is never a note: as a note it would void nothing.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.jot.form import Said
from candor.core.jot.meaning import ChangeJot
from candor.core.jot.part_line import find_ref, find_replaced, is_decided
from candor.core.jot.verb import Verb
from candor.core.late_pattern import late_pattern
from candor.core.parts.part import Part
from candor.core.worded import worded

# Deeds as they are told afterwards. Of these a line that begins with one is a change.
REPLACED = ("replaced", "swapped", "exchanged", "renewed", "restuffed", "recapped")
DONE = (
    *REPLACED,
    "added",
    "installed",
    "reinstalled",
    "fitted",
    "refitted",
    "removed",
    "clipped",
    "lifted",
    "pulled",
    "soldered",
    "resoldered",
    "re-soldered",
    "unsoldered",
    "desoldered",
    "reflowed",
    "bridged",
    "wired",
    "rewired",
    "reseated",
    "repaired",
    "bent",
    "straightened",
    "tightened",
    "jumpered",
    "shunted",
    "moved",
    "reversed",
    "insulated",
    "sleeved",
    "glued",
    "snipped",
    "disconnected",
    "reconnected",
    "connected",
    "bypassed",
    "relocated",
    "drilled",
    "rebuilt",
    "mended",
    "set_back",
    "took_out",
    "taken_out",
    "cut_out",
    "put_back",
    "put_in",
    "took_off",
)
# As they are told while they are done: some of these are nouns too, and only a listed part behind them makes them deeds.
DO = {
    "replace": True, "install": True, "remove": True, "add": True, "unsolder": True, "desolder": True, "resolder": True,
    "reflow": True, "reinstall": True, "disconnect": True, "reconnect": True, "rewire": True, "swap": False, "exchange": False,
    "fit": False, "cut": False, "clip": False, "lift": False, "pull": False, "solder": False, "bridge": False, "wire": False,
    "bend": False, "tighten": False, "jumper": False, "shunt": False, "put": False, "snip": False, "bypass": False, "move": False,
    "change": False, "changed": False, "turned": False,
}  # fmt: skip
_BY_TURNS = (
    "trimmed", "adjusted", "retrimmed", "readjusted", "tweaked", "nudged", "touched_up", "peaked", "repeaked", "backed_off",
)  # fmt: skip
TURNED = late_pattern(
    rf"(?:{'|'.join(_BY_TURNS).replace('_', ' ')}|turned)\s+(?:(?:up|down|back)\s+)?(?:the\s+)?(\S.*)", re.I
)
# How far and for what, behind the name of what was turned.
_HOW_FAR = late_pattern(
    r"\s+(?:a (?:hair|bit|touch|little|tad|quarter|half|full|turn)|slightly|(?:(?:anti|counter)-?)?clockwise|c?cw|left|right"
    r"|by|for|until|till|so|to|because|from|[-+]?[\d.,/]+\s*(?:turns?|°|degrees?|div\w*))\b.*$",
    re.I,
)
# What is turned to set an instrument right, by the words people have for it; `turned it on` is none.
_ADJUSTERS = late_pattern(
    r"\b(?:pots?|trim(?:mer|pot)?s?|pre-?sets?|padders?|screws?|slugs?|cores?|adjust\w*|cal(?:ibration)?)\b", re.I
)
# What is set up for a reading, and is no change of the instrument.
_SET_UP = late_pattern(
    r"(?:dis|re)?connected\b.*\b(?:probes?|leads?|sources?|standards?|generators?|(?:bench )?meters?|clips?|loads?|cables?)\b",
    re.I,
)
# What begins a line of hands that only looked, read, or worked the instrument as its owner does, and of what happened by itself.
_ONLY_LOOKED = late_pattern(
    r"checked|measured|tested|looked|noted|noticed|inspected|waited|tried|listened|smelled|compared|watched|powered|switched|warmed"
    r"|opened|closed|needed|wanted|asked|called|ordered|verified|confirmed|used|reviewed|started|stopped|finished|continued|worked"
    r"|settled|seemed|appeared|failed|died|burned|leaked|dried|drifted|jumped|red|untested|unused|damaged|cracked|rusted|corroded"
    r"|missed|zeroed|plugged|unplugged|turned|recorded|selected|logged|photographed|labell?ed|marked|identified|traced|calculated"
    r"|estimated|weighed|counted|discharged|bled|drained|raised|lowered|applied|probed|hooked|unhooked|pressed|pushed|loaded"
    r"|rated|varied|stepped|ramped|need|feed|bed|speed|indeed|shed",
    re.I,
)
_TOLD_IRREGULAR = late_pattern(
    r"bent|unbent|took|gave|wound|unwound|rewound|swept|knocked|shook|spun|ground|slid|broke|tore|hit|reset|undid",
    re.I,
)
# Behind a deed stands what it was done to; behind a state, as in `faded lettering`, the thing that is in it.
_TO_SOMETHING = late_pattern(
    r"[a-z-]+\s+(?:the|a|an|its?|all|both|each|every|some|my|this|that|these|those|up|out|off|down|in|over|[A-Z]{1,4}\d+)\b",
    re.I,
)
_BY_HAND = late_pattern(
    r"sprayed|burnished|lubricated|oiled|greased|polished|buffed|rubbed|scraped|filed|sanded|flushed|baked|heated|squeezed|crimped"
    r"|stretched|loosened|unscrewed|screwed|dropped|bumped|jolted|banged|swabbed|wiped",
    re.I,
)
_WHO = late_pattern(r"^(?:(?:i|we|i've|we've|he|she|just|then|also|have|and|so|next)\s+)+(?=[a-z])", re.I)
_SHAKEN = late_pattern(r"(?:dropped|knocked|bumped|jolted|hit|shook|banged)\b(?!\s+(?:to|by|a bit|back)\b)", re.I)
_CHANGING = late_pattern(r"changed?\b", re.I)  # in front of a part alone: “R24 changed by 5 %” is a part that drifted
_REPLACING = late_pattern(r"\b(?:replaced?|swap(?:ped)?|exchanged?|renewed|restuffed)\b", re.I)
# Joints noted at Arrive are soldered anew as one change of its own kind.
_ALL_JOINTS = late_pattern(r"re-?soldered(?:$|.*\b(?:all|them)\b)", re.I)
_PUT = late_pattern(
    r"put\s+\S.*\b(?:across|in series|in parallel|in place|instead|back|between|on|over|under|into)\b", re.I
)
# What says only that somebody looked: no change is proven by it.
PROVES_NOTHING = late_pattern(
    r"(?:it\s+)?(?:no\s+(?:change|difference)|nothing|ok(?:ay)?|done|yes|looked|looks\s+(?:ok|fine|good)|fine|good)[.!]?",
    re.I,
)


def proves_nothing(text: str) -> bool:
    """Return whether the words of a check say only that somebody looked: no change is proven by them."""
    return PROVES_NOTHING.fullmatch(text.strip()) is not None


def refs_in(text: str, parts: Mapping[str, Part]) -> tuple[str, ...]:
    """Return the parts on the list, and the cans of sections on it, that a text names, in its order."""
    cans = {p.can for p in parts.values() if p.can}
    found = []
    for match in re.finditer(r"(?<![\w.])[A-Za-z]{1,4}\d+(?:\s?[a-z](?![\w]))?", text):
        ref = find_ref(match[0], parts)[0] or (match[0].upper() if match[0].upper() in cans else "")
        found += [ref] if ref else []
    return tuple(dict.fromkeys(found))


def change_of(text: str, parts: Mapping[str, Part]) -> ChangeJot:
    """Return a change: an adjuster that was moved, parts that were replaced or worked on, or words alone."""
    moved = TURNED.match(text)
    if moved is not None and not re.search(r"\bsolder", text, re.I):
        name = _HOW_FAR.sub("", moved[1])
        chips = (f"done: {text}", worded("jot.an_adjuster_was_moved_what_depends", moved=name))
        return ChangeJot(text, chips, turned=name)
    named = _REPLACING.match(text) or _CHANGING.match(text)
    behind = re.sub(r"^(?:the\s+)?", "", text[named.end() :].strip(), flags=re.I) if named else ""
    before = re.match(rf"(\S+(?:\s[a-z])?)\s+(?:was|is|were|has\s+been)?\s*{_REPLACING.pattern}", text, re.I)
    ref = find_replaced(behind or (before[1] if before else ""), parts) if named or before else ""
    if ref:
        return ChangeJot(text, (f"done: {text}", f"{ref} is replaced"), ref)
    touched = ", ".join(refs_in(text, parts))
    return ChangeJot(
        text,
        (f"done: {text}", *([worded("jot.readings_that_use_are_history", touched=touched)] if touched else [])),
        touches=touched,
    )


def disturbed(rest: str, parts: Mapping[str, Part]) -> ChangeJot:
    """What was only disturbed counts as a change, of the parts where all it names are on the list, else of everything."""
    named = re.split(r"[\s,]+(?:and\s+)?(?=[A-Za-z]{1,3}\d+\b)", rest)
    found = [find_replaced(words, parts) for words in named]
    ref = ", ".join(found) if all(found) else ""
    what = worded("jot.readings_that_use", ref=ref) if ref else "all readings"
    return ChangeJot(
        f"disturbed {rest}",
        (f"disturbed: {rest}", worded("jot.are_history_from_here", what=what)),
        ref,
        disturbed=True,
    )


def deed_of(said: Said) -> ChangeJot | None:
    """Return what a line tells that begins with a deed, or with a listed part and its deed; None where it tells none."""
    parts, line = said.context.parts, said.line
    if said["text"] is not None:  # did …
        return change_of(said["text"], parts)
    if re.search(r":\s*[-+]?[\d.,]+$", line) or (_SET_UP.match(line) and not refs_in(line, parts)):
        return None  # a value behind a colon is read, not done
    if _ALL_JOINTS.match(line) or re.match(r"lifted\b.*\bbehind\b", line, re.I):
        return None
    if said["do"] is not None:
        word = said.texts["do"].lower()
        sure = DO.get(word, False) or bool(refs_in(line, parts)) or (word == "put" and _PUT.match(line) is not None)
        if is_decided(line):
            return None  # a part that is only to be replaced must not count as replaced
        sure = sure or (word == "turned" and _ADJUSTERS.search(line) is not None)
        return change_of(line, parts) if sure else None
    if said["ref"] is not None and not refs_in(said.texts["ref"], parts):
        return None
    return change_of(line, parts)


def names_a_deed(text: str) -> bool:
    """Return whether some word of a line is a deed, or it begins with what hands did, whatever that was."""
    words = {word.lower() for word in re.findall(r"[A-Za-z-]+", text)}
    by_name = {w for w in (*DONE, *_BY_TURNS) if "_" not in w} | DO.keys() | {"turned", "done"}
    return bool(words & by_name) or _told_by_hand(without_who(text))


def _told_by_hand(text: str) -> bool:
    """Whether a line begins with a verb in the past that is neither looking nor what an instrument does by itself."""
    first = re.match(r"[a-z-]+(?=\s+\S)", text, re.I)
    word = first[0].lower() if first else ""
    if re.match(r"dropped (?:to|by|off|a bit|back)\b", text, re.I):
        return False
    told = word.endswith("ed") and not _ONLY_LOOKED.fullmatch(word) and _TO_SOMETHING.match(text) is not None
    return told or _BY_HAND.fullmatch(word) is not None or _TOLD_IRREGULAR.fullmatch(word) is not None


def as_a_deed(text: str) -> str:
    """Return a line that is told of hands as one that is understood as a deed: done, or where it was shaken, disturbed."""
    told = without_who(text)
    return f"disturbed, {told}" if _SHAKEN.match(told) else f"done: {told}"


def without_who(text: str) -> str:
    """Return a line without who did it, and when in the telling: ``I just replaced C4`` is ``replaced C4``."""
    return _WHO.sub("", text)


_TOLD = "|".join((*DONE, *_BY_TURNS))
DID = Verb(
    "did",
    "arrive",
    "something done to the instrument: what depends on it is read again",
    forms=(
        "did|done {text:text}",
        f"{_TOLD} {{what:text}}",
        "recapped|rewired|realigned",
        f"do={'|'.join(DO)} {{what:text}}",
        f"{{ref:ref}} was|is|were|has_been? {_TOLD} [{{what:text}}]",
        f"{{ref:ref}} {_TOLD} [{{what:text}}]",
    ),
    examples=("replaced C4 with 10u 450V", "trimmed R30", "added 0.1u across C7", "did set the clamp straight"),
    means=deed_of,
    titles={"text": "what was done"},
)
