"""An instrument that speaks SCPI on a loopback socket, in a thread of its own: the real driver path is what runs against it."""

from __future__ import annotations

import random
import socket
import threading
import time
from collections.abc import Callable
from types import TracebackType
from typing import Self

LOOPBACK = "127.0.0.1"


class LoopbackInstrument:
    """Answers lines on a loopback socket; `with` ends it.

    Parameters
    ----------
    answer : callable
        Takes a line and returns what it answers, in words or bytes; None for nothing. Called in the instrument's own thread.
    """

    def __init__(self, answer: Callable[[str], str | bytes | None]) -> None:
        self._answer = answer
        self._stopped = threading.Event()
        self._socket = socket.create_server((LOOPBACK, 0))
        self._socket.settimeout(0.1)
        self._thread = threading.Thread(target=self._serve, name="candor-simulated", daemon=True)
        self._thread.start()

    @property
    def resource(self) -> str:
        """The VISA name it answers to."""
        return f"TCPIP::{LOOPBACK}::{self._socket.getsockname()[1]}::SOCKET"

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """Stop answering and let go of the socket."""
        self._stopped.set()
        self._thread.join(timeout=5)
        self._socket.close()

    def _serve(self) -> None:
        while not self._stopped.is_set():
            try:
                connection, _ = self._socket.accept()
            except TimeoutError:
                continue
            with connection:
                connection.settimeout(0.1)
                self._talk(connection)

    def _talk(self, connection: socket.socket) -> None:
        waiting = b""
        while not self._stopped.is_set():
            try:
                received = connection.recv(4096)
            except TimeoutError:
                continue
            except OSError:
                return
            if not received:
                return
            *lines, waiting = (waiting + received).split(b"\n")
            for line in lines:
                answer = self._answer(line.decode("ascii", "replace").strip())
                if answer is not None:
                    try:
                        connection.sendall((answer if isinstance(answer, bytes) else answer.encode("ascii")) + b"\n")
                    except OSError:
                        return


class LoopbackMeter(LoopbackInstrument):
    """A meter that answers every question with what something comes to by then; `with` ends it.

    Parameters
    ----------
    shows : callable
        Takes the time since the meter was made, s, and a source of chance; returns what the meter shows, as it is sent.
    seed : int
    """

    def __init__(self, shows: Callable[[float, random.Random], str], seed: int = 1) -> None:
        self._shows, self._random = shows, random.Random(seed)
        self._since, self._lock = time.monotonic(), threading.Lock()
        super().__init__(self._read)

    def _read(self, line: str) -> str | None:
        if not line.endswith("?"):
            return None
        with self._lock:
            return self._shows(time.monotonic() - self._since, self._random)
