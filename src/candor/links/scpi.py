"""A link to one instrument: SCPI over VISA (LAN, USB or serial), by PyVISA; every question has a deadline and a limit."""

from __future__ import annotations

import contextlib
import re
import socket
import termios
import time
from collections.abc import Callable
from types import TracebackType
from typing import Any, Self

from candor.core.worded import worded
from candor.links.link_errors import LinkError, StoppedError
from candor.links.serial_line import USUAL_LINE, SerialLine

LONGEST_ANSWER = 1000  # bytes
_PIECE, _SLICE_S = 32, 0.05  # bytes and seconds of one read, so that no stream of bytes keeps a deadline away
_BLOCK_PIECE = 65_536


class ScpiLink:
    """One instrument that answers in lines; `with` lets go of it and touches nothing.

    Parameters
    ----------
    resource : str
        VISA name, such as ``TCPIP::192.168.1.20::5025::SOCKET``.
    what : str
        What it is called in a sentence: "tester", "meter".
    timeout_s : float
        Within so long a whole answer must be there.
    stopped : callable
        While it says so, a question is given up at once.
    line : SerialLine
        How a serial port is set, and what ends a line.

    Raises
    ------
    LinkError
        Where nothing can be opened under that name.
    """

    def __init__(
        self, resource: str, what: str, timeout_s: float = 2.0, stopped: Callable[[], bool] = lambda: False,
        line: SerialLine = USUAL_LINE,
    ) -> None:  # fmt: skip
        import pyvisa  # only where an instrument is on the link

        self.resource, self.what, self.timeout_s, self.stopped = resource, what, timeout_s, stopped
        code = pyvisa.constants.StatusCode
        self._timed_out = code.error_timeout
        self._cut_short = (code.success_max_count_read, code.success_device_not_present)
        # A socket that is taken away under a question, as at the end of a program, is None to the library: the last two. A serial
        # port that cannot be set so raises an error of its own kind.
        self._errors: tuple[type[Exception], ...] = (
            pyvisa.Error, OSError, termios.error, ValueError, TypeError, AttributeError,
        )  # fmt: skip
        self._visa: Any = None
        self._end = line.ends[-1:].encode()
        try:
            self._manager = pyvisa.ResourceManager("@py")
            self._visa = self._manager.open_resource(
                resource, open_timeout=int(1000 * timeout_s), read_termination=line.ends, write_termination=line.ends,
                **_port(resource, line),
            )  # fmt: skip
            self._visa.timeout = 1000 * _SLICE_S
            with contextlib.suppress(*self._errors):  # not every kind of link has it
                self._visa.set_visa_attribute(pyvisa.constants.ResourceAttribute.suppress_end_enabled, False)
            with contextlib.suppress(*self._errors, KeyError):  # nor a socket
                # Else a question that follows a command waits 40 ms until the other end has acknowledged the command. The
                # library's own attribute for this (1.x) raises where it is set.
                wire = self._visa.visalib.sessions[self._visa.session].interface
                wire.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        except self._errors as error:
            self.close()
            raise self.absent(_first_line(error)) from None

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """Let go of the link."""
        if self._visa is not None:
            with contextlib.suppress(*self._errors):  # a dead link is closed as well as it can be
                self._visa.close()
            self._visa = None

    def tell(self, command: str) -> None:
        """Send a command. Raises LinkError."""
        if self._visa is None:
            raise self.broken(worded("links.the_link_is_closed"))
        try:
            self._visa.write(command)
        except self._errors as error:
            raise self.broken(_first_line(error)) from None

    def ask(self, command: str) -> str:
        """Return the answer to a question asked after everything that came before it was thrown away. Raises LinkError."""
        if self._visa is None:
            raise self.broken(worded("links.the_link_is_closed"))
        deadline = time.monotonic() + self.timeout_s
        self._empty(deadline)
        self.tell(command)
        answer = b""
        while self._end not in answer:
            if self.stopped():
                raise StoppedError(worded("links.the_question_was_given_up"), value=self.resource)
            if time.monotonic() > deadline:
                heard = worded("links.to_the_end", shown=_shown(answer)) if answer else ""
                raise self.broken(
                    worded("links.to_no_answer_within_s", command=command, heard=heard, timeout_s=self.timeout_s)
                )
            answer += self._piece()
            if len(answer) > LONGEST_ANSWER:
                raise self.broken(
                    worded("links.to_it_sent_over_bytes_without", command=command, longest_answer=LONGEST_ANSWER)
                )
        return answer.partition(self._end)[0].decode("ascii", "replace").strip()

    def ask_block(self, command: str, most: int) -> bytes:
        """Return the bytes of a block of definite length (IEEE 488.2: #, a digit, so many digits, so many bytes).

        It is waited for as long as bytes keep coming, and `timeout_s` for the next of them. Raises LinkError.
        """
        if self._visa is None:
            raise self.broken(worded("links.the_link_is_closed"))
        self._empty(time.monotonic() + self.timeout_s)
        self.tell(command)
        head = self._at_least(2, b"", command)
        if head[:1] != b"#":
            raise self.broken(worded("links.no_block_came", command=command, shown=_shown(head)))
        digits = int(head[1:2]) if head[1:2].isdigit() else 0
        head = self._at_least(2 + digits, head, command)
        if not digits or not head[2 : 2 + digits].isdigit():
            raise self.broken(worded("links.the_block_does_not_say_its_length", command=command))
        size = int(head[2 : 2 + digits])
        if size > most:
            raise self.broken(worded("links.the_block_would_be_over", command=command, most=most))
        return self._at_least(2 + digits + size, head, command)[2 + digits : 2 + digits + size]

    def _at_least(self, count: int, heard: bytes, command: str) -> bytes:
        pieces, got, deadline = [heard], len(heard), time.monotonic() + self.timeout_s
        while got < count:
            if self.stopped():
                raise StoppedError(worded("links.the_question_was_given_up"), value=self.resource)
            piece = self._piece(min(max(count - got, 1), _BLOCK_PIECE))
            if piece:
                deadline = time.monotonic() + self.timeout_s
            elif time.monotonic() > deadline:
                heard_of = worded("links.so_many_bytes_of", count=got, whole=count) if got else ""
                raise self.broken(
                    worded("links.to_no_answer_within_s", command=command, heard=heard_of, timeout_s=self.timeout_s)
                )
            pieces.append(piece)
            got += len(piece)
        return b"".join(pieces)

    def _empty(self, deadline: float) -> None:
        """Throw away what was sent without being asked for: it would be taken for the next answer."""
        self._visa.timeout = 1
        try:
            while self._piece():
                if time.monotonic() > deadline:
                    raise self.broken(worded("links.it_sends_without_being_asked_and"))
        finally:
            self._visa.timeout = 1000 * _SLICE_S

    def _piece(self, most: int = _PIECE) -> bytes:
        """Return what is there, at most so many bytes and to the end of a line; nothing after _SLICE_S without a byte."""
        try:
            with self._visa.ignore_warning(*self._cut_short):
                return bytes(self._visa.visalib.read(self._visa.session, most)[0])
        except self._errors as error:
            if getattr(error, "error_code", None) == self._timed_out:
                return b""
            raise self.broken(_first_line(error)) from None

    def broken(self, why: str) -> LinkError:
        """Return the error of an instrument that answers no more, or not what it should."""
        return LinkError(
            worded("links.the_no_longer_answers", what=self.what, why=why), value=self.resource, expected=why
        )

    def absent(self, why: str) -> LinkError:
        """Return the error of a name under which nothing answers."""
        return LinkError(
            worded("links.nothing_answers_as_expected_a_visa", resource=self.resource, why=why, what=self.what),
            value=self.resource,
        )


def _port(resource: str, line: SerialLine) -> dict[str, Any]:
    """Return how the library sets a serial port; nothing for any other kind of link, which it would refuse."""
    if not resource.strip().upper().startswith("ASRL"):
        return {}
    from pyvisa.constants import Parity, StopBits

    return {
        "baud_rate": line.baud, "data_bits": line.bits, "parity": Parity[line.parity], "stop_bits": StopBits(round(10 * line.stop)),
    }  # fmt: skip


def _shown(answer: bytes) -> str:
    return answer[:40].decode("ascii", "replace").strip()


def _first_line(error: Exception) -> str:
    said = (str(error).strip() or type(error).__name__).splitlines()[0]
    return re.sub(r"^\[Errno \d+\] ", "", said)  # a number of the system's says nothing at a bench
