"""The tester over its socket: the real driver against the simulated instrument, and links that die."""

import socket
import threading
import time

import pytest

from candor.core.parts.leak_run import Plan
from candor.links.errors import LinkError
from candor.links.leak_session import LeakSession
from candor.links.simulated import LOOPBACK, SimulatedTester
from candor.links.simulated_capacitor import Bench, OldCapacitor
from candor.links.tester import LeakageTester

GOOD = OldCapacitor(40e-6, 350, 100e-6, 2e-3, 0.6)


@pytest.fixture
def tester():
    with SimulatedTester(Bench(GOOD), speed=200) as made:
        yield made


def run(plan, tester, path, per_second=100.0):
    return LeakSession(plan, lambda: LeakageTester(tester.resource, 1.0), path, per_second)


def wait(session, until, seconds=20.0):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if until(session.status()):
            return session.status()
        time.sleep(0.01)
    raise AssertionError(session.status())


def test_driver_and_instrument_speak(tester):
    with LeakageTester(tester.resource) as link:
        assert link.identity.startswith("Candor,simulated")
        assert (link.series_ohms, link.discharge_ohms) == (23e3, 4.7e3)
        link.set_volts(100)
        link.switch(True)
        time.sleep(0.1)
        sample = link.read()
        assert sample.volts > 50
        link.switch(False)
        assert tester.answer("SYST:ERR?") == '0,"No error"'
        assert tester.answer("NONSENSE 3") is None
        assert tester.answer("SYST:ERR?").startswith("-113")


def test_a_run_to_its_end_is_measured_safe_and_kept(tester, tmp_path):
    session = run(Plan(300, 40e-6, 2e-3, dwell_s=60), tester, tmp_path / "run.csv")
    session.start()
    status = wait(session, lambda s: s.phase == "ended")
    assert status.outcome == "under the limit"
    assert status.safe
    assert abs(status.last.volts) <= 60
    assert tester.bench.source_volts == 0
    assert not tester.bench.on
    lines = (tmp_path / "run.csv").read_text().splitlines()
    assert lines[0] == "seconds,volts,amperes,source_volts"
    assert len(lines) - 1 == status.readings
    fell = [float(line.split(",")[2]) for line in lines[1:] if float(line.split(",")[0]) >= 5 * 23e3 * 40e-6]
    assert fell[-1] <= status.leakage <= fell[0]  # the mean of the last seconds of a fall, long after charging


@pytest.mark.parametrize("how", ["cancel", "close"])
def test_it_can_be_stopped_at_any_time_source_first(tester, tmp_path, how):
    session = run(Plan(300, 40e-6, 1e-6, dwell_s=1e5, most_s=1e6), tester, tmp_path / "run.csv")
    session.start()
    wait(session, lambda s: s.readings > 20)
    begun = time.monotonic()
    if how == "close":
        status = session.close()
        assert time.monotonic() - begun < 2
    else:
        session.cancel()
        status = wait(session, lambda s: s.phase == "ended")
        assert status.safe
    assert status.phase == "ended"
    wait(session, lambda _: not session.alive)  # its last word is out before its thread is gone
    assert (tester.bench.source_volts, tester.bench.on) == (0, False)
    assert "stopped by hand" in status.why
    assert status.readings >= 20


class Dying:
    """An instrument that answers so many readings and then hangs up or falls silent."""

    def __init__(self, readings, silent=False, nonsense=False):
        self.left, self.silent, self.nonsense = readings, silent, nonsense
        self.told = []
        self._socket = socket.create_server((LOOPBACK, 0))
        self._socket.settimeout(5)
        self.resource = f"TCPIP::{LOOPBACK}::{self._socket.getsockname()[1]}::SOCKET"
        self._done = threading.Event()
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _serve(self):
        connection, _ = self._socket.accept()
        with connection:
            connection.settimeout(5)
            for line in connection.makefile("r"):
                word = line.split()[0]
                self.told.append(line.strip())
                if word == "READ?":
                    self.left -= 1
                    if self.left < 0:
                        if self.silent:
                            self._done.wait(5)
                        return
                    connection.sendall(b"1e2,x,3\n" if self.nonsense else b"280.0,1.2e-4,%d\n" % -self.left)
                elif word.endswith("?"):
                    connection.sendall(b"1000\n")

    def close(self):
        self._done.set()
        self._thread.join(5)
        self._socket.close()


@pytest.mark.parametrize(("silent", "nonsense"), [(False, False), (True, False), (False, True)])
def test_a_link_that_dies_in_the_middle(tmp_path, silent, nonsense):
    """What was read is kept, "safe" is not said, and the sentence says to switch off by hand."""
    dying = Dying(30, silent, nonsense)
    session = LeakSession(
        Plan(300, 40e-6, 1e-3), lambda: LeakageTester(dying.resource, 0.4), tmp_path / "run.csv", per_second=200
    )
    session.start()
    status = wait(session, lambda s: s.phase == "ended")
    dying.close()
    assert "switch it off by hand" in status.why
    assert not status.safe
    kept = (tmp_path / "run.csv").read_text().splitlines()
    assert len(kept) - 1 == status.readings
    assert nonsense or status.readings >= 25
    if nonsense:
        assert "expected volts, amperes and seconds" in status.why


def test_nothing_answers(tmp_path):
    with pytest.raises(LinkError, match=r"Nothing answers as .*expected a VISA name"):
        LeakageTester(f"TCPIP::{LOOPBACK}::9::SOCKET", 0.3)
    with pytest.raises(LinkError, match="expected a VISA name"):
        LeakageTester("no such thing", 0.3)
    session = LeakSession(Plan(300, 40e-6, 1e-3), lambda: LeakageTester("nonsense", 0.3), tmp_path / "run.csv")
    session.start()
    assert "expected a VISA name" in wait(session, lambda s: s.phase == "ended").why
    assert not (tmp_path / "run.csv").exists()


def test_a_file_that_cannot_be_written_ends_the_run_with_the_source_off(tester, tmp_path):
    session = run(Plan(300, 40e-6, 1e-3), tester, tmp_path / "no folder" / "run.csv")
    session.start()
    assert "could not be written" in wait(session, lambda s: s.phase == "ended").why
    assert not tester.bench.on


def test_breakdown_and_reforming_of_the_simulated_part():
    """Above its breakdown the current runs away; forming lowers the leakage for good."""
    bench = Bench(OldCapacitor(10e-6, 350, 50e-6, 3e-3, 0.6, breaks_down_at=200), noise_amperes=0.0)
    bench.on, bench.source_volts = True, 180
    bench.advance(5)
    before = bench.current()
    bench.advance(600)
    assert bench.current() < before / 3
    bench.source_volts = 300
    bench.advance(5)
    assert bench.current() > 2e-3
    bench.on = False
    bench.advance(0.05)
    quick = bench.volts
    bench.on = True
    bench.source_volts = 0
    assert quick < 200


def test_absorption_brings_a_voltage_back():
    """A discharged capacitor recovers some volts: why it is measured and not only counted down."""
    bench = Bench(OldCapacitor(10e-6, 350, 0, 0, absorbed=0.1), noise_amperes=0.0, discharge_ohms=100)
    bench.on, bench.source_volts = True, 300
    bench.advance(200)
    bench.on = False
    bench.advance(0.02)
    low = bench.volts
    bench.discharge_ohms = 1e9
    bench.advance(30)
    assert bench.volts > low + 3
