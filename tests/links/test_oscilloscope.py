"""An oscilloscope on a link, over the real driver: whole, broken, mute."""

import math
import socket
import threading
import time

import pytest

from candor.core.errors import CandorError
from candor.core.waves.analysis import analyse_all
from candor.core.waves.scope_csv import read_waveforms
from candor.links.link_errors import StoppedError
from candor.links.loopback import LOOPBACK, LoopbackInstrument
from candor.links.oscilloscope import read_captured
from candor.links.scpi import ScpiLink
from candor.links.simulated_scope import ADDRESS, INTERVAL_S, RISE_S, SimulatedScope


def test_an_edge_is_read_over_the_real_driver_and_its_rise_is_what_it_was_made_with():
    with SimulatedScope() as scope:
        found = read_captured(scope.address)
    assert len(found.volts) == 1200 and found.interval_s == INTERVAL_S
    (analysis,) = analyse_all(read_waveforms(found.as_table()))
    rise = analysis.figure("rise")
    assert abs(rise.value - RISE_S) <= 2 * rise.u < 0.05 * RISE_S


BLOCKS = {
    "no block": (b"banana\n", "no block"),
    "cut short": (b"#41200" + b"\x01" * 600, "no answer|within"),
    "without an end": (b"#0" + b"\x01" * 600, "length"),
    "too long": (b"#9999999999" + b"\x01" * 100, "over"),
    "nonsense of a length": (b"#4x2y0" + b"\x01" * 20, "length"),
}


@pytest.mark.parametrize("name", BLOCKS)
def test_a_block_that_is_none_ends_in_a_sentence_and_soon(name):
    answer, says = BLOCKS[name]
    pre = "BYTE,1200,5e-10,0,0.004,0,128"
    with LoopbackInstrument(lambda line: pre if line.startswith("WAV:PRE") else answer) as bad:
        began = time.monotonic()
        with pytest.raises(CandorError, match=says):
            read_captured(ADDRESS.format(resource=bad.resource))
        assert time.monotonic() - began < 8


def test_a_wait_is_given_up_when_nobody_wants_it_any_more():
    with LoopbackInstrument(lambda _: None) as mute, pytest.raises(StoppedError):
        read_captured(ADDRESS.format(resource=mute.resource), lambda: True)


def test_a_byte_of_the_samples_that_is_an_end_of_line_is_a_sample():
    counts = bytes([10, 13, 0, 35] * 300)
    with LoopbackInstrument(lambda line: "B,1200,1e-6,0,1,0,0" if "PRE" in line else b"#41200" + counts) as scope:
        found = read_captured(ADDRESS.format(resource=scope.resource))
    assert found.volts.tolist() == list(counts) and math.isclose(found.interval_s, 1e-6)


def test_a_long_block_is_waited_for_as_long_as_it_comes():
    """Six pieces, a fifth of a second between: longer in all than an answer may take, each of them in time."""
    with socket.create_server((LOOPBACK, 0)) as server:

        def serve():
            connection, _ = server.accept()
            with connection:
                connection.recv(100)
                for piece in (b"#3600", *(bytes([n]) * 100 for n in range(6)), b"\n"):
                    connection.sendall(piece)
                    time.sleep(0.2)

        helper = threading.Thread(target=serve, daemon=True)
        helper.start()
        name = f"TCPIP::{LOOPBACK}::{server.getsockname()[1]}::SOCKET"
        with ScpiLink(name, "oscilloscope", timeout_s=0.6) as link:
            assert link.ask_block("D?", 1000) == b"".join(bytes([n]) * 100 for n in range(6))
        helper.join(5)
