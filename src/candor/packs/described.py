"""A description that is being made: what its text says so far, how its steps will read, and what its next edition is called."""

from __future__ import annotations

import re
from collections.abc import Collection
from typing import Final

from candor.core.late_dataclass import dataclass
from candor.packs.borrowing import Lender
from candor.packs.draft_text import DraftText, Path
from candor.packs.load import Fault, PackError, lends_nothing, parse_pack
from candor.packs.missing import what_is_missing
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

AS_IT_STANDS: Final = "draft"


@dataclass(frozen=True)
class Judged:
    """What a text describes.

    Attributes
    ----------
    text : str
    pack : Pack or None
        None while the text has faults.
    faults : tuple of Fault
        What bars its use, by line; never what bars going on with it.
    missing : tuple of str
        What a pack of its kind usually says, and this one does not.
    """

    text: str
    pack: Pack | None
    faults: tuple[Fault, ...] = ()
    missing: tuple[str, ...] = ()


def judge(text: str, lend: Lender = lends_nothing) -> Judged:
    """Say what a text describes. Never raises for its faults: a half-made description is no error."""
    try:
        pack = parse_pack(text, AS_IT_STANDS, lend)
    except PackError as error:
        return Judged(text, None, error.faults)
    return Judged(text, pack, (), what_is_missing(pack))


def steps_as_read(pack: Pack, text: DraftText, path: Path) -> tuple[ProcedureStep, ...]:
    """Return the steps that a thing of the text becomes, with their placeholders filled, in the order in which they are done.

    Of a step those it unfolds to, of a section all of it, of a range or a function what is read on it; of anything else nothing.
    """
    names = tuple(p for p in path if isinstance(p, str))
    steps = procedure(pack)
    if names[:1] == ("procedure",):
        section = text.words((*path[:2], "key"))
        steps = tuple(s for s in steps if s.section_key == section)
        if len(path) > 3:
            key = text.words((*path[:4], "key"))
            steps = tuple(s for s in steps if s.key == key or s.key.startswith(f"{key}:"))
        return steps
    if names[:1] == ("functions",) and len(path) > 1:
        on = [text.words((*path[:2], "key")), *([text.words((*path[:4], "key"))] if len(path) > 3 else [])]
        begins = "".join(f"{key}/" for key in on)
        return tuple(s for s in steps if s.point is not None and s.kind == "point" and s.point.key.startswith(begins))
    return ()


def next_edition(edition: str, taken: Collection[str]) -> str:
    """Return the edition that follows: the number at its end one up, until none has it; a ``2`` behind words without one.

    >>> next_edition("1", ["1", "2"]), next_edition("spring", ["spring"])
    ('3', 'spring 2')
    """
    found = re.fullmatch(r"(.*?)(\d+)", edition)
    head, number = (found[1], int(found[2])) if found else (f"{edition} ", 2)
    while (name := f"{head}{number}") in taken or name == edition:
        number += 1
    return name
