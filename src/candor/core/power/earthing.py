"""Protective earth: what is said of the cord, the plug and the earth wire whenever one of them was worked on."""

from __future__ import annotations

import re

_WORKED_ON = re.compile(r"\b(cord|earth|plug|inlet)", re.IGNORECASE)
EARTHING = (
    "A cord with an earth is right for most old cases. Where the common lead is the case it can then no longer be "
    "clipped to a live "
    "chassis, and filter capacitors that floated now load the earth: a residual-current device may trip. Write it on "
    "the label. Local "
    "codes and licensed practice come first."
)


def is_earthing(text: str) -> bool:
    """Return whether the words of a change speak of the cord, the plug or the earth wire; common practice, no source."""
    return _WORKED_ON.search(text) is not None
