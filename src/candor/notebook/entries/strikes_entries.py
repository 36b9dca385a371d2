"""Striking entries out, and taking that back."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, said


class Struck(Body):
    """An entry struck out. It stays readable, and counts no more."""

    kind: Literal["strike"] = "strike"
    target: str


class Unstruck(Body):
    """A strike taken back."""

    kind: Literal["unstrike"] = "unstrike"
    target: str


WORDS = dict(
    (
        said(Struck, lambda b, n: f"entry {n.get(b.target, 0)} struck"),
        said(Unstruck, lambda b, n: worded("entries.entry_stands_again", n=n.get(b.target, 0))),
    )
)


def struck_ids(entries: Iterable[AnyEntry]) -> frozenset[str]:
    """Return the ids of entries that are struck: the last word on each counts."""
    struck: dict[str, bool] = {}
    for entry in entries:
        body = entry.body
        if isinstance(body, Struck | Unstruck):
            struck[body.target] = isinstance(body, Struck)
    return frozenset(target for target, is_struck in struck.items() if is_struck)
