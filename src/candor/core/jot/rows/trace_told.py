"""Volts of a tube's pins and ohms of parts as they are told: `plate of V2 is 145`, `pin 5 V1 8.2 volts`; lines that are offered."""

from __future__ import annotations

import re

from candor.core.jot.slots import NUMBER
from candor.core.late_pattern import late_pattern

_ROLE = r"(?:plate|anode|cathode|screen(?:\s+grid)?|(?:control\s+)?grid(?:\s*\d)?|suppressor|heater|filament|pin\s*\d{1,2})"
_TUBE = r"V\d+(?:\s?[abc])?"
_NAMED = (
    rf"(?:(?P<role>{_ROLE})\s+(?:of\s+|on\s+|at\s+)?(?:the\s+)?(?:tube\s+)?(?P<tube>{_TUBE})"
    rf"|(?:tube\s+)?(?P<tube2>{_TUBE})'?s?[\s,]+(?P<role2>{_ROLE}))"
)
_VOLTS = rf"(?P<sign>positive|negative|plus|minus)?\s*(?P<value>{NUMBER})\s?(?P<prefix>[mk]?)(?:v(?:olts?|dc)?)?(?:\s*d\.?c\.?)?"
_READS = late_pattern(
    rf"(?:(?:i\s+)?(?:measured?|get|got|have|read)\s+)?(?:the\s+)?{_NAMED}\s*"
    rf"(?:(?:is|at|reads?|has|shows|sits at|=|:|only|now)\s*)*{_VOLTS}",
    re.I,
)
_VOLTS_FIRST = late_pattern(rf"{_VOLTS}\s+(?:on|at|from)\s+(?:the\s+)?{_NAMED}", re.I)
_ELECTRODE = {
    "anode": "plate", "screen grid": "screen", "control grid": "grid", "grid 1": "grid", "grid 2": "screen", "grid 3": "suppressor",
    "filament": "heater",
}  # fmt: skip


def node_lines(text: str) -> tuple[str, ...]:
    """Return the line of a node's volts that a told one is meant as; none where it is no such."""
    text = " ".join(text.split())
    match = _READS.fullmatch(text) or _VOLTS_FIRST.fullmatch(text)
    if match is None:
        return ()
    role, tube = (match["role"] or match["role2"]).lower(), (match["tube"] or match["tube2"]).upper()
    role = re.sub(r"(pin|grid)\s*(?=\d)", r"\1 ", role)
    role = _ELECTRODE.get(role, role)
    value = match["value"]
    minus = (match["sign"] or "").lower() in ("negative", "minus") and not value.startswith(("-", "−"))
    return (" ".join(("node", tube, role, ("-" if minus else "") + value, match["prefix"] + "V")),)
