"""Numbers in a text as a reader's country writes them: 0,5 where it has a comma. Typed lines and sources stay as they are."""

from __future__ import annotations

import re

from candor.core.late_pattern import late_pattern

# What is typed stands in quotation marks or after "Example"; a serial number, an edition and a clause are names, not numbers.
_AS_IT_STANDS = late_pattern(
    r"“[^”]*”|\bExamples?:.*|\b(?:no\.|edition|version|form|certificate)\s+\S+|"
    r"\b(?:JCGM|ISO|IEC|IEEE|ILAC|EN|EURAMET|BIPM|SCPI|VIM)\b[^;)\n]*|\bCandor \d[\d.]*",
    re.DOTALL,
)
# One point between digits; two are a version or an address, a letter and a dash before them a type, a dot behind them a file.
_POINT = late_pattern(r"(?<![\w.])(?<![A-Za-z]-)(\d+)\.(\d+)(?!\d*\.\w)")


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
