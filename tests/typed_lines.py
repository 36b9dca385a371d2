"""Lines as people type them: the examples of every row, changed as fingers and habits change them."""

from __future__ import annotations

import random
import re
from dataclasses import dataclass, fields

from candor.core.errors import CandorError
from candor.core.jot import JotContext, NoteJot, understand
from candor.core.jot.line import DoubtfulLineError
from candor.core.jot.rows import VERBS
from candor.core.parts.part import Part
from candor.packs.bundled import bundled_pack
from candor.packs.procedure import point_by_name

PARTS = {
    "R24": Part("R24", "resistor", 330e3), "R3": Part("R3", "resistor", 330e3), "C7": Part("C7", "capacitor", 1e-7),
    "C4": Part("C4", "capacitor", 10e-6, volts=450.0),
}  # fmt: skip
OLD = {
    "uF": "mfd",
    "V": "volts",
    "ohm": "ohms",
    "Hz": "cycles",
    "min": "minutes",
    "kHz": "kc",
    "µ": "u",
    "Mohm": "meg",
}
MORE = ("about", "maybe", "again", "12", "3 V", "old", "10%", "left", "the")


@dataclass(frozen=True)
class Typed:
    """A line: how it was changed, from which example, and whether it must still mean the same."""

    line: str
    how: str
    example: str
    verb: str
    same: bool


def context_of(verb: str) -> JotContext:
    """What is in hand where the lines of a verb are typed."""
    point = point_by_name(bundled_pack("tarnholm-vm6"), "dc+/150/75") if verb == "points" else None
    return JotContext(point=point, parts=PARTS)


def changed(example: str, verb: str, rng: random.Random) -> Typed:
    """Change an example in one of the ways of people."""
    how = rng.choice(
        ("case", "spaces", "marks", "old units", "glued", "decimal comma", "word missing", "word more", "order")
    )
    words = example.split()
    line, same = example, how in ("case", "spaces", "marks")
    if how == "case":
        line = " ".join(w.capitalize() if i == 0 else w for i, w in enumerate(words))
    elif how == "spaces":
        line = "  " + "   ".join(words) + " "
    elif how == "marks":
        line = re.sub(r"(\d)u\b", r"\1µ", example.replace(" -", " −"))
    elif how == "old units":
        line = " ".join(OLD.get(w, w) for w in words)
    elif how == "glued":
        line = re.sub(r"(\d) ([A-Za-zµ%]+)", r"\1\2", example)
    elif how == "decimal comma":
        line = re.sub(r"(\d)\.(\d)", r"\1,\2", example)
    elif how == "word missing" and len(words) > 2:
        del words[rng.randrange(1, len(words))]
        line = " ".join(words)
    elif how == "word more":
        words.insert(rng.randrange(1, len(words) + 1), rng.choice(MORE))
        line = " ".join(words)
    elif how == "order" and len(words) > 3:
        i = rng.randrange(1, len(words) - 1)
        words[i], words[i + 1] = words[i + 1], words[i]
        line = " ".join(words)
    return Typed(line, how, example, verb, same)


def lines(count: int, seed: int) -> list[Typed]:
    """Return so many lines of every row of the table."""
    rng = random.Random(seed)
    return [changed(rng.choice(verb.examples), verb.name, rng) for verb in VERBS for _ in range(count)]


def outcome(typed: Typed) -> str:
    """What becomes of a line: understood, asked, noted; or WRONG, where it means something that was not typed."""
    context = context_of(typed.verb)
    try:
        jot = understand(typed.line, context)
    except DoubtfulLineError:
        return "asked"
    except CandorError:
        return "asked" if not typed.same else "WRONG"
    if isinstance(jot, NoteJot):
        return "WRONG" if typed.same and typed.verb != "note" else "asked" if jot.ask else "noted"
    meant = understand(typed.example, context) if typed.verb != "pin" else jot
    if type(jot) is not type(meant):
        return "WRONG"
    if typed.same and _numbers(jot) != _numbers(meant):
        return "WRONG"
    # What was left out may be missing, a figure that was added may stand in a place of its own: no figure is changed into another.
    if typed.how in ("old units", "glued", "decimal comma", "order") and not _close(_numbers(jot), _numbers(meant)):
        return "WRONG"
    return "understood"


def _numbers(jot: object) -> tuple[float, ...]:
    return tuple(
        value for f in fields(jot) if isinstance(value := getattr(jot, f.name), int | float) and not isinstance(value, bool)
    )  # fmt: skip


def _close(one: tuple[float, ...], other: tuple[float, ...]) -> bool:
    return len(one) == len(other) and all(
        abs(a - b) <= 1e-9 * max(abs(a), abs(b)) or a == b for a, b in zip(one, other, strict=True)
    )
