"""The history sheet of an instrument: every point's drift over all its calibrations, its fan, and when it is due."""

from __future__ import annotations

import datetime as dt

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from candor.core.drift.forecast import PointForecast
from candor.core.drift.history import DAYS, PointHistory
from candor.core.quantities import signed
from candor.core.quantities.show import decimals
from candor.core.worded import worded
from candor.notebook.soak.drifting import DriftView
from candor.notebook.work.job import Job
from candor.paper.drawn_ribbon import INK, INSIDE, PETROL, RULE, SOFT
from candor.paper.sheet import Rows, laid, pages, register_fonts, text
from candor.words.drift_lines import drift_words

TOP, AHEAD, STEPS = 1.6, 3.0, 40
NEARLY_ALL = 1.96  # standard deviations of a normal either side: 95 %
WIDTHS = (58 * mm, 20 * mm, 26 * mm, 32 * mm, 38 * mm)
FIGURES = 6  # points drawn, the one that decides first


class FanFigure(Flowable):
    """A point's results with their U, the fan of 95 %, and its limits; in limits over years."""

    def __init__(self, point: PointHistory, found: PointForecast | None, width: float, height: float = 110) -> None:
        super().__init__()
        self.point, self.found, self.width, self.height = point, found, width, height

    def draw(self) -> None:
        """Draw it."""
        c, results = self.canv, [r for s in self.point.segments for r in s.results]
        first = results[0].on.toordinal()
        last = results[-1].on.toordinal() + AHEAD * DAYS
        left, foot = 30.0, 14.0

        def x(day: float) -> float:
            return left + (self.width - left) * (day - first) / (last - first)

        def y(error: float) -> float:
            share = min(max(error / self.point.limit, -TOP), TOP)
            return foot + (self.height - foot) * (share / TOP + 1) / 2

        c.setFillColor(INSIDE)
        c.rect(
            left,
            y(-self.point.limit),
            self.width - left,
            y(self.point.limit) - y(-self.point.limit),
            stroke=0,
            fill=1,
        )
        if self.found is not None:
            days = [results[-1].on + dt.timedelta(days=AHEAD * DAYS * i / STEPS) for i in range(STEPS + 1)]
            at = [self.found.at(day) for day in days]
            path = c.beginPath()
            edge = [(x(d.toordinal()), y(m + NEARLY_ALL * u)) for d, (m, u) in zip(days, at, strict=True)]
            edge += [
                (x(d.toordinal()), y(m - NEARLY_ALL * u)) for d, (m, u) in reversed(list(zip(days, at, strict=True)))
            ]
            path.moveTo(*edge[0])
            for corner in edge[1:]:
                path.lineTo(*corner)
            path.close()
            c.setFillColor(HexColor("#B9D3D1"))
            c.drawPath(path, stroke=0, fill=1)
        c.setStrokeColor(INK)
        c.setLineWidth(0.6)
        for result in results:
            across = x(result.on.toordinal())
            c.line(across, y(result.error - result.expanded), across, y(result.error + result.expanded))
            c.setFillColor(PETROL if result.when == "left" else HexColor("#FFFFFF"))
            c.circle(across, y(result.error), 1.8, fill=1)
        c.setFont("B612", 7)
        c.setFillColor(SOFT)
        for share, words in ((1, "+limit"), (0, "0"), (-1, "−limit")):
            c.drawRightString(left - 3, y(share * self.point.limit) - 2.5, words)
        for year in range(results[0].on.year + 1, results[-1].on.year + int(AHEAD) + 1):
            c.drawCentredString(x(dt.date(year, 1, 1).toordinal()), 2, str(year))


def history_pdf(job: Job, view: DriftView, shop: str, on: dt.date) -> bytes:
    """Return the history sheet as PDF: the day it is due with its reason, a line for each point, the figures of the nearest."""
    register_fonts()
    story: list[Flowable] = [
        text(worded("paper.history_no", name=job.name, serial=job.serial or "none"), 15, bold=True),
        text(f"{shop or 'Candor'}, {on.isoformat()}", 9, SOFT),
        Spacer(1, 4 * mm),
        text(f"Due {view.day:%d %b %Y}", 11, bold=True),
        text(drift_words(view)),
        *(text(worded("paper.faults_of_the_history", fault=fault), 8.5) for fault in view.faults),
        Spacer(1, 4 * mm),
    ]
    head: list[Flowable] = [
        text(w, 8, SOFT)
        for w in ("point", "results", "limit ±", "drift a year", worded("paper.in_tolerance_when_due"))
    ]
    rows = [_row(point, view) for point in view.points]
    story.append(laid(Rows([head, *rows], WIDTHS, repeatRows=1), 2, "TOP", ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE)))
    drawn = sorted((p for p in view.points if p.segments), key=lambda p: p.name != view.due.worst)[:FIGURES]
    for point in drawn:
        figure = FanFigure(point, view.forecasts.get(point.name), 174 * mm)
        story.append(KeepTogether([Spacer(1, 4 * mm), text(point.name, 9, bold=True), figure]))
    legend = worded("paper.hollow_as_found_filled_as_left")
    story += [Spacer(1, 3 * mm), text(legend, 7.5, SOFT)]
    return pages(story, f"History {job.name} {job.serial}")


def _row(point: PointHistory, view: DriftView) -> list[Flowable]:
    found, count = view.forecasts.get(point.name), sum(len(s.results) for s in point.segments)
    cells = [point.name, str(count), f"{point.limit:.4g} {point.unit}", "cannot tell", ""]
    if found is not None:
        places = decimals(2 * found.u_slope)
        u, chance = f"± {2 * found.u_slope:.{max(places, 0)}f}", found.in_tolerance(view.day)
        cells[3] = f"{signed(found.slope, places)} {u}" if count > 1 else worded("paper.by_its_kind_alone", u=u)
        cells[4] = "> 99 %" if chance > 0.995 else f"{100 * chance:.0f} %"
    return [text(cell, 8) for cell in cells]
