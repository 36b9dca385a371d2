"""Filling a sentence with the figures of a finding: each figure says in the sentence how it is shown."""

from __future__ import annotations

import re
import string
from collections.abc import Mapping
from typing import Any

from candor.core.finding import Finding
from candor.core.quantities import engineering
from candor.core.quantities.show import countdown, plain, signed, trimmed

PRACTICE = "common practice, no source"
_QUANTITY = re.compile(r"([A-Za-z]+)(\d*)")
_NUMBER = re.compile(r"([#%]|\+%|\.)(\d*)")


class Sentences(string.Formatter):
    """Sentences with places for figures, by the kind of finding.

    A place names its figure and how it is shown: ``{limit:A3}`` a quantity to three digits, ``{volts:#}`` a number without
    unit, ``{off:+%1}`` a share as signed per cent with one decimal, ``{share:%2}`` as per cent to two digits, ``{shift:.2}`` with
    two decimals, ``{bad:g}`` as it is, ``{left:clock}`` seconds as minutes and seconds; a name or a finding stands without,
    ``{make!c}`` with a capital. ``{practice}`` is always known.
    """

    def __init__(self, sentences: Mapping[str, str]) -> None:
        self.sentences = sentences

    def say(self, kind: str, figures: Mapping[str, Any]) -> str:
        """Return the sentence of a kind of finding with its figures in it; KeyError where it has none."""
        return self.vformat(self.sentences[kind], (), {"practice": PRACTICE, **figures})

    def of(self, finding: Finding) -> str:
        """Return the sentence of a finding."""
        return self.say(finding.kind, finding.figures)

    def convert_field(self, value: Any, conversion: Any) -> Any:
        """``!c`` begins a name with a capital."""
        return str(value).capitalize() if conversion == "c" else super().convert_field(value, conversion)

    def format_field(self, value: Any, format_spec: str) -> str:
        """Show one figure as the sentence asks."""
        if isinstance(value, Finding):
            return self.of(value)
        if isinstance(value, str) or not format_spec or format_spec == "g":
            return format(value, format_spec)
        if format_spec == "clock":
            return countdown(value)
        if number := _NUMBER.fullmatch(format_spec):
            how, digits = number[1], int(number[2] or 0)
            shown = {"+%": lambda: signed(100 * value, digits), ".": lambda: plain(value, digits)}
            share = 100 * value if how == "%" else value
            return shown.get(how, lambda: trimmed(share, digits or 4))()
        quantity = _QUANTITY.fullmatch(format_spec)
        if quantity is None:
            raise ValueError(f"“{format_spec}” is not a way to show a figure")
        return engineering(value, quantity[1], int(quantity[2] or 4))
