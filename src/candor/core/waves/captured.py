"""Samples as an oscilloscope on a link gives them: its preamble and its block, in the form that its own address states.

    TCPIP::192.168.1.20::5025::SOCKET; preamble "WAV:PRE?" - - points - interval start - step zero middle;
    data "WAV:DATA?" 8 bits

Behind *preamble* stands what it is asked, then what each field of its answer is; behind *data* what it is asked, and what the
samples are: 8 bits, 16 bits (the high byte first), 16 bits low first, each signed where the word stands, or numbers. The block is
that of IEEE 488.2 (arbitrary block of definite length: #, how many digits, so many digits, so many bytes).
"""

from __future__ import annotations

import math
import re
from typing import Final

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.waves.waveform import FEWEST
from candor.core.worded import worded

FIELDS: Final = ("points", "interval", "start", "step", "zero", "middle", "-")
EXAMPLE: Final = (
    'TCPIP::192.168.1.20::5025::SOCKET; preamble "WAV:PRE?" - - points - interval start - step zero middle; '
    'data "WAV:DATA?" 8 bits'
)
SIMULATED: Final = "simulated"  # said in place of an address: one that comes with Candor
MOST_SAMPLES: Final = 2_000_000
_KINDS: Final = {
    "8 bits": "u1", "8 bits signed": "i1", "16 bits": ">u2", "16 bits signed": ">i2", "16 bits low first": "<u2",
    "16 bits low first signed": "<i2", "numbers": "",
}  # fmt: skip
_COLUMNS: Final = ("Time (s),CH1 (V)",)
_PART: Final = re.compile(r"(?P<word>preamble|data)\s+[\"“](?P<ask>[^\"”]+)[\"”]\s*(?P<rest>.*)", re.I)
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class ScopeAddress:
    """Where an oscilloscope answers, and how.

    Attributes
    ----------
    resource : str
        VISA name.
    preamble, data : str
        What it is asked.
    fields : tuple of str
        What each field of the preamble is: "points", "interval" and "start" in s, "step" and "zero" in V, "middle" in counts,
        "-" for what is of no use here.
    samples : str
        One of the kinds of sample.
    """

    resource: str
    preamble: str
    fields: tuple[str, ...]
    data: str
    samples: str


@dataclass(frozen=True)
class CapturedSamples:
    """Samples as they were read: volts, s between two, s of the first."""

    volts: Floats
    interval_s: float
    start_s: float

    def as_table(self) -> str:
        """Return them as a table of text, the form in which files of samples are read and kept; no digit is lost."""
        times = self.start_s + self.interval_s * np.arange(len(self.volts))
        rows = "\n".join(f"{t:.12g},{v!r}" for t, v in zip(times.tolist(), self.volts.tolist(), strict=True))
        return "\n".join((f"Sample interval,{self.interval_s!r}", *_COLUMNS, rows, ""))


def read_scope_address(text: str) -> ScopeAddress:
    """Read where an oscilloscope answers and how, as above.

    Raises
    ------
    ValueTextError
        Where it cannot be read: what was expected stands in it.
    """
    resource, *rest = (part.strip() for part in text.split(";"))
    parts = {m["word"].lower(): m for part in rest if (m := _PART.fullmatch(part)) is not None}
    if not resource or len(parts) != 2 or len(rest) != 2:
        raise _wrong(worded("waves.an_oscilloscope_says_preamble_and_data", example=EXAMPLE), text)
    fields = tuple(parts["preamble"]["rest"].lower().split())
    strange = next((f for f in fields if f not in FIELDS), "")
    lacking = next((f for f in ("interval", "step") if f not in fields), "")
    samples = " ".join(parts["data"]["rest"].lower().split())
    if strange:
        raise _wrong(worded("waves.is_no_field_of_a_preamble", field=strange, fields=", ".join(FIELDS)), text)
    if lacking and not (lacking == "step" and samples == "numbers"):
        raise _wrong(worded("waves.the_preamble_does_not_say_its", field=lacking), text)
    if samples not in _KINDS:
        raise _wrong(worded("waves.is_no_kind_of_sample", samples=samples, kinds=", ".join(_KINDS)), text)
    return ScopeAddress(
        resource=resource,
        preamble=parts["preamble"]["ask"],
        fields=fields,
        data=parts["data"]["ask"],
        samples=samples,
    )


def read_preamble(answer: str, address: ScopeAddress) -> dict[str, float]:
    """Return what a preamble says, by field, SI: each of them a number.

    Raises
    ------
    ValueTextError
        Where a field is missing, is no number, or the interval is not above zero.
    """
    said = [part.strip() for part in answer.split(",")]
    if len(said) < len(address.fields):
        raise _wrong(worded("waves.the_preamble_has_fields", count=len(said), fields=len(address.fields)), answer)
    found = {}
    for name, value in zip(address.fields, said, strict=False):
        if name == "-":
            continue
        try:
            found[name] = float(value)
        except ValueError:
            found[name] = math.nan
        if not math.isfinite(found[name]):
            raise _wrong(worded("waves.is_no_number_in_the_preamble", name=name, value=value[:40]), answer)
    if not found["interval"] > 0:
        raise _wrong(worded("waves.the_interval_is_not_above_zero", interval=found["interval"]), answer)
    return found


def samples_of(block: bytes, preamble: dict[str, float], address: ScopeAddress) -> CapturedSamples:
    """Return the samples of a block: volts = (count - middle) x step + zero, as the preamble says; numbers are volts already.

    Parameters
    ----------
    block : bytes
    preamble : mapping of str to float
        Interval and start, s; step and zero, V; middle, counts.
    address : ScopeAddress

    Raises
    ------
    ValueTextError
        Where the block does not divide into samples, is not of as many as the preamble says, or a number in it is none.
    """
    kind = _KINDS[address.samples]
    if kind:
        width = np.dtype(kind).itemsize
        if len(block) % width:
            raise _wrong(worded("waves.the_block_ends_inside_a_sample", count=len(block)), address.resource)
        counts = np.frombuffer(block, dtype=kind).astype(np.float64)
        volts = (counts - preamble.get("middle", 0.0)) * preamble["step"] + preamble.get("zero", 0.0)
    else:
        try:
            volts = np.array(
                [float(part) for part in block.decode("ascii").replace(";", ",").split(",") if part.strip()]
            )
        except ValueError:
            raise _wrong(worded("waves.what_came_for_samples_is_no_number"), address.resource) from None
    if "points" in preamble and len(volts) != int(preamble["points"]):
        said = int(preamble["points"])
        raise _wrong(
            worded("waves.samples_came_and_the_preamble_says", count=len(volts), said=said), address.resource
        )
    if len(volts) < FEWEST or not np.isfinite(volts).all():
        raise _wrong(worded("waves.too_few_samples_came", count=len(volts), fewest=FEWEST), address.resource)
    return CapturedSamples(volts, preamble["interval"], preamble.get("start", 0.0))


def too_many(address: ScopeAddress) -> ValueTextError:
    """Return the error of more samples than are read."""
    return _wrong(worded("waves.over_samples_are_not_read", most=MOST_SAMPLES), address.resource)


def _wrong(why: str, value: str) -> ValueTextError:
    return ValueTextError(why, value=value[:200], expected=EXAMPLE)
