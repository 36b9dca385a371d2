"""What a failure at a server means: it is away (nothing is known of what was asked last), or it refuses."""

from __future__ import annotations

import psycopg
from psycopg import errors

from candor.core.worded import worded
from candor.notebook.notebook_errors import DiskFullError, NotebookError, ReadOnlyNotebookError


class ServerAwayError(NotebookError):
    """A server that does not answer, or no longer: nothing is known of what was asked last."""


class ServerRefusedError(NotebookError):
    """A server that answers, and refuses."""


def explained(error: psycopg.Error, name: str, never_met: bool) -> tuple[bool, NotebookError]:
    """Return whether the connection is gone, and what a failure means. What the server itself said is quoted."""
    said = (error.diag.message_primary or str(error)).strip().splitlines()[0].rpartition("failed: ")[2]
    kept = worded("storage.the_entry_was_not_written_what")
    match error:
        case errors.DiskFull():
            return False, DiskFullError(worded("server.its_disk_is_full", name=name, kept=kept), place=name)
        case errors.InsufficientPrivilege() if "signer" in said:
            return False, ServerRefusedError(worded("server.only_a_signer_signs", kept=kept), place=name)
        case errors.InsufficientPrivilege() | errors.ReadOnlySqlTransaction():
            return False, ReadOnlyNotebookError(worded("server.may_only_be_read", name=name, said=said), place=name)
        case errors.LockNotAvailable():
            return False, ServerAwayError(worded("server.others_write_for_long", name=name), place=name)
        case psycopg.OperationalError() if "no password supplied" in str(error):
            return True, ServerRefusedError(worded("server.asks_for_a_password", name=name), place=name)
        case psycopg.OperationalError() | psycopg.InterfaceError():
            if never_met and "FATAL" in str(error) and not _is_starting(error):
                said = str(error).strip().splitlines()[-1].rpartition("FATAL:")[2].strip()
                return True, ServerRefusedError(worded("server.refused", name=name, said=said), place=name)
            return True, ServerAwayError(worded("server.does_not_answer", name=name, said=said), place=name)
    return False, ServerRefusedError(worded("server.refused", name=name, said=said), place=name)


def _is_starting(error: psycopg.Error) -> bool:
    """Whether a server says that it is starting, stopping or full, in whatever language: then it is away for a while."""
    return error.sqlstate in ("57P03", "57P01", "53300") or any(
        word in str(error)
        for word in ("starting up", "shutting down", "too many", "recovery mode", "not yet accepting")
    )
