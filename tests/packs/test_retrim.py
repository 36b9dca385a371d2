"""What an adjuster's part must be: put in, the circuit makes the range; the window as it says; by stock."""

import json
from importlib import resources

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.combine.exact import Piece
from candor.core.errors import CandorError, RangeError
from candor.packs.bundled import bundled_pack
from candor.packs.load import parse_pack
from candor.packs.reproduces import range_misses
from candor.packs.retrim import named_in, retrim
from candor.words.combining import say_retrim


def with_part(pack, name, value):
    lines = [
        " ".join((*line.split()[:3], repr(value))) if line.split()[:1] == [name] else line
        for line in pack.circuit.netlist.split("\n")
    ]
    circuit = pack.circuit.model_copy(update={"netlist": "\n".join(lines)})
    return pack.model_copy(update={"circuit": circuit})


@pytest.mark.parametrize(
    ("name", "adjuster", "function", "range_", "shows"),
    [
        ("tarnholm-tt7", "line", "line", "mark", True),
        ("tarnholm-tt7", "meter", "gm", "3", True),
        ("tarnholm-tt7", "bias", "bias", "dial", False),
        ("tarnholm-ts22", "n150", "rails", "n150", False),
        ("tarnholm-ts22", "gain", "y", "0.05", True),
        ("tarnholm-ts22", "sweep", "sweep", "1m", False),
    ],
)
def test_with_the_part_that_is_named_the_range_is_right(name, adjuster, function, range_, shows):
    """A part that is off makes an error; the part asked for, put in the same circuit, takes it away again."""
    pack = bundled_pack(name)
    drawn = retrim(pack, adjuster, function, range_, 0.0)
    bad = with_part(pack, drawn.ref, drawn.value * 1.07)
    title = next(f.title for f in pack.functions if f.key == function)
    first = {(m.function, m.range): m.miss for m in range_misses(pack)}
    wrong = {(m.function, m.range): m.miss for m in range_misses(bad)}
    key = next(k for k in wrong if k[0] == title and k[1] == next(
        r.title for f in pack.functions if f.key == function for r in f.ranges if r.key == range_))  # fmt: skip
    times = (1 + wrong[key]) / (1 + first[key])
    found = retrim(bad, adjuster, function, range_, times - 1 if shows else 1 / times - 1)
    assert found.wanted == pytest.approx(drawn.value, rel=1e-4)
    assert found.value == pytest.approx(drawn.value * 1.07)
    assert found.added.how == "across"
    put = 1 / (1 / found.value + 1 / found.added.exact)
    assert range_misses(with_part(pack, drawn.ref, put))[0].why == ""
    assert put == pytest.approx(drawn.value, rel=1e-4)


def test_the_nearest_on_hand_within_the_window_and_what_is_then_left():
    pack = bundled_pack("tarnholm-tt7")
    pieces = (Piece(12e3, name="12 kΩ 5 %"), Piece(15e3, name="15 kΩ 5 %"), Piece(40e3, name="40 kΩ"))
    found = retrim(pack, "line", "line", "mark", 0.012, pieces=pieces)
    assert found.added.how == "in series"
    assert found.stock is pieces[1]
    assert "15 kΩ 5 % from stock: then the range is off by" in say_retrim(found)
    # The needle reads 1.2 % high; 15 kohm on 1125 take 1.333 % away.
    assert found.left == pytest.approx(1.012 / (1 + 15 / 1125) - 1, abs=2e-5)
    assert "None in stock serves. The nearest of E24 is" in say_retrim(
        retrim(pack, "line", "line", "mark", 0.012, pieces=())
    )
    assert retrim(pack, "knob", "bias", "dial", 0.01) is None  # a set screw is not a part
    assert retrim(bundled_pack("wexcombe-cc21"), "pointer", "r", "10k", 0.01) is None
    with pytest.raises(RangeError, match="something else is off"):
        retrim(pack, "meter", "gm", "3", -0.9)


def test_on_the_command_line():
    said = CliRunner().invoke(
        app, ["retrim", "tarnholm-tt7", "line", "--at", "line/mark", "--error", "-0.9 %", "--json"]
    )
    assert json.loads(said.output)["wanted"] == pytest.approx(1.1249e6 * 0.991, rel=1e-4)
    assert (
        "MΩ across"
        in CliRunner().invoke(app, ["retrim", "tarnholm-tt7", "line", "--at", "line/mark", "--error", "-0.9"]).output
    )
    none = CliRunner().invoke(app, ["retrim", "tarnholm-tt7", "knob", "--at", "bias/dial", "--error", "1"])
    assert "does not say which part" in str(none.output) + str(none.exception)


@pytest.mark.parametrize("error", [-0.05, -0.01, 0.02, 0.05])
def test_a_trim_beside_the_movement_is_calculated_by_the_current_through_it(error):
    """By Ohm's law alone: 40 µA through 2500 ohm of coil and trim; what reads low by 5 % wants 42.1 µA of the same 100 mV."""
    found = retrim(bundled_pack("corvane-mm11"), "series", "dcv", "0.1", error)
    assert found.wanted == pytest.approx(0.1 / (40e-6 / (1 + error)) - 2200, rel=1e-6)
    with pytest.raises(RangeError, match="something else is off"):  # a multiplier of 250 kilohm hardly sees 300 ohm
        retrim(bundled_pack("corvane-mm11"), "series", "dcv", "10", error)


def test_what_is_read_must_be_the_movement_alone():
    text = (resources.files("candor.packs") / "shipped" / "corvane-mm11.yaml").read_text(encoding="utf-8")
    spanned = text.replace("over: [m, m1], full_scale: 0.088", 'over: [m, "0"], full_scale: 0.1')
    assert spanned != text
    with pytest.raises(
        CandorError, match="adjuster series acts on R2, which lies inside what the movement is read on"
    ):
        parse_pack(spanned, "spanned")


@pytest.mark.parametrize(
    ("adjuster", "at", "words"),
    [("serie", "dcv/10", "no adjuster “serie”. It has: series"), ("series", "dc/10", "Did you mean: .*dcv/10")],
)
def test_a_range_or_an_adjuster_that_is_not_there_is_named_not_the_pack(adjuster, at, words):
    with pytest.raises(RangeError, match=words):
        named_in(bundled_pack("corvane-mm11"), adjuster, *at.split("/"))
