"""Units and prefixes of the bench, the old ones included.

Sources: prefixes, the SI brochure; letters inside a number, IEC 60062. The old abbreviations
(mfd, mmf, mho, cycles, kc) are common practice of the trade, no source.
"""

from __future__ import annotations

PREFIXES = {
    "f": 1e-15, "p": 1e-12, "n": 1e-9, "u": 1e-6, "m": 1e-3, "": 1.0,
    "k": 1e3, "K": 1e3, "M": 1e6, "meg": 1e6, "Meg": 1e6, "MEG": 1e6, "G": 1e9, "T": 1e12,
}  # fmt: skip

# Every spelling of a unit that takes prefixes, in lower case, with the unit it means.
_SPELLINGS = {
    "V": "v volt volts vdc vac vd.c va.c", "A": "a amp amps ampere amperes", "ohm": "ohm ohms Ω ω r",
    "F": "f farad farads", "H": "h hy henry henrys henries", "S": "s siemens mho mhos",
    "Hz": "hz hertz c cps c/s cycles cycle", "s": "sec secs second seconds", "W": "w watt watts",
    "dB": "db decibel decibels",
}  # fmt: skip
UNITS = {word: unit for unit, words in _SPELLINGS.items() for word in words.split()}
# One letter is as people write it: S is siemens and s seconds; r, f, c, h, a, v and w are also written small.
_ONE_LETTER = {"S": "S", "s": "s", "F": "F", "H": "H", "R": "ohm", "C": None, "h": None, "f": None, "r": None}

# Whole suffixes that mean one thing on old drawings and would read otherwise by the rules above, in lower case.
OLD_SUFFIXES = {
    "mfd": (1e-6, "F"), "mf": (1e-6, "F"), "ufd": (1e-6, "F"), "uf": (1e-6, "F"),
    "mmf": (1e-12, "F"), "mmfd": (1e-12, "F"), "uuf": (1e-12, "F"), "uufd": (1e-12, "F"), "nf": (1e-9, "F"), "pf": (1e-12, "F"),
    "pfd": (1e-12, "F"), "micromho": (1e-6, "S"), "micromhos": (1e-6, "S"),
    "kc": (1e3, "Hz"), "mc": (1e6, "Hz"), "kc/s": (1e3, "Hz"), "mc/s": (1e6, "Hz"),
    "min": (60.0, "s"), "mins": (60.0, "s"), "minute": (60.0, "s"), "minutes": (60.0, "s"),
    "hr": (3600.0, "s"), "hrs": (3600.0, "s"), "hour": (3600.0, "s"), "hours": (3600.0, "s"),
    "%": (0.01, "1"), "ppm": (1e-6, "1"), "°c": (1.0, "degC"),
}  # fmt: skip
# Where a million of the unit is absurd, old prints write milli in capitals: 12 MA, 450 MV, 2.5 MH.
MEGA_IS_MILLI = frozenset({"A", "V", "H", "S", "W", "s", "F"})

QUANTITY_OF_UNIT = {
    "V": ("voltage", "72.6 V"), "A": ("current", "12 mA"), "ohm": ("resistance", "4k7 or 6.72M"),
    "F": ("capacitance", "4n7 or 10 mfd"), "H": ("inductance", "8 H"), "Hz": ("frequency", "60 Hz"),
    "S": ("conductance", "3000 umho"), "s": ("time", "5 min"), "W": ("power", "40 W"),
    "degC": ("temperature", "23.1"), "1": ("share", "45 %"),
    "dB": ("level", "-6 dB"),
}  # fmt: skip

SYMBOLS = {"ohm": "Ω", "degC": "°C", "1": ""}

_ALIKE = str.maketrans({"µ": "u", "μ": "u", "−": "-", "–": "-", "\u2126": "Ω", "\u00a0": " ", "\u202f": " "})


def normalise(text: str) -> str:
    """Return `text` with the signs that look alike (µ, −, Ω) brought to one form."""
    return (text if text.isascii() else text.translate(_ALIKE)).strip()


def suffix_meaning(suffix: str, expected: str | None) -> tuple[float, str | None] | None:
    """Return (factor, unit) of what stands behind a number, or None where it means nothing.

    The unit is None where only a prefix was written, so that the place decides.
    """
    compact = suffix.replace(" ", "")
    compact = compact.rstrip(".") or compact
    if expected == "ohm" and compact in ("mc", "Mc"):
        return None
    if expected == "s" and compact in ("m", "h"):
        return (
            60.0 if compact == "m" else 3600.0
        ), "s"  # a time on a bench is minutes, never a thousandth of a second
    if compact == "C" and expected == "degC":
        return 1.0, "degC"
    if compact in PREFIXES:
        return PREFIXES[compact], None
    if compact.lower() in OLD_SUFFIXES:
        return OLD_SUFFIXES[compact.lower()]
    unit = _unit(compact)
    if unit:
        return 1.0, unit
    for length in (3, 1):
        unit = _unit(compact[length:])
        if compact[:length] in PREFIXES and unit:
            return PREFIXES[compact[:length]], unit
    return None


def _unit(word: str) -> str | None:
    if len(word) == 1 and word in _ONE_LETTER:
        return _ONE_LETTER[word]
    return UNITS.get(word.lower()) if word else None
