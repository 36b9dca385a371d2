"""What can be wrong with a notebook file, each with its sentence."""

from __future__ import annotations

from candor.core.errors import CandorError


class NotebookError(CandorError, OSError):
    """A notebook that cannot be opened or written."""


class ForeignFileError(NotebookError):
    """A file that is no notebook; it is left as it is."""


class DamagedNotebookError(NotebookError):
    """A notebook whose pages do not hold together; it is left as it is."""


class NewerNotebookError(NotebookError):
    """A notebook that a newer Candor wrote; it is left as it is."""


class BusyNotebookError(NotebookError):
    """A notebook that another program holds just now."""


class ReadOnlyNotebookError(NotebookError):
    """An entry that cannot be kept because the notebook may only be read."""


class UnreadableEntryError(NotebookError):
    """An entry whose body this version cannot read: nothing is written in its job."""


class UnsoundJobError(NotebookError):
    """A job that stands on a pack or a file that is no longer what was kept: nothing is written in it."""


class DiskFullError(NotebookError):
    """An entry that cannot be kept because the disk is full."""
