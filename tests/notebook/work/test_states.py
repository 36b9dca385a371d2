"""States: what a change opens, which readings it makes history, what stands as found and as left."""

import datetime as dt

import pytest

from candor.core.jot import JotContext, understand
from candor.core.reading.reading import Reading
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.calibrate_entries import AdjustmentMade
from candor.notebook.entries.kinds_entries import read_body
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import as_left_run, assess_draft, assess_run, unfinished
from candor.notebook.work.job import fold
from candor.notebook.work.states import FirstRead, left_instead, say_first, states_of, trims_to_repeat, words_of
from candor.packs.bundled import bundled_pack, bundled_packs
from candor.packs.load import parse_pack
from candor.packs.procedure import test_points
from workbench import PACK_TEXT, open_job, point_steps, reading, standard_body

PLUS, MINUS, PLUS_HALF, PLUS_LAST = "dc+/150/75", "dc-/150/75", "dc+/50/25", "dc+/50/50"


class Bench:
    """A job on which things are written one after the other."""

    def __init__(self, notebook, pack):
        self.notebook, self.pack = notebook, pack
        self.standard = open_job(notebook, pack)
        self.steps = {(s.point.key, s.phase): s for p in ("as found", "as left") for s in point_steps(pack, p)}

    def read(self, point, phase="as found", ratio=1.0, **more):
        body = reading(self.steps[point, phase], more.pop("standard", self.standard), ratio, **more)
        return self.notebook.write("job1", body)

    def trim(self, name="+DC CAL"):
        return self.notebook.write("job1", AdjustmentMade(step="trim-plus", trim=name))

    def change(self, text, **more):
        return self.notebook.write("job1", ChangeMade(text=text, **more))

    @property
    def job(self):
        return fold("job1", self.notebook.entries_of("job1"))

    @property
    def states(self):
        return states_of(self.job, self.pack)

    def runs(self):
        known = standards(self.notebook)
        found, left = (assess_run(self.job, self.pack, known, phase) for phase in ("as found", "as left"))
        return found, left, as_left_run(self.job, self.pack, found, left)


@pytest.fixture
def work(notebook, pack):
    return Bench(notebook, pack)


def values(readings):
    return [r.body.indicated for r in readings]


def test_readings_before_a_trim_are_history_and_never_averaged_in(work):
    work.read(PLUS)
    work.trim()
    work.read(PLUS, "as left", 1.04)
    work.trim()
    assert work.states.waiting.keys() == {PLUS}
    assert values(work.states.older[PLUS]) == [78.0]
    _, left, whole = work.runs()
    assert (left.measured, left.waiting, list(left.voided)) == (0, (PLUS,), [PLUS])
    assert whole.outcome_of(PLUS) is Outcome.NOT_MEASURED
    work.read(PLUS, "as left", 1.0)
    _, left, _ = work.runs()
    assert left.results[PLUS].error == pytest.approx(0.0)
    assert left.waiting == ()


def test_an_as_found_reading_after_a_trim_does_not_count_as_found(work):
    work.trim()
    work.read(PLUS)
    assert work.states.found == {}
    assert values(work.states.left[PLUS]) == [75.0]  # it is what the instrument is now


def test_as_found_is_the_first_valid_reading(work):
    work.read(PLUS, ratio=0.98)
    work.change("replaced R4", part="R4")
    work.read(PLUS, ratio=1.0)
    assert values(work.states.found[PLUS]) == [73.5]
    assert values(work.states.left[PLUS]) == [75.0]
    assert work.states.first[PLUS] == FirstRead("as found")


def test_parts_changed_before_the_first_reading_make_it_after_repair(work):
    work.change("replaced R4", part="R4")
    work.read(PLUS)
    first = work.states.first[PLUS]
    assert (first.word, [words_of(o) for o in first.after]) == ("as received after repair", ["replaced R4"])
    assert work.runs()[0].title == "as received after repair"
    assert work.states.waiting == {}


@pytest.mark.parametrize(
    ("text", "more", "voids"),
    [
        ("replaced R4", {"part": "R4"}, {PLUS, MINUS}),  # the divider is in both
        ("replaced R16", {"part": "R16"}, {PLUS}),
        ("disturbed R17", {"touches": "R17"}, {MINUS}),
        ("replaced C2", {"part": "C2"}, set()),  # no point says that it uses the supply's can
        ("cleaned and reseated the range switch", {}, {PLUS, MINUS}),  # is not a name here: everything
        ("disturbed the harness", {}, {PLUS, MINUS}),
    ],
)
def test_a_change_voids_only_what_depends_on_it(work, text, more, voids):
    work.read(PLUS)
    work.read(MINUS)
    work.change(text, **more)
    assert set(work.states.waiting) == voids


def test_each_polarity_has_its_own_trim_and_an_unknown_one_moves_everything(work):
    work.read(PLUS)
    work.read(MINUS)
    trim = work.trim("−DC CAL")
    assert set(work.states.waiting) == {MINUS}
    work.notebook.write("job1", Struck(target=trim.id))
    assert work.states.waiting == {}
    work.trim("a screw nobody knows")
    assert set(work.states.waiting) == {PLUS, MINUS}


def test_where_nothing_is_said_everything_depends_on_everything(work, pack):
    silent = pack.model_copy(
        update={
            "adjusters": (),
            "procedure": tuple(
                s.model_copy(
                    update={
                        "steps": tuple(
                            t.model_copy(update={"uses": ()}) if t.kind == "points" else t for t in s.steps
                        )
                    }
                )
                for s in pack.procedure
            ),
        }
    )
    silent.__dict__["digest"] = "a pack of before"
    work.read(PLUS)
    work.read(MINUS)
    work.trim()
    assert set(states_of(work.job, silent).waiting) == {PLUS, MINUS}


def test_untouched_points_keep_what_was_found(work):
    work.read(PLUS)
    work.read(MINUS, ratio=0.99)
    work.trim()
    work.read(PLUS, "as left")
    found, _, whole = work.runs()
    assert whole.results[MINUS] is found.results[MINUS]
    assert whole.phase == "as left"


def test_what_is_needed_follows_the_states(work, pack, clock):
    for key, phase in work.steps:
        if phase == "as found":
            work.read(key)
    work.trim()
    needed = {s.point.key for s in unfinished(work.job, pack, clock()) if s.kind == "point"}
    assert needed == {key for key, phase in work.steps if phase == "as left" and key.startswith("dc+")}


def test_conditions_are_those_that_stood_at_the_reading(work, notebook):
    work.read(PLUS)
    cold = notebook.write("job1", ConditionNoted(which="celsius", value=12.0))
    work.read(MINUS)
    notebook.write("job1", ConditionNoted(which="celsius", value=23.0))
    assert [r.celsius for r in work.job.calibrate.readings] == [None, 12.0]
    notebook.write("job1", Struck(target=cold.id))
    assert [r.celsius for r in work.job.calibrate.readings] == [None, 12.0]  # a later strike changes no old verdict
    work.read(PLUS)
    assert work.job.calibrate.readings[-1].celsius == 23.0


def test_temperature_outside_its_span_widens_only_what_was_read_then(work, notebook):
    warm = notebook.write("", standard_body(percent_per_kelvin=0.5)).id
    work.read(PLUS, standard=warm)
    notebook.write("job1", ConditionNoted(which="celsius", value=40.0))
    work.read(MINUS, standard=warm)
    found = work.runs()[0]
    names = [[c.name for c in found.results[key].budget.contributions] for key in (PLUS, MINUS)]
    assert ["bench meter, temperature" in n for n in names] == [False, True]


def test_a_struck_standard_still_judges_what_was_read_by_it(work, notebook):
    work.read(PLUS)
    before = work.runs()[0].results[PLUS].verdict
    notebook.write("", Struck(target=work.standard))
    assert work.runs()[0].results[PLUS].verdict == before
    assert not standards(notebook)[work.standard].current


def test_two_standards_and_two_days_are_results_of_their_own(work, notebook, clock):
    other = notebook.write("", standard_body(key="b", name="other")).id
    work.read(PLUS, ratio=1.00)
    work.read(PLUS, ratio=1.01, standard=other)
    result = work.runs()[0].results[PLUS]
    assert (result.error, [b.error for b in result.beside]) == (pytest.approx(0.75), [pytest.approx(0.0)])
    clock.now += dt.timedelta(days=1)
    work.read(PLUS, ratio=1.02, standard=other)
    assert len(work.runs()[0].results[PLUS].beside) == 2


def test_repeats_of_one_standard_and_day_are_averaged(work):
    work.read(PLUS, ratio=1.00)
    work.read(PLUS, ratio=1.02)
    result = work.runs()[0].results[PLUS]
    assert result.error == pytest.approx(0.75)
    assert result.beside == ()


def test_friction_found_at_one_point_is_used_at_the_others(work):
    work.read(MINUS)
    assumed = work.runs()[0].results[MINUS]
    work.read(PLUS, ratio=0.99, direction="up")
    work.read(PLUS, ratio=1.01, direction="down")
    known = work.runs()[0].results[MINUS]
    assert "friction, assumed" in [c.name for c in assumed.budget.contributions]
    assert "friction, from other points" in [c.name for c in known.budget.contributions]
    assert known.coverage.expanded < assumed.coverage.expanded


def test_a_point_is_read_as_left_once_more_without_any_change(work):
    work.read(PLUS, ratio=1.0)
    work.read(PLUS, "as left", 1.01)
    assert values(work.states.found[PLUS]) == [75.0]
    assert values(work.states.left[PLUS]) == [75.75]


def test_a_reading_in_hand_is_seen_with_those_of_its_own_standard_and_day_only(work, clock):
    """What would be decided if it were taken now: two standards at one point are never one mean, nor are two days."""
    other = work.notebook.write("", standard_body(key="other", name="another meter")).id
    step = work.steps[PLUS, "as found"]

    def draft():
        known = standards(work.notebook)
        return assess_draft(
            job=work.job,
            pack=work.pack,
            known=known,
            step=step,
            draft=Reading(75.0, 75.0, "up"),
            now=work.notebook.clock(),
        )

    work.read(PLUS, ratio=1.02, standard=other, direction="up")
    assert draft().error == pytest.approx(0.0)
    work.read(PLUS, ratio=1.02, direction="up")
    assert draft().error == pytest.approx(0.75)
    clock.advance(days=1)
    assert draft().error == pytest.approx(0.0)
    work.trim()
    assert draft().error == pytest.approx(0.0)


def test_a_trim_that_another_was_turned_after_is_to_be_set_again(work):
    """AC CAL hangs on +CAL: turned after it, it is set once more; and where it stood stands with the trim."""
    pack = bundled_pack("halvergate-ev9")
    work.trim("AC CAL")
    assert trims_to_repeat(work.job, pack) == []
    work.notebook.write("job1", AdjustmentMade(step="t", trim="+CAL", stood="3 o'clock", turns=-0.25))
    said = trims_to_repeat(work.job, pack)
    assert [words for words, _ in said] == [
        "+CAL was turned after AC CAL was set, and AC CAL depends on it: set AC CAL again."
    ]
    assert work.job.calibrate.adjustments[-1].body.moved_words == " (stood 3 o'clock, turned 0.25 anticlockwise)"
    work.trim("AC CAL")
    assert trims_to_repeat(work.job, pack) == []


@pytest.mark.parametrize(
    ("name", "trim", "keeps", "voids"),
    [
        # What the line test scales, it voids: all but the movement by itself and the shorts lamp.
        ("tarnholm-tt7", "LINE TEST RESISTOR", {"meter", "shorts"},
         {"line", "screen", "signal", "heater", "bias", "gm", "load", "known"}),
        ("tarnholm-tt7", "BIAS KNOB", {"line", "screen", "gm", "heater"}, {"bias", "known"}),
        # After a rail everything.
        ("tarnholm-ts22", "−150 ADJ", set(),
         {"rails", "rail225", "cal", "crt", "y", "corners", "corner", "sweep", "trigger", "delay"}),
        ("tarnholm-ts22", "HV ADJ", {"rails", "cal", "trigger"}, {"y", "sweep", "shape", "corner"}),
        ("tarnholm-ts22", "SWEEP CAL", {"rails", "cal", "y", "corner"}, {"sweep", "delay", "magnified"}),
        ("wexcombe-cc21", "POINTER", {"volts", "rail", "eye"}, {"r", "c"}),
    ],
)  # fmt: skip
def test_a_trim_makes_history_of_what_hangs_on_it_and_of_no_more(notebook, name, trim, keeps, voids):
    pack = bundled_pack(name)
    bench = Bench(notebook, pack)
    one_of_each = {}
    for step in point_steps(pack):
        if not step.point.formula.text:
            one_of_each.setdefault(step.point.key.split("/")[0], step.point.key)
    for key in one_of_each.values():
        bench.read(key, indicated=bench.steps[key, "as found"].point.nominal)
    bench.trim(trim)
    waiting = {key.split("/")[0] for key in bench.states.waiting}
    assert keeps <= set(one_of_each)
    assert not keeps & waiting
    assert voids & set(one_of_each) <= waiting


def test_each_point_has_its_own_state_and_page_one_names_the_change(work):
    """One point first read after a change takes nothing from those that were genuinely read as found."""
    work.read(PLUS)
    work.read(PLUS_HALF)
    change = work.change("replaced R17", part="R17")
    trim = work.trim()
    work.read(MINUS)  # R17 is of the minus side: as received after repair
    work.read(PLUS_LAST, "as left")  # first read after the trim of the plus side
    found, left, _ = work.runs()
    assert (found.title, found.outcome_of(PLUS), found.state_of(MINUS)) == (
        "as found", Outcome.PASS, "as received after repair",
    )  # fmt: skip
    assert "2 pass" in found.counts
    assert "1 as received after repair, 1 first read after adjustment" in found.counts
    words = {p.key: p.name for p in found.points}
    assert {n: w for w, n in say_first(work.states, words)} == {
        change.number: f"{words[MINUS]} was first read after a change (replaced R17, entry {change.number}): as received after "
        "repair, not as found.",
        trim.number: f"{words[PLUS_LAST]} was first read after a change (+DC CAL was turned, entry {trim.number}): first read "
        "after adjustment, not as found.",
    }  # fmt: skip
    assert set(work.states.waiting) == {PLUS, PLUS_HALF}
    assert set(left.results) == {PLUS_LAST}


def test_a_trim_in_words_is_a_trim_and_so_it_was_in_old_notebooks(work):
    work.read(PLUS)
    jot = understand("did trimmed the +dc cal", JotContext())
    assert (jot.turned, jot.part) == ("+dc cal", "")
    work.notebook.write("job1", ChangeMade(text=jot.text, turned=jot.turned))
    assert set(work.states.waiting) == {PLUS}
    work.read(MINUS)
    assert work.states.first[MINUS].word == "as found"  # its own adjuster stands where it stood
    older = read_body('{"kind": "change", "version": 1, "text": "adjusted the screw", "part": "", "touches": ""}')
    assert older.turned == "screw"
    assert (
        read_body(ChangeMade(text="adjusted the screw").model_dump_json()).turned == ""
    )  # what says so itself is not read again


def test_what_is_set_before_every_use_opens_no_state(work):
    said = 'name: "+DC CAL"'
    assert PACK_TEXT.count(said) == 1
    pack = parse_pack(PACK_TEXT.replace(said, f"every_use: true\n    {said}"), "p.yaml")
    work.read(PLUS)
    work.trim()
    assert set(work.states.waiting) == {PLUS}
    assert states_of(work.job, pack).waiting == {}


def test_the_hand_goes_to_the_point_as_left_where_it_depends_on_what_moved(work):
    step = work.steps[PLUS, "as found"]
    assert left_instead(work.job, work.pack, step) is None
    work.trim()
    assert left_instead(work.job, work.pack, step) == work.steps[PLUS, "as left"]
    assert left_instead(work.job, work.pack, work.steps[MINUS, "as found"]) is None


def test_every_point_that_is_read_as_found_can_be_read_as_left():
    for pack in bundled_packs():
        found, left = ({p.key for p in test_points(pack, phase)} for phase in ("as found", "as left"))
        assert found <= left, pack.id


def test_what_was_put_on_the_drawn_arc_is_known_as_such(notebook, pack):
    standard, step = open_job(notebook, pack), point_steps(pack)[3]
    for means in ("drag", "jot"):
        notebook.write("job1", reading(step, standard, means=means))
    taken = fold("job1", notebook.entries_of("job1")).calibrate.readings
    assert [r.reading(step.point).by_place for r in taken] == [True, False]
