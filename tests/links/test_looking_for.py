"""What instruments there are, and what one says it is; on loopback and by what the driver finds, never on a network."""

import pytest
import pyvisa

from candor.links.link_errors import LinkError, StoppedError
from candor.links.looking_for import Identified, identify, look_for_instruments
from candor.links.loopback import LoopbackInstrument

FOUND = ("USB0::1::2::SN::INSTR", "ASRL/dev/ttyS0::INSTR", "PRLGX-ASRL::/dev/ttyS0::INTFC", "GPIB0::INTFC")


def test_what_is_found_is_what_can_be_read(monkeypatch):
    monkeypatch.setattr(pyvisa.ResourceManager, "list_resources", lambda _, query: FOUND if query == "?*" else ())
    assert look_for_instruments() == ("ASRL/dev/ttyS0::INSTR", "USB0::1::2::SN::INSTR")

    def refuse(*_):
        raise PermissionError("not allowed")

    monkeypatch.setattr(pyvisa.ResourceManager, "list_resources", refuse)
    with pytest.raises(LinkError, match="cannot be looked at: not allowed"):
        look_for_instruments()


@pytest.mark.parametrize(
    ("answers", "said"),
    [
        ({"*IDN?": "A,B,1,2", "READ?": "2.5"}, Identified("A,B,1,2", 2.5)),
        ({"READ?": "230 mV"}, Identified("", 0.23)),  # it has no name for itself
    ],
)
def test_what_it_is_and_what_it_reads(answers, said):
    with LoopbackInstrument(answers.get) as meter:
        assert identify(meter.resource) == said


def test_one_that_names_itself_and_has_no_reading_says_both():
    with LoopbackInstrument({"*IDN?": "A", "READ?": "OVERLOAD"}.get) as meter:
        said = identify(meter.resource)
        assert (said.identity, said.value) == ("A", None) and "Overload" in said.fault
    with LoopbackInstrument({"*IDN?": "A"}.get) as meter:
        assert "no answer" in identify(meter.resource).fault


def test_one_that_says_nothing_is_no_instrument_and_the_question_can_be_given_up():
    with LoopbackInstrument(lambda _: None) as mute:
        with pytest.raises(LinkError, match="no answer"):
            identify(mute.resource)
        with pytest.raises(StoppedError):
            identify(mute.resource, lambda: True)
