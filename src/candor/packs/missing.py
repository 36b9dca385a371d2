"""What a pack does not say yet: it can be used without, and better with it."""

from __future__ import annotations

from candor.core.reading.kinds import kind_named
from candor.core.worded import worded
from candor.packs.model import Pack
from candor.packs.procedure import test_points

FEWEST_POINTS = 3  # over a range tell whether it bends: common practice, no source


def what_is_missing(pack: Pack) -> tuple[str, ...]:
    """Return a sentence for each thing that a pack does not say."""
    said = [] if pack.maker else [worded("packs.its_maker_is_not_said")]
    if not pack.functions:
        said.append(worded("packs.no_range_is_described_so_nothing"))
    points = test_points(pack, "as found")
    for function in pack.functions:
        for range_ in function.ranges:
            name = f"{function.title}, {range_.title} range"
            noted = any(p.noted for p in points if p.key.startswith(f"{function.key}/{range_.key}/"))
            if not range_.limit.core().given and not range_.look and not noted:
                said.append(worded("packs.no_limit_so_nothing_is_decided", name=name))
            count = sum(p.key.startswith(f"{function.key}/{range_.key}/") for p in points)
            if (
                count < FEWEST_POINTS
                and range_.scale
                and kind_named(function.read_as).has_friction
                and function.polarity != "both"
            ):
                said.append(
                    worded(
                        "packs.point_or_more_tell_whether_it",
                        name=name,
                        count=count,
                        plural="" if count == 1 else "s",
                        fewest_points=FEWEST_POINTS,
                    )
                )
    if not pack.parts:
        said.append(worded("packs.no_part_is_listed"))
    return tuple(said)
