"""The lines of the bench as a page: every row of the table of verbs, with what becomes of it and its examples."""

from __future__ import annotations

from candor.core.jot.rows import VERBS
from candor.core.jot.rows.stay_rows import STAY
from candor.core.jot.verb import Verb

STOPS = tuple(dict.fromkeys(verb.stop for verb in VERBS if verb not in STAY))  # in the order of the route
HEAD = """# Lines that Candor understands

Type a line below the page and press Enter. Candor shows how it understands a line while you type. A line that fits nothing
is a note; where it looks as if something else was meant, Candor asks first. `?` shows what you can type at the stop you are at.

A reading of the point in hand needs no verb: `72.6`, `-1/4t` (a quarter of a tick below the mark), `72.6 ref 75.004 up`. A bare
number is in the unit that the range is marked in. Where a value is asked it can be calculated: `33 mV over 1k5` is a current,
`14 Vpp sine` a voltage (r.m.s.), `5 ns by 3 ns` a rise time without that of what you saw it with, `1k + 220` a sum.
A reference is what one standard shows; where two make it, join them at Standards (`V / R in A`), and U is that of both.

This page is made from the table that the program reads (`candor lines --markdown`).
"""


def told() -> list[dict[str, object]]:
    """Return every row: its name, stop, what becomes of it, and its examples."""
    return [{"name": v.name, "stop": v.stop, "does": v.does, "examples": list(v.examples)} for v in VERBS]


def page() -> str:
    """Return the page, as markdown."""
    parts = [HEAD]
    for stop in STOPS:
        rows = [verb for verb in VERBS if verb.stop == stop]
        if rows:
            table = "\n".join(map(_row, rows))
            parts.append(f"## {stop.capitalize()}\n\n| what it says | type |\n|---|---|\n{table}\n")
    return "\n".join(parts)


def _row(verb: Verb) -> str:
    examples = "<br>".join(f"`{example}`" for example in verb.examples)
    return f"| {verb.does} | {examples} |".replace("||", "|")
