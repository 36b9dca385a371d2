"""What moves which range: by how much what a range makes goes with the part that an adjuster acts on, solved in the circuit."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.packs.functions import Function, Range
from candor.packs.made import missed
from candor.packs.model import Pack
from candor.packs.pack_parts import PackCircuit, read_circuit
from candor.packs.retrim import INDICATES

STEP = 0.01  # of the part's value, each way
LEAST = 1e-4  # of a range for that: what is less is the solver's, and no adjuster's
NO_ERROR = ("falls", "terminals")
UNEVEN = 0.2  # up and down may differ by so much: more is no slope


@dataclass(frozen=True)
class AdjusterReach:
    """What one adjuster does.

    Attributes
    ----------
    key, name, part : str
        The adjuster and the part it acts on.
    moves : mapping of str to float
        By ``function/range``, the share by which the error of that range goes up for 1 % more of the part; the ranges that it does
        not move are left out.
    solved : frozenset of str
        The ranges that the circuit says anything of: of the others nothing is known.
    """

    key: str
    name: str
    part: str
    moves: Mapping[str, float]
    solved: frozenset[str]


@lru_cache(maxsize=16)
def adjuster_reach(pack: Pack, known: tuple[tuple[str, float], ...] = ()) -> tuple[AdjusterReach, ...]:
    """Return what every adjuster moves whose part the pack names; empty where it has no circuit.

    Parameters
    ----------
    pack : Pack
    known : tuple of (str, float)
        What parts are known to be, SI; the others stand as drawn.
    """
    circuit = pack.circuit
    if circuit is None:
        return ()
    found = []
    for adjuster in pack.adjusters:
        if not adjuster.acts:
            continue
        moves: dict[str, float] = {}
        solved = set()
        for function in pack.functions:
            for range_ in function.ranges:
                by = _moved(circuit, function, range_, adjuster.acts, known)
                if by is None:
                    continue
                solved.add(f"{function.key}/{range_.key}")
                if abs(by) >= LEAST:
                    moves[f"{function.key}/{range_.key}"] = by
        found.append(
            AdjusterReach(
                key=adjuster.key, name=adjuster.name, part=adjuster.acts, moves=moves, solved=frozenset(solved)
            )
        )
    return tuple(found)


def _moved(
    circuit: PackCircuit, function: Function, range_: Range, part: str, known: tuple[tuple[str, float], ...]
) -> float | None:
    """Return by what share the error of a range goes up for STEP more of a part; None where the circuit does not say."""
    making = circuit.making_of(function.made_by)
    # An ohms range is told by a part of its arc, and a corner is what it is: neither has an error that is a share of a reading.
    if making is None or function.unit == "ohm" or making.how in NO_ERROR:
        return None
    netlist = read_circuit(circuit.netlist)
    for ref, value in known:
        if netlist.element(ref) is not None:
            netlist = netlist.with_value(ref, value)
    element = netlist.element(part)
    if element is None:
        return None
    closes = (*function.closes, *range_.closes)
    try:
        less, here, more = (
            1 + missed(netlist.with_value(part, element.value * times).with_closed(closes), making, function, range_)
            for times in (1 - STEP, 1.0, 1 + STEP)
        )
    except CandorError:
        return None
    up, down = more - here, here - less
    if here == 0 or abs(up - down) > UNEVEN * max(abs(up), abs(down), LEAST * abs(here)):
        return None
    moved = (up + down) / 2 / here
    # What is set or swept gives too little where its maker sets more of it: there the error has the other sign.
    return moved if making.how in INDICATES else -moved
