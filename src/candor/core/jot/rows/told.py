"""What is told in other words than a line has, as the lines that may be meant: they are offered, none is taken."""

from __future__ import annotations

from candor.core.jot.rows.soak_told import soak_lines
from candor.core.jot.rows.stay_told import stay_lines
from candor.core.jot.rows.trace_told import node_lines


def told_lines(text: str, stop: str) -> tuple[str, ...]:
    """Return the lines that one may be meant as, the likeliest first; a bare value is of the stop that is shown."""
    return (*soak_lines(text, stop), *node_lines(text), *stay_lines(text))
