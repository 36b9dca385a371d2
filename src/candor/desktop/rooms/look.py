"""Look: light or dark, how large, and what the shop is called on paper."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from candor.desktop.because import Because
from candor.desktop.bench import Bench
from candor.desktop.theme import Theme, label
from candor.desktop.widgets.parts import button
from candor.notebook.entries import DetailWritten
from candor.notebook.job import fold

MODES = (("system", "As the desktop"), ("light", "Light"), ("dark", "Dark"))
SIZES = (1.0, 1.25, 1.5)


class LookPage(QWidget):
    """Theme, text size and shop name.

    Signals
    -------
    chosen()
        Theme or size were changed here: to be remembered.
    """

    chosen = Signal()

    def __init__(self, theme: Theme, bench: Bench) -> None:
        super().__init__()
        self.setObjectName("page")
        self._theme, self._bench = theme, bench
        self.modes: dict[str, QPushButton] = {}
        self.sizes: dict[float, QPushButton] = {}
        self.shop = QLineEdit()
        self.shop.setAccessibleName("Name of the shop")
        self.shop.setPlaceholderText("as it stands on certificates")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        column.addWidget(label("Look", "heading", bold=True))
        column.addWidget(label("colours", "soft"))
        column.addLayout(self._choices(MODES, self.modes, self._set_mode))
        column.addWidget(label("text size (Ctrl+plus, Ctrl+minus)", "soft"))
        sizes = tuple((size, f"{100 * size:.0f} %") for size in SIZES)
        column.addLayout(self._choices(sizes, self.sizes, self._set_size))
        column.addWidget(label("name of the shop", "soft"))
        column.addWidget(self.shop)
        column.addStretch()
        self.shop.editingFinished.connect(self._write_shop)
        theme.changed.connect(self.enter)

    def _choices(self, options, into, told):  # type: ignore[no-untyped-def]
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
        if not self.shop.hasFocus():
            self.shop.setText(self._shop())
            self.shop.setModified(False)

    def _shop(self) -> str:
        return fold("", self._bench.notebook.entries_of("")).details.get("shop", "")

    def _set_mode(self, mode: str) -> None:
        self._theme.set(mode=mode)
        self.chosen.emit()

    def _set_size(self, size: float) -> None:
        self._theme.set(scale=size)
        self.chosen.emit()

    def _write_shop(self) -> None:
        text = self.shop.text().strip()
        if self.shop.isModified() and text != self._shop():
            self.shop.setModified(False)
            self._bench.write_shop(DetailWritten(field="shop", text=text))

    def explain(self, because: Because) -> None:
        """Say where these are kept."""
        because.show_whole(None)
        because.show_words(
            "Look", ["Colours and text size are kept on this machine, the name of the shop in the notebook."]
        )
