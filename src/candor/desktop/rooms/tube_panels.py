"""What is done with a tube: a test in its order, a figure by better means, a match over all on hand, a socket."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QPlainTextEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.quantities import pair, parse_quantity
from candor.core.severity import Severity
from candor.core.tubes.known import transconductance
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.tubes.tubes import TubeOnHand, swap, take_out
from candor.notebook.tubes.tubes_text import (
    read_points,
)
from candor.sitting.command import Command
from candor.sitting.commands import shop_commands
from candor.words.tube_lines import correction_words, matched

OTHER = "another tester, named in the line"


class TubePanel(QWidget):
    """One of the panels under the list.

    Signals
    -------
    written()
        Something was written.
    chosen(str)
        A tube was chosen.
    """

    written = Signal()
    chosen = Signal(str)

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._key = ""
        self._gap = theme.px(8)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(theme.px(5))

    @property
    def tube(self) -> TubeOnHand | None:
        """The tube in hand."""
        return self._shop.tubes().tubes.get(self._key)

    def show_tube(self, key: str) -> None:
        """Have a tube in hand."""
        self._key = key

    def _row(self, *widgets: QWidget) -> None:
        self.column.addLayout(flow(self._gap, *widgets))

    def _field(self, name: str, example: str) -> Field:
        made = Field()
        made.setAccessibleName(name)
        made.setPlaceholderText(in_field(example))
        return made


class KnownPanel(TubePanel):
    """A figure by better means than a tube tester, measured on bench supplies; and what known tubes make of a tester."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock
    ) -> None:
        super().__init__(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self._clock = clock
        self.points = QPlainTextEdit()
        self.points.setAccessibleName("Grid volts and plate currents")
        shape = "grid volts and plate current, a pair a line, plate volts held:\n-3.25  6.10 mA\n-2.75  7.21 mA"
        self.points.setPlaceholderText(in_field(shape))
        self.points.setFixedHeight(theme.px(72))
        self.volts = self._field("u of a grid voltage", "u of a voltage: 2 mV")
        self.amperes = self._field("u of a plate current", "u of a current: 10 uA")
        self.plate, self.section = self._field("Plate volts", "plate volts: 150 V"), self._field("Section", "section")
        self.answer = label("", "text")
        self.calculate = button("Calculate", "The slope about the point, with its U", name="main")
        self.keep = button("Keep as known", "The tube becomes a known tube, for the correction of testers")
        self.correction = label("", "soft")
        self.column.addWidget(self.points)
        for field in (self.volts, self.amperes, self.plate, self.section):
            field.setMaximumWidth(theme.px(220))
        self._row(self.volts, self.amperes, self.plate, self.section)
        self._row(self.calculate, self.keep)
        self.column.addWidget(self.answer)
        self.column.addWidget(self.correction)
        self._found: Command | None = None
        self.calculate.clicked.connect(self._calculate)
        self.keep.clicked.connect(self._keep)
        self.points.textChanged.connect(self._forget)

    def show_tube(self, key: str) -> None:
        """Show what known tubes make of the testers."""
        if key != self._key:
            self._forget()
        super().show_tube(key)
        shop, now = self._shop.tubes(), self._clock.now().date()
        on = sorted(
            {(e.body.tester, e.body.unit) for t in shop.here if t.known for e in t.tests if e.body.figure is not None}
        )
        said = [correction_words(shop, tester, unit, now) for tester, unit in on]
        self.correction.setText(
            "\n".join(said) or "No known tube was tested on a tester yet: three over the range correct it."
        )
        self.keep.setEnabled(self._found is not None)

    def _forget(self) -> None:
        self._found = None
        self.answer.setText("")
        self.keep.setEnabled(False)

    def _calculate(self) -> None:
        tube = self.tube
        if tube is None:
            return
        try:
            points = read_points(self.points.toPlainText())
            u_volts = parse_quantity(self.volts.text(), "V").value if self.volts.text().strip() else 0.0
            u_amperes = parse_quantity(self.amperes.text(), "A").value if self.amperes.text().strip() else 0.0
            plate = parse_quantity(self.plate.text(), "V").value if self.plate.text().strip() else 0.0
            section = self.section.text().strip()
            if section not in tube.body.sections:
                listed = ", ".join(tube.body.sections)
                raise CandorError(f"{tube.body.key} has no section “{section}”.", value=section, expected=listed)
            found = transconductance(points, u_volts, u_amperes)
        except CandorError as error:
            self._voice.refuse(error)
            return
        cover = found.coverage
        self._found = shop_commands.know_tube(
            tube=tube.body.key, section=section, figure=found.siemens, expanded=cover.expanded, factor=cover.factor,
            plate_volts=plate, grid_volts=found.grid_volts, how="ΔI/ΔV on bench supplies",
        )  # fmt: skip
        figure = pair(found.siemens, found.coverage.expanded, "S").removeprefix("+")
        self.answer.setText(
            f"{figure}, k {found.coverage.factor:.2f}. The largest part: {found.budget.largest_first()[0].name}."
        )
        self.keep.setEnabled(True)

    def _keep(self) -> None:
        if self._found is not None and self._writer.do(self._found):
            self.points.clear()
            self.written.emit()


class MatchPanel(TubePanel):
    """Pairs, quads, rectifier plates: over all of a type on hand, by the uncertainty of the difference."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.many = QComboBox()
        self.many.setAccessibleName("How many go together")
        for words, count in (("pairs", 2), ("fours", 4)):
            self.many.addItem(words, count)
        self.words = label("", "soft")
        self.sets = RowList(theme, "Sets")
        self.rest = label("", "soft")
        self._row(self.many)
        for widget in (self.words, self.sets, self.rest):
            self.column.addWidget(widget)
        self.many.activated.connect(lambda _: self.show_tube(self._key))
        self.sets.picked.connect(lambda key: self.chosen.emit(key))

    def show_tube(self, key: str) -> None:
        """Show who matches whom among the type of a tube."""
        super().show_tube(key)
        tube = self.tube
        rows: list[Row] = []
        try:
            sitting, sets, rest = (
                matched(self._shop.tubes(), tube.body.type, self.many.currentData()) if tube else ("", (), ())
            )
            rows = [Row(s.tubes[0], s.text, s.under, "full" if s.alike else "half") for s in sets]
        except CandorError as error:
            sitting, rest = str(error), ()
        self.words.setText(sitting)
        self.rest.setText("\n".join(rest))
        self.sets.show_rows(tuple(rows), "")
        self.sets.fit(5)
        self.sets.setVisible(bool(rows))


class PlacePanel(TubePanel):
    """Which tube sits in which socket of the job in hand: a swap is a change."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.words = label("", "soft")
        self.socket = self._field("Socket", "socket of the job in hand: V3")
        self.socket.setMaximumWidth(theme.px(240))
        self.put = button("Put it in", "Into this socket of the job in hand; what was there comes out", name="main")
        self.out = button("Take it out", "Out of its socket")
        self.reason = self._field("Why it is gone", "gone: broken, sold …")
        self.reason.setMaximumWidth(theme.px(240))
        self.gone = button("It is gone", "No longer on hand; its tests stay readable")
        self.column.addWidget(self.words)
        self._row(self.socket, self.put, self.out)
        self._row(self.reason, self.gone)
        self.put.clicked.connect(self._put)
        self.socket.returnPressed.connect(self._put)
        self.out.clicked.connect(self._out)
        self.gone.clicked.connect(self._gone)

    def show_tube(self, key: str) -> None:
        """Show where a tube sits, and what sits in the job in hand."""
        super().show_tube(key)
        job, tube, shop = self._in_hand.job, self.tube, self._shop.tubes()
        names = self._shop.job_names()
        place = tube.place if tube is not None else None
        where = (
            f"It sits in {place.socket} of {names.get(place.job, 'a job')}. " if place else "It lies on the shelf. "
        )
        there = [
            f"{t.place.socket} {t.body.key}"
            for t in shop.here
            if t.place and job is not None and t.place.job == job.id
        ]
        in_job = (
            f"In {job.name}: {', '.join(sorted(there)) or 'no tube is recorded'}."
            if job is not None
            else "No job is in hand."
        )
        self.words.setText(where + in_job)
        self.put.setEnabled(job is not None and place is None)
        self.out.setEnabled(place is not None)

    def _put(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        try:
            drafts = swap(self._shop.tubes(), job.id, self.socket.text().strip(), self._key)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(shop_commands.move_tube(f"{self._key} put in", drafts)):
            self._voice.say(
                f"{self._key} is in {self.socket.text().strip()}: written as a change of {job.name}.", Severity.DONE
            )
            self.socket.clear()
            self.written.emit()

    def _out(self) -> None:
        try:
            drafts = take_out(self._shop.tubes(), self._key)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(shop_commands.move_tube(f"{self._key} taken out", drafts)):
            self.written.emit()

    def _gone(self) -> None:
        reason = self.reason.text().strip()
        if not reason:
            self._voice.refuse("Write first why it is gone. Nothing was written.")
            return
        if self._writer.do(shop_commands.tube_gone(self._key, reason)):
            self.reason.clear()
            self.written.emit()
