"""Units and prefixes of the bench, the old ones included.

Sources: prefixes, the SI brochure; letters inside a number, IEC 60062. The old abbreviations
(mfd, mmf, mho, cycles, kc) are common practice of the trade, no source.
"""

from __future__ import annotations

PREFIXES = {
    "f": 1e-15, "p": 1e-12, "n": 1e-9, "u": 1e-6, "m": 1e-3, "": 1.0,
    "k": 1e3, "K": 1e3, "M": 1e6, "meg": 1e6, "Meg": 1e6, "MEG": 1e6, "G": 1e9, "T": 1e12,
}  # fmt: skip

# Every spelling of a unit that takes prefixes, with the unit it means.
UNITS = {
    "V": "V", "v": "V", "volt": "V", "volts": "V",
    "A": "A", "a": "A", "amp": "A", "amps": "A",
    "ohm": "ohm", "ohms": "ohm", "Ω": "ohm", "R": "ohm",
    "F": "F", "H": "H", "S": "S", "mho": "S", "mhos": "S",
    "Hz": "Hz", "hz": "Hz", "cps": "Hz", "c": "Hz", "cycles": "Hz",
    "s": "s", "sec": "s", "W": "W", "w": "W", "watt": "W", "watts": "W",
}  # fmt: skip

# Whole suffixes that mean one thing on old drawings and would read otherwise by the rules above.
OLD_SUFFIXES = {
    "mfd": (1e-6, "F"), "mf": (1e-6, "F"), "MF": (1e-6, "F"), "MFD": (1e-6, "F"), "Mfd": (1e-6, "F"),
    "mmf": (1e-12, "F"), "mmfd": (1e-12, "F"), "MMF": (1e-12, "F"), "MMFD": (1e-12, "F"),
    "uuf": (1e-12, "F"), "uuF": (1e-12, "F"), "uf": (1e-6, "F"), "nf": (1e-9, "F"), "pf": (1e-12, "F"),
    "micromho": (1e-6, "S"), "micromhos": (1e-6, "S"),
    "kc": (1e3, "Hz"), "Kc": (1e3, "Hz"), "mc": (1e6, "Hz"), "Mc": (1e6, "Hz"),
    "min": (60.0, "s"), "h": (3600.0, "s"),
    "%": (0.01, "1"), "°C": (1.0, "degC"), "C": (1.0, "degC"),
}  # fmt: skip

QUANTITY_OF_UNIT = {
    "V": ("voltage", "73.8 V"), "A": ("current", "12 mA"), "ohm": ("resistance", "4k7 or 7.34M"),
    "F": ("capacitance", "4n7 or 10 mfd"), "H": ("inductance", "8 H"), "Hz": ("frequency", "60 Hz"),
    "S": ("conductance", "3000 umho"), "s": ("time", "5 min"), "W": ("power", "40 W"),
    "degC": ("temperature", "23.1"), "1": ("share", "45 %"),
}  # fmt: skip

SYMBOLS = {"ohm": "Ω", "degC": "°C", "1": ""}


def normalise(text: str) -> str:
    """Return `text` with the signs that look alike (µ, −, Ω) brought to one form."""
    table = {"µ": "u", "μ": "u", "−": "-", "–": "-", "\u2126": "Ω", "\u00a0": " ", "\u202f": " "}
    return "".join(table.get(character, character) for character in text).strip()


def suffix_meaning(suffix: str, expected: str | None) -> tuple[float, str | None] | None:
    """Return (factor, unit) of what stands behind a number, or None where it means nothing.

    The unit is None where only a prefix was written, so that the place decides.
    """
    compact = suffix.replace(" ", "")
    if expected == "ohm" and compact in ("mc", "Mc"):
        return None
    if compact in OLD_SUFFIXES:
        return OLD_SUFFIXES[compact]
    if compact in UNITS:
        return 1.0, UNITS[compact]
    if compact in PREFIXES:
        return PREFIXES[compact], None
    for length in (3, 1):
        prefix, unit = compact[:length], compact[length:]
        if prefix in PREFIXES and unit in UNITS:
            return PREFIXES[prefix], UNITS[unit]
    return None
