"""A soak: the on-clock, ready and not, watts that rise, the retrace; warm-ups that count from when it was switched on."""

import datetime as dt
import math

import pytest

from candor.core.errors import ValueTextError
from candor.notebook.entries.power_entries import PluggedOut, RailRead
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.soak_entries import SoakRead, SwitchedOff, SwitchedOn
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.soak.soaking import soak_view, warm_up_left
from candor.notebook.soak.stability_table import soak_readings
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_pack
from workbench import open_job


class Soak:
    def __init__(self, notebook, clock, pack):
        self.notebook, self.clock, self.pack = notebook, clock, pack
        open_job(notebook, pack)

    def write(self, body, **later):
        self.notebook.write("job1", body)
        self.clock.advance(**later)

    @property
    def job(self):
        return fold("job1", self.notebook.entries_of("job1"))

    @property
    def on_s(self):
        return (self.clock.now - self.job.soak.since).total_seconds()

    def view(self):
        return soak_view(self.job, self.pack, self.clock.now)


@pytest.fixture
def soak(notebook, clock, pack):
    return Soak(notebook, clock, pack)


def test_the_on_clock(soak):
    assert soak.view().on_words == "Candor does not know that the instrument is on. Enter “on”."
    soak.write(SwitchedOn(attended=False), minutes=70)
    assert soak.on_s == 4200
    assert "On for 1 h 10 min, since " in soak.view().on_words
    assert soak.view().on_words.endswith("unattended.")
    soak.write(SwitchedOff(), minutes=5)
    assert soak.view().on_words.startswith("Off since ")
    soak.write(RailRead(name="watts", reading=31), minutes=2)  # watts that are seen show that it is on
    assert soak.on_s == 120
    soak.write(PluggedOut())
    assert soak.job.soak.since is None
    assert len(soak.job.soak.on) == 2


def test_ready_when_the_rest_is_a_tenth_of_the_limit(soak):
    soak.write(SwitchedOn(), minutes=1)
    assert "for example “soak 10.0231 V”" in soak.view().ready_words
    for k in range(10):
        soak.write(SoakRead(value=75 + 2.0 * math.exp(-5 * k / 20) + 0.001 * (-1) ** k, unit="V"), minutes=5)
    moving = soak.view()
    assert moving.found.can_say
    assert "a tenth of the limit of 150 V range at 75 V" in moving.ready_words
    assert moving.ready_words.startswith(("Ready at ", "Ready: "))
    for k in range(10, 26):
        soak.write(SoakRead(value=75 + 2.0 * math.exp(-5 * k / 20) + 0.001 * (-1) ** k, unit="V"), minutes=5)
    assert soak.view().ready_words.startswith("Ready: the rest is under what was asked with 95 %")


def test_too_few_or_too_short_is_not_said(soak):
    soak.write(SwitchedOn(), minutes=1)
    for k in range(5):
        soak.write(SoakRead(value=75 + 0.1 * k, unit="V"), minutes=5)
    assert "6 or more are needed" in soak.view().ready_words
    for k in range(5, 12):
        soak.write(SoakRead(value=75 + 0.1 * k, unit="V"), minutes=5)
    assert soak.view().ready_words.startswith("Still moving, cannot say")


def test_watts_that_rise_and_what_it_comes_back_to(soak):
    soak.write(SwitchedOn(), minutes=1)
    for watts in (30, 30, 31, 33, 34, 36):
        soak.write(RailRead(name="watts", reading=watts), minutes=20)
    soak.write(SoakRead(value=75.0, unit="V"), minutes=1)
    assert any("The power rises, from 30 to 35 W: leakage" in w for w in soak.view().beside)
    soak.write(SwitchedOff(), hours=10)
    soak.write(SwitchedOn(), minutes=60)
    soak.write(SoakRead(value=75.3, unit="V"), minutes=1)
    assert any("After it was off it stands 300 mV from where it was before" in w for w in soak.view().beside)


def test_the_room_and_the_line_stand_beside_what_settles(soak):
    soak.write(ConditionNoted(which="celsius", value=19.0), minutes=5)  # before it was on: of no matter
    soak.write(SwitchedOn(), minutes=5)
    soak.write(SoakRead(value=10.0, unit="V"), minutes=5)
    assert not any("since it is on" in line for line in soak.view().beside)
    for which, value in (("celsius", 21.5), ("celsius", 23.1), ("line_volts", 118.2)):
        soak.write(ConditionNoted(which=which, value=value), minutes=5)
    assert "Room 21.5 to 23.1 °C, line 118.2 V since it was switched on." in soak.view().beside


def test_a_warm_up_counts_from_when_it_was_switched_on(soak):
    assert warm_up_left(soak.job, "Warm-up 30 min", 1800, soak.clock.now) == 1800
    soak.write(SwitchedOn(), minutes=20)
    assert warm_up_left(soak.job, "Warm-up 30 min", 1800, soak.clock.now) == 600
    assert warm_up_left(soak.job, "Copper short 15 min", 900, soak.clock.now) == 900
    soak.clock.advance(hours=30)  # nobody remembers
    assert warm_up_left(soak.job, "Warm-up 30 min", 1800, soak.clock.now) == 1800


def test_a_pack_without_a_limit_of_that_unit_says_so(notebook, clock):
    pack = bundled_pack("wexcombe-qt1")
    notebook.write("q", JobOpened(maker="W", type="QT-1", serial="1", pack_digest=notebook.keep_pack(pack)))
    notebook.write("q", SwitchedOn())
    for k in range(12):
        clock.advance(minutes=5)
        notebook.write("q", SoakRead(value=1e6 + 1000 * math.exp(-k / 2), unit="Hz"))
    view = soak_view(fold("q", notebook.entries_of("q")), pack, clock.now + dt.timedelta(minutes=1))
    assert "as no limit is known" in view.ready_words


def test_a_logger_counts_from_when_it_was_switched_on(soak):
    table = "seconds,value\n" + "\n".join(f"{60 * k},{75 + 2 * math.exp(-k / 20):.5f} V" for k in range(3000))
    readings, words = soak_readings(table.encode(), "DC volts")
    assert (len(readings), words) == (1000, "One in 3 of 3000 was used; the fit needs no more.")
    soak.write(SwitchedOn(), minutes=1)
    for body in readings[:100]:
        soak.write(body)
    view = soak.view()
    assert view.seconds[1] == 180.0
    assert view.found.tau == pytest.approx(1200, rel=0.01)
    for lines, fault in (
        ("0,1 V\n60,2 A\n", "line 3: .*another unit"),
        ("-5,1\n", "before it was switched on"),
        ("0,warm\n", "line 2"),
        ("", "there are none"),
    ):
        with pytest.raises(ValueTextError, match=fault):
            soak_readings(f"seconds,value\n{lines}".encode())


def test_what_is_watched_shows_that_it_is_on(soak):
    soak.write(SoakRead(value=75.3, unit="V"), minutes=10)
    soak.write(SoakRead(value=75.1, unit="V"))
    view = soak.view()
    assert view.on_words.startswith("On for 10 min")
    assert view.values == (75.3, 75.1)


def test_what_a_link_reads_by_itself_is_not_what_undo_takes(soak):
    soak.write(SoakRead(value=75.1, unit="V"), minutes=1)
    soak.write(SoakRead(value=75.0, unit="V", link="simulated"))
    assert soak.job.last_standing().body.value == 75.1
