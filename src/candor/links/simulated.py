"""The simulated leakage tester: it speaks SCPI on a loopback socket, so the real driver path is what runs.

Commands: `*IDN?`, `SOUR:VOLT <V>`, `SOUR:VOLT?`, `SOUR:CURR:LIM <A>`, `OUTP ON|OFF`, `OUTP?`, `READ?` (volts at the part,
amperes, seconds), `SYST:SER:RES?` (ohm), `SYST:DISC:RES?` (ohm), `SYST:ERR?`. With the output off the part is discharged
through the discharge resistor.
"""

from __future__ import annotations

import time

from candor.links.loopback import LoopbackInstrument
from candor.links.simulated_part import Clips

IDENTITY = "Candor,simulated leakage tester,0,1"


class SimulatedTester(LoopbackInstrument):
    """A tester in a thread of its own; `with SimulatedTester(...) as tester:` ends it.

    Parameters
    ----------
    clips : Clips
        What is on its clips.
    speed : float
        How much faster than the clock its time runs.
    """

    def __init__(self, clips: Clips, speed: float = 1.0) -> None:
        self.clips, self.speed = clips, speed
        self.limit = 10e-3
        self._errors: list[str] = []
        self._last = time.monotonic()
        super().__init__(lambda line: self.answer(line))

    def answer(self, command: str) -> str | None:
        """Do what a command says and return its answer, None where it has none."""
        self._go_on()
        word, _, argument = command.upper().partition(" ")
        clips = self.clips
        if word == "READ?":
            seconds, volts, amperes = clips.read()
            return f"{volts:.6e},{min(amperes, self.limit):.6e},{seconds:.4f}"
        answers = {
            "*IDN?": IDENTITY,
            "SOUR:VOLT?": f"{clips.source_volts:.6e}",
            "OUTP?": str(int(clips.on)),
            "SYST:SER:RES?": f"{clips.series_ohms + clips.sense_ohms:.6e}",
            "SYST:DISC:RES?": f"{clips.discharge_ohms:.6e}",
            "SYST:ERR?": self._errors.pop(0) if self._errors and word == "SYST:ERR?" else '0,"No error"',
        }
        if word in answers:
            return answers[word]
        try:
            self._command(word, argument)
        except ValueError:
            self._errors.append('-113,"Undefined header"')
        return None

    def _command(self, word: str, argument: str) -> None:
        if word == "SOUR:VOLT":
            self.clips.source_volts = min(max(float(argument), 0.0), 1000.0)
        elif word == "SOUR:CURR:LIM":
            self.limit = float(argument)
        elif word == "OUTP" and argument in ("ON", "OFF", "1", "0"):
            self.clips.on = argument in ("ON", "1")
        elif word not in ("*RST", "*CLS"):
            raise ValueError(word)

    def _go_on(self) -> None:
        now = time.monotonic()
        self.clips.advance(min((now - self._last) * self.speed, 600.0))
        self._last = now
