"""Kinds of instrument: what is known where no pack is."""

import datetime as dt
import math
from importlib import resources
from pathlib import Path

import pytest

from candor.core.calibration.result import assess_point
from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import ReadingJot
from candor.core.jot.name_line import read_name
from candor.core.jot.range_line import understand_range
from candor.core.reading.kinds import kind_of, reading_of
from candor.core.reading.reading import INDICATED
from candor.notebook.arrive.instruments import ask_which, chosen_first, offers
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.power.may_power import power_list
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.kinds_of_instrument import ELSE, compile_kinds, kinds_at_hand, pack_of_kind, shipped_kinds
from candor.packs.load import PackError
from candor.packs.procedure import procedure
from candor.sitting.commands.calibrate_commands import make_range
from candor.sitting.starting import start

TODAY = dt.date(2026, 6, 1)
FOLDER = Path(str(resources.files("candor.packs") / "kinds"))
OWN = """kind: 1
id: insulation-tester
title: insulation tester
also: [megohm meter]
like: something-else
zones:
  - key: crank
    title: Crank and generator
    look_for: [crank bent]
  - key: cord
    title: Test leads
    look_for: [lead cracked]
"""


def test_compiled_kinds_are_what_their_yaml_says():
    """Made anew with: candor packs compile-kinds src/candor/packs/kinds src/candor/packs/kinds/compiled/kinds.json"""
    assert compile_kinds(FOLDER) == (FOLDER / "compiled" / "kinds.json").read_text(encoding="utf-8")


def test_twelve_kinds_and_something_else_come_with_candor(tmp_path):
    kinds = kinds_at_hand(tmp_path / "none")
    assert (len(kinds.kinds), kinds.faults) == (13, ())
    assert list(kinds.kinds)[-1] == ELSE
    for kind in kinds.kinds.values():
        assert len(kind.zones) >= 10
        assert all(zone.look_for for zone in kind.zones)
        assert kind.cautions
        assert kind.keep_dry
        assert kind.care
        assert len({zone.key for zone in kind.zones}) == len(kind.zones)
    # Its own cautions stand before those it borrows.
    assert kinds.get("capacitor-checker").cautions[0].key == "clips"
    assert {c.key for c in kinds.get("capacitor-checker").cautions} > {"cord"}


@pytest.mark.parametrize(
    ("text", "kind"),
    [("Tarnholm valve voltmeter", "vacuum-tube-voltmeter"), ("old RF generator", "signal-generator"),
     ("emission tester TE-2", "tube-tester-emission"), ("a thing", None),
     ("multimeters", "multimeter"), ("Mutual conductance tester", "tube-tester-transconductance"),
     ("VTVM", "vacuum-tube-voltmeter"),
     ("vacuum tube volt meter", "vacuum-tube-voltmeter"), ("condenser tester", "capacitor-checker"), ("V.O.M.", None),
     ("volt-ohm-milliammeter", "multimeter"), ("triggered scope", "oscilloscope-triggered"),
     ("oscilloscope", None), ("an old scope", None), ("tube tester", None), ("valve tester", None)],
)  # fmt: skip
def test_words_name_a_kind(text, kind, tmp_path):
    found = kinds_at_hand(tmp_path).named(text)
    assert (found.id if found else None) == kind


def test_a_kind_of_ones_own_is_a_file_beside_the_notebook(tmp_path):
    (tmp_path / "mine.yaml").write_text(OWN, encoding="utf-8")
    (tmp_path / "bad.yaml").write_text(OWN.replace("title: Crank", "tittle: Crank"), encoding="utf-8")
    kinds = kinds_at_hand(tmp_path)
    own = kinds.get("insulation-tester")
    assert [z.title for z in own.zones if z.key == "cord"] == ["Test leads"]
    assert next(z for z in own.zones if z.key == "cord").look_for[:2] == ("lead cracked", "perished rubber")
    assert "crank" in {z.key for z in own.zones}
    assert kinds.named("a megohm meter").id == "insulation-tester"
    assert len(kinds.faults) == 1
    assert "bad.yaml: 2 faults" in kinds.faults[0]
    assert "line 8" in kinds.faults[0]
    assert set(shipped_kinds()) < set(kinds.kinds)


def test_one_that_borrows_from_nothing_there_is_said(tmp_path):
    (tmp_path / "mine.yaml").write_text(OWN.replace("something-else", "nothing"), encoding="utf-8")
    kinds = kinds_at_hand(tmp_path)
    assert "“nothing”, which is not among those here" in kinds.faults[0]
    assert [z.key for z in kinds.get("insulation-tester").zones] == ["crank", "cord"]


def test_a_kind_without_zones_and_a_zone_twice_are_faults(tmp_path):
    (tmp_path / "a.yaml").write_text("kind: 1\nid: a\ntitle: a\n", encoding="utf-8")
    (tmp_path / "b.yaml").write_text(OWN.replace("key: crank", "key: cord"), encoding="utf-8")
    first, second = kinds_at_hand(tmp_path).faults
    assert "no zones" in first
    assert "cord" in second
    with pytest.raises(PackError):
        compile_kinds(tmp_path)


def test_what_a_kind_knows_has_the_shape_of_a_pack():
    kind = shipped_kinds()["multimeter"]
    pack = pack_of_kind(kind, "Corvane", "AV-20")
    assert (pack.name, pack.kind, pack.zones, pack.functions) == ("Corvane AV-20", kind.title, kind.zones, ())
    assert len(pack.digest) == 64
    assert pack.digest != pack_of_kind(kind, "Corvane", "AV-21").digest


def test_what_listens_is_no_generator(tmp_path):
    kinds = kinds_at_hand(tmp_path)
    assert kinds.named("Halvergate signal tracer 1187") is None
    assert kinds.named("Halvergate signal generator 1187").id == "signal-generator"


def test_what_several_are_called_asks_which_and_a_kind_is_never_the_maker(tmp_path):
    kinds = kinds_at_hand(tmp_path)
    both, name = kinds.fitting("Halvergate tube tester 3310")
    assert {k.id for k in both} == {"tube-tester-emission", "tube-tester-transconductance"}
    named = read_name("Halvergate tube tester TT-9 no. 3310", kind=name)
    assert (named.maker, named.type, named.serial) == ("Halvergate", "TT-9", "3310")
    found = offers(
        "Halvergate tube tester", read_name("Halvergate tube tester", kind=name), known=(), heads=(), kinds=kinds
    )
    assert chosen_first(found) == ""
    assert ask_which(found).startswith("Which is it: ")
    assert read_name("vacuum tube volt meter", kind=kinds.fitting("vacuum tube volt meter")[1]).maker == ""
    sure = offers("condenser tester", None, known=(), heads=(), kinds=kinds)
    assert (chosen_first(sure), ask_which(sure)) == ("kind:capacitor-checker", "")


def test_a_passive_multimeter_is_asked_for_no_rails_tubes_or_mains(notebook):
    job = start(notebook, JobOpened(maker="Corvane", type="MM-3", serial="4", instrument_kind="multimeter"), None, {})
    items = power_list(fold(job, notebook.entries_of(job)), None)
    assert [i.key for i in items if i.state == "does not apply" and i.key == "mains"] == ["mains"]
    assert not {"rails", "windings", "electrolytics"} & {i.key for i in items}
    fed = start(
        notebook,
        JobOpened(maker="Corvane", type="V-3", serial="5", instrument_kind="vacuum-tube-voltmeter"),
        None,
        {},
    )
    assert "windings" in {i.key for i in power_list(fold(fed, notebook.entries_of(fed)), None)}


def test_how_functions_are_usually_read_is_said_in_lines_that_are_understood():
    for kind in kinds_at_hand(Path("nowhere")).kinds.values():
        read = [understand_range(line.removeprefix("range ").replace("{line}", "240")) for line in kind.usual_ranges]
        assert [jot.function for jot in read if jot.function not in kind.usual] == []
        assert bool(read) == bool(kind.asks_first) == (kind.id != ELSE)
        assert all(jot.limit.is_given or jot.how.kind == "look" for jot in read)


@pytest.mark.parametrize("key", [k for k in shipped_kinds() if k != ELSE])
def test_what_a_step_shows_as_an_example_can_be_typed_there_and_is_judged(notebook, key):
    """Of every usual range of every kind, at every usual point; a dial's end was asked for, where a null has one side alone."""
    notebook.write("j", JobOpened(maker="Own", type="K1", serial="1", instrument_kind=key))
    for line in shipped_kinds()[key].usual_ranges:
        said = understand_range(
            f"{line.removeprefix('range ').replace('{line}', '230')}{'' if 'look:' in line else ' usual points'}"
        )
        for body in make_range(said, fold("j", notebook.entries_of("j"))).bodies:
            notebook.write("j", body)
    pack = description_of(notebook, fold("j", notebook.entries_of("j")))
    steps = [s for s in procedure(pack) if s.kind in ("point", "next") and s.phase == "as found"]
    assert len({s.key for s in steps}) == len(steps) > 2
    for step in steps:
        kind, point = kind_of(step.point), step.point
        jot = understand(kind.example(point), JotContext(point, makes_points=step.kind == "next"))
        assert isinstance(jot, ReadingJot), (step.key, kind.example(point))
        if kind.named:  # a look has no figure
            continue
        reading = reading_of(point, dict(jot.figures) or {INDICATED: jot.indicated}, jot.reference or point.nominal)
        result = assess_point(
            point=point, phase="as found", readings=(reading,), reference=None, on=TODAY, remark="none"
        )
        assert math.isfinite(result.error), step.key
