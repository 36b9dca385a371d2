"""Sources that a crash or a pulled plug has left on: a reopened notebook says so."""

from __future__ import annotations

from collections.abc import Iterator

from candor.core.quantities import engineering
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry, says
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.runs.run_files import is_held
from candor.notebook.storage.files import is_plain_name, plain_name
from candor.notebook.store import Notebook

KINDS = ("source_applied", "source_released")


def source_file_name(link: str) -> str:
    """Return the name of the file that a window holds while it drives the source on a link."""
    return f"source-{plain_name(link)}.lock"


def left_on(notebook: Notebook) -> Iterator[tuple[Entry[SourceApplied], str]]:
    """Yield each source, of any job, that may be on and that no window drives, with what must be known of it."""
    on: dict[str, list[Entry[SourceApplied]]] = {}
    for entry in notebook.entries_of_kinds(KINDS):
        if says(entry, SourceApplied):
            on.setdefault(entry.body.link, []).append(entry)
        elif says(entry, SourceReleased):
            on.pop(entry.body.link, None)
    for since in on.values():
        last = since[-1].body
        path = notebook.run_folder / last.file if is_plain_name(last.file) else None
        if last.simulated or (path is not None and is_held(path)):
            continue
        is_ours = not notebook.is_shared or (path is not None and path.exists())
        held = notebook.held_elsewhere
        if not is_ours and (held is None or last.file in held):  # another bench's: known once the benches are
            continue
        # It was on its way between two settings, perhaps: the greatest since it was last at zero counts.
        yield since[-1], may_be_on(last.link, max((e.body.value for e in since), key=abs), last.unit)


def may_be_on(link: str, value: float, unit: str) -> str:
    """Say that a source may still be on, and what to do."""
    return worded("power.the_source_at_may_still_be", link=link, value=engineering(abs(value), unit, 4))
