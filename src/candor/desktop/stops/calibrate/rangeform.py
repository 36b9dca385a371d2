"""The fields of a range made as one goes: what stands on the face, and the limit with whose it is."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.meaning import RangeJot
from candor.core.jot.range_line import understand_range
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.jotting import go_to_range
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow

WHOSE = (("maker", "the maker's"), ("owner", "the owner's"), ("shop", "the shop's own"))


class RangeForm(QWidget):
    """Fields that say one line: `range DC volts 30 V 30 div 3%`.

    Signals
    -------
    left()
        It was put away without writing.
    """

    left = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._of = ""  # the job whose ranges are written
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self.function = QComboBox()
        self.function.setEditable(True)
        self.function.setAccessibleName("Function")
        self.function.setToolTip("As the function switch calls it; the unit alone serves too")
        self.full_scale = self._field("Full scale", "30 V", "Where the range ends, with its unit")
        self.divisions = self._field("Divisions", "30", "How many divisions its scale has, all of one width")
        self.limit = self._field(
            "Limit", "3 %", "3 % (of full scale), 2 % of reading, ±0.5 V; empty where none is known"
        )
        self.whose = QComboBox()
        self.whose.setAccessibleName("Whose limit it is")
        for key, words in WHOSE:
            self.whose.addItem(words, key)
        self.mirror = QCheckBox("mirror")
        self.understood = label("", "soft")
        self.write = button("Write the range", "Keep it; then points on it as you go", "Enter", "main")
        self.leave = button("Leave it", "Put the fields away; nothing is written", "Esc")
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(10))
        grid.setVerticalSpacing(theme.px(4))
        rows = ((("function", self.function), ("full scale", self.full_scale), ("divisions", self.divisions)),
                (("limit", self.limit), ("whose limit", self.whose), ("", self.mirror)))  # fmt: skip
        for row, members in enumerate(rows):
            for place_, (words, widget) in enumerate(members):
                grid.addWidget(label(words, "soft"), 2 * row, place_)
                grid.addWidget(widget, 2 * row + 1, place_)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, theme.px(4))
        column.setSpacing(theme.px(8))
        column.addLayout(grid)
        column.addWidget(self.understood)
        column.addLayout(flow(theme.px(8), self.write, self.leave))
        column.addStretch()
        for field in (self.full_scale, self.divisions, self.limit):
            field.textEdited.connect(self._follow)
            field.returnPressed.connect(self.take)
        self.function.editTextChanged.connect(self._follow)
        self.whose.currentIndexChanged.connect(self._follow)
        self.mirror.toggled.connect(self._follow)
        self.write.clicked.connect(self.take)
        self.leave.clicked.connect(self._leave)

    def _field(self, name: str, example: str, tip: str) -> Field:
        made = Field()
        made.setPlaceholderText(example)
        made.setAccessibleName(name)
        made.setToolTip(tip)
        return made

    def show_job(self) -> None:
        """Offer the functions that are usual on such an instrument; what is being typed stays, of the same job."""
        job = self._in_hand.job.id if self._in_hand.job is not None else ""
        if job != self._of:
            self._of = job
            for field in (self.full_scale, self.divisions, self.limit):
                field.clear()
            self.function.setEditText("")
            self.mirror.setChecked(False)
            self.whose.setCurrentIndex(0)
        pack, written = self._in_hand.pack, self.function.currentText()
        offered = tuple(dict.fromkeys((*(f.title for f in pack.functions), *pack.usual))) if pack else ()
        self.function.blockSignals(True)
        self.function.clear()
        self.function.addItems(["", *offered])
        self.function.setEditText(written)
        self.function.blockSignals(False)
        self.leave.setVisible(self._place.step is not None)
        self._follow()

    def _line(self) -> str:
        limit = self.limit.text().strip()
        return " ".join(
            filter(None, (
                self.function.currentText().strip(), self.full_scale.text().strip(),
                f"{self.divisions.text().strip()} div" if self.divisions.text().strip() else "",
                "mirror" if self.mirror.isChecked() else "",
                limit, f"by {self.whose.currentData()}" if limit else "",
            ))
        )  # fmt: skip

    def _read(self) -> RangeJot:
        return understand_range(self._line())

    def _follow(self) -> None:
        try:
            self.understood.setText(" · ".join(self._read().chips))
        except CandorError as error:
            begun = self.full_scale.text().strip() or self.divisions.text().strip()
            self.understood.setText(str(error) if begun else "")

    def take(self) -> None:
        """Write the range, and stand where its points are made."""
        try:
            jot = self._read()
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.jot(jot):
            for field in (self.full_scale, self.divisions, self.limit):
                field.clear()
            go_to_range(self._place, self._in_hand, jot)

    def _leave(self) -> None:
        self.left.emit()
