"""Instruments on links, from the command line."""

import json

import pyvisa
from typer.testing import CliRunner

from candor.cli import app
from candor.links.loopback import LoopbackInstrument


def test_what_there_is_and_what_one_is_are_told(monkeypatch):
    def told(*arguments):
        done = CliRunner().invoke(app, ["instruments", *arguments], catch_exceptions=False)
        return done.output

    monkeypatch.setattr(pyvisa.ResourceManager, "list_resources", lambda *_: ())
    assert told().startswith("Nothing was found.")
    monkeypatch.setattr(pyvisa.ResourceManager, "list_resources", lambda *_: ("ASRL/dev/ttyS0::INSTR",))
    assert json.loads(told("--json")) == ["ASRL/dev/ttyS0::INSTR"]
    with LoopbackInstrument({"*IDN?": "A", "READ?": "1.5"}.get) as meter:
        assert json.loads(told(meter.resource, "--json")) == {"identity": "A", "value": 1.5, "fault": ""}
        assert told(meter.resource).startswith("It says it is “A”. It reads 1.5:")
