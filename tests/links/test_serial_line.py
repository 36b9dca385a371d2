"""An instrument on a serial port: a pseudo-terminal stands for the cable, and is set and read as the port itself is."""

import os
import pty
import select
import termios
import threading

import pytest

from candor.links.link_errors import LinkError
from candor.links.linked_reference import read_settled
from candor.links.looking_for import identify
from candor.links.meter_answers import read_address
from candor.links.serial_line import SerialLine


class Port:
    """A meter behind a serial port that answers lines ended as it likes; it keeps what it was asked."""

    def __init__(self, answers, ends):
        self.asked, self._answers, self._ends, self._done = [], answers, ends, threading.Event()
        self._fd, self.slave = pty.openpty()
        self.resource = f"ASRL{os.ttyname(self.slave)}::INSTR"
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _serve(self):
        heard = b""
        while not self._done.is_set():
            if not select.select([self._fd], [], [], 0.02)[0]:
                continue
            heard += os.read(self._fd, 100)
            while self._ends in heard:
                line, _, heard = heard.partition(self._ends)
                self.asked.append(line.decode())
                if (answer := self._answers.get(line.decode())) is not None:
                    os.write(self._fd, answer.encode() + self._ends)

    def close(self):
        self._done.set()
        self._thread.join()
        os.close(self._fd)
        os.close(self.slave)


@pytest.fixture
def port(closing):
    def make(answers, ends=b"\n"):
        made = Port(answers, ends)
        closing.callback(made.close)
        return made

    return make


@pytest.mark.parametrize(("ends", "word"), [(b"\n", "LF"), (b"\r", "CR"), (b"\r\n", "CRLF")])
def test_a_meter_on_a_serial_port_is_read_whatever_ends_its_lines(port, ends, word):
    meter = port({"*IDN?": "ACME METER 1", "VAL?": "NDCV-1.2345E+02"}, ends)
    address = f"{meter.resource}; baud 2400; ends {word}; ask VAL?; prefix NDCV"
    said = identify(address)
    assert (said.identity, said.value, said.fault) == ("ACME METER 1", -123.45, "")
    assert set(meter.asked) == {"*IDN?", "VAL?"}
    assert read_settled(address, between_s=0.0, repeats=2).mean == pytest.approx(-123.45)


def test_the_port_is_set_as_it_is_said(port, monkeypatch):
    meter, seen = port({"READ?": "1"}), []
    with pytest.raises(LinkError, match="Nothing answers"):  # a pseudo-terminal cannot be set so: that is said
        identify(f"{meter.resource}; baud 2400; frame 7E2")
    monkeypatch.setattr(termios, "tcsetattr", lambda *said: seen.append(said[2]))
    identify(f"{meter.resource}; baud 2400; frame 7E2")
    control = seen[-1][2]
    assert seen[-1][4:6] == [termios.B2400, termios.B2400]
    assert control & termios.CSIZE == termios.CS7
    assert control & termios.PARENB and not control & termios.PARODD and control & termios.CSTOPB


def test_how_a_port_is_set_is_read_or_refused():
    assert read_address("ASRL/dev/ttyUSB0::INSTR").line == SerialLine()
    read = read_address("ASRL/dev/ttyUSB0::INSTR; baud 300; frame 7o1,5; ends crlf").line
    assert read == SerialLine(baud=300, bits=7, parity="odd", stop=1.5, ends="\r\n")
    for wrong, says in (("baud fast", "such as 2400"), ("frame 9N1", "such as 7E2"), ("ends EOT", "CR or CRLF")):
        with pytest.raises(LinkError, match=says):
            read_address(f"ASRL/dev/ttyUSB0::INSTR; {wrong}")


def test_a_port_that_is_not_there_is_said():
    with pytest.raises(LinkError, match="Nothing answers"):
        identify("ASRL/dev/ttyNONE7::INSTR")
