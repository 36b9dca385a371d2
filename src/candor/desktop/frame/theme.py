"""Paper and ink: colours, type and sizes, light and dark, at any text size."""

from __future__ import annotations

import html
from functools import lru_cache
from importlib import resources
from weakref import WeakKeyDictionary

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication, QLabel, QSizePolicy, QToolTip, QWidget

from candor.core.late_dataclass import dataclass
from candor.core.severity import Severity
from candor.core.verdict.rules import Outcome
from candor.desktop.frame.local_numbers import local


@dataclass(frozen=True)
class Colours:
    """One theme; every pair used for text keeps WCAG AA."""

    ground: str
    panel: str
    ink: str
    soft: str
    faint: str
    rule: str
    petrol: str
    brass: str
    brick: str
    inside: str
    dial: str
    on_petrol: str


LIGHT = Colours(
    ground="#F6F4EF", panel="#FBFAF7", ink="#1D2A30", soft="#55646A", faint="#808B8C", rule="#DAD6CC",
    petrol="#0E6670", brass="#8C5A0C", brick="#A8321F", inside="#E0ECEA", dial="#FFFDF6", on_petrol="#FFFFFF",
)  # fmt: skip
DARK = Colours(
    ground="#12191C", panel="#182125", ink="#E8E4DA", soft="#9AA7AB", faint="#6F7D83", rule="#2A363B",
    petrol="#4FB3B8", brass="#D9A441", brick="#EE8570", inside="#1F3336", dial="#1C2528", on_petrol="#0B1214",
)  # fmt: skip

OUTCOME_COLOUR = {
    Outcome.PASS: "petrol",
    Outcome.FAIL: "brick",
    Outcome.CANNOT_TELL: "brass",
    Outcome.NOT_MEASURED: "faint",
    Outcome.NOTED: "soft",
}

# Type sizes in px at 100 %.
ROLE_SIZES = {
    "note": 11.5, "soft": 12, "text": 13, "reading": 15, "heading": 17, "verdict": 19, "hand": 32, "arm": 24,
    "arm-title": 52, "arm-hand": 96, "arm-soft": 20,
}  # fmt: skip


class Theme(QObject):
    """The look in force.

    Signals
    -------
    changed()
        The colours or the text size are others now.
    """

    changed = Signal()

    def __init__(self, mode: str = "system", scale: float = 1.0) -> None:
        super().__init__()
        self.mode = mode
        self.scale = scale
        self._dressed: WeakKeyDictionary[QWidget, str] = WeakKeyDictionary()

    @property
    def dark(self) -> bool:
        """Whether the dark colours are in force."""
        if self.mode == "system":
            return QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark
        return self.mode == "dark"

    @property
    def colours(self) -> Colours:
        """The colours in force."""
        return DARK if self.dark else LIGHT

    def colour(self, name: str) -> QColor:
        """Return a colour of the theme by its name."""
        return QColor(getattr(self.colours, name))

    def outcome_colour(self, outcome: Outcome) -> QColor:
        """Return the colour that goes with an outcome's shape."""
        return self.colour(OUTCOME_COLOUR[outcome])

    def px(self, size: float) -> int:
        """Return a length designed at 100 % in px at the text size in force."""
        return round(size * self.scale)

    def font(self, role: str = "text", bold: bool = False, mono: bool = False) -> QFont:
        """Return the font for a role."""
        font = QFont("B612 Mono" if mono else "B612")
        font.setPixelSize(max(self.px(ROLE_SIZES[role]), 8))
        font.setBold(bold)
        return font

    def width_of(self, text: str, role: str = "text", bold: bool = False) -> float:
        """Return how wide a text is in a role."""
        return QFontMetricsF(self.font(role, bold)).horizontalAdvance(text)

    def set(self, mode: str | None = None, scale: float | None = None) -> None:
        """Change colours or text size (0.8 to 2.0) and tell everyone."""
        self.mode = mode or self.mode
        if scale is not None:
            self.scale = min(max(round(scale, 2), 0.8), 2.0)
        self.apply()
        self.changed.emit()

    def dress(self, widget: QWidget) -> None:
        """Give a part of the window the style sheet in force, unless it wears it already.

        Each part by itself: what is not shown need not be dressed anew when colours or sizes change, so that is done at once.
        (One sheet of the whole application makes a window half as slow again: each part is dressed as it is made.)
        """
        sheet = style_sheet(self)
        if self._dressed.get(widget) != sheet:
            self._dressed[widget] = sheet
            widget.setStyleSheet(sheet)

    def apply(self) -> None:
        """Give the application its palette and font."""
        app = QApplication.instance()
        if not isinstance(app, QApplication):
            return
        app.setFont(self.font())
        palette = QPalette()
        roles = QPalette.ColorRole
        for role, name in (
            (roles.Window, "ground"), (roles.Base, "panel"), (roles.WindowText, "ink"), (roles.Text, "ink"),
            (roles.ButtonText, "ink"), (roles.Button, "ground"), (roles.Highlight, "petrol"),
            (roles.HighlightedText, "on_petrol"), (roles.ToolTipBase, "panel"), (roles.ToolTipText, "ink"),
            (roles.PlaceholderText, "soft"),
        ):  # fmt: skip
            palette.setColor(role, self.colour(name))
        app.setPalette(palette)
        QToolTip.setPalette(palette)


def load_fonts() -> None:
    """Make the shipped fonts known to Qt; nothing is looked for on the machine."""
    folder = resources.files("candor.assets") / "fonts"
    for name in ("B612-Regular.ttf", "B612-Bold.ttf", "B612Mono-Regular.ttf"):
        QFontDatabase.addApplicationFontFromData((folder / name).read_bytes())


def role_sizes(scale: float) -> str:
    """Return the rules that give every role of label its size."""
    return "\n".join(
        f'QLabel[role="{role}"] {{ font-size: {round(size * scale)}px; }}' for role, size in ROLE_SIZES.items()
    )


def style_sheet(theme: Theme) -> str:
    """Return the style sheet of the whole application."""
    return _sheet(theme.dark, theme.scale)


@lru_cache(16)  # every part of the window asks for it
def _sheet(dark: bool, scale: float) -> str:
    c = DARK if dark else LIGHT

    def px(size: float) -> int:
        return round(size * scale)

    sizes = role_sizes(scale)
    opens = resources.files("candor.assets") / f"open-{'dark' if dark else 'light'}.png"
    return f"""
* {{ font-family: "B612"; font-size: {px(13)}px; color: {c.ink}; }}
QMainWindow, QWidget#page, QScrollArea, QWidget#body {{ background: {c.ground}; border: none; }}
QWidget#warning {{ background: {c.panel}; border-top: 2px solid {c.brick}; border-bottom: 2px solid {c.brick}; }}
QWidget#panel, QWidget#panel QWidget#body {{ background: {c.panel}; }}
{sizes}
QLabel[role="note"], QLabel[role="soft"], QLabel[role="arm-soft"] {{ color: {c.soft}; }}
QLabel[bold="true"] {{ font-weight: bold; }}
QLabel[tint="brick"] {{ color: {c.brick}; }} QLabel[tint="brass"] {{ color: {c.brass}; }}
QLabel[tint="petrol"] {{ color: {c.petrol}; }} QLabel[tint="soft"] {{ color: {c.soft}; }}
QLabel[tint="faint"] {{ color: {c.faint}; }}
QLineEdit, QPlainTextEdit, QComboBox, QSpinBox {{ background: {c.panel}; border: 1px solid {c.rule};
  padding: {px(4)}px {px(7)}px; selection-background-color: {c.petrol}; selection-color: {c.on_petrol}; }}
QLineEdit, QPlainTextEdit {{ placeholder-text-color: {c.soft}; }}
QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus {{ border: 1px solid {c.petrol}; }}
QLineEdit#hand {{ font-size: {px(32)}px; font-weight: bold; background: transparent; border: none;
  border-bottom: 1px solid {c.rule}; padding: 0; }}
QLineEdit#hand:focus {{ border-bottom: 2px solid {c.petrol}; }}
QLineEdit#reference {{ font-size: {px(15)}px; background: transparent; border: none;
  border-bottom: 1px solid {c.rule}; padding: 0 0 {px(2)}px 0; }}
QLineEdit#reference:focus {{ border-bottom: 2px solid {c.petrol}; }}
QPlainTextEdit#code {{ font-family: "B612 Mono"; font-size: {px(12)}px; padding: 0; }}
QLineEdit#jot {{ font-family: "B612 Mono"; font-size: {px(15)}px; border: none; background: transparent; padding: 0; }}
QPushButton {{ background: transparent; border: 1px solid {c.faint}; padding: {px(7)}px {px(13)}px; }}
QPushButton:hover {{ background: {c.inside}; }}
QPushButton:focus {{ border: 2px solid {c.petrol}; padding: {px(6)}px {px(12)}px; }}
QPushButton:disabled {{ color: {c.faint}; border-color: {c.rule}; }}
QPushButton#main {{ background: {c.petrol}; color: {c.on_petrol}; border: 1px solid {c.petrol}; font-weight: bold; }}
QPushButton#main:focus {{ border: 2px solid {c.ink}; }}
QPushButton#main:disabled {{ background: {c.rule}; color: {c.soft}; border-color: {c.rule}; }}
QPushButton#quiet {{ border: none; padding: {px(3)}px {px(2)}px; color: {c.soft}; text-align: left; }}
QPushButton#quiet:hover, QPushButton#quiet:checked {{ color: {c.petrol}; background: transparent; }}
QPushButton#quiet:focus {{ border: none; color: {c.petrol}; text-decoration: underline; }}
QPushButton#choice {{ padding: {px(3)}px {px(9)}px; border: 1px solid {c.rule}; }}
QPushButton#choice:checked {{ background: {c.inside}; border: 1px solid {c.petrol}; }}
QPushButton#choice:focus {{ border: 2px solid {c.petrol}; padding: {px(2)}px {px(8)}px; }}
QListWidget, #long {{ background: transparent; border: none; outline: none; }}
QComboBox#quiet {{ border: none; background: transparent; padding: 0; font-size: {px(12)}px; color: {c.soft}; }}
QComboBox#quiet:focus {{ color: {c.petrol}; text-decoration: underline; }}
QComboBox::drop-down {{ border: none; width: {px(18)}px; }}
QComboBox::down-arrow {{ image: url({opens}); width: {px(10)}px; height: {px(10)}px; }}
QLineEdit[wrong="true"] {{ border: 1px solid {c.brick}; }}
QComboBox QAbstractItemView {{ background: {c.panel}; border: 1px solid {c.rule}; }}
QTableView {{ background: {c.panel}; border: 1px solid {c.rule}; gridline-color: {c.rule};
  selection-background-color: {c.inside}; selection-color: {c.ink}; }}
QTableView:focus {{ border: 1px solid {c.petrol}; }}
QTableView::item:focus {{ border: 1px solid {c.petrol}; }}
QTableView QLineEdit {{ padding: 0 {px(2)}px; border: none; }}
QTableCornerButton::section {{ background: {c.ground}; border: none; }}
QHeaderView, QHeaderView::section {{ background: {c.ground}; color: {c.soft}; border: none; font-size: {px(12)}px;
  padding: {px(2)}px {px(4)}px; }}
QScrollBar:vertical {{ background: transparent; width: {px(9)}px; margin: 0; }}
QScrollBar:horizontal {{ background: transparent; height: {px(9)}px; margin: 0; }}
QScrollBar::handle {{ background: {c.rule}; min-height: {px(24)}px; min-width: {px(24)}px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
QToolTip {{ background: {c.panel}; color: {c.ink}; border: 1px solid {c.rule}; padding: {px(4)}px; }}
QMenuBar {{ background: {c.ground}; color: {c.soft}; font-size: {px(12)}px; padding: 0 {px(9)}px; }}
QMenuBar::item {{ background: transparent; padding: {px(3)}px {px(8)}px; }}
QMenuBar::item:selected, QMenuBar::item:pressed {{ background: {c.inside}; color: {c.ink}; }}
QMenu {{ background: {c.panel}; color: {c.ink}; border: 1px solid {c.rule}; padding: {px(4)}px; font-size: {px(13)}px; }}
QMenu::item {{ padding: {px(4)}px {px(16)}px; }}
QMenu::item:selected {{ background: {c.inside}; }}
QMenu::item:disabled {{ color: {c.soft}; }}
QFrame#line {{ background: {c.rule}; border: none; }}
QLabel#chip {{ background: {c.inside}; padding: {px(4)}px {px(8)}px; font-size: {px(12)}px; }}
"""


# How a severity looks.
TINTS = {Severity.NOTE: "", Severity.DONE: "petrol", Severity.ASK: "brass", Severity.REFUSED: "brick"}


class Words(QLabel):
    """A label with numbers as this country writes them, whose lines never end between one and its unit; `text` is what was said."""

    def __init__(self, text: str = "") -> None:
        super().__init__(local(text))
        self._said = text

    def setText(self, text: str) -> None:
        self._said = text
        super().setText(local(text))

    def text(self) -> str:
        return self._said


def label(text: str = "", role: str = "text", bold: bool = False, tint: str = "", wrap: bool = True) -> QLabel:
    """Return a label in one of the roles; plain text, wrapped."""
    made = Words(text)
    made.setProperty("role", role)
    made.setProperty("bold", bold)
    made.setProperty("tint", tint)
    made.setTextFormat(Qt.TextFormat.PlainText)
    made.setWordWrap(wrap)
    if wrap:
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        made.setSizePolicy(policy)
    return made


def plain_tip(text: str) -> str:
    """Return a tooltip that shows a text as it stands: one that looks like markup would be taken for it."""
    text = local(text)
    return f"<p style='white-space: pre-wrap'>{html.escape(text)}</p>" if "<" in text else text


def retint(widget: QLabel, tint: str) -> None:
    """Change the tint of a label."""
    if widget.property("tint") != tint:
        widget.setProperty("tint", tint)
        repolish(widget)


def repolish(widget: QWidget) -> None:
    """Let the style sheet look at a widget's properties again."""
    widget.style().unpolish(widget)
    widget.style().polish(widget)
