"""An error nobody thought of: it is said, kept with its trace in a log beside the notebook, and nothing is lost."""

from __future__ import annotations

import contextlib
import logging
import logging.handlers
import sys
import threading
from io import TextIOWrapper
from pathlib import Path
from types import TracebackType
from typing import cast

from PySide6.QtCore import QObject, Signal

from candor.core.errors import CandorError
from candor.durably import private
from candor.notebook.store import Notebook


def log_path(notebook: Path) -> Path:
    """Return where a notebook's log lies."""
    return notebook.with_name(f"{notebook.stem} log.txt")


class Unforeseen(QObject):
    """Catches, from the day it is put in place until it is taken away, what nothing else caught, in every thread.

    Signals
    -------
    happened(str)
        A sentence for the restorer.
    """

    happened = Signal(str)

    def __init__(self, notebook: Notebook) -> None:
        super().__init__()
        self._path = log_path(notebook.path)
        self._log = logging.getLogger(f"candor.unforeseen.{id(self)}")
        self._log.propagate = False
        self._before = sys.excepthook, threading.excepthook
        self._handler: logging.Handler | None = None

    def put_in_place(self) -> None:
        """Catch from here on."""
        sys.excepthook = self._caught
        threading.excepthook = lambda args: self._caught(
            args.exc_type, args.exc_value or args.exc_type(), args.exc_traceback
        )

    def take_away(self) -> None:
        """Let what was there before catch again."""
        sys.excepthook, threading.excepthook = self._before
        if self._handler is not None:
            self._log.removeHandler(self._handler)
            self._handler.close()

    def _caught(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt | SystemExit):
            self._before[0](kind, error, trace)
            return
        if isinstance(error, CandorError):
            self.happened.emit(str(error))  # said on purpose, only not where it was expected
        kept = self._keep(kind, error, trace)
        if not isinstance(error, CandorError):
            self.happened.emit(
                f"Something went wrong that was not foreseen ({kind.__name__}: {str(error)[:200]}). What was written is "
                f"kept, and what you typed is still where you typed it; {kept}."
            )

    def note(self, sentence: str) -> None:
        """Keep a sentence in the log; nothing where that cannot be written."""
        with contextlib.suppress(OSError):
            self._open()
            self._log.warning(sentence)

    def _open(self) -> None:
        if self._handler is None:
            self._handler = _OwnersLog(
                self._path, maxBytes=1_000_000, backupCount=1, encoding="utf-8", errors="backslashreplace", delay=True
            )  # fmt: skip
            self._handler.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
            self._handler.handleError = _loud  # type: ignore[method-assign, assignment]
            self._log.addHandler(self._handler)

    def _keep(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> str:
        try:
            self._open()
            self._log.error("not foreseen", exc_info=(kind, error, trace))
        except OSError:
            sys.__excepthook__(kind, error, trace)
            return "how it came could not be kept"
        return f"how it came is in “{self._path.name}” beside the notebook"


class _OwnersLog(logging.handlers.RotatingFileHandler):
    """A log that nobody reads who may not write beside it."""

    def _open(self) -> TextIOWrapper:
        file = open(self.baseFilename, self.mode, encoding=self.encoding, errors=self.errors, opener=private)  # noqa: SIM115
        return cast(TextIOWrapper, file)


def _loud(_: logging.LogRecord) -> None:
    raise
