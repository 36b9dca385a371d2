"""Packs: every fault by line and column with what was expected; nothing crashes; the schema is the one published."""

import json
import re
from importlib import resources
from pathlib import Path

import jsonschema
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from candor.cli import pack_schema
from candor.packs.bundled import bundled_heads, bundled_pack, bundled_packs, compile_packs, lend_from
from candor.packs.crossings import kind_faults
from candor.packs.kinds_of_instrument import InstrumentKind
from candor.packs.load import PackError, parse_as, parse_pack, read_pack
from candor.packs.model import Pack, PackHead, read_kept
from candor.packs.yaml_text import built
from workbench import PACK_TEXT as TEXT

DOCS = Path(__file__).parents[2] / "docs"


def faults_of(text: str) -> list[str]:
    with pytest.raises(PackError) as caught:
        parse_pack(text, "x.yaml")
    return [str(fault) for fault in caught.value.faults]


def line_of(text: str, part: str) -> int:
    return text[: text.index(part)].count("\n") + 1


FAULTS = [
    ("stop: 15,", "stop: -15,", "stop: -15,", "the scale goes backwards: it stops at -15"),
    ("even: {start: 0, stop: 15, divisions: 30, number_every: 10, long_every: 5}",
     "uneven: {marks: [[0, 0], [5, 0.6], [4, 1]]}", "uneven:", "mark [4, 1] follows [5, 0.6]"),
    ("scale: lower, limit", "scale: lowre, limit", "scale: lowre", "Use one of: upper, lower"),
    ("kind: vacuum tube voltmeter", "knid: vacuum tube voltmeter", "knid", "is it misspelt?"),
    ("minutes: 30", "minutes: soon", "minutes: soon", "found 'soon'"),
    ("minutes: 30", "minutes: 0", "minutes: 0", "greater than 0"),
    ("function: dc-\n        at", "function: ac\n        at", "function: ac", "Use one of: dc+, dc-"),
    ("range: \"5\"", "range: \"7\"", "range: \"7\"", "is not a range of 'dc+'"),
    ("cautions: [chassis]", "cautions: [chasis]", "cautions: [chasis]", "is not a caution of this pack"),
    ("caution_above: {probe: 60, ", "caution_above: {prob: 60, ", "caution_above: {prob", "is not a caution"),
    ("key: warm-up", "key: mechanical-zero", "key: mechanical-zero\n        kind: wait", "is used twice"),
    ("key: dc-\n", "key: dc+\n", "key: dc+\n    title: DC volts −", "is used twice"),
    ("Apply {applied}, positive", "Apply {aplied}, positive", "do: \"Range {range}. Apply {aplied}", "{aplied} is not known"),
    ("title: Mechanical zero", "title: Zero on {range}", "title: Zero on", "no placeholder in this kind of step"),
    ("title: Warm-up 30 min", "title: ''", "title: ''", "empty; words were expected"),
    ("at: [0.2, 0.5, 1.0]", "at: [0.2, 0.5, 1.5]", "at: [0.2, 0.5, 1.5]", "less than or equal to 1"),
    ("percent_of_full_scale: 3}", "percent_of_full_scale: -3}", "percent_of_full_scale: -3", "greater than or equal to 0"),
    ("pack: 1\n", "pack: 9\n", "pack: 9", "found 9"),
    ("phase: preparation", "phase: as-found", "phase: as-found", "found 'as-found'"),
]  # fmt: skip


@pytest.mark.parametrize(("old", "new", "mark", "words"), FAULTS)
def test_each_fault_is_named_where_it_stands(old, new, mark, words):
    text = TEXT.replace(old, new, 1)
    assert text != TEXT
    found = faults_of(text)
    line = line_of(text, mark)
    assert any(f.startswith(f"line {n}, column ") and words in f for f in found for n in (line, line - 1)), found


def test_all_faults_are_reported_at_once():
    text = (
        TEXT.replace("stop: 15,", "stop: -15,")
        .replace("minutes: 30", "minutes: soon")
        .replace("function: dc-", "function: ac")
    )
    found = faults_of(text)
    assert len(found) >= 4
    assert [int(f.split()[1].rstrip(",")) for f in found] == sorted(int(f.split()[1].rstrip(",")) for f in found)


def test_missing_keys_and_missing_kind():
    assert any("the key 'zones' is missing" in f for f in faults_of(TEXT.replace("zones:", "zone:", 1)))
    found = faults_of(TEXT.replace("        kind: wait\n", "", 1))
    assert any("the key 'kind' is missing. Expected: check, wait, points or adjust" in f for f in found)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "a pack is a mapping that begins with 'pack: 2'"),
        ("- a\n- b\n", "a pack is a mapping"),
        ("a: [1, 2\nb: 3\n", "line 2"),
        ("pack: 1\npack: 2\n", "line 2"),
        ("a: \t{", "line 2"),
        ("pack: 1\nid: &it [*it]", "a value holds itself"),
        ("pack: 1\nid: !shop 3", "the tag !shop is not known here"),
        ("pack: 1\nid: {[1]: 2}", "cannot be a key"),
        ("pack: 1\n<<: 3", "only mappings can be taken over"),
    ],
)
def test_what_is_no_yaml_or_no_pack(text, words):
    assert any(words in fault for fault in faults_of(text))


def test_files_that_cannot_be_read(tmp_path):
    with pytest.raises(PackError, match="cannot be read"):
        read_pack(tmp_path / "none.yaml")
    bad = tmp_path / "latin.yaml"
    bad.write_bytes(b"pack: 1\nmaker: Caf\xe9\n")
    with pytest.raises(PackError, match="line 2, column 1: text: not UTF-8"):
        read_pack(bad)


@settings(max_examples=25, suppress_health_check=[HealthCheck.too_slow])
@given(st.integers(0, len(TEXT) - 1), st.integers(1, 40), st.text(max_size=6))
def test_no_damage_to_a_pack_crashes_the_reader(place, length, put):
    """Either it is still a pack, or every fault has a line inside the file."""
    text = TEXT[:place] + put + TEXT[place + length :]
    try:
        parse_pack(text, "x.yaml")
    except PackError as error:
        assert error.faults
        assert all(1 <= f.line <= text.count("\n") + 2 and f.message for f in error.faults)


@pytest.mark.parametrize("folder", ["packs/shipped", "demo"])
def test_compiled_packs_are_what_their_yaml_says(folder, tmp_path):
    """Made anew with: candor packs compile src/candor/FOLDER src/candor/FOLDER/compiled"""
    source = Path(str(resources.files("candor"))) / folder
    made = compile_packs(source, tmp_path)
    assert {p.name: p.read_text() for p in made} == {f.name: f.read_text() for f in (source / "compiled").iterdir()}


def test_a_compiled_pack_is_the_pack_of_its_head():
    for head in bundled_heads():
        pack = bundled_pack(head.id)
        assert (PackHead.of(pack), pack.digest) == (head, head.digest)
        assert pack.to_json() == read_kept(pack.to_json(), head.digest).to_json()


def test_a_kept_pack_that_was_changed_is_checked_again():
    text, digest = bundled_pack("marrowby-os40").to_json(), bundled_pack("marrowby-os40").digest
    assert read_kept(text, digest).digest == digest
    with pytest.raises(ValidationError, match="the netlist cannot be read"):
        read_kept(text.replace("R24 ", "Q24 ", 1), digest)


def test_shipped_packs_are_whole_and_travel_as_json():
    for pack in bundled_packs():
        again = Pack.model_validate_json(pack.to_json())
        assert (again, again.digest) == (pack, pack.digest)


def test_published_schema_is_current_and_accepts_bundled_packs():
    schema = json.loads((DOCS / "pack.schema.json").read_text(encoding="utf-8"))
    assert schema == json.loads(pack_schema())
    data = built(TEXT)
    jsonschema.validate(json.loads(json.dumps(data)), schema)
    data["dial"]["mirror"] = "yes, it has one"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(json.loads(json.dumps(data)), schema)


def test_the_worked_example_in_the_docs_is_a_pack():
    """docs/writing-a-pack.md must not drift away from the format it teaches."""
    text = (DOCS / "writing-a-pack.md").read_text(encoding="utf-8")
    borrows, pack, kind = (block.split("```")[0] for block in text.split("```yaml\n")[1:])
    head = "pack: 2\nid: a\nedition: '1'\nmaker: A\ntype: B\nkind: c\nsummary: d\nzones: [{key: e, title: F}]\n"
    assert parse_pack(head + borrows, "sister", lend_from(lambda: ())).procedure
    assert parse_pack(pack, "example").functions
    assert parse_as(InstrumentKind, kind, "example", kind_faults).zones[0].means


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("a: !!int 2026-99-99", "a value cannot be read"),
        ("a: !!float x", "a value cannot be read"),
        ("pack: " + "[" * 2000, "brackets more than 8 deep"),
        ("{" * 9 + "}" * 9, "brackets more than 8 deep"),
        ("- " * 3000, "brackets more than 8 deep"),
        ("? " * 3000, "maximum nesting depth"),
        ("\n".join(" " * i + "a:" for i in range(300)), "is not a key that belongs here"),
        (
            "a0: &a0 [1,1,1,1]\n" + "".join(f"a{i}: &a{i} [{','.join([f'*a{i - 1}'] * 9)}]\n" for i in range(1, 9)),
            "repeated ones",
        ),
        ("a: " + "x" * 20_000_000, "a pack may have up to 60000"),
        ("pack: 1\nzones: 5\nprocedure: [3, {steps: 4}]\nfunctions: [[1]]\n", "the key 'maker' is missing"),
    ],
)
def test_what_would_take_for_ever_or_is_built_badly_is_said(text, words):
    """Each within a second; were it not refused early, several would take minutes."""
    with pytest.raises(PackError) as caught:
        parse_pack(text, "bad.yaml")
    assert words in str(caught.value)


def test_a_file_too_long_is_not_even_read(tmp_path):
    path = tmp_path / "long.yaml"
    path.write_text("a: " + "x" * 300_000)
    with pytest.raises(PackError, match="300003 characters long; a pack may have up to 60000"):
        read_pack(path)


@pytest.mark.parametrize("number", [".inf", "-.inf", ".nan", "1e999"])
def test_numbers_of_a_pack_are_finite(number):
    """An infinite one would be written with the job, and the notebook would not open again."""
    for before in ("full_scale: 1.5,", ", volts: "):
        at = TEXT.index(before) + before.index(":") + 2
        end = at + len(re.match(r"[\d.]+", TEXT[at:])[0])
        with pytest.raises(PackError, match="finite number"):
            parse_pack(TEXT[:at] + number + TEXT[end:], "x")


def test_a_line_of_a_chart_says_at_which_bias_its_figure_holds():
    """A tube with a grid has no transconductance apart from its bias; a position that there is not is named too."""
    text = (resources.files("candor.packs") / "shipped" / "tarnholm-tt7.yaml").read_text("utf-8")
    for old, new, words in (
        ('heater: "6.3", bias: "2", range: 6 mS', 'heater: "6.3", range: 6 mS', "has a grid, and the tester a bias"),
        ('bias: "2", range: 6 mS', 'bias: "2", range: 7 mS', "7 mS"),
    ):
        assert any(words in fault for fault in faults_of(text.replace(old, new, 1)))


@pytest.mark.parametrize("path", ["/dev/null", "/"])
def test_what_is_no_file_is_not_read(path):
    """A pipe or a device may never end."""
    with pytest.raises(PackError) as caught:
        read_pack(Path(path))
    assert "is not a file" in str(caught.value)
