"""Twenty supplies against ngspice, an independent simulator: mean within 1 %, ripple within 5 %, the highest ever within 1 %."""

import random

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.power.supply import calculate_supply
from published.ngspice import ask

KINDS = ("is=1e-9 n=1.5 rs=1", "drop=15", "perveance=2.7e-4")


def supply(seed: int) -> tuple[str, str, float]:
    """A netlist of ours, the rail to look at, and how long it runs, s."""
    chance = random.Random(seed)
    hertz = chance.choice((50, 60))
    volts = chance.uniform(150, 550)
    ohms = chance.uniform(30, 300)
    kind = KINDS[seed % 3]
    if chance.random() < 0.2 and seed % 3 == 0:
        volts = chance.uniform(8, 25)
        ohms /= 50
    load = chance.uniform(0.02, 0.12)
    shape = ("half", "centre", "bridge", "doubler")[seed // 3 % 4]
    micro = chance.choice((8, 20, 40, 47))
    wave = f"sin(0 {volts:.4g} {hertz})"
    if shape == "half":
        lines = [f"V1 a 0 {wave}", f"R1 a a1 {ohms:.4g}", f"D1 a1 k {kind}"]
    elif shape == "centre":
        lines = [f"V1 a 0 {wave}", f"V2 0 b {wave}", f"R1 a a1 {ohms:.4g}", f"R2 b b1 {ohms:.4g}",
                 f"D1 a1 k {kind}", f"D2 b1 k {kind}"]  # fmt: skip
    elif shape == "bridge":
        lines = [
            f"V1 a b {wave}",
            f"R1 a a1 {ohms:.4g}",
            f"D1 a1 k {kind}",
            f"D2 b k {kind}",
            f"D3 0 a1 {kind}",
            f"D4 0 b {kind}",
            "R5 b 0 10meg",
        ]
    else:
        lines = [f"V1 a 0 {wave}", f"R1 a a1 {ohms:.4g}", f"C9 a1 b {micro}u", f"D1 0 b {kind}", f"D2 b k {kind}"]
    if seed % 5 == 4:
        lines += ["L9 k k1 5 r=120", f"C1 k1 0 {micro}u"]
        first = "k1"
    else:
        lines += [f"C1 k 0 {micro}u"]
        first = "k"
    if seed % 2:
        lines += [f"R3 {first} o {chance.uniform(200, 2000):.4g}", f"C2 o 0 {micro}u"]
        first = "o"
    end = max(volts / load * (0.4 if shape != "doubler" else 1.5), 50)
    lines.append(f"R4 {first} 0 {end:.5g}")
    if seed % 4 == 3:
        lines.append(f"I1 {first} 0 {0.1 * load:.4g} from=0.6")
    return "\n".join(lines), first, 1.5


def spiced(text: str, rail: str, seconds: float, step: float) -> str:
    """The same for ngspice: an arc is a sharp diode with a voltage and half an ohm, a vacuum diode its law."""
    made = [".model si D(is=1e-9 n=1.5 rs=1)", ".model sharp D(is=1e-12 n=0.05 rs=0.5)"]
    for line in text.splitlines():
        words = line.split()
        name, plus, minus = words[:3]
        if line.startswith("D") and "drop" in line:
            made += [f"{name} {plus} {name}m sharp", f"V{name} {name}m {minus} {float(line.split('=')[1]) - 0.02:g}"]
        elif line.startswith("D") and "perveance" in line:
            made.append(
                f"B{name} {plus} {minus} I={line.split('=')[1]}*uramp(v({plus},{minus}))^1.5 + 1e-9*v({plus},{minus})"
            )
        elif line.startswith("D"):
            made.append(f"{name} {plus} {minus} si")
        elif "from=" in line:
            made.append(
                f"{name} {plus} {minus} pwl(0 0 {line.split('=')[1]} 0 {float(line.split('=')[1]) + 1e-5:g} {words[3]})"
            )
        elif line.startswith("L"):
            made += [f"{name} {plus} {name}r {words[3]}", f"R{name} {name}r {minus} {line.split('r=')[1]}"]
        else:
            made.append(line)
    hertz = float(text.split("sin(")[1].split(")")[0].split()[2])
    start = seconds - 10 / hertz
    meas = [f"meas tran mean avg v({rail}) from={start:.9g} to={seconds:g}",
            f"meas tran ripple pp v({rail}) from={start:.9g} to={seconds:g}",
            f"meas tran peak max v({rail}) from=0 to={seconds:g}"]  # fmt: skip
    run = f"tran {step:g} {seconds:g} 0 {step:g} uic"
    return "\n".join(["* a supply", *made, ".control", run, *meas, ".endc", ".end", ""])


@pytest.mark.parametrize("seed", range(20))
def test_a_supply_against_ngspice(seed):
    text, rail, seconds = supply(seed)
    answer = calculate_supply(parse_netlist(text), seconds).nodes[rail]
    theirs = ask(spiced(text, rail, seconds, 5e-5), ("mean", "ripple", "peak"))
    assert answer.mean == pytest.approx(theirs["mean"], rel=0.01)
    assert answer.ripple == pytest.approx(theirs["ripple"], rel=0.05)
    assert answer.peak == pytest.approx(theirs["peak"], rel=0.01)


def test_the_same_at_another_step_and_with_an_answer_worked_by_hand():
    """375 V a side, 80 ohm, 40 uF, 500 ohm, 40 uF, 3.7 kohm, 60 Hz, silicon: 478.7 V / 17.3 V, then 421.7 V / 0.97 V (ngspice)."""
    text = (
        "V1 a 0 sin(0 530.33 60)\nV2 0 b sin(0 530.33 60)\nR1 a a1 80\nR2 b b1 80\nD1 a1 k is=1e-9 n=1.5 rs=1\n"
        "D2 b1 k is=1e-9 n=1.5 rs=1\nC1 k 0 40u\nR3 k o 500\nC2 o 0 40u\nR4 o 0 3.7k"
    )
    answer = calculate_supply(parse_netlist(text))
    assert answer.settled
    assert (answer.nodes["k"].mean, answer.nodes["o"].mean) == pytest.approx((478.7, 421.7), abs=0.1)
    assert (answer.nodes["k"].ripple, answer.nodes["o"].ripple) == pytest.approx((17.3, 0.97), rel=0.02)
    assert answer.nodes["a"].peak == pytest.approx(530.33, rel=1e-4)
    assert (answer.undischarged, answer.settled) == ((), True)
