"""Numbers as Candor shows them: rounded by their uncertainty, in engineering notation outside.

What is shown rounded never becomes the data: these functions return text only.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from functools import lru_cache

import quantiphy

from candor.core.late_pattern import late_pattern
from candor.core.quantities.units import SYMBOLS

MINUS = "−"
# What takes no prefix: shares of an arc, degrees, levels, divisions.
PLAIN_UNITS = frozenset({"% of arc", "°", "dB", "div", "%"})
SMALL = 1e-6  # under which a number without a unit is written by its power of ten
RAISED = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")


_PARTS = late_pattern(
    r"(?<=[\d½¼¾]) (?=(?:[fpnµumkMGT]?(?:V|A|Ω|F|H|Hz|S|s|W)|ohm|[µu]mho|mmf|div|%|°C?|dB|min|h|mm)(?![A-Za-z]))"
    r"| ± |(?<=\bk) = (?=\d)"
)


# Units as old charts and drawings have them, by how they are named: the unit, what 1 of it is, up to where it is used, its sign.
OLD_UNITS = {"umho": ("S", 1e-6, math.inf, "µmho"), "mmf": ("F", 1e-12, 1e-9, "mmf")}
_TYPED = {
    "umho": late_pattern(r"(?:\b|\d)(?:[uµμ]|micro)mhos?\b", re.IGNORECASE),
    "mmf": late_pattern(r"(?:\b|\d)(?:mmfd?|uufd?)\b", re.IGNORECASE),
}
_shown_old: dict[str, tuple[float, float, str]] = {}


def show_old(names: Iterable[str]) -> None:
    """From here on show these of OLD_UNITS, all others as the SI has them. What is calculated stays as it is."""
    wanted = {OLD_UNITS[name][0]: OLD_UNITS[name][1:] for name in names}
    if wanted != _shown_old:
        _shown_old.clear()
        _shown_old.update(wanted)
        engineering.cache_clear()


def old_units_in(text: str) -> tuple[str, ...]:
    """Return which of OLD_UNITS a line is typed in: who types them is shown them."""
    return tuple(name for name, pattern in _TYPED.items() if pattern.search(text))


def shown_old() -> tuple[str, ...]:
    """Return which of OLD_UNITS are shown now."""
    return tuple(name for name, (unit, *_) in OLD_UNITS.items() if unit in _shown_old)


@contextmanager
def showing_old(names: Iterable[str]) -> Iterator[None]:
    """Show these of OLD_UNITS within, and what was shown before after it."""
    before = shown_old()
    show_old(names)
    try:
        yield
    finally:
        show_old(before)


def _old(unit: str, largest: float) -> tuple[float, str] | None:
    """Return what 1 of an old unit is and its sign, where one is shown for a value of this size."""
    known = _shown_old.get(unit)
    fits = known is not None and largest < known[1] and (largest > 0 or math.isinf(known[1]))
    return (known[0], known[2]) if known is not None and fits else None


@lru_cache(maxsize=16384)  # a list judged anew says most of its figures again
def engineering(value: float, unit: str, digits: int = 4) -> str:
    """Return `value` with an SI prefix and `digits` significant digits, such as ``6.72 MΩ``.

    Prefixes: BIPM, SI Brochure (2019), 3. Units of old charts, where they are shown: common practice, no source.
    """
    if not math.isfinite(value):
        return "∞" if value > 0 else f"{MINUS}∞" if value < 0 else "no number"
    if old := _old(unit, abs(value)):
        return f"{trimmed(value / old[0], digits)} {old[1]}"
    return in_si(value, unit, digits)


def in_si(value: float, unit: str, digits: int = 4) -> str:
    """Return what `engineering` does where no unit of old charts is shown: what is kept as a name must not change with the look."""
    if unit == "F" and 1e-3 <= abs(value) < 1:  # mF means µF on old drawings, and is read so
        return f"{trimmed(value * 1e6, digits)} µF".replace("-", MINUS)
    if unit in PLAIN_UNITS:
        return f"{trimmed(value, digits)} {unit}"
    if unit == "1":  # a prefix stands before a unit alone (SI Brochure, 3): 220m is no number
        return in_powers(value, digits)
    symbol = SYMBOLS.get(unit, unit)
    shown = str(quantiphy.Quantity(value, symbol).render(form="si", prec=digits - 1, strip_zeros=True))
    return shown.replace("-", MINUS).replace(" u", " µ")


def decimals(uncertainty: float, significant: int = 2) -> int:
    """Return the number of decimals that shows `uncertainty` to `significant` digits.

    JCGM 100:2008, 7.2.6: two significant digits at most are enough for an uncertainty.
    """
    if uncertainty <= 0 or not math.isfinite(uncertainty):
        return 3
    return max(0, significant - 1 - math.floor(math.log10(float(f"{uncertainty:.{significant - 1}e}"))))


TINY, HUGE, MOST_PLACES = 1e-12, 1e15, 15  # beyond these the zeros cannot be counted at a glance


def plain(value: float, places: int) -> str:
    """Return `value` with `places` decimals and a true minus sign, without its unit; beyond what can be counted by its power."""
    if places > MOST_PLACES or abs(value) >= HUGE:
        return trimmed(value, 4)
    text = f"{value:.{places}f}"
    if float(text) == 0:
        text = f"{0:.{places}f}"
    return text.replace("-", MINUS)


def signed(value: float, places: int) -> str:
    """Return `value` with `places` decimals and always a sign, zero excepted, without its unit."""
    text = plain(value, places)
    return text if text.startswith(MINUS) or float(text) == 0 else f"+{text}"


def trimmed(value: float, digits: int = 4) -> str:
    """Return `value` with `digits` significant digits at most and no trailing zeros, without its unit.

    With more zeros than can be counted it stands as ``1.14e−40``.
    """
    text = f"{value:.{digits}g}"
    if "e" in text:
        rounded = float(text)
        if rounded and math.isfinite(rounded) and not TINY <= abs(rounded) < HUGE:
            size, _, power = text.partition("e")
            return f"{size}e{int(power)}".replace("-", MINUS)
        places = max(digits - 1 - math.floor(math.log10(abs(rounded))), 0) if rounded else 0
        text = f"{rounded:.{places}f}"
        text = text.rstrip("0").rstrip(".") if "." in text else text
    return text.replace("-", MINUS)


def in_unit(value: float, unit: str, digits: int = 4) -> str:
    """Return ``12.5 V``: a figure as `trimmed` shows it, in a unit that it keeps; `engineering` chooses a prefix."""
    return f"{trimmed(value, digits)} {unit}"


def power_of_ten(power: int) -> str:
    """Return ``10⁻⁸`` for -8."""
    return f"10{str(power).translate(RAISED)}"


def in_powers(value: float, digits: int = 4) -> str:
    """Return a number without a unit: ``0.0031``, and under a millionth by its power of ten, ``3.1 × 10⁻⁸``."""
    if not 0 < abs(value) < SMALL:
        return trimmed(value, digits)
    size, _, power = f"{value:.{digits - 1}e}".partition("e")
    size = size.rstrip("0").rstrip(".") if "." in size else size
    return f"{size} × {power_of_ten(int(power))}".replace("-", MINUS)


def pair_in_powers(value: float, uncertainty: float) -> str:
    """Return ``(+3.20 ± 0.21) × 10⁻⁸``, of numbers without a unit: rounded to two significant digits of the uncertainty, by the
    power of the larger (JCGM 100:2008, 7.2.6)."""
    size = max(abs(value), abs(uncertainty))
    power = math.floor(math.log10(size)) if size > 0 else 0
    factor = 10.0**power
    places = decimals(uncertainty / factor)
    return f"({signed(value / factor, places)} ± {plain(uncertainty / factor, places)}) × {power_of_ten(power)}"


def round_down(value: float, digits: int = 2) -> float:
    """Return a value of zero or more, of any unit, rounded down to so many significant digits."""
    return _rounded(value, digits, math.floor, 1e-12)


def round_up(value: float, digits: int = 2) -> float:
    """Return a value of zero or more, of any unit, rounded up to so many significant digits."""
    return _rounded(value, digits, math.ceil, -1e-12)


def _rounded(value: float, digits: int, whole: Callable[[float], int], slack: float) -> float:
    if value <= 0 or not math.isfinite(value):
        return max(value, 0.0)
    places = digits - 1 - math.floor(math.log10(value))
    return float(f"{whole(value * 10.0**places * (1 + slack)) / 10.0**places:.{digits + 2}g}")


# Prefixes that people read off a meter, by the power of a thousand.
_PREFIXES = {-5: "f", -4: "p", -3: "n", -2: "µ", -1: "m", 0: "", 1: "k", 2: "M", 3: "G"}


def scaled(unit: str, *values: float) -> tuple[float, str]:
    """Return what to divide values of one unit by so that they are read easily, and the unit with its prefix.

    From a thousandth to a hundred thousand the unit stays as it is: so are ranges written. Siemens are written in thousandths.
    Prefixes: BIPM, SI Brochure (2019), 3.
    """
    largest = max((abs(v) for v in values if math.isfinite(v)), default=0.0)
    symbol = SYMBOLS.get(unit, unit)
    if old := _old(unit, largest):
        return old
    if unit in PLAIN_UNITS or unit == "1" or largest == 0 or (1.0 if unit == "S" else 1e-3) <= largest < 1e5:
        return 1.0, symbol
    power = min(max(math.floor(math.log10(largest) / 3 + 1e-12), -5), 3)
    return 1000.0**power, f"{_PREFIXES[power]}{symbol}"


def pair(value: float, uncertainty: float, unit: str) -> str:
    """Return ``−1.2 ± 1.0 V``: both rounded to two significant digits of the uncertainty, in one prefix (JCGM 100:2008, 7.2.6)."""
    factor, symbol = scaled(unit, value, uncertainty)
    places = decimals(uncertainty / factor)
    return f"{signed(value / factor, places)} ± {plain(uncertainty / factor, places)} {symbol}".rstrip()


def countdown(seconds: float) -> str:
    """Return what is left of a wait, s, as one reads it: ``29:05`` up to two hours, then ``5 h``, from two days ``3 d``."""
    left = round(seconds)
    if left < 7200:
        return f"{left // 60}:{left % 60:02d}"
    # Rounded up: a wait is never over before it says so.
    hours = -(-left // 3600)
    return f"{hours} h" if hours < 48 else f"{-(-left // 86400)} d"


def unparted(text: str) -> str:
    """Return a text in which no line can end between a number and its unit, around ±, or within ``k = 1.65``."""
    return _PARTS.sub(lambda m: m[0].replace(" ", "\u00a0"), text)
