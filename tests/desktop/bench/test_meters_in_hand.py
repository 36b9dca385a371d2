"""Meters whose entry could not be written, or that have nowhere to keep what they read, are not read on."""

import pytest

from candor.core.errors import CandorError
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.links.loopback import LoopbackInstrument
from candor.links.meters import MeterPlan


@pytest.fixture
def plan(closing):
    made = LoopbackInstrument(lambda _: "1.5")
    closing.callback(made.close)
    return MeterPlan("b1", made.resource, "READ?", 10.0)


def test_meters_whose_entry_could_not_be_written_are_let_go(qtbot, notebook, plan):
    meters = PowerMeters(notebook, lambda *_: None)
    assert meters.start("job1", [plan]) is False
    assert not meters.running


def test_meters_with_nowhere_to_keep_their_readings_are_not_started(qtbot, notebook, plan):
    notebook.run_folder.write_text("a file where the folder would be")
    meters = PowerMeters(notebook, lambda *_: None)
    with pytest.raises(CandorError, match="no meter was started"):
        meters.start("job1", [plan])
    assert not meters.running
