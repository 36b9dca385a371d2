"""What this unit has: the functions found on it, what is not as drawn, and fasteners nobody can account for."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QLineEdit, QPushButton, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.meaning import ArriveJot
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, empty
from candor.desktop.widgets.flow import Flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.sitting.commands import arrive_commands


class UnitCard(QWidget):
    """Under the details of the instrument: functions, deviations, lost screws."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._shown: tuple[str, ...] = ()
        self.functions: dict[str, QPushButton] = {}
        self.function = self._field("another function", "as its switch calls it; “faded” after it where one can hardly read it",
                                    "function")  # fmt: skip
        self.drawn = self._field(
            "not as drawn", "a fuse added, another connector: it stays with the instrument", "not as drawn:"
        )
        self.missed = self._field(
            "unaccounted for", "2 screws M3 from the case: they bar power until found", "unaccounted"
        )
        self.list = RowList(theme, "What is not as drawn or unaccounted for", wrap=True)
        self._flow = Flow(theme.px(6))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(5))
        self.controls = label("", "soft")
        column.addWidget(self.controls)
        column.addWidget(label("functions found; press what is there", "soft"))
        column.addLayout(self._flow)
        for field in (self.function, self.drawn, self.missed):
            column.addWidget(field)
        column.addWidget(self.list)

    def _field(self, name: str, hint: str, verb: str) -> QLineEdit:
        made = QLineEdit()
        made.setPlaceholderText(f"{name}: {hint}")
        made.setAccessibleName(name.capitalize())
        made.setToolTip(f"{name}: {hint}. Jot: {verb} …")
        made.returnPressed.connect(lambda: self._write(made, verb))
        return made

    def show_job(self) -> None:
        """Show what stands."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None:
            return
        found = {e.body.function.casefold(): e for e in job.unit.functions}
        own = tuple(e.body.function for e in job.unit.functions)
        offered = tuple(
            {name.casefold(): name for name in (*(f.title for f in pack.functions), *pack.usual, *own)}.values()
        )
        self.controls.setText(f"usual controls: {', '.join(pack.control_names)}" if pack.controls else "")
        self.controls.setVisible(bool(pack.controls))
        if self._shown != offered:
            self._shown = offered
            empty(self._flow)
            self.functions = {name: self._made(name) for name in offered}
        for name, made in self.functions.items():
            entry = found.get(name.casefold())
            made.setChecked(entry is not None)
            made.setText(f"{name} · faded" if entry is not None and entry.body.faded else name)
        rows = [Row(e.id, e.body.text, f"not as drawn · entry {e.number}") for e in job.unit.not_as_drawn]
        rows += [
            Row(e.id, f"{e.body.count} unaccounted for: {e.body.what or 'fasteners'}", f"bars power · entry {e.number}", "hazard")
            for e in job.unit.unaccounted
        ]  # fmt: skip
        rows += [Row("", f"before: {words}") for words in self._in_hand.earlier_deviations()]
        self.list.show_rows(tuple(rows), "")
        self.list.setVisible(bool(rows))
        self.list.fit(5)

    def _made(self, name: str) -> QPushButton:
        made = button(name, f"{name} is there", name="choice")
        made.setCheckable(True)
        made.clicked.connect(lambda checked: self._press(name, checked))
        self._flow.addWidget(made)
        made.show()
        return made

    def _press(self, name: str, checked: bool) -> None:
        job = self._in_hand.job
        entry = (
            next((e for e in job.unit.functions if e.body.function.casefold() == name.casefold()), None)
            if job
            else None
        )
        if checked:
            self._writer.do(arrive_commands.function_found(name))
        elif entry is not None:
            self._writer.strike(entry)

    def _write(self, field: QLineEdit, verb: str) -> None:
        if field.text().strip():
            write_arrival(f"{verb} {field.text().strip()}", self._in_hand, self._writer, self._voice, field.clear)


def write_arrival(
    text: str, in_hand: JobInHand, writer: Writer, voice: Voice, done: Callable[[], object] = lambda: None
) -> bool:
    """Write what a line of the first sitting says; False, with a sentence, where it cannot be."""
    job = in_hand.job
    if job is None:
        return False
    try:
        jot = understand_at("arrive", text)
        if not isinstance(jot, ArriveJot):
            return False
    except CandorError as error:
        voice.refuse(error)
        return False
    if not writer.jot(jot):
        return False
    done()
    return True
