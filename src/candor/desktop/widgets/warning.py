"""What warns: it stands until somebody says that it was understood."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QWidget

from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.glyphs import Glyph


class WarningStrip(QWidget):
    """A strip across the window, there only while something warns.

    Signals
    -------
    understood()
        Its button was pressed.
    """

    understood = Signal()

    def __init__(self, theme: Theme, role: str = "text") -> None:
        super().__init__()
        self.setObjectName("warning")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.glyph = Glyph(theme, 15)
        self.glyph.show_shape("hazard")
        self.words = label("", role, bold=True, tint="brick")
        self.button = button("Understood", "Takes this away; it stays in the entries")
        self.button.setFocusPolicy(Qt.FocusPolicy.TabFocus)  # neither the pedal nor a stray Enter may take it away
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), theme.px(6), theme.px(16), theme.px(6))
        row.setSpacing(theme.px(10))
        row.addWidget(self.glyph, 0, Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.words, 1)
        row.addWidget(self.button, 0, Qt.AlignmentFlag.AlignVCenter)
        self.button.clicked.connect(self.understood)
        self.show_warnings(())

    def show_warnings(self, sentences: tuple[str, ...]) -> None:
        """Show what warns, the newest last; nothing where nothing does."""
        text = "\n".join(sentences)
        self.words.setText(text)
        self.words.setAccessibleName(f"Warning: {text}" if text else "")
        self.setVisible(bool(text))
