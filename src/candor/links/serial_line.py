"""How a serial port is set, as a meter's manual has it: speed, frame, and what ends a line."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.links.link_errors import LinkError

WORDS = ("baud", "frame", "ends")
_ENDS = {"lf": "\n", "cr": "\r", "crlf": "\r\n"}
_PARITY = {"N": "none", "E": "even", "O": "odd", "M": "mark", "S": "space"}
_MOST_BAUD = 4_000_000


@dataclass(frozen=True)
class SerialLine:
    """A serial port: bits a second, data bits, parity by its name, stop bits; and what ends a line on any kind of link."""

    baud: int = 9600
    bits: int = 8
    parity: str = "none"
    stop: float = 1.0
    ends: str = "\n"


USUAL_LINE = SerialLine()


def read_serial_line(options: Mapping[str, str]) -> SerialLine:
    """Read ``baud 2400``, ``frame 7E2`` and ``ends CR``, each by its word; what is not said is as usual.

    Raises
    ------
    LinkError
        Where one is nothing that a port can be set to.
    """
    baud = options.get("baud", str(USUAL_LINE.baud))
    if not baud.isdecimal() or not 50 <= int(baud) <= _MOST_BAUD:
        raise LinkError(worded("links.is_no_speed_of_a_serial_port", baud=baud), value=baud)
    frame = options.get("frame", "8N1").upper()
    match = re.fullmatch(r"([5-8])([NEOMS])(1|1[.,]5|2)", frame)
    if match is None:
        raise LinkError(worded("links.is_no_frame_of_a_serial_port", frame=frame), value=frame)
    ends = options.get("ends", "lf").lower()
    if ends not in _ENDS:
        raise LinkError(worded("links.is_nothing_that_ends_a_line", ends=ends), value=ends)
    return SerialLine(
        baud=int(baud), bits=int(match[1]), parity=_PARITY[match[2]], stop=float(match[3].replace(",", ".")), ends=_ENDS[ends],
    )  # fmt: skip
