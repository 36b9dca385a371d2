"""What stands in the fields of a part, as the jot that says the same."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Mapping

from candor.core.errors import CandorError
from candor.core.quantities import parse_quantity

# In the order in which a jot says them.
_SAID = {"value": "{}", "esr": "{}", "leak": "{}", "at": "@{}V", "after": "{}", "warm": "{} warm"}
_LOSSES = ("d ", "esr ", "pf ")


def said_of(text: Mapping[str, str], in_circuit: bool, state: str) -> str:
    """Return what fields say of a part as a jot without its designator: ``8.8u esr 11 ohm leak 310u @400V 5 min``.

    Parameters
    ----------
    text : mapping of str to str
        By field: value, warm, esr (or D, or PF in per cent), leak (or an insulation resistance), at (V), after; empty ones
        say nothing.
    in_circuit : bool
    state : str
        "open", "short", "intermittent" or nothing.
    """
    words = [pattern.format(_made(key, text[key])) for key, pattern in _SAID.items() if text.get(key)]
    words += ["in circuit"] if in_circuit else []
    return " ".join([*words, state] if state else words)


def volts_typed(text: str) -> float:
    """Return the voltage in a field, V; 0 while it is none."""
    with contextlib.suppress(CandorError):
        return parse_quantity(text, "V").value
    return 0.0


def _made(key: str, words: str) -> str:
    if key == "esr" and not words.lower().startswith(_LOSSES):
        return f"pf {words}" if "%" in words else f"esr {words}"
    if key == "leak":
        # "560M" is an insulation resistance, "560m" a current: only the unit written out may be of either case.
        ohms = re.search(r"(?i:ohms?)$|(Ω|[MG])$", words)
        return f"ir {words}" if ohms else f"leak {words}"
    return words.rstrip("Vv ") if key == "at" else words
