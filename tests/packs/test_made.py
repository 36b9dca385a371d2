"""What a circuit makes of a range, against the closed forms of handbooks: bridges, loaded sources, trips, ramps, corners."""

import math

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.errors import RangeError
from candor.packs.functions import Function, Range
from candor.packs.made import missed
from candor.packs.making import Amplifies, Balances, Delivers, Falls, Movement, Ramps, Terminals, Trips

# Bridge: x of the pot is between its end and the detector's node; Z_x/Z_s = R_a/R_b (de Sauty, any handbook of a.c. bridges).
BRIDGE = "V1 top bot sin(0 50 60)\nC1 bot s 20n\nR5 s det {loss}\nR9 det 0 2.2meg"
POT = {"pot": ("bot", "0", "top"), "ohms": 10e3, "unknown": ("top", "det"), "over": ("det", "0"), "hertz": 60.0}


def miss(netlist: str, making, unit: str, full_scale: float, **more) -> float:
    range_ = Range(key="r", title="r", full_scale=full_scale, digits={}, **more)
    function = Function(key="f", title="f", unit=unit, read_as="reach", ranges=(range_,))
    return missed(parse_netlist(netlist).with_closed(["S1"]), making, function, range_)


def test_a_bridge_says_its_standard_by_the_ratio_of_the_pot():
    making = Balances(how="balances", **POT)
    assert miss(BRIDGE.format(loss=0.01), making, "F", 20e-9) == pytest.approx(0, abs=1e-5)
    # A standard of 21 nF: C_x = C_s x/(1 - x) is found at x = C_x/(C_x + 21n), where the dial says C_x/(C_x + 20n).
    worst = max(
        (c / (c + 21e-9) - c / (c + 20e-9)) * (c + 20e-9) ** 2 / (c * 20e-9) for c in (20e-9 / 9, 20e-9, 180e-9)
    )
    least = min(
        (c / (c + 21e-9) - c / (c + 20e-9)) * (c + 20e-9) ** 2 / (c * 20e-9) for c in (20e-9 / 9, 20e-9, 180e-9)
    )
    found = miss(BRIDGE.format(loss=0.01).replace("20n", "21n"), making, "F", 20e-9)
    assert found == pytest.approx(max(worst, least, key=abs), rel=2e-3)
    along = miss(BRIDGE.format(loss=0.01).replace("20n", "21n"), making, "F", 20e-9, limit={"percent_of_arc": 2})
    assert along == pytest.approx(20 / 41 - 0.5, rel=0.01)  # along the arc it is most in the middle


def test_an_ohms_bridge_goes_the_other_way():
    turned = POT | {"pot": ("top", "0", "bot")}
    netlist = "V1 top bot sin(0 50 60)\nR1 bot det 10k\nR9 det 0 1meg"
    assert miss(netlist, Balances(how="balances", **turned), "ohm", 10e3) == pytest.approx(0, abs=1e-5)
    assert abs(miss(netlist, Balances(how="balances", **POT), "ohm", 10e3)) > 0.5


@pytest.mark.parametrize("factor", [0.1, 0.3, 0.5])
def test_a_power_factor_is_the_time_constant_of_both_arms(factor):
    """D = omega R C on either side at the null; PF = D/sqrt(1 + D^2)."""
    tangent = factor / math.sqrt(1 - factor**2)
    ohms = tangent / (2 * math.pi * 60 * 20e-9)
    making = Balances(how="balances", **POT, loss_of=20e-9)
    assert miss(BRIDGE.format(loss=repr(ohms)), making, "1", factor) == pytest.approx(0, abs=2e-4)
    assert miss(BRIDGE.format(loss=repr(ohms)), making, "1", factor / 1.1) == pytest.approx(0.1, abs=5e-4)


def test_terminals_are_what_an_ohmmeter_finds_there():
    making = Terminals(how="terminals", between=("plus", "0"))
    assert miss("R1 plus m 9k\nR2 m 0 1k\nR3 m 0 1k", making, "ohm", 9.5e3) == pytest.approx(0, abs=1e-9)
    assert miss("R1 plus m 9k\nR2 m 0 1k", making, "ohm", 9.5e3) == pytest.approx(10 / 9.5 - 1)


def test_a_source_gives_less_under_a_load():
    making = Delivers(how="delivers", over=("out", "0"))
    assert miss("V1 a 0 100\nR1 a out 1k", making, "V", 100.0) == pytest.approx(0, abs=1e-9)
    assert miss("V1 a 0 100\nR1 a out 1k", making, "V", 100.0, settings={"load": 9e3}) == pytest.approx(-0.1)
    hertz = Delivers(how="delivers", over=("out", "0"), hertz=50, load=9e3)
    assert miss("V1 a 0 sin(0 141.42136 50)\nR1 a out 1k", hertz, "V", 100.0) == pytest.approx(-0.1)


def test_a_tube_of_its_transconductance_moves_the_meter():
    """i = g v at the plate: 1 V r.m.s. on the grid, 2 mS, 50 ohm: 0.1 V r.m.s., 2 sqrt(2)/pi of it as an average."""
    reads = Movement(over=("p", "0"), full_scale=0.1 * 2 * math.sqrt(2) / math.pi)
    making = Amplifies(how="amplifies", plate="p", grid="g", cathode="0", reads=reads, hertz=60)
    netlist = "V1 g 0 sin(0 1.41421356 60)\nR1 p 0 {ohms}"
    assert miss(netlist.format(ohms=50), making, "S", 2e-3) == pytest.approx(0, abs=1e-6)
    assert miss(netlist.format(ohms=48), making, "S", 2e-3) == pytest.approx(-0.04, abs=1e-6)


def test_a_lamp_trips_where_the_divider_says():
    making = Trips(how="trips", input=("a", "b"), over=("b", "0"), at=60)
    netlist = "V1 a 0 160\nR1 b 0 150k"  # 60 = 160 x 150k/(150k + R): R = 250 kohm
    assert miss(netlist, making, "ohm", 250e3) == pytest.approx(0, abs=1e-6)
    assert miss(netlist, making, "ohm", 200e3) == pytest.approx(0.25, abs=1e-6)
    leak = Trips(how="trips", input=("0", "b"), over=("b", "0"), at=2)
    assert miss("R1 b 0 50k", leak, "A", 50e-6) == pytest.approx(-0.2)
    with pytest.raises(RangeError, match="never changes"):
        miss(netlist, making, "ohm", 1.0)


def test_a_ramp_takes_the_capacitor_times_the_volts_by_the_current():
    making = Ramps(how="ramps", over=("m", "r"), swing=100)
    netlist = "V1 s 0 150\nS1 s t\nR1 t m 1.5meg\nC1 m x 1n\nS1b x r\nR2 r 0 0.001"
    with pytest.raises(RangeError, match="no capacitor"):
        miss(netlist, making, "s", 1e-3)
    joined = netlist.replace("C1 m x 1n\nS1b x r", "C1 m r 1n")
    assert miss(joined, making, "s", 1e-3) == pytest.approx(0, abs=1e-4)  # 1 nF x 100 V / 100 uA
    assert miss(joined, making, "Hz", 1e3) == pytest.approx(0, abs=1e-4)
    with pytest.raises(RangeError, match="nothing charges"):
        miss(joined.replace("150", "0"), making, "s", 1e-3)


def test_a_corner_is_one_over_two_pi_r_c():
    making = Falls(how="falls", input="in", over=("out", "0"), mid=1000)
    corner = 1 / (2 * math.pi * 1e3 * 1e-9)
    assert miss("R1 in out 1k\nC1 out 0 1n", making, "Hz", corner) == pytest.approx(0, abs=1e-4)
    with pytest.raises(RangeError, match="never falls"):
        miss("R1 in out 1k\nR2 out 0 1k", making, "Hz", corner)
