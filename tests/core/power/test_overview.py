"""A long record at any width, against brute force; meters as lines."""

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from candor.core.errors import ValueTextError
from candor.core.jot.meter_line import MeterLine, read_meters
from candor.core.power.overview import Overview


@example(5288, 10, 0.0, 0.5, 553)
@given(st.integers(1, 30_000), st.integers(10, 400), st.floats(0, 1), st.floats(0, 1), st.integers(0, 10**6))
def test_no_spike_is_lost_and_no_time_runs_back(count, pixels, one, other, seed):
    chance = np.random.default_rng(seed)
    record = np.stack((np.arange(count) / 10, chance.normal(size=count)), 1)
    record[chance.integers(count), 1] = 50.0
    overview = Overview()
    for part in (count // 3, count):
        overview.grow(record[:part])
    begin, end = sorted((one * count / 10, other * count / 10))
    times, values = overview.between(record, begin, end, pixels)
    inside = record[(record[:, 0] >= begin) & (record[:, 0] <= end), 1]
    assert len(times) == len(values) <= 4 * pixels + 2
    assert (np.diff(times) >= 0).all()
    if len(inside):
        assert values.max() >= inside.max()
        assert values.min() <= inside.min()


def test_meters_are_read_a_line_each():
    assert read_meters("B1 TCPIP::10.0.0.2::5025::SOCKET\n\nwatts simulated MEAS:POW? every 2 s") == (
        MeterLine("b1", "TCPIP::10.0.0.2::5025::SOCKET"),
        MeterLine("watts", "simulated", "MEAS:POW?", 2.0),
    )
    form = "ASRL/dev/ttyUSB0::INSTR; baud 2400; field 2"  # how it answers belongs to its address, blanks and all
    assert read_meters(f"c- {form} every 1 s") == (MeterLine("c-", form, "", 1.0),)
    for text, words in (
        ("", "at least one meter"),
        ("b1", "has no address"),
        ("b1 x\nb1 y", "read by two meters"),
        ("b1 x every 0 s", "Expected 0.02"),
    ):
        with pytest.raises(ValueTextError, match=words):
            read_meters(text)
