"""Signed certificates: kept once as JSON beside the notebook, named by the digest of their bytes, and printed from there."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from candor.core.errors import CandorError
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
            f"The certificate could not be kept in {folder} ({error.strerror}); it was not signed.", place=str(folder)
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
        raise CertificateFileError(
            f"“{digest[:20]}” is not a digest of a certificate. Expected: 64 hexadecimal figures."
        )
    path = folder / f"{digest}.json"
    try:
        content = path.read_bytes()
    except FileNotFoundError:
        raise CertificateFileError(
            f"The file of the signed certificate {digest[:12]} is not in {folder}: it was moved, or signed before certificates "
            "were kept as files. What is shown is made anew from the entries.",
            place=str(path),
        ) from None
    except OSError as error:
        raise CertificateFileError(
            f"The signed certificate {digest[:12]} cannot be read ({error.strerror}); it was kept as {path}.",
            place=str(path),
        ) from None
    if digest_of(content) != digest:
        raise CertificateFileError(
            f"{path} is no longer what was signed: its digest is another. It is not printed.", place=str(path)
        )
    return content
