"""The fields of a verb: what its line asks for one by one, the line that they say together, and back again.

Fields and line are the same thing: a filled form is a line of the table of verbs, and is understood and written as one.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import field
from functools import cache

from candor.core.errors import CandorError
from candor.core.jot.form import TOKEN, Form
from candor.core.jot.slots import SLOTS
from candor.core.jot.verb import Verb
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

# What stands over a field whose verb says nothing better.
_TITLES = {
    "V": "volts", "A": "amperes", "W": "watts", "F": "capacitance", "Hz": "frequency", "ohm": "ohms", "rail": "rail",
    "node": "node", "node_word": "node", "ref": "part", "text": "in words", "prose": "in words", "point": "point",
}  # fmt: skip
_WORDS = {"text", "prose", "named", "kind", "link", "ranged", "numbers"}  # fields that take a sentence


@dataclass(frozen=True)
class LineField:
    """One field.

    Attributes
    ----------
    key : str
        The place in the form that it fills.
    title, example : str
        What stands over it, and in it while it is empty.
    slot : str
        What can stand there (`slots.py`); nothing where one of `choices` is picked.
    needed : bool
        The line cannot be said without it.
    choices : tuple of str
        What can be picked, as it is written; an empty first one where none may be.
    """

    key: str
    title: str
    example: str
    slot: str = ""
    needed: bool = True
    choices: tuple[str, ...] = ()

    @property
    def is_wide(self) -> bool:
        """Whether words go in, not a figure."""
        return self.slot in _WORDS

    def wrong(self, text: str) -> str:
        """Return what is wrong with what stands in it; nothing where it can be read, or is empty."""
        if not text.strip() or not self.slot:
            return ""
        slot = SLOTS[self.slot]
        if re.fullmatch(slot.pattern, text.strip(), re.I) is None:
            return worded("jot.candor_cannot_read_here_example_3", text=text.strip(), example=self.example)
        try:
            slot.read(text.strip())
        except CandorError as error:
            return str(error)
        return ""


@dataclass
class _Piece:
    """A word, a place or a group of a form."""

    words: tuple[str, ...] = ()
    key: str = ""
    slot: str = ""
    parts: list[_Piece] = field(default_factory=list)
    is_clause: bool = False

    def places(self) -> Iterator[_Piece]:
        """Each place in it, in the order of the form."""
        if self.key:
            yield self
        for part in self.parts:
            yield from part.places()

    def filled(self, texts: Mapping[str, str]) -> bool:
        return any(texts.get(place.key, "").strip() for place in self.places())

    def written(self, texts: Mapping[str, str]) -> Iterator[str]:
        """Each word of the line; a group stands in it where one of its places is filled."""
        if self.key:
            yield texts.get(self.key, "").strip()
        elif self.parts:
            if self.filled(texts):
                yield from (",",) if self.is_clause else ()
                for part in self.parts:
                    yield from part.written(texts)
        elif self.words:
            yield self.words[0].replace("_", " ")

    def missing(self, texts: Mapping[str, str]) -> Iterator[str]:
        """Each place that the line needs, as far as it is filled, and has not."""
        if self.key and not texts.get(self.key, "").strip():
            yield self.key
        if self.parts and self.filled(texts):
            for part in self.parts:
                yield from part.missing(texts)


@cache
def _pieces(text: str) -> tuple[_Piece, ...]:
    stack: list[list[_Piece]] = [[]]
    for token in TOKEN.finditer(text):
        if token["mark"] in ("[", "<"):
            stack.append([])
        elif token["mark"] in ("]", ">"):
            parts = stack.pop()
            stack[-1].append(_Piece(parts=parts, is_clause=token["mark"] == ">"))
        elif token["mark"] == "@":
            stack[-1].append(_Piece(words=("@",)))
        elif token["name"]:
            stack[-1].append(_Piece(key=token["name"], slot=token["slot"]))
        elif token["word"].endswith("?") and token["word"] != "?":
            continue  # a word that may be missing is left out
        else:
            name, _, words = token["word"].partition("=")
            stack[-1].append(_Piece(words=tuple((words or token["word"]).split("|")), key=name if words else ""))
    return tuple(stack[0])


def _forms(verb: Verb) -> tuple[str, ...]:
    return verb.fielded or verb.forms[:1]


def has_fields(verb: Verb) -> bool:
    """Whether a line of a verb says more than its verb."""
    return any(True for text in _forms(verb) for piece in _pieces(text) for _ in piece.places())


def fields_of(verb: Verb) -> tuple[LineField, ...]:
    """Return the fields that a verb asks for, in the order of its line; none where a line of it says nothing but its verb."""
    return _fields(_forms(verb), verb.examples, tuple(verb.titles.items()))


@cache
def _fields(
    forms: tuple[str, ...], examples: tuple[str, ...], titles: tuple[tuple[str, str], ...]
) -> tuple[LineField, ...]:
    said, given = (
        dict(titles),
        [texts for text in forms for example in examples if (texts := Form(text).texts(example))],
    )
    made: dict[str, LineField] = {}
    always = [{place.key for piece in _pieces(text) if piece.key for place in piece.places()} for text in forms]
    for text in forms:
        for place in (place for piece in _pieces(text) for place in piece.places()):
            key = place.key
            if key in made:
                continue
            head, _, example = said.get(key, "").partition("|")
            needed = head.startswith("!") or all(key in places for places in always)
            usual = SLOTS[place.slot].example if place.slot else ""
            shown = example or next((texts[key] for texts in given if texts.get(key)), usual)
            choices = tuple(word.replace("_", " ") for word in place.words)
            made[key] = LineField(
                key,
                head.removeprefix("!") or _TITLES.get(place.slot) or key.strip("_").replace("_", " "),
                shown,
                slot=place.slot,
                needed=needed,
                choices=choices if needed or not choices else ("", *choices),
            )
    return tuple(made.values())


def line_of(verb: Verb, texts: Mapping[str, str]) -> tuple[str, tuple[str, ...]]:
    """Return the line that fields say, and the keys of what it still needs.

    Parameters
    ----------
    verb : Verb
    texts : mapping of str to str
        What stands in the fields, by key; empty ones say nothing.
    """
    filled = {key for key, text in texts.items() if text.strip()}
    best: tuple[tuple[int, int], str, tuple[str, ...]] | None = None
    for text in _forms(verb):
        pieces = _pieces(text)
        places = {place.key for piece in pieces for place in piece.places()}
        missing = tuple(key for piece in pieces for key in piece.missing(texts))
        missing += tuple(key for key, title in verb.titles.items() if title.startswith("!") and key not in filled)
        line = " ".join(word for piece in pieces for word in piece.written(texts) if word).replace(" ,", ",")
        score = (len(filled - places), len(missing))
        if best is None or score < best[0]:
            best = (score, line, missing)
    assert best is not None
    return best[1], best[2]


def texts_of(verb: Verb, line: str) -> dict[str, str]:
    """Return what a line says by the fields of a verb; what follows the verb in the first of them where it is not written so.

    Nothing of the line is lost: `line_of` what this returns is understood as the line was, or asked about as it would be.
    """
    asked = {field.key for field in fields_of(verb)}
    for text in (*_forms(verb), *verb.forms):
        found = Form(text).texts(line)
        if found is not None and found.keys() <= asked:
            return found
    first = next((field.key for field in fields_of(verb) if not field.choices), "")
    begun = re.match(r"(\S+?)[\s,:;]+(?=\S)", line.strip())
    rest = line.strip()[begun.end() :] if begun and begun[1].lower() in verb.first_words else line.strip()
    return {first: rest} if first and rest.lower() not in verb.first_words else {}
