"""What is said of leakage: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_leakage_limit_needs_a_capacitance": (
        "A leakage limit needs a capacitance and a voltage above zero; found {capacitance:g} F, {volts:g} V."
    ),
    "a_power_factor_lies_from_to": "A power factor lies from 0 to below 1 (100 %); found {factor:g}.",
    "at_most_v": "at most {volts:g} V",
    "at_most_v_2": "at most {tester_most_volts:g} V",
    "esr_needs_a_capacitance_and_a": (
        "ESR needs a capacitance and a frequency above zero; found {capacitance:g} F, {hertz:g} Hz."
    ),
    "going_up_of_v": "going up: {volts} of {target_volts} V",
    "met_in_min": "{limit} met in {start} {end} min",
    "met_in_min_at_the_earliest": "{limit} met in {start} min at the earliest; the latest cannot be told",
    "min_at_v_are_over": "{dwell_s} min at {volts} V have passed",
    "no_progress_by_its_fall_the": "no progress: at this rate the leakage will not reach the limit",
    "not_met_by_all_that_is": "{limit} not met, by all that is seen",
    "of_heat_in_it_the_limit": "{watts} of heat in it, the limit is {heat_watts} W",
    "the_current_rises_at_constant_voltage": "the current rises at constant voltage",
    "the_longest_time_min_is_over": "the longest time, {most_s} min, has passed",
    "the_of_a_run_is_expected": "The {name} of a run is {value:g}. Expected: a value above zero.",
    "the_safe_voltage_may_be_from": (
        "The safe voltage may be from above 0 to {safe_volts:g} V; found {self_safe_volts:g} V."
    ),
    "the_safe_voltage_may_be_set": (
        "The safe voltage may be set from above 0 to {safe_volts:g} V; found {safe_volts_2:g} V."
    ),
    "the_tester_s_volts_were_not": (
        "The tester's volts were not seen to follow its source in this run, so they cannot say that the part is "
        "safe: measure with a meter you have proved."
    ),
    "the_volts_do_not_follow_the": (
        "the volts do not follow the source: {volts:.3g} V read where about {expected:.3g} V must stand. Do not "
        "trust this meter"
    ),
    "too_early_to_say": "{limit}: too early to say",
    "up_to_v_on_the_clips": (
        "Up to {volts} V on the clips. Discharge the part first, clip it, hands off, cover it; local rules first."
    ),
    "v_about_s_to_v_do": "{volts} V: about {left} s to {safe_volts} V; do not touch",
    "v_is_above_its_rating_of": "{volts} V is above its rating of {volts_2} V: it can burst.",
    "v_is_more_than_any_capacitor": (
        "{target_volts} V is more than any capacitor tester gives: at most {tester_most_volts} V."
    ),
    "v_measured_under_v": "{volts} V measured: under {safe_volts} V",
    "v_stood_on_the_part": "{volts} V stood on the part",
    "write_why_it_must_be_so": "{over} Write why it must be so, or stay at {volts} V.",
}
