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
from candor.packs.draft_fields import CIRCUIT, LISTS, added, fields_of, first_words, outline, with_field
from candor.packs.draft_text import DraftText
from candor.packs.kinds_of_instrument import shipped_kinds
from candor.packs.load import parse_pack
from candor.packs.procedure import procedure
from candor.packs.yaml_text import built


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


# --- a whole pack made by what the workshop offers and nothing else ---------------------------------------


def held(data, path):
    for part in path:
        inside = part in data if isinstance(data, dict) else isinstance(data, list) and part < len(data)
        data = data[part] if inside else None
        if data is None:
            return None
    return data


def typed(field, value):
    """What is typed into a field so that it says a value."""
    if value is None or value == []:
        return "" if value is None else "[]"
    if field.kind == "list":
        return json.dumps(value, ensure_ascii=False)[1:-1] if isinstance(value, list) else str(value)
    return value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)


def fill_in(text, wanted, path):
    tried = set()
    while True:
        for field in fields_of(text, path):
            said = typed(field, held(wanted, field.path))
            if field.path not in tried and said.split() != field.value.split():
                tried.add(field.path)
                text = DraftText(with_field(text, field, said))
                break
        else:
            return text


def make(text, wanted, path=()):
    """Fill in a thing's fields, take out or add what its lists want, and do so with each of them."""
    text, names = fill_in(text, wanted, path), tuple(p for p in path if isinstance(p, str))
    for lists in LISTS:
        if lists[: len(names)] != names or len(lists) != len(names) + (2 if lists[0] == "dial" else 1):
            continue
        own = (*path, *lists[len(names) :])
        items = held(wanted, own) or []
        while len(text.under(own)) > len(items):
            text = DraftText(text.without(text.under(own)[-1]))
        for number in range(len(items)):
            if number >= len(text.under(own)):
                text = DraftText(added(text, own))
            text = make(text, wanted, (*own, number))
    for key in ("dial", "circuit") if not path else ():
        if held(wanted, (key,)):
            text = fill_in(DraftText(added(text, CIRCUIT)) if key == "circuit" else text, wanted, (key,))
    return text


# All that come with Candor come out equal; two of them are enough here: one by its face alone, one with its circuit and parts.
@pytest.mark.parametrize("name", ["wexcombe-fc3", "wexcombe-qt1"])
def test_a_pack_is_made_by_the_workshop_alone(name):
    source = shipped(name).text
    wanted = json.loads(json.dumps(built(source)))
    kind = next(k for k in shipped_kinds().values() if k.title in (wanted["kind"], "something else"))
    text = make(DraftText(text_of_kind(kind, wanted["maker"], wanted["type"])), wanted)
    assert parse_pack(text.text, name) == parse_pack(source, name)


def test_what_stands_behind_a_block_is_not_swallowed_when_it_is_said_otherwise():
    """A block ends for YAML where the next thing begins: its line went with it."""
    text = DraftText(
        "zones:\n  - key: a\n    look_for:\n      - one\n      - two\n  # of b\n  - key: b\n    means:\n      x: y\nweak:\n  - z\n"
    )
    change = with_field(text, next(f for f in fields_of(text, ("zones", 0)) if f.title == "look for"), "three")
    assert built(change)["zones"] == [{"key": "a", "look_for": ["three"]}, {"key": "b", "means": {"x": "y"}}]
    assert "  # of b\n" in change and built(change)["weak"] == ["z"]
    assert built(text.without(("zones", 0, "look_for"))) == {
        **built(text.text),
        "zones": [{"key": "a"}, built(text.text)["zones"][1]],
    }


@pytest.mark.parametrize("name", [head.id for head in bundled_heads()])
def test_a_block_said_otherwise_changes_nothing_but_itself(name):
    text, rng = shipped(name), random.Random(name)
    lines = outline(text)
    many = [
        f
        for line in lines
        for f in fields_of(text, line.path)
        if f.kind == "list" and f.value and not text.is_repeated(f.path)
    ]
    for field in rng.sample(many, min(4, len(many))):
        data = built(text.text)
        changed = built(with_field(text, field, "7, 8"))
        held(changed, field.path)[:] = held(data, field.path)
        assert changed == data, field.path


def test_a_control_in_words_becomes_a_thing_and_a_limit_of_nothing_goes():
    text = DraftText(
        "pack: 2\ncontrols: [GAIN, ZERO]\nfunctions:\n  - key: f\n    limit: {absolute: 1}\n    ranges: []\n"
    )
    name, positions = (
        next(f for f in fields_of(text, ("controls", 1)) if f.title == t) for t in ("name", "positions")
    )
    assert name.value == "ZERO"
    change = DraftText(with_field(text, positions, "low, high"))
    assert built(change.text)["controls"] == ["GAIN", {"key": "zero", "name": "ZERO", "positions": ["low", "high"]}]
    look = DraftText("pack: 2\nfunctions: [{key: f, unit: V, ranges: [{key: r, look: {passes: [good]}}]}]\n")
    passes = next(f for f in fields_of(look, ("functions", 0, "ranges", 0)) if f.title == "look: passes")
    assert built(with_field(look, passes, ""))["functions"][0]["ranges"] == [{"key": "r"}]
    unit = next(f for f in fields_of(look, ("functions", 0)) if f.title == "unit")
    assert built(with_field(look, unit, "1"))["functions"][0]["unit"] == "1"  # a unit, not a number


def test_a_step_of_another_kind_loses_what_that_kind_does_not_have():
    text = shipped("wexcombe-fc3")
    path = ("procedure", 1, "steps", 0)
    kind = next(f for f in fields_of(text, path) if f.title == "kind")
    change = DraftText(with_field(text, kind, "check"))
    assert {f.path[-1] for f in fields_of(change, path)} >= {p[-1] for p in change.under(path)}
