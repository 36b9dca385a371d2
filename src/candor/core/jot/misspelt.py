"""A name that is nearly one that is known is a question: a slip of the finger must not make a new rail, node or tube."""

from __future__ import annotations

import difflib
from collections.abc import Collection

from candor.core.errors import ValueTextError

NEAR = 0.7  # of difflib's ratio: what one letter more, less or other leaves of a name of four letters


def ask_if_misspelt(name: str, known: Collection[str], what: str, closed: bool = False) -> None:
    """Ask where a name is none that is known, but nearly one; where the known ones are all there are (`closed`), always.

    Raises
    ------
    ValueTextError
        The question, with what may have been meant; the same line once more takes the name as a new one.
    """
    if not known or name in known:
        return
    near = difflib.get_close_matches(name, known, n=2, cutoff=NEAR)
    if not near and not closed:
        return
    listed = " or ".join(near) if near else ", ".join(sorted(known)[:6])
    ask = f"Did you mean {listed}?" if near else f"There are: {listed}."
    raise ValueTextError(
        f"“{name}” is not a known {what}. {ask} Enter once more takes it as a new one.", value=name, expected=listed
    )
