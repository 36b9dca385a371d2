"""What was found on links, and what an instrument says it is, in words."""

from __future__ import annotations

from collections.abc import Sequence

from candor.links.looking_for import Identified

LONGEST = 80  # characters of what an instrument calls itself


def say_found(names: Sequence[str]) -> str:
    """Say what was found by looking, and what looking does not find."""
    by_hand = "One behind a plain socket of the network is not found by looking: name its address."
    if not names:
        return f"Nothing was found. {by_hand}"
    count = "One port or instrument was" if len(names) == 1 else f"{len(names)} ports and instruments were"
    return f"{count} found; a port is named whether anything is on it or not. {by_hand}"


def say_identified(said: Identified) -> str:
    """Say what an instrument calls itself, and what it read."""
    name = said.identity[:LONGEST] + ("…" if len(said.identity) > LONGEST else "")
    who = f"It says it is “{name}”." if name else "It does not say what it is."
    if said.value is None:
        return f"{who} {said.fault}"
    return f"{who} It reads {said.value:.7g}: compare with its display before you rely on it."
