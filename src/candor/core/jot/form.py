"""Forms of lines, as they are written in the table of verbs, and the whole fit of a line to one.

A form is words and places: `insulation {ohms:ohm} [@ {volts:V}]`. A word may be one of several (`mass|weighs`), with `_` for a
space in it and `?` behind it where it may be missing; `[…]` may be missing; `{name:slot}` is a place (`slots.py`); `@` is also
written *at*; `<…> <…>` at the end are clauses in any order, each once at most. Between two things stand spaces or a comma, colon or
semicolon. A line fits whole or not at all: nothing of it is left over.
"""

from __future__ import annotations

import re
from functools import cached_property
from typing import Any

from candor.core.errors import ValueTextError
from candor.core.jot.context import JotContext
from candor.core.jot.slots import SLOTS, Slot
from candor.core.late_pattern import late_pattern
from candor.core.worded import worded

TOKEN = late_pattern(r"\{(?P<name>\w+):(?P<slot>\w+)\}|(?P<mark>[\[\]<>@])|(?P<word>[^\s\[\]<>{}@]+)")
_SEPARATOR = r"(?:\s*[,;:]\s*|\s+)"
_AT = r"(?:\s*@\s*|\s+at\s+)"
LONGEST = 2000  # characters of a line that is looked at: what is longer is not a line of these


class Said(dict[str, Any]):
    """What a line says by the names of its places, read; `texts` as it was written. What was not said is None."""

    def __init__(self, values: dict[str, Any], texts: dict[str, str], line: str) -> None:
        super().__init__(values)
        self.texts, self.line, self.context = texts, line, JotContext()

    context: JotContext

    def __missing__(self, name: str) -> None:
        return None


class Form:
    """One way to write a line.

    Parameters
    ----------
    text : str
        In the language above.
    """

    def __init__(self, text: str) -> None:
        self.text = text

    @cached_property
    def slots(self) -> dict[str, Slot]:
        """Its places by name."""
        return {m["name"]: SLOTS[m["slot"]] for m in TOKEN.finditer(self.text) if m["name"]}

    @cached_property
    def first_words(self) -> frozenset[str]:
        """The words it can begin with, in lower case; none where it begins with a place."""
        token = TOKEN.match(self.text)
        if token is None or not token["word"] or (token["word"].endswith("?") and token["word"] != "?"):
            return frozenset()
        return frozenset(re.split(r"[_ ]", word)[0].lower() for word in token["word"].rpartition("=")[2].split("|"))

    @cached_property
    def _whole(self) -> tuple[re.Pattern[str], re.Pattern[str] | None]:
        head, _, tail = self.text.partition(" <")
        pattern = _build(head)
        if not tail:
            return re.compile(pattern, re.I), None
        clauses = "|".join(_build(clause.strip("<> ")) for clause in re.split(r">\s*<", tail))
        return re.compile(rf"{pattern}(?:{_SEPARATOR}(?:{clauses}))*", re.I), re.compile(clauses, re.I)

    def texts(self, line: str) -> dict[str, str] | None:
        """Return what stands at its places in a line, as it is written and not read; None where it is not written so."""
        match = self._whole[0].fullmatch(line) if len(line) <= LONGEST else None
        return (
            None if match is None else {name: text.strip(" ,;:") for name, text in match.groupdict().items() if text}
        )

    def fit(self, line: str) -> Said | None:
        """Return what a line says, None where it is not written so.

        Raises
        ------
        CandorError
            Where it is written so, and a value in it cannot be read.
        """
        pattern, clauses = self._whole
        match = pattern.fullmatch(line) if len(line) <= LONGEST else None
        if match is None:
            return None
        texts = {name: text for name, text in match.groupdict().items() if text is not None}
        if clauses is not None:
            seen = [name for m in clauses.finditer(line) for name, text in m.groupdict().items() if text is not None]
            twice = next((name for name in seen if seen.count(name) > 1 and name in texts), "")
            if twice:
                raise ValueTextError(
                    worded("jot.says_twice_say_it_once", line=line, replace=twice.replace("_", " ").strip()),
                    value=line,
                )
        values = {name: self.slots[name].read(text) if name in self.slots else True for name, text in texts.items()}
        return Said(values, texts, line)


def _build(text: str) -> str:
    """Return a form, or a clause, as a regular expression; a word in `(…)` of a clause is told by its own name."""
    built, glued, after_number = "", True, False
    for token in TOKEN.finditer(text):
        separator = "" if glued else _SEPARATOR
        if after_number and token["word"] and not glued:
            separator = r"\s*"  # 45min, 32 kg
        after_number = token["slot"] in ("number", "count")
        if token["mark"] == "[":
            built += f"(?:{separator}"
            glued = True
        elif token["mark"] == "]":
            built += ")?"
            glued = False
        elif token["mark"] == "@":
            built = built.removesuffix(_SEPARATOR) + _AT
            glued = True
        elif token["name"]:
            built += f"{separator}(?P<{token['name']}>{SLOTS[token['slot']].pattern})"
            glued = False
        elif token["word"].endswith("?") and token["word"] != "?":
            word = _words(token["word"][:-1])
            built += f"{separator}(?:{word}{_SEPARATOR})?"
            glued = True
        else:
            word = token["word"]
            name, _, words = word.partition("=")
            built += f"{separator}(?P<{name}>{_words(words)})" if words else f"{separator}{_words(word)}"
            glued = False
    return built


def _words(text: str) -> str:
    """One of several words; `_` is a space in one."""
    return "(?:" + "|".join(r"\s+".join(map(re.escape, word.split("_"))) for word in text.split("|")) + r")(?!\w)"
