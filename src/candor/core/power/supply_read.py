"""What was measured of a supply, in a line: `C1 256 V, C2 224 V, C2 ripple 0.4 V, line 118 of 120 V, winding open 221 V`."""

from __future__ import annotations

import re
from dataclasses import replace

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_quantity
from candor.core.worded import worded

EXAMPLE = "C1 256 V, C2 224 V, C2 ripple 0.4 V, line 118 of 120 V, winding open 221 V"
_V = r"([\d.,]+\s?(?:m?V|kV)?)"
_MEAN = re.compile(rf"C(\d)\s+{_V}", re.I)
_RIPPLE = re.compile(rf"(?:C(\d)\s+ripple|ripple\s+C(\d))\s+{_V}(?:\s?p-?p)?", re.I)
_LINE = re.compile(rf"line\s+{_V}\s+(?:of|for)\s+{_V}", re.I)
_OPEN = re.compile(rf"winding\s+(?:open|unloaded|off load)\s+{_V}", re.I)
LEAST_PARTS, MOST_V = 1, 5000.0


@dataclass(frozen=True)
class SupplyRead:
    """What was measured, V: means and ripples (peak to peak) by capacitor, 1 the first; the line over its nominal; the open winding
    of each side, r.m.s., at that line, 0 where it was not measured."""

    means: tuple[tuple[int, float], ...] = ()
    ripples: tuple[tuple[int, float], ...] = ()
    line_ratio: float = 1.0
    open_volts: float = 0.0


def read_measured(text: str, sections: int) -> SupplyRead:
    """Understand a line of what was measured of a supply with so many capacitors.

    Raises
    ------
    ValueTextError
        With the words that cannot be read, or a capacitor that the supply does not have.
    """
    found = SupplyRead()
    for words in filter(None, (w.strip() for w in re.split(r"[,;](?!\d)", text))):
        if match := _RIPPLE.fullmatch(words):
            which = _which(int(match[1] or match[2]), sections, words)
            found = replace(found, ripples=(*(r for r in found.ripples if r[0] != which), (which, _volts(match[3]))))
        elif match := _MEAN.fullmatch(words):
            which = _which(int(match[1]), sections, words)
            found = replace(found, means=(*(m for m in found.means if m[0] != which), (which, _volts(match[2]))))
        elif match := _LINE.fullmatch(words):
            line, nominal = _volts(match[1]), _volts(match[2])
            if not 0.5 < line / nominal < 1.3:
                raise ValueTextError(
                    worded("power.that_line_is_of_its_nominal", words=words, line=line / nominal), value=words
                )
            found = replace(found, line_ratio=line / nominal)
        elif match := _OPEN.fullmatch(words):
            found = replace(found, open_volts=_volts(match[1]))
        else:
            raise ValueTextError(
                worded("power.candor_cannot_read_here_example", words=words, example=EXAMPLE), value=words
            )
    return found


def _volts(text: str) -> float:
    volts = parse_quantity(text, "V").value
    if not 0 < volts <= MOST_V:
        raise ValueTextError(worded("power.is_no_voltage_of_such_a", text=text, example=EXAMPLE), value=text)
    return volts


def _which(number: int, sections: int, words: str) -> int:
    if not 1 <= number <= sections:
        listed = ", ".join(f"C{i + 1}" for i in range(sections))
        raise ValueTextError(
            worded("power.the_capacitors_of_this_supply_are", words=words, listed=listed), value=words
        )
    return number
