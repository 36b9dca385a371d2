"""A start: what makes the window be up sooner, before anything large is loaded."""

from __future__ import annotations

import gc
import os

from platformdirs import user_cache_path

from candor.core.grammar import keep_parsers
from candor.notebook.storage.files import make_private


def hurry() -> None:
    """Keep parsers between starts, and collect nothing until the window is up: what is loaded stays, and looking through it all
    again and again costs a tenth of the start. `relax` ends that."""
    gc.disable()
    folder = user_cache_path("candor")
    try:
        make_private(folder)
        about = folder.stat()
    except OSError:
        return  # no room, or not ours to write to: parsers are made anew each time
    if about.st_uid == os.getuid() and not about.st_mode & 0o022:  # what lies there is run: ours alone, or not at all
        keep_parsers(str(folder))


def relax() -> None:
    """Collect again from now on; what was loaded is not looked through any more."""
    gc.freeze()
    gc.enable()
