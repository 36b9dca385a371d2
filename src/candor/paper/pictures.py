"""The pictures of a certificate: what was seen at a point, two beside each other, each with what it is of."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Callable, Sequence
from pathlib import Path

from PIL import Image as Picture
from PIL import ImageOps, UnidentifiedImageError
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether, Spacer

from candor.core.errors import CancelledError
from candor.core.worded import worded
from candor.notebook.arrive.photos import LARGEST
from candor.notebook.storage.files import is_plain_name
from candor.paper.drawn_ribbon import INK, SOFT
from candor.paper.record import PictureLine
from candor.paper.sheet import Rows, laid, text

WIDE, HIGH = 84 * mm, 63 * mm
DOTS = 1000  # of the longer side: 300 to the inch
QUALITY = 85


def picture_block(
    pictures: Sequence[PictureLine], photos: Path | None, should_stop: Callable[[], bool]
) -> list[Flowable]:
    """Return pictures with their words; one whose file is gone, changed or no picture is said instead.

    Raises
    ------
    CancelledError
        When `should_stop` answers True between two pictures.
    """
    cells: list[list[Flowable]] = []
    for line in pictures:
        if should_stop():
            raise CancelledError(worded("paper.setting_the_certificate_was_stopped"))
        words = text(f"{line.text} (entry {line.entry})", 7.5, SOFT)
        cells.append([_drawn(line, photos), Spacer(0, 2), words])
    story: list[Flowable] = [text("What was seen", 11, INK, bold=True, spaceBefore=8, spaceAfter=2)]
    for start in range(0, len(cells), 2):
        pair = cells[start : start + 2]
        table = laid(Rows([[*pair, *([""] * (2 - len(pair)))]], colWidths=[WIDE + 3 * mm] * 2), 2, "TOP")
        story.append(KeepTogether(table))
    return story


def _drawn(line: PictureLine, photos: Path | None) -> Flowable:
    """One picture, turned as the camera held it, no larger than it is printed."""
    missing = text(worded("paper.the_picture_is_not_beside_the", file=line.file[:12]), 8.5, INK)
    if photos is None or not is_plain_name(line.file):
        return missing
    try:
        content = (photos / line.file).read_bytes()
        # What is signed names a picture by its digest: another under its name is not it.
        if hashlib.sha256(content).hexdigest()[:32] != line.file.partition(".")[0]:
            return missing
        with Picture.open(io.BytesIO(content)) as opened:
            opened.draft("RGB", (DOTS, DOTS))
            if opened.width * opened.height > LARGEST * 1e6:
                return missing  # it was kept before there was a limit
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (OSError, UnidentifiedImageError, Picture.DecompressionBombError, ValueError):
        return missing
    upright.thumbnail((DOTS, DOTS))
    small = io.BytesIO()
    upright.save(small, "JPEG", quality=QUALITY)
    scale = min(WIDE / upright.width, HIGH / upright.height)
    small.seek(0)
    return Image(small, upright.width * scale, upright.height * scale, hAlign="LEFT")
