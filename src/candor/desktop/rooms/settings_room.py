"""Settings: light or dark, how large; and what the shop says once for all its jobs: its name, its mains, its limits."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import TypeVar

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.leaving.electrical import LocalRule, rule_words
from candor.core.plan.shop_hours import USUAL_HOURS
from candor.desktop.bench.benches import Benches
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.server_panel import ServerPanel
from candor.desktop.widgets.controls import Column, button
from candor.desktop.widgets.flow import flow
from candor.notebook.store import Notebook
from candor.notebook.work.settings import READ, settings_of
from candor.sitting.commands import stay_commands

MODES = (("system", "As the desktop"), ("light", "Light"), ("dark", "Dark"))
SIZES = (1.0, 1.25, 1.5)
WIDEST = 620  # px at the text size as designed: of a field, however large the window is
MAINS = ("120 V 60 Hz", "230 V 50 Hz")
UNITS = (("umho", "µmho, else mS"), ("mmf", "mmf, else pF"))
# Where what belongs to a shop and has a room of its own is kept.
ELSEWHERE = (
    ("standards", "Your meters and sources", "Bench meters, source boxes, decades: their figures and when they were checked"),
    ("notebook", "Backups and folders", "Where this notebook is, its backups, another notebook"),
    ("tubes", "Known tubes", "Tubes whose figure is known, which your testers are held against"),
)  # fmt: skip
FIELDS = {
    "shop": ("name of the shop", "as it stands on certificates"),
    "country": ("its country", "two letters, such as NO: a digital certificate says it"),
    "mains": ("mains: one of these, or what yours is", "such as 100 V 50 Hz"),
    "esr_meter": ("your ESR meter tests at", "such as 90 kHz"),
    "oscilloscope": (
        "your oscilloscope on a link",
        "its VISA name; preamble and data: what each is asked, as the manual says",
    ),
    "hours": ("your hours", USUAL_HOURS),
    "hands": ("pairs of hands at the benches", "such as 2"),
    "shared": (
        "things that one job at a time can have, and when there is what is not there always",
        "such as variable transformer 1, dim light 16:00-18:00, quiet line Sat 9-12",
    ),
}
SECTIONS = (
    ("The shop", ("shop", "country")), ("Mains and meters", ("mains", "esr_meter", "oscilloscope")),
    ("Hours and hands", ("hours", "hands", "shared")),
)  # fmt: skip
LIMITS = {
    "earth": "earth bond, at most", "insulation": "insulation, at least", "touch": "touch current, at most",
    "network": "through a network of",
}  # fmt: skip

K = TypeVar("K")


class LookPage(Page):
    """Theme, text size and shop name.

    Signals
    -------
    chosen()
        Theme or size were changed here: to be remembered.
    roomAsked(str)
        A room where more of the shop is kept was asked for.
    """

    chosen = Signal()
    roomAsked = Signal(str)

    def __init__(
        self, theme: Theme, *, writer: Writer, voice: Voice, shop: Shop, notebook: Notebook, benches: Benches
    ) -> None:
        super().__init__()
        self._theme = theme
        self._writer, self._voice, self._shop = writer, voice, shop
        self.modes: dict[str, QPushButton] = {}
        self.sizes: dict[float, QPushButton] = {}
        self.mains: dict[str, QPushButton] = {}
        self.units: dict[str, QPushButton] = {}
        self.errors: dict[str, QLabel] = {}
        self.fields = {field: QLineEdit() for field in FIELDS}
        self.shop = self.fields["shop"]
        self.limits = {name: QLineEdit() for name in LIMITS}
        self.elsewhere = {room: button(title, tip) for room, title, tip in ELSEWHERE}
        self.server = ServerPanel(theme, notebook, voice, benches)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        area = Column(theme.px(16), theme.px(9))
        outer.addWidget(area)
        column = area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(7))
        column.addWidget(label("Settings", "heading", bold=True))
        self._build(column)
        column.addStretch()
        for room, made in self.elsewhere.items():
            made.clicked.connect(lambda _=False, of=room: self.roomAsked.emit(of))
        theme.changed.connect(self.enter)

    def _build(self, column: QVBoxLayout) -> None:
        column.addWidget(label("How it looks", "lead", bold=True))
        column.addLayout(self._choices(MODES, self.modes, self._set_mode))
        column.addWidget(label("text size (Ctrl+plus, Ctrl+minus)", "soft"))
        sizes = tuple((size, f"{100 * size:.0f} %") for size in SIZES)
        column.addLayout(self._choices(sizes, self.sizes, self._set_size))
        for title, fields in SECTIONS:
            column.addWidget(label(title, "lead", bold=True))
            for field in fields:
                self._add(column, field)
        column.addWidget(label("Units as old charts have them", "lead", bold=True))
        column.addLayout(self._choices(UNITS, self.units, self._set_unit))
        column.addWidget(label("Limits before one goes, by your local rule", "lead", bold=True))
        column.addLayout(self._limits())
        column.addWidget(self._error("local_rule"))
        column.addWidget(label("Kept in a room of its own", "lead", bold=True))
        column.addLayout(flow(self._theme.px(8), *self.elsewhere.values()))
        column.addWidget(label("One notebook for several benches", "lead", bold=True))
        column.addWidget(self.server)

    def _add(self, column: QVBoxLayout, field: str) -> None:
        (title, hint), edit = FIELDS[field], self.fields[field]
        column.addWidget(label(title, "soft"))
        if field == "mains":
            column.addLayout(self._choices(tuple((m, in_field(m)) for m in MAINS), self.mains, self._set_mains))
        column.addWidget(edit)
        column.addWidget(self._error(field))
        self._ready(edit, title.capitalize(), hint)
        edit.editingFinished.connect(lambda: self._write_field(field, edit))
        edit.textEdited.connect(lambda: self._say(field, ""))

    def _limits(self) -> QGridLayout:
        grid, proposed = QGridLayout(), LocalRule().figures
        for place, (name, title) in enumerate(LIMITS.items()):
            edit = self.limits[name]
            grid.addWidget(label(title, "soft"), 0, place)
            grid.addWidget(edit, 1, place)
            self._ready(edit, title.capitalize(), proposed[name])
            edit.editingFinished.connect(self._write_limits)
            edit.textEdited.connect(lambda: self._say("local_rule", ""))
        return grid

    def _ready(self, edit: QLineEdit, name: str, hint: str) -> None:
        edit.setAccessibleName(name)
        edit.setPlaceholderText(in_field(hint))

    def _error(self, field: str) -> QLabel:
        made = self.errors[field] = label("", "soft", tint="brick")
        made.hide()
        return made

    def _say(self, field: str, error: str) -> None:
        """Say at its field what is wrong with it, or nothing any more."""
        self.errors[field].setText(error)
        self.errors[field].setVisible(bool(error))

    def _choices(
        self, options: Iterable[tuple[K, str]], into: dict[K, QPushButton], told: Callable[[K], None]
    ) -> QHBoxLayout:
        row = QHBoxLayout()
        for key, title in options:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, chosen=key: told(chosen))
            row.addWidget(made)
            into[key] = made
        row.addStretch()
        return row

    def enter(self) -> None:
        """Show what holds."""
        for mode, made in self.modes.items():
            made.setChecked(mode == self._theme.mode)
        for size, made in self.sizes.items():
            made.setChecked(abs(size - self._theme.scale) < 0.01)
        details, settings = self._details(), settings_of(self._details())
        for mains, made in self.mains.items():
            made.setChecked(mains == details.get("mains", ""))
        for unit, made in self.units.items():
            made.setChecked(unit in settings.units)
        for field, edit in self.fields.items():
            edit.setMaximumWidth(self._theme.px(WIDEST))
            self._show(edit, details.get(field, ""))
        said = settings.local_rule.figures if details.get("local_rule") else {}
        for name, edit in self.limits.items():
            self._show(edit, said.get(name, ""))
        self.server.enter()

    def _show(self, edit: QLineEdit, text: str) -> None:
        if not edit.isModified():  # what could not be read stays, with what is wrong with it
            edit.setText(text)
            edit.setModified(False)

    def finish(self) -> None:
        """Stop the work in hand."""
        self.server.finish()

    def _details(self) -> Mapping[str, str]:
        return self._shop.record.details

    def _set_mode(self, mode: str) -> None:
        self._theme.set(mode=mode)
        self.chosen.emit()

    def _set_size(self, size: float) -> None:
        self._theme.set(scale=size)
        self.chosen.emit()

    def _set_mains(self, mains: str) -> None:
        self._say("mains", "")
        self._write("mains", mains)

    def _set_unit(self, _: str) -> None:
        self._write("units", ", ".join(unit for unit, made in self.units.items() if made.isChecked()))

    def _write_field(self, field: str, edit: QLineEdit) -> None:
        if edit.isModified():
            edit.setModified(not self._write(field, edit.text().strip()))

    def _write_limits(self) -> None:
        edits = self.limits.values()
        if any(edit.isModified() for edit in edits):
            is_said = self._write("local_rule", rule_words({n: edit.text() for n, edit in self.limits.items()}))
            for edit in edits:
                edit.setModified(not is_said)

    def _write(self, field: str, text: str) -> bool:
        """Write what was chosen or typed; where it cannot be read that is said at its field, and the field keeps it."""
        try:
            read = READ.get(field, str)(text) if text else ""
        except CandorError as error:
            self._say(field, str(error))
            return False
        is_kept = read == self._details().get(field, "") or self._writer.do(
            stay_commands.shop_details(**{field: read})
        )
        self.enter()
        return is_kept

    def explain(self, because: Because) -> None:
        """Say where these are kept."""
        because.show_whole(None)
        because.show_words(
            "Settings",
            [
                "Candor keeps colours and text size on this machine, and the shop's own figures in the notebook.",
                "The mains decide what a safety capacitor from line to chassis may be, and at what a power-factor dial was read "
                "where you give none. An ESR read well above 120 Hz, or at an unknown frequency, may condemn a capacitor and "
                "never clears one.",
            ],
        )
