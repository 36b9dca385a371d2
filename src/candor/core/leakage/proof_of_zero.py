"""Whether a tester's volts follow its source: a meter that reads 0, or a thousandth, must never say that a part is safe."""

from __future__ import annotations

from candor.core.worded import worded

AGREES = 0.1  # of the setting: what stands on the part is the setting less the drop in the source (Kirchhoff)
TELLS = 0.5  # of the setting: below it the current takes so much that a dead meter could agree too
APART = 0.8  # of the highest level: another must lie under it, or both may be one stuck reading
WRONG_S = 3.0  # for so long the volts may lag behind


class MeterProof:
    """Follows the volts of one run, read by a link or typed, against what its source was set to.

    Two levels must agree, the highest included.

    Parameters
    ----------
    series_ohms : float
        Of the source, sense resistor included.
    """

    def __init__(self, series_ohms: float) -> None:
        self._ohms = series_ohms
        self._agreed: set[float] = set()
        self._highest = 0.0
        self._wrong_since: float | None = None
        self._said = ""

    def take(self, level: float, seconds: float, volts: float, amperes: float) -> None:
        """Take a reading at a level of the source; V, s, V, A."""
        self._highest = max(self._highest, level)
        expected = level - max(amperes, 0.0) * self._ohms
        if level <= 0 or expected < TELLS * level:
            self._wrong_since = None
        elif abs(volts - expected) <= AGREES * level:
            self._agreed.add(level)
            self._wrong_since = None
        else:
            self._wrong_since = seconds if self._wrong_since is None else self._wrong_since
            if seconds - self._wrong_since >= WRONG_S:
                self._said = worded("leakage.the_volts_do_not_follow_the", volts=volts, expected=expected)

    def agrees_at(self, level: float) -> bool:
        """Say whether the volts were seen to follow at a level."""
        return level in self._agreed

    @property
    def wrong(self) -> str:
        """Why the run must end; empty where nothing is wrong."""
        return self._said

    @property
    def proved(self) -> bool:
        """Whether what the meter reads may be believed when it says that nothing is left."""
        if self._said or self._highest not in self._agreed:
            return False
        return any(level <= APART * self._highest for level in self._agreed)
