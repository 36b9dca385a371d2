"""The one scheme by which files that leave Candor are named: instrument, serial number, what it is, which."""

from __future__ import annotations

from candor.notebook.storage.files import plain_name

_LONGEST = 48  # characters of an instrument, so that what a file is stays in its name


def file_name(instrument: str, serial: str, what: str, ending: str, which: str = "") -> str:
    """Return the name of a file: ``Tarnholm_VM-6_40188_certificate_2025-SB4018-1.pdf``."""
    parts = (
        plain_name(f"{instrument} {serial}".strip())[:_LONGEST],
        plain_name(what),
        plain_name(which) if which else "",
    )
    return f"{'_'.join(filter(None, parts))}.{ending}"
