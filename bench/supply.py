"""One second of a supply's cold start, against the whole ngspice process on the same supply at the same step."""

from __future__ import annotations

import shutil
import subprocess

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.time_steps import STEPS_A_CYCLE, March
from timing import in_turn, report

WANTED = 0.8
RECTIFIERS = {
    "silicon": ("is=1e-9 n=1.5 rs=1", "{name} {plus} {minus} si"),
    "vacuum": ("perveance=2.2e-4", "B{name} {plus} {minus} I=2.2e-4*uramp(v({plus},{minus}))^1.5"),
}
SUPPLY = """V1 a 0 sin(0 440 50)
V2 0 b sin(0 440 50)
R1 a a1 90
R2 b b1 90
{diodes}
C1 k 0 32u
R3 k o 680
C2 o 0 32u
R4 o 0 5.1k
"""


def main() -> None:
    """Print the ratio for each kind of rectifier."""
    program = shutil.which("ngspice")
    step = 1 / 50 / STEPS_A_CYCLE
    for kind, (ours, theirs) in RECTIFIERS.items():
        ways = (("D1", "a1", "k"), ("D2", "b1", "k"))
        netlist = parse_netlist(SUPPLY.format(diodes="\n".join(f"{n} {p} {m} {ours}" for n, p, m in ways)))
        spice = "* supply\n.model si D(is=1e-9 n=1.5 rs=1)\n" + SUPPLY.format(
            diodes="\n".join(theirs.format(name=n, plus=p, minus=m) for n, p, m in ways)
        )
        spice += f".control\ntran {step:g} 1 0 {step:g} uic\nmeas tran o max v(o) from=0.8 to=1\n.endc\n.end\n"

        def ask(text: str = spice) -> None:
            subprocess.run([str(program), "-b"], input=text, capture_output=True, text=True, timeout=60, check=False)

        def calculate(netlist=netlist) -> None:
            March(netlist).run(1.0, until_settled=False)

        if program is None:
            print("ngspice is not installed: nothing to compare with.")
            return
        mine, other = in_turn(calculate, ask, 9)
        report(f"One second of a cold start, {kind}", mine, other, "the whole ngspice process", WANTED)


if __name__ == "__main__":
    main()
