"""What an a.c. meter responds to and is marked in: average, peak, peak-to-peak, true rms; and what a waveform makes of that."""

from __future__ import annotations

import math
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Responds = Literal["average", "peak", "peak to peak", "rms"]
Marked = Literal["rms", "average", "peak", "peak to peak"]


@dataclass(frozen=True)
class Shape:
    """A waveform of one volt peak, without d.c.: its rms, its average after full-wave rectification, its crest factor."""

    name: str
    rms: float
    average: float

    @property
    def crest_factor(self) -> float:
        """Peak over rms."""
        return 1 / self.rms


# In closed form; the tests integrate them.
SHAPES = {
    "sine": Shape("sine", 1 / math.sqrt(2), 2 / math.pi),
    "square": Shape("square", 1.0, 1.0),
    "triangle": Shape("triangle", 1 / math.sqrt(3), 0.5),
}
_SINE = SHAPES["sine"]


@dataclass(frozen=True)
class Detector:
    """A detector and its scale.

    Attributes
    ----------
    responds : Responds
    marked : Marked
        What its scale is marked in, right for a sine.
    crest_factor : float
        The largest a true-rms detector follows; 0 where nobody said.
    """

    responds: Responds = "average"
    marked: Marked = "rms"
    crest_factor: float = 0.0

    @property
    def words(self) -> str:
        """Such as ``average-responding, marked in rms of a sine``."""
        responds = "true rms" if self.responds == "rms" else f"{self.responds.replace(' ', '-')}-responding"
        return worded(
            "reference.marked_in",
            responds=responds,
            marked=self.marked,
            how=" of a sine" if self.marked == "rms" and self.responds != "rms" else "",
        )


def _shape(waveform: str) -> Shape:
    found = SHAPES.get(waveform or "sine")
    if found is None:
        raise RangeError(
            (worded("reference.what_a_meter_makes_of_a", waveform=waveform, listed=", ".join(SHAPES))),
            value=waveform,
            expected=", ".join(SHAPES),
        )
    return found


def _measures(responds: str, shape: Shape) -> float:
    return {"average": shape.average, "peak": 1.0, "peak to peak": 2.0, "rms": shape.rms}[responds]


def reading_over_rms(detector: Detector, waveform: str) -> float:
    """Return what a meter reads of a waveform, over its true rms: a ratio.

    It measures what it responds to, and shows that times the factor that is right for a sine:
    (marked of a sine / measured of a sine) x measured of the shape / rms of the shape: by definition of each detector.
    Average-responding and marked in rms: sine 1, square 1.111, triangle 0.962; peak-responding: square 0.707, triangle 1.225.

    Raises
    ------
    RangeError
        Where the waveform is not known, or a true-rms detector cannot follow its crest factor.
    """
    shape = _shape(waveform)
    if (
        detector.responds == "rms"
        and detector.crest_factor
        and shape.crest_factor > detector.crest_factor * (1 + 1e-9)
    ):
        raise RangeError(
            (
                worded(
                    "reference.a_has_a_crest_factor_of",
                    name=shape.name,
                    crest_factor=shape.crest_factor,
                    detector_crest_factor=detector.crest_factor,
                )
            ),
            value=waveform,
            expected=worded("reference.a_crest_factor_of_at_most", crest_factor=detector.crest_factor),
        )
    scale = _measures(detector.marked, _SINE) / _measures(detector.responds, _SINE)
    return scale * _measures(detector.responds, shape) / shape.rms


def distortion_half_width(detector: Detector, distortion: float) -> float:
    """Return by what share a meter may read wrong for harmonics of unknown order and phase, h = THD as a share of the fundamental.

    Average-responding up to h √(π²/8 − 1) = 0.483 h: |Σ h_n/n| over odd n, at the worst share of THD among them (Cauchy's
    inequality with Σ 1/n² = π²/8 over odd n). Peak and peak-to-peak up to h of one harmonic, true rms h²/2 as it reads the
    harmonics too: by definition of each detector. Shares in and out.
    """
    return {
        "average": distortion * math.sqrt(math.pi**2 / 8 - 1),
        "peak": distortion,
        "peak to peak": distortion,
        "rms": distortion**2 / 2,
    }[detector.responds]


def d_c_on_full_wave(detector: Detector) -> float:
    """Return what a full-wave a.c. range without a blocking capacitor reads of d.c., over it, a ratio: 1.111, both ways round.

    Unlike readings both ways round mean a bad arm of its rectifier.
    """
    return _measures(detector.marked, _SINE) / _measures(detector.responds, _SINE)
