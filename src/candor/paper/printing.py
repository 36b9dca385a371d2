"""What is printed of a job: what was signed last, where it still stands, or else a draft."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.release.certificates import read_certificate
from candor.notebook.release.leaving import LeavingItem
from candor.notebook.standards.standards import Standard
from candor.notebook.storage.fault import Fault
from candor.notebook.work.job import Job
from candor.notebook.work.states import standing_certificate
from candor.packs.model import Pack
from candor.paper.gather import Certificate, NothingStandsError, make_certificate
from candor.paper.record import CertificateRecord


@dataclass(frozen=True)
class Asked:
    """A job as it stands at a moment, and who asks; `folder` keeps what was signed, `leaving` what was looked at before,
    `head` the eight words of the job; `away` says why other benches' entries may be missing."""

    job: Job
    pack: Pack
    known: Mapping[str, Standard]
    shop: str
    who: str
    now: dt.datetime
    broken: tuple[int, ...]
    earlier: tuple[str, ...]
    leaving: tuple[LeavingItem, ...]
    folder: Path
    head: str = ""
    faults: tuple[Fault, ...] = ()
    away: str = ""

    def draft(self) -> Certificate:
        """Return the certificate as it would be now.

        Raises
        ------
        NothingStandsError
            Where nothing stands that it could state.
        """
        return make_certificate(
            job=self.job, pack=self.pack, known=self.known, shop=self.shop, who=self.who, now=self.now,
            broken=self.broken, earlier=self.earlier, leaving=self.leaving,
            head=self.head, faults=self.faults,
        )  # fmt: skip

    def signed(self) -> tuple[CertificateRecord, str] | None:
        """Return what was signed last and its digest, where nothing was written since that a certificate would state.

        Raises
        ------
        CandorError
            Where its file is gone or was changed.
        """
        entry = standing_certificate(self.job)
        if entry is None:
            return None
        digest = entry.body.digest
        return CertificateRecord.model_validate_json(read_certificate(self.folder, digest)), digest


@dataclass(frozen=True)
class Printed:
    """What is printed, with the digest of what was signed (a draft has none); or why nothing is, and what ails a file."""

    record: CertificateRecord | None
    digest: str = ""
    refused: str = ""
    fault: str = ""


def what_is_printed(asked: Asked) -> Printed:
    """Return what was signed, where it stands and its file can be read; else the draft; else why there is none."""
    fault = worded("paper.nothing_is_final_while_away", away=asked.away) if asked.away else ""
    try:
        signed = None if asked.away else asked.signed()
        if signed is not None:
            return Printed(*signed)
    except CandorError as error:
        fault = str(error)
    try:
        return Printed(asked.draft().record, fault=fault)
    except NothingStandsError as error:
        return Printed(None, refused=str(error), fault=fault)
