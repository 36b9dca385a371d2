"""One understanding with three outcomes: understood whole, doubtful, or asked about; nothing becomes another thing."""

import math
import re
from dataclasses import replace

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

import typed_lines
from candor.core.errors import CandorError, ValueTextError
from candor.core.jot import JotContext, NoteJot, PartJot, understand
from candor.core.jot.change_line import DONE
from candor.core.jot.line import DoubtfulLineError, suggestions
from candor.core.jot.meaning import ChangeJot, HelpJot, ListedJot, RangeJot, ReadingJot
from candor.core.jot.power_meaning import PlugOutJot
from candor.core.jot.rows import VERBS
from candor.core.jot.slots import node_name
from candor.core.jot.soak_meaning import OnJot
from candor.core.jot.trace_meaning import NodeReadJot, TubeJot
from candor.core.parts.part import Part
from candor.core.quantities.decimal_sign import with_decimal_sign
from candor.core.reading.kinds import kind_of
from candor.packs.bundled import bundled_pack, bundled_packs
from candor.packs.procedure import point_by_name, procedure

PARTS = {
    "R7": Part("R7", "resistor", 270e3), "R12": Part("R12", "resistor", 1e6),
    "C4": Part("C4", "capacitor", 10e-6, volts=450.0), "C41 a": Part("C41 a", "capacitor", 20e-6, can="C41"),
}  # fmt: skip
CONTEXT = JotContext(parts=PARTS)
VOLTS = point_by_name(bundled_pack("tarnholm-vm6"), "dc+/150/75")


def outcome(text, context=CONTEXT):
    """What becomes of a line: its meaning, or the question about it."""
    try:
        jot = understand(text, context)
    except CandorError as error:
        return error
    return jot if not (isinstance(jot, NoteJot) and jot.ask) else jot.ask


@pytest.mark.parametrize(
    "text",
    [
        "node edge connector pin 4 11.6 to pin 6", "pin 6 274", "heater 6.28", "0.5uA at 400V", "0.8 W", "b1 45k", "2..3k",
        "reach 80 %", "esr open", "relay click after 30 s", "order fuse 1 A", "R99 open", "5.1 ref 5.0 ms",
        "range RF output 1 V 10 div 3dB", "range ohms 10 ohm centre 30 div",
        "rail b1 28x7", "insulation 90 mohm", "chassis b1 1,250", "6SN7 2600 umho", "C4 looks burnt 3 mm",
    ],
)  # fmt: skip
def test_what_is_not_understood_is_asked_about_and_never_taken_for_something_else(text):
    found = outcome(text)
    assert isinstance(found, CandorError | str), found
    assert len(str(found)) > 20


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("heater 6.28", "rail heater 6.28"), ("0.8 W", "watts 0.8 W"),
        ("b1 45k", "chassis b1 45k"),
        ("relay click after 30 s", "event relay click after 30 s"), ("ral b1 287", "rail b1 287"), ("nod n5 182", "node n5 182"),
    ],
)  # fmt: skip
def test_what_may_have_been_meant_is_offered_and_is_understood(text, meant):
    offered = suggestions(text, CONTEXT)
    assert meant in offered or meant.startswith("event"), offered
    for line in offered:
        assert not isinstance(understand(line, CONTEXT), NoteJot)


@pytest.mark.parametrize(
    ("text", "stop", "meant"),
    [
        ("b1 318", "power", ("rail b1 318",)),
        ("b1 318", "trace", ("node b1 318",)),
        ("b1 318", "arrive", ("rail b1 318", "node b1 318")),
        ("hv 140 ohm", "power", ("chassis hv 140 ohm", "winding hv 140 ohm")),
        ("10.02 V", "soak", ("soak 10.02 V",)),
    ],
)
def test_what_the_stop_that_is_shown_has_is_offered_and_a_bare_number_is_hardly_ohms(text, stop, meant):
    """Three lines were offered of which two could not be meant: chassis b1 318 is ohms."""
    try:
        offered = understand(text, JotContext(stop=stop)).meant
    except CandorError as error:
        offered = error.meant
    assert offered == meant


def test_ranges_keep_every_word_in_its_place():
    jot = understand("range AC volts 50 V 50 div 5%fs 60 Hz", CONTEXT)
    assert (jot.unit, jot.full_scale, jot.hertz, jot.limit.percent_of_full_scale) == ("V", 50.0, 60.0, 5.0)
    assert understand("range 150 V 30 div 3%fs of DC+", CONTEXT).function == "DC+"


def test_tubes_stand_on_their_own_pins_and_parts_keep_their_words():
    tube = understand("tube V1 plate V1 pin 6, grid V1 pin 7, cathode V1 pin 8", CONTEXT)
    assert isinstance(tube, TubeJot)
    assert dict(tube.ends) == {"plate": "v1_pin_6", "grid": "v1_pin_7", "cathode": "v1_pin_8"}
    load = understand("part R5 100k 1W plate load", CONTEXT)
    assert isinstance(load, ListedJot)
    assert (load.cells["value"], load.cells["watts"]) == ("100k", "1")
    assert load.chips[-2:] == ("load", "note: plate")
    mains = understand("part C7 0.05uF 600V paper mains line to chassis", CONTEXT)
    assert (mains.cells["value"], mains.cells["role"]) == ("0.05uF", "mains")
    assert "line to chassis" in " ".join(mains.chips)
    assert understand("node edge connector pin 4 11.6", CONTEXT) == NodeReadJot(
        "edge_connector_pin_4", 11.6, chips=("node edge_connector_pin_4 11.6 V",)
    )


@pytest.mark.parametrize("deed", [d.replace("_", " ") for d in DONE])
def test_every_deed_is_a_change_with_and_without_did_and_behind_its_part(deed):
    for line in (f"{deed} R7", f"did {deed} R7", f"R7 {deed}", f"R7 was {deed} today"):
        jot = understand(line, CONTEXT)
        assert isinstance(jot, ChangeJot), line
        assert "R7" in (jot.part, jot.touches), line


@pytest.mark.parametrize(
    ("text", "part", "touches"),
    [
        ("replaced R7 with 270k metal film", "R7", ""), ("R7 replaced with 270k", "R7", ""), ("replace R7 with 270k", "R7", ""),
        ("put 0.1u across C4", "", "C4"), ("lifted one end of R12", "", "R12"), ("cut R7 out", "", "R7"), ("recapped", "", ""),
        ("put 100 ohm in series", "", ""), ("bridged C41 a and C4", "", "C41 a, C4"), ("removed C41", "", "C41"),
    ],
)  # fmt: skip
def test_what_was_done_says_to_what(text, part, touches):
    jot = understand(text, CONTEXT)
    assert (type(jot), jot.part, jot.touches) == (ChangeJot, part, touches)


@pytest.mark.parametrize(
    ("text", "turned"),
    [
        ("tweaked the zero", "zero"), ("I just nudged the full scale pot a hair", "full scale pot"), ("backed off R12", "R12"),
        ("we touched up C5 for a flat top", "C5"), ("turned the gain pot 1/4 turn left", "gain pot"), ("peaked T3", "T3"),
    ],
)  # fmt: skip
def test_what_was_turned_is_named_without_who_turned_it_and_how_far(text, turned):
    jot = understand(text, JotContext())
    assert isinstance(jot, ChangeJot) and jot.turned == turned


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("sprayed the switch", "done: sprayed the switch"), ("gave the zero pot a turn", "done: gave the zero pot a turn"),
        ("then I burnished the contacts", "done: burnished the contacts"), ("dropped the meter", "disturbed, dropped the meter"),
    ],
)  # fmt: skip
def test_whatever_hands_did_is_asked_about_for_as_a_note_it_would_void_nothing(text, meant):
    jot = understand(text, JotContext())
    assert isinstance(jot, NoteJot) and meant in jot.ask and isinstance(understand(meant, JotContext()), ChangeJot)


@pytest.mark.parametrize(
    "text",
    [
        "looked at the rails",
        "needle jumped",
        "waited a while",
        "opened the case",
        "rusted screws",
        "faded lettering",
        "pitted contacts on it",
        "dropped to zero",
    ],
)
def test_looking_and_what_happens_by_itself_are_notes_at_once(text):
    jot = understand(text, JotContext())
    assert isinstance(jot, NoteJot) and not jot.ask


def test_a_lead_that_is_connected_changes_nothing_of_the_instrument():
    assert not isinstance(understand("connected the probe to the source", JotContext()), ChangeJot)
    assert isinstance(understand("connected the lead of C4 to ground again", CONTEXT), ChangeJot)


@pytest.mark.parametrize("text", ["wire is thin", "bridge drifts", "cut in the cover", "fit is poor", "put it away"])
def test_nouns_and_plans_are_no_deeds(text):
    assert isinstance(understand(text, JotContext()), NoteJot)


def test_bare_numbers_are_in_the_unit_that_the_range_is_marked_in():
    milli = replace(VOLTS, range_name="60 mA", full_scale=150.0)
    assert understand("30 ref 30", replace(CONTEXT, point=replace(VOLTS, range_name="150 V"))).indicated == 30.0
    assert milli.marked_factor == 1.0  # its unit is V: a name of another unit says nothing
    kilo = replace(VOLTS, range_name="0.15 kV")
    jot = understand("0.075 ref 0.0751", replace(CONTEXT, point=kilo))
    assert (jot.indicated, jot.reference) == (pytest.approx(75.0), pytest.approx(75.1))
    assert understand("75 V ref 75.1 V", replace(CONTEXT, point=kilo)).indicated == 75.0


def test_help_and_the_hour_it_was_switched_on():
    assert isinstance(understand("help", CONTEXT), HelpJot)
    assert isinstance(understand("?", CONTEXT), HelpJot)
    on = understand("on since 14:00", CONTEXT)
    assert (type(on), on.since.hour) == (OnJot, 14)


def test_several_readings_of_a_line_are_offered_and_none_is_taken():
    with pytest.raises(DoubtfulLineError) as caught:
        understand("0.8 W", CONTEXT)
    assert "watts 0.8 W" in caught.value.meant


@pytest.mark.parametrize("verb", VERBS, ids=lambda v: v.name)
def test_every_example_is_understood_as_its_row_whatever_spaces_and_capitals(verb):
    parts = {
        **PARTS, "R24": Part("R24", "resistor", 330e3), "C7": Part("C7", "capacitor", 1e-7),
        "C4": Part("C4", "capacitor", 10e-6, volts=450.0),
    }  # fmt: skip
    context = JotContext(point=VOLTS if verb.name == "points" else None, parts=parts)
    for line in verb.examples:
        jot = understand(line, context)
        assert jot == verb.fit(line, context) or verb.name == "pin"
        assert not isinstance(jot, NoteJot) or verb.name == "note"
        assert type(understand(f"  {line[0].upper()}{line[1:].replace(' ', '  ')} ", context)) is type(jot)


def test_lines_as_people_type_them_are_never_taken_for_something_else():
    """Every row's examples with other capitals, spaces, units, commas, words missing, added and swapped: see bench/jot.py."""
    typed = typed_lines.lines(12, seed=20)
    assert [t for t in typed if typed_lines.outcome(t) == "WRONG"] == []
    assert len({t.how for t in typed}) == 9


@given(st.text(max_size=120))
@example("range " + "9" * 400)
@example("\x00\u202e72.6\u2066")
def test_no_line_is_lost_and_none_raises_anything_but_a_sentence(text):
    try:
        jot = understand(text, replace(CONTEXT, point=VOLTS))
    except CandorError as error:
        assert str(error)
    else:
        assert jot.chips


def test_two_thirds_of_a_line_a_line_of_800_kb_and_marks_that_turn_its_direction():
    assert isinstance(outcome("C4 leak 310u @40"), PartJot)
    assert isinstance(outcome("R7 366k co"), CandorError)
    assert "too long" in str(outcome("x 1 " * 200_000))
    assert isinstance(outcome("\u202erange 30 V 30 div\x07"), RangeJot)


@pytest.mark.parametrize("name", [pack.id for pack in bundled_packs()])
def test_what_a_point_gives_as_an_example_is_read_there_near_the_point(name):
    """Whatever the range is marked in, kilohertz, milliamperes, a bare scale, and in whatever way it is read."""
    for step in procedure(bundled_pack(name)):
        point = step.point
        if step.kind != "point" or point is None or kind_of(point).figured:
            continue
        jot = understand(kind_of(point).example(point), JotContext(point=point))
        assert isinstance(jot, ReadingJot), (point.key, kind_of(point).example(point))
        if not kind_of(point).has_friction or not math.isfinite(point.nominal):
            continue
        value = jot.indicated
        if value is not None and point.nominal > 0:
            assert value <= 3 * max(point.full_scale, point.nominal), (
                point.key,
                kind_of(point).example(point),
                value,
            )
            assert value == 0 or value >= 1e-3 * point.nominal, (point.key, kind_of(point).example(point), value)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("line is 118", 118.0),
        ("room 23", 23.0),
        ("room is 23 °C", 23.0),
        ("temperature is 21", 21.0),
        ("humidity is 45 %", 45.0),
        ("room 68 F", 20.0),
        ("temp 71.6 °F", 22.0),
        ("room is 22 degrees C", 22.0),
    ],
)
def test_conditions_as_people_say_them(text, value):
    assert understand(text, JotContext()).value == value


def test_a_room_of_72_is_asked_whether_it_is_fahrenheit():
    with pytest.raises(ValueTextError, match="of Fahrenheit write 72 F"):
        understand("room 72", JotContext())
    with pytest.raises(DoubtfulLineError, match="“temp 68 degF”"):
        understand("68 degF", JotContext())


@pytest.mark.parametrize("verb", VERBS, ids=lambda verb: verb.name)
def test_every_example_is_understood_alike_with_a_decimal_comma(verb):
    """Where the desktop writes commas its examples have them too: what it shows it can read."""
    context = typed_lines.context_of(verb.name)
    for line in verb.examples:
        shown = with_decimal_sign(line, ",")
        one, other = understand(line, context), understand(shown, context)
        # What is kept in the words of who typed it has the comma of who typed it.
        assert re.sub(r"(\d),(\d)", r"\1.\2", str(other)) == str(one), shown


@pytest.mark.parametrize(
    "line", ["there is smoke from R12", "R99 12 smoking", "10.1 smoke 3x", "smoke 5 parsecs ref"]
)
def test_smoke_is_written_at_once_whatever_else_cannot_be_read(line):
    found = understand(line, JotContext(parts={"R1": Part("R1", "resistor", 1e3)}))
    assert isinstance(found, NoteJot) and not found.ask and found.text == line
    assert understand("found burnt resistor", JotContext()).__class__ is not NoteJot


@pytest.mark.parametrize(
    "line",
    ["plug out", "Plug out.", "PLUG OUT!", "the plug is out", "pulled the plug", "I pulled the plug", "plug pulled",
     "unplugged it now", "cord is out", "disconnected from the mains"],
)  # fmt: skip
def test_the_plug_is_out_however_it_is_said(line):
    assert isinstance(understand(line, JotContext()), PlugOutJot)


@pytest.mark.parametrize(
    "line", ["plug out of shape", "power off", "switched off at the wall", "plug is cracked", "is the plug out?"]
)
def test_what_is_off_is_not_out(line):
    assert not isinstance(understand(line, JotContext()), PlugOutJot)


@pytest.mark.parametrize(
    "word", ["ref", "true", "actual", "vs", "vs.", "against", "standard", "meter", "the meter shows"]
)
def test_the_other_value_is_the_reference_whatever_it_is_called(word):
    found = understand(f"72.6 {word} 75.004 up", JotContext())
    assert isinstance(found, ReadingJot)
    assert (found.indicated, found.reference, found.direction) == (72.6, 75.004, "up")


@pytest.mark.parametrize(
    ("line", "field", "text"),
    [
        ("owner says it hums", "says", "it hums"),
        ("the owner says that it hums", "says", "it hums"),
        ("owner A. Ferry", "owner", "A. Ferry"),
    ],
)
def test_what_the_owner_says_is_not_what_the_owner_is_called(line, field, text):
    found = understand(line, JotContext())
    assert (found.field, found.text) == (field, text)
    assert isinstance(understand("owner wants it original", JotContext()), NoteJot)
    assert type(understand("owner approved", JotContext())).__name__ == "QuoteJot"


@pytest.mark.parametrize(
    ("line", "same"),
    [("ground bond 0.12 ohm at 10 A", "earth 0.12 ohm at 10 A"), ("line current 0.3 A", "amperes 0.3 A"),
     ("insulation resistance 22 Mohm at 500 V", "insulation 22 Mohm @500V"), ("power off", "off"), ("turned it on", "on"),
     ("drawing 34 watts", "watts 34"), ("it draws about 34 W from the wall", "watts 34 W")],
)  # fmt: skip
def test_what_is_called_otherwise_elsewhere_is_the_same(line, same):
    assert understand(line, JotContext()) == understand(same, JotContext())


@pytest.mark.parametrize(
    "line",
    ["owner called", "owner brought it in wet", "serial number worn off", "drawing is wrong about R12", "winding is open",
     "stood for 20 years", "stood upside down in the box", "reference is drifting", "on the back there is a sticker"],
)  # fmt: skip
@pytest.mark.parametrize("point", [None, VOLTS], ids=["anywhere", "at a point"])
def test_prose_overwrites_nothing_and_is_no_reading(line, point):
    assert isinstance(understand(line, JotContext(point=point)), NoteJot)


def test_what_an_owner_a_drawing_a_number_is_and_where_an_adjuster_stood_is_kept():
    for line, text in (
        ("owner the radio museum", "the radio museum"),
        ("serial A-12", "A-12"),
        ("drawing 2nd edition", "2nd edition"),
    ):
        assert understand(line, JotContext()).text == text
    at = JotContext(point=VOLTS)
    for line, stood in (
        ("stood 3 o'clock", "3 o'clock"),
        ("stood mid turned -1/4", "mid"),
        ("stood fully left", "fully left"),
    ):
        assert understand(line, at).stood == stood
    assert understand("winding primary open", JotContext()).name == "primary"


def test_nodes_named_in_other_letters_are_told_apart():
    """Anode and grid in Cyrillic were one node, "node"; "анод1" was node 1."""
    nodes = [node_name(words) for words in ("анод", "сетка", "анод1", "1", "V2 plate", "Röhre 2", "chassis")]
    assert len(set(nodes)) == 7
    assert nodes[3:5] == ["1", "v2_plate"]
    assert all(name.isascii() for name in nodes)
