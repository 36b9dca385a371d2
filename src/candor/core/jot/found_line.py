"""Understanding a finding at Arrive: its words, its mark, and the zone it belongs to."""

from __future__ import annotations

import re
from typing import cast

from candor.core.jot.meaning import FindingJot, Mark
from candor.core.jot.usual_mark import item_in, usual_mark

_MARKS = ("hazard", "fix", "note")


def understand_found(
    rest: str, zones: tuple[tuple[str, str], ...], items: tuple[tuple[str, str], ...], case_can_be_live: bool
) -> FindingJot:
    """Say what a finding means: a mark before or after its words, else the one its words usually carry.

    `zones` are keys and titles, `items` keys of zones and what is looked for there.
    """
    words = rest.split()
    said: Mark | None = None
    for place in (-1, 0):
        if len(words) > 1 and words[place].lower().rstrip(":") in _MARKS:
            said = cast(Mark, words.pop(place).lower().rstrip(":"))
            break
    text = " ".join(words)
    zone, _ = item_in(text, items)
    return found_in_zone(text, said or usual_mark(text, case_can_be_live), zones, zone)


def found_in_zone(text: str, mark: Mark, zones: tuple[tuple[str, str], ...], zone: str) -> FindingJot:
    """Return a finding, in the zone whose checklist names it, else in the one its words name."""
    placed = place_in_zone(text, zones)
    title = next((t for key, t in zones if key == zone), "") if zone else placed[1]
    chips = (mark, text) if not title else (mark, title, text)
    return FindingJot(text, mark, zone or placed[0], chips)


def place_in_zone(text: str, zones: tuple[tuple[str, str], ...]) -> tuple[str, str]:
    """Return key and title of the zone whose words `text` names first, or empty strings."""
    written = set(re.findall(r"[a-z]+", text.lower()))
    for key, title in zones:
        names = set(re.findall(r"[a-z]{4,}", title.lower())) - {"under", "with", "from"}
        if names & written or {n.rstrip("s") for n in names} & written:
            return key, title
    return "", ""
