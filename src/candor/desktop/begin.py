"""A start: what makes the window be up sooner, before anything large is loaded."""

from __future__ import annotations

import gc


def hurry() -> None:
    """Collect nothing until the window is up.

    What is loaded stays, and looking through it all again and again costs a tenth of the start. `relax` ends that.
    """
    gc.disable()


def relax() -> None:
    """Collect again from now on; what was loaded is not looked through any more."""
    gc.freeze()
    gc.enable()
