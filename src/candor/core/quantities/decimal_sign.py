"""Numbers in a text as a reader's country writes them: 0,5 where it has a comma. Typed lines and sources stay as they are."""

from __future__ import annotations

import re

# What is typed stands in quotation marks or after "Example"; a clause of a standard has a point in every country.
_AS_IT_STANDS = re.compile(
    r"“[^”]*”|\bExamples?:.*|\b(?:JCGM|ISO|IEC|IEEE|ILAC|EN|EURAMET|BIPM|SCPI|VIM)\b[^;)\n]*|\bCandor \d[\d.]*",
    re.DOTALL,
)
# One point between digits; two are a version, an address or a clause.
_POINT = re.compile(r"(?<![\w.])(\d+)\.(\d+)(?!\d*\.\d)")


def with_decimal_sign(text: str, sign: str) -> str:
    """Return a text with this between the whole and the decimals of its numbers; with a point it is the text itself.

    >>> with_decimal_sign("1.00 ± 0.38 V (JCGM 106, 8.3). Example: 0.5 V", ",")
    '1,00 ± 0,38 V (JCGM 106, 8.3). Example: 0.5 V'
    """
    if sign == "." or "." not in text:
        return text
    parts, end = [], 0
    for kept in _AS_IT_STANDS.finditer(text):
        parts += [_POINT.sub(rf"\1{sign}\2", text[end : kept.start()]), kept[0]]
        end = kept.end()
    return "".join((*parts, _POINT.sub(rf"\1{sign}\2", text[end:])))
