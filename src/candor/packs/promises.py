"""What a pack promises of its points and cannot keep: a formula of what is not there, a reading of what cannot be read so."""

from __future__ import annotations

from collections.abc import Iterator

from candor.core.errors import CandorError
from candor.core.quantities.formula import check_units, parse_formula
from candor.core.reading.kinds import KINDS
from candor.core.worded import worded
from candor.packs.functions import ON
from candor.packs.model import Pack, PointsStep
from candor.packs.pack_points import point_of
from candor.packs.procedure import procedure
from candor.packs.reproduces import range_misses

Path = tuple[int | str, ...]


def broken_promises(pack: Pack) -> Iterator[tuple[Path, str]]:
    """Yield (path, message) for every step of a pack that is well written and cannot be done.

    A formula whose names lead to no point, that mixes units or goes round; a kind of reading on what it cannot be read on.
    """
    for miss in range_misses(pack):
        if not miss.is_within:
            f, r = miss.where
            yield ("functions", f, "ranges", r), miss.sentence
    points = {s.point.key: s.point for s in procedure(pack) if s.point is not None and s.kind == "point"}
    for s, section in enumerate(pack.procedure):
        for t, step in enumerate(section.steps):
            if not isinstance(step, PointsStep):
                continue
            path: Path = ("procedure", s, "steps", t)
            function = next(f for f in pack.functions if f.key == step.function)
            kind = KINDS[step.read_as or function.read_as]
            for range_ in function.ranges:
                on = next(name for name in ON if getattr(range_, name))
                if (not step.ranges or range_.key in step.ranges) and on not in kind.read_on:
                    yield (
                        (*path, "function"),
                        (
                            worded(
                                "packs.cannot_be_read_on_the_of",
                                title=kind.title,
                                on=on,
                                range_title=range_.title,
                                listed=", ".join(kind.read_on),
                            )
                        ),
                    )
            if kind.figured and not step.formula:
                yield (*path, "read_as"), worded("packs.a_point_that_is_calculated_needs")
            units = {}
            for name, key in step.of.items():
                if key not in points:
                    near = ", ".join(k for k in points if k.split("/")[0] == key.split("/")[0]) or ", ".join(
                        list(points)[:4]
                    )
                    yield (*path, "of"), worded("packs.this_pack_has_no_point_examples", key=key, near=near)
                elif points[key].formula.text:
                    yield (*path, "of"), worded("packs.is_itself_calculated_a_formula_is", key=key)
                else:
                    units[name] = points[key].unit
            if step.formula and len(units) == len(step.of):
                made = point_of(pack, function, function.ranges[0], function.ranges[0].full_scale, step)
                try:
                    check_units(parse_formula(step.formula), units, made.unit)
                except CandorError as error:
                    yield (*path, "formula"), str(error)
