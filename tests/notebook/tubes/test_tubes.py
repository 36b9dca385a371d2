"""Tubes on hand: their line and their tests as they are written, what a figure comes to, who matches, which socket each sits in."""

import datetime as dt
import json
import math

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened
from candor.notebook.entries.tubes_entries import TubeGone, TubeKnown, TubePlaced
from candor.notebook.standards.standards import standards
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.store import Notebook
from candor.notebook.tubes import testers
from candor.notebook.tubes.tubes import correction_of, figure_of, match_type, swap, take_out, tube_shop
from candor.notebook.tubes.tubes_csv import preview_tubes, write_tubes
from candor.notebook.tubes.tubes_text import read_nudges, read_points, read_test, read_tube
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_pack
from candor.words.tube_lines import NOT_AT_LINE, explain_tube, say_figure_found
from candor.words.tubes_words import say_out_of_order

TWIN = "A1 MT-1, triode medium mu, 2 sections, nominal 2.6 mS at 150 V by the chart, reject 65 %; getter silver"
REPEATED = "line 0 min 4 times scatter 0.01 mS on TT"
FIRST = ("look good", "heater good", "shorts good", "gas good")


def shop_of(notebook: Notebook):
    return tube_shop(notebook.entries_of(""))


def write(notebook, *lines):
    """Write tubes and their tests, a tube a line, its tests after it."""
    tube = None
    for text in lines:
        if text.split()[0] in ("look", "heater", "shorts", "gas", "gm", "emission", "section", "noise", "balance"):
            notebook.write("", read_test(text, tube))
        else:
            tube = read_tube(text)
            notebook.write("", tube)


def test_a_tube_and_its_tests_are_lines():
    tube = read_tube(TWIN)
    assert (tube.key, tube.type, tube.generic, tube.sections) == ("A1", "MT-1", "triode, medium mu", ("1", "2"))
    assert (tube.nominal, tube.unit, tube.reject, tube.plate_volts) == (2.6e-3, "S", 0.65, 150.0)
    assert (tube.nominal_from, tube.looks) == ("the chart", "getter silver")
    test = read_test("section 2 gm 2.45 mS line 2 min held 4 s on a friend's tester", tube)
    assert (test.test, test.section, test.figure, test.line_age_s, test.hold_s) == (
        "gm",
        "2",
        pytest.approx(2.45e-3),
        120.0,
        4.0,
    )
    assert test.tester == "a friend's tester"
    assert read_test("section 1 gm 2.4 mS", tube).line_age_s is None  # a stamp that is missing stays missing
    many = read_test("section 1 gm 2.4 mS 4 times scatter 30 uS", tube)
    assert (many.count, many.scatter) == (4, pytest.approx(30e-6))
    assert read_test("short bad: between grid and cathode", tube).words == "between grid and cathode"
    assert read_test("merit 78", read_tube("B1 RV-1, rectifier directly heated, nominal 85")).unit == "1"
    assert [n.per_dash for n in read_nudges("bias 60 uS, line 40 uS", "MT-1", "TT-7")] == pytest.approx(
        [60e-6, 40e-6]
    )
    dashes = read_nudges("bias up 3.31 mS down 3190 uS, line 40 uS, shunt up 77 down 81", "MT-1", "TT-7")
    assert [n.per_dash for n in dashes] == pytest.approx([60e-6, 40e-6, -2.0])
    points = read_points("-3.25 V  6.1 mA\n−2.75; 7200 uA\n-3 6.6")
    assert [v for v, _ in points] == [-3.25, -2.75, -3.0]
    assert [i for _, i in points] == pytest.approx([6.1e-3, 7.2e-3, 6.6e-3])


@pytest.mark.parametrize(
    ("call", "words"),
    [
        (lambda: read_tube("A1"), "the tube's own name and its type"),
        (lambda: read_tube("6ZZ7 twin triode"), "is a type of tube"),
        (lambda: read_tube("bogey 2.6 mS"), "is a type of tube"),
        (lambda: read_test("wobble good", read_tube(TWIN)), "is not a test. Use one of look"),
        (lambda: read_test("gas perhaps", read_tube(TWIN)), "good or bad was expected"),
        (lambda: read_test("gm 2.4 mS", read_tube(TWIN)), "One figure for two says nothing of either"),
        (lambda: read_test("section 2 gm 2.4 mS", read_tube("C1 SP-1")), "has one section"),
        (lambda: read_test("gm 2.4 mA", read_tube("C1 SP-1")), "mA"),
        (lambda: read_nudges("bias", "MT-1", "TT-7"), "what is a dash of it worth"),
        (lambda: read_nudges("bias up 3.3 mS down 78", "MT-1", "TT-7"), "both readings must be of one unit"),
        (lambda: read_test("gm 2.4 mS line 120 to 60 V", read_tube("C1 SP-1")), "not of one line"),
        (lambda: read_nudges("bias up 3 mS at 121 V down 2 mS at 119 V", "MT-1", "TT-7"), "a dash of the line alone"),
        (lambda: read_nudges("line up 3 mS at 119 V down 2 mS at 121 V", "MT-1", "TT-7"), "a dash up has more"),
        (lambda: read_nudges(" ", "MT-1", "TT-7"), "Nothing was written"),
        (lambda: read_points("-3.25 V"), "line 1: .* grid volts and plate current"),
    ],
)
def test_what_is_no_tube_or_test_is_said(call, words):
    with pytest.raises(CandorError, match=words):
        call()


def test_what_comes_first_is_said_and_sections_count_one_by_one(notebook):
    write(notebook, TWIN, *FIRST, "section 1 gm 2.5 mS line 1 min")
    tube = shop_of(notebook).tubes["A1"]
    assert tube.next.key == "emission"  # section 2 has no figure yet
    assert say_out_of_order(tube.out_of_order("noise")).startswith("Emission comes first")
    write(notebook, TWIN, "section 2 gm 2.4 mS line 1 min")
    tube = shop_of(notebook).tubes["A1"]
    assert tube.next.key == "balance"
    write(notebook, TWIN, "shorts bad")
    assert (
        say_out_of_order(shop_of(notebook).tubes["A1"].out_of_order("gm"))
        == "It failed shorts: do not put it on a tester again."
    )


def known_tubes(notebook, odd=1.0):
    for key, shown, figure in (("K1", 1.5, 1.44), ("K2", 2.4, 2.31), ("K3", 3.6, 3.46), ("K4", 4.5, 4.32 * odd)):
        write(
            notebook,
            f"{key} SP-1, nominal 4.3 mS, reject 65 %",
            *FIRST,
            f"gm {shown} mS {REPEATED}",
        )
        notebook.write("", TubeKnown(tube=key, figure=figure * 1e-3, expanded=0.03e-3))


def test_a_figure_is_told_at_the_line_before_the_button_was_held(notebook):
    """By hand: 1.5 V of 120 V are 1.25 % of gm; at 20 uS a volt, tried, they are 30 uS."""
    write(notebook, "A1 SP-1, nominal 4.3 mS, reject 65 %", *FIRST, f"gm 3 mS line 120 V to 118.5 V {REPEATED}")
    raw = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    assert raw.value == pytest.approx(3.0375e-3) and not raw.line.tried
    assert "37.5 µS was added, by the usual law, for it stood at 118.5 V" in say_figure_found(raw)
    (own,) = [c for c in raw.budget.contributions if "while the button was held" in c.name]
    assert own.size == pytest.approx(math.hypot(3e-3 / 120 * 0.1 / math.sqrt(6), 37.5e-6 / 2 / math.sqrt(3)))
    for nudge in read_nudges("line up 3.03 mS at 121.5 V down 2.97 mS at 118.5 V", "SP-1", "TT"):
        notebook.write("", nudge)
    tried = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    assert tried.value == pytest.approx(3.03e-3) and "as it was tried here" in say_figure_found(tried)
    known_tubes(notebook)  # they were read with the line falling under them, as it does: so is this one
    both = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    assert NOT_AT_LINE in str(explain_tube(shop_of(notebook).tubes["A1"], shop_of(notebook)))
    assert both.corrected and both.line is None and both.value == pytest.approx(0.96 * 3e-3, rel=3e-3)
    for key, shown in (("K1", 1.5), ("K2", 2.4), ("K3", 3.6), ("K4", 4.5)):
        notebook.write(
            "", read_test(f"gm {shown} mS line 120 to 117 V {REPEATED}", shop_of(notebook).tubes[key].body)
        )
    both = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    # Each known one at 120 V shows 3 V of 20 uS more; the line through them is that much lower, and this one 1.5 V of 20 uS higher.
    assert both.corrected and both.line is not None
    assert both.value == pytest.approx(0.96 * (3.03e-3 - 0.06e-3), rel=3e-3)
    again = preview_tubes(write_tubes(shop_of(notebook)).encode(), tube_shop(()))
    of_a1 = [b for b in again.bodies if getattr(b, "tube", "") == "A1" and b.test == "gm"]
    assert (of_a1[0].line_before_volts, of_a1[0].line_held_volts) == (120.0, 118.5)


def test_a_line_that_rose_takes_off_as_one_of_230_v_that_fell_adds(notebook):
    """By hand: 3 V up on 120 V are 2.5 % too much; 4.6 V down on 230 V are 2 % too little, of emission 4 %."""
    write(notebook, "A1 SP-1, nominal 4.3 mS, reject 65 %", *FIRST, "gm 4 mS line 120 to 123 V on TT")
    rose = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    assert rose.value == pytest.approx(3.9e-3) and "100 µS was taken off" in say_figure_found(rose)
    write(
        notebook,
        "B1 RV-1, rectifier directly heated, nominal 85",
        *FIRST[:3],
        "emission 50 line 230 V to 225.4 V on TT",
    )
    assert figure_of(shop_of(notebook).tubes["B1"], shop_of(notebook)).value == pytest.approx(52.0)


def test_a_log_of_the_line_answers_on_the_command_line(tmp_path):
    def answered(*options):
        return CliRunner().invoke(app, ["held", str(log), *options])

    log = tmp_path / "line.csv"
    volts = (230 - 4.6 * (20 <= i < 40) + 0.01 * (i % 3) for i in range(75))
    log.write_text("s,v\n" + "\n".join(f"{i / 5},{v:.2f}" for i, v in enumerate(volts)), "utf-8")
    told = json.loads(answered("--figure", "2 mS", "--json").output)
    assert told["figure"] == pytest.approx(2.04e-3, rel=1e-3) and told["press"]["seconds"] == pytest.approx(
        4, abs=0.3
    )
    tried = json.loads(answered("--figure", "50", "--test", "emission", "--per-volt", "0.5", "--json").output)
    assert tried["figure"] == pytest.approx(52.3, rel=1e-3) and tried["tried"]
    assert answered("--figure", "2 mS", "--per-volt", "3").exit_code
    assert answered("--figure", "2 mS", "--test", "gas").exit_code
    log.write_text("s,v\n" + "\n".join(f"{i / 5},230.0" for i in range(30)), "utf-8")
    assert "No press of the button" in answered("--figure", "2 mS").output


def test_a_figure_is_corrected_by_known_tubes_or_says_why_not(notebook):
    write(notebook, "A1 SP-1, nominal 4.3 mS, reject 65 %", *FIRST, f"gm 3 mS {REPEATED}")
    raw = figure_of(shop_of(notebook).tubes["A1"], shop_of(notebook))
    assert (raw.value, raw.corrected) == (3e-3, False)
    assert "0 known tubes" in raw.why_not
    assert any(c.name == "tester, not calibrated" for c in raw.budget.contributions)
    known_tubes(notebook)
    shop = shop_of(notebook)
    found = figure_of(shop.tubes["A1"], shop)
    assert found.corrected
    assert found.value == pytest.approx(2.883e-3, rel=2e-3)  # 0.96 of it
    assert found.expanded < raw.expanded
    assert "corrected by known tubes from 3 mS" in say_figure_found(found)
    assert "% of nominal" in say_figure_found(found)
    write(notebook, "A2 SP-1", *FIRST, "gm 6 mS line 0 min on TT")
    shop = shop_of(notebook)
    assert "nothing is known of the tester there" in figure_of(shop.tubes["A2"], shop).why_not


def test_a_known_tube_that_contradicts_is_left_out_by_name(notebook):
    known_tubes(notebook)
    write(notebook, "K5 SP-1", *FIRST, "gm 3 mS line 0 min on TT")
    notebook.write("", TubeKnown(tube="K5", figure=3.9e-3, expanded=0.03e-3))
    assert correction_of(shop_of(notebook), "TT", "S", dt.date.today()).contradict == ("K5",)


def test_tubes_are_matched_in_one_sitting_and_those_that_sit_or_failed_are_left(notebook):
    for key, one in (("A1", 2.50), ("A2", 2.51), ("A3", 2.90), ("A4", 2.93), ("A5", 2.2), ("A6", 2.6)):
        write(notebook, f"{key} SP-1", *FIRST, f"gm {one} mS line 0 min on TT")
    write(notebook, "A5 SP-1", "shorts bad")
    notebook.write("", TubePlaced(tube="A6", job="j", socket="V1"))
    found, words = match_type(shop_of(notebook), "SP-1")
    assert {frozenset(s.tubes) for s in found.sets} == {frozenset(("A1", "A2")), frozenset(("A3", "A4"))}
    assert words.startswith("4 of SP-1, gm on TT, ")
    assert not any(s.told_apart for s in found.sets)
    with pytest.raises(CandorError, match="tested whole in one sitting"):
        match_type(shop_of(notebook), "MT-1")


def test_a_swap_is_a_change_and_a_bad_tube_goes_nowhere(notebook, pack):
    write(notebook, "A1 SP-1", *FIRST, "A2 SP-1", *FIRST, "A3 SP-1", "look good", "heater good", "shorts bad")
    digest = notebook.keep_pack(pack)
    notebook.write("j", JobOpened(maker="T", type="V", serial="1", pack_digest=digest))
    notebook.append(swap(shop_of(notebook), "j", "V3", "A1"))
    notebook.append(swap(shop_of(notebook), "j", "v3", "A2"))
    shop = shop_of(notebook)
    assert (shop.in_socket("j", "V3").body.key, shop.tubes["A1"].place) == ("A2", None)
    changes = [e.body.text for e in notebook.entries_of("j") if isinstance(e.body, ChangeMade)]
    assert changes == ["V3: tube A1 (SP-1) in", "v3: tube A1 out, tube A2 (SP-1) in"]
    for key, socket, words in (
        ("A3", "V4", "failed on shorts"), ("A2", "V4", "take it out there first"), ("A2", "V3", "sits in V3 already"),
        ("A9", "V4", "not on hand"), ("A1", " ", "Which socket"),
    ):  # fmt: skip
        with pytest.raises(CandorError, match=words):
            swap(shop, "j", socket, key)
    notebook.append(take_out(shop, "A2"))
    assert shop_of(notebook).in_socket("j", "V3") is None
    with pytest.raises(CandorError, match="sits in no socket"):
        take_out(shop_of(notebook), "A2")
    notebook.write("", TubeGone(tube="A2", reason="broken"))
    assert [t.body.key for t in shop_of(notebook).here] == ["A1", "A3"]


def test_tubes_go_out_as_a_table_and_come_back(notebook, tmp_path):
    write(
        notebook,
        TWIN,
        *FIRST,
        "section 1 gm 2.5 mS line 2 min held 4 s on TT",
        "section 2 gm 2.44 mS 3 times scatter 20 uS on TT",
    )
    write(notebook, "B1 RV-1, rectifier directly heated, nominal 75, reject 60 %", "look bad: white getter")
    table = write_tubes(shop_of(notebook))
    other = Notebook(tmp_path / "other.candor", "me")
    found = preview_tubes(table.encode(), shop_of(other))
    assert not found.faults
    for body in found.bodies:
        other.write("", body)
    assert write_tubes(shop_of(other)) == table
    again = preview_tubes(table.encode(), shop_of(other))
    assert again.bodies == ()
    assert preview_tubes(table.encode(), shop_of(notebook)).bodies == ()  # out and in again doubles nothing
    mixed = "tube,type,section,test,figure\nX1,MT-1,1,gm,2.4 mS\nX1,MT-1,,gm,2.3 mS\n"
    assert "two sections recorded as one" in preview_tubes(mixed.encode(), shop_of(other)).faults[0]


def test_a_tester_is_as_good_as_its_own_calibration_left_it(notebook):
    pack = bundled_pack("tarnholm-tt7")
    assert testers.is_tester(pack.kind)
    notebook.write("t", JobOpened(maker="Tarnholm", type="TT-7", serial="3", pack_digest=notebook.keep_pack(pack)))
    tube = read_tube("A1 SP-1, nominal 4.3 mS")
    bare = testers.tester_of(fold("t", notebook.entries_of("t")), pack, {}, tube)
    assert (bare.scale_u, bare.full_scale, bare.division, bare.unit) == (None, 6e-3, pytest.approx(0.1e-3), "S")
    assert bare.state == "6 mS was not calibrated"
    assert bare.settings == "heater 6.3, bias 2, range 6 mS"
    body = StandardRecorded(key="s", name="injector", functions=read_functions("siemens\nto 20 mS: 0.5 %"))
    known = notebook.write("", body).id
    notebook.write("t", StandardChosen(standard=known))
    for value, shown in ((3e-3, 3.06e-3), (6e-3, 6.12e-3)):
        read = ReadingTaken(
            step="gm", phase="as found", point=f"gm/6/{value:g}", indicated=shown, reference=value, standard=known
        )
        notebook.write("t", read)
    read = testers.tester_of(fold("t", notebook.entries_of("t")), pack, standards(notebook), tube)
    assert 0.12e-3 / math.sqrt(3) < read.scale_u < 0.1e-3
    assert read.state.startswith("6 mS read ")
    assert read.state.endswith(("passes", "cannot be told"))
    taken = bare.taken(read_test("gm 4 mS line 1 min", tube))
    assert (taken.tester, taken.full_scale, taken.settings) == (bare.name, 6e-3, "heater 6.3, bias 2, range 6 mS")


def test_on_the_command_line(tmp_path):
    rows = [
        "tube,shown,figure,u",
        *(f"k{i},{x},{0.96 * x},0.01" for i, x in enumerate((1.5, 2.4, 3.6, 4.5))),
        "a,3,,",
        "b,9,,",
    ]
    table, points = tmp_path / "t.csv", tmp_path / "p.txt"
    table.write_text("\n".join(rows))
    told = json.loads(CliRunner().invoke(app, ["correct", str(table), "--json"]).output)
    assert told["slope"] == pytest.approx(0.96)
    assert told["tubes"][4]["figure"] == pytest.approx(2.88)
    assert "nothing is known" in told["tubes"][5]["why"]
    assert "a: shown 3: 2.88 ± " in CliRunner().invoke(app, ["correct", str(table)]).output
    points.write_text("-3.25 6.1 mA\n-2.75 7.2 mA\n")
    found = json.loads(
        CliRunner().invoke(app, ["gm", str(points), "--amperes", "3u", "--volts", "1m", "--json"]).output
    )
    assert found["siemens"] == pytest.approx(2.2e-3, rel=2e-3)
    assert {b["name"] for b in found["budget"]} >= {
        "plate current, each reading",
        "grid volts, each reading",
        "chord for slope",
    }
    assert "mS" in CliRunner().invoke(app, ["gm", str(points)]).output
