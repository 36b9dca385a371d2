"""Numbers on the screen as the desktop's country writes them; papers state their own."""

from __future__ import annotations

from functools import cache

from PySide6.QtCore import QLocale

from candor.core.quantities.decimal_sign import with_decimal_sign
from candor.core.quantities.show import unparted


def local(text: str) -> str:
    """Return a text to be shown: its decimals with the sign of the desktop's country, no line ending between number and unit."""
    return with_decimal_sign(unparted(text), _sign())


def in_field(text: str) -> str:
    """Return a text to stand in a field, which is typed in: with the country's decimal sign alone."""
    return with_decimal_sign(text, _sign())


@cache
def _sign() -> str:
    return QLocale.system().decimalPoint()
