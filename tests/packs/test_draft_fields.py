"""What can be said of a description in fields: of every pack that comes with Candor, and of one that is begun from any kind."""

from __future__ import annotations

import json
import random
from importlib import resources

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.notebook.arrive.workshop import text_of_kind, text_of_sister
from candor.packs.bundled import bundled_heads, bundled_pack, lend_from
from candor.packs.described import judge, next_edition, steps_as_read
from candor.packs.draft_fields import fields_of, first_words, outline, with_field
from candor.packs.draft_text import DraftText
from candor.packs.kinds_of_instrument import shipped_kinds
from candor.packs.procedure import procedure


def shipped(name: str) -> DraftText:
    return DraftText((resources.files("candor.packs") / "shipped" / f"{name}.yaml").read_text("utf-8"))


@pytest.mark.parametrize("name", [head.id for head in bundled_heads()])
def test_every_pack_opens_and_a_field_changed_and_changed_back_gives_the_same_bytes(name):
    text, rng = shipped(name), random.Random(name)
    lines = outline(text)
    pack = bundled_pack(name)
    titles = [line.title for line in lines]
    if not pack.borrows:
        assert set(titles) >= {f.title for f in pack.functions} | {s.title for s in pack.procedure}
    fields = [f for line in rng.sample(lines, min(6, len(lines))) for f in fields_of(text, line.path) if f.value]
    for field in rng.sample([f for f in fields if f.kind in ("words", "number") and len(f.value) < 60], 2):
        new = DraftText(with_field(text, field, "7" if field.kind == "number" else "Said otherwise"))
        (again,) = [f for f in fields_of(new, _thing(lines, field.path)) if f.path == field.path]
        assert again.value in ("7", "Said otherwise")
        assert with_field(new, again, field.value) == text.text


def _thing(lines, path):
    return max((line.path for line in lines if path[: len(line.path)] == line.path), key=len)


def test_fields_say_what_the_format_says_of_them():
    text = shipped("tarnholm-vm6")
    fields = {f.title: f for f in fields_of(text, ("functions", 0, "ranges", 4))}
    assert fields["full scale"].value == "150"
    assert (fields["limit: percent of full scale"].value, fields["limit: by"].choices) == (
        "3",
        ("maker", "owner", "shop"),
    )
    assert "key of the printed scale" in fields["scale"].tip
    assert (fields["key"].needed, fields["tap"].needed) == (True, False)
    step = {f.title: f for f in fields_of(text, ("procedure", 1, "steps", 0))}
    assert (step["at"].kind, step["at"].value) == ("list", "0.2, 0.5, 1.0")
    narrower = DraftText(with_field(text, fields["limit: percent of reading"], "2"))
    assert (
        narrower.words(("functions", 0, "ranges", 4, "limit")) == "{percent_of_full_scale: 3, percent_of_reading: 2}"
    )
    assert "full_scale: 2.5," in with_field(text, fields["full scale"], "2,5")
    assert with_field(text, fields["tap"], "").count("tap: ") == text.text.count("tap: ") - 1
    assert "at: [0.5]" in with_field(text, step["at"], "0.5")
    assert fields_of(text, ("functions",)) == ()


def test_a_netlist_keeps_its_lines_however_it_is_written():
    for text in (shipped("tarnholm-vm6"), DraftText('circuit: {netlist: "R1 a 0 1k\\nR2 a 0 2k"}\n')):
        field = next(f for f in fields_of(text, ("circuit",)) if f.title == "netlist")
        new = DraftText(with_field(text, field, field.value.rstrip() + "\nR99 a 0 9k"))
        assert new.words(("circuit", "netlist")).rstrip("\n") == field.value.rstrip() + "\nR99 a 0 9k"


@pytest.mark.parametrize("kind", shipped_kinds())
def test_what_is_begun_from_a_kind_can_be_used_at_once_and_with_a_face_a_function_and_a_procedure_too(kind):
    text = text_of_kind(shipped_kinds()[kind], "Corvane", "AV-20")
    assert judge(text).faults == ()
    for path in (("dial", "scales"), ("functions",), ("functions", 0, "ranges"), ("procedure",)):
        draft = DraftText(text)
        assert path in [line.path for line in outline(draft) if line.is_list]
        text = draft.with_item(path, first_words(draft, path))
    found = judge(text)
    assert (found.faults, found.pack.name) == ((), "Corvane AV-20")
    assert [s.point.nominal for s in steps_as_read(found.pack, DraftText(text), ("functions", 0, "ranges", 0))][
        :3
    ] == [2, 5, 10]


@pytest.mark.parametrize("name", [head.id for head in bundled_heads() if head.calibrates])
def test_a_sister_can_be_begun_from_every_pack(name):
    found = judge(text_of_sister(bundled_pack(name), "XX-9"), lend_from(lambda: ()))
    assert found.faults == ()
    assert found.pack.type == "XX-9" and found.pack.procedure


def test_steps_read_as_they_will_be_done_with_their_placeholders_filled():
    text, pack = shipped("tarnholm-vm6"), bundled_pack("tarnholm-vm6")
    steps = steps_as_read(pack, text, ("procedure", 1, "steps", 0))
    assert len(steps) == 21 and steps[0].title == "1.5 V range at 300 mV"
    assert not any("{" in s.title + s.do + s.aim for s in steps)
    assert {s.point.range_name for s in steps_as_read(pack, text, ("functions", 0, "ranges", 4))} == {"150 V"}
    assert len(steps_as_read(pack, text, ("procedure", 1))) == 21
    assert steps_as_read(pack, text, ("cautions", 0)) == ()


def test_an_edition_follows_all_that_are_taken():
    assert next_edition("1", ("1", "2", "4")) == "3"
    assert next_edition("spring", ("spring",)) == "spring 2"
    assert next_edition("2026-1", ("2026-1",)) == "2026-2"


def test_the_command_line_says_the_steps_as_they_will_read():
    plain = CliRunner().invoke(app, ["steps", "tarnholm-vm6"]).output
    assert "DC volts +, as found (as found)\n" in plain and "  1.5 V range at 300 mV: " in plain and "{" not in plain
    told = json.loads(CliRunner().invoke(app, ["steps", "tarnholm-vm6", "--json"]).output)
    assert len(told) == len(procedure(bundled_pack("tarnholm-vm6")))
    assert all(step["title"] and step["do"] for step in told)
