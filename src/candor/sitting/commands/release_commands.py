"""Commands of Release: what is checked before it goes, what is let go, the two signatures."""

from __future__ import annotations

from pathlib import Path

from candor.core.jot.release_meaning import LeavingJot
from candor.core.leaving.electrical import LocalRule
from candor.core.worded import worded
from candor.notebook.entries.release_entries import CertificateIssued, LeavingChecked, SecondSignature
from candor.notebook.release.certificates import keep_certificate
from candor.notebook.release.leaving import LeavingItem, leaving_body, overriding
from candor.paper.record import CertificateRecord
from candor.sitting.command import Command, command


def measure_leaving(jot: LeavingJot, rule: LocalRule) -> Command:
    """The earth bond or the touch current."""
    return command(worded("sitting.measured_before_it_goes"), leaving_body(jot, rule))


def check_leaving(item: str, outcome: str, text: str = "") -> Command:
    """One of the checks before it goes."""
    return command(
        f"check of {item}", LeavingChecked.model_validate({"item": item, "outcome": outcome, "text": text})
    )


def let_go(item: LeavingItem, reason: str) -> Command:
    """It goes although one line is open, for a reason that is printed."""
    return command(f"let go: {item.title.casefold()}", overriding(item, reason))


def sign(record: CertificateRecord, folder: Path) -> Command:
    """The certificate is signed as it stands: its JSON is kept, and its digest written.

    Raises
    ------
    CertificateFileError
        Where it could not be kept.
    """
    digest = keep_certificate(folder, record.to_bytes())
    return command(
        f"signed {record.number}",
        CertificateIssued(number=record.number, digest=digest, sentence=record.as_left.sentence),
    )


def sign_second(digest: str, name: str) -> Command:
    """Another pair of eyes went over it."""
    return command(worded("sitting.signed_second_by", name=name), SecondSignature(digest=digest, name=name))


COMMANDS = (measure_leaving, check_leaving, let_go, sign, sign_second)
