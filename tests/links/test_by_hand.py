"""A run by hand: the same fit, limit and stop rules, and "safe" only of volts that were typed."""

from dataclasses import replace

import pytest

from candor.core.errors import CandorError, RangeError
from candor.core.leakage.leakage_run import Plan
from candor.core.leakage.leakage_watch import LeakageWatch
from candor.links.by_hand import HandRun

PLAN = Plan(target_volts=280, capacitance=40e-6, limit_amperes=500e-6, dwell_s=300)


class Seconds:
    def __init__(self):
        self.now = 0.0

    def __call__(self):
        return self.now


@pytest.fixture
def clock():
    return Seconds()


@pytest.fixture
def session(tmp_path, clock):
    made = HandRun(LeakageWatch(PLAN), tmp_path / "hand.csv", clock)
    made.start()
    return made


def feed(session, clock, current, step=15.0, most=60, ohms=PLAN.series_ohms):
    for _ in range(most):
        if session.status().phase != "running":
            return
        clock.now += step
        amperes = current(clock.now)
        session.take(session.status().level - amperes * ohms, amperes)


def test_a_reading_every_quarter_minute_is_enough_for_a_verdict(session, clock, tmp_path):
    feed(session, clock, lambda t: 100e-6 + 3e-3 * t**-0.7)
    status = session.status()
    assert (status.phase, status.outcome) == ("discharging", "under the limit")
    assert status.seen.calculated.decay is not None
    assert status.seen.dwell_s >= 300
    session.take(180.0)
    assert (session.alive, session.status().safe) == (True, False)
    session.take(11.0)
    assert (session.alive, session.status().safe) == (False, True)
    rows = (tmp_path / "hand.csv").read_text().splitlines()
    assert [r.split(",")[3] for r in rows[1:3]] == ["140", "280"]  # half the voltage first
    assert len((tmp_path / "hand.csv").read_text().splitlines()) == status.readings + 1


def test_over_the_limit_and_a_hot_one(session, clock):
    feed(session, clock, lambda t: 800e-6 + 1e-3 * t**-0.9)
    assert session.status().outcome == "over the limit"


def test_it_stops_when_it_gets_hot(tmp_path, clock):
    plan = replace(PLAN, series_ohms=5e3)
    session = HandRun(LeakageWatch(plan), tmp_path / "hand.csv", clock)
    session.start()
    feed(session, clock, lambda _: 6e-3, ohms=5e3)
    assert "of heat in it" in session.status().why


@pytest.mark.parametrize("how", ["cancel", "close"])
def test_stopped_by_hand_or_by_closing(session, clock, how):
    session.take(278.0, 1e-4)
    getattr(session, how)()
    status = session.status()
    assert "stopped by hand" in status.why
    assert status.phase == ("ended" if how == "close" else "discharging")
    assert ("not measured safe. Discharge it and measure before you touch" in status.warning) == (how == "close")
    assert not status.safe
    assert status.readings == 1


@pytest.mark.parametrize(("volts", "amperes"), [(-6000, 1e-6), (6000, 1e-6), (280, -1e-6), (280, 3)])
def test_figures_that_cannot_be(session, volts, amperes):
    with pytest.raises(RangeError, match="Expected: up to"):
        session.take(volts, amperes)
    assert session.status().readings == 0


def test_a_file_that_cannot_be_written_loses_nothing(tmp_path, clock):
    with pytest.raises(CandorError, match="could not be written"):
        HandRun(LeakageWatch(PLAN), tmp_path / "no" / "hand.csv", clock).start()


def test_every_typed_reading_is_on_the_disk(session, clock, monkeypatch):
    synced = []
    monkeypatch.setattr("os.fsync", synced.append)
    for number, volts in enumerate((139.0, 278.0, 278.0), 1):
        clock.now += 15
        session.take(volts, 1e-4)
        assert len(synced) == number


def follow(session, *volts):
    for each in volts:
        session.take(each, 1e-4)


def test_one_level_is_no_proof_by_hand_either(session):
    follow(session, 139.0)
    session.cancel()
    session.take(0.0)
    assert not session.status().safe
    assert "not seen to follow" in session.close().warning


def test_typed_volts_that_do_not_follow_end_it_at_half(session, clock):
    for _ in range(3):
        clock.now += 5
        if session.status().phase == "running":
            session.take(0.278, 1e-4)
    assert "do not follow the source" in session.status().why
    assert session.watch.level <= 140


@pytest.mark.parametrize("left", [80.0, -80.0])
def test_what_is_left_counts_either_way_round(session, left):
    follow(session, 139.0, 278.0)
    session.cancel()
    session.take(left)
    assert (session.alive, session.status().safe) == (True, False)
    session.take(left / 10)
    assert session.status().safe


def test_closed_after_it_was_measured_safe_nothing_is_warned_of(session):
    follow(session, 139.0, 278.0)
    session.cancel()
    session.take(11.0)
    assert session.close().warning == ""


@pytest.mark.waits_a_minute
def test_typed_volts_are_safe_only_when_they_still_are_a_minute_later(session, clock):
    follow(session, 139.0, 278.0)
    session.cancel()
    for after, volts, phase in (
        (1, 11.0, "discharging"),
        (30, 80.0, "discharging"),
        (31, 9.0, "discharging"),
        (70, 9.2, "discharging"),  # over a minute after it was low first, not after it climbed
        (92, 9.5, "ended"),
    ):
        clock.now = 1000 + after
        session.take(volts)
        assert session.status().phase == phase
    assert session.status().safe
