"""An oscilloscope on a link: what it holds, read over the driver in the form that its address states (core.waves.captured)."""

from __future__ import annotations

from collections.abc import Callable

from candor.core.waves.captured import (
    MOST_SAMPLES,
    SIMULATED,
    CapturedSamples,
    read_preamble,
    read_scope_address,
    samples_of,
    too_many,
)
from candor.links.scpi import ScpiLink


def read_captured(text: str, stopped: Callable[[], bool] = lambda: False) -> CapturedSamples:
    """Read what an oscilloscope on a link holds.

    Parameters
    ----------
    text : str
        Its address; see core.waves.captured. "simulated" is one that comes with Candor.
    stopped : callable
        While it says so, it is given up.

    Raises
    ------
    ValueTextError
        Where the address, the preamble or the samples cannot be read.
    LinkError
        Where it does not answer; StoppedError where it was given up.
    """
    if text.strip() == SIMULATED:
        from candor.links.simulated_scope import SimulatedScope

        with SimulatedScope() as scope:
            return read_captured(scope.address, stopped)
    address = read_scope_address(text)
    with ScpiLink(address.resource, "oscilloscope", stopped=stopped) as link:
        preamble = read_preamble(link.ask(address.preamble), address)
        if preamble.get("points", 0) > MOST_SAMPLES:
            raise too_many(address)
        return samples_of(link.ask_block(address.data, 4 * MOST_SAMPLES), preamble, address)
