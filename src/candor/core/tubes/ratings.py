"""What tubes of a generic kind bear: ceilings that most types of the kind have in common.

The figures are from memory of receiving-tube handbooks, rounded down to what the weaker types of each kind bear; a type's own sheet
rules. They are nominal at stated volts only, and nothing is certified by them.
"""

from __future__ import annotations

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded


@dataclass(frozen=True)
class TubeKind:
    """Design-centre maxima of a generic kind.

    Attributes
    ----------
    name : str
    plate_volts, screen_volts : float
        V; 0 where it has none.
    plate_watts, screen_watts : float
        W, for each section.
    heater_volts, heater_amperes : float
        Usual ones, V and A.
    first_farads : float
        Largest capacitor straight after a rectifier, F; 0 where it is none.
    plate_amperes : float
        Of a rectifier, each plate's d.c. current, A.
    """

    name: str
    plate_volts: float
    plate_watts: float = 0.0
    screen_volts: float = 0.0
    screen_watts: float = 0.0
    heater_volts: float = 6.3
    heater_amperes: float = 0.3
    first_farads: float = 0.0
    plate_amperes: float = 0.0


KINDS: tuple[TubeKind, ...] = (
    TubeKind("triode, medium mu", 300, 2.5, heater_amperes=0.6),
    TubeKind("triode, high mu", 250, 1.0),
    TubeKind("triode, power", 250, 15.0, heater_volts=2.5, heater_amperes=2.5),
    TubeKind(worded("tubes.pentode_small_sharp_cut_off"), 300, 2.0, screen_volts=150, screen_watts=0.5),
    TubeKind(worded("tubes.pentode_small_remote_cut_off"), 300, 2.5, screen_volts=125, screen_watts=0.4),
    TubeKind("pentode, wide band", 300, 3.0, screen_volts=150, screen_watts=0.4, heater_amperes=0.45),
    TubeKind("pentode, power", 250, 9.0, screen_volts=250, screen_watts=2.0, heater_amperes=0.7),
    TubeKind("beam power, small", 250, 10.0, screen_volts=250, screen_watts=1.5, heater_amperes=0.45),
    TubeKind("beam power, large", 350, 18.0, screen_volts=250, screen_watts=2.5, heater_amperes=0.9),
    TubeKind("diode, detector", 100, heater_amperes=0.3, plate_amperes=8e-3),
    TubeKind("rectifier, directly heated", 350, heater_volts=5, heater_amperes=2.0, first_farads=20e-6, plate_amperes=60e-3),
    TubeKind("rectifier, indirectly heated", 325, heater_amperes=0.6, first_farads=40e-6, plate_amperes=35e-3),
    TubeKind("rectifier, mercury vapour", 350, heater_volts=5, heater_amperes=3.0, plate_amperes=100e-3),
    TubeKind("eye, single shadow", 200, 0.2),
    TubeKind("eye, double shadow", 200, 0.2),
)  # fmt: skip
BY_NAME = {kind.name: kind for kind in KINDS}


def kind_of_tube(words: str) -> TubeKind | None:
    """Return the generic kind that people's words name, such as ``beam power small``; None where none or several fit."""
    wanted = {w for w in words.casefold().replace(",", " ").replace("-", " ").split() if w}
    if not wanted:
        return None
    fits = [k for k in KINDS if wanted <= set(k.name.replace(",", " ").replace("-", " ").split())]
    exact = [k for k in fits if set(k.name.replace(",", " ").replace("-", " ").split()) == wanted]
    found = exact or fits
    return found[0] if len(found) == 1 else None
