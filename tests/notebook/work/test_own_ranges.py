"""Ranges that a job describes are what a pack holds: drawn alike, saved as one, and the same steps after it."""

import pytest

from candor.core.calibration.made_points import nominal_of
from candor.core.errors import RangeError
from candor.core.jot.range_line import understand_range
from candor.core.quantities.show import showing_old
from candor.core.reading.dial import DialRange
from candor.core.reading.kinds import kind_of
from candor.notebook.arrive.pack_from_job import grown_of_job
from candor.notebook.entries.ranges_entries import PointsPlanned
from candor.notebook.entries.stay_entries import JobOpened, PackTaken
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.notebook.work.own_ranges import previewed
from candor.packs.load import parse_pack
from candor.packs.procedure import procedure
from candor.packs.write import pack_yaml
from candor.sitting.commands.calibrate_commands import jot_of, make_range, range_of

LINES = (
    "balance 3 V 60 div zero centre 3%fs usual points", "Ohms called R×100 1.2 kohm centre zero right 5 div 3% of arc usual points",
    "level -15..+3 dB ±0.4 dB usual points", "AC 3 V square law knee 0.5 V 5 div 5%fs usual points",
    "current 2 mA marks 0@0 0.2@8 0.5@24 1@52 2@90 5 div between 3%fs usual points", "line 120 V 60 div on its mark 2%",
    "capacity 0.5 uF 50 div dial at a null second dial phase 60 % 60 div 5% of reading",
    "bias 0..100 100 div dial at its mark ±5 div", "leak lamp 1 Mohm threshold on below 25% of reading",
    "vertical 0.2 V/div 8 div 3% of reading",
    "supply 20 V as a source steps 2 5 10 20 V 3% of reading usual points", "eye look: closes, closes half | stays open",
)  # fmt: skip


@pytest.fixture
def described(notebook):
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    for line in LINES:
        for body in make_range(understand_range(line)).bodies:
            notebook.write("j", body)
    return notebook


def steps_of(notebook):
    """The steps of the job's own ranges; what is usual for a kind is not of the type."""
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    return [(s.key, s.title) for s in procedure(pack) if not s.usual]


def test_a_job_of_every_kind_of_range_becomes_a_pack_and_goes_on_as_before(described):
    before = steps_of(described)
    pack = grown_of_job(described, "j")
    assert parse_pack(pack_yaml(pack), "own") == pack  # as a file too
    described.write("j", PackTaken(pack_digest=described.keep_pack(pack)))
    assert steps_of(described) == before
    described.write("j", PointsPlanned(function="ohms", range="r-100", values=(1900.0,)))
    assert any("1.9" in title for _, title in steps_of(described))


@pytest.mark.parametrize("line", LINES)
def test_what_is_drawn_while_it_is_said_is_what_is_read(described, line):
    made = range_of(understand_range(line))
    assert range_of(jot_of(made)) == made
    pack = description_of(described, fold("j", described.entries_of("j")))
    step = next(
        s for s in procedure(pack) if s.point and s.point.key.startswith(f"{made.function_key}/{made.range_key}/")
    )
    point, face = previewed(pack, made)
    assert point.indicator == step.point.indicator
    assert point.limit == step.point.limit
    assert not isinstance(point.indicator, DialRange) or (face is not None and face.scales)


def point_of_line(notebook, line):
    notebook.write("k", JobOpened(maker="Own", type="T2", serial="2", instrument_kind="something-else"))
    notebook.write("k", range_of(understand_range(line)))
    pack = description_of(notebook, fold("k", notebook.entries_of("k")))
    return next(s.point for s in procedure(pack) if s.point is not None)


def test_the_greater_of_two_terms_is_the_limit_and_not_their_sum(notebook):
    point = point_of_line(notebook, "AC volts 150 V 30 div 3%fs or 2 V, the greater")
    assert point.bounds_at(75.0).half == pytest.approx(4.5)


def test_the_side_on_which_an_indication_is_on_is_held_against_what_is_read(notebook):
    point = point_of_line(notebook, "leak lamp 1 Mohm threshold on below 25% of reading")
    assert kind_of(point).understand("on 950k off 1.05M", point)
    with pytest.raises(RangeError, match="wrong way round"):
        kind_of(point).understand("on 1.05M off 950k", point)


def test_points_made_on_an_arc_that_is_not_even_are_as_far_apart_as_it_can_be_read_there(notebook):
    point = point_of_line(notebook, "Ohms called R×1 10 ohm centre zero right 5 div 3% of arc")
    assert nominal_of(point, 437.0, ()) == 440.0  # a division is 60 Ω there
    assert nominal_of(point, 10.3, ()) == 10.0
    assert nominal_of(point, 10.3, (10.4,)) == 10.4  # the same point read again


@pytest.mark.parametrize(
    "line",
    [
        "balance 400 V 50 div zero centre",
        "volts − 500 V 50 div",
        "level -20..+40 dB",
        "out 300 V 50 div as a source",
        "AC volts 50 V 50 div",
    ],
)
def test_what_is_live_is_said_before_the_step_whatever_its_sign_or_unit(notebook, line):
    point_of_line(notebook, f"{line} usual points")
    for body in make_range(understand_range(f"{line} usual points")).bodies:
        notebook.write("k", body)
    steps = procedure(description_of(notebook, fold("k", notebook.entries_of("k"))))
    largest = max((s for s in steps if s.point), key=lambda s: abs(s.point.nominal))
    assert [c.level for c in largest.cautions] == ["danger"]


def test_an_arc_by_its_marks_is_drawn_by_their_law_and_a_slip_is_pointed_out(notebook):
    """An ohms arc, 12 ohm at its middle: between the marks 2 and 5 it bends, as its law does."""
    places = {m: round(900 * m / (m + 12)) for m in (0, 2, 5, 10, 20, 50, 200)}
    line = (
        "range ohms marks "
        + " ".join(f"{m}@{at}" for m, at in places.items())
        + " inf@900 ohm 4 div between 3% of arc"
    )
    point = point_of_line(notebook, line)
    assert 0 < point.indicator.scale.marks_u < 0.001
    assert point.indicator.arc_of(3.5) == pytest.approx(3.5 / 15.5, abs=1e-3)
    # What a photo leaves unknown of all places together reaches the scale that is read, beside what they scatter by.
    placed = point_of_line(notebook, line.replace(" 4 div", " placed to 1 % 4 div"))
    assert placed.indicator.scale.marks_u == pytest.approx(0.005, rel=0.05)
    assert any("an ohms arc" in chip for chip in understand_range(line).chips)
    slipped = understand_range(line.replace(f"20@{places[20]}", f"20@{places[20] + 60}"))
    assert any(chip.startswith("look again at the mark 20") for chip in slipped.chips)


def test_a_dial_in_per_cent_reads_per_cent_bare_and_is_drawn_so(notebook):
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    for body in make_range(understand_range("loss 0..50 % 50 div 5%fs usual points")).bodies:
        notebook.write("j", body)
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    point = next(s.point for s in procedure(pack) if s.point is not None)
    assert [point.quantity(text) for text in ("22", "22 %", "0.5")] == pytest.approx([0.22, 0.22, 0.005])
    assert point.name == "50 % range at 10 %"
    assert point.indicator.scale.name == "0 to 50"  # as it is printed
    assert point.indicator.arc_of(0.25) == pytest.approx(0.5)


def test_a_range_keeps_what_was_read_on_it_whatever_units_are_shown(notebook):
    """Its key was said in the units shown: whoever turned micromhos off in Settings lost the readings from sight."""
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    first, again = (understand_range(f"gm {end} 60 div 10%fs") for end in ("3000 umho", "3 mS"))
    for shown, line in (("umho",), first), ((), again):  # typed anew in another unit it is the same range
        with showing_old(shown):
            for body in make_range(line, fold("j", notebook.entries_of("j"))).bodies:
                notebook.write("j", body)
    for shown in (("umho",), ()):
        with showing_old(shown):
            assert list(fold("j", notebook.entries_of("j")).ranges.made) == [("gm", "3ms")]


def test_a_range_that_was_written_before_it_had_a_key_is_changed_where_it_stands(notebook):
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    with showing_old(("umho",)):
        notebook.write("j", range_of(understand_range("gm 3 mS 60 div")).model_copy(update={"key": ""}))
        job = fold("j", notebook.entries_of("j"))
        assert list(job.ranges.made) == [("gm", "3000umho")]
        assert range_of(understand_range("gm 3 mS 30 div"), job).range_key == "3000umho"


def test_bare_numbers_are_read_as_the_face_prints_them(notebook):
    """0.15 on a 0.3 V range was taken for 0.15 mV, of both needle and reference: it passed."""
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    for body in make_range(understand_range("volts 0.3 V 30 div 3%fs usual points")).bodies:
        notebook.write("j", body)
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    point = next(s.point for s in procedure(pack) if s.kind == "point")
    assert (point.range_name, point.quantity("0.15"), point.bare(0.15)) == ("0.3 V", 0.15, "0.15")


def test_functions_and_ranges_without_a_latin_letter_are_told_apart(notebook):
    """Two of one unit had one key: the ranges of the second took the place of the first's, and their readings."""
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    ohms = ('Омы called "А" 10 ohm centre zero left', 'Омы called "Б" 99 ohm centre zero left')
    for line in ("Вольты 10 V 50 div", "Переменное 10 V 50 div", *ohms, "Вольты 10 V 60 div"):
        for body in make_range(understand_range(f"{line} 3% of reading"), fold("j", notebook.entries_of("j"))).bodies:
            notebook.write("j", body)
    made = fold("j", notebook.entries_of("j")).ranges.made
    assert [(e.body.function, e.body.title, e.body.divisions) for e in made.values()] == [
        ("Вольты", "10 V", 60), ("Переменное", "10 V", 50), ("Омы", "А", 1), ("Омы", "Б", 1),
    ]  # fmt: skip
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    assert parse_pack(pack_yaml(grown_of_job(notebook, "j")), "own").functions == pack.functions


def test_a_function_that_was_written_before_it_had_an_id_keeps_its_key(notebook):
    notebook.write("j", JobOpened(maker="Own", type="T1", serial="1", instrument_kind="something-else"))
    notebook.write(
        "j", range_of(understand_range("Вольты 10 V 50 div")).model_copy(update={"key": "", "function_id": ""})
    )
    job = fold("j", notebook.entries_of("j"))
    assert range_of(understand_range("Вольты 10 V 60 div"), job).function_key == "fV"
    assert range_of(understand_range("Переменное 10 V 60 div"), job).function_key.startswith("fv-")
