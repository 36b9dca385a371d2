"""A line as it is understood: without what nobody sees, signs and fractions written out."""

from __future__ import annotations

import re

from candor.core.late_pattern import late_pattern

_OTHER = late_pattern(
    r"\s+(?:true|actual|standard|std|against|vs\.?|versus|(?:the )?meter(?: says| shows| reads)?)\s+(?=[-+]?[\d.,])",
    re.I,
)


def clean_line(text: str) -> str:
    """Return a line without control characters and marks that turn its direction, with signs and fractions written out."""
    clean = re.sub(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]", "", text)
    clean = re.sub(r"\s+", " ", clean).strip()
    for character, written in (("−", "-"), ("½", " 1/2"), ("¼", " 1/4"), ("¾", " 3/4"), ("⅕", " 1/5")):
        clean = clean.replace(character, written)
    clean = re.sub(
        r"^([\d.,]+ ?[a-zµΩ]+(?: [ad]\.?c\.?)?) range\b(?=.*\bdiv)", r"range \1", clean, flags=re.I
    )  # 10 V range 50 div
    clean = re.sub(r"^([A-Za-z]{1,4}\d+)=", r"\1 = ", clean.strip())  # R5=52k
    if re.match(r"[-+]?\s?[\d.,]|on\s", clean):  # a reading: the other value is the reference, whatever it is called
        clean = _OTHER.sub(" ref ", clean, count=1)
    return re.sub(r"^([+-])\s+", r"\1", clean)
