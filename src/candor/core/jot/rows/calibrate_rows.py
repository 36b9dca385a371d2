"""Lines about what readings stand on: ranges and their points, frequency, the standard, room and line, a dead arrival."""

from __future__ import annotations

import re
from collections.abc import Callable

from candor.core.calibration.setup import KINDS, SetUpTerm, Which
from candor.core.errors import RangeError, ValueTextError
from candor.core.jot.evidence_meaning import AgainstJot, FrequencyJot, SetUpJot
from candor.core.jot.form import Said
from candor.core.jot.meaning import ConditionJot, DeadJot, PointsJot, RangeJot
from candor.core.jot.range_line import EXPECTED, understand_points, understand_range
from candor.core.jot.verb import Verb
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit, trimmed
from candor.core.worded import worded

MOST_HERTZ = 1e9
# What a room and a line can be, wide: outside it a slip of the pen is asked about.
POSSIBLE = {"celsius": (-30.0, 60.0, "°C"), "humidity": (0.0, 100.0, "%"), "line_volts": (1.0, 600.0, "V")}


def _range(said: Said) -> RangeJot:
    return understand_range(said["rest"])


def _points(said: Said) -> PointsJot:
    return understand_points(said["rest"], said.context.point)


def _frequency(said: Said) -> FrequencyJot:
    hertz = said["hertz"]
    if hertz > MOST_HERTZ:
        raise RangeError(
            worded(
                "jot.give_a_frequency_up_to", hertz=engineering(hertz, "Hz"), most_hertz=engineering(MOST_HERTZ, "Hz")
            ),
            value=said.line,
        )
    return FrequencyJot(hertz, (f"read at {engineering(hertz, 'Hz')}",))


def _against(said: Said) -> AgainstJot:
    name = said["name"].rstrip(".")
    return AgainstJot(name, (worded("jot.was_connected_when_they_were_read", name=name),))


def _dead(said: Said) -> DeadJot | None:
    if re.match(
        r"(?:on|right|cent(?:re|er)\w*|accurate|steady|still|quiet|flat|level|zero|band|spot|time)\b",
        said["reason"],
        re.I,
    ):
        return None  # a needle that is dead on is not dead
    reason = re.sub(r"^(because|as found)\s+", "", said["reason"], flags=re.I)
    return DeadJot(reason, (worded("jot.as_found_inoperative_because", reason=reason),))


def _celsius(said: Said) -> ConditionJot:
    value = possible_condition("celsius", said["celsius"], said.line)
    return ConditionJot("celsius", value, (in_unit(value, "°C"),))


def _humidity(said: Said) -> ConditionJot:
    value = possible_condition("humidity", said["share"] if said["share"] is not None else said["number"], said.line)
    return ConditionJot("humidity", value, (worded("jot.relative_humidity", value=trimmed(value)),))


def _line(said: Said) -> ConditionJot:
    volts = possible_condition("line_volts", said["volts"], said.line)
    return ConditionJot("line_volts", volts, (worded("jot.line_v", volts=trimmed(volts)),))


def possible_condition(which: str, value: float, written: str) -> float:
    """Return a condition of room or line ("celsius", °C; "humidity", %; "line_volts", V) where it can be.

    Raises
    ------
    ValueTextError
        Where it cannot: a question about what was `written`.
    """
    low, high, unit = POSSIBLE[which]
    if not low <= value <= high:
        said, span = trimmed(value), (trimmed(low), trimmed(high))
        asked = (
            worded("jot.expected_to_or_is_it_fahrenheit", value=said, unit=unit, low=span[0], high=span[1])
            if which == "celsius"
            else worded("jot.expected_to_is_a_decimal_point", value=said, unit=unit, low=span[0], high=span[1])
        )
        raise ValueTextError(asked, value=written)
    return value


def _set_up(which: Which) -> Callable[[Said], SetUpJot]:
    def means(said: Said) -> SetUpJot:
        kind = KINDS[which]
        share = 100 if kind.unit == "1" else 1  # typed in per cent
        term = SetUpTerm(which, (said["figure"] or 0.0) / share, (said["u"] or 0.0) / share)

        def figure(x: float) -> str:
            return f"{trimmed(100 * x, 3)} %" if kind.unit == "1" else engineering(x, kind.unit, 3)

        size = f"{figure(term.value)}, U {figure(term.expanded)}" if term.expanded else f"±{figure(term.value)}"
        return SetUpJot(term, (f"{kind.name} {size}" if term.value or term.expanded else f"{kind.name}: none",))

    return means


def _set_up_verbs() -> tuple[Verb, ...]:
    said: tuple[tuple[Which, str, str, str, str], ...] = (
        (
            "leads",
            "leads|lead|contacts",
            "small_ohms",
            "ohms of leads and contacts between the reference and the instrument",
            "0.05 ohm",
        ),
        ("thermal", "thermal emf|e.m.f.|voltage?", "V", "thermal e.m.f. in the leads", "2 uV"),
        ("hum", "hum|pick-up|pickup", "V", "hum that the leads pick up", "0.5 mV"),
        ("stray", "stray capacitance?", "F", "capacitance of leads and clips", "1 pF"),
        (
            "regulation",
            "source holds|moves to|within?",
            "percent",
            "how far the source moves while a reading is taken",
            "0.01 %",
        ),
    )
    return tuple(
        Verb(
            f"set-up: {which}",
            "calibrate",
            what,
            forms=(f"{words} ±? {{figure:{slot}}} [U {{u:{slot}}}]", f"{words} none|nothing"),
            examples=(KINDS[which].usual,),
            means=_set_up(which),
            titles={"figure": "how much", "u": f"U|{less}"},
        )
        for which, words, slot, what, less in said
    )


CALIBRATE = (
    Verb(
        "range",
        "calibrate",
        "a range of the instrument: how it is read, its end, divisions, and the maker's limit",
        forms=("range|ranges {rest:ranged}",),
        examples=(
            EXPECTED,
            "range AC volts 150 V 30 div 5%fs 60 Hz",
            "range DC volts 2 6 20 60 V 40 div 2%fs usual points",
            "range balance 3 V 60 div zero centre 3%fs",
            "range Ohms called R×100 1.2 kohm centre zero right 3% of arc",
            "range level -15..+3 dB ±0.4 dB",
            "range current 2 mA marks 0@0 0.2@8 0.5@24 1@52 2@90 5 div between 3%fs",
            "range capacity 0.5 uF 50 div dial at a null 5% of reading",
            "range leak lamp 1 Mohm threshold on below 25% of reading",
            "range DC volts 600 V 60 div 2%fs stands 900 V for 5 s",
            "range vertical 0.2 V/div 8 div 3% of reading",
            "range bias 20 V as a source steps 2 5 10 20 V 3% of reading",
            "range eye look: closes, closes half | stays open",
            "range turnover calculated a - b of a dc+/60/30, b dc-/60/30 comes to 0 V ±0.6 V",
        ),
        means=_range,
        titles={"rest": "the range in words"},
    ),
    Verb(
        "points",
        "calibrate",
        "points to be read on the range in hand",
        forms=("points|point {rest:numbers}",),
        examples=("points 10 20 30",),
        means=_points,
        titles={"rest": "points"},
    ),
    Verb(
        "frequency",
        "calibrate",
        "at which frequency a.c. is read",
        forms=("frequency {hertz:Hz}", "read @ {hertz:Hz}"),
        examples=("frequency 60 Hz", "read at 1 kHz"),
        means=_frequency,
        titles={"hertz": "frequency"},
        begins=r"frequency\s+\d",
    ),
    Verb(
        "read against",
        "calibrate",
        "which standard was connected, said afterwards",
        forms=("was|were read against the? {name:text}",),
        examples=("was read against the bench meter",),
        means=_against,
        titles={"name": "standard"},
    ),
    Verb(
        "dead",
        "calibrate",
        "it arrived dead: there is nothing to read as found",
        forms=("inoperative|dead {reason:text}",),
        examples=("dead because the line fuse is open",),
        means=_dead,
        titles={"reason": "why nothing can be read"},
    ),
    Verb(
        "temperature",
        "calibrate",
        "the room, in °C",
        forms=("temp|temperature|room is? {celsius:celsius}",),
        examples=("temp 23.1",),
        means=_celsius,
        titles={"celsius": "°C"},
    ),
    Verb(
        "humidity",
        "calibrate",
        "the room's relative humidity",
        forms=("rh|humidity is? {share:percent}", "rh|humidity is? {number:number}"),
        examples=("rh 45 %",),
        means=_humidity,
        titles={"share": "relative humidity"},
    ),
    Verb(
        "line",
        "calibrate",
        "the line voltage",
        forms=("line is? {volts:V}",),
        examples=("line 118", "line 231 V"),
        means=_line,
        titles={"volts": "line voltage"},
    ),
    *_set_up_verbs(),
)
