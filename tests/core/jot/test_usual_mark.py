"""What a finding usually is: severe ones carry their mark, whoever writes them and however."""

import pytest

from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import FindingJot, NoteJot
from candor.core.jot.usual_mark import item_in, names_item, usual_mark
from candor.core.power.danger_words import danger_now_in
from candor.notebook.work.checklists import items_of
from candor.packs.bundled import bundled_packs
from candor.packs.kinds_of_instrument import pack_of_kind, shipped_kinds

ITEMS = (("cord", "perished rubber"), ("cord", "two wires and no earth"), ("cord", "no fuse"), ("tubes", "getter white"), ("supply",
         "bulging or weeping can"), ("cord", "live when switched off"), ("tubes", "wrong type in the socket"))  # fmt: skip
CONTEXT = JotContext(
    zones=(("cord", "Cord and plug"), ("tubes", "Tubes, by looks"), ("supply", "Power supply")), items=ITEMS
)


@pytest.mark.parametrize(
    ("text", "mark"),
    [
        ("cord perished", "hazard"), ("perished rubber", "hazard"), ("the cable is cracked at the plug", "hazard"),
        ("no fuse", "hazard"), ("fuse bridged with foil", "hazard"), ("fuse missing", "hazard"),
        ("live when switched off", "hazard"), ("getter white on V3", "hazard"), ("white getter", "hazard"),
        ("chassis on the line", "hazard"), ("C41 bulging", "hazard"), ("filter can swollen", "hazard"),
        ("weeping capacitor", "hazard"), ("earth wire broken", "hazard"), ("switch in the neutral", "hazard"),
        ("two wires and no earth", "fix"), ("selenium rectifier", "fix"), ("clamp that holds nothing", "fix"),
        ("ground prong cut off", "hazard"), ("earth pin missing", "hazard"), ("insulation crumbling", "hazard"),
        ("bare wire at the switch", "hazard"), ("crack in the CRT neck", "hazard"), ("the case tingles", "hazard"),
        ("asbestos pad", "hazard"), ("mercury rectifier broken", "hazard"), ("two-prong cord", "fix"),
        ("no strain relief", "fix"), ("V3 cracked", "fix"), ("no bare wire", "note"), ("rubber feet perished", "note"),
        ("dial cord frayed", "note"), ("insulation sound", "note"), ("faded lettering", "note"),
        ("the dial glows in the dark", "hazard"), ("luminous paint on the pointer", "hazard"),
        ("a mercury switch leaks", "hazard"), ("hot chassis", "hazard"), ("line capacitor to chassis", "hazard"),
        ("a death cap", "hazard"), ("interlock taped down", "hazard"), ("swollen battery", "hazard"),
        ("voltage selector set to 110, here 230", "hazard"), ("wired for 240 V, the shop has 120", "hazard"),
        ("reversed plug polarity", "hazard"), ("cord patched with tape", "hazard"),
        ("fuse larger than the panel says", "hazard"), ("beryllium oxide chipped", "hazard"), ("battery acid", "fix"),
        ("back cover missing", "fix"), ("burnt resistor R5", "fix"), ("wax ran out of the transformer", "fix"),
        ("fuse holder cracked", "fix"), ("selector set to 230 V", "note"), ("interlock works", "note"),
        ("tape on the handle", "note"), ("cord not perished", "note"), ("getter silver", "note"), ("dust", "note"),
        ("a lead-acid battery", "note"),
    ],
)  # fmt: skip
def test_severe_ones_carry_their_mark(text, mark):
    assert usual_mark(text) == mark


def test_two_wires_are_a_hazard_where_the_case_can_reach_the_line():
    assert usual_mark("two wires and no earth", case_can_be_live=True) == "hazard"
    assert usual_mark("no earth") == "fix"


def test_a_finding_of_two_kinds_names_the_item_of_each():
    assert usual_mark("no earth, plug cracked") == "hazard"
    assert names_item("no earth, plug cracked", "two wires and no earth")
    assert names_item("no earth, plug cracked", "cracked plug")
    assert not names_item("no earth, plug cracked", "no fuse")
    assert not names_item("dust", "faded lettering")


@pytest.mark.parametrize(
    ("line", "mark", "zone"),
    [
        ("cord perished", "hazard", "cord"), ("getter white on V3", "hazard", "tubes"), ("found cord perished", "hazard", "cord"),
        ("found cord perished note", "note", "cord"), ("can C41 weeping", "hazard", "supply"),
        ("two wires and no earth", "fix", "cord"),
        ("wrong type in the socket of V2", "fix", "tubes"),
    ],
)  # fmt: skip
def test_a_bare_line_that_names_an_item_is_a_finding_in_its_zone(line, mark, zone):
    jot = understand(line, CONTEXT)
    assert isinstance(jot, FindingJot)
    assert (jot.mark, jot.zone, jot.chips[0]) == (mark, zone, mark)


@pytest.mark.parametrize(
    "line",
    ["chassis to earth 62 V", "62 V ac from chassis to earth", "118 V on the cabinet", "the case bites",
     "I felt a tickle off the case", "the chassis is live", "got a shock from the panel", "chassis is 45 V above ground",
     "there was 230 V on the chassis", "I got a shock"],
)  # fmt: skip
def test_a_case_that_is_live_is_a_hazard_however_it_is_told(line):
    jot = understand(line, JotContext())
    assert isinstance(jot, FindingJot) and jot.mark == "hazard" and danger_now_in(line)


@pytest.mark.parametrize(
    "line",
    [
        "b+ to chassis 312 V",
        "chassis to earth 0.2 V",
        "the chassis is not live",
        "is the chassis live?",
        "no fuse blown",
    ],
)
def test_a_rail_on_its_chassis_and_what_is_asked_or_denied_is_no_hazard(line):
    assert isinstance(understand(line, JotContext()), NoteJot)


def test_a_hazard_in_plain_words_is_asked_about():
    for line in ("fuse is 3 A, should be 1 A", "bare copper at the plug", "no fuse"):
        assert f"“found {line}”" in understand(line, JotContext()).ask
        assert understand(f"found {line}", JotContext()).mark == "hazard"


@pytest.mark.parametrize(
    "line", ["cord not perished", "the owner likes it", "perished cord was replaced", "no longer any white getter"]
)
def test_what_is_denied_or_put_right_stays_a_note(line):
    assert isinstance(understand(line, CONTEXT), NoteJot)


def test_two_ways_to_say_one_thing_are_one_thing():
    assert names_item("cord perished", "perished rubber")
    assert names_item("the can C41 a bulges", "bulging or weeping can")
    assert not names_item("cord perished", "no fuse")
    assert item_in("cord perished", ITEMS) == ("cord", "perished rubber")


def test_every_item_that_is_severe_by_the_trade_carries_its_mark_in_every_pack_and_kind():
    """Of all that is looked for: what kills stands as a hazard, and nothing of it as a note."""
    items = {
        item
        for pack in (*bundled_packs(), *(pack_of_kind(k, "Corvane", "X") for k in shipped_kinds().values()))
        for _, item in items_of(pack)
    }
    severe = [
        i
        for i in items
        if any(
            w in i for w in ("perished rubber", "no fuse", "live when", "getter white", "weeping", "wrong conductor")
        )
    ]
    assert len(severe) >= 5
    assert [i for i in severe if usual_mark(i) != "hazard"] == []
