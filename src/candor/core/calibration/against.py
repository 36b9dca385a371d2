"""A reading against a reference: what a right instrument would show, and what the reference brings to the budget."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace

from candor.core.calibration.belonging import shown_of
from candor.core.calibration.point import TestPoint
from candor.core.calibration.setup import SetUpTerm, set_up
from candor.core.errors import RangeError
from candor.core.quantities import engineering
from candor.core.quantities.units import QUANTITY_OF_UNIT
from candor.core.reading.judged import Judged
from candor.core.reading.kinds import kind_named, kind_of
from candor.core.reading.means import means_of
from candor.core.reading.reading import Reading
from candor.core.reading.repeated import reference_repeats
from candor.core.reference.chains import Chain, serve
from candor.core.reference.choice import wrong_current
from candor.core.reference.loading import unloaded
from candor.core.reference.reference import Reference
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

FEED_KNOWN = 0.1  # how well a feed's resistance is known from its drawing


def against(
    reference: Reference | Chain,
    point: TestPoint,
    readings: tuple[Reading, ...],
    on: dt.date,
    celsius: float | None,
    setup: tuple[SetUpTerm, ...] = (),
) -> tuple[tuple[Reading, ...], list[Contribution]]:
    """Return readings with what the reference showed turned into what a right instrument would show, and what that brings.

    What the meter loads its source with is taken out where the point says its feed; one of a scale is worth what the point says;
    of a shape other than a sine the instrument shows what its detector makes of it (JCGM 100, 4.1.2, for the model as a whole).

    Parameters
    ----------
    reference : Reference or Chain
    point : TestPoint
    readings : tuple of Reading
        SI, as the reference showed.
    on : date
    celsius : float or None
    setup : tuple of SetUpTerm
        What stands between the reference and the instrument.

    Raises
    ------
    RangeError
        Where the reference is of another quantity, or does not reach the value.
    """
    _same_quantity(point, reference)
    wrong_current(point, reference)
    _at_some_frequency(point, reference)
    judged, nominal = Judged(point), kind_of(point).compares == "nominal"
    means = means_of(readings)
    shown = means.indicated if nominal else means.reference
    stimulus = point.stimulus
    moved = all(kind_named(r.kind or point.kind).moves_reference for r in readings)
    value, brought = serve(
        reference, shown, on, celsius=celsius, hertz=stimulus.hertz, waveform=stimulus.waveform, distortion=stimulus.distortion,
        is_moved=moved,
    )  # fmt: skip
    # An instrument marked for a sine and given another shape is right when it shows what its detector makes of it.
    expected = shown_of(point)
    unloads, load = _load_taken_out(point, reference, value(shown))
    expected *= unloads
    slope = judged.slope(value(shown) * expected) * expected
    added, of_setup = set_up(setup, point, value(shown))
    if point.kind == "source":  # the standard measures what the instrument gives, leads and all: they come off
        added = -added
    brought += load + of_setup + reference_repeats([(r.reference_u, r.reference_count) for r in readings])
    found = [replace(c, sensitivity=c.sensitivity * slope) for c in brought]
    if nominal:  # the standard measured the value itself
        return tuple(replace(r, indicated=value(r.indicated) + added) for r in readings), found
    return tuple(replace(r, reference=(value(r.reference) + added) * expected) for r in readings), found


def _at_some_frequency(point: TestPoint, reference: Reference | Chain) -> None:
    """A standard of bands says nothing of a.c. at a frequency that nobody said."""
    banded = isinstance(reference, Reference) and any(r.high_hertz for r in reference.ranges)
    if banded and point.current == "a.c." and not point.stimulus.hertz:
        raise RangeError(
            worded("calibration.at_which_frequency_is_read_is", function=point.function, name=reference.name),
            place=point.key,
            expected="a frequency",
        )


def _load_taken_out(point: TestPoint, reference: Reference | Chain, volts: float) -> tuple[float, list[Contribution]]:
    """Return by what a meter's reading of a source of known resistance is less than what is there without it, and its part.

    V_open = V_read (R_m + R_s)/R_m; the resistance is the pack's, held to be within a tenth (common practice, no source).
    """
    feed = point.setting("feed")
    if not feed or not isinstance(reference, Reference) or not reference.input_ohms:
        return 1.0, []
    times = unloaded(1.0, reference.input_ohms, feed)
    words = worded(
        "calibration.on_a_feed_of_within_a",
        input_ohms=engineering(reference.input_ohms, "ohm"),
        feed=engineering(feed, "ohm"),
    )
    return times, [
        rectangular(
            worded("calibration.load_of_the_meter"), abs(volts) * (times - 1) * FEED_KNOWN, words, "reference"
        )
    ]


def _same_quantity(point: TestPoint, reference: Reference | Chain) -> None:
    if reference.unit != point.asked_unit:
        raise RangeError(
            worded(
                "calibration.is_a_standard_for_needs_one",
                name=reference.name,
                first=QUANTITY_OF_UNIT[reference.unit][0],
                point_name=point.name,
                first_2=QUANTITY_OF_UNIT[point.asked_unit][0],
            ),
            place=point.key,
            expected=point.asked_unit,
        )
