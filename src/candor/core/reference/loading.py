"""What a meter does to what it measures, and what makes a modern meter load as an old one did."""

from __future__ import annotations

import math

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded


def loaded(open_volts: float, meter_ohms: float, source_ohms: float) -> float:
    """Return what a meter reads of a source: V_read = V_open R_m/(R_m + R_s), V and ohm (Ohm's law)."""
    return open_volts * meter_ohms / (meter_ohms + source_ohms)


def unloaded(read_volts: float, meter_ohms: float, source_ohms: float) -> float:
    """Return what there is without the meter: V_open = V_read (R_m + R_s)/R_m, V and ohm (Ohm's law)."""
    return read_volts * (meter_ohms + source_ohms) / meter_ohms


def loading_error(meter_ohms: float, source_ohms: float) -> float:
    """Return the share by which a meter reads low: -R_s/(R_m + R_s), ohm in, a bare number out."""
    return -source_ohms / (meter_ohms + source_ohms)


@dataclass(frozen=True)
class StandIn:
    """What to put across a modern meter so that both load as the old one did.

    Attributes
    ----------
    ohms : float
        Of the resistor; infinite where none is needed.
    old_ohms : float
        What the old meter was on its range.
    watts : float
        What the resistor turns into heat at the old meter's full scale.
    sentence : str
    """

    ohms: float
    old_ohms: float
    watts: float
    sentence: str


def stand_in(ohms_per_volt: float, full_scale: float, meter_ohms: float) -> StandIn:
    """Return the resistor that makes a meter of `meter_ohms` load like one of `ohms_per_volt` on a range.

    1/(1/(S F) - 1/R_d), by Ohm's law.

    Parameters
    ----------
    ohms_per_volt : float
        S of the old meter, ohm per volt.
    full_scale : float
        F, the range the old meter was on, V: by its range it loads, not by what it reads.
    meter_ohms : float
        R_d of the meter that is used.

    Raises
    ------
    RangeError
        Where the meter that is used loads more than the old one did: nothing across it can mend that.
    """
    old = ohms_per_volt * full_scale
    if not (old > 0 and meter_ohms > 0):
        raise RangeError(
            worded("reference.a_load_is_worked_out_from"),
            value=f"{old:g}",
        )
    if meter_ohms < old * (1 - 1e-9):
        raise RangeError(
            worded(
                "reference.this_meter_s_already_load_more",
                meter_ohms=engineering(meter_ohms, "ohm"),
                old=engineering(old, "ohm"),
            ),
            value=engineering(meter_ohms, "ohm"),
            expected=worded("reference.at_least", old=engineering(old, "ohm")),
        )
    gap = 1 / old - 1 / meter_ohms
    ohms = math.inf if gap <= 1e-12 / old else 1 / gap
    watts = 0.0 if math.isinf(ohms) else full_scale**2 / ohms
    if math.isinf(ohms):
        words = worded("reference.this_meter_loads_as_the_old", old=engineering(old, "ohm"))
    else:
        across, with_it = engineering(ohms, "ohm"), engineering(meter_ohms, "ohm")
        range_words = worded(
            "reference.v_on_its_range",
            ohms_per_volt=engineering(ohms_per_volt, "ohm"),
            full_scale=engineering(full_scale, "V"),
        )
        words = worded(
            "reference.put_across_the_meter_with_its",
            across=across,
            with_it=with_it,
            range_words=range_words,
            old=engineering(old, "ohm"),
            watts=engineering(watts, "W", 2),
        )
    return StandIn(ohms=ohms, old_ohms=old, watts=watts, sentence=words)
