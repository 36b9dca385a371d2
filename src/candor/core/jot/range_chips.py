"""What a line about a range was understood as, in a few words each."""

from __future__ import annotations

from candor.core.instrument.words import how_words
from candor.core.jot.meaning import RangeJot
from candor.core.quantities import engineering
from candor.core.worded import worded


def range_chips(jot: RangeJot) -> tuple[str, ...]:
    """Return function, how it is read, divisions, current, mirror and limit in words."""
    chips = [
        " ".join(filter(None, (jot.function, jot.name if jot.name.casefold() != jot.function.casefold() else ""))),
        *how_words(jot.how, jot.full_scale, jot.divisions, jot.unit),
    ]
    at = f" at {engineering(jot.hertz, 'Hz')}" if jot.hertz else ""
    chips += [f"{jot.current}{at}"] if jot.current == "a.c." else []
    chips += ["mirror"] if jot.mirror else []
    if jot.how.kind == "look":
        return tuple(chips)
    chips += [jot.stands.words(jot.unit)] if jot.stands.value else []
    words = jot.limit.words(jot.unit)
    chips.append(
        worded("jot.limit_the_s", words=words, by=jot.limit.by) if words else "no limit: it cannot be judged"
    )
    return tuple(chips)
