"""Signed certificates: kept once as JSON beside the notebook, named by the digest of their bytes, and printed from there."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.worded import worded
from candor.durably import make_private, write_durably


class CertificateFileError(CandorError, OSError):
    """A signed certificate that is not there, or is not what was signed."""


def digest_of(content: bytes) -> str:
    """Return the SHA-256 of the bytes, as the notebook keeps it."""
    return hashlib.sha256(content).hexdigest()


def keep_certificate(folder: Path, content: bytes) -> str:
    """Keep the bytes that are signed and return their digest.

    Raises
    ------
    CertificateFileError
        Where they cannot be written; then nothing may be signed.
    """
    digest = digest_of(content)
    try:
        make_private(folder)
        write_durably(folder / f"{digest}.json", content, is_kept=True)
    except OSError as error:
        raise CertificateFileError(
            worded("release.the_certificate_could_not_be_kept", folder=folder, strerror=error.strerror),
            place=str(folder),
        ) from None
    return digest


def read_certificate(folder: Path, digest: str) -> bytes:
    """Return the bytes that were signed.

    Raises
    ------
    CertificateFileError
        Where they are gone, or are no longer what was signed.
    """
    if not re.fullmatch(r"[0-9a-f]{64}", digest):
        raise CertificateFileError(worded("release.is_not_a_digest_of_a", digest=digest[:20]))
    path = folder / f"{digest}.json"
    try:
        content = path.read_bytes()
    except FileNotFoundError:
        raise CertificateFileError(
            worded("release.the_file_of_the_signed_certificate", digest=digest[:12], folder=folder),
            place=str(path),
        ) from None
    except OSError as error:
        raise CertificateFileError(
            worded(
                "release.the_signed_certificate_cannot_be_read",
                digest=digest[:12],
                strerror=error.strerror,
                path=path,
            ),
            place=str(path),
        ) from None
    if digest_of(content) != digest:
        raise CertificateFileError(worded("release.is_no_longer_what_was_signed", path=path), place=str(path))
    return content
