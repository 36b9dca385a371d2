"""The fields of a range made as one goes: how it is read, what stands on the face, and the limit with whose it is."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QGridLayout, QLabel, QLayoutItem, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.meaning import RangeJot
from candor.core.jot.range_fields import LIMIT, WAYS, RangeWay, fields_of, range_line
from candor.core.jot.range_line import understand_range
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.jotting import go_to_range
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.calibrate import range_widgets as of
from candor.desktop.stops.calibrate.facephoto import FacePhoto
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.drawn import Drawn
from candor.desktop.widgets.field import Field, ReplacedField
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.surface import Surface
from candor.notebook.work.job import Job
from candor.notebook.work.own_ranges import previewed
from candor.sitting.command import Command
from candor.sitting.commands.calibrate_commands import change_range, jot_of, range_of, withdraw_range

COLUMNS = 4
PHOTO_SHARE = 0.62  # of the window: what a photo of the face takes


class RangeForm(QWidget):
    """Fields that say one line: `range DC volts 30 V 30 div 3%`.

    Signals
    -------
    left()
        It was put away without writing.
    grown()
        It needs another height.
    """

    left = Signal()
    grown = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        # The job whose ranges are written; that which was asked for its first range, and of which function.
        self._of = self._begun = self._proposed = ""
        self._theme = theme
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self.function = of.choice("Function", "As the function switch calls it; the unit alone serves too")
        self._name = ReplacedField()
        self.function.setEditable(True)
        self.function.setLineEdit(self._name)
        self.way = of.choice("How it is read", "By what, and on what scale")
        for way in WAYS:
            self.way.addItem(way.title, way.key)
        self.limit = of.line_of(LIMIT)
        self.whose = of.whose_limit()
        self.mirror = QCheckBox("mirror")
        self.usual = QCheckBox("usual points")
        self.usual.setToolTip("Five points on the first range, three on the others; more can be read as you go")
        # One widget for every field that some way asks for; those of the way in hand are laid out.
        asked = {field.key: field for way in reversed(WAYS) for field in way.fields}
        self.fields = {key: of.picked(f) if f.choices else of.line_of(f) for key, f in asked.items()}
        self.photo = button(
            "From a photo …", "Click the marks in a photo of the face; where each stands is calculated"
        )
        self.face = FacePhoto(theme, voice=voice)
        self.understood, self.beside = (
            label("", "soft"),
            label("", "soft"),
        )  # the line; what is known of the range in hand
        self.preview = Surface(theme)  # how it will be drawn; the page has a place for it
        self.preview.setEnabled(False)
        self.preview.setAccessibleName("The scale as it is described")
        self.place = QWidget()  # stays, so that the page does not jump where a line cannot be read
        held = QVBoxLayout(self.place)
        held.setContentsMargins(0, 0, 0, 0)
        held.addWidget(self.preview)
        self.write = button("Write the range", "Keep it; then points on it as you go", "Enter", "main")
        self.leave = button("Leave it", "Put the fields away; nothing is written", "Esc")
        self.withdraw = button("Withdraw it", "Take the range back; what was read on it stays among the entries")
        self.change = button("Change this one", "Name, end and all else become what is written; its readings stay")
        self._lay_out(theme)
        for widget in (self.limit, *self.fields.values()):
            if isinstance(widget, Field):
                widget.textEdited.connect(self._follow)
                widget.returnPressed.connect(self.take)
            else:
                widget.currentIndexChanged.connect(self._follow)
        self.function.editTextChanged.connect(self._follow)
        self.function.activated.connect(lambda _: self._take_usual(self.function.currentText()))
        self.way.currentIndexChanged.connect(self._show_way)
        self.whose.currentIndexChanged.connect(self._follow)
        for box in (self.mirror, self.usual):
            box.toggled.connect(self._follow)
        self.write.clicked.connect(self.take)
        self.leave.clicked.connect(self._leave)
        self.withdraw.clicked.connect(self._withdraw)
        self.change.clicked.connect(self._change)
        self.photo.clicked.connect(lambda: self.look_at_photo(True))
        self.face.left.connect(lambda: self.look_at_photo(False))
        self.face.used.connect(self._take_marks)
        self._show_way()

    def _lay_out(self, theme: Theme) -> None:
        self._grid, self._labels = QGridLayout(), dict[str, QLabel]()
        self._of_limit: list[QLabel] = []
        self._grid.setHorizontalSpacing(theme.px(10))
        self._grid.setVerticalSpacing(theme.px(3))
        for row, column, span, words, widget in (
            (0, 0, 1, "function", self.function), (0, 1, 3, "how it is read", self.way),
            (4, 0, 1, "limit", self.limit), (4, 1, 1, "whose limit", self.whose),
        ):  # fmt: skip
            over = label(words, "soft")
            self._of_limit += [over] if row else []
            self._grid.addWidget(over, row, column, 1, span)
            self._grid.addWidget(widget, row + 1, column, 1, span)
        for column, box in ((2, self.mirror), (3, self.usual)):
            self._grid.addWidget(box, 6, column)
        for column in range(COLUMNS):
            self._grid.setColumnStretch(column, 1)
        for key, widget in self.fields.items():
            self._labels[key] = label("", "soft")
            self._labels[key].setParent(self)
            widget.setParent(self)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self._fields = QWidget()
        outer.addWidget(self._fields)
        outer.addWidget(self.face)
        self.face.hide()
        whole = QVBoxLayout(self._fields)
        whole.setContentsMargins(0, theme.px(4), 0, theme.px(4))
        whole.setSpacing(theme.px(8))
        whole.addLayout(self._grid)
        whole.addWidget(self.understood)
        whole.addWidget(self.beside)
        whole.addLayout(flow(theme.px(8), self.write, self.change, self.photo, self.leave, self.withdraw))
        whole.addStretch()

    @property
    def chosen(self) -> RangeWay:
        """How it is read."""
        return WAYS[max(self.way.currentIndex(), 0)]

    @property
    def full_scale(self) -> Field:
        """Where the range ends."""
        return self._text("end")

    @property
    def divisions(self) -> Field:
        """How many divisions its scale has."""
        return self._text("divisions")

    def _text(self, key: str) -> Field:
        found = self.fields[key]
        assert isinstance(found, Field)
        return found

    def _show_way(self) -> None:
        """Lay out the fields that the way in hand asks for; what was typed stays in those that others ask for too."""
        way = self.chosen
        for key, widget in self.fields.items():
            self._take_out(self._grid.indexOf(widget), self._grid.indexOf(self._labels[key]))
            widget.hide()
            self._labels[key].hide()
        order: list[QWidget] = [self.way, self.limit, self.whose]
        place = 0
        for field in way.fields:
            words, widget = self._labels[field.key], self.fields[field.key]
            words.setText(field.title)
            widget.setAccessibleName(field.title.capitalize())
            widget.setToolTip(field.tip)
            if isinstance(widget, Field):
                widget.setPlaceholderText(in_field(field.example))
            row, column = (4, 2) if field.beside_limit else (2, place)
            self._grid.addWidget(words, row, column, 1, field.columns)
            self._grid.addWidget(widget, row + 1, column, 1, field.columns)
            place += 0 if field.beside_limit else field.columns
            words.show()
            widget.show()
            order.insert(len(order) - (0 if field.beside_limit else 2), widget)
        for before, after in itertools.pairwise(order):
            QWidget.setTabOrder(before, after)
        self.mirror.setVisible(way.mirror)
        self.photo.setVisible(way.key == "marks")
        self.usual.setVisible(way.key not in ("look", "threshold", "at mark", "figured"))
        for shown in (self.limit, self.whose, *self._of_limit):
            shown.setVisible(bool(way.limit))
        self.limit.setPlaceholderText(in_field(way.limit))
        self._follow()

    def _take_out(self, *places: int) -> None:
        for place in sorted((p for p in places if p >= 0), reverse=True):
            taken: QLayoutItem | None = self._grid.takeAt(place)
            del taken

    def look_at_photo(self, on: bool) -> None:
        """Show a photo of the face in the place of the fields, or the fields again."""
        self._fields.setVisible(not on)
        self.place.setVisible(not on)
        self.face.setVisible(on)
        self.grown.emit()
        (self.face.board if on else self._text("marks")).setFocus()

    def _take_marks(self, marks: str) -> None:
        self._text("marks").setText(marks)
        self._text("marks").setCursorPosition(0)
        self.look_at_photo(False)
        self._follow()

    def needed_height(self) -> int:
        """Return the height it needs at its width, px: what it says goes over several lines; a photo takes all there is."""
        if not self.face.isHidden():
            return max(round(PHOTO_SHARE * self.window().height()), self.face.heightForWidth(self.width()))
        layout = self._fields.layout()
        has = layout is not None and layout.hasHeightForWidth()
        return layout.totalHeightForWidth(self.width()) if layout is not None and has else self.sizeHint().height()

    def show_job(self) -> None:
        """Offer the functions that are usual on such an instrument; what is being typed stays, of the same job."""
        job = self._in_hand.job.id if self._in_hand.job is not None else ""
        if job != self._of:
            self._of = job
            self._clear()
            self.face.clear()
            self.face.hide()
            self._fields.show()
            self.function.setEditText("")
            self.mirror.setChecked(False)
            self.usual.setChecked(False)
            self.whose.setCurrentIndex(0)
            self.way.setCurrentIndex(0)
        pack, written = self._in_hand.pack, self.function.currentText()
        offered = tuple(dict.fromkeys((*(f.title for f in pack.functions), *pack.usual))) if pack else ()
        self.function.blockSignals(True)
        self.function.clear()
        self.function.addItems(["", *offered])
        self.function.setEditText(written)
        self.function.blockSignals(False)
        if job != self._begun and offered and pack is not None and not pack.functions and not written:
            self._begin_with_first()
        self._begun = job
        self.leave.setVisible(self._place.step is not None)
        self._take_over()
        self._follow()

    def _begin_with_first(self) -> None:
        """Ask first for what is read first on such an instrument: its name, how it is read, and what is usual as an example."""
        first = self._in_hand.first_usual()
        if first is None:
            return
        self._proposed = first.function
        self.function.setEditText(first.function)
        way, said, limit = fields_of(replace(first, full_scale=first.full_scale or 1.0))
        self.way.setCurrentIndex(WAYS.index(way))
        if not first.full_scale:
            return
        for key, text in said.items():
            widget = self.fields[key]
            if isinstance(widget, Field) and text:
                widget.setPlaceholderText(in_field(text))
        self.limit.setPlaceholderText(in_field(limit))

    def _take_over(self) -> None:
        """Begin with the range in hand: a further one is like it, and the same one is changed where it stands."""
        job, step = self._in_hand.job, self._place.step
        made = (
            job.ranges.of_point(step.point.key)
            if job is not None and step is not None and step.point is not None
            else None
        )
        self.withdraw.setVisible(made is not None)
        self.change.setVisible(made is not None)
        self.beside.setVisible(made is not None)
        if made is None or job is None:
            return
        key = f"{made.function_key}/{made.range_key}/"
        read = sum(r.body.point.startswith(key) for r in job.calibrate.readings)
        self.beside.setText(
            f"{made.title} is in hand, with {read} reading{'' if read == 1 else 's'}. Change it, its name or end too, and they "
            "are judged anew; or write a further range beside it."
        )
        if of.is_begun(self.fields):
            return
        self.function.setEditText(made.function)
        self._fill(jot_of(made), made.by)

    def _take_usual(self, function: str) -> None:
        """Begin with how a function is usually read on such an instrument: the shop's until face and manual say better."""
        usual = self._in_hand.usual_ranges().get(function)
        stood_there = function == self._proposed and self._name.is_left  # nobody chose it
        if usual is None or of.is_begun(self.fields) or stood_there:
            return
        self._fill(usual, "shop")
        self.usual.setChecked(True)
        self.beside.setVisible(True)
        self.beside.setText(
            "Usual on such an instrument. Put in what its face and its manual say, and whose limit it is."
        )
        self._follow()

    def _fill(self, jot: RangeJot, by: str) -> None:
        way, said, limit = fields_of(jot)
        self.way.setCurrentIndex(WAYS.index(way))
        of.show_in(self.fields, said)
        self.limit.setText(limit)
        self.limit.setCursorPosition(0)
        self.whose.setCurrentIndex(max(self.whose.findData(by), 0))
        self.mirror.setChecked(jot.mirror)

    def _withdraw(self) -> None:
        self._do(withdraw_range)

    def _change(self) -> None:
        self._do(lambda job, function, range_: change_range(job, function, range_, self._read(), self._in_hand.pack))

    def _do(self, made: Callable[[Job, str, str], Command]) -> None:
        """Do something with the range in hand, and leave the fields."""
        job, step = self._in_hand.job, self._place.step
        if job is None or step is None or step.point is None:
            return
        try:
            deed = made(job, *step.point.key.split("/")[:2])
            if self._writer.do(deed):
                self._clear()
                self.left.emit()
        except CandorError as error:
            self._voice.refuse(error)

    def _clear(self) -> None:
        for widget in (self.limit, *self.fields.values()):
            if isinstance(widget, Field):
                widget.clear()

    def _line(self) -> str:
        return range_line(
            self.chosen, self.function.currentText(), of.said_in(self.fields), limit=self.limit.text() if self.chosen.limit else "",
            whose=str(self.whose.currentData()), mirror=self.mirror.isChecked(), usual=self.usual.isChecked(),
        )  # fmt: skip

    def _read(self) -> RangeJot:
        return understand_range(self._line())

    def _follow(self) -> None:
        try:
            jot = self._read()
            self.understood.setText(" · ".join(jot.chips))
            self._draw(jot)
        except (CandorError, ValueError) as error:
            self.preview.hide()
            begun = of.is_begun(self.fields)
            self.understood.setText(str(error) if begun else "")
        self.grown.emit()

    def _draw(self, jot: RangeJot) -> None:
        pack = self._in_hand.pack
        self.preview.setVisible(pack is not None)
        if pack is not None:
            point, face = previewed(pack, range_of(jot))
            self.preview.show_reading(point, Drawn(math.nan, None, math.nan, math.nan), face)

    def take(self) -> None:
        """Write the range, and stand where its points are made."""
        try:
            jot = self._read()
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.jot(jot, self._line()):  # its words say which units it is typed in
            self._clear()
            self.limit.clear()
            go_to_range(self._place, self._in_hand, jot)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.leave.isVisible():
            self._leave()
        else:
            super().keyPressEvent(event)

    @property
    def first(self) -> QWidget:
        """The first field of the way in hand."""
        return self.fields[self.chosen.fields[0].key]

    def _leave(self) -> None:
        self.left.emit()
