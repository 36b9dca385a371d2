"""A needle's reading as people tell it: `it reads 72.6`, `half a division low`, `spot on`, `72.6 coming down`, `72.6 at 75.004`.

What can mean one thing only is put as it is typed: a value or ticks, then what the reference showed, then from which side. Where it
can mean two, or would pass a guess for a reading, the lines that it may be are offered and none is taken: two bare numbers, an
offset of nobody knows what, a value with a bound of its own.
"""

from __future__ import annotations

import re

from candor.core.calibration.point import TestPoint
from candor.core.jot.slots import NUMBER
from candor.core.late_pattern import late_pattern
from candor.core.quantities.show import trimmed
from candor.core.reading.needle import NEEDLE

_N = rf"{NUMBER}(?:\s?(?:[kmMuµnp]?(?:V|A|W|F|H|Hz|S|ohms?|Ω)|[kM]|dB\w*|volts?|amps?|%))?(?![A-Za-z])"
_SHOWS = r"(?:reads?|reading|shows?|showing|indicates?|indicating|says|gives|stands?)"
_IT = r"(?:(?:it|the|this|needle|pointer|meter|now|again|still|then|is|just)\s+)*"
_LEAD = late_pattern(rf"^{_IT}(?:{_SHOWS}\s+)?(?:is\s+)?(?:(?:at|on|to)\s+)?(?=[-+−]?\s?[\d.,])", re.I)
_BARE_LEAD = late_pattern(r"(?:at|on|to|is|then)\s+[-+−]?\s?[\d.,]", re.I)  # alone it begins other lines
_REFERENCE_FIRST = late_pattern(
    rf"(?:ref(?:erence)?|true|actual|standard)\s+(?P<ref>{_N})(?:\s*[,;:]\s*|\s+){_IT}(?:(?:{_SHOWS}|needle|meter)\s+)?(?:at\s+)?(?P<own>{_N})",
    re.I,
)
_APPLIED_FIRST = late_pattern(
    rf"(?:(?:with|at|for|applied|input|source|set(?:\s+to)?|in)\s+)?(?P<ref>{_N})\s*(?:in|applied|on it)?\s*(?:[,;:]|->|→|=>?)?\s*"
    rf"{_IT}(?:{_SHOWS}\s+|(?<=[:>→=]\s)|(?<=[:>→=]))(?:at\s+)?(?P<own>{_N})",
    re.I,
)
_OWN_FIRST = late_pattern(
    rf"(?P<own>{_N})\s*(?:at|for|with|in|against|when)\s+(?P<ref>{_N})(?:\s+(?:in|applied|on it))?", re.I
)
_SHOULD = late_pattern(rf"(?P<own>{_N}),?\s*(?:should be|instead of|not|where)\s+{_N}.*", re.I)
_TWO = late_pattern(rf"(?P<one>{_N})\s*(?:\s|/|,|;|\|)\s*\(?(?P<other>{_N})\)?", re.I)
_LOW, _HIGH = r"low|below|under|short|down", r"high|above|over|up"
_COUNTED = {
    "half a": "1/2", "half": "1/2", "a half": "1/2", "half of a": "1/2", "a third of a": "1/3", "quarter": "1/4",
    "a quarter": "1/4", "quarter of a": "1/4", "a quarter of a": "1/4", "three quarters of a": "3/4", "three quarter": "3/4",
    "a": "1", "an": "1", "one": "1", "one and a half": "1 1/2", "two": "2", "three": "3", "four": "4",
}  # fmt: skip
_DIVISIONS = late_pattern(
    rf"(?:by\s+)?(?P<n>[\d.,/ ]*\d|{'|'.join(sorted(_COUNTED, key=len, reverse=True))})\s+"
    rf"(?:small\s+)?(?:div(?:ision)?s?|ticks?|graduations?)\s+(?:too\s+)?(?P<way>{_LOW}|{_HIGH})(?:\s+(?:it|the mark))?",
    re.I,
)
_ON = late_pattern(
    r"(?:dead|spot|bang|right|exactly|smack)[ -]on\b.{0,12}|(?:dead |right |exactly )?on (?:the (?:mark|line|nose)|it)",
    re.I,
)
_WAYS = (
    (late_pattern(r"\s+(?:(?:going|coming|moving)\s+up|on the way up|upscale|upwards)$", re.I), " up"),
    (late_pattern(r"\s+(?:(?:going|coming|moving)\s+down|on the way down|downscale|downwards)$", re.I), " down"),
    (late_pattern(r"\s+rising$", re.I), " up"), (late_pattern(r"\s+falling$", re.I), " down"),
)  # fmt: skip
_OFF = late_pattern(
    rf"(?:off by\s+)?(?P<by>{_N})\s+(?:too\s+)?(?P<way>{_LOW}|{_HIGH})"
    rf"|(?P<way2>{_LOW}|{_HIGH})\s+by\s+(?P<by2>{_N})|off by\s+(?P<by3>{_N})", re.I
)  # fmt: skip
_BOUNDED = late_pattern(rf"(?P<own>{_N})\s*(?:±|\+/?-|\+-)\s*{_N}|(?P<ish>[-+]?[\d.,]+)\s?-?ish", re.I)
_ABOUT = late_pattern(rf"(?:about|around|approx\w*|roughly|nearly|almost|maybe|ca\.?|~)\s*(?P<own>{_N})", re.I)
_BETWEEN = late_pattern(
    r"(?:between\s+)?(?P<low>[\d.,]+)\s*(?:and|to|-|–|or)\s*(?P<high>[\d.,]+)(?:\s?[a-zA-ZΩ%]{1,4})?", re.I
)


def as_typed(text: str, point: TestPoint) -> str:
    """Return a line at a needle's point as a reading is typed, where it can mean that alone; else as it stands."""
    if point.kind != NEEDLE.key:
        return text
    line, way = text, ""
    for pattern, said in _WAYS:
        if pattern.search(line) and re.search(r"\d", line):
            line, way = pattern.sub("", line), said
    if match := _REFERENCE_FIRST.fullmatch(line):
        return f"{match['own']} ref {match['ref']}{way}"
    line, ref, told = line.partition(" ref ")
    way = f"{ref}{told}{way}"
    if _ON.fullmatch(line):
        return f"0t{way}"
    bare = line if _BARE_LEAD.match(line) else _LEAD.sub("", line)
    if match := _DIVISIONS.fullmatch(bare):
        count = _COUNTED.get(" ".join(match["n"].lower().split()), match["n"].strip())
        sign = "-" if re.fullmatch(_LOW, match["way"], re.I) else "+"
        return f"{sign}{count}t{way}"
    return f"{bare}{way}"


def meant_by(text: str, point: TestPoint) -> tuple[str, ...]:
    """Return the lines that one at a needle's point may mean, the likeliest first; none where it tells no reading."""
    if point.kind != NEEDLE.key:
        return ()
    line = _LEAD.sub("", text) if not _BARE_LEAD.match(text) else text
    if match := _BOUNDED.fullmatch(line):
        return (match["own"] or match["ish"],)
    if match := _ABOUT.fullmatch(line) or _ABOUT.fullmatch(text):
        return (match["own"],)
    if match := _SHOULD.fullmatch(line):
        return (match["own"],)
    if match := _OFF.fullmatch(line):
        return _offset(match, point)
    if match := _BETWEEN.fullmatch(line):
        low, high = (_value(match[name]) for name in ("low", "high"))
        if low is not None and high is not None and low < high < 1.5 * low:
            return (trimmed((low + high) / 2, 6),)
    for pattern in (_OWN_FIRST, _APPLIED_FIRST):
        if match := pattern.fullmatch(line) or pattern.fullmatch(text):
            return (f"{match['own']} ref {match['ref']}",)
    if match := _TWO.fullmatch(line):
        one, other = match["one"].strip(), match["other"].strip()
        pair = (f"{one} ref {other}", f"{other} ref {one}")
        # A needle is read to fewer places than a reference is.
        finer = _places(one) - _places(other)
        return pair if finer == 0 else (pair[finer > 0],)
    return ()


def _offset(match: re.Match[str], point: TestPoint) -> tuple[str, ...]:
    by, way = match["by"] or match["by2"] or match["by3"], (match["way"] or match["way2"] or "").lower()
    share = by.rstrip().endswith("%")
    size = _value(re.sub(r"[^\d.,+-].*$", "", by.replace("−", "-").strip()))
    if size is None:
        return ()
    nominal = point.nominal / point.marked_factor
    moved = abs(nominal) * size / 100 if share else size
    if nominal < 0:  # low may be meant of the number or of its size
        way = ""
    signs = (-1,) if re.fullmatch(_LOW, way) else (1,) if way else ((1,) if re.match(r"\s*[-+]", by) else (-1, 1))
    return tuple(trimmed(nominal + sign * moved, 6) for sign in signs)


def _value(text: str) -> float | None:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return None


def _places(text: str) -> int:
    match = re.match(r"[-+−]?\s?\d*[.,](\d+)", text)
    return len(match[1]) if match else 0
