"""From a pack's functions and ranges to test points: what each is read on, its face, its key."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import lru_cache

from candor.core.calibration.point import Formula, Stimulus, TestPoint, Waveform
from candor.core.errors import RangeError
from candor.core.reading.dial import DialRange
from candor.core.reading.indicators import Digits, Graticule, Indicator, Knob, Outcomes
from candor.core.reading.kinds import kind_named
from candor.core.worded import worded
from candor.packs.base import number
from candor.packs.functions import Function, KnobTerms, Range, ScreenTerms
from candor.packs.model import Dial, Pack
from candor.packs.steps import PointsStep, Share

OWN_SCALE = "own."  # scales of ranges made as one goes: each is drawn alone


def share_of(range_: Range, share: Share) -> float:
    """Return a share of full scale in the unit of the function; infinity stays what it is."""
    return number(share) if isinstance(share, str) else float(f"{range_.full_scale * share:.9g}")


def point_key(function: str, range_: str, nominal: float, step: PointsStep | None) -> str:
    """Return the key of a test point, such as ``dc+/150/75``, or ``ac/15/10@1000`` at a frequency, ``~square`` of a shape.

    Points that are otherwise alike are told apart by a word, ``ac/15/10@1000+turned``.
    """
    at = f"@{step.frequency:g}" if step is not None and step.frequency else ""
    range_ += f"*{step.modifier}" if step is not None and step.modifier else ""
    shape = f"~{step.waveform}" if step is not None and step.waveform not in ("", "d.c.", "sine") else ""
    apart = f"+{step.apart}" if step is not None and step.apart else ""
    return f"{function}/{range_}/{nominal:g}{at}{shape}{apart}"


def point_of(pack: Pack, function: Function, range_: Range, nominal: float, step: PointsStep | None) -> TestPoint:
    """Return the test point of a range at a value, in the unit of the function, as a step asks for it.

    Raises
    ------
    RangeError
        Where the pack does not say what the range is read on.
    """
    range_, nominal = _modified(pack, range_, nominal, step)
    stimulus, more = Stimulus(function.hertz, _waveform(function, step)), {}
    if step is not None:
        stimulus = Stimulus(step.frequency or function.hertz, _waveform(function, step), step.distortion)
        takes = step.takes
        more = {
            # Nothing at all, or a short, is as it is: no standard is asked for it.
            "asks": "none" if math.isinf(nominal) else step.asks,
            "formula": Formula(step.formula, tuple(step.of.items()), takes),
            "noted": step.noted,
            "figure": step.figure,
        }
    read_as = (step.read_as if step is not None else "") or function.read_as
    return TestPoint(
        key=point_key(function.key, range_.key, nominal, step),
        function=function.title,
        range_name=range_.title,
        polarity={"+": 1, "-": -1, "both": 0}[function.polarity],
        full_scale=range_.full_scale,
        nominal=nominal,
        indicator=indicator_of(pack, function, range_),
        limit=range_.limit.core(),
        limit_by=range_.limit.by,
        kind=read_as,
        stimulus=stimulus,
        second=_second_dial(pack, range_),
        settings=tuple(sorted(range_.settings.items())),
        detector=function.detector.core() if function.detector is not None else None,
        **more,  # type: ignore[arg-type]
    )


def _modified(pack: Pack, range_: Range, nominal: float, step: PointsStep | None) -> tuple[Range, float]:
    """Return a range and a value of it as a modifier makes them: a button that halves it, a probe of a thousand."""
    found = next((m for m in pack.modifiers if step is not None and m.key == step.modifier), None)
    if found is None:
        return range_, nominal
    title = f"{range_.title} {found.title}"
    return range_.model_copy(
        update={"full_scale": range_.full_scale * found.factor, "title": title}
    ), nominal * found.factor


def _waveform(function: Function, step: PointsStep | None) -> Waveform:
    if step is not None and step.waveform:
        return step.waveform
    if function.current == "a.c.":
        return "sine"
    return "d.c." if function.current == "d.c." else ""


def indicator_of(pack: Pack, function: Function, range_: Range) -> Indicator:
    """Return what a range is read on, or raise RangeError where its pack does not say."""
    for name, build in INDICATORS.items():
        if getattr(range_, name):
            return build(pack, function, range_)
    raise RangeError(
        worded("packs.the_range_says_nothing_of_what", name=pack.name, title=range_.title), place=pack.id
    )


def _knob(pack: Pack, function: Function, range_: Range) -> Indicator:  # noqa: ARG001 - a column of the table
    terms = range_.knob or KnobTerms()
    return Knob(function.unit, terms.division, tuple(sorted(terms.steps)))


def _screen(pack: Pack, function: Function, range_: Range) -> Indicator:  # noqa: ARG001 - a column of the table
    terms = range_.screen or ScreenTerms(per_division=range_.full_scale)
    return Graticule(
        unit=function.unit, per_division=terms.per_division, divisions=terms.divisions, edge_divisions=terms.edge, axis=terms.axis,
    )  # fmt: skip


def _digits(pack: Pack, function: Function, range_: Range) -> Indicator:  # noqa: ARG001 - a column of the table
    return Digits(function.unit, range_.digits.resolution if range_.digits else 0.0)


def _look(pack: Pack, function: Function, range_: Range) -> Indicator:  # noqa: ARG001 - a column of the table
    terms = range_.look
    return Outcomes(terms.passes, terms.fails, terms.criterion) if terms else Outcomes(())


def dial_range(pack: Pack, function: Function, range_: Range) -> DialRange:
    """Return how a range is read on the pack's dial, or raise RangeError where it has none."""
    return _on_dial(pack, range_.scale, function.unit, range_.full_scale)


# What a range may be read on, by the key that says so in the pack.
INDICATORS: Mapping[str, Callable[[Pack, Function, Range], Indicator]] = {
    "scale": dial_range,
    "knob": _knob,
    "screen": _screen,
    "digits": _digits,
    "look": _look,
}


def _second_dial(pack: Pack, range_: Range) -> Indicator | None:
    second = range_.second
    return None if second is None else _on_dial(pack, second.scale, second.unit, second.full_scale)


def _on_dial(pack: Pack, key: str, unit: str, full_scale: float) -> DialRange:
    dial = pack.dial
    if dial is None:
        raise RangeError(worded("packs.has_no_dial", name=pack.name), place=pack.id)
    printed = next(s for s in dial.scales if s.key == key)
    scale = printed.scale()
    # Of a scale to infinity the range is named by the value at half its arc; of one in decibels the numbers are the value.
    whole = scale.centre if scale.named_by_middle else max(scale.end, scale.ticks[0])
    if unit == "dB":
        whole = full_scale
    return DialRange(
        scale=scale,
        multiplier=full_scale / whole,
        unit=unit,
        mirror=dial.mirror if printed.mirror is None else printed.mirror,
        parallax_divisions=dial.parallax_divisions,
        low_stop=dial.low_stop,
        high_stop=dial.high_stop,
        span_degrees=dial.span_degrees,
    )


def face_of(pack: Pack, point: TestPoint) -> Dial | None:
    """Return the face to draw for a point: all arcs of the pack's dial, or the one arc of a range made as one goes.

    A scale round a knob is not on the face of the meter.
    """
    function, range_ = (*point.key.split("/"), "")[:2]
    scale = next((r.scale for f in pack.functions if f.key == function for r in f.ranges if r.key == range_), "")
    return _face(pack, scale if scale.startswith(OWN_SCALE) else "")


def _turned(pack: Pack) -> set[str]:
    """Scales that are round a knob, not on the face of the meter: no needle is read on them."""
    on_face = {r.scale for f in pack.functions for r in f.ranges if kind_named(f.read_as).drawn != "knob"}
    seconds = {r.second.scale for f in pack.functions for r in f.ranges if r.second is not None}
    knobs = {r.scale for f in pack.functions for r in f.ranges if kind_named(f.read_as).drawn == "knob"}
    return (knobs | seconds) - on_face


@lru_cache(maxsize=64)
def _face(pack: Pack, own: str) -> Dial | None:
    dial = pack.dial
    if dial is None:
        return None
    knobs = _turned(pack)
    kept = tuple(
        s for s in dial.scales if (s.key == own if own else not s.key.startswith(OWN_SCALE) and s.key not in knobs)
    )
    mirror = kept[0].mirror if own and kept and kept[0].mirror is not None else dial.mirror
    return dial.model_copy(update={"scales": kept, "mirror": mirror})
