"""A reference meter on a link, read until it stands still; a source on a link is links.held_source."""

from __future__ import annotations

import time
from collections.abc import Callable

from candor.core.errors import CancelledError
from candor.core.reading.repeated import Captured, captured, is_still, window_of
from candor.core.worded import worded
from candor.links.link_errors import OverloadError
from candor.links.meter_answers import AnswerForm, read_address, read_answer
from candor.links.scpi import ScpiLink

READ = "READ?"
LONGEST_S = 20.0  # that it is waited for to stand still
REPEATS = 3
Stopped = Callable[[], bool]


def read_settled(
    resource: str,
    stopped: Stopped = lambda: False,
    *,
    unit: str = "",
    query: str = READ,
    repeats: int = REPEATS,
    longest_s: float = LONGEST_S,
    between_s: float = 0.05,
    floor: float = 0.0,
) -> Captured:
    """Read a meter until it stands still, then `repeats` times more: the mean is of those over which it stood still and these.

    Parameters
    ----------
    resource : str
        VISA name; behind it, after a semicolon, may stand what it is asked and how it answers (links.answers).
    stopped : callable
        While it says so, it is given up.
    unit : str
        The SI unit that is expected, empty for any.
    query : str
    repeats : int
    longest_s : float
        After which it is read as it is, and said so.
    between_s : float
        Between two readings, s.
    floor : float
        A count of the meter, SI: less is not a movement.

    Raises
    ------
    LinkError
        Where it does not answer, or not with a number.
    CancelledError
        Where it was given up.
    """
    address = read_address(resource)
    query = address.ask or query
    with ScpiLink(address.resource, "reference meter", stopped=stopped, line=address.line) as link:
        began = time.monotonic()
        values: list[float] = []
        while not is_still(values, floor) and time.monotonic() - began < longest_s:
            values.append(_read(link, query, unit, address.form))
            _wait(between_s, stopped)
        settled, waited = is_still(values, floor), time.monotonic() - began
        kept = values[-window_of(len(values)) :] if settled else []
        for _ in range(repeats):
            kept.append(_read(link, query, unit, address.form))
            _wait(between_s, stopped)
        return captured(kept, settled, waited)


def _wait(seconds: float, stopped: Stopped) -> None:
    if stopped():
        raise CancelledError(worded("links.the_reading_was_given_up_nothing"))
    time.sleep(seconds)


def _read(link: ScpiLink, query: str, unit: str, form: AnswerForm) -> float:
    try:
        return read_answer(link.ask(query), unit, form)
    except OverloadError as error:
        raise OverloadError(worded("links.the_reference_meter_is_over_its", error=error), value=error.value) from None
