"""Protective earth: what is said of the cord, the plug and the earth wire whenever one of them was worked on."""

from __future__ import annotations

import re

from candor.core.worded import worded

_WORKED_ON = re.compile(r"\b(cord|earth|plug|inlet)", re.IGNORECASE)
EARTHING = worded("power.a_cord_with_an_earth_is")


def is_earthing(text: str) -> bool:
    """Return whether the words of a change speak of the cord, the plug or the earth wire; common practice, no source."""
    return _WORKED_ON.search(text) is not None
