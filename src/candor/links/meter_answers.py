"""What an instrument on a link answers: one whole number, with or without its unit, or no reading at all.

An answer is never taken by the number it begins with: what Candor does not understand to its last character is not a reading.
IEEE 488.2 and SCPI-99 give 9.9E37 for infinity and 9.91E37 for not a number.
"""

from __future__ import annotations

import math
import re
from decimal import Decimal

from candor.core.late_dataclass import dataclass
from candor.core.quantities.units import PREFIXES, UNITS
from candor.core.worded import worded
from candor.links.link_errors import LinkError, NoReadingError, NotANumberError, OverloadError
from candor.links.serial_line import USUAL_LINE, SerialLine, read_serial_line

INFINITY, NOT_A_NUMBER = 9.9e37, 9.91e37  # SCPI-99
IMPOSSIBLE = 1e30  # from here to infinity no instrument measures anything
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_WHOLE = re.compile(rf"({_NUMBER})\s*([A-Za-zµμΩω./%]*(?: ?[dDaA]\.?[cC]\.?)?)")
_OVERLOADED = re.compile(
    r"[+-]?(?:[O0]\.?L|\.OL|OL\.|OVLD|OVL|OVR|OVER|OVERLOAD|OVERFLOW|OFL|OVFL|OVRFLW|OVERRANGE|OVER-RANGE|OVRNG|OVRANGE|INF|INFINITY)"
    r"\.?",
    re.IGNORECASE,
)
_SEPARATORS = re.compile(r"[,;\s]+")
_AFTER_UNIT = re.compile(r"\s?[dDaA]\.?[cC]\.?$")
_OPTIONS = re.compile(
    r"(?P<word>ask|field|prefix|suffix|baud|frame|ends)\s+(?:“(?P<curly>[^”]*)”|\"(?P<quoted>[^\"]*)\"|(?P<bare>.+))",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class AnswerForm:
    """How an instrument answers, where that is more than one number.

    Attributes
    ----------
    prefix, suffix : str
        What stands before and after the number.
    field : int
        Which of several fields separated by commas, from 1; 0 where the number is all there is.
    """

    prefix: str = ""
    suffix: str = ""
    field: int = 0


PLAIN = AnswerForm()


@dataclass(frozen=True)
class Address:
    """Where an instrument answers, what it is asked, how it answers, and how its port is set where it is a serial one."""

    resource: str
    ask: str = ""
    form: AnswerForm = PLAIN
    line: SerialLine = USUAL_LINE


def read_address(text: str) -> Address:
    """Read ``TCPIP::10.0.0.7::5025::SOCKET; ask MEAS:VOLT?; field 2; prefix "NDCV"; suffix " V"``.

    Of a serial port also ``ASRL/dev/ttyUSB0::INSTR; baud 2400; frame 7E2; ends CR``.

    Raises
    ------
    LinkError
        Where something after the name is none of these.
    """
    resource, *options = (piece.strip() for piece in text.split(";"))
    found: dict[str, str] = {}
    for option in filter(None, options):
        match = _OPTIONS.fullmatch(option)
        if match is None:
            raise LinkError(
                worded("links.candor_cannot_read_after_the_address", option=option),
                value=option,
            )
        found[match["word"].lower()] = next(
            x for x in (match["curly"], match["quoted"], match["bare"]) if x is not None
        )
    field = found.get("field", "0")
    if not field.isdecimal():
        raise LinkError(worded("links.is_not_the_number_of_a", field=field), value=field)
    form = AnswerForm(found.get("prefix", ""), found.get("suffix", ""), int(field))
    return Address(resource, found.get("ask", ""), form, read_serial_line(found))


def read_answer(answer: str, unit: str = "", form: AnswerForm = PLAIN) -> float:
    """Return the reading that an answer is, SI.

    Parameters
    ----------
    answer : str
        The whole of it.
    unit : str
        The SI unit that is expected; an answer in another is not a reading. Empty for any.
    form : AnswerForm

    Raises
    ------
    OverloadError
        Where it says that the instrument is over its range.
    NoReadingError
        Where it is anything else than one number of that unit.
    """
    text = answer.strip()
    if any(_OVERLOADED.fullmatch(word) for word in _SEPARATORS.split(text)):
        raise OverloadError(worded("links.overload_the_instrument_is_over_its", shown=_shown(answer)), value=text)
    if text.lower() == "nan":
        raise NotANumberError(worded("links.no_reading_it_answered_not_a_number", text=text), value=text)
    if form.field:
        fields = text.split(",")
        if len(fields) < form.field:
            raise _no_reading(answer, worded("links.field_of_several", field=form.field))
        text = fields[form.field - 1].strip()
    if not (text.startswith(form.prefix) and text.endswith(form.suffix)):
        raise _no_reading(answer, worded("links.a_number_between_and", prefix=form.prefix, suffix=form.suffix))
    text = text[len(form.prefix) : len(text) - len(form.suffix)].strip()
    match = _WHOLE.fullmatch(text)
    if match is None:
        raise _no_reading(answer, "one number" if not unit else worded("links.one_number_in", unit=unit))
    return _value(answer, match[1], match[2], unit)


def _value(answer: str, number: str, written: str, unit: str) -> float:
    value = float(number)
    if math.isclose(abs(value), NOT_A_NUMBER, rel_tol=1e-6):
        raise NotANumberError(
            worded("links.no_reading_it_answered_not_a", shown=_shown(answer)), value=answer.strip()
        )
    if abs(value) >= INFINITY * (1 - 1e-9):
        raise OverloadError(
            worded("links.overload_the_instrument_is_over_its", shown=_shown(answer)), value=answer.strip()
        )
    if abs(value) >= IMPOSSIBLE:
        raise _no_reading(answer, worded("links.a_number_that_can_be_measured"))
    if not written:
        return value
    prefix, found = _unit(answer, written)
    if unit and found != unit:
        raise _no_reading(answer, worded("links.a_value_in", unit=unit))
    # By decimal figures: 230 mV is the double nearest 0.23.
    return float(Decimal(number) * Decimal(repr(prefix)))


def _unit(answer: str, written: str) -> tuple[float, str]:
    """Return prefix and unit of what stands behind a number.

    A capital M before anything but ohm and Hz is milli by IEEE 488.2 and mega by every book; a small m
    before ohm and Hz is as doubtful: neither is a reading.
    """
    bare = _AFTER_UNIT.sub("", written.strip()) or written.strip()
    if bare.lower() in UNITS:
        return 1.0, UNITS[bare.lower()]
    prefix, rest = bare[:1].replace("µ", "u").replace("μ", "u"), bare[1:]
    unit = UNITS.get(rest.lower())
    if bare[:3].lower() == "meg" and bare[3:].lower() in UNITS:
        return 1e6, UNITS[bare[3:].lower()]
    doubtful = unit is not None and prefix in "mM" and (prefix == "M") != (unit in ("ohm", "Hz"))
    known = PREFIXES.get(prefix if prefix in "mMGTk" else prefix.lower())
    if unit is None or doubtful or known is None:
        raise _no_reading(answer, worded("links.a_unit_that_candor_knows_in", written=written))
    return known, unit


def _no_reading(answer: str, expected: str) -> NoReadingError:
    return NoReadingError(
        worded("links.no_reading_it_answered_expected", shown=_shown(answer), expected=expected),
        value=answer.strip(),
        expected=expected,
    )


def _shown(answer: str) -> str:
    return answer.strip()[:40]
