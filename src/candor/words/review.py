"""The review table: an example of every finding that is put into words here, with its sentence, to be read aloud."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator, Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult, assess_point
from candor.core.combine.exact import Piece
from candor.core.combine.search import Asked, search
from candor.core.drift.due import Advice, Due, DueReason
from candor.core.finding import Finding
from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import LocalRule, TouchReading, judge_earth, judge_insulation, judge_touch
from candor.core.power.rail_ohms import RailOhms
from candor.core.reading.dial import DialRange
from candor.core.reading.reading import Reading
from candor.core.reading.scale import linear_scale
from candor.core.reference.reference import Reference, SpecificationRange
from candor.core.uncertainty.simulate import Simulation
from candor.core.verdict.rules import Limit, Rule
from candor.core.verdict.would_settle import Remedy, Settlement
from candor.notebook.entries.stay_entries import FilesGone
from candor.notebook.power.may_power import PowerItem
from candor.notebook.release.leaving import LeavingItem
from candor.notebook.storage.backup import Backup, Made, Missed
from candor.notebook.storage.checking import Checked, Head
from candor.notebook.storage.fault import Fault
from candor.notebook.work import check_findings as found
from candor.notebook.work.line_influence import LineInfluence
from candor.notebook.work.next_deed import NextDeed
from candor.packs.bundled import bundled_pack
from candor.packs.retrim import retrim
from candor.words import (
    checks,
    combining,
    drift_words,
    faults,
    line_words,
    results,
    settling_words,
)
from candor.words.next_deed_words import say_next
from candor.words.review_board import board_examples
from candor.words.review_face import faced_examples
from candor.words.review_greatest import greatest_examples
from candor.words.review_parts import judged_examples, proposed_examples, surely_examples
from candor.words.review_plan import plan_examples
from candor.words.review_power import power_examples
from candor.words.review_rails import rails_examples
from candor.words.review_suspects import suspects_examples
from candor.words.review_trace import traced_examples
from candor.words.review_tubes import supply_examples, tubes_examples
from candor.words.speaking import all_sentences

TOPICS = (
    tubes_examples,
    supply_examples,
    power_examples,
    plan_examples,
    traced_examples,
    faced_examples,
    greatest_examples,
    suspects_examples,
    board_examples,
    rails_examples,
)
DAY = dt.date(2026, 4, 18)
POINT = TestPoint(
    key="volts/60/40", function="D.c. volts", range_name="60 V", full_scale=60.0, nominal=40.0, polarity=1,
    indicator=DialRange(linear_scale("0 to 60", 0.0, 60.0, 30, 5), 1.0, "V", True), limit=Limit(3.0),
)  # fmt: skip
METER = Reference(
    "bench meter", "V", (SpecificationRange(100.0, 0.05),), calibrated_on=dt.date(2025, 11, 3), valid_days=365
)
RULE = LocalRule()


@dataclass(frozen=True)
class Case:
    """A finding as an example: its topic, what was found, and what is said of it."""

    topic: str
    finding: str
    sentence: str


def cases() -> tuple[Case, ...]:
    """Return the table, topic by topic."""
    return (
        *_results(),
        *_line(),
        *_settling(),
        *_checks(),
        *_lines(),
        *_combining(),
        *_drift(),
        *_faults(),
        *_next(),
        *(Case(*one) for make in TOPICS for one in make()),
        *(Case("Keep or replace", *one) for one in judged_examples()),
        *(Case("How sure a part is", *one) for one in surely_examples()),
        *(Case("What goes in its place", *one) for one in proposed_examples()),
    )


def review_table() -> str:
    """Return the table as Markdown."""
    lines = [
        "# Sentences",
        "",
        "What Candor finds and how it says so: one example of each, made by the program itself (`candor sentences`).",
    ]
    topic = ""
    for case in cases():
        if case.topic != topic:
            topic = case.topic
            lines += ["", f"## {topic}", "", "| found | said |", "|---|---|"]
        lines.append(f"| {_cell(case.finding)} | {_cell(case.sentence)} |")
    lines += ["", "# Said in passing", "", "Every other sentence by its topic and name; in braces what is put there."]
    of = ""
    for name, sentence in all_sentences():
        if (topic := name.partition(".")[0]) != of:
            of = topic
            lines += ["", f"## {topic}", "", "| found | said |", "|---|---|"]
        lines.append(f"| {name.partition('.')[2].replace('_', ' ')} | {_cell(sentence)} |")
    return "\n".join(lines) + "\n"


def _cell(text: str) -> str:
    return text.replace("|", "\\|").replace("\n", " ")


def _read(*values: tuple[float, str], rule: Rule = Rule.GUARDED, point: TestPoint = POINT) -> PointResult:
    readings = tuple(Reading(value, 40.0, way, i) for i, (value, way) in enumerate(values, 1))  # type: ignore[arg-type]
    return assess_point(
        point=point, phase="as found", readings=readings, reference=METER, on=DAY, rule=rule, friction_divisions=0.0
    )


def _results() -> Iterator[Case]:
    topic = "A point and its verdict"
    passes, doubt, fails = (_read((value, "")) for value in (40.4, 41.6, 43.0))
    both = _read((39.5, "up"), (40.3, "down"))
    bare = _read((40.4, ""), point=replace(POINT, limit=Limit()))
    other = replace(passes, beside=(fails,))
    yield Case(topic, "passes", results.say_result(passes))
    yield Case(topic, "cannot tell", results.say_result(doubt))
    yield Case(topic, "fails", results.say_result(fails))
    yield Case(topic, "no limit was given", results.say_result(bare))
    yield Case(topic, "the error in short", results.short_error(passes))
    yield Case(topic, "how likely it is in tolerance", results.likely(0.8731))
    yield Case(topic, "rising and falling", results.say_friction(both))
    yield Case(topic, "another standard agrees, or not", results.say_agreements(other))
    yield Case(topic, "where U comes from", results.say_coverage(passes))
    yield Case(topic, "one reading", results.reading_words(POINT, passes.readings[0]))
    for rule in Rule:
        yield Case(topic, f"the rule, {rule}", results.say_rule(_read((40.4, ""), rule=rule)))
    for name, result in (("passes", passes), ("cannot tell", doubt), ("fails", fails), ("no limit", bare)):
        yield Case(topic, f"what would change it: {name}", results.what_would_change(result))
    half = 1.004 * passes.coverage.expanded
    drawn = Simulation(draws=200_000, standard_deviation=passes.coverage.combined, low=-half, high=half)
    yield Case(topic, "checked by simulation", results.say_simulation(drawn, passes))
    yield Case(topic, "the risk over a shop", results.say_risk(passes))
    yield Case(topic, "a line of the command line", results.say_results([passes])[0])


def _line() -> Iterator[Case]:
    topic = "Influence of the line"
    read = _read((39.2, ""))
    for name, change, expanded in (("moves", -0.9, 0.5), ("within its uncertainty", -0.2, 0.5)):
        seen = LineInfluence(
            point=POINT, base_volts=120.0, volts=108.0, change=change, expanded=expanded, result=read, entry=0,
        )  # fmt: skip
        yield Case(topic, name, line_words.say_line_influence(seen))
    yield Case(topic, "just read", line_words.say_kept_for_line(108.0, 120.0))


def _settling() -> Iterator[Case]:
    topic = "What would settle it"
    kinds = ("needle", "reference", "friction", "bracket", "scale marks")
    for kind in kinds:
        remedy = Remedy(kind=kind, half_width=0.26, readings=0, chance=0.91)
        found_ = Settlement(expanded_needed=0.41, remedies=(remedy,), largest=(kind,))
        yield Case(topic, f"by {kind}", settling_words.say_settlement(found_, "V"))
    repeats = Remedy(kind="repeats", half_width=0.0, readings=9, chance=0.62)
    yield Case(topic, "by repeats", settling_words.say_settlement(Settlement(0.41, (repeats,), ("repeats",)), "V"))
    yield Case(
        topic, "by nothing alone", settling_words.say_settlement(Settlement(0.41, (), ("needle", "meter")), "V")
    )
    on = Settlement(0.0, (), ("needle",), on_limit=True)
    yield Case(topic, "the error is at its limit", settling_words.say_settlement(on, "V"))


def _checks() -> Iterator[Case]:
    topic = "Checks before power and before release"
    for ask in checks.ASKS:
        yield Case(topic, f"not looked at: {ask}", checks.say_found(found.NotLooked(ask)))
    low, high = TouchReading(0.12e-3, False, True), TouchReading(0.31e-3, True, True)
    over = TouchReading(0.74e-3, True, False)
    rest = (TouchReading(0.1e-3, False, False), TouchReading(0.1e-3, True, False))
    examples: tuple[tuple[str, found.CheckFinding], ...] = (
        ("not looked at, and heavy", found.NotLooked("release shake", "34 kg")),
        ("looked at: OK", found.Looked("good")),
        ("looked at: not OK", found.Looked("bad", "the clamp slips")),
        ("looked at before power", found.Looked("good", before_power=True)),
        ("does not apply", found.Looked("does not apply")),
        ("fed by batteries", found.NoMains()),
        ("no transformer", found.NoTransformer()),
        ("measured before a change", found.Outdated("replaced C12", 48)),
        ("hazards", found.Hazards(("cord perished", "selenium rectifier"))),
        ("no hazard", found.Hazards()),
        ("fasteners missing", found.Fasteners(missing=2)),
        ("not put back", found.Fasteners(not_back=("the shield",))),
        ("all fasteners there", found.Fasteners()),
        ("nothing taken apart", found.Fasteners(taken_apart=False)),
        ("overridden", found.Overridden("the owner wants it as it is")),
        ("old capacitors on the mains", found.LineCapacitors(old=("C31",))),
        ("their class not on record", found.LineCapacitors(unknown=("C31",))),
        ("none listed", found.LineCapacitors()),
        ("all of their class", found.LineCapacitors(held=("C31", "C32"))),
        ("parts to fit", found.PlannedParts(("C7", "R19"))),
        ("all fitted", found.PlannedParts()),
        ("nothing planned", found.PlannedParts(any_planned=False)),
        (
            "over its rating",
            found.OverRated((Finding("over.drawn", {"name": "b1", "volts": 340.0, "rated": 300.0}),)),
        ),
        ("ratings kept", found.Ratings(known=True)),
        ("ratings not known", found.Ratings(known=False)),
        ("earth looked at, no current given", found.EarthUncertain()),
        ("washed, not measured", found.WashedInsulation(10e6, measured=False)),
        ("washed and measured", found.WashedInsulation(10e6, measured=True)),
        ("a rail to read", found.RailUnread("b2")),
        ("no rail listed", found.RailUnread()),
        ("a winding", found.Winding(86.0)),
        ("an open winding", found.Winding(None)),
        ("the meter proved", found.MeterProved("the lamp socket")),
        ("said elsewhere", found.Told(("C7 is drawn at 320 V, it is rated for 300 V",))),
        ("earth bond good", judge_earth(0.14, 0.06, 10.0, RULE)),
        ("earth bond without its current", judge_earth(0.14, 0.06, 0.0, RULE)),
        ("earth bond bad", judge_earth(0.9, 0.06, 10.0, RULE)),
        ("insulation good", judge_insulation(35e6, 500.0, False, RULE)),
        ("insulation at too few volts", judge_insulation(35e6, 9.0, False, RULE)),
        ("insulation bad after washing", judge_insulation(4e6, 500.0, True, RULE)),
        ("touch current, some cases missing", judge_touch((low, high), RULE)),
        ("touch current good", judge_touch((low, high, *rest), RULE)),
        ("touch current bad", judge_touch((low, over), RULE)),
        ("a rail shorted", RailOhms(1_900.0, 33_000.0)),
        ("a rail low", RailOhms(19_000.0, 33_000.0)),
        ("a rail high", RailOhms(61_000.0, 33_000.0)),
        ("a rail without the manual's figure, shorted", RailOhms(420.0)),
        ("a rail without the manual's figure, low", RailOhms(3_100.0)),
        ("a rail without the manual's figure", RailOhms(61_000.0)),
    )
    for name, one in examples:
        yield Case(topic, name, checks.say_found(one))


def _lines() -> Iterator[Case]:
    topic = "Lines of the lists"
    bond = judge_earth(0.14, 0.06, 10.0, RULE)
    at = dt.datetime(2026, 4, 18, 9, 20, tzinfo=dt.UTC)
    item = LeavingItem("earth", "Earth bond", "good", bond, by_hand=True, entry=31, who="R. M.", at=at)
    yield Case(topic, "a release check as printed", checks.say_release_line(item))
    power = PowerItem("cord", "Cord and clamp", "bad", found.Looked("bad", "perished at the plug"), entry=12)
    yield Case(topic, "a check before power on the command line", checks.item_json(power)["sentence"])


def _combining() -> Iterator[Case]:
    topic = "Values made of pieces"
    across = Asked("resistor", 68e3, 0.01, 0.01, measured=71.5e3, volts=400, most=2, series="E24")
    found = search(across, [Piece(1.5e6, 0.05, 2, "1.5 MΩ 5 % 0.5 W", watts=0.05)])
    yield Case(topic, "a trim and what was searched", combining.say_search(found))
    for name, asked in (
        ("capacitors over their rating", Asked("capacitor", 47e-9, 0.02, 0.02, volts=450, most=3)),
        ("a resistor to be split", Asked("resistor", 4.7e6, 0.05, 0.05, volts=900, most=1)),
    ):
        two = search(asked, [Piece(47e-9, 0.05, 1, volts=400), Piece(22e-9, 0.05, 1, volts=630), Piece(25e-9, 0.05, 1, volts=630)]
                     if asked.kind == "capacitor" else [Piece(4.7e6, 0.05, 1, volts=350)])  # fmt: skip
        yield Case(topic, name, combining.say_search(two))
        yield Case(topic, f"{name}: its first answer", combining.say_answer(two.answers[0], asked))
        yield Case(topic, f"{name}: what is over", combining.say_over(two.answers[0].loads[0]))
    yield Case(topic, "nothing on hand", combining.say_search(search(Asked("resistor", 12.4e3), [])))
    yield Case(topic, "nothing needed", combining.say_search(search(Asked("resistor", 10e3, measured=10e3), [])))
    for _, what, answer in combining.named_answers(found)[:1]:
        yield Case(topic, f"{what}, to order", combining.say_to_order(answer, across))
    for name, stock in (("from stock", [Piece(15e3, name="15 kΩ 5 %")]), ("to order", []), ("no stock asked", None)):
        part = retrim(bundled_pack("tarnholm-tt7"), "line", "line", "mark", 0.012, pieces=stock)
        if part is not None:
            yield Case(topic, f"the part of an adjuster, {name}", combining.say_retrim(part))


def _faults() -> Iterator[Case]:
    topic, digest = "What is wrong with a notebook", "2bd818e65b692b016c88be4769ae9c5a"
    entry: Mapping[str, Any] = {"job": "vm6", "numbers": (41,)}
    photo = {**entry, "what": "photos", "name": f"{digest}.jpg"}
    for name, fault in (
        ("it is empty", Fault("empty", name="shop.candor", what="photos, runs")),
        ("entries are gone", Fault("gone", numbers=(41, 45))),
        ("another program put something in", Fault("foreign", what="trigger", name="tidy")),
        ("an entry was changed", Fault("not as written", **entry)),
        ("an entry cannot be read", Fault("unreadable", **entry, why="its time “noon” is none")),
        ("a file is gone", Fault("missing", **photo, why="No such file or directory")),
        ("a file was changed", Fault("changed", **photo)),
        ("a name that leads elsewhere", Fault("misnamed", **{**photo, "name": "../board.jpg"})),
        ("a file that nothing names", Fault("not named", what="photos", name="board.jpg")),
        ("a pack was changed", Fault("pack changed", what="pack", name="tarnholm-vm6")),
        ("a pack is gone", Fault("pack missing", **entry, what="pack", name=digest[:12])),
    ):
        yield Case(topic, name, faults.say_fault(fault))
    yield Case(topic, "in short", faults.in_short(Fault("changed", **photo)))
    yield Case(topic, "a job that stands on it", faults.say_unsound((Fault("changed", **photo),)))
    gone = FilesGone(files=(f"photos/{digest}.jpg",), reason="the stick broke")
    yield Case(topic, "without it", faults.say_gone_on_without(gone))
    yield Case(topic, "when it is opened", faults.say_gone(5))
    whole = Checked(entries=749, jobs=14, packs=9, files=4, faults=())
    yield Case(topic, "nothing", faults.say_checked(whole, "shop.candor")[0])
    head = Head(
        job="vm6", number=157, at="2026-05-20T12:53:00+00:00", since=3, name="Tarnholm VM-6 40188", sound=True
    )
    for name, proof in (("proves it", head), ("proves it not", replace(head, sound=False)), ("is of another", None)):
        yield Case(topic, f"a paper {name}", faults.say_head(proof))
    at = dt.datetime(2026, 5, 20, 12, 53, tzinfo=dt.UTC)
    backup, folder = Backup(Path("/media/stick/shop 2026-05-20 125300.candor"), at), Path("/media/stick")
    yield Case(topic, "a backup", faults.say_backup(Made(backup=backup, entries=749, files=4, faults=())))
    yield Case(topic, "backups there are", faults.say_kept(folder, (backup,)))
    yield Case(topic, "a missed backup", faults.say_missed(Missed(folder, at, "/media is not there")))


def _drift() -> Iterator[Case]:
    topic = "Due, and whether to adjust"
    on, later = dt.date(2028, 3, 1), dt.date(2029, 9, 1)
    for name, why in (
        ("the forecast falls under the target", DueReason("falls", "150 V at 150 V", share=0.62, spread=0.41)),
        ("it holds as long as anybody knows", DueReason("holds")),
        ("it is under the target today", DueReason("under", "150 V at 150 V", chance=0.71)),
        ("the newest result jumped", DueReason("jumped", "150 V at 150 V")),
        ("the staircase, out of tolerance", DueReason("cut")),
        ("the staircase, well inside", DueReason("longer")),
        ("the staircase, near its limit", DueReason("kept")),
        ("the custom of its kind", DueReason("custom", months=12)),
        ("some too coarse", DueReason("holds", left_out=("zero", "10 MΩ at 5 MΩ", "gas"))),
    ):
        yield Case(topic, name, drift_words.say_due(Due(on, why)))
    for name, kind, adjust, chance in (
        ("leave it", "likely", False, 0.97),
        ("adjust it", "likely", True, 0.81),
        ("no history", "alone", False, 0.8),
        ("too coarse a reading", "coarse", False, 0.5),
        ("it jumped", "jumped", False, 0.5),
    ):
        advice = Advice(adjust=adjust, left=on, adjusted=later, kind=kind, share=1.1, chance=chance, due=on)  # type: ignore[arg-type]
        yield Case(topic, name, drift_words.say_advice(advice))


def _next() -> Iterator[Case]:
    topic = "What is next"
    for deed, stop, why in (
        ("live", "power", "it is on: full line"), ("unbar", "arrive", "The hazard “bare cord” is open."),
        ("walk", "arrive", "nothing was looked at yet"), ("settle", "arrive", "cord perished; knob cracked"),
        ("prove", "trace", "changes that no check has proven"), ("parts", "parts", "3 cannot be told yet, 2 to replace."),
        ("power", "power", "9 to look at before power"), ("range", "calibrate", "no range is written yet"),
        ("steps", "calibrate", "5 steps to go"), ("release", "release", ""), ("nothing", "release", ""),
    ):  # fmt: skip
        yield Case(topic, f"{deed} at {stop}" + (f": {why}" if why else ""), say_next(NextDeed(deed, stop, why)))  # type: ignore[arg-type]
