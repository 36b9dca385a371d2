"""Watching a notebook's server beside the window: what others write comes here, what waits goes there, who is there is known."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from threading import Event, Lock, Thread

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.runs.run_files import is_held
from candor.notebook.server.mirror_store import MirrorStore
from candor.notebook.server.server_errors import ServerAwayError
from candor.notebook.server.server_link import BenchRow
from candor.notebook.store import Notebook

HEARS_S = 0.4  # so long at most until what is in hand here is told, who is there looked at, and a window that closes is let go
AGAIN_S = 2.0  # between two tries to reach a server that is away
SKEW_S = 30.0  # clocks that differ by more are said
FRESH_S = 3 * 86400.0  # no run's file is held longer without being written to


@dataclass(frozen=True)
class Watched:
    """How it stands with the server.

    Attributes
    ----------
    up : bool
        Whether it answers.
    why : str
        Why it does not, or what it `refuses`; empty where all is well.
    benches : tuple of BenchRow
        Who else is there.
    ahead_s : float
        By how many seconds its clock is ahead of this computer's.
    """

    up: bool = False
    why: str = ""
    refuses: bool = False
    benches: tuple[BenchRow, ...] = ()
    ahead_s: float = 0.0

    @property
    def skew(self) -> str:
        """What is said of clocks that differ; empty where they agree."""
        if abs(self.ahead_s) < SKEW_S:
            return ""
        return worded(
            "server.clocks_differ", seconds=f"{abs(self.ahead_s):.0f}", slow="behind" if self.ahead_s > 0 else "ahead"
        )

    @property
    def held(self) -> frozenset[str]:
        """The files of runs and sources that other benches hold."""
        return frozenset(name for bench in self.benches for name in bench.held)


class ServerWatch:
    """A thread with a store of its own on the copy of a notebook.

    Parameters
    ----------
    path : Path
        The copy.
    told : callable
        Is called, in the thread, when anything changed: entries came, went there, the server went away or came back.
    """

    def __init__(self, path: Path, told: Callable[[], None]) -> None:
        self._path, self._told = path, told
        self._stop, self._lock = Event(), Lock()
        self._in_hand = ("", "")
        self.state = Watched()
        self._thread = Thread(target=self._watch, name="candor-server", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def be_at(self, job: str, stop: str) -> None:
        """From here on this job and stop are in hand."""
        with self._lock:
            self._in_hand = job, stop

    def finish(self) -> None:
        """End within a second or so."""
        self._stop.set()
        if self._thread.is_alive():
            self._thread.join(10)

    def _watch(self) -> None:
        notebook = Notebook(self._path, "")
        store = notebook.store
        try:
            while not self._stop.is_set() and isinstance(store, MirrorStore):
                try:
                    self._listen(notebook, store)
                except (NotebookError, OSError) as error:
                    store.reachable = not isinstance(error, ServerAwayError)
                    self._say(Watched(why=str(error), refuses=store.reachable))
                    store.link.close()
                    self._stop.wait(AGAIN_S)
        finally:
            notebook.close()

    def _listen(self, notebook: Notebook, store: MirrorStore) -> None:
        shop = store.meet()
        store.link.listen()
        told_at, told = 0.0, None
        while not self._stop.is_set():
            came, brought = store.pull(), store.join()
            store.reachable = True
            in_hand = (*self._now_in_hand(), self._held(notebook))
            if in_hand != told or time.monotonic() - told_at > 30:
                store.link.be_at(*in_hand)
                told, told_at = in_hand, time.monotonic()
            self._say(Watched(up=True, benches=store.link.benches(), ahead_s=shop.ahead_s), came or brought)
            store.link.heard(HEARS_S)

    def _now_in_hand(self) -> tuple[str, str]:
        with self._lock:
            return self._in_hand

    def _held(self, notebook: Notebook) -> tuple[str, ...]:
        """Return the names of the files of runs and sources that a window of this bench holds."""
        since = time.time() - FRESH_S
        if not notebook.run_folder.is_dir():
            return ()
        return tuple(
            sorted(p.name for p in notebook.run_folder.iterdir() if p.stat().st_mtime > since and is_held(p))
        )

    def _say(self, state: Watched, anew: object = False) -> None:
        changed, self.state = state != self.state, state
        if changed or anew:
            self._told()
