"""Lines about what was done to the instrument: replaced, trimmed, disturbed; and what proves nothing."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.jot.meaning import ChangeJot
from candor.core.jot.part_line import find_replaced
from candor.core.parts.part import Part

# A line that begins with what was done is a change, with or without "did": as a note it would void nothing.
DONE = re.compile(
    r"((?:re)?(?:trimmed|adjusted)|replaced|swapped|exchanged|reseated|repaired|rewired|bent|shunted)\s+\S", re.I
)
TURNED = re.compile(r"(?:re)?(?:trimmed|adjusted|turned)\s+(?:the\s+)?(\S.*)", re.I)
# What says only that somebody looked: no change is proven by it.
PROVES_NOTHING = re.compile(
    r"(?:it\s+)?(?:no\s+(?:change|difference)|nothing|ok(?:ay)?|done|yes|looked|looks\s+(?:ok|fine|good)|fine|good)[.!]?",
    re.I,
)


def proves_nothing(text: str) -> bool:
    """Return whether the words of a check say only that somebody looked: no change is proven by them."""
    return PROVES_NOTHING.fullmatch(text.strip()) is not None


def change_of(rest: str, parts: Mapping[str, Part]) -> ChangeJot:
    """Return a change: an adjuster that was moved, a part that was replaced, or words alone."""
    moved = TURNED.match(rest)
    if moved is not None:
        chips = (f"done: {rest}", f"an adjuster was moved: what depends on {moved[1]} is read again as left")
        return ChangeJot(rest, chips, turned=moved[1])
    named = re.match(r"replaced\s+(.*)", rest, re.I)
    ref = find_replaced(named[1], parts) if named else ""
    return ChangeJot(rest, (f"done: {rest}", *([f"{ref} is replaced"] if ref else [])), ref)


def disturbed(rest: str, parts: Mapping[str, Part]) -> ChangeJot:
    """What was only disturbed counts as a change, of the parts where all it names are on the list, else of everything."""
    named = re.split(r"[\s,]+(?:and\s+)?(?=[A-Za-z]{1,3}\d+\b)", rest)
    found = [find_replaced(words, parts) for words in named]
    ref = ", ".join(found) if all(found) else ""
    what = f"readings that use {ref}" if ref else "all readings"
    return ChangeJot(
        f"disturbed {rest}", (f"disturbed: {rest}", f"{what} are history from here"), ref, disturbed=True
    )
