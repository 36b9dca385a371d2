"""The packs a job can be opened with: those that come with Candor and those taken into the notebook."""

from __future__ import annotations

import re

from candor.notebook.store import Notebook
from candor.packs.bundled import bundled_heads, bundled_pack
from candor.packs.model import Pack, PackHead


def packs_at_hand(notebook: Notebook) -> tuple[PackHead, ...]:
    """Return what there is to know of every pack: of each its newest edition, and of two alike what comes with Candor."""
    kept = (PackHead.of(pack) for pack in notebook.kept_packs())
    newest: dict[str, PackHead] = {}
    for head in (*kept, *bundled_heads()):
        known = newest.get(head.id)
        if known is None or edition_order(head.edition) >= edition_order(known.edition):
            newest[head.id] = head
    return tuple(newest.values())


def pack_at_hand(notebook: Notebook, digest: str) -> Pack | None:
    """Return one of them by its digest, None where it is not among them.

    Raises
    ------
    NotebookError
        Where a kept one cannot be read.
    """
    head = next((head for head in packs_at_hand(notebook) if head.digest == digest), None)
    if head is None:
        return None
    return bundled_pack(head.id) if head in bundled_heads() else notebook.pack(head.digest)


def edition_order(edition: str) -> int:
    """Return by what editions of one pack are put in order: the number at the end, 0 where there is none."""
    found = re.search(r"(\d+)$", edition)
    return int(found[1]) if found else 0
