"""What moves which range, against the solver of a trim, which finds the part by another way; and set together as it says."""

import datetime as dt
import json

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.calibration.interacting import read_turned, set_together
from candor.core.errors import RangeError
from candor.notebook.standards.chain_text import read_standards
from candor.notebook.work.readings_alone import calculate_readings
from candor.notebook.work.turns_of_circuit import turns_of_circuit
from candor.packs.adjuster_reach import STEP, adjuster_reach
from candor.packs.bundled import bundled_pack, bundled_packs
from candor.packs.made import missed
from candor.packs.pack_parts import read_circuit
from candor.packs.procedure import test_points as points_of
from candor.packs.retrim import retrim
from candor.words.reach_words import reach_lines
from candor.words.turns_words import say_turns


@pytest.mark.parametrize("pack", [p for p in bundled_packs() if adjuster_reach(p)], ids=lambda p: p.id)
def test_a_small_error_is_put_right_by_what_the_trim_solver_finds(pack):
    for adjuster in adjuster_reach(pack):
        for where, moved in adjuster.moves.items():
            function, range_ = where.split("/")
            error = moved / 10  # a tenth of what 1 % of the part does
            found = retrim(pack, adjuster.key, function, range_, error)
            assert found.wanted / found.value - 1 == pytest.approx(-STEP / 10, rel=0.06), (adjuster.key, where)


def test_what_an_adjuster_moves_besides_is_said():
    pack = bundled_pack("tarnholm-ts22")
    first, *_ = adjuster_reach(pack)
    assert {"rails/n150", "cal/100", "sweep/1m"} <= first.moves.keys() and "y/0.1" not in first.moves
    (line,) = (text for text in reach_lines(adjuster_reach(pack), pack) if "R12" in text)
    assert "−150 V to +225 V" in line and "for 1 % more of R12" in line
    told = CliRunner().invoke(app, ["moves", "halvergate-ev9", "--json"])
    by_key = {one["adjuster"]: one["moves"] for one in json.loads(told.stdout)}
    assert not any(
        where.startswith("corner/") for r in adjuster_reach(pack) for where in r.solved
    )  # it has no error to move
    assert {"dc+/12", "ac/12"} <= by_key["cal-plus"].keys() and "dc-/12" not in by_key["cal-plus"]
    assert "the circuit" in reach_lines((), pack)[0]


METER = "\n".join((
    "name: bench meter", "is: meter", "checked: 2026-06-01", "V d.c., loads 10M", "to 1500 V: 0.02 % + 0.5 mV", "V a.c.",
    "to 1500 V: 0.1 %",
))  # fmt: skip
EV9 = "halvergate-ev9"


def readings(**off):
    """Results of an instrument that shows so much of the truth on its functions, every range at its end."""
    pack, on = bundled_pack(EV9), dt.date(2026, 7, 1)
    rows = [
        f"{p.key},{p.nominal * (1 + off[p.key.split('/')[0]]):.6g},{p.nominal:g}"
        for p in points_of(pack, "as found")
        if p.key.split("/")[0] in off and p.nominal == p.full_scale
    ]
    assert len(rows) > 2
    table = "\n".join(("point,reading,reference", *rows))
    return calculate_readings(table.encode(), pack, read_standards(METER, on), on)


def test_adjusters_that_move_each_other_are_set_at_once_by_the_circuit():
    """Solved anew with the parts as it says, what the ranges show is right: +CAL moves a.c. too, so a.c. is set by what is left."""
    pack, off = bundled_pack(EV9), {"dc+": -0.012, "dc-": -0.006, "ac": -0.010}
    lines = turns_of_circuit(pack, readings(**off))
    assert "in per cent of the part" in lines
    found = set_together(read_turned(lines))
    by = {name.split()[0]: t / 100 for name, t in zip(found.names, found.at_once, strict=True)}
    assert set(by) == {"R17", "R20", "R32"} and "% of its part" in say_turns(found)[0]
    netlist, circuit = read_circuit(pack.circuit.netlist), pack.circuit
    changed = netlist
    for part, share in by.items():
        changed = changed.with_value(part, netlist.element(part).value * (1 + share))
    for function, range_ in (("dc+", "12"), ("dc-", "120"), ("ac", "12")):
        f = next(f for f in pack.functions if f.key == function)
        r = next(r for r in f.ranges if r.key == range_)
        before, after = (
            1 + missed(n.with_closed((*f.closes, *r.closes)), circuit.making_of(f.made_by), f, r)
            for n in (netlist, changed)
        )
        left = (1 + off[function]) * after / before - 1
        assert abs(left) < abs(off[function]) / 5, function


def test_where_nothing_can_be_said_it_says_why():
    with pytest.raises(RangeError, match="Of no adjuster"):
        turns_of_circuit(bundled_pack("wexcombe-fc3"), ())
    with pytest.raises(RangeError, match="Nothing was read"):
        turns_of_circuit(bundled_pack(EV9), ())
    alone = set_together(read_turned("in per cent of the part\nstart 3\nR1 1: 2.99\nlimit 1"))
    assert alone.beyond and "does not do it alone" in say_turns(alone)[0]
