"""The driver of a leakage tester: SCPI over VISA (LAN, USB or serial), by PyVISA."""

from __future__ import annotations

import contextlib
import math
from types import TracebackType
from typing import Any

from candor.core.parts.leak_run import Sample
from candor.links.errors import LinkError

SWITCH_OFF = "Its source may still be on: switch it off by hand, discharge, and measure before you touch."


class LeakageTester:
    """A source with series resistor that reads volts at the part and the current through it.

    Parameters
    ----------
    resource : str
        VISA name, such as ``TCPIP::192.168.1.20::5025::SOCKET``.
    timeout_s : float
        After so long without an answer the link counts as dead.

    Raises
    ------
    LinkError
        Where nothing answers under that name.
    """

    def __init__(self, resource: str, timeout_s: float = 2.0) -> None:
        import pyvisa  # only where an instrument is on the link

        self.resource = resource
        self._errors: tuple[type[Exception], ...] = (pyvisa.Error, OSError, ValueError)
        self._visa: Any = None
        try:
            self._manager = pyvisa.ResourceManager("@py")
            self._visa = self._manager.open_resource(
                resource, read_termination="\n", write_termination="\n", timeout=1000 * timeout_s
            )
        except self._errors as error:
            raise self._absent(_first_line(error)) from None
        try:
            self.identity = self._ask("*IDN?")
            self.series_ohms = self._number("SYST:SER:RES?")
            self.discharge_ohms = self._number("SYST:DISC:RES?")
        except LinkError as error:
            self.close()
            raise self._absent(error.expected or str(error)) from None

    def __enter__(self) -> LeakageTester:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def set_volts(self, volts: float) -> None:
        """Set the source, V."""
        self._tell(f"SOUR:VOLT {volts:.6g}")

    def switch(self, on: bool) -> None:
        """Switch the output; off discharges the part through the tester's resistor."""
        self._tell(f"OUTP {'ON' if on else 'OFF'}")

    def read(self) -> Sample:
        """Return one reading; its seconds are the tester's own."""
        answer = self._ask("READ?")
        try:
            volts, amperes, seconds = (float(word) for word in answer.split(","))
        except ValueError:
            raise self._broken(f"it answered “{answer[:60]}”, expected volts, amperes and seconds") from None
        if not all(math.isfinite(x) for x in (volts, amperes, seconds)):
            raise self._broken(f"it answered “{answer[:60]}”")
        return Sample(seconds, volts, amperes)

    def close(self) -> None:
        """Let go of the link; the source is not touched."""
        if self._visa is not None:
            with contextlib.suppress(*self._errors):  # a dead link is closed as well as it can be
                self._visa.close()
            self._visa = None

    def _tell(self, command: str) -> None:
        try:
            self._visa.write(command)
        except self._errors as error:
            raise self._broken(_first_line(error)) from None

    def _ask(self, command: str) -> str:
        try:
            return str(self._visa.query(command)).strip()
        except self._errors as error:
            raise self._broken(_first_line(error)) from None

    def _number(self, command: str) -> float:
        answer = self._ask(command)
        try:
            return float(answer)
        except ValueError:
            raise self._broken(f"to {command} it answered “{answer[:60]}”, expected a number") from None

    def _broken(self, why: str) -> LinkError:
        return LinkError(f"The tester no longer answers ({why}). {SWITCH_OFF}", value=self.resource, expected=why)

    def _absent(self, why: str) -> LinkError:
        return LinkError(
            f"Nothing answers as “{self.resource}” ({why}); expected a VISA name such as "
            "TCPIP::192.168.1.20::5025::SOCKET, and the tester on. Nothing was switched.",
            value=self.resource,
        )


def _first_line(error: Exception) -> str:
    return (str(error).strip() or type(error).__name__).splitlines()[0]
