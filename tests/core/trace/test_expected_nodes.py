"""Nodes calculated with tubes: against a load line worked by hand and against ngspice's own solution."""

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.errors import RangeError
from candor.core.trace.expected_nodes import SCREEN_SHARE, Tube, calculate_nodes, perveance_of
from published.ngspice import ask

STAGE = "V1 b 0 250\nR1 b p 47k\nR2 k 0 1.5k\nR3 g 0 470k"


def triode(name="v1", plate="p", grid="g", cathode="k", mu=20.0, perveance=1.25e-3):
    return Tube(name=name, plate=plate, grid=grid, cathode=cathode, mu=mu, perveance=perveance)


def test_a_stage_settles_on_its_load_line():
    """Plate and cathode resistor carry one current, and it is that of the law at the volts it makes."""
    volts = calculate_nodes(parse_netlist(STAGE), [triode()])
    amperes = (250 - volts["p"]) / 47e3
    assert volts["k"] / 1500 == pytest.approx(amperes, rel=1e-6)
    drive = -volts["k"] + (volts["p"] - volts["k"]) / 20
    assert amperes == pytest.approx(1.25e-3 * drive**1.5, rel=1e-6)
    assert volts["g"] == pytest.approx(0.0, abs=1e-9)


def test_two_stages_joined_at_d_c_against_ngspice():
    """The second grid hangs on the first plate through a divider; both laws as a source of ngspice (1e-4 relative)."""
    text = f"{STAGE}\nR4 p g2 1meg\nR5 g2 0 330k\nR6 b p2 22k\nR7 k2 0 33k"
    ours = calculate_nodes(parse_netlist(text), [triode(), triode("v2", "p2", "g2", "k2", 35.0, 2e-3)])
    laws = "B1 p k I=1.25e-3*uramp(v(g,k)+v(p,k)/20)^1.5\nB2 p2 k2 I=2e-3*uramp(v(g2,k2)+v(p2,k2)/35)^1.5"
    run = "op\nlet first=v(p)\nlet second=v(p2)\nlet third=v(k2)\nprint first second third"
    theirs = ask(f"* tubes\n{text}\n{laws}\n.control\n{run}\n.endc\n.end\n", ("first", "second", "third"))
    assert [ours["p"], ours["p2"], ours["k2"]] == pytest.approx(list(theirs.values()), rel=1e-4)


def test_a_tube_cut_off_draws_nothing_and_what_cannot_be_is_refused():
    volts = calculate_nodes(parse_netlist(f"{STAGE}\nV2 g 0 -60"), [triode()])
    assert (volts["p"], volts["k"]) == pytest.approx((250.0, 0.0))
    with pytest.raises(RangeError, match="no d"):
        calculate_nodes(parse_netlist(STAGE), [triode(grid="nowhere")])
    assert perveance_of(0.010, 250, -8.5, 20) == pytest.approx(0.010 / 4.0**1.5)
    with pytest.raises(RangeError, match="no current flows"):
        perveance_of(0.010, 250, -13, 20)


def test_a_pentode_is_governed_by_its_screen_and_shares_its_current():
    """Plate and screen resistor carry four to one, the cathode resistor both, and it is that of the law."""
    text = "V1 b 0 250\nR1 b p 47k\nR2 k 0 560\nR3 g 0 470k\nR4 b s 150k"
    tube = Tube(name="v1", plate="p", grid="g", cathode="k", mu=20.0, perveance=0.7e-3, screen="s")
    volts = calculate_nodes(parse_netlist(text), [tube])
    plate, screen, cathode = (250 - volts["p"]) / 47e3, (250 - volts["s"]) / 150e3, volts["k"] / 560
    assert screen == pytest.approx(SCREEN_SHARE * cathode, rel=1e-6)
    assert plate + screen == pytest.approx(cathode, rel=1e-6)
    drive = -volts["k"] + (volts["s"] - volts["k"]) / 20
    assert plate == pytest.approx(0.7e-3 * drive**1.5, rel=1e-6)
    with pytest.raises(RangeError, match="below the knee"):
        calculate_nodes(parse_netlist(text.replace("47k", "470k")), [tube])
