"""A source on a loopback link that goes deaf, mute or lies when it is told to."""

from __future__ import annotations

import time

from candor.links.loopback import LoopbackInstrument


class Source:
    """A source that answers as it is told to: deaf, mute or lying from a moment on; what stands at its terminals is `volts`."""

    def __init__(self):
        self.set, self.on, self.told = 0.0, False, []
        self.deaf = self.mute = self.lies = False
        self.slow_s = 0.0
        self.instrument = LoopbackInstrument(self._answer)
        self.resource = self.instrument.resource

    @property
    def volts(self):
        return self.set if self.on else 0.0

    def _answer(self, line):
        self.told.append(line)
        time.sleep(self.slow_s)
        if line == "SOUR:VOLT?":
            return None if self.mute else "not what was asked" if self.lies else f"{self.set:.9E}"
        if self.deaf:
            return None
        if line.startswith("SOUR:VOLT "):
            self.set = float(line.split()[1])
        elif line.startswith("OUTP "):
            self.on = line == "OUTP ON"
        return None
