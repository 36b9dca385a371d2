"""A supply typed in a line, what its capacitors meet, another rectifier, the first capacitor a tube bears."""

import math
from dataclasses import replace

import pytest

from candor.core.errors import RangeError, ValueTextError
from candor.core.power.first_capacitor import TRIED_FARAD, largest_first
from candor.core.power.supply import calculate_supply
from candor.core.power.supply_answer import report_supply
from candor.core.power.supply_text import EXAMPLE, read_supply, say_supply
from candor.core.power.swap import change_rectifier, line_control
from candor.core.power.typed import (
    SELENIUM_DROP_PER_PLATE,
    SELENIUM_PLATE_VOLTS,
    Section,
    TypedSupply,
    calculate_typed,
)
from candor.words.supply_words import report_lines, say_line_control, say_swap

TUBED = TypedSupply(
    volts=300, hertz=50, load_amperes=0.06, winding_ohms=150, warm_s=12,
    sections=(Section(16e-6, 450), Section(32e-6, 550, series_ohms=900)),
)  # fmt: skip


def test_the_no_load_crest_has_regulation_and_line_in_it():
    """375 V a side, 8 %, +10 %: 630 V."""
    assert replace(TUBED, volts=375, regulation=0.08).open_volts(1.1) == pytest.approx(630, abs=0.5)


def test_capacitors_are_held_to_what_they_meet_before_anything_draws():
    answer = calculate_typed(TUBED)
    crest = math.sqrt(2) * 300 * 1.08 * 1.1
    assert [s.is_over for s in answer.stresses] == [True, False]
    assert all(s.peak_volts == pytest.approx(crest, rel=0.01) for s in answer.stresses)
    assert answer.rail_volts < answer.high_line_volts < answer.no_load_volts
    assert answer.first_peak_amperes > answer.peak_amperes


def test_a_mercury_rectifier_has_its_own_drop_and_a_line_control_goes_down_by_less_than_all():
    found = read_supply("300-0-300 V, mercury 15 V, 8 H, 16u 450V, 60 mA", 50)
    assert (found.rectifier, found.drop) == ("mercury", 15.0)
    assert read_supply("300-0-300 V, line control 10 %, 16u 450V, 60 mA", 50).line_control == pytest.approx(0.1)
    with pytest.raises(ValueTextError, match="per cent"):
        read_supply("300-0-300 V, line control 150 %, 16u 450V, 60 mA", 50)


def test_a_swap_says_three_numbers_and_the_dropper_mends_the_first_alone():
    after = replace(TUBED, rectifier="silicon", warm_s=0.0)
    swap = change_rectifier(TUBED, after)
    assert swap.after_volts > swap.before_volts + 20
    mended = replace(after, dropper_ohms=swap.dropper_ohms)
    rail = calculate_supply(mended.netlist(warm=True)).nodes[mended.rail_node()].mean
    assert rail == pytest.approx(swap.before_volts, rel=0.01)
    assert swap.dropper_watts == pytest.approx(0.06**2 * swap.dropper_ohms)
    assert swap.dropped_cold_volts == pytest.approx(swap.cold_volts)
    assert len(say_swap(swap)) == 4
    back = change_rectifier(after, TUBED)
    assert (back.dropper_ohms, len(say_swap(back))) == (0.0, 3)


def test_the_line_control_takes_back_what_it_can():
    assert line_control(1.05, 0.9).is_enough
    short = line_control(1.2, 0.9)
    assert not short.is_enough
    assert "stays 8 % too high" in say_line_control(short)


def test_the_first_capacitor_is_the_largest_whose_pulses_the_rectifier_bears():
    found = largest_first(TUBED, 0.2)
    assert 0 < found.farad < TRIED_FARAD[-1]
    assert found.amperes <= 0.2 < found.next_amperes
    assert largest_first(TUBED, 0.01).farad == 0.0


def test_a_line_says_a_supply():
    supply = read_supply(EXAMPLE, 50)
    assert (supply.volts, supply.shape, supply.winding_ohms, supply.warm_s) == (300, "centre-tapped", 150, 12)
    assert supply.perveance == pytest.approx(0.110 / 45**1.5)
    assert supply.sections == (Section(16e-6, 450), Section(32e-6, 450, 220, 8))
    assert supply.load_amperes == pytest.approx(0.09)
    assert say_supply(supply)[0] == "300-0-300 V, 150 Ω a side"
    low = read_supply("24 V bridge, silicon, 1000 uF, 0.5 A, bleeder 2.2k, 47 ohm, 470 uF", 60)
    assert (low.shape, low.rectifier, low.bleeder_ohms, low.sections[1].series_ohms) == (
        "bridge",
        "silicon",
        2200,
        47,
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "volts is missing"),
        ("300-0-300 V", "a capacitor is missing"),
        ("300-0-250 V, 16 uF", "halves of a centre-tapped winding are alike"),
        ("300 V, 16 uF", "says bridge or half-wave"),
        ("300-0-300 V, 16 uF, germanium", "cannot read “germanium” as part of a supply"),
        ("300-0-300 V, 16 uF, regulation 130 %", "between 0 and 100 %"),
    ],
)
def test_what_says_no_supply_is_refused(text, words):
    with pytest.raises(ValueTextError, match=words):
        read_supply(text, 50)


def test_a_supply_without_a_filter_has_no_circuit():
    with pytest.raises(RangeError, match="at least one capacitor"):
        replace(TUBED, sections=()).netlist()


def test_the_report_says_the_worst_first():
    report = report_supply("300-0-300 V, 150 ohm, vacuum, 16 uF 450 V, 900 ohm, 32 uF, load 60 mA", "silicon", 50)
    lines = report_lines(report)
    assert lines[0].startswith("C1: 504 V before anything draws, at +10 % line, over 450 V.")
    assert "No rating is given for C2." in lines
    assert any(line.startswith("The smaller drop:") for line in lines)
    for stress, node in zip(report.answer.stresses, ("k", "n2"), strict=True):  # every node, cold and warm
        warm, cold = report.answer.warm.nodes[node], report.answer.cold.nodes[node]
        said = next(line for line in lines if line.startswith(f"{stress.name}: ") and "warm" in line)
        for figure in (
            f"{warm.mean:.1f} V warm",
            f"{cold.peak:.0f} V cold",
            f"{stress.high_line_volts:.1f} V at +10 % line",
        ):
            assert figure in said
        assert warm.mean < stress.high_line_volts < cold.peak
    more = report_lines(
        report_supply(
            "300-0-300 V, 150 ohm, vacuum, 16 uF 550 V, load 60 mA, peaks 230 mA, line control 10 %", "silicon", 50
        )
    )
    assert any(line.startswith("The first capacitor may be up to ") for line in more)
    assert any(line.startswith("The line control ") for line in more)


def test_selenium_drops_by_its_plates_and_silicon_hardly():
    """A plate for each 25 V or so in reverse, a volt and less each (common practice, no source): the rail lies lower by that."""
    rails = {}
    for rectifier in ("silicon", "selenium"):
        supply = replace(TUBED, rectifier=rectifier, warm_s=0.0)
        rails[rectifier] = calculate_supply(supply.netlist(warm=True)).nodes[supply.rail_node()].mean
    plates = math.ceil(2 * TUBED.volts / SELENIUM_PLATE_VOLTS)
    assert (
        0.5 * plates * SELENIUM_DROP_PER_PLATE
        < rails["silicon"] - rails["selenium"]
        < 1.5 * plates * SELENIUM_DROP_PER_PLATE
    )
