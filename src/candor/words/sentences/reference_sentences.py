"""What is said of reference: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_crest_factor_of_at_most": "a crest factor of at most {crest_factor:g}",
    "a_has_a_crest_factor_of": (
        "A {name} has a crest factor of {crest_factor:.3g}; this true-rms meter follows "
        "{detector_crest_factor:g} at most."
    ),
    "a_load_is_worked_out_from": (
        "A load is calculated from ohms per volt, a range and the meter's input, all above zero."
    ),
    "a_year_over_years_rectangular": "{drift_percent_per_year:g} % a year over {years:.2f} years, rectangular.",
    "at_comes_to_its_links_bring": "{name} at {shown} comes to {value}; its links bring:",
    "at_least": "at least {old}",
    "at_most": "at most {top:g} {unit}",
    "at_most_v": "at most {most_volts:g} V",
    "bears_at_most_and_would_stand": (
        "{name} takes {most_volts} at most, and {volts} would be on it: keep the lead off."
    ),
    "certificate_u_k_jcgm": "Certificate, U/k (JCGM 100, 4.3.3).",
    "counts_of": "{counts:g} counts of {resolution}",
    "does_not_come_to_by_its": "{name} does not come to {value:g} {unit} by its formula.",
    "half_a_step": "{name}, half a step",
    "harmonics_up_to_phase_unknown_on": (
        "Harmonics up to {harmonics:.3g} %, phase unknown, on a meter that is {words}."
    ),
    "is_a_link_of_itself_by": "{name} is a link of itself, by “{link}”: a chain cannot go round.",
    "is_a_link_that_does_not": "{name}: “{first}” is a link that “{formula}” does not use.",
    "is_a_standard_for_is": "{name} is a standard for {current}; {point_name} is {asked}.",
    "is_beyond_the_specification_of_which": "{magnitude} is beyond the specification of {name}, which ends at {top}.",
    "is_certified_at_not": "{name} is certified at {known}, not {at}.",
    "is_not_specified_its_bands_are": "{name} is not specified {at}: its bands are {bands}.",
    "is_outside_the_certified_span_of": "{magnitude} is outside the certified span of {name}, {first} to {last}.",
    "k_outside_to_c": "{excess:.1f} K outside {low_celsius:g} to {high_celsius:g} °C.",
    "marked_in": "{responds}, marked in {marked}{how}",
    "of_reading": "{percent_of_reading:g} % of reading",
    "of_this_reading_alone_counts_and": "Of this reading alone: counts and per cent of range.",
    "one_link_must_be_the_one": (
        "{name}: one link must be the one that is read or set at each reading, all others need a value of their own."
    ),
    "one_link_without_a_value": "one link without a value",
    "one_sided_or_no_limit_no": "The limit is one-sided, or there is none: no ratio can be given.",
    "put_across_the_meter_with_its": (
        "Put {across} across the meter: with its {with_it} it then loads as one of {range_words} did, {old}. It "
        "takes {watts} at full scale. The load belongs to the step: to change it until the reading comes right "
        "is to change the method."
    ),
    "set_in_steps_of_half_a": "Set in steps of {step}, half a step either way, rectangular.",
    "specification_rectangular_jcgm": "Specification{band} ±({listed}), rectangular (JCGM 100, 4.3.7).",
    "this_meter_loads_as_the_old": "This meter loads as the old one did: {old}. Nothing goes across it.",
    "this_meter_s_already_load_more": (
        "This meter's {meter_ohms} already load more than the {old} that the procedure assumed; one of higher "
        "input resistance is needed."
    ),
    "tur_limit_u_the_reading_of": (
        "TUR {ratio:.1f} (limit / U, with the reading of the instrument in U): {enough}. {span:.1f} without it."
    ),
    "v_on_its_range": "{ohms_per_volt}/V on its {full_scale} range",
    "was_checked_on_due": "{name} was checked on {when}, due {due}.",
    "was_last_checked_on_and_was": "{name} was last checked on {when} and was due on {due}: {days} days over.",
    "was_never_checked_against_a_standard": "{name} was never checked against a standard.",
    "what_a_meter_makes_of_a": "Candor does not know how a meter reads a “{waveform}”. Expected: {listed}.",
}
