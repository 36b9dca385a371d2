"""The greatest that a range bears: by closed forms, by solving at it and a hair above, and in the words of step, label and line."""

import math

import numpy as np
import pytest

from candor.core.circuit.elements import Resistor, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist, parse_netlist
from candor.core.circuit.solve import operating_point
from candor.core.circuit.stress import Bears, Drive, drives, reaches
from candor.core.errors import CandorError
from candor.core.jot.range_fields import fields_of, range_line
from candor.core.jot.range_line import understand_range
from candor.notebook.arrive.pack_from_job import grown_of_job
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs import greatest_of_range
from candor.packs.bundled import bundled_pack
from candor.packs.greatest_of_range import NOTHING_APPLIED, Applied, applied_at, greatest_of
from candor.packs.model import Pack
from candor.packs.procedure import procedure
from candor.sitting.commands.calibrate_commands import make_range
from candor.words.greatest_words import LEAD, cautions_at, greatest_words, say_most

MOVEMENT = {"over": ["m", "0"], "full_scale": 0.1}  # 1 mA through 100 ohm


def of(pack: Pack, function: str, range_: str):
    return next(g for g in greatest_of(pack) if (g.function, g.range) == (function, range_))


def meter(parts=(), **function) -> Pack:
    """A meter of one range of 100 V, 1 mA, and one of 10 V below it."""
    whole = bundled_pack("corvane-mm11")
    volts = whole.functions[[f.key for f in whole.functions].index("dcv")]
    ranges = [
        {**volts.ranges[2].model_dump(), "key": "100", "title": "100 V", "full_scale": 100.0, "closes": ("S1",)},
        {**volts.ranges[2].model_dump(), "key": "10", "title": "10 V", "full_scale": 10.0, "closes": ("S2",)},
    ]
    step = {
        "key": "p",
        "kind": "points",
        "function": "dcv",
        "title": "p",
        "do": "p",
        "aim": "p",
        "mistake": "p",
        "at": [1],
    }
    circuit = {
        "input": "plus",
        "reads": MOVEMENT,
        "netlist": "R1 m 0 100\nS1 plus a\nR2 a b 90k\nR3 b m 9.9k\nS2 plus b",
    }
    made = {**volts.model_dump(exclude={"stands"}), "ranges": ranges, **function}
    return Pack.model_validate({
        **whole.model_dump(), "functions": [made], "circuit": circuit, "parts": parts, "adjusters": (), "cautions": (),
        "procedure": [{"key": "s", "title": "s", "phase": "as found", "steps": [step]}], "modifiers": (),
    })  # fmt: skip


def test_without_a_statement_it_is_full_scale_and_with_one_the_ratings_end_it():
    assert [(g.value, g.basis) for g in greatest_of(meter())] == [(100.0, "full scale"), (10.0, "full scale")]
    parts = ({"ref": "R2", "value": "90 k", "make": "carbon film", "watts": 0.5},)
    stated = meter(parts, stands={"times": 10, "seconds": 4})
    high, low = greatest_of(stated)
    # 90 k of half a watt: sqrt(0.5 W 90 kohm) = 212.1 V over it, by ohm's law 235.7 V over the 100 kohm of the whole range.
    assert (high.basis, high.part, high.why) == ("rating", "R2", "watts")
    assert high.value == pytest.approx(math.sqrt(0.5 * 90e3) * 100 / 90, rel=1e-6)
    assert high.seconds == 4  # what is stated for seconds is not known for longer
    assert (low.value, low.basis, low.seconds) == (100.0, "maker", 4)


def test_a_part_over_its_rating_at_full_scale_lowers_it():
    parts = ({"ref": "R2", "value": "90 k", "make": "wirewound", "watts": 0.05},)
    high = greatest_of(meter(parts))[0]
    assert high.value == pytest.approx(math.sqrt(0.05 * 90e3) * 100 / 90) and high.value < 100
    assert "below full scale" in greatest_words(meter(parts), procedure(meter(parts))[0])


def test_the_shipped_meter_by_ohms_law():
    pack = bundled_pack("corvane-mm11")
    # R13, 1.875 of 2.5 megohm; R14, 3.75 of 6.25: half a watt of carbon film bears 350 V (common practice, no source).
    assert of(pack, "DC volts", "100 V").value == pytest.approx(350 * 2.5 / 1.875, rel=1e-3)
    assert of(pack, "DC volts", "250 V").value == pytest.approx(350 * 6.25 / 3.75, rel=1e-3)
    assert (
        of(pack, "DC volts", "1000 V").value == 1000
    )  # what full scale gives R15 is more than usual: it is the maker's own use
    ohms = of(bundled_pack("halvergate-ev9"), "Ohms", "R×1")
    # The line, ten per cent high, and the cell over 9.6 and 0.4 ohm: heat in the 9.6 ohm, of 1 W.
    heat = 9.6 * ((132 / 10) ** 2 + (1.5 / 10) ** 2)
    assert ohms.value == 0 and ohms.on_line[0].part == "R33"
    assert ohms.on_line[0].times == pytest.approx(heat, rel=0.01)


def test_a_line_on_a_range_is_held_against_its_peak_and_what_it_is_marked_in():
    pack = bundled_pack("halvergate-ev9")
    # 132 V r.m.s. is 373 V peak to peak, more than 340; on a d.c. range its peak counts, 187 V.
    assert [o.holds for o in of(pack, "AC volts, peak to peak", "340 V p-p").on_line] == [False, False]
    assert [o.holds for o in of(bundled_pack("tarnholm-vm6"), "DC volts +", "150 V").on_line] == [False, False]
    assert [o.holds for o in of(pack, "AC volts, rms", "400 V").on_line] == [True, True]
    assert [o.holds for o in of(bundled_pack("corvane-mm11"), "DC volts", "100 V").on_line] == [
        False,
        False,
    ]  # for 2 s alone


def test_at_the_limit_every_part_is_within_and_a_hair_above_one_is_not():
    """Random networks with a source of their own: the limit against solving the whole network there."""
    random = np.random.default_rng(5)
    for _ in range(40):
        parts = [
            Resistor(f"R{i}", f"n{i}", f"n{i + 1}" if i < 4 else GROUND, float(10 ** random.uniform(2, 5)))
            for i in range(5)
        ]
        parts += [Resistor(f"R{5 + i}", f"n{i}", GROUND, float(10 ** random.uniform(2, 5))) for i in range(1, 5)]
        own = VoltageSource("V1", "n3", GROUND, float(random.uniform(-5, 5)))
        net = Netlist((*parts, own))
        bears = {
            p.name: Bears(float(10 ** random.uniform(1.2, 3)), float(10 ** random.uniform(-1, 1))) for p in parts
        }
        found = drives(net, lambda v: VoltageSource("VX?", "n0", GROUND, v), ())
        least = min(reaches(d, bears[n])[0] for n, d in found.items())

        def worst(applied, net=net, parts=parts, bears=bears):
            volts = operating_point(Netlist((*net.elements, VoltageSource("VX?", "n0", GROUND, applied))))
            over = {p.name: abs(volts[p.plus] - volts[p.minus]) for p in parts}
            return max(
                max(over[p.name] / bears[p.name].volts, over[p.name] ** 2 / p.value / bears[p.name].watts)
                for p in parts
            )

        if least == 0:
            assert worst(0.0) >= 1 - 1e-9
            continue
        assert max(worst(least), worst(-least)) <= 1 + 1e-6  # either way round
        # Its own volts and what is applied are added by amount: never too much, and on one side nearly all.
        at_rest = max(d.rest for d in found.values())
        assert max(worst(least * 1.02 + 2 * at_rest), worst(-least * 1.02 - 2 * at_rest)) > 1


def test_an_alternating_range_is_rated_in_what_it_is_marked_in():
    """10 kilohm of 0.1 W bears 31.6 V r.m.s., which is 89.4 V peak to peak."""
    whole = meter(({"ref": "R2", "value": "10 k", "make": "wirewound", "watts": 0.1},), current="a.c.")
    circuit = {
        "input": "plus", "reads": MOVEMENT, "rectifies": {"at": "plus", "into": "r", "responds": "peak"},
        "netlist": "R1 m 0 100\nR8 r m 9.9k\nS1 plus a\nR2 a 0 10k\nS2 plus b\nR9 b 0 1k",
    }  # fmt: skip
    for marked, times in (("rms", 1.0), ("peak to peak", 2 * math.sqrt(2))):
        function = {**whole.functions[0].model_dump(), "detector": {"responds": "peak", "marked": marked}}
        high = greatest_of(Pack.model_validate({**whole.model_dump(), "functions": [function], "circuit": circuit}))[
            0
        ]
        assert high.value == pytest.approx(math.sqrt(0.1 * 10e3) * times, rel=1e-6)


def test_peak_and_heat_of_a_swing_over_a_rest_are_those_of_its_samples():
    t = np.linspace(0, 1, 20001)[:-1]
    over = 12.0 + 7.0 * math.sqrt(2) * 3.0 * np.sin(2 * np.pi * t)
    drive = Drive(rest=12.0, direct=0.0, swing=7.0, ohms=470.0)
    assert drive.peak(3.0) == pytest.approx(over.max(), rel=1e-6)
    assert drive.watts(3.0) == pytest.approx((over**2).mean() / 470.0, rel=1e-9)


def test_before_a_lead_goes_from_many_volts_to_a_range_that_bears_few():
    pack = bundled_pack("corvane-mm11")
    told = {s.key: cautions_at(pack, s) for s in procedure(pack)}
    after = [key for key, cautions in told.items() if any(c.key == LEAD for c in cautions)]
    assert "amperes-left:as-left:dca/100u/4e-05" in after  # after 1000 V comes a range of 100 µA
    assert "amperes-left:as-left:dca/1m/0.0004" not in after
    first = next(s for s in procedure(pack) if s.point is not None and s.point.key.startswith("ohms/1/"))
    lead = next(c for c in cautions_at(pack, first, applied=Applied(250.0, 250.0)) if c.key == LEAD)
    assert "250 V was applied last" in lead.text and "no volts" in lead.text
    assert not any(c.key == LEAD for c in cautions_at(pack, first, applied=Applied()))
    fifteen = next(
        s for s in procedure(bundled_pack("tarnholm-vm6")) if s.point is not None and "dc+/15/15" in s.point.key
    )
    told = [cautions_at(bundled_pack("tarnholm-vm6"), fifteen, applied=Applied(v, v)) for v in (14.9, 15.0, 15.1)]
    assert [any(c.key == LEAD for c in cautions) for cautions in told] == [False, False, True]
    thousand = next(s for s in procedure(pack) if s.point is not None and s.point.key.startswith("dcv/1000/"))
    assert not any(c.key == LEAD for c in cautions_at(pack, thousand, applied=Applied(100.0, 100.0)))


def test_alternating_volts_are_held_by_their_peak_against_a_direct_range():
    """12 V r.m.s. are 17 V: more than 15 V of d.c.; 30 V p-p are 15."""
    pack = bundled_pack("halvergate-ev9")
    points = {s.point.key: s.point for s in procedure(pack) if s.point is not None}
    rms = next(p for key, p in points.items() if key.startswith("ac/12/"))
    swing = next(p for p in points.values() if p.detector is not None and p.detector.marked == "peak to peak")
    assert applied_at(rms, 12.0).peak == pytest.approx(12 * math.sqrt(2))
    assert applied_at(swing, 30.0).peak == pytest.approx(15.0)
    fifteen = next(
        s for s in procedure(bundled_pack("tarnholm-vm6")) if s.point is not None and "dc+/15/15" in s.point.key
    )
    told = [
        cautions_at(bundled_pack("tarnholm-vm6"), fifteen, applied=applied_at(p, v))
        for p, v in ((rms, 12.0), (swing, 30.0))
    ]
    assert [any(c.key == LEAD for c in cautions) for cautions in told] == [True, False]
    minus = next(p for key, p in points.items() if key.startswith("dc-/400/"))
    assert applied_at(minus, -400.0).peak == 400  # either way round


def test_a_range_by_name_is_held_to_full_scale_until_its_maker_states_more(notebook):
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    lines = ("DC volts 60 V 60 div 2%fs stands 10 times full scale for 2 s usual points",
             "Ohms 10 ohm centre zero right stands 5 V", "DC current 6 mA 60 div 2%fs")  # fmt: skip
    for line in lines:
        for body in make_range(understand_range(line)).bodies:
            notebook.write("j", body)
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    found = {g.range: (g.value, g.unit, g.basis, g.seconds) for g in greatest_of(pack)}
    assert found["60 V"] == (600.0, "V", "maker", 2.0)
    assert found["10 Ω"] == (5.0, "V", "maker", 0.0)
    assert greatest_of(grown_of_job(notebook, "j")) == greatest_of(pack)  # saved, it is the same
    whole, short = say_most(greatest_of(pack))
    assert "600 V for 2 s" in whole and "Ohms 5 V" in whole and "600" not in short and "no range" in whole


@pytest.mark.parametrize(("line", "said"), [
    ("DC volts 60 V 60 div stands a lot", "What does the range withstand"),
    ("DC volts 60 V 60 div overload protected", "What does the range withstand"),
    ("DC volts 60 V 60 div stands 40 V", "less than its full scale"),
    ("DC volts 60 V 60 div stands 2 A", "not in V"),
    ("Ohms 10 ohm centre zero right stands 10 times full scale", "stands volts"),
    ("frequency 60 Hz 60 div stands 5 V", "in V or A"),
])  # fmt: skip
def test_what_a_range_cannot_stand_is_refused(line, said):
    with pytest.raises(CandorError, match=said):
        understand_range(line)


@pytest.mark.parametrize(
    "line", ["DC volts 60 V 60 div 2%fs stands 900 V for 2.5 s", "6 60 600 V 60 div 2%fs stands 10 times full scale"]
)
def test_what_its_fields_say_is_what_was_typed(line):
    jot = understand_range(line)
    way, said, limit = fields_of(jot)
    again = understand_range(range_line(way, jot.function, said, limit, jot.limit.by))
    assert [one.stands for one in (again, *again.beside)] == [
        one.stands for one in (jot, *jot.beside)
    ] and jot.stands.value


def test_what_its_circuit_cannot_be_asked_is_full_scale():
    """A netlist that has no one answer claims nothing."""
    pack = meter(stands={"times": 3})
    broken = pack.model_copy(
        update={"circuit": pack.circuit.model_copy(update={"netlist": "R1 m 0 100\nS1 plus q\nS2 plus q\nR9 q z 1k"})}
    )
    assert parse_netlist(broken.circuit.netlist)
    assert [g.value for g in greatest_of(broken)] == [300.0, 30.0]


@pytest.mark.parametrize(
    ("words", "value", "seconds"),
    [("max 500 V", 500, 0), ("absolute max 500 V", 500, 0), ("withstands up to 500 V for 1 min", 500, 60),
     ("overload 10x for 2 s", 600, 2), ("maximum input 0.5 kV rms", 500, 0), ("stands 500Vdc", 500, 0)],
)  # fmt: skip
def test_it_is_said_as_people_say_it(words, value, seconds):
    jot = understand_range(f"DC volts 60 V 60 div 2%fs {words}")
    assert (jot.full_scale, jot.function, jot.stands.value, jot.stands.seconds) == (60.0, "DC volts", value, seconds)


def test_what_was_applied_before_each_step_is_found_in_one_pass(monkeypatch):
    """A sheet asks it of every step: the procedure of 2,800 was gone through 2,800 times, 14 s."""
    pack = bundled_pack("tarnholm-vm6")
    steps, counted = procedure(pack), []
    greatest_of_range._applied_by_step.cache_clear()
    monkeypatch.setattr(greatest_of_range, "applied_at", lambda *told: counted.append(told) or applied_at(*told))
    found = [greatest_of_range.applied_before(pack, step.key) for step in steps]
    assert len(counted) <= len(steps)
    for place, step in enumerate(steps):
        before = [s for s in steps[:place] if s.point is not None and s.point.needs_reference]
        assert found[place] == (
            applied_at(before[-1].point, before[-1].point.nominal) if before else NOTHING_APPLIED
        ), step.key
    assert greatest_of_range.applied_before(pack, "no such step").volts > 0
    greatest_of_range._applied_by_step.cache_clear()
