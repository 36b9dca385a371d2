"""What is known of an instrument that came with nothing but a name, and what its job says of it."""

import pytest

from candor.core.verdict.rules import Outcome
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.ranges_entries import PointsPlanned, RangeMade, short
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened, PackTaken
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import assess_run, first_open, unfinished
from candor.notebook.work.description import base_of, described, description_of
from candor.notebook.work.job import fold
from candor.packs.kinds_of_instrument import ELSE, shipped_kinds
from candor.packs.pack_points import face_of
from candor.packs.procedure import next_step, point_step, points_of_range, procedure
from workbench import NOW, standard_body

VOLTS = RangeMade(
    function="DC volts +", unit="V", full_scale=30.0, divisions=30, mirror=True, percent_of_full_scale=3.0
)


@pytest.fixture
def named(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter"))
    return notebook


def job(notebook):
    return fold("j", notebook.entries_of("j"))


def reading(indicated, reference, point, phase="as found", standard=""):
    return ReadingTaken(
        step="s",
        phase=phase,
        point=point,
        indicated=indicated,
        reference=reference,
        reference_from="typed",
        standard=standard,
    )


def test_a_name_and_a_kind_are_enough(named):
    pack = description_of(named, job(named))
    kind = shipped_kinds()["multimeter"]
    assert (pack.name, pack.kind, pack.zones) == ("Corvane AV-20", kind.title, kind.zones)
    assert (procedure(pack), first_open(job(named), pack, NOW), unfinished(job(named), pack, NOW)) == ((), None, ())
    assert assess_run(job(named), pack, {}, "as found").counts == "none, 0 in all"


def test_a_kind_that_is_not_at_hand_any_more_is_something_else(notebook):
    notebook.write("j", JobOpened(maker="", type="box", serial="", instrument_kind="gone"))
    assert description_of(notebook, job(notebook)).id == f"kind.{ELSE}"


def test_a_range_makes_points_through_the_same_engine(named):
    key = named.write("", standard_body()).id
    named.write("j", StandardChosen(standard=key))
    named.write("j", VOLTS)
    pack = description_of(named, job(named))
    step = next_step(pack, "dc-volts+", "30v")
    assert (step.kind, step.point.limit.at(30, 30), step.point.indicator.mirror) == ("next", pytest.approx(0.9), True)
    assert [s.kind for s in procedure(pack) if not s.usual] == ["next", "next"]
    named.write("j", reading(10.2, 10.03, "dc-volts+/30v/10", standard=key))
    named.write("j", reading(24.0, 20.0, "dc-volts+/30v/20", standard=key))
    pack = description_of(named, job(named))
    found = assess_run(job(named), pack, standards(named), "as found")
    assert [p.key for p in found.points] == ["dc-volts+/30v/10", "dc-volts+/30v/20"]
    assert [found.outcome_of(p.key) for p in found.points] == [Outcome.PASS, Outcome.FAIL]
    assert points_of_range(pack, step.point) == (10.0, 20.0)
    assert point_step(pack, "dc-volts+/30v/10", "as left") is not None


def test_points_that_are_planned_stand_open_and_one_that_was_struck_is_gone(named):
    named.write("j", VOLTS)
    named.write("j", PointsPlanned(function="dc-volts+", range="30v", values=(15.0, 30.0)))
    taken = named.write("j", reading(10.2, 10.03, "dc-volts+/30v/10"))
    pack = description_of(named, job(named))
    assert [p.nominal for p in assess_run(job(named), pack, {}, "as found").points] == [10.0, 15.0, 30.0]
    assert [s.point.nominal for s in unfinished(job(named), pack, NOW)] == [15.0, 30.0]
    named.write("j", Struck(target=taken.id))
    assert points_of_range(description_of(named, job(named)), next(s.point for s in procedure(pack) if s.point)) == (
        15.0,
        30.0,
    )


def test_a_range_made_again_holds_for_what_was_read_on_it(named):
    named.write("j", VOLTS.model_copy(update={"percent_of_full_scale": 0.0}))
    named.write("j", reading(10.2, 10.03, "dc-volts+/30v/10"))
    before = assess_run(job(named), description_of(named, job(named)), {}, "as found").points[0]
    assert not before.limit.given
    named.write("j", VOLTS)
    after = assess_run(job(named), description_of(named, job(named)), {}, "as found").points[0]
    assert (after.key, after.limit_words) == (before.key, "±0.9 V")


def test_small_ranges_keep_their_figures(named):
    named.write("j", RangeMade(function="Microvolts", unit="V", full_scale=3e-7, divisions=30))
    named.write("j", reading(1e-7, 1.02e-7, "microvolts/300nv/1e-07"))
    pack = description_of(named, job(named))
    assert [p.key for p in assess_run(job(named), pack, {}, "as found").points] == ["microvolts/300nv/1e-07"]
    assert pack.dial.scales[0].scale().end == 300.0


def test_two_descriptions_are_two_packs(named):
    """A copy that kept its old digest would be answered from what was remembered of the other."""
    base = base_of(named, job(named))
    named.write("j", VOLTS)
    one = described(job(named), base)
    named.write("j", reading(10.2, 10.03, "dc-volts+/30v/10"))
    two = described(job(named), base)
    assert len({base.digest, one.digest, two.digest}) == 3
    assert described(job(named), base) is two


def test_a_range_beside_a_packs_is_drawn_alone_and_the_packs_stays(notebook, pack):
    notebook.write("j", JobOpened(maker="T", type="VM-6", serial="1", pack_digest=notebook.keep_pack(pack)))
    assert description_of(notebook, job(notebook)) == pack
    notebook.write("j", VOLTS)
    both = description_of(notebook, job(notebook))
    own, theirs = next_step(both, "dc-volts+", "30v").point, procedure(pack)[-1].point
    assert [s.title for s in face_of(both, own).scales] == ["0 to 30"]
    assert face_of(both, own).mirror is True
    assert face_of(both, theirs).scales == pack.dial.scales
    assert set(procedure(pack)) <= set(procedure(both))


def test_going_over_to_a_pack_keeps_its_ranges_unless_made_after(named, pack):
    named.write("j", VOLTS)
    named.write("j", reading(10.2, 10.03, "dc-volts+/30v/10"))
    grown = description_of(named, job(named)).model_copy(update={"id": "own", "edition": "1"})
    grown.__dict__.pop("digest", None)
    named.write("j", PackTaken(pack_digest=named.keep_pack(grown)))
    now = description_of(named, job(named))
    assert now == grown
    assert assess_run(job(named), now, {}, "as found").measured == 1
    named.write("j", VOLTS.model_copy(update={"percent_of_full_scale": 5.0}))
    changed = assess_run(job(named), description_of(named, job(named)), {}, "as found").points
    assert [p.limit_words for p in changed] == ["±1.5 V"]


def test_a_name_put_right_is_the_name(named):
    named.write("j", DetailWritten(field="type", text="AV-21"))
    assert (job(named).name, description_of(named, job(named)).type) == ("Corvane AV-21", "AV-21")


@pytest.mark.parametrize(
    ("words", "key"),
    [
        ("DC volts +", "dc-volts+"),
        ("DC volts −", "dc-volts-"),
        ("µA", "ua"),
        ("300 µA", "300-ua"),
        ("Ω ×1", "ohm-1"),
        ("📻", "x"),
    ],
)
def test_short_names_are_those_of_packs(words, key):
    assert short(words, "x") == key
