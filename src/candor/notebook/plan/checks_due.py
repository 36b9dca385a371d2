"""Checks of one standard against another that fall due: once a shop has begun to make them, each goes on."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from candor.notebook.entries.entry import Entry, says
from candor.notebook.entries.standards_entries import StandardCompared
from candor.notebook.entries.strikes_entries import struck_ids
from candor.notebook.plan.deeds_of_job import Ahead
from candor.notebook.standards.standards import CHECK_KINDS, Standard
from candor.notebook.store import Notebook

EVERY = dt.timedelta(days=30)  # common practice, no source
SOON = dt.timedelta(days=7)  # before it is due it is planned


def checks_due(notebook: Notebook, known: Mapping[str, Standard], now: dt.datetime) -> Mapping[str, Ahead]:
    """Return, by the key of a standard, its check that is due within SOON: against the one it was checked against last."""
    entries = notebook.entries_of_kinds(CHECK_KINDS)
    struck = struck_ids(entries)
    last: dict[str, Entry[StandardCompared]] = {}
    for entry in entries:
        if says(entry, StandardCompared) and entry.id not in struck:
            last[entry.body.standard] = entry
    names = {s.body.key: s.name for s in known.values() if s.current and not s.withdrawn}
    return {
        key: Ahead("check", "compare", of=names[entry.body.against], needs=(names[key], names[entry.body.against]))
        for key, entry in last.items()
        if key in names and entry.body.against in names and entry.at + EVERY - SOON <= now
    }
