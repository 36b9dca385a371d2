"""The tubes of the shop: what each is, its tests, figures measured here, and the socket it sits in (entries of the shop)."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.tubes.order import BY_KEY, Test
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import said
from candor.notebook.entries.fields_entries import Above, Finite, NotBelow, Text

FigureUnit = Literal["S", "1"]


class TubeRecorded(Body):
    """A tube on hand; recording it again under its key supersedes it. `reject` is a share of the nominal figure."""

    kind: Literal["tube"] = "tube"
    key: Text
    type: Text
    generic: str = ""
    sections: Annotated[tuple[str, ...], Field(min_length=1)] = ("",)
    nominal: NotBelow = 0.0
    unit: FigureUnit = "S"
    reject: NotBelow = 0.0
    plate_volts: NotBelow = 0.0
    nominal_from: str = ""
    looks: str = ""


class TubeTested(Body):
    """A test of a tube: good or bad, or a figure in S or on a scale, with how it was taken.

    `scale_u` is what the tester's own calibration was good for when it was taken, in the unit of the figure; `line_age_s` how long
    before it the line was set, None where nobody stamped it. `line_before_volts`, `line_held_volts`: before the button was pressed
    and while it was held; 0 where nobody read it; `line_u_fall`, V, of the fall between them by a log, 0 by a meter read twice.
    """

    kind: Literal["tube_test"] = "tube_test"
    tube: Text
    test: Test
    section: str = ""
    outcome: Literal["", "good", "bad"] = ""
    figure: Finite | None = None
    unit: FigureUnit = "S"
    tester: str = ""
    tester_state: str = ""
    settings: str = ""
    scale_u: NotBelow | None = None
    full_scale: NotBelow = 0.0
    division: NotBelow = 0.0
    line_age_s: NotBelow | None = None
    line_before_volts: NotBelow = 0.0
    line_held_volts: NotBelow = 0.0
    line_u_fall: NotBelow = 0.0
    hold_s: NotBelow = 0.0
    count: Annotated[int, Field(ge=1)] = 1
    scatter: NotBelow = 0.0
    words: str = ""
    on: Annotated[dt.date | None, Field(description="its day, where it was taken in from a table later")] = None


class NudgeSaid(Body):
    """What one dash of a control is worth for a type of tube on a tester, in the unit of the figure; of the line a volt too."""

    kind: Literal["nudge"] = "nudge"
    type: Text
    tester: Text
    control: Text
    per_dash: Finite
    unit: FigureUnit = "S"
    per_volt: Finite | None = None


class LineSag(Body):
    """The line of a tube tester empty and with one heavy tube of so many W in it."""

    kind: Literal["line_sag"] = "line_sag"
    tester: Text
    empty_volts: Above
    loaded_volts: Above
    watts: Above


class TubeKnown(Body):
    """A tube's figure by better means than a tube tester: measured here on bench supplies, or by its certificate."""

    kind: Literal["tube_known"] = "tube_known"
    tube: Text
    section: str = ""
    figure: Above
    expanded: Above
    factor: Above = 2.0
    unit: FigureUnit = "S"
    drift_percent_per_year: NotBelow = 2.0
    plate_volts: NotBelow = 0.0
    grid_volts: Finite = 0.0
    how: str = ""


class TubePlaced(Body):
    """A tube was put into a socket of a job; without a job it was taken out."""

    kind: Literal["tube_placed"] = "tube_placed"
    tube: Text
    job: str = ""
    socket: str = ""


class TubeGone(Body):
    """A tube is no longer on hand: broken, sold, thrown away."""

    kind: Literal["tube_gone"] = "tube_gone"
    tube: Text
    reason: Text


def say_figure(value: float, unit: str) -> str:
    """Return a tube's figure in words: ``2.45 mS``, or ``78`` of a scale."""
    return trimmed(value, 4) if unit == "1" else engineering(value, unit, 4)


def _tested(b: TubeTested) -> str:
    section = f" section {b.section}" if b.section else ""
    what = f"{b.outcome}" if b.figure is None else say_figure(b.figure, b.unit)
    on = f" on {b.tester}" if b.tester else ""
    line = ""
    if b.figure is not None:
        line = (
            worded("entries.line_not_stamped")
            if b.line_age_s is None
            else worded("entries.line_set_min_before", line_age_s=trimmed(b.line_age_s / 60, 2))
        )
    if b.line_held_volts:
        line += worded("entries.line_v_held_v", before=b.line_before_volts, held=b.line_held_volts)
    words = f": {b.words}" if b.words else ""
    return f"{b.tube}{section}, {BY_KEY[b.test].title.lower()} {what}{on}{line}{words}"


def _sag(b: LineSag) -> str:
    return worded(
        "entries.line_of_v_empty_v_with",
        tester=b.tester,
        empty_volts=trimmed(b.empty_volts),
        loaded_volts=trimmed(b.loaded_volts),
        watts=trimmed(b.watts),
    )


def _known(b: TubeKnown) -> str:
    section = f" section {b.section}" if b.section else ""
    return worded(
        "entries.known_u",
        tube=b.tube,
        section=section,
        figure=say_figure(b.figure, b.unit),
        expanded=say_figure(b.expanded, b.unit),
    )


WORDS = dict(
    (
        said(TubeRecorded, lambda b, _: f"tube {b.key}: {b.type}" + (f", {b.generic}" if b.generic else "")),
        said(TubeTested, lambda b, _: _tested(b)),
        said(
            NudgeSaid,
            lambda b, _: worded(
                "entries.nudge_on_a_dash_of_is",
                type=b.type,
                tester=b.tester,
                control=b.control,
                per_dash=say_figure(b.per_dash, b.unit),
            ),
        ),
        said(LineSag, lambda b, _: _sag(b)),
        said(TubeKnown, lambda b, _: _known(b)),
        said(
            TubePlaced,
            lambda b, _: (
                f"{b.tube} into {b.socket}"
                if b.job
                else worded("entries.taken_out_of", tube=b.tube, socket=b.socket or "its socket")
            ),
        ),
        said(TubeGone, lambda b, _: f"{b.tube} gone: {b.reason}"),
    )
)
