"""About the part: what it is, what it does, what it must stand; changed by fields, or one more put on the list."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.slots import node_name
from candor.core.parts.part import USUAL_TOLERANCE
from candor.core.parts.part_kinds import KINDS
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.notebook.parts.part_fields import Listing, fields_of, listed_of
from candor.notebook.parts.parts_list import PartLine
from candor.sitting.commands import parts_commands

CHOICES = {
    "kind": ("", *KINDS),
    "make": tuple(USUAL_TOLERANCE),
    "role": ("other", "filter", "coupling", "bypass", "divider", "timing", "dropper", "load", "mains"),
    "mains": ("", "line to line", "line to chassis"),
}
ACROSS = 5  # fields in a row: with six their titles are cut off at the largest text
FIELDS = (("ref", "part", "C8"), ("value", "as marked", "0.05 uF 10%"), ("volts", "rated V", "600"), ("watts", "W", "0.5"),
          ("can", "can", "C41"), ("across", "V across", "300"), ("no_load", "open volts", "470"),
          ("grid", "grid ohms", "560k"), ("note", "note", "moulded"),
          ("plus", "joins node", "V2 plate"), ("minus", "and node", "chassis"))  # fmt: skip


class FactsPanel(QWidget):
    """Fields for what the part is.

    Signals
    -------
    written(str)
        The designator listed.
    """

    written = Signal(str)

    def __init__(self, theme: Theme, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self._line: PartLine | None = None
        self.fields: dict[str, Field] = {}
        self.choices: dict[str, QComboBox] = {}
        self.write = button("Write it", "List the part as it stands here; the last one written holds", name="main")
        self.another = button("Another part", "Empty the fields for one more on the list")
        self.absent = button("Not in this unit", "The drawing has it, this unit has not")
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(9))
        grid.setVerticalSpacing(theme.px(2))
        for index, (key, title, hint) in enumerate(FIELDS):
            edit = Field()
            edit.setPlaceholderText(in_field(hint))
            edit.setAccessibleName(title)
            edit.returnPressed.connect(self._write)
            self.fields[key] = edit
            self._put(grid, index, title, edit)
        for index, (key, words) in enumerate(CHOICES.items(), len(FIELDS)):
            box = QComboBox()
            for word in words:
                box.addItem(word or ("not said" if key in ("kind", "make") else "no"), word)
            box.setAccessibleName({"kind": "kind", "make": "made of", "role": "role", "mains": "mains"}[key])
            self.choices[key] = box
            self._put(grid, index, box.accessibleName(), box)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addLayout(grid)
        column.addLayout(flow(theme.px(8), self.write, self.another, self.absent))
        column.addStretch()
        self.write.clicked.connect(self._write)
        self.another.clicked.connect(self.clear)
        self.absent.clicked.connect(self._absent)

    def _put(self, grid: QGridLayout, index: int, title: str, widget: QWidget) -> None:
        row, place = 2 * (index // ACROSS), index % ACROSS
        grid.addWidget(label(title, "soft", wrap=False), row, place)
        grid.addWidget(widget, row + 1, place)
        grid.setColumnStretch(place, 1)

    def show_line(self, line: PartLine | None) -> None:
        """Take another part in hand."""
        same = line is not None and self._line is not None and line.part == self._line.part
        self._line = line
        self.setEnabled(True)
        self.absent.setVisible(line is not None)
        if line is None or same:
            return
        part = line.part
        self.absent.setText("Not in this unit" if part.fitted else "It is in this unit")
        job = self._in_hand.job
        joined = job.parts.joined.get(part.ref) if job is not None else None
        ends = (joined.body.plus, joined.body.minus) if joined is not None else ("", "")
        shown = {**fields_of(part), "plus": ends[0], "minus": ends[1]}
        for key, edit in self.fields.items():
            edit.setText(shown[key])
            edit.setCursorPosition(0)
        for key, value in (("kind", part.kind), ("make", part.make), ("role", part.role), ("mains", part.mains)):
            self.choices[key].setCurrentIndex(max(self.choices[key].findData(value), 0))

    def clear(self) -> None:
        """Empty the fields for one more part."""
        self._line = None
        for edit in self.fields.values():
            edit.clear()
        for box in self.choices.values():
            box.setCurrentIndex(0)
        self.choices["make"].setCurrentIndex(self.choices["make"].findData(""))
        self.absent.hide()
        self.fields["ref"].setFocus()

    def body(self, fitted: bool = True) -> Listing:
        """Return the part as the fields say it.

        Raises
        ------
        CandorError
            Where they cannot be read.
        """
        text = {key: edit.text().strip() for key, edit in self.fields.items()}
        choices = {key: box.currentData() for key, box in self.choices.items()}
        return listed_of(text, choices, fitted, self._line.part if self._line else None)

    def _write(self) -> None:
        self._list(True)

    def _absent(self) -> None:
        self._list(self._line is not None and not self._line.part.fitted)

    def _list(self, fitted: bool) -> None:
        try:
            body = self.body(fitted)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        ends = [self.fields[end].text().strip() for end in ("plus", "minus")]
        if any(ends) and not all(ends):
            self._voice.refuse(f"{body.ref} has two ends: write both nodes, or none. Nothing was written.")
            return
        if all(ends) and node_name(ends[0]) == node_name(ends[1]):
            self._voice.refuse(f"Both ends of {body.ref} are on {node_name(ends[0])}. Expected: two different nodes.")
            return
        if self._writer.do(parts_commands.list_part(body, (ends[0], ends[1]))):
            self._line = None
            self.written.emit(body.ref)
