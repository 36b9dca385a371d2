"""The driver of a leakage tester: SCPI over VISA (LAN, USB or serial), by PyVISA."""

from __future__ import annotations

import contextlib
import math
import time
from collections.abc import Callable, Mapping
from types import TracebackType
from typing import Any

from candor.core.live import Reading
from candor.links.errors import LinkError, StoppedError

LONGEST_ANSWER = 1000  # bytes
_OVERLOAD = 9e37  # IEEE 488.2 and SCPI-99: 9.9E37 stands for infinity, 9.91E37 for not a number
_PIECE, _SLICE_S = 32, 0.05  # bytes and seconds of one read, so that no stream of bytes keeps a deadline away


class LeakageTester:
    """A rig in one box: a source with series resistor that reads volts at the part and the current through it.

    Parameters
    ----------
    resource : str
        VISA name, such as ``TCPIP::192.168.1.20::5025::SOCKET``.
    timeout_s : float
        Within so long a whole answer must be there.
    stopped : callable
        While it says so, a question is given up at once.

    Raises
    ------
    LinkError
        Where nothing answers under that name.
    """

    def __init__(self, resource: str, timeout_s: float = 2.0, stopped: Callable[[], bool] = lambda: False) -> None:
        import pyvisa  # only where an instrument is on the link

        self.resource, self.timeout_s, self.stopped = resource, timeout_s, stopped
        code = pyvisa.constants.StatusCode
        self._timed_out = code.error_timeout
        self._cut_short = (code.success_max_count_read, code.success_device_not_present)
        self._errors: tuple[type[Exception], ...] = (pyvisa.Error, OSError, ValueError)
        self._visa: Any = None
        try:
            self._manager = pyvisa.ResourceManager("@py")
            self._visa = self._manager.open_resource(
                resource, open_timeout=int(1000 * timeout_s), read_termination="\n", write_termination="\n"
            )
            self._visa.timeout = 1000 * _SLICE_S
            with contextlib.suppress(*self._errors):  # not every kind of link has it
                self._visa.set_visa_attribute(pyvisa.constants.ResourceAttribute.suppress_end_enabled, False)
        except self._errors as error:
            self.close()
            raise self._absent(_first_line(error)) from None
        try:
            self.identity = self._ask("*IDN?")
            self.series_ohms = self._ohms("SYST:SER:RES?")
            self.discharge_ohms = self._ohms("SYST:DISC:RES?")
        except LinkError as error:
            self.close()
            raise self._absent(error.expected or str(error)) from None

    def __enter__(self) -> LeakageTester:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    @property
    def source(self) -> LeakageTester:
        """Its source: it is in the same box."""
        return self

    @property
    def traits(self) -> Mapping[str, float]:
        """Its resistors, ohm."""
        return {"series_ohms": self.series_ohms, "discharge_ohms": self.discharge_ohms}

    def set_level(self, level: float) -> None:
        """Set the source, V."""
        self._tell(f"SOUR:VOLT {level:.6g}")

    def switch(self, on: bool) -> None:
        """Switch the output; off discharges the part through the tester's resistor."""
        self._tell(f"OUTP {'ON' if on else 'OFF'}")

    def read(self) -> Reading | None:
        """Return one reading; its seconds are the tester's own. None where it says overload or not a number."""
        answer = self._ask("READ?")
        try:
            volts, amperes, seconds = (float(word) for word in answer.split(","))
        except ValueError:
            raise self._broken(f"it answered “{answer[:60]}”, expected volts, amperes and seconds") from None
        if not all(math.isfinite(x) and abs(x) < _OVERLOAD for x in (volts, amperes, seconds)):
            return None
        return Reading(seconds, {"volts": volts, "amperes": amperes})

    def close(self) -> None:
        """Let go of the link; the source is not touched."""
        if self._visa is not None:
            with contextlib.suppress(*self._errors):  # a dead link is closed as well as it can be
                self._visa.close()
            self._visa = None

    def _tell(self, command: str) -> None:
        if self._visa is None:
            raise self._broken("the link is closed")
        try:
            self._visa.write(command)
        except self._errors as error:
            raise self._broken(_first_line(error)) from None

    def _ask(self, command: str) -> str:
        """Return the answer to a question asked after everything that came before it was thrown away."""
        deadline = time.monotonic() + self.timeout_s
        self._empty(deadline)
        self._tell(command)
        answer = b""
        while b"\n" not in answer:
            if self.stopped():
                raise StoppedError("The question was given up.", value=self.resource)
            if time.monotonic() > deadline:
                heard = f" to the end (“{_shown(answer)}”)" if answer else ""
                raise self._broken(f"to {command} no answer{heard} within {self.timeout_s:g} s")
            answer += self._piece()
            if len(answer) > LONGEST_ANSWER:
                raise self._broken(f"to {command} it sent over {LONGEST_ANSWER} bytes without an end of line")
        return answer.partition(b"\n")[0].decode("ascii", "replace").strip()

    def _empty(self, deadline: float) -> None:
        """Throw away what was sent without being asked for: it would be taken for the next answer."""
        self._visa.timeout = 1
        try:
            while self._piece():
                if time.monotonic() > deadline:
                    raise self._broken("it sends without being asked, and does not stop")
        finally:
            self._visa.timeout = 1000 * _SLICE_S

    def _piece(self) -> bytes:
        """Return what is there, at most _PIECE bytes and to the end of a line; nothing after _SLICE_S without a byte."""
        try:
            with self._visa.ignore_warning(*self._cut_short):
                return bytes(self._visa.visalib.read(self._visa.session, _PIECE)[0])
        except self._errors as error:
            if getattr(error, "error_code", None) == self._timed_out:
                return b""
            raise self._broken(_first_line(error)) from None

    def _ohms(self, command: str) -> float:
        answer = self._ask(command)
        try:
            ohms = float(answer)
        except ValueError:
            ohms = math.nan
        if not 0 < ohms < 1e12:
            raise self._broken(f"to {command} it answered “{answer[:60]}”, expected ohms above zero")
        return ohms

    def _broken(self, why: str) -> LinkError:
        return LinkError(f"The tester no longer answers ({why}).", value=self.resource, expected=why)

    def _absent(self, why: str) -> LinkError:
        return LinkError(
            f"Nothing answers as “{self.resource}” ({why}); expected a VISA name such as "
            "TCPIP::192.168.1.20::5025::SOCKET, and the tester on. Nothing was switched.",
            value=self.resource,
        )


def _shown(answer: bytes) -> str:
    return answer[:40].decode("ascii", "replace").strip()


def _first_line(error: Exception) -> str:
    return (str(error).strip() or type(error).__name__).splitlines()[0]
