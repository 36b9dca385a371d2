"""What readings stand on, as it is typed: the frequency, the standard named afterwards; and a.c. by the name of a range."""

import pytest

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot import CheckJot, JotContext, NoteJot, understand
from candor.core.jot.evidence_meaning import AgainstJot, FrequencyJot
from candor.core.jot.range_line import understand_range


@pytest.mark.parametrize(
    ("text", "means"),
    [
        ("frequency 60 Hz", FrequencyJot(60.0)), ("read at 1 kHz", FrequencyJot(1000.0)), ("frequency 50", FrequencyJot(50.0)),
        ("was read against the bench meter", AgainstJot("bench meter")), ("were read against M-3", AgainstJot("M-3")),
    ],
)  # fmt: skip
def test_lines_say_what_readings_stand_on(text, means):
    found = understand(text, JotContext())
    assert type(found) is type(means)
    assert vars(found) | {"chips": ()} == vars(means)


def test_what_is_no_frequency_is_refused_and_other_lines_are_left(text="frequency 0 Hz"):
    with pytest.raises(RangeError, match="above zero"):
        understand(text, JotContext())
    with pytest.raises(CandorError):
        understand("frequency 3 V", JotContext())
    assert isinstance(understand("the frequency drifts", JotContext()), NoteJot)


@pytest.mark.parametrize(
    ("text", "function", "unit", "current", "hertz", "full_scale"),
    [
        ("AC volts 50 V 50 div 5%fs 60 Hz", "AC volts", "V", "a.c.", 60.0, 50.0),
        ("AC volts 50 V 50 div 5%fs", "AC volts", "V", "a.c.", 0.0, 50.0),
        ("output 10 V 50 div at 1 kHz", "output", "V", "a.c.", 1000.0, 10.0),
        ("a.c. current 30 mA 30 div", "a.c. current", "A", "a.c.", 0.0, 30e-3),
        ("DC volts + 30 V 30 div", "DC volts +", "V", "d.c.", 0.0, 30.0),
        ("30 V 30 div", "Volts", "V", "", 0.0, 30.0),
        ("frequency 300 kHz 30 div", "frequency", "Hz", "", 0.0, 300e3),
        ("Capacitance 1 uF 50 div", "Capacitance", "F", "", 0.0, 1e-6),
    ],
)
def test_a_range_knows_its_current_and_its_frequency(text, function, unit, current, hertz, full_scale):
    jot = understand_range(text)
    assert (jot.function, jot.unit, jot.current, jot.hertz) == (function, unit, current, hertz)
    assert jot.full_scale == pytest.approx(full_scale)


@pytest.mark.parametrize("text", ["checked no change", "checked ok", "checked nothing", "checked looks good"])
def test_what_only_says_that_somebody_looked_proves_no_change(text):
    with pytest.raises(ValueTextError, match="proves nothing"):
        understand(text, JotContext())
    assert isinstance(understand("checked rail 312 V, ripple gone", JotContext()), CheckJot)
