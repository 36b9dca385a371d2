"""Text as it is kept: without control characters, and without marks that turn the direction of what stands beside them."""

from __future__ import annotations

from candor.core.late_pattern import late_pattern

# In JSON a control character is written as an escape; a line's end and a tab stay, they are typed on purpose.
_ESCAPED = late_pattern(r"(?<!\\)((?:\\\\)*)\\(?:u00(?:0[0-8bBcCeEfF]|1[0-9a-fA-F]|7[fF]|[89][0-9a-fA-F])|[bf])")
_RAW = late_pattern("[\x7f-\x9f\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]")


def plain_json(text: str) -> str:
    """Return the JSON of an entry without what nobody types on purpose: ``"a\\u0007b"`` gives ``"ab"``."""
    return _RAW.sub("", _ESCAPED.sub(r"\1", text))
