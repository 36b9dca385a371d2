"""What a pack does not say yet: it can be used without, and better with it."""

from __future__ import annotations

from candor.core.reading.kinds import kind_named
from candor.packs.model import Pack
from candor.packs.procedure import test_points

FEWEST_POINTS = 3  # over a range tell whether it bends: common practice, no source


def what_is_missing(pack: Pack) -> tuple[str, ...]:
    """Return a sentence for each thing that a pack does not say."""
    said = [] if pack.maker else ["its maker is not said"]
    if not pack.functions:
        said.append("no range is described, so nothing can be calibrated by it")
    points = test_points(pack, "as found")
    for function in pack.functions:
        for range_ in function.ranges:
            name = f"{function.title}, {range_.title} range"
            noted = any(p.noted for p in points if p.key.startswith(f"{function.key}/{range_.key}/"))
            if not range_.limit.core().given and not range_.look and not noted:
                said.append(f"{name}: no limit, so nothing is decided on it")
            count = sum(p.key.startswith(f"{function.key}/{range_.key}/") for p in points)
            if (
                count < FEWEST_POINTS
                and range_.scale
                and kind_named(function.read_as).has_friction
                and function.polarity != "both"
            ):
                said.append(
                    f"{name}: {count} point{'' if count == 1 else 's'}; {FEWEST_POINTS} or more tell whether it bends"
                )
    if not pack.parts:
        said.append("no part is listed")
    return tuple(said)
