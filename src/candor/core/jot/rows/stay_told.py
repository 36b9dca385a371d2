"""Hours, prices and touch currents as they are told: `took 4.5 hours`, `charge 120`; lines that are offered."""

from __future__ import annotations

import re

from candor.core.jot.slots import NUMBER
from candor.core.late_pattern import late_pattern

_SPENT = late_pattern(
    rf"(?:(?:it\s+|this\s+|job\s+)*(?:took|spent|worked)\s+(?:me\s+)?(?:on it\s+)?)(?:about\s+)?(?P<n>{NUMBER})\s?"
    r"(?P<size>h(?:ou)?rs?|hours?|h|min(?:ute)?s?|m)(?:\s+(?P<on>.*))?",
    re.I,
)
_PRICE = late_pattern(
    r"(?:charged?|invoiced?|bill(?:ed)?|price|costs? (?:him|her|them|the owner))\s*(?:is|of|him|her|them|the owner|:)*\s*"
    rf"[$€£]?\s?(?P<n>{NUMBER})"
    r"\s*(?:[$€£]|eur(?:os?)?|dollars?|usd|gbp|pounds?)?",
    re.I,
)
_TOUCH = late_pattern(
    rf"(?:touch|leakage|case|chassis)\s+current\s*(?:is|was|of|:|=)?\s*(?P<value>{NUMBER}\s?[mµu]A)", re.I
)


def stay_lines(text: str) -> tuple[str, ...]:
    """Return the lines that a told one may be meant as; none where it tells nothing of the kind."""
    text = " ".join(text.split())
    if match := _SPENT.fullmatch(text):
        size = "min" if match["size"].lower().startswith("m") else "h"
        return (" ".join(filter(None, ("spent", match["n"], size, match["on"] or ""))),)
    if match := _PRICE.fullmatch(text):
        return (f"agreed {match['n']}",)
    if match := _TOUCH.fullmatch(text):
        return tuple(" ".join(("touch", match["value"], plug, "on")) for plug in ("as it is", "reversed"))
    return ()
