"""Understanding what stands on the bench from one line: maker, type and serial number, in any order that makes sense."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.worded import worded

LONGEST = 120
EXPECTED = "maker, type and serial number, such as: Corvane AV-20 no. 3310"
_SERIAL = late_pattern(
    r"(?:^|[\s,;])(?:serial(?:\s+(?:number|no\.?))?|s/?n\.?|no\.?|nr\.?|№|#)\s*[:#]?\s*([^\s,;]*\d[^\s,;]*)", re.I
)


@dataclass(frozen=True)
class Named:
    """What a line names; what it does not say is empty."""

    maker: str = ""
    type: str = ""
    serial: str = ""

    @property
    def chips(self) -> tuple[str, ...]:
        """How it was understood."""
        said = (("maker", self.maker), ("type", self.type), ("no.", self.serial))
        return tuple(f"{word} {text}" for word, text in said if text)


def read_name(text: str, makers: Iterable[str] = (), kind: str = "") -> Named:
    """Say what a line names.

    With commas it is maker, type, serial in that order. Without: what follows *no.* or *serial* is the serial number; a maker
    that is known is the maker, wherever it stands; else the words before the type are. A word of letters and figures is the
    type, and a number beside it the serial number; where there is only a number beside words, it is the serial number.

    Parameters
    ----------
    text : str
        Up to 120 characters.
    makers : iterable of str
        That are known: of packs and of earlier jobs.
    kind : str
        What kind of instrument it is said to be, in lower case and plain words: that is neither its maker nor its type.

    Raises
    ------
    ValueTextError
        Where it names nothing, or is longer than a name.
    """
    clean = " ".join("".join(c for c in text if unicodedata.category(c) not in ("Cc", "Cf")).split())
    if not clean:
        raise ValueTextError(
            worded("jot.nothing_was_written_expected", expected=EXPECTED), value=text, expected=EXPECTED
        )
    if len(clean) > LONGEST:
        raise ValueTextError(
            worded("jot.characters_are_more_than_a_name", clean=len(clean), longest=LONGEST, expected=EXPECTED),
            value=clean[:40],
            expected=EXPECTED,
        )
    serial, clean = "", _without(clean, kind)
    if not clean:
        return Named()
    marked = _SERIAL.search(clean)
    if marked:
        serial = marked[1]
        clean = f"{clean[: marked.start()]} {clean[marked.end() :]}".strip()
    if re.search(r"[,;]", clean):
        fields = [" ".join(field.split()) for field in re.split(r"[,;]", clean)]
        maker, type_, *rest = (*fields, "", "")
        return Named(maker, type_, serial or " ".join(x for x in rest if x))
    maker, words = _known_maker(clean.split(), makers)
    return _from_words(maker, words, serial)


def _without(text: str, kind: str) -> str:
    """A line without the words of the kind, one or many, with or without hyphens; itself where they do not stand in it."""
    if not kind:
        return text
    pattern = r"[\W_]+".join(re.escape(word) for word in kind.split())
    return " ".join(re.sub(rf"(?<![A-Za-z]){pattern}s?(?![A-Za-z])", " ", text, count=1, flags=re.I).split()).strip(
        " ,;"
    )


def _known_maker(words: list[str], makers: Iterable[str]) -> tuple[str, list[str]]:
    for maker in sorted({m for m in makers if m}, key=len, reverse=True):
        asked = maker.casefold().split()
        for start in range(len(words) - len(asked) + 1):
            if [w.casefold() for w in words[start : start + len(asked)]] == asked:
                return maker, [*words[:start], *words[start + len(asked) :]]
    return "", words


def _from_words(maker: str, words: list[str], serial: str) -> Named:
    numbers = [i for i, w in enumerate(words) if re.fullmatch(r"\d[\d./-]*", w)]
    mixed = [i for i, w in enumerate(words) if i not in numbers and re.search(r"\d", w) and re.search(r"[^\W\d_]", w)]
    # The last number is the serial one where something else can be the type.
    if not serial and numbers and len(words) > 1:
        alone = len(numbers) == 1 and not mixed and bool(maker) and len(words) == 1
        if not alone:
            serial = words[numbers[-1]]
            words = [w for i, w in enumerate(words) if i != numbers[-1]]
            mixed = [i - (i > numbers[-1]) for i in mixed]
            numbers = numbers[:-1]
    typed = (mixed or numbers or [-1])[0]
    if typed >= 0:
        before, after = words[:typed], words[typed + 1 :]
        if maker:
            return Named(maker, " ".join((*before, words[typed], *after)), serial)
        if before:
            return Named(" ".join(before), " ".join((words[typed], *after)), serial)
        return Named(" ".join(after), words[typed], serial)
    if maker or len(words) < 2:
        return Named(maker, " ".join(words), serial)
    return Named(words[0], " ".join(words[1:]), serial)
