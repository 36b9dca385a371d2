"""Something in or beside a notebook that is not as it was written: a value; words are `candor.words.faults`."""

from __future__ import annotations

from typing import Literal

from candor.core.late_dataclass import dataclass

FaultKind = Literal[
    "empty", "not as written", "unreadable", "gone", "foreign", "missing", "changed", "misnamed", "not named", "pack changed",
    "pack missing",
]  # fmt: skip


@dataclass(frozen=True)
class Fault:
    """Something that is not as it was written.

    Attributes
    ----------
    kind : str
    job : str
        Empty of the shop, and where it is of no job.
    numbers : tuple of int
        The entries; of those that are gone first and last of a run.
    what, name : str
        Of files the folder and their name, of packs "pack" and its id or digest, of what is foreign its type and name.
    why : str
        What the system, or the reader of entries, says of it.
    """

    kind: FaultKind
    job: str = ""
    numbers: tuple[int, ...] = ()
    what: str = ""
    name: str = ""
    why: str = ""

    @property
    def file(self) -> str:
        """Of a kept file, folder and name; empty of anything else."""
        return f"{self.what}/{self.name}" if self.kind in ("missing", "changed", "misnamed") else ""
