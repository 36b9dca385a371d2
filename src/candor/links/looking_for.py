"""What instruments there are on this machine's serial ports, its USB and the network around it, and what one says it is."""

from __future__ import annotations

import warnings
from collections.abc import Callable

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.links.link_errors import LinkError, StoppedError
from candor.links.meter_answers import read_address, read_answer
from candor.links.scpi import ScpiLink

IDENTITY = "*IDN?"  # IEEE 488.2, 10.14
READ = "READ?"
_PATIENCE_S = 1.5


@dataclass(frozen=True)
class Identified:
    """What an instrument says.

    Attributes
    ----------
    identity : str
        What it answered to the question what it is; empty where it did not answer that.
    value : float or None
        What it read, SI; None where that was no reading.
    fault : str
        Why not.
    """

    identity: str
    value: float | None
    fault: str = ""


def look_for_instruments() -> tuple[str, ...]:
    """Return the VISA names of what could be an instrument here, in their order; it takes a second or two.

    Ports of the machine are named whether anything is on them or not; on the network only what answers to the usual call
    (VXI-11) is, so that an instrument behind a plain socket must be named by hand.

    Raises
    ------
    LinkError
        Where the ports cannot be looked at.
    """
    import pyvisa

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of ways to look that are not installed
            names = pyvisa.ResourceManager("@py").list_resources("?*")
    except (pyvisa.Error, OSError, ValueError) as error:
        raise LinkError(worded("links.this_machine_cannot_be_looked_at", why=str(error))) from None
    return tuple(sorted(name for name in names if name.endswith(("INSTR", "SOCKET"))))


def identify(text: str, stopped: Callable[[], bool] = lambda: False) -> Identified:
    """Ask what is at an address what it is, and for one reading. Nothing is set.

    Parameters
    ----------
    text : str
        A VISA name; behind it, after semicolons, may stand how it answers (links.meter_answers).
    stopped : callable
        While it says so, it is given up.

    Raises
    ------
    LinkError
        Where nothing is there, or it answers to neither; StoppedError where it was given up.
    """
    address = read_address(text)
    with ScpiLink(address.resource, "instrument", timeout_s=_PATIENCE_S, stopped=stopped, line=address.line) as link:
        identity = _answer_to(link, IDENTITY)
        try:
            answer = link.ask(address.ask or READ)
        except StoppedError:
            raise
        except LinkError as error:
            if not identity:  # it never did
                raise link.absent(error.expected or str(error)) from None
            return Identified(identity, None, str(error))
    try:
        return Identified(identity, read_answer(answer, "", address.form))
    except LinkError as error:
        return Identified(identity, None, str(error))


def _answer_to(link: ScpiLink, question: str) -> str:
    """Return what it answers, nothing where it does not."""
    try:
        return link.ask(question)
    except StoppedError:
        raise
    except LinkError:
        return ""
