"""What stands in the form of a range: a line or a choice for each field that some way of reading asks for."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox

from candor.core.jot.range_fields import RangeField
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.widgets.field import Field


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
