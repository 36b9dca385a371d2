"""A name that is nearly one that is known is a question: a slip of the finger must not make a new rail, node or tube."""

from __future__ import annotations

import difflib
from collections.abc import Collection

from candor.core.errors import ValueTextError
from candor.core.worded import worded

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
    ask = worded("jot.did_you_mean", listed=listed) if near else worded("jot.there_are", listed=listed)
    raise ValueTextError(
        worded("jot.is_not_a_known_enter_once", name=name, what=what, ask=ask), value=name, expected=listed
    )
