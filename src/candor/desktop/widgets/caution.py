"""A caution: a triangle, always with its words."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from candor.desktop.theme import Theme, label
from candor.desktop.widgets.glyphs import Glyph


class Caution(QWidget):
    """One caution; it is not there when there is nothing to say."""

    def __init__(self, theme: Theme, role: str = "text", bold: bool = False, wrap: bool = True) -> None:
        super().__init__()
        self.glyph = Glyph(theme, 20 if role.startswith("arm") else 13)
        self.glyph.show_shape("hazard")
        self.words = label("", role, bold=bold, tint="brick", wrap=wrap)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(theme.px(6))
        if not wrap:
            row.addStretch()
            self.words.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
            self.words.setMinimumWidth(0)
        row.addWidget(self.glyph, 0, Qt.AlignmentFlag.AlignTop if wrap else Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.words, 1 if wrap else 0)
        self.say("")

    def say(self, text: str) -> None:
        """Say a caution, or nothing."""
        self.words.setText(text)
        self.words.setToolTip(text)
        self.words.setAccessibleName(f"Caution: {text}" if text else "")
        self.setVisible(bool(text))
