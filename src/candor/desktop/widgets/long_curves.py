"""Long curves that scroll and zoom, drawn with the plotting library: loaded when first needed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from candor.core.power.overview import Overview
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme

TINTS = ("petrol", "brass", "ink", "brick", "soft", "faint", "petrol", "brass")
FOLLOWED_S = 120.0  # of the newest that is shown until somebody scrolls or zooms


class LongCurves(QWidget):
    """Several records over the same seconds; each name has its colour and its place in the legend."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._plot: Any = None
        self._curves: dict[str, Any] = {}
        self._records: dict[str, NDArray[np.float64]] = {}
        self._overviews: dict[str, Overview] = {}
        self._follows = True
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._redraw = QTimer(self)
        self._redraw.setSingleShot(True)
        self._redraw.setInterval(0)
        self._redraw.timeout.connect(self._draw)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(theme.px(190))
        self.setAccessibleName("Curves of the meters")

    def show_records(self, records: Mapping[str, NDArray[np.float64]]) -> None:
        """Show records by name, each of shape (readings, 2), s and SI; a record may have grown."""
        if self._plot is None:
            self._make()
        self._records = dict(records)
        for name, record in records.items():
            if name not in self._curves:
                pen = self._pg.mkPen(
                    self._theme.colour(TINTS[len(self._curves) % len(TINTS)]), width=1
                )  # wider pens cost a frame
                self._curves[name] = self._plot.plot(pen=pen, name=name)
                self._overviews[name] = Overview()
            self._overviews[name].grow(record)
        for name in [n for n in self._curves if n not in records]:
            self._plot.removeItem(self._curves.pop(name))
        end = max((float(r[-1, 0]) for r in records.values() if len(r)), default=0.0)
        if self._follows:
            self._plot.setXRange(max(end - FOLLOWED_S, 0.0), max(end, 10.0), padding=0.0)
        self._redraw.start()

    def _make(self) -> None:
        import pyqtgraph  # only where long curves are looked at

        self._pg = pyqtgraph
        self._plot = pyqtgraph.PlotWidget(background=self._theme.colour("panel"))
        for side in ("left", "bottom"):
            axis = self._plot.getAxis(side)
            axis.tickStrings = _local_ticks(axis.tickStrings)
            axis.setPen(self._theme.colour("rule"))
            axis.setTextPen(self._theme.colour("soft"))
        self._plot.setLabel("bottom", "s")
        self._plot.addLegend(labelTextColor=self._theme.colour("ink"), offset=(8, 8))
        self._plot.setMenuEnabled(False)
        self._plot.hideButtons()
        self._plot.sigXRangeChanged.connect(lambda *_: self._redraw.start())
        self._plot.getViewBox().sigRangeChangedManually.connect(self._leave)
        self._column.addWidget(self._plot)

    def _leave(self, *_: object) -> None:
        self._follows = False

    def follow(self) -> None:
        """Show the newest again, and go along with it."""
        self._follows = True
        self.show_records(self._records)

    def _draw(self) -> None:
        begin, end = self._plot.getViewBox().viewRange()[0]
        for name, record in self._records.items():
            times, values = self._overviews[name].between(record, begin, end, max(self.width(), 100))
            self._curves[name].setData(times, values)


def _local_ticks(made: Callable[..., list[str]]) -> Callable[..., list[str]]:
    return lambda *of: [local(text) for text in made(*of)]
