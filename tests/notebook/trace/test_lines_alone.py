"""A circuit and what was read on it as lines, without a notebook; and as the command line says it."""

import json

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.notebook.trace.lines_alone import explain_lines

CIRCUIT = "R1 hv a 12k\nR2 a b 33k\nR3 b 0 15k\nR4 a c 68k\nR5 c 0 27k"


def test_a_lead_one_lug_over_is_named_from_lines_and_as_json(tmp_path):
    """By hand: 15k beside 68k + 27k is 12.95k; 300 V over 12k + 33k + that: a 237.9, b 67.0, c 19.1 V."""
    below = 1 / (1 / 15e3 + 1 / 95e3)
    a, b = (300 * part / (45e3 + below) for part in (33e3 + below, below))
    lines = f"rail hv\nnode hv 300\nnode a {a:.1f} with 1G\nnode b {b:.2f} with 1G\nnode c {b * 27 / 95:.2f} with 1G\n# warm"
    first = explain_lines(CIRCUIT, lines).weighed.suspects[0]
    assert (first.kind, first.of) == ("moved", ("R4", "a", "b"))
    (tmp_path / "c.cir").write_text(CIRCUIT)
    (tmp_path / "r.txt").write_text(lines)
    asked = ["board", str(tmp_path / "c.cir"), str(tmp_path / "r.txt")]
    told = json.loads(CliRunner().invoke(app, [*asked, "--json"]).output)
    assert told["suspects"][0]["of"] == ["R4", "a", "b"]
    assert told["sentences"][0].startswith("R4 is soldered to b where a is drawn")
    assert CliRunner().invoke(app, asked).output.splitlines()[0] == told["sentences"][0]


@pytest.mark.parametrize(("lines", "said"), [
    ("node zz 12", "no node"), ("nonsense", "cannot read line 1"), ("tube V1 plate a", "plate and cathode"),
])  # fmt: skip
def test_what_cannot_be_read_is_said_with_its_line(lines, said):
    with pytest.raises(CandorError, match=said):
        explain_lines(CIRCUIT, lines)


def test_too_little_is_no_answer():
    assert explain_lines(CIRCUIT, "node a 200\nnode b 60") is None
