"""How much a sentence matters to who reads it; how that looks is for the interface."""

from __future__ import annotations

from enum import StrEnum


class Severity(StrEnum):
    """How much a sentence matters."""

    NOTE = "note"  # worth knowing
    DONE = "done"  # what was asked for was done, or something is over
    ASK = "ask"  # something is still wanted, or wants care
    REFUSED = "refused"  # what was asked for was not done, or must not be
