"""What a line about what readings stand on means: the frequency, the standard that was connected, the set-up."""

from __future__ import annotations

from candor.core.calibration.setup import SetUpTerm
from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class FrequencyJot:
    """The frequency, Hz, at which a function of alternating current is read."""

    hertz: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class AgainstJot:
    """The standard, by its name or key, that was connected when readings were taken for which none was named."""

    name: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class SetUpJot:
    """A term of the set-up: SI, or a share; U, k = 2, where it was said."""

    term: SetUpTerm
    chips: tuple[str, ...] = ()
