"""Photos stay files: kept beside the notebook under the digest of their content."""

from __future__ import annotations

import hashlib
import io
import math
import warnings
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.worded import worded
from candor.durably import make_private, write_durably

_SIGNATURES = {
    b"\xff\xd8\xff": ".jpg",
    b"\x89PNG\r\n\x1a\n": ".png",
    b"GIF87a": ".gif",
    b"GIF89a": ".gif",
    b"BM": ".bmp",
}


LARGEST, LARGEST_JPEG = 80, 170  # megapixels: decoded whole 320 MB, and what is made smaller while it is decoded


class PhotoError(CandorError, ValueError):
    """A file that is not a picture Candor can show."""


def kind_of_picture(content: bytes) -> str:
    """Return the file ending that fits the content, or an empty string where it is not a known picture."""
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        return ".webp"
    return next((ending for mark, ending in _SIGNATURES.items() if content.startswith(mark)), "")


def keep_photo(folder: Path, source: Path) -> str:
    """Copy a picture into the notebook's photo folder and return the name it is kept under.

    Raises
    ------
    PhotoError
        Where the file cannot be read or is not a picture; nothing was kept then.
    """
    try:
        content = source.read_bytes()
    except OSError as error:
        raise PhotoError(
            worded("arrive.cannot_be_read_the_finding_is", name=source.name, strerror=error.strerror)
        ) from None
    return keep_picture(folder, content, source.name)


def _refuse_too_large(content: bytes, ending: str, name: str) -> None:
    """Refuse a picture that could not be shown without taking the machine's memory; a JPEG is made smaller while it is decoded."""
    from PIL import Image, UnidentifiedImageError  # slow to load; pictures are few

    most = LARGEST_JPEG if ending == ".jpg" else LARGEST
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(content)) as opened:
                megapixels = opened.width * opened.height / 1e6
    except Image.DecompressionBombError:
        megapixels = math.inf
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError):
        return  # it is kept as it is, and shown as what cannot be shown
    if megapixels > most:
        size = f"{megapixels:.0f}" if math.isfinite(megapixels) else "over 179"
        raise PhotoError(
            worded("arrive.has_megapixels_up_to_can_be", name=name, size=size, most=most, largest_jpeg=LARGEST_JPEG),
            value=name,
        )


def keep_picture(folder: Path, content: bytes, name: str) -> str:
    """Keep a picture by its content; `name` stands in the sentence where it is none."""
    ending = kind_of_picture(content)
    if not ending:
        raise PhotoError(
            worded("arrive.is_not_a_picture_candor_knows", name=name),
            value=name,
        )
    _refuse_too_large(content, ending, name)
    kept = hashlib.sha256(content).hexdigest()[:32] + ending
    target = folder / kept
    try:
        make_private(folder)
        if not target.exists():
            write_durably(target, content, is_kept=True)
    except OSError as error:
        raise PhotoError(
            worded("arrive.could_not_be_kept_in_the", name=name, folder=folder, strerror=error.strerror), value=name
        ) from None
    return kept
