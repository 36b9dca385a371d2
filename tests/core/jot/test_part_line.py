"""Lines about parts, time and money."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot import (
    ChangeJot,
    DecisionJot,
    JotContext,
    NoteJot,
    PartJot,
    PriceJot,
    ReadingJot,
    SpentJot,
    understand,
)
from candor.core.parts.part import Part

PARTS = {
    p.ref: p
    for p in (
        Part(
            ref="R24",
            kind="resistor",
            nominal=330e3,
            make="carbon composition",
            role="timing",
            below=0.05,
            above=0.05,
        ),
        Part(ref="C4", kind="capacitor", nominal=10e-6, make="electrolytic", role="filter", volts=450),
        Part(ref="C41 a", kind="capacitor", nominal=20e-6, make="electrolytic", role="filter", volts=450),
    )
}


def said(text):
    return understand(text, JotContext(parts=PARTS))


@pytest.mark.parametrize(
    ("text", "ref", "numbers"),
    [
        ("R24 366k cold 374k warm", "R24", {"value": 366e3, "warm": 374e3}),
        ("R24 tested 366k, warm 374k", "R24", {"value": 366e3, "warm": 374e3}),
        ("R24 has drifted up to 366k", "R24", {"value": 366e3}),
        ("R24 went to 366k", "R24", {"value": 366e3}),
        ("R24 366 k ohm, 374k when hot", "R24", {"value": 366e3, "warm": 374e3}),
        ("R24 reads 330k, ok", "R24", {"value": 330e3}),
        ("C4 8.8u D=0.03", "C4", {"value": 8.8e-6, "dissipation": 0.03}),
        ("C4: 8.8u, esr 11", "C4", {"value": 8.8e-6, "esr": 11}),
        ("C4 8,8u; 3 ohms ESR at 100 Hz", "C4", {"value": 8.8e-6, "esr": 3, "hertz": 100}),
        ("r24 366k", "R24", {"value": 366e3}),
        ("R24 reads 366k", "R24", {"value": 366e3}),
        ("R24 now measures 366k warm", "R24", {"warm": 366e3}),
        ("R24 = 366k", "R24", {"value": 366e3}),
        ("R24=366k", "R24", {"value": 366e3}),
        ("R24: 366k", "R24", {"value": 366e3}),
        ("R24 measured at 366k", "R24", {"value": 366e3}),
        ("C4 leaks 310u at 400V", "C4", {"leakage": 310e-6, "leakage_volts": 400}),
        ("C4 leakage current is 310 uA at 400 V", "C4", {"leakage": 310e-6, "leakage_volts": 400}),
        ("C4 esr 11 at 100 kHz", "C4", {"esr": 11, "hertz": 100e3}),
        ("R24 330k measured 366k", "R24", {"value": 366e3}),  # what it is marked, then what it is
        ("C4 10u is 8.8u esr 11", "C4", {"value": 8.8e-6, "esr": 11}),
        ("C4 8.8u esr 11", "C4", {"value": 8.8e-6, "esr": 11}),
        ("C4 8.8u esr 2.5 ohm @100kHz", "C4", {"value": 8.8e-6, "esr": 2.5, "hertz": 1e5}),
        ("C4 leak 310u @400V 5min", "C4", {"leakage": 310e-6, "leakage_volts": 400, "dwell_s": 300}),
        ("measured R24 366k", "R24", {"value": 366e3}),
        ("R24 366k one end lifted", "R24", {"value": 366e3}),
        (
            "C4 3 uA at 400",
            "C4",
            {"leakage": 3e-6, "leakage_volts": 400},
        ),  # amperes through a capacitor are its leakage
        (
            "tested C4 9u 3uA at 400V 5min",
            "C4",
            {"value": 9e-6, "leakage": 3e-6, "leakage_volts": 400, "dwell_s": 300},
        ),
        ("C4 50 megohms at 500 V", "C4", {"leakage": 10e-6, "leakage_volts": 500}),  # V/R
        ("C4 insulation 50M at 500 V", "C4", {"leakage": 10e-6, "leakage_volts": 500}),
        ("C4 esr 1.2 120 Hz", "C4", {"esr": 1.2, "hertz": 120}),
        ("C4 tan delta 0.1 at 1 kHz", "C4", {"dissipation": 0.1, "hertz": 1e3}),
        ("R24 4.7 meg", "R24", {"value": 4.7e6}),  # of a resistor it is its value
        ("C4 8.8u leak 310u @400V", "C4", {"value": 8.8e-6, "leakage": 310e-6, "leakage_volts": 400}),
        ("C4 d 0.09 @120Hz", "C4", {"dissipation": 0.09, "hertz": 120}),
        ("C4 pf 8% @60Hz", "C4", {"dissipation": pytest.approx(0.08026, abs=1e-5), "hertz": 60}),
        ("C4 ir 500M @400V", "C4", {"leakage": pytest.approx(0.8e-6), "leakage_volts": 400}),
        ("C41a 18.4 mfd", "C41 a", {"value": pytest.approx(18.4e-6)}),
        ("C41 a 18.4u ±2%", "C41 a", {"value": pytest.approx(18.4e-6), "percent": 2}),
    ],
)
def test_measurements(text, ref, numbers):
    jot = said(text)
    assert isinstance(jot, PartJot)
    assert (jot.ref, dict(jot.numbers)) == (ref, numbers)
    assert jot.chips[0].startswith(ref)


def test_states_and_in_circuit():
    assert said("C41 a open").state == "open"
    assert said("C4 shorted").state == "short"
    beside = said("R24 318k in circuit")
    assert (beside.in_circuit, beside.numbers["value"]) == (True, 318e3)


@pytest.mark.parametrize(
    ("text", "numbers", "chip"),
    [
        ("C4 8.8", {"value": 8.8e-6}, "8.8 µF (without a unit, read as µF)"),
        ("C4 0.1u really", {"value": 0.1e-6}, "100 nF"),
        ("R24 50M really", {"value": 50e6}, "50 MΩ"),
        ("C4 leak 12 MA @400V", {"leakage": 0.012, "leakage_volts": 400}, "leaks 12 mA"),
        ("C4 leak 310u @400V 5m", {"leakage": 310e-6, "leakage_volts": 400, "dwell_s": 300}, "after 300 s"),
        (
            "C4 leak 310u @400V after 2 minutes",
            {"leakage": 310e-6, "leakage_volts": 400, "dwell_s": 120},
            "after 120 s",
        ),
        ("C4 leak 310u @400V 0.1 hrs", {"leakage": 310e-6, "leakage_volts": 400, "dwell_s": 360}, "after 360 s"),
    ],
)
def test_what_is_taken_for_granted_or_really_meant(text, numbers, chip):
    jot = said(text)
    assert dict(jot.numbers) == pytest.approx(numbers)
    assert chip in jot.chips


def test_intermittent_a_limit_of_its_sheet_and_as_what_a_loss_was_written():
    assert said("C4 intermittent").state == "intermittent"
    limit = said("C4 limit 500u by its sheet")
    assert (limit.part.ref, limit.amperes) == ("C4", pytest.approx(500e-6))
    assert limit.chips[1] == "leaks at most 500 µA by its own sheet"
    assert [said(f"C4 {x}").loss for x in ("esr 3", "d 0.1", "pf 5%", "8.8u")] == ["esr", "d", "pf", ""]


def test_settings_of_the_shop_by_a_jot():
    mains, meter = said("mains 230 V 50 Hz"), said("esr meter 90 kHz")
    assert (mains.field, mains.text) == ("mains", "230 V 50 Hz")
    assert (meter.field, meter.text) == ("esr_meter", "90 kHz")
    with pytest.raises(CandorError, match=r"is not a mains supply. Expected: 230 V 50 Hz"):
        said("mains 12")
    assert isinstance(said("mains cord perished"), NoteJot)


def test_a_voltage_above_the_rating_is_warned_of_before_it_is_written():
    assert said("C4 leak 310u @480V").chips[-1] == "caution: above its 450 V"


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("R99 4k7", "R99 is not in this job's parts list. Listed: R24, C4"),
        ("C4 leak 3u", "At what voltage"),
        ("R24 leak 3u @5V", "is a resistor"),
        ("R24 0", "not above zero"),
        ("C4 430", "430 of what? It is 10 µF 450 V; write the unit, such as 430u"),
        ("C4 keep", "Say why"),
        ("C4 8.8u bananas", "cannot read “bananas” after C4"),
        ("C4 leak 310 @400V", "310 A through a capacitor? Write the prefix, such as 310u"),
        ("C4 ir 50 at 500V", "10 A through a capacitor?"),  # 50 what? no tester drives that
        ("R24 366k lifted in circuit", "One of them"),
        ("C4 leak 310", "310 A through a capacitor?"),
        ("R24 0.3m", "R24: 300 µΩ? It is 330 kΩ 5 % by its drawing"),
        ("R24 50M", "R24: 50 MΩ?"),
        ("C4 in circuit", "C4: “in circuit” alone is not a measurement"),
        ("C4 ±1%", "C4: “±1 %” alone is not a measurement"),
        ("R24 limit 3u", "stands alone, of a capacitor"),
        ("C4 30 ohm", "is a resistance; this place expects a capacitance"),
        ("C4", "C4: what did you measure?"),
    ],
)
def test_what_cannot_be_is_said(text, sentence):
    with pytest.raises(CandorError) as caught:
        said(text)
    assert sentence in str(caught.value)


def test_decisions_changes_and_remarks():
    assert said("C4 keep because it was replaced in 1998") == DecisionJot(
        "C4", "keep", "it was replaced in 1998", ("C4", "keep", "it was replaced in 1998")
    )
    assert said("R24 replace for looks").action == "replace"
    assert said("did replaced C4 10u 450V") == ChangeJot(
        "replaced C4 10u 450V", ("done: replaced C4 10u 450V", "C4 is replaced"), "C4"
    )
    assert said("did replaced the cord").part == ""
    for text in ("changed R24 to 470k 1 W", "change R24 for a new one"):
        assert (said(text).part, type(said(text))) == ("R24", ChangeJot)
    assert isinstance(said("changed to the 300 V range"), NoteJot)  # no part is named: it voids nothing
    can = {"C41 a": Part(ref="C41 a", kind="capacitor", nominal=20e-6, make="electrolytic", role="filter", can="C41")}
    assert understand("did replaced C41 inside the old shell", JotContext(parts=can)).part == "C41"
    assert isinstance(said("C4 looks burnt"), NoteJot)
    assert isinstance(said("72.6"), ReadingJot)


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("spent 45 min cleaning", SpentJot(45, 0, "cleaning", ("45 min", "cleaning"))),
        ("spent 1.5 h", SpentJot(90, 0, "", ("90 min",))),
        ("spent 12.50 rubber feet", SpentJot(0, 12.5, "rubber feet", ("12.50 spent", "rubber feet"))),
        ("agreed 60", PriceJot("agreed", 60, ("price agreed 60.00",))),
        ("rate 40", PriceJot("an_hour", 40, ("40.00 an hour",))),
    ],
)
def test_time_and_money(text, expected):
    assert said(text) == expected


@pytest.mark.parametrize(
    "text", ["R24 366k 367k", "C4 8.8u esr 11 esr 12", "C4 leak 310u @400V leak 290u @400V", "R24 366k 330k"]
)
def test_two_of_one_kind_are_asked_about_and_none_is_dropped(text):
    with pytest.raises(CandorError, match="Two of one kind were written"):
        said(text)


def test_a_part_that_is_open_is_a_state_and_one_that_was_is_a_note():
    assert said("R24 is open").state == "open"
    assert isinstance(said("R24 was open"), NoteJot)


@pytest.mark.parametrize("line", ["C3 leaky", "C3 = 47nF", "c3 esr 2.4", "C3 replaced", "C3 50n measures 62n"])
def test_what_is_said_of_a_part_that_is_not_listed_says_how_it_is(line):
    """ "C3 open" on a job without a list asked whether a winding was meant."""
    jot = understand(line, JotContext())
    assert isinstance(jot, NoteJot)
    assert "“part C3 0.05u 400V paper” adds it" in jot.ask
    assert understand("part C3 0.05u 400V paper", JotContext()).chips[0] == "on the list: C3"


@pytest.mark.parametrize(
    "line", ["replace C4", "should replace C4", "to do: replace the C4", "swap C4", "must change C4"]
)
def test_a_part_that_is_to_be_replaced_is_not_replaced(line):
    """It counted as done: nobody measured it any more, and what it bars was open."""
    with pytest.raises(CandorError, match="Is C4 replaced already"):
        said(line)


@pytest.mark.parametrize(
    ("line", "decision"),
    [
        ("replace C4 because it leaks", ("C4", "replace", "it leaks")),
        ("will replace R24 since it drifted", ("R24", "replace", "it drifted")),
        ("keep the C4 because it measures well", ("C4", "keep", "it measures well")),
        ("leave C41 a as it holds", ("C41 a", "keep", "it holds")),
    ],
)
def test_what_is_decided_is_told_deed_first_too(line, decision):
    jot = said(line)
    assert isinstance(jot, DecisionJot)
    assert (jot.ref, jot.action, jot.reason) == decision


def test_no_leakage_is_what_the_meter_cannot_show():
    """A coupling capacitor was good by a meter of 10 uA a digit."""
    for line in ("C4 leak 0 @400V", "C4 0 uA at 400 V", "C4 leaks 0.0u at 400V 5min"):
        with pytest.raises(CandorError, match="the least that it shows"):
            said(line)
    with pytest.raises(CandorError, match="or C4 is shorted"):
        said("C4 8.8u esr 0")
    assert said("C4 leak 0.1u @400V").numbers["leakage"] == pytest.approx(1e-7)


def test_beyond_the_meter_is_open():
    for line in ("R24 OL", "R24 reads infinite", "R24 now overload"):
        assert said(line).state == "open"
    assert isinstance(said("R24 ok"), NoteJot)  # a measurement decides
    with pytest.raises(CandorError, match="that may be beyond the meter"):
        said("C4 OL")
    large = Part(ref="R1", kind="resistor", nominal=22e6, make="carbon composition", role="load")
    with pytest.raises(CandorError, match="that may be beyond the meter"):
        understand("R1 OL", JotContext(parts={"R1": large}))


def test_a_decision_needs_its_reason_and_a_listed_part():
    with pytest.raises(CandorError, match="Say why: “C4 keep because"):
        said("keep C4")
    assert isinstance(said("keep C99"), NoteJot)
    assert isinstance(said("replace C4 with 10u 450V"), ChangeJot)
    assert isinstance(said("replaced C4"), ChangeJot)
