"""What stands in the form of a range: a line or a choice for each field that some way of reading asks for."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtWidgets import QComboBox

from candor.core.jot.range_fields import RangeField
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.widgets.field import Field

WHOSE = (("maker", "the maker's"), ("owner", "the owner's"), ("shop", "the shop's own"))


def whose_limit() -> QComboBox:
    """Return the choice of whose limit it is."""
    made = choice("Whose limit it is", "")
    for key, words in WHOSE:
        made.addItem(words, key)
    return made


def choice(name: str, tip: str) -> QComboBox:
    """Return a choice that stays narrow whatever is chosen."""
    made = QComboBox()
    made.setAccessibleName(name)
    made.setToolTip(tip)
    made.setMinimumContentsLength(8)
    made.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    return made


def picked(field: RangeField) -> QComboBox:
    """Return the choice of a field that is one of some words."""
    made = choice(field.title.capitalize(), field.tip)
    for key, words in field.choices:
        made.addItem(words, key)
    return made


def line_of(field: RangeField) -> Field:
    """Return the line of a field that is typed."""
    made = Field()
    made.setPlaceholderText(in_field(field.example))
    made.setAccessibleName(field.title.capitalize())
    made.setToolTip(field.tip)
    return made


def is_begun(fields: Mapping[str, Field | QComboBox]) -> bool:
    """Whether anything was typed."""
    return any(isinstance(w, Field) and w.text().strip() for w in fields.values())


def said_in(fields: Mapping[str, Field | QComboBox]) -> dict[str, str]:
    """Return what each field says."""
    return {key: w.text() if isinstance(w, Field) else str(w.currentData()) for key, w in fields.items()}


def show_in(fields: Mapping[str, Field | QComboBox], said: Mapping[str, str]) -> None:
    """Show in each field what it says."""
    for key, text in said.items():
        widget = fields[key]
        if isinstance(widget, Field):
            widget.setText(text)
            widget.setCursorPosition(0)  # its beginning is seen
        else:
            widget.setCurrentIndex(max(widget.findData(text), 0))
