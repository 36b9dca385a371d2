"""What the shop has said once for all its jobs: its mains, and the frequency of its ESR meter."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable, Mapping
from dataclasses import field
from pathlib import Path

from candor.core.errors import CandorError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import LocalRule, read_rule
from candor.core.parts.mains import Mains, read_mains
from candor.core.plan.shop_hours import read_hours, read_shared
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import OLD_UNITS
from candor.core.worded import worded


@dataclass(frozen=True)
class Settings:
    """Settings of the shop.

    Attributes
    ----------
    mains : Mains or None
        None where nobody has said.
    esr_hertz : float
        At what its ESR meter tests, Hz; 0 where nobody has said.
    local_rule : LocalRule
        The limits of what is measured before an instrument goes.
    units : tuple of str
        The units of old charts that are shown instead of the SI's, of `OLD_UNITS`.
    """

    mains: Mains | None = None
    esr_hertz: float = 0.0
    local_rule: LocalRule = field(default_factory=LocalRule)
    units: tuple[str, ...] = ()

    def hertz_of(self, loss: str) -> float:
        """Return the frequency of what was written without one: ESR by the shop's meter, PF by a dial on its mains; else 0."""
        if loss == "esr":
            return self.esr_hertz
        return self.mains.hertz if loss == "pf" and self.mains else 0.0


def _hertz(text: str) -> float:
    return parse_quantity(text, "Hz").value


def read_country(text: str) -> str:
    """Return a country as two letters.

    Raises
    ------
    ValueTextError
        Where it is anything else.
    """
    letters = text.strip().upper()
    if not re.fullmatch("[A-Z]{2}", letters):
        expected = worded("work.two_letters_by_iso_such_as")
        raise ValueTextError(
            worded("work.is_not_a_country_expected", text=text, expected=expected), value=text, expected=expected
        )
    return letters


def read_units(text: str) -> tuple[str, ...]:
    """Return the old units that are named.

    Raises
    ------
    ValueTextError
        Where one is none that can be shown.
    """
    named = tuple(dict.fromkeys(re.findall(r"[^\s,;]+", text.lower().replace("µ", "u").replace("μ", "u"))))
    for name in named:
        if name not in OLD_UNITS:
            expected = worded("work.one_or_both_of_or_nothing", listed=", ".join(OLD_UNITS))
            raise ValueTextError(
                worded("work.is_not_a_unit_that_can", name=name, expected=expected), value=name, expected=expected
            )
    return named


def read_folder(text: str) -> Path:
    """Return a folder that is there.

    Raises
    ------
    ValueTextError
        Where it is none.
    """
    folder = Path(text.strip()).expanduser()
    if not folder.is_absolute() or not folder.is_dir():
        raise ValueTextError(
            worded("work.is_no_folder_on_this_machine", text=text), value=text,
            expected=worded("work.a_folder_that_is_there"),
        )  # fmt: skip
    return folder


def read_oscilloscope(text: str) -> str:
    """Return where an oscilloscope answers, and how, as it is kept; "simulated" is one that comes with Candor.

    Raises
    ------
    ValueTextError
        Where it cannot be read.
    """
    from candor.core.waves.captured import SIMULATED, read_scope_address  # only where somebody says one

    if text.strip() != SIMULATED:
        read_scope_address(text)
    return text.strip()


def _hands(text: str) -> str:
    if not text.strip().isdigit() or not 0 < int(text) < 100:
        raise ValueTextError(
            worded("work.is_no_number_of_pairs_of", text=text.strip()), value=text, expected="1 to 99"
        )
    return str(int(text))


# What a field of the shop may hold, read and written as it is kept; raises CandorError where it cannot be.
READ: Mapping[str, Callable[[str], str]] = {
    "mains": lambda text: read_mains(text).words,
    "esr_meter": lambda text: engineering(_hertz(text), "Hz"),
    "country": read_country,
    "local_rule": lambda text: read_rule(text).words,
    "units": lambda text: ", ".join(read_units(text)),
    "hours": lambda text: read_hours(text).words,
    "hands": _hands,
    "oscilloscope": read_oscilloscope,
    "shared": lambda text: read_shared(text).words,
    "backup_to": lambda text: str(read_folder(text)),
}


def settings_of(details: Mapping[str, str]) -> Settings:
    """Return the settings from the shop's details; what cannot be read counts as not said."""
    mains, hertz = None, 0.0
    with contextlib.suppress(CandorError):
        mains = read_mains(details["mains"]) if details.get("mains") else None
    with contextlib.suppress(CandorError):
        hertz = _hertz(details["esr_meter"]) if details.get("esr_meter") else 0.0
    rule = LocalRule()
    with contextlib.suppress(CandorError):
        rule = read_rule(details.get("local_rule", ""))
    units: tuple[str, ...] = ()
    with contextlib.suppress(CandorError):
        units = read_units(details.get("units", ""))
    return Settings(mains, hertz, rule, units)
