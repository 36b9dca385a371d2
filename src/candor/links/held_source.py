"""A source on a link, held by a thread of its own: switching it off comes before everything else and is never dropped.

It is *at zero* only after the instrument itself said so when asked; until then it may be on. The off-command goes out over the link
there is and, where that does not confirm it, over one opened anew.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import replace
from typing import Literal

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.links.link_errors import LinkError
from candor.links.meter_answers import read_address, read_answer
from candor.links.scpi import ScpiLink

SET, ASK, OFF, IS_ON = "SOUR:VOLT {:.9g}", "SOUR:VOLT?", "OUTP OFF", "OUTP?"
ON = "OUTP ON"
RAMP_STEPS = 20
RAMP_S = 0.05  # a step of the ramp
LOOK_S = 0.5  # between two looks at what it stands at
AGREES = 1e-6  # of the setting, between what it was told and what it says
AT_ZERO = 1e-9  # in its unit: a setting read back, no measurement
Phase = Literal["off", "ramping", "standing", "going off", "unknown"]


@dataclass(frozen=True)
class SourceState:
    """How a source stands.

    Attributes
    ----------
    phase : Phase
        "off" only where zero was read back; "unknown" where it was told to go to zero and nothing confirmed it.
    volts : float
        What it said last that it is set to, in its unit; where it was asked for more on the way, that.
    fault : str
        Why it is not as it was asked, empty where it is.
    turns : int
        How many requests have been dealt with.
    """

    phase: Phase = "off"
    volts: float = 0.0
    fault: str = ""
    turns: int = 0

    @property
    def may_be_on(self) -> bool:
        """Whether anybody must take it to be on."""
        return self.phase != "off"


class HeldSource:
    """One source on a link.

    Parameters
    ----------
    resource : str
        VISA name, what is asked and how it answers behind it (links.answers).
    step_s : float
        One step of the ramp, s.
    """

    def __init__(self, resource: str, step_s: float = RAMP_S, timeout_s: float = 2.0) -> None:
        self._address, self._step_s, self._timeout_s = read_address(resource), step_s, timeout_s
        self._lock = threading.Condition()
        self._state = SourceState()
        self._wanted: tuple[float, float] | None = None  # value and the most it may be set to
        self._off = False  # asked for, not yet begun
        self._ending = False
        self._link: ScpiLink | None = None
        self._thread = threading.Thread(target=self._run, name="candor-source", daemon=True)
        self._thread.start()

    def state(self) -> SourceState:
        """Return how it stands."""
        with self._lock:
            return self._state

    def apply(self, value: float, most: float) -> None:
        """Ramp to a value from where it stands; what was asked before is given up. Nothing while it goes off.

        Parameters
        ----------
        value, most : float
            What to go to, and the magnitude beyond which it is never set, in its unit.
        """
        with self._lock:
            if self._ending or self._off or self._state.phase == "going off":
                return
            self._wanted = (value, most)
            # From here on it may be on, whether or not a word of it has gone out.
            self._state = replace(self._state, phase="ramping", fault="")
            self._lock.notify_all()

    def off(self) -> None:
        """Go to zero: at once, whatever was asked before; what is asked meanwhile is not done."""
        with self._lock:
            self._off, self._wanted = True, None
            if self._state.may_be_on:
                self._state = replace(self._state, phase="going off")
            self._lock.notify_all()

    def close(self, timeout_s: float = 12.0) -> SourceState:
        """Go to zero, wait for it, let go of the link, and return how it stands; "unknown" where it has not said so by then."""
        with self._lock:
            self._ending = True
            on = self._state.may_be_on or self._wanted is not None
            self._lock.notify_all()
        if on:
            self.off()
        self._thread.join(timeout_s)
        state = self.state()
        return replace(state, phase="unknown") if self._thread.is_alive() else state

    @property
    def ended(self) -> bool:
        """Whether its thread is over."""
        return not self._thread.is_alive()

    # --- in the thread ----------------------------------------------------------------------------------

    def _run(self) -> None:
        try:
            while self._turn():
                pass
        finally:
            if self.state().may_be_on:  # whatever happened: nobody is left who could switch it off
                self._go_off()
            self._let_go()

    def _turn(self) -> bool:
        """Do what is asked, the off-command first; False where there is nothing more to do."""
        with self._lock:
            if not (self._off or self._wanted or self._ending):
                self._lock.wait(LOOK_S)
            off, wanted, self._wanted = self._off, self._wanted, None
        if off:
            self._go_off()
            with self._lock:
                self._off = False
                self._state = replace(self._state, turns=self._state.turns + 1)
                return not self._ending
        if wanted is not None:
            self._ramp(*wanted)
        elif self.state().phase == "standing":
            self._look()
        with self._lock:
            return not (self._ending and not self._off)

    def _ramp(self, value: float, most: float) -> None:
        try:
            if abs(value) > most * (1 + 1e-9):
                raise LinkError(
                    worded("links.is_beyond_the_this_source_may", value=value, most=most),
                    value=str(value),
                    expected=f"{most:g}",
                )
            link = self._open()
            start = _setting(link)
            for step in range(1, RAMP_STEPS + 1):
                if self._overtaken():
                    return
                self._tell(link, start + (value - start) * step / RAMP_STEPS)
                if step == 1:
                    link.tell(ON)
                self._wait(self._step_s)
            self._show("standing", value, turn=True)
        except CandorError as error:
            self._go_off("" if self._goes_off() else str(error), turn=True)

    def _tell(self, link: ScpiLink, value: float) -> None:
        # Before it goes out: what may stand there is never less than what is shown.
        self._show("ramping", max(value, self.state().volts, key=abs))
        link.tell(SET.format(value))
        said = _setting(link)
        if abs(said - value) > AGREES * max(abs(value), AGREES):
            raise LinkError(worded("links.the_source_was_set_to_and_says", value=value, said=said), value=f"{said:g}")
        self._show("ramping", said)

    def _look(self) -> None:
        """See that it still stands where it was put: a hand at its dial, or a dead link, is said."""
        asked = self.state().volts
        try:
            said = _setting(self._open())
        except CandorError as error:
            if not self._overtaken():
                self._go_off(str(error))
            return
        if abs(said - asked) > AGREES * max(abs(asked), AGREES) and not self._overtaken():
            self._show("standing", said, worded("links.the_source_was_set_to_and", asked=asked, said=said))

    def _go_off(self, fault: str = "", turn: bool = False) -> None:
        """Tell it to go to zero and off, by the link there is, then by one opened anew, until it says that it is."""
        self._show("going off", self.state().volts)
        why = ""
        paths: tuple[Callable[[], ScpiLink], ...] = (self._open, self._open_anew)
        for path in paths:
            try:
                link = path()
                link.stopped = lambda: False
                _tell_off(link)
            except CandorError as error:
                why = str(error)
            else:
                self._show("off", 0.0, fault, turn)
                return
        self._show("unknown", self.state().volts, fault or why, turn)

    def _open(self) -> ScpiLink:
        if self._link is None:
            self._link = ScpiLink(self._address.resource, "source", self._timeout_s, line=self._address.line)
        self._link.stopped = self._goes_off  # no question keeps the off-command waiting
        return self._link

    def _open_anew(self) -> ScpiLink:
        self._let_go()
        return self._open()

    def _let_go(self) -> None:
        link, self._link = self._link, None
        if link is not None:
            link.close()

    def _goes_off(self) -> bool:
        with self._lock:
            return self._off or self._ending

    def _overtaken(self) -> bool:
        with self._lock:
            return self._off or self._ending or self._wanted is not None

    def _wait(self, seconds: float) -> None:
        end = time.monotonic() + seconds
        with self._lock:
            while not (self._off or self._ending) and (left := end - time.monotonic()) > 0:
                self._lock.wait(left)

    def _show(self, phase: Phase, volts: float, fault: str = "", turn: bool = False) -> None:
        with self._lock:
            if self._off and phase in ("ramping", "standing"):
                phase = "going off"
            self._state = SourceState(phase, volts, fault, self._state.turns + turn)


def _setting(link: ScpiLink) -> float:
    return read_answer(link.ask(ASK))


def _tell_off(link: ScpiLink) -> None:
    """Tell a source to go to zero, then off, each by itself, and see that it says so.

    Raises
    ------
    LinkError
        Where it does not say that it is at zero.
    """
    # Zero before off: a source whose output relay sticks is then harmless all the same.
    try:
        link.tell(SET.format(0.0))
    finally:
        link.tell(OFF)
    said = _setting(link)
    if abs(said) > AT_ZERO:
        raise LinkError(worded("links.the_source_was_told_to_go", said=said), value=f"{said:g}", expected="0")
