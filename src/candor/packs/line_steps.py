"""Points read again with the line off by so many per cent: the steps before, at and after that."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from candor.core.worded import worded
from candor.packs.base import Caution
from candor.packs.procedure_step import ProcedureStep


def at_other_lines(steps: Sequence[ProcedureStep], lines: Sequence[float]) -> Iterator[ProcedureStep]:
    """Yield steps again for each line, per cent off, with what sets it before them, and the line put back last."""
    if not steps:
        return
    first = steps[0]
    for percent in lines:
        said = f"{'+' if percent > 0 else '−'}{abs(percent):g} %"
        by = f"{abs(percent):g}"
        off = worded("packs.line_above", percent=by) if percent > 0 else worded("packs.line_below", percent=by)
        yield replace(
            first, key=f"line{percent:+g}-set:{first.key}", kind="check", point=None, line=percent / 100,
            title=worded("packs.line_off", said=said),
            row=worded("packs.line_off", said=said),
            do=worded("packs.set_the_line_off", said=off, low=_line(120, percent), high=_line(230, percent)),
            aim=worded("packs.the_line_is_noted"), mistake=worded("packs.line_mistake"),
            cautions=_with(first.cautions, percent),
        )  # fmt: skip
        for step in steps:
            at = worded("packs.at_line_off", title=step.title, said=said)
            row = worded("packs.at_line_off", title=step.row, said=said)
            key = f"line{percent:+g}:{step.key}"
            cautions = _with(step.cautions, percent) if percent > 0 else step.cautions
            yield replace(step, key=key, title=at, row=row, line=percent / 100, cautions=cautions)
    yield replace(
        first, key=f"line-back:{first.key}", kind="check", point=None,
        title=worded("packs.line_back"), row=worded("packs.line_back"),
        do=worded("packs.put_the_line_back"), aim=worded("packs.the_line_is_noted"), mistake=worded("packs.line_back_mistake"),
        cautions=(),
    )  # fmt: skip


def _line(volts: float, percent: float) -> str:
    return f"{volts * (1 + percent / 100):.0f}"


def _with(cautions: tuple[Caution, ...], percent: float) -> tuple[Caution, ...]:
    """Return cautions with that of the line, in front where it is above: what is said whole is the gravest."""
    return (_caution(percent), *cautions) if percent > 0 else (*cautions, _caution(percent))


def _caution(percent: float) -> Caution:
    return Caution(
        key="line-high" if percent > 0 else "line-set", level="danger" if percent > 0 else "attention",
        text=worded("packs.line_is_high") if percent > 0 else worded("packs.line_is_set"),
        short=worded("packs.line_is_high_short") if percent > 0 else worded("packs.line_is_set_short"),
    )  # fmt: skip
