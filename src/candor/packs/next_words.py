"""What is done where a further point of a range is made: as its kind of reading is written."""

from __future__ import annotations

from dataclasses import replace

from candor.core.calibration.point import TestPoint
from candor.core.reading.kinds import kind_of
from candor.core.worded import worded

_AIM = worded("packs.three_points_or_more_over_the")


def next_words(point: TestPoint) -> tuple[str, str, str, str]:
    """Return title, what to do, aim and usual mistake of the step that makes a further point of a range."""
    kind = kind_of(point)
    title = worded("packs.range_an_extra_point", function=point.function, range_name=point.range_name)
    if kind.moves_reference:
        says = kind.example(replace(point, nominal=point.nominal or point.full_scale))
        return (
            title, worded("packs.bring_the_needle_to_its_mark", says=says), worded("packs.each_mark_it_is_set_by"),
            worded("packs.set_from_one_side_alone"),
        )  # fmt: skip
    if kind.has_friction:
        return (
            title, worded("packs.apply_a_value_or_bring_the", says=kind.example(point)), _AIM,
            worded("packs.reading_a_point_once_only_from"),
        )  # fmt: skip
    example = kind.example(point)
    says = example if "reads" in example else f"{example} ref {point.bare(point.nominal, 3)}"
    return (
        title,
        worded("packs.connect_or_apply_a_known_value", says=says),
        _AIM,
        (worded("packs.reading_one_point_alone_it_says")),
    )
