"""What each adjuster moves, in words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from candor.core.quantities.show import signed
from candor.packs.adjuster_reach import STEP, AdjusterReach
from candor.packs.model import Pack

ALIKE = 0.02  # moves that differ by less of the larger are told as one


def reach_lines(found: Sequence[AdjusterReach], pack: Pack) -> tuple[str, ...]:
    """Say what each adjuster moves, a line each; ranges that it moves alike stand together."""
    if not found:
        return ("Of no adjuster is it known what it moves: that needs the circuit, and which part each acts on.",)
    titles = {f"{f.key}/{r.key}": (f.title, r.title) for f in pack.functions for r in f.ranges}
    return tuple(_line(one, titles) for one in found)


def _line(one: AdjusterReach, titles: dict[str, tuple[str, str]]) -> str:
    head = f"{one.name} ({one.part})"
    if not one.moves:
        return f"{head}: moves none of the {len(one.solved)} ranges that the circuit says anything of."
    groups: list[tuple[float, dict[str, list[str]]]] = []
    for where, by in one.moves.items():
        function, range_ = titles[where]
        for mean, members in groups:
            if abs(by - mean) <= ALIKE * max(abs(by), abs(mean)):
                members.setdefault(function, []).append(range_)
                break
        else:
            groups.append((by, {function: [range_]}))
    said = (
        f"{'; '.join(f'{function} {_spread(ranges)}' for function, ranges in members.items())} by {signed(100 * by, 2)} %"
        for by, members in groups
    )
    return f"{head}: {'. '.join(said)} for {100 * STEP:g} % more of {one.part}."


def _spread(ranges: list[str]) -> str:
    return (
        ranges[0] if len(ranges) == 1 else f"{ranges[0]} to {ranges[-1]}" if len(ranges) > 2 else " and ".join(ranges)
    )


def reach_json(found: Sequence[AdjusterReach]) -> list[dict[str, Any]]:
    """Return it as plain values: shares for 1 % more of the part."""
    return [
        {
            "adjuster": r.key,
            "part": r.part,
            "moves": {k: round(v, 7) for k, v in r.moves.items()},
            "solved": sorted(r.solved),
        }
        for r in found
    ]
