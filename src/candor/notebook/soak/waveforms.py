"""Waveforms kept beside the notebook, under the digest of their content."""

from __future__ import annotations

import hashlib
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.worded import worded
from candor.durably import make_private, write_durably
from candor.notebook.entries.calibrate_entries import WaveformKept


class WaveformFileError(CandorError, OSError):
    """Samples that could not be kept."""


def keep_samples(folder: Path, content: bytes, name: str) -> str:
    """Keep a file of readings under its digest, and return the name it is kept under.

    Raises
    ------
    WaveformFileError
        Where it cannot be written.
    """
    kept = hashlib.sha256(content).hexdigest()[:32] + ".csv"
    try:
        make_private(folder)
        if not (folder / kept).exists():
            write_durably(folder / kept, content, is_kept=True)
    except OSError as error:
        raise WaveformFileError(
            worded("soak.could_not_be_kept_in_what", name=name, folder=folder, strerror=error.strerror),
            place=str(folder),
        ) from None
    return kept


def keep_waveform(
    folder: Path, content: bytes, *, name: str, reading: str, channel: str, figure: str
) -> WaveformKept:
    """Keep the samples that a reading was taken from, and return the entry that says so.

    Raises
    ------
    WaveformFileError
        Where they cannot be written; the reading stands without them.
    """
    kept = keep_samples(folder, content, name)
    return WaveformKept(reading=reading, file=kept, name=name, channel=channel, figure=figure)
