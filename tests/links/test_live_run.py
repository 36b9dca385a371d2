"""The tester over its socket: the real driver against the simulated instrument, and links that die."""

import socket
import threading
import time

import pytest

from candor.core.leakage.leakage_run import Plan
from candor.core.leakage.leakage_watch import LeakageWatch
from candor.core.live import Advice, Reading
from candor.links.link_errors import LinkError
from candor.links.live_run import LiveRun, _switch_off
from candor.links.loopback import LOOPBACK
from candor.links.simulated import SimulatedTester
from candor.links.simulated_part import Clips, OldCapacitor
from candor.links.tester import LeakageTester

GOOD = OldCapacitor(farads=40e-6, rated_volts=350, final_amperes=100e-6, unformed_amperes=2e-3, exponent=0.6)


@pytest.fixture
def tester():
    with SimulatedTester(Clips(GOOD), speed=200) as made:
        yield made


def run(plan, tester, path, per_second=100.0):
    made = lambda: LeakageTester(tester.resource, 1.0)  # noqa: E731
    return LiveRun(LeakageWatch(plan), made, path, per_second, rate=tester.speed)


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
        link.set_level(100)
        link.switch(True)
        time.sleep(0.1)
        sample = link.read()
        assert sample.values["volts"] > 50
        link.switch(False)
        assert tester.answer("SYST:ERR?") == '0,"No error"'
        assert tester.answer("NONSENSE 3") is None
        assert tester.answer("SYST:ERR?").startswith("-113")


def test_a_run_to_its_end_is_measured_safe_and_kept(tester, tmp_path):
    session = run(Plan(300, 40e-6, 2e-3, dwell_s=60), tester, tmp_path / "run.csv")
    session.start()
    status = wait(session, lambda s: s.phase == "ended")
    assert (status.outcome, status.why) == ("under the limit", "1 min at 300 V have passed")
    assert status.safe
    assert abs(status.last.values["volts"]) <= 60
    assert tester.clips.source_volts == 0
    assert not tester.clips.on
    lines = (tmp_path / "run.csv").read_text().splitlines()
    assert lines[0] == "seconds,volts,amperes,source_volts"
    assert len(lines) - 1 == status.readings
    fell = [float(line.split(",")[2]) for line in lines[1:] if float(line.split(",")[0]) >= 5 * 23e3 * 40e-6]
    assert fell[-1] <= status.seen.leakage <= fell[0]  # the mean of the last seconds of a fall, long after charging


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
    assert (tester.clips.source_volts, tester.clips.on) == (0, False)
    assert "stopped by hand" in status.why
    assert status.readings >= 20


class Scripted:
    """An instrument that answers READ? as it is told; it keeps every command, its level, and whether its output is on.

    `answer(self, n)` returns the bytes for the n-th READ?, None to say nothing, or raises EOFError to hang up.
    """

    def __init__(self, answer):
        self._answer, self.asked, self.told, self.on = answer, 0, [], False
        self.level = 0.0
        self._begun = time.monotonic()
        self._socket = socket.create_server((LOOPBACK, 0))
        self._socket.settimeout(0.05)
        self.resource = f"TCPIP::{LOOPBACK}::{self._socket.getsockname()[1]}::SOCKET"
        self.done = threading.Event()
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    @property
    def seconds(self):
        return time.monotonic() - self._begun

    def reading(self, volts=None, seconds=None, off=8.0):
        """What an honest tester answers: what its source is set to, less the drop; `off` once it is off."""
        volts = volts if volts is not None else self.level - 1.2e-4 * 1000 if self.on else off
        return b"%.1f,1.2e-4,%.8f\n" % (volts, self.seconds if seconds is None else seconds)

    def _serve(self):
        while not self.done.is_set():
            try:
                connection, _ = self._socket.accept()
            except TimeoutError:
                continue
            with connection:
                connection.settimeout(0.05)
                try:
                    self._talk(connection)
                except (OSError, EOFError):
                    continue

    def _talk(self, connection):
        waiting = b""
        while not self.done.is_set():
            try:
                received = connection.recv(4096)
            except TimeoutError:
                continue
            if not received:
                return
            *lines, waiting = (waiting + received).split(b"\n")
            for line in lines:
                command = line.decode()
                self.told.append(command)
                if command.startswith("OUTP"):
                    self.on = command.endswith("ON")
                elif command.startswith("SOUR:VOLT "):
                    self.level = float(command.split()[1])
                elif command == "SOUR:VOLT?":
                    connection.sendall(b"%.6e\n" % self.level)
                elif command == "READ?":
                    self.asked += 1
                    answer = self._answer(self, self.asked)
                    for piece in [answer] if isinstance(answer, bytes) else answer or ():
                        connection.sendall(piece)
                elif command.endswith("?"):
                    connection.sendall(b"1000\n")

    def close(self):
        self.done.set()
        self._thread.join(5)
        self._socket.close()


@pytest.fixture
def scripted():
    made = []

    def make(answer):
        made.append(Scripted(answer))
        return made[-1]

    yield make
    for one in made:
        one.close()


def session_on(tester, path, plan=None, timeout_s=0.4, rate=1.0):
    watch = LeakageWatch(plan or Plan(300, 40e-6, 1e-3))
    session = LiveRun(watch, lambda: LeakageTester(tester.resource, timeout_s), path, per_second=100, rate=rate)
    session.start()
    return session


def off_in_order(told):
    """The last two commands but questions: source to zero, then off."""
    return [word for word in told if not word.endswith("?")][-2:] == ["SOUR:VOLT 0", "OUTP OFF"]


def test_time_begins_with_the_source_not_with_the_link(scripted, tmp_path, monkeypatch):
    """A pause between the first look and the switch is not a charging time: else charging would count as heat and leakage."""
    real = LeakageTester.switch

    def slowly(self, on):
        if on:
            time.sleep(0.3)
        real(self, on)

    monkeypatch.setattr(LeakageTester, "switch", slowly)
    tester = scripted(lambda tester, _: tester.reading(off=1.0))
    session = session_on(tester, tmp_path / "run.csv")
    wait(session, lambda s: s.readings >= 3)
    session.close()
    first = (tmp_path / "run.csv").read_text().splitlines()[1]
    assert float(first.split(",")[0]) < 0.2


def dies(how):
    def answer(tester, n):
        if n <= 30:
            return tester.reading()
        if how == "hangs up":
            raise EOFError
        return {"silent": b"", "nonsense": b"1e2,x,3\n"}[how]

    return answer


@pytest.mark.parametrize("how", ["hangs up", "silent", "nonsense"])
def test_a_link_that_dies_in_the_middle(scripted, tmp_path, how):
    """What was read is kept, "safe" is not said, the source is told off all the same, and the warning says to do it by hand."""
    tester = scripted(dies(how))
    session = session_on(tester, tmp_path / "run.csv")
    status = wait(session, lambda s: s.phase == "ended")
    assert "switch it off by hand" in status.warning
    assert not status.safe
    kept = (tmp_path / "run.csv").read_text().splitlines()
    # One was before the output was on, one is where time begins; on a busy machine some more may be of before it was on.
    assert len(kept) - 1 == status.readings and 20 <= status.readings <= 28
    assert ("expected volts, amperes and seconds" if how == "nonsense" else "no answer") in status.why
    assert off_in_order(tester.told)
    assert not tester.on


def test_a_garbled_answer_and_the_source_is_off_before_anything_is_asked(scripted, tmp_path):
    def answer(tester, n):
        return b"?!\n" if n == 10 else tester.reading(off=3.0)

    tester = scripted(answer)
    status = wait(session_on(tester, tmp_path / "run.csv"), lambda s: s.phase == "ended")
    after = tester.told[[i for i, word in enumerate(tester.told) if word == "READ?"][9] + 1 :]
    assert after[:2] == ["SOUR:VOLT 0", "OUTP OFF"]
    assert status.safe  # it was measured, by the same link
    assert (status.warning, status.last.values["volts"]) == ("", 3.0)


@pytest.mark.parametrize("stands", [267.0, -300.0])
def test_what_stays_charged_is_not_safe_and_is_warned_of(scripted, tmp_path, stands):
    """Minus 300 V is as dangerous as plus."""
    tester = scripted(lambda tester, _: tester.reading(stands))
    session = session_on(tester, tmp_path / "run.csv")
    wait(session, lambda s: s.readings > 5)
    session.cancel()
    wait(session, lambda s: s.phase == "discharging" and s.last.values["volts"] == stands)
    time.sleep(0.2)
    status = session.close()
    assert (status.phase, status.safe) == ("ended", False)
    assert f"{abs(stands):g} V stood on the part after the source was off: not measured safe" in status.warning


def test_an_error_nobody_thought_of_leaves_the_source_off_and_is_said(scripted, tmp_path, monkeypatch):
    monkeypatch.setattr(threading, "excepthook", lambda _: None)
    monkeypatch.setattr("candor.core.leakage.leakage_run.LeakageRun.take", lambda *_: 1 / 0)
    tester = scripted(lambda tester, _: tester.reading(off=2.0))
    session = session_on(tester, tmp_path / "run.csv")
    status = wait(session, lambda s: s.phase == "ended")
    assert "not foreseen" in status.why
    assert off_in_order(tester.told)
    assert (status.safe, status.warning, tester.on) == (True, "", False)


def trickle(tester, _):
    """One byte each 30 ms, never a line feed: longer than any deadline."""
    while not tester.done.is_set():
        time.sleep(0.03)
        yield b"1"


def flood(tester, _):
    while not tester.done.is_set():
        yield b"7" * 4096


@pytest.mark.parametrize("how", [trickle, flood])
def test_a_stream_without_an_end_is_cut_and_stop_works_within_a_second(scripted, tmp_path, how):
    tester = scripted(lambda tester, n: tester.reading() if n < 10 else how(tester, n))
    session = session_on(tester, tmp_path / "run.csv", timeout_s=1.0 if how is flood else 3.0)
    if how is trickle:
        wait(session, lambda _: tester.asked >= 10)  # in the middle of an answer
        time.sleep(0.1)
        begun = time.monotonic()
        session.cancel()
        wait(session, lambda s: s.phase == "discharging")
        assert time.monotonic() - begun < 1.0
        tester.done.set()
        assert "switch it off by hand" in session.close(0.1).warning
        wait(session, lambda _: not session.alive)
        return
    status = wait(session, lambda s: s.phase == "ended")
    assert "1000 bytes" in status.why
    assert "switch it off by hand" in status.warning


@pytest.mark.parametrize(
    ("answer", "why"),
    [
        (b"9.9E37,1e-6,%.3f\n", "overload"),
        (b"9.91E37,1e-6,%.3f\n", "overload"),
        (b"nan,1e-6,%.3f\n", "overload"),
        (b"inf,1e-6,%.3f\n", "overload"),
        (b"280,1e-4,0.01\n", "stands still"),
    ],
)
def test_what_is_no_reading_is_not_taken(scripted, tmp_path, monkeypatch, answer, why):
    """IEEE 488.2 and SCPI-99: 9.9E37 stands for infinity, 9.91E37 for not a number. And a clock must go on."""
    monkeypatch.setattr("candor.links.live_run._NO_READING_S", 0.3)

    def answers(tester, n):
        return tester.reading() if n < 10 else answer % tester.seconds if b"%" in answer else answer

    tester = scripted(answers)
    status = wait(session_on(tester, tmp_path / "run.csv"), lambda s: s.phase == "ended")
    assert why in status.why
    assert status.readings <= 9
    assert status.last.values["volts"] > 100
    assert not status.safe
    assert "switch it off by hand" in status.warning


def test_safe_is_said_only_of_readings_later_than_the_off_command(scripted, tmp_path):
    """A tester that answers with what it measured seconds ago: its low volts of then say nothing of now."""
    low, cancelled = [], []

    def answer(tester, n):
        if tester.on or not low:
            if not cancelled:  # what is asked while the off-command is on its way is not a reading of before
                low.append(tester.seconds)
            return tester.reading(2.0)
        if tester.seconds < tester.off_at + 0.6:
            return tester.reading(2.0, seconds=low[-1] + 1e-7 * n)  # late
        return tester.reading(121.0)

    tester = scripted(answer)
    tester.off_at = 1e9
    session = session_on(tester, tmp_path / "run.csv")
    wait(session, lambda s: s.readings > 5)
    cancelled.append(True)
    session.cancel()
    wait(session, lambda s: s.phase == "discharging")
    tester.off_at = tester.seconds
    wait(session, lambda s: s.last.values["volts"] == 121.0)
    assert not session.close().safe


def test_lines_nobody_asked_for_are_thrown_away(scripted):
    """Two lines an answer: the second is not taken for the next answer."""
    tester = scripted(lambda tester, n: tester.reading(float(n)) + tester.reading(-1.0))
    with LeakageTester(tester.resource, 1.0) as link:
        for n in range(1, 6):
            assert link.read().values["volts"] == n
            time.sleep(0.02)


def test_the_programs_own_clock_ends_a_run_too(scripted, tmp_path, monkeypatch):
    monkeypatch.setattr("candor.links.live_run._LATE_S", 0.2)
    monkeypatch.setattr("candor.core.leakage.leakage_watch._PROVED_WITHIN_S", 0.1)
    tester = scripted(lambda tester, _: tester.reading(seconds=tester.seconds / 20, off=1.0))
    plan = Plan(300, 40e-6, 1e-3, most_s=0.5)
    status = wait(session_on(tester, tmp_path / "run.csv", plan), lambda s: s.phase == "ended")
    assert "program's own clock" in status.why
    assert status.safe


@pytest.mark.parametrize("ohms", ["0", "nan", "inf", "-5", "open"])
def test_a_tester_whose_resistors_cannot_be_is_refused_in_a_sentence(ohms):
    with SimulatedTester(Clips(GOOD)) as tester:
        answer = tester.answer
        tester.answer = lambda command: ohms if command == "SYST:SER:RES?" else answer(command)
        with pytest.raises(LinkError, match="expected ohms above zero"):
            LeakageTester(tester.resource, 1.0)


def test_a_full_disk_ends_the_run_discharged_and_measured(tester, tmp_path, monkeypatch):
    """The readings cannot be kept; the part is made safe all the same."""
    session = run(Plan(300, 40e-6, 1e-6, dwell_s=1e5, most_s=1e6), tester, tmp_path / "run.csv")
    session.start()
    wait(session, lambda s: s.readings > 20)

    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    status = wait(session, lambda s: s.phase == "ended")
    assert "No space left on device" in status.why
    assert status.safe
    assert abs(status.last.values["volts"]) <= 60
    assert (tester.clips.source_volts, tester.clips.on) == (0, False)


def test_readings_are_synced_to_the_disk_while_it_runs(tester, tmp_path, monkeypatch):
    synced = []
    monkeypatch.setattr("os.fsync", synced.append)
    session = run(Plan(300, 40e-6, 1e-6, dwell_s=1e5, most_s=1e6), tester, tmp_path / "run.csv")
    session.start()
    wait(session, lambda _: len(synced) >= 1)
    kept = len((tmp_path / "run.csv").read_text().splitlines())
    session.close()
    assert kept > 10


def test_nothing_answers(tmp_path):
    with pytest.raises(LinkError, match=r"Nothing answers as .*Expected: a VISA name"):
        LeakageTester(f"TCPIP::{LOOPBACK}::9::SOCKET", 0.3)
    with pytest.raises(LinkError, match="Expected: a VISA name"):
        LeakageTester("no such thing", 0.3)
    session = LiveRun(
        LeakageWatch(Plan(300, 40e-6, 1e-3)), lambda: LeakageTester("nonsense", 0.3), tmp_path / "run.csv"
    )
    session.start()
    assert "Expected: a VISA name" in wait(session, lambda s: s.phase == "ended").why
    assert not (tmp_path / "run.csv").exists()


def test_a_file_that_cannot_be_written_ends_the_run_with_the_source_off(tester, tmp_path, monkeypatch):
    monkeypatch.setattr("candor.links.live_run._UNPROVED_S", 0.3)
    session = run(Plan(300, 40e-6, 1e-3), tester, tmp_path / "no folder" / "run.csv")
    session.start()
    assert "could not be written" in wait(session, lambda s: s.phase == "ended").why
    assert not tester.clips.on


def test_breakdown_and_reforming_of_the_simulated_part():
    """Above its breakdown the current runs away; forming lowers the leakage for good."""
    bench = Clips(
        OldCapacitor(
            farads=10e-6,
            rated_volts=350,
            final_amperes=50e-6,
            unformed_amperes=3e-3,
            exponent=0.6,
            breaks_down_at=200,
        ),
        noise_amperes=0.0,
    )
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
    bench = Clips(OldCapacitor(10e-6, 350, 0, 0, absorbed=0.1), noise_amperes=0.0, discharge_ohms=100)
    bench.on, bench.source_volts = True, 300
    bench.advance(200)
    bench.on = False
    bench.advance(0.02)
    low = bench.volts
    bench.discharge_ohms = 1e9
    bench.advance(30)
    assert bench.volts > low + 3


class PowerWatch:
    """Another kind of run: watts and one rail are read, the variable transformer is turned by hand."""

    channels, level_name, level, longest_s = ("watts", "rail_volts"), "line_volts", 60.0, 100.0
    unproved = ""

    def __init__(self):
        self.taken = []

    def begin(self, traits):
        self.traits = dict(traits)

    def take(self, reading):
        self.taken.append(reading)
        over = reading.values["watts"] > 30
        return Advice(self.level, "30 W are passed" if over else "", "cut" if over else "")

    def seen(self):
        return len(self.taken)

    def is_safe(self, reading):
        return reading.values["rail_volts"] < 60

    def stood(self, reading):
        return f"{reading.values['rail_volts']:g} V stood on the rail" if reading else "Nothing was read"


class TwoMeters:
    """A rig without a source."""

    source, traits = None, {"shunt_ohms": 0.1}

    def __init__(self, rail):
        self.stopped, self._rail, self._seconds = (lambda: False), rail, 0.0

    def __enter__(self):
        return self

    def __exit__(self, *_):
        pass

    def read(self):
        self._seconds += 0.5
        return Reading(time.monotonic(), {"watts": 10 * self._seconds, "rail_volts": self._rail(self._seconds)})


@pytest.mark.parametrize(("rail", "safe"), [(lambda s: 300 / s**2, True), (lambda _: 280.0, False)])
def test_a_run_of_another_kind_and_without_a_source_is_a_watch_and_no_more(tmp_path, rail, safe):
    watch = PowerWatch()
    session = LiveRun(watch, lambda: TwoMeters(rail), tmp_path / "power.csv", per_second=500)
    session.start()
    if not safe:
        wait(session, lambda s: s.phase == "discharging" and s.last.values["rail_volts"] == 280)
        session.close()
    status = wait(session, lambda s: s.phase == "ended")
    assert (status.why, status.outcome, status.traits) == ("30 W are passed", "cut", {"shunt_ohms": 0.1})
    assert status.seen == len(watch.taken) == status.readings
    assert (status.safe, status.warning.startswith("280 V stood on the rail")) == (safe, not safe)
    head, first, *_ = (tmp_path / "power.csv").read_text().splitlines()
    assert head == "seconds,watts,rail_volts,line_volts"
    assert first.endswith(",60")


def test_off_is_told_also_where_zero_could_not_be():
    """A source whose level cannot be set is switched off all the same."""
    told = []

    class Deaf(TwoMeters):
        def __init__(self):
            super().__init__(lambda _: 0.0)
            self.source = self

        def set_level(self, level):
            told.append(level)
            raise LinkError("no answer")

        def switch(self, on):
            told.append(on)

    with pytest.raises(LinkError):
        _switch_off(Deaf())
    assert told == [0.0, False]


@pytest.mark.waits_a_minute
@pytest.mark.parametrize("climbs", [False, True])
def test_safe_is_said_a_minute_after_by_the_programs_own_clock_and_what_climbs_back_begins_it_anew(
    scripted, tmp_path, climbs
):
    """Everything is timed a hundred times as fast here; half a minute after it was low it may stand at 75 V again."""
    low_from: list[float] = []
    said: list[float] = []

    def answer(tester, _):
        now = tester.seconds * 100
        if tester.on:
            return tester.reading(seconds=now)
        low_from.append(now)
        said.append(now)
        return tester.reading(seconds=now, off=75.0 if climbs and 30 < now - low_from[0] < 45 else 8.0)

    session = session_on(scripted(answer), tmp_path / "run.csv", timeout_s=5.0, rate=100.0)
    wait(session, lambda s: s.readings >= 3 and s.level == 300)
    session.cancel()
    status = wait(session, lambda s: s.phase == "ended")
    assert status.safe
    assert said[-1] - low_from[0] >= (100 if climbs else 55)
    assert said[-1] - low_from[0] < 400


LIES = {
    "0 throughout": lambda tester: tester.reading(0.0),
    "a thousandth": lambda tester: tester.reading((tester.level if tester.on else 152.0) / 1000),
    "stuck": lambda tester: tester.reading(30.0),
    "a fifth less": lambda tester: tester.reading((tester.level if tester.on else 60.0) * 0.8),
}


@pytest.mark.parametrize("lie", LIES)
def test_a_tester_whose_volts_do_not_follow_its_source_never_says_safe(scripted, tmp_path, lie, monkeypatch):
    """152 V stand on the part; what is read says 0, a thousandth, or the same whatever the source is set to."""
    monkeypatch.setattr("candor.core.leakage.proof_of_zero.WRONG_S", 0.3)
    monkeypatch.setattr("candor.links.live_run._UNPROVED_S", 0.3)
    tester = scripted(lambda tester, _: LIES[lie](tester))
    session = session_on(tester, tmp_path / "run.csv")
    status = wait(session, lambda s: s.phase == "ended")
    assert "do not follow the source" in status.why
    assert not status.safe
    assert "measure with a meter you have proved" in status.warning
    assert off_in_order(tester.told)
    assert max(float(x.split()[1]) for x in tester.told if x.startswith("SOUR:VOLT ")) == 150  # never the whole of it


def test_one_level_is_no_proof(scripted, tmp_path, monkeypatch):
    """Stopped before the highest level was seen to follow: what it reads then says nothing."""
    monkeypatch.setattr("candor.links.live_run._UNPROVED_S", 0.3)
    tester = scripted(lambda tester, _: tester.reading() if tester.level <= 150 else tester.reading(20.0))
    session = session_on(tester, tmp_path / "run.csv")
    wait(session, lambda s: s.level == 300)
    session.cancel()
    status = wait(session, lambda s: s.phase == "ended")
    assert (status.safe, "proved" in status.warning) == (False, True)


@pytest.mark.parametrize(("times", "word"), [(1000, "fast"), (60, "fast"), (1.25, "fast"), (0.2, "slow")])
def test_a_clock_that_is_off_ends_the_run_and_safe_is_not_said(scripted, tmp_path, monkeypatch, times, word):
    """Milliseconds for seconds; minutes for seconds: dwell and the minute after it would be a fraction of what they say."""
    monkeypatch.setattr("candor.links.live_run._UNPROVED_S", 0.3)
    tester = scripted(lambda tester, _: tester.reading(seconds=tester.seconds * times))
    session = session_on(tester, tmp_path / "run.csv", Plan(300, 40e-6, 1e-3, dwell_s=300))
    status = wait(session, lambda s: s.phase == "ended")
    assert f"clock is too {word}" in status.why
    assert "the run was ended" in status.why
    assert (status.safe, f"too {word}" in status.warning) == (False, True)
    assert off_in_order(tester.told)


@pytest.mark.parametrize("times", [1.08, 0.94])
def test_a_clock_a_little_off_is_borne_and_never_shortens_a_time(scripted, tmp_path, times):
    tester = scripted(lambda tester, _: tester.reading(seconds=tester.seconds * times))
    begun = time.monotonic()
    plan = Plan(300, 1e-9, 1e-3, dwell_s=1.0)
    status = wait(session_on(tester, tmp_path / "run.csv", plan), lambda s: s.phase in ("discharging", "ended"))
    assert status.outcome == "under the limit"
    assert time.monotonic() - begun >= 1.0


def test_a_source_that_cannot_give_what_it_is_set_to_is_not_switched_on(scripted, tmp_path, monkeypatch):
    monkeypatch.setattr("candor.links.live_run._UNPROVED_S", 0.3)
    tester = scripted(lambda tester, _: tester.reading())
    session = LiveRun(
        LeakageWatch(Plan(900, 40e-6, 1e-3)), lambda: _Clamped(tester.resource, 0.4), tmp_path / "r.csv", 100
    )
    session.start()
    status = wait(session, lambda s: s.phase == "ended")
    assert "set to 450 V and says 300 V" in status.why
    assert "OUTP ON" not in tester.told


class _Clamped(LeakageTester):
    def ask(self, command):
        return "300.0" if command == "SOUR:VOLT?" else super().ask(command)


@pytest.mark.waits_a_minute
def test_a_window_that_closes_cannot_wait_and_says_so(scripted, tmp_path):
    session = session_on(scripted(lambda tester, _: tester.reading(off=8.0)), tmp_path / "run.csv")
    wait(session, lambda s: s.readings >= 3)
    status = session.close()
    assert not status.safe
    assert "not measured safe" in status.warning


def test_a_socket_taken_away_under_a_question_is_a_dead_link(tester, monkeypatch):
    """As at the end of a program: what drives the source must be told that nobody answers, whatever the library raises."""
    link = LeakageTester(tester.resource)
    with monkeypatch.context() as patch:
        held = link._visa.visalib.sessions[link._visa.session]
        patch.setattr(held, "interface", None)
        with pytest.raises(LinkError, match="no longer answers"):
            link.ask("SOUR:VOLT?")
    link.close()
    with pytest.raises(LinkError, match="the link is closed"):
        link.ask("SOUR:VOLT?")
