"""Standards on links: a meter that is read until it stands still, and a source that is set, ramped, and taken to zero first."""

from __future__ import annotations

import contextlib
import math
import re
import time
from collections.abc import Callable
from types import TracebackType
from typing import Self

from candor.core.errors import CancelledError, CandorError
from candor.core.reading.repeated import Captured, captured, is_still
from candor.links.errors import LinkError
from candor.links.scpi import ScpiLink

READ, SET, OFF = "READ?", "SOUR:VOLT {:.9g}", "OUTP OFF"
LONGEST_S = 20.0  # that it is waited for to stand still
REPEATS = 5
RAMP_STEPS = 20
RAMP_S = 0.05  # a step of the ramp
_NUMBER = re.compile(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?")
_OVERLOAD = 9e37  # SCPI-99
Stopped = Callable[[], bool]


def read_settled(
    resource: str,
    stopped: Stopped = lambda: False,
    *,
    query: str = READ,
    repeats: int = REPEATS,
    longest_s: float = LONGEST_S,
    between_s: float = 0.05,
    floor: float = 0.0,
) -> Captured:
    """Read a meter until it stands still, then `repeats` times more.

    Parameters
    ----------
    resource : str
        VISA name.
    stopped : callable
        While it says so, it is given up.
    query : str
    repeats : int
    longest_s : float
        After which it is read as it is, and said so.
    between_s : float
        Between two readings, s.
    floor : float
        A count of the meter, SI: less is no movement.

    Raises
    ------
    LinkError
        Where it does not answer, or not with a number.
    CancelledError
        Where it was given up.
    """
    with ScpiLink(resource, "reference meter", stopped=stopped) as link:
        began = time.monotonic()
        values: list[float] = []
        while not is_still(values, floor) and time.monotonic() - began < longest_s:
            values.append(_read(link, query))
            _wait(between_s, stopped)
        settled, waited = is_still(values, floor), time.monotonic() - began
        kept = []
        for _ in range(repeats):
            kept.append(_read(link, query))
            _wait(between_s, stopped)
        return captured(kept, settled, waited)


def _wait(seconds: float, stopped: Stopped) -> None:
    if stopped():
        raise CancelledError("The reading was given up; nothing was written.")
    time.sleep(seconds)


def _read(link: ScpiLink, query: str) -> float:
    answer = link.ask(query)
    match = _NUMBER.match(answer.strip())
    value = float(match[0]) if match else math.nan
    if not (math.isfinite(value) and abs(value) < _OVERLOAD):
        raise LinkError(
            f"The reference meter answered “{answer[:40]}”; a number was expected. Is it over its range?",
            value=answer[:40],
        )
    return value


class RampedSource:
    """A source on a link. It is ramped to what it is set to, and goes to zero on leaving, on an error, and on a dead link as far as
    that still answers; `with` sees to it.

    Parameters
    ----------
    resource : str
        VISA name.
    stopped : callable
        While it says so, a ramp goes to zero instead.
    most : float
        Beyond which it is never set, in its unit.
    """

    def __init__(self, resource: str, most: float, stopped: Stopped = lambda: False) -> None:
        self._link = ScpiLink(resource, "source")
        self._stopped, self._most = stopped, most
        self.at = 0.0

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def watch(self, stopped: Stopped) -> None:
        """Take another sign to stop by: that of the work in hand."""
        self._stopped = stopped

    def set(self, value: float, step_s: float = RAMP_S) -> None:
        """Ramp to a value, in its unit, `step_s` seconds a step.

        Raises
        ------
        LinkError
            Where it is beyond what it may be set to, or does not answer; it was sent to zero first.
        CancelledError
            Where it was stopped on the way; it stands at zero.
        """
        if abs(value) > self._most:
            self.zero()
            raise LinkError(
                f"{value:g} is beyond the {self._most:g} this source may be set to; it stands at zero.",
                value=str(value),
            )
        start = self.at
        try:
            for step in range(1, RAMP_STEPS + 1):
                if self._stopped():
                    raise CancelledError("The source was stopped on its way; it stands at zero.")
                self._tell(start + (value - start) * step / RAMP_STEPS)
                time.sleep(step_s)
        except CandorError:
            self.zero()
            raise

    def zero(self) -> None:
        """Go to zero and switch the output off, whatever the link still takes."""
        for command in (SET.format(0.0), OFF):
            with contextlib.suppress(CandorError):  # a dead link: what it still takes is sent, and the person is told
                self._link.tell(command)
        with contextlib.suppress(
            CandorError
        ):  # its answer says that it heard; let go of before that, it may not have
            self._link.ask("SOUR:VOLT?")
        self.at = 0.0

    def close(self) -> None:
        """Go to zero first, then let go of the link."""
        self.zero()
        self._link.close()

    def _tell(self, value: float) -> None:
        self._link.tell(SET.format(value))
        answer = self._link.ask("SOUR:VOLT?")
        match = _NUMBER.match(answer.strip())
        if match is None or abs(float(match[0]) - value) > 1e-6 * max(abs(value), 1e-6):
            raise LinkError(f"The source was set to {value:g} and says “{answer[:40]}”.", value=answer[:40])
        self.at = value
