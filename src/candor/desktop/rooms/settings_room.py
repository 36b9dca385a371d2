"""Look: light or dark, how large; and what the shop says once for all its jobs: its name, its mains, its ESR meter."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import TypeVar

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.leaving.electrical import LocalRule
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
from candor.notebook.store import Notebook
from candor.notebook.work.settings import READ
from candor.sitting.commands import stay_commands

MODES = (("system", "As the desktop"), ("light", "Light"), ("dark", "Dark"))
SIZES = (1.0, 1.25, 1.5)
FIELDS = {
    "shop": ("name of the shop", "as it stands on certificates"),
    "country": ("its country", "two letters, such as NO: a digital certificate says it"),
    "mains": ("mains", "such as 230 V 50 Hz or 120 V 60 Hz"),
    "esr_meter": ("your ESR meter tests at", "such as 90 kHz"),
    "oscilloscope": (
        "your oscilloscope on a link",
        "its VISA name; preamble and data: what each is asked, as the manual says",
    ),
    "units": ("units as old charts have them", "umho, mmf: else mS and pF; typed once, a umho stays one"),
    "hours": ("your hours", USUAL_HOURS),
    "hands": ("pairs of hands at the benches", "such as 2"),
    "shared": (
        "things that one job at a time can have, and when there is what is not there always",
        "such as variable transformer 1, dim light 16:00-18:00, quiet line Sat 9-12",
    ),
    "local_rule": ("limits before one goes, by your local rule", LocalRule().words),
}

K = TypeVar("K")


class LookPage(Page):
    """Theme, text size and shop name.

    Signals
    -------
    chosen()
        Theme or size were changed here: to be remembered.
    """

    chosen = Signal()

    def __init__(
        self, theme: Theme, *, writer: Writer, voice: Voice, shop: Shop, notebook: Notebook, benches: Benches
    ) -> None:
        super().__init__()
        self._theme = theme
        self._writer, self._voice, self._shop = writer, voice, shop
        self.modes: dict[str, QPushButton] = {}
        self.sizes: dict[float, QPushButton] = {}
        self.shop = QLineEdit()
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        area = Column(theme.px(16), theme.px(9))
        outer.addWidget(area)
        column = area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        column.addWidget(label("Settings", "heading", bold=True))
        column.addWidget(label("colours", "soft"))
        column.addLayout(self._choices(MODES, self.modes, self._set_mode))
        column.addWidget(label("text size (Ctrl+plus, Ctrl+minus)", "soft"))
        sizes = tuple((size, f"{100 * size:.0f} %") for size in SIZES)
        column.addLayout(self._choices(sizes, self.sizes, self._set_size))
        self.fields = {field: self.shop if field == "shop" else QLineEdit() for field in FIELDS}
        for field, (title, hint) in FIELDS.items():
            column.addWidget(label(title, "soft"))
            column.addWidget(self.fields[field])
            self.fields[field].setAccessibleName(title.capitalize())
            self.fields[field].setPlaceholderText(in_field(hint))
            self.fields[field].editingFinished.connect(lambda of=field: self._write_shop(of))
        self.server = ServerPanel(theme, notebook, voice, benches)
        column.addWidget(label("one notebook for several benches", "soft"))
        column.addWidget(self.server)
        column.addStretch()
        theme.changed.connect(self.enter)

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
        details = self._details()
        for field, edit in self.fields.items():
            if not edit.hasFocus():
                edit.setText(details.get(field, ""))
                edit.setModified(False)

        self.server.enter()

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

    def _write_shop(self, field: str) -> None:
        edit = self.fields[field]
        text = edit.text().strip()
        if not edit.isModified() or text == self._details().get(field, ""):
            return
        try:
            read = READ.get(field, str)(text) if text else ""
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        edit.setText(read)
        edit.setModified(False)
        self._writer.do(stay_commands.shop_details(**{field: read}))

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
