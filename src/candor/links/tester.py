"""The driver of a leakage tester that speaks SCPI."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from candor.core.live import Reading
from candor.core.worded import worded
from candor.links.link_errors import LinkError, NoReadingError, NotANumberError, OverloadError
from candor.links.meter_answers import read_answer
from candor.links.scpi import ScpiLink


class LeakageTester(ScpiLink):
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
        super().__init__(resource, "tester", timeout_s, stopped)
        try:
            self.identity = self.ask("*IDN?")
            self.series_ohms = self._ohms("SYST:SER:RES?")
            self.discharge_ohms = self._ohms("SYST:DISC:RES?")
        except LinkError as error:
            self.close()
            raise self.absent(error.expected or str(error)) from None

    @property
    def source(self) -> LeakageTester:
        """Its source: it is in the same box."""
        return self

    @property
    def traits(self) -> Mapping[str, float]:
        """Its resistors, ohm."""
        return {"series_ohms": self.series_ohms, "discharge_ohms": self.discharge_ohms}

    def set_level(self, level: float) -> None:
        """Set the source, V; what it does not take is not a setting. Zero is told and not waited for."""
        self.tell(f"SOUR:VOLT {level:.6g}")
        if level:
            said = read_answer(self.ask("SOUR:VOLT?"), "V")
            if abs(said - level) > 0.01 * level:
                raise self.broken(worded("links.its_source_was_set_to_v", level=level, said=said))

    def switch(self, on: bool) -> None:
        """Switch the output; off discharges the part through the tester's resistor."""
        self.tell(f"OUTP {'ON' if on else 'OFF'}")

    def read(self) -> Reading | None:
        """Return one reading; its seconds are the tester's own. None where it says overload or not a number."""
        answer = self.ask("READ?")
        fields = answer.split(",")
        if len(fields) != 3:
            raise self.broken(worded("links.it_answered_expected_volts_amperes_and", answer=answer[:60]))
        try:
            volts, amperes, seconds = map(read_answer, fields, ("V", "A", "s"))
        except (OverloadError, NotANumberError):
            return None
        except NoReadingError:
            raise self.broken(worded("links.it_answered_expected_volts_amperes_and", answer=answer[:60])) from None
        return Reading(seconds, {"volts": volts, "amperes": amperes})

    def _ohms(self, command: str) -> float:
        answer = self.ask(command)
        try:
            ohms = read_answer(answer, "ohm")
        except NoReadingError:
            ohms = math.nan
        if not 0 < ohms < 1e12:
            raise self.broken(worded("links.to_it_answered_expected_ohms_above", command=command, answer=answer[:60]))
        return ohms
