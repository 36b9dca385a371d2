"""What a finding usually is, a hazard, a fix or a note, by its words; common practice, no source."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache

from candor.core.jot.meaning import Mark
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.power.danger_words import VOLTS_ON_CASE


@dataclass(frozen=True)
class Usual:
    """A kind of finding: its name, what its words must hold, all of them, and what it usually is."""

    name: str
    patterns: tuple[str, ...]
    mark: Mark


_CORD = r"\b(cord|cable|flex|mains lead|line lead|rubber|insulation|sleeving)\b"
_BAD = r"\b(perish\w*|crack\w*|crumbl\w*|brittle|fray\w*|bare|split|cut through|chaf\w*|falling off|fell off|gone hard)\b"
_NO_MAINS_PART = (
    r"^(?!.*\b(?:feet|foot|belt|drive|knobs?|window|dial|bezel|handle|bumpers?)\b)"  # rubber and cords of other kinds
)
_EARTH = r"\b(earth|ground)\b"
# The first that fits counts: the gravest stand first.
USUAL: tuple[Usual, ...] = (
    Usual("perished cord", (_NO_MAINS_PART, _CORD, _BAD), "hazard"),
    Usual("cord patched", (_NO_MAINS_PART, _CORD, r"\b(patch\w*|taped?|tape|splic\w*|twisted together|joined)\b"), "hazard"),
    Usual("cracked plug", (r"\bplug\b", r"\b(crack\w*|broken|split)\b"), "hazard"),
    Usual("live when off", (r"\blive\b", r"\boff\b"), "hazard"),
    Usual("off is not off", (r"\boff\b.*\b(is not|isn't) off\b",), "hazard"),
    Usual("switch in the wrong conductor", (r"\bswitch\b", r"\b(wrong conductor|neutral|in the return)\b"), "hazard"),
    Usual("fuse missing or bridged",
          (r"\bfuse\b", r"\bno fuse\b(?! (?:blown|blew|went|open|trouble))"
           r"|\b(missing|bridged|foil|nail|wired over|shorted|bypass\w*|none|defeated)\b|\bfuse\b\W+no\s*$"),
          "hazard"),
    Usual("wrong fuse",
          (r"\bfuse\b", r"\b(wrong|too (?:large|big|high)|oversized?|larger|bigger|instead of|should (?:have been|be))\b"),
          "hazard"),
    Usual("chassis on the line",
          (r"\b(chassis|case|frame|cabinet|metalwork)\b",
           r"\b(on the (?:line|mains)|live|hot(?! end| side| spot)|to the (?:line|mains)|bites?|stings?)\b"),
          "hazard"),
    Usual("volts on the case", (VOLTS_ON_CASE,), "hazard"),
    Usual("line capacitor to the case",
          (r"\bdeath caps?\b|\b(?:line|mains)\b.*\bcap(?:s|acitors?)?\b.*\b(?:chassis|case|frame)\b"
           r"|\bcap(?:s|acitors?)?\b.*\b(?:line|mains) to (?:the )?(?:chassis|case|frame)\b",), "hazard"),
    Usual("line and neutral reversed",
          (r"\b(polarity|plug|socket|(?:live|hot|line) and neutral)\b", r"\b(revers\w*|swapped|crossed)\b"), "hazard"),
    Usual("set for other mains",
          (r"\b(selector|voltage tap|mains tap|line tap|jumper\w*|set (?:for|to|at)|made for|wired for|primary)\b",
           r"\bwrong\b|\b1(?:00|10|15|17|20|27)\b.*\b2(?:20|30|40)\b|\b2(?:20|30|40)\b.*\b1(?:00|10|15|17|20|27)\b"), "hazard"),
    Usual("interlock defeated",
          (r"\binterlock\w*\b",
           r"\b(defeat\w*|tap(?:ed|e)|bypass\w*|bridged|shorted|missing|broken|jammed|held|wedged|removed|tied)\b"), "hazard"),
    Usual("swollen can", (r"\b(can|capacitor|electrolytic|filter)\b|\b[CE]\d+\b",
                          r"\b(swollen|bulg\w*|weep\w*|burst|leaking|leaked|vented)\b"), "hazard"),
    Usual("white getter", (r"\bgetter\b", r"\bwhite\b"), "hazard"),
    Usual("earth wire broken",
          (_EARTH, r"\b(broken|loose|off|cut|(?:not |dis)connected|(?:pin|prong|wire|lead) (?:is )?(?:missing|gone|removed))\b"),
          "hazard"),
    Usual("bare wire", (r"\b(bare|exposed|showing)\b", r"\b(wires?|wiring|copper|conductors?)\b"), "hazard"),
    Usual("it tingles", (r"\b(tingl\w*|tickle[sd]?|(?:a|got|gives) (?:a )?shock)\b",), "hazard"),
    Usual("cracked cathode-ray tube", (r"\b(crt|neck|picture tube|cathode[- ]ray tube)\b", r"\b(crack\w*|chip\w*|scratch\w*)\b"),
          "hazard"),
    Usual("mercury out", (r"\bmercury\b", r"\b(broken|crack\w*|spil\w*|drop\w*|beads?|leak\w*|loose|out)\b"), "hazard"),
    Usual("asbestos", (r"\basbestos\b",), "hazard"),
    Usual("radium", (r"\bradium\b|\bluminous\b|\bglows? in the dark\b",), "hazard"),
    Usual("beryllium", (r"\bberyll\w+\b", r"\b(broken|crack\w*|chip\w*|dust|powder)\b"), "hazard"),
    Usual("swollen battery", (r"\b(battery|batteries|cells?)\b", r"\b(swollen|bulg\w*|puffed|blown)\b"), "hazard"),
    Usual("carbon track", (r"\bcarbon track\w*\b", r"\b(line|mains|supply|high voltage|transformer)\b"), "hazard"),
    Usual("battery leaking", (r"\b(battery|batteries|cells?)\b", r"\b(leak\w*|burst|corroded|(?<!lead )(?<!lead-)acid)\b"), "fix"),
    Usual("no earth",
          (r"\b((?:two|2)[ -]?(?:wires?|core|pin|prong|conductor)|(?:no|without) (?:an? )?(?:earth|ground))\b",),
          "fix"),
    Usual("cord clamp",
          (r"\b(clamp|strain relief)\b", r"\b(no|nothing|loose|missing|gone|not hold\w*)\b"), "fix"),
    Usual("cracked tube", (r"\b(tube|envelope)\b|\bV\d+\b", r"\bcrack\w*\b"), "fix"),
    Usual("earth wire not the longest", (r"\bearth wire\b", r"\blongest\b"), "fix"),
    Usual("selenium", (r"\bselenium\b",), "fix"),
    Usual("fuse holder", (r"\bfuse ?-?holder\b", r"\b(broken|crack\w*|loose|burnt|missing|gone)\b"), "fix"),
    Usual("cover missing", (r"\b(back|cover|guard|cage|lid|bottom plate|screen over)\b", r"\b(missing|gone|lost|off)\b"), "fix"),
    Usual("burnt", (r"\b(burnt|burned|scorch\w*|charred|singed|overheated)\b",), "fix"),
    Usual("wax out", (r"\b(wax|tar|pitch|potting)\b", r"\b(leak\w*|ran|run\w*|drip\w*|ooz\w*|out)\b"), "fix"),
    Usual("wrong tube", (r"\bwrong (?:type|tube)\b",), "fix"),
)  # fmt: skip
# “not the longest”, “not connected”, “holds nothing”, “not off” are faults themselves.
_DENIED = late_pattern(
    r"\b(not|isn't|no longer|never|free of|sound)\b(?! hold)(?! the longest)(?! off)(?! connected)"
    r"|\bno (?:bare|exposed|crack\w*|leak\w*|swollen|bulg\w*|perish\w*|tingl\w*|shock|damage)\b",
    re.I,
)
_PAST = late_pattern(r"\b(replaced|fitted|new|repaired|renewed|cleaned|was|were|rewired|instead)\b", re.I)

# `There was 62 V on the chassis` is a hazard still; only what was done about it ends one.
_PUT_RIGHT = late_pattern(
    r"\b(replaced|fitted|new|repaired|renewed|cleaned|rewired|instead|fixed|cured|removed|no more)\b", re.I
)


@lru_cache(2048)  # items of checklists are asked for again with every key
def usuals_of(text: str) -> tuple[Usual, ...]:
    """Return every kind of finding a text is, the gravest first; none where it is none, or says that it is not so."""
    if _DENIED.search(text):
        return ()
    return tuple(u for u in USUAL if all(re.search(p, text, re.I) for p in u.patterns))


def usual_of(text: str) -> Usual | None:
    """Return what kind of finding a text is, the gravest that fits."""
    return next(iter(usuals_of(text)), None)


def usual_mark(text: str, case_can_be_live: bool = False) -> Mark:
    """Return what a finding usually is: "note" where nothing grave is known of it.

    Two wires and no earth are a hazard where touchable metal can reach the line (a capacitor to the case, a live chassis),
    else a fix.
    """
    usual = usual_of(text)
    if usual is None:
        return "note"
    return "hazard" if usual.name == "no earth" and case_can_be_live else usual.mark


@lru_cache(2048)
def words_of(text: str) -> frozenset[str]:
    """Return the words of three letters and more of a text, in the singular."""
    return frozenset(word.rstrip("s") for word in re.findall(r"[^\W\d_]{3,}", text.lower()))


def names_item(text: str, item: str) -> bool:
    """Say whether a finding names an item of a checklist: every word of it, or another way to say the same kind of thing."""
    asked = words_of(item)
    if asked and asked <= words_of(text):
        return True
    return usual_of(item) in usuals_of(text)


def hazard_told(text: str, case_can_be_live: bool = False) -> bool:
    """Return whether a line tells of a hazard that is there: not of one that is denied, or was put right."""
    asks = text.rstrip().endswith("?")
    return not asks and usual_mark(text, case_can_be_live) == "hazard" and not _PUT_RIGHT.search(text)


def item_in(text: str, items: Iterable[tuple[str, str]]) -> tuple[str, str]:
    """Return zone and item that a bare line names, the item with the most words first; empty where none, or where it denies it.

    What was already put right is not a finding, whatever it names.
    """
    if _PAST.search(text) or _DENIED.search(text):
        return "", ""
    named = [(zone, item) for zone, item in items if names_item(text, item)]
    return max(named, key=lambda pair: len(words_of(pair[1])), default=("", ""))
