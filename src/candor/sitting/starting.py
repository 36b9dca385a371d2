"""A job is started: with a pack or with nothing but a name."""

from __future__ import annotations

import uuid
from collections.abc import Mapping

from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.power_entries import SupplySaid
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.standards.standards import Standard
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from candor.notebook.work.set_up_of import Like as Like
from candor.notebook.work.set_up_of import set_up_of
from candor.packs.kinds_of_instrument import kinds_at_hand
from candor.packs.model import Pack

Opening = JobOpened


def start(
    notebook: Notebook, opening: Opening, pack: Pack | None, known: Mapping[str, Standard], like: Like | None = None
) -> str:
    """Write that a job is opened, and return its id; where the shop has one standard, it is chosen.

    `like` names a job that it is set up as; what is chosen there comes before the shop's one standard.

    Raises
    ------
    NotebookError
        Where it could not be written; nothing was.
    """
    job = uuid.uuid4().hex[:12]
    digest = notebook.keep_pack(pack) if pack is not None else opening.pack_digest
    bodies: list[Body] = [opening.model_copy(update={"pack_digest": digest})]
    kinds = kinds_at_hand(notebook.kinds_folder)
    kind = (
        kinds.get(opening.instrument_kind)
        if opening.instrument_kind
        else kinds.named(pack.kind if pack is not None else "")
    )
    if kind is not None and kind.no_mains:
        bodies.append(SupplySaid(no_mains=True))
    current = [s for s in known.values() if s.current and not s.withdrawn]
    if like is not None:
        given = set_up_of(fold(like.job, notebook.entries_of(like.job)), same_unit=like.same_unit)
        there = {s.entry.id for s in current}
        bodies += [b for b in given if not isinstance(b, StandardChosen) or b.standard in there]
    if len(current) == 1 and not any(isinstance(b, StandardChosen) for b in bodies):
        bodies.append(StandardChosen(standard=current[0].entry.id))
    notebook.append(drafts_of(job, bodies))
    return job
