"""What to send to who helps when something went wrong: versions, sizes and the newest of the log, nothing of the work itself."""

from __future__ import annotations

import platform
from importlib import metadata
from pathlib import Path

from candor.core.worded import worded
from candor.notebook.store import Notebook
from candor.version import __version__

LINES = 400  # of the log, the newest
SHOWN = ("PySide6-Essentials", "numpy", "scipy", "pydantic", "SQLAlchemy", "reportlab")


def trouble_report(notebook: Notebook, log: Path) -> str:
    """Return the report as text: what runs here, how large the notebook is, and the log. No entry, name or reading is in it.

    The log itself holds how each error came: names of modules, and at times a value that could not be read.
    """
    jobs, size = len(notebook.store.of_kinds(("job_opened",))), notebook.path.stat().st_size
    lines = [
        f"Candor {__version__}",
        f"{platform.system()} {platform.release()}, {platform.machine()}, Python {platform.python_version()}",
        ", ".join(f"{name} {version}" for name in SHOWN if (version := _version(name))),
        worded(
            "storage.notebook_jobs_mb",
            jobs=jobs,
            size=size / 1000000.0,
            how=", only read" if notebook.read_only else "",
        ),
        "",
        "Log:",
        *(newest_of(log) or (worded("storage.nothing_went_wrong_that_was_not"),)),
    ]
    return "\n".join(lines) + "\n"


def newest_of(log: Path) -> tuple[str, ...]:
    """Return the newest lines of a log; nothing where there is none, or it cannot be read."""
    try:
        return tuple(log.read_text(encoding="utf-8", errors="replace").splitlines()[-LINES:])
    except OSError:
        return ()


def _version(name: str) -> str:
    try:
        return metadata.version(name)
    except metadata.PackageNotFoundError:
        return ""
