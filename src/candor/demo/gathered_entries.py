"""Entries gathered to be written together."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable

from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Draft, drafts_of
from candor.notebook.store import Notebook


class Writing:
    """Entries of many jobs and moments, gathered for one transaction."""

    def __init__(self, notebook: Notebook) -> None:
        self.notebook = notebook
        self._drafts: list[Draft] = []

    def add(self, job: str, body: Body, at: dt.datetime) -> Draft:
        """Gather one entry; its id is known from here on."""
        return self.add_all(job, [body], at)[0]

    def add_all(self, job: str, bodies: Iterable[Body], at: dt.datetime) -> list[Draft]:
        """Gather several entries of one moment."""
        added = drafts_of(job, bodies, at)
        self._drafts += added
        return added

    def write(self) -> None:
        """Write what was gathered so far."""
        self.notebook.append(self._drafts)
        self._drafts = []
