"""Meters on loopback links: each by itself, unknown and never zero where one drops out, every reading on disk."""

import csv
import math
import struct
import time

import numpy as np
import pytest

from candor.core.errors import CancelledError
from candor.core.power.supply_text import read_supply
from candor.links.channel_file import PAIR, ChannelFile, export_channels, read_channel
from candor.links.link_errors import LinkError
from candor.links.loopback import LoopbackInstrument
from candor.links.meters import MOST_METERS, MeterPlan, Meters
from candor.links.simulated_supply import FAULTS, Bench, SimulatedSupply

SUPPLY = read_supply(
    "240-0-240 V, 180 ohm, vacuum, 16 uF, choke 7 H 240 ohm, 32 uF, bleeder 220k, 35 mA, tubes after 5 s", 50
)


@pytest.fixture
def instrument(closing):
    """Return a function that makes an instrument answering by a function of the line."""

    def make(answer):
        made = LoopbackInstrument(answer)
        closing.callback(made.close)
        return made

    return make


@pytest.fixture
def read(closing, tmp_path):
    def make(*plans, heard=lambda *_: None):
        made = Meters(plans, tmp_path, "key", heard)
        closing.callback(made.close)
        return made

    return make


def wait(meters, holds, seconds=5.0):
    end = time.monotonic() + seconds
    while not holds(meters.states()):
        assert time.monotonic() < end, meters.states()
        time.sleep(0.01)
    return meters.states()


def test_each_meter_has_its_own_timing_and_all_is_on_disk(instrument, read, tmp_path):
    quick, slow = instrument(lambda _: "2.5E+2 V"), instrument(lambda line: "-8.4" if line == "MEAS?" else None)
    heard = []
    meters = read(
        MeterPlan("b1", quick.resource, per_second=100), MeterPlan("c-", slow.resource, "MEAS?", per_second=10, factor=2.0),
        heard=lambda *said: heard.append(said),
    )  # fmt: skip
    states = wait(meters, lambda s: s["b1"].readings >= 50 and s["c-"].readings >= 4)
    assert (states["b1"].value, states["c-"].value) == (250.0, -16.8)
    assert states["b1"].readings > 4 * states["c-"].readings
    meters.close()
    kept = read_channel(meters.files["b1"])
    assert len(kept) == meters.states()["b1"].readings
    assert (np.diff(kept[:, 0]) > 0).all()
    assert (kept[:, 1] == 250.0).all()
    assert {name for name, _, _ in heard} == {"b1", "c-"}


@pytest.mark.parametrize("answer", ["overload", "9.9E37", "nan", "", "9.91E+37"])
def test_an_answer_that_is_no_number_is_unknown_and_not_zero(instrument, read, answer):
    good, bad = instrument(lambda _: "1.0"), instrument(lambda _: answer)
    meters = read(MeterPlan("good", good.resource, per_second=50), MeterPlan("bad", bad.resource, per_second=50))
    states = wait(meters, lambda s: s["good"].readings > 5 and s["bad"].fault != "no reading yet")
    assert (states["bad"].value, states["bad"].readings) == (None, 0)
    assert (states["bad"].overload, "Overload" in states["bad"].fault) == ((answer in ("overload", "9.9E37")),) * 2
    assert states["bad"].overload or "No reading" in states["bad"].fault


def test_a_meter_that_drops_out_is_unknown_the_others_go_on_and_it_comes_back(instrument, read, monkeypatch):
    monkeypatch.setattr("candor.links.meters._AGAIN_S", 0.05)
    good, other = instrument(lambda _: "1.0"), instrument(lambda _: "7.0")
    meters = read(MeterPlan("good", good.resource, per_second=50), MeterPlan("other", other.resource, per_second=50))
    wait(meters, lambda s: s["other"].readings > 3)
    other.close()
    states = wait(meters, lambda s: s["other"].value is None)
    assert (
        len(read_channel(meters.files["other"])) >= states["other"].readings > 3
    )  # what it said is out of our hands
    before = states["good"].readings
    assert wait(meters, lambda s: s["good"].readings > before + 5)["other"].fault


def test_an_address_nobody_answers_is_said(read):
    meters = read(MeterPlan("b1", "TCPIP::127.0.0.1::1::SOCKET"))
    assert wait(meters, lambda s: s["b1"].fault != "no reading yet")["b1"].value is None


def test_none_too_many_and_two_of_one_name_are_refused(tmp_path):
    for plans in (
        (),
        [MeterPlan(f"b{i}", "x") for i in range(MOST_METERS + 1)],
        [MeterPlan("b1", "x"), MeterPlan("b1", "y")],
    ):
        with pytest.raises(LinkError, match="expected one to 8 meters"):
            Meters(plans, tmp_path, "key")


def test_a_pair_that_was_cut_short_is_left_out_and_the_export_is_whole(tmp_path):
    path = tmp_path / "a.readings"
    with ChannelFile(path) as file:
        for i in range(50_000):
            file.keep(i / 10, math.sin(i))
    with path.open("ab") as raw:
        raw.write(struct.pack("<d", 1.0))
    assert path.stat().st_size % PAIR.size
    assert read_channel(path).shape == (50_000, 2)
    assert read_channel(tmp_path / "none").shape == (0, 2)
    target = tmp_path / "all.csv"
    assert export_channels({"b1": path, "b2": path}, target) == 100_000
    rows = list(csv.reader(target.read_text(encoding="utf-8").splitlines()))
    assert (rows[0], rows[1][0], rows[50_001], len(rows)) == (
        ["name", "seconds", "value"],
        "b1",
        ["b2", "0.0000", "0"],
        100_001,
    )
    before = target.read_bytes()
    with pytest.raises(CancelledError):
        export_channels({"b1": path}, target, lambda: True)
    assert [p.name for p in tmp_path.glob("*all*")] == [
        "all.csv"
    ]  # what stood there stands, and nothing is left beside it
    assert target.read_bytes() == before


@pytest.mark.parametrize("fault", FAULTS)
def test_what_hides_on_the_simulated_bench_shows_as_it_must(fault):
    with SimulatedSupply(Bench(SUPPLY, fault, 230.0)) as bench:
        rail = SUPPLY.rail_node()
        bench.line_volts = 230.0
        bench.advance(3.0)
        cold, rush = bench._values[rail], bench._values["watts"]
        for _ in range(6):
            bench.advance(2.0)
        warm, watts = bench._values[rail], bench._values["watts"]
        bench.line_volts = 0.0
        bench.advance(4.0)
        bench.advance(4.0)
        after = bench._values[rail]
        assert bench._values["watts"] == 0.0
    if fault in ("none", "open bleeder"):
        assert (cold > 1.15 * warm > 200, rush < watts) == (True, True)
    if fault == "none":
        assert 5 < after < 0.5 * warm
    if fault == "open bleeder":
        assert after > 0.9 * warm  # nothing discharges it
    if fault == "missing load":
        assert warm == pytest.approx(cold, rel=0.05)
    if fault == "shorted rail":
        assert (warm < 40, watts > 80) == (True, True)
    if fault == "leaky filter":
        assert (cold < 345, after < 10) == (True, True)
    if fault == "arcs back":
        assert (warm < 0.5 * cold, watts > 100) == (True, True)


def test_a_meter_on_the_simulated_bench_reads_its_node(read):
    with SimulatedSupply(Bench(SUPPLY), speed=4.0) as bench:
        bench.set_line(230.0)
        meters = read(*(MeterPlan(name, bench.meter(name)) for name in ("n2", "watts", "line")))
        states = wait(meters, lambda s: all(x.readings > 5 for x in s.values()) and s["n2"].value > 200, 60.0)
        assert (states["line"].value, states["watts"].value > 10) == (230.0, True)
        assert bench.value("b1") == pytest.approx(bench.value("n2"), rel=0.02)
        assert bench.value("c-") > 9e37  # no such rail on the bench: unknown, not zero
        meters.close()


def test_what_a_meter_said_is_on_the_disk_within_a_second(tmp_path, monkeypatch):
    """A pulled plug takes what was not synced: only what stood in the file at a sync counts."""
    path, now, on_disk = tmp_path / "m.f64", [0.0], []
    monkeypatch.setattr("candor.links.channel_file.time.monotonic", lambda: now[0])
    monkeypatch.setattr(
        "candor.links.channel_file.os.fsync", lambda _: on_disk.append(path.stat().st_size // PAIR.size)
    )
    with ChannelFile(path) as file:
        for tenth in range(25):
            now[0] = tenth / 10
            file.keep(now[0], 1.0)
            kept = on_disk[-1] if on_disk else 0
            assert tenth + 1 - kept <= 10
    assert on_disk[-1] == 25
