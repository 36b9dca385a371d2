"""Release: the certificates that were signed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.standing import Standing


class CertificateIssued(Body):
    """A certificate was signed off; `digest` is of the bytes of its JSON, kept beside the notebook under that name."""

    kind: Literal["certificate"] = "certificate"
    number: str
    digest: str
    sentence: str


WORDS = dict((said(CertificateIssued, lambda b, _: f"certificate {b.number} signed off: {b.sentence}"),))


@dataclass(frozen=True)
class ReleaseRecord:
    """The certificates that were signed, the oldest first."""

    certificates: tuple[Entry[CertificateIssued], ...] = ()


def release_record(standing: Standing) -> ReleaseRecord:
    """Return the certificates that were signed."""
    return ReleaseRecord(standing.of(CertificateIssued))
