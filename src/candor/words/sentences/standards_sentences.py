"""What is said of standards: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_chain_needs_a_name_nothing": "A chain needs a name; nothing was written.",
    "a_coverage_factor_such_as": "a coverage factor such as 2",
    "a_digit_of_is_no_part": "“{head}”: a digit of {resolution} is no part of that range. Example: {example}",
    "a_kelvin_outside": ", {percent_per_kelvin} % a kelvin outside",
    "a_number_of_counts_such_as": "a number of counts such as 2",
    "a_number_of_days": "a number of days",
    "a_number_of_digits_such_as": "a number of digits such as 2",
    "a_line_holds_from_zero": (
        "“{upper}”: a line holds from zero to its end. Where it does so here, write to {high}; else give each range a line."
    ),
    "a_range_ends_above_zero_example": "“{head}”: a range ends above zero. Example: {example}",
    "a_share_such_as": "a share such as 0.005",
    "a_standard_is_used_by_its": (
        "A standard is used by its specification or by its certificate, not by both. Give lines of one kind."
    ),
    "a_standard_needs_a_name_nothing": "A standard needs a name; nothing was written.",
    "and_have_no_quantity_in_common": (
        "{name} and {other_name} have no quantity in common, so one cannot check the other."
    ),
    "at_correction_u_k": "at {value}{at}: correction {correction} U {expanded} k {factor}",
    "at_u": "at {value}{hertz}: {correction}U {expanded}{factor}",
    "by_certificate_point": "{head}by certificate, {points} point{plural}",
    "candor_cannot_read_here_examples": "Candor cannot read “{line}” here. Examples: {expected}",
    "gives_two_digit_sizes_give_one": "“{rest}” gives two digit sizes. Give one for each range.",
    "has_no_function_in": "{name}: {linked_name} has no function in {unit}.",
    "has_two_shares_and_does_not": (
        "“{rest}” has two shares and does not say of what; write “of reading” and “of range”."
    ),
    "how_much_is_a_digit_give": (
        "“{words}”: how much is a digit? Give it after the range, or the display's counts in the heading. "
        "Examples: {example}, or {unit}, 6000 counts"
    ),
    "is_not_a_kind_of_standard": "“{role}” is not a kind of standard. Expected: {listed}.",
    "is_not_a_link_of_a": "“{line}” is not a link of a chain. Examples: V: bench meter A, V d.c.; R: shunt, ohm",
    "is_not_a_quantity_use_one": "“{text}” is not a quantity. Use one of {heads}.",
    "is_not_a_standard_of_this": "“{of}” is not a standard of this shop. Known: {names}.",
    "is_not_understood_example": "“{piece}” is not understood. Example: {example}",
    "is_not_understood_examples": "“{words}” is not understood. Examples: {expected}.",
    "line_is_not_a_quantity_use": "Line {number}: “{head}” is not a quantity. Use one of {heads}.",
    "line_is_not_understood_examples_average": (
        "Line {number}: “{part}” is not understood. Examples: average responding, marked rms, crest factor 3,  "
        "loads 10M 100p, 6000 counts, steps 1m."
    ),
    "line_is_not_understood_examples_bears": (
        "Line {number}: “{line}” is not understood. Examples: “bears 600 V, 400 V to earth” or “holds 20 to 26 "
        "°C, 0.002 % a kelvin outside”."
    ),
    "no_link_is_named_expected": "{name}: no link is named. Expected: {expected}.",
    "none_is_recorded_yet": "none is recorded yet",
    "nothing_was_written": "{last}: {msg}. Nothing was written.",
    "of_full_scale": "% of full scale",
    "of_range": "{percent_of_range} % of range",
    "of_range_2": "{of_range} % of range",
    "of_range_3": " + {percent_of_range:g} % of range",
    "of_reading": "±({percent_of_reading:g} % of reading",
    "per_cent_a_year_such_as": "per cent a year such as 0.002",
    "recorded_entry": "Recorded {at}: {what}{by} (entry {number}).",
    "the_band_goes_backwards": "The band “{first}” goes backwards.",
    "the_counts_of_the_display_such": "the counts of the display such as 6000",
    "the_link_leads_to_no_standard": "{name}: the link “{link_name}” leads to no standard of this notebook.",
    "the_range_is_missing_example": "“{text}”: the range is missing. Example: {example}",
    "to_c": "{low_celsius} to {high_celsius} °C{outside}",
    "to_v_of_range_or_at": (
        "“{example}”, “to 10 V: 0.005 % + 0.001 % of range” or “at 10 V: correction 0.2 mV U 0.4 mV k 2”"
    ),
    "v": "{most_volts} V{earth}",
    "v_d_c_v_a_c": "V d.c. · V a.c. · A d.c. · A a.c. · ohm · F · H · Hz · s · siemens · dB · ratio",
    "v_mv_digits": "6 V, 1 mV: 0.5 % + 2 digits",
    "v_r_in_a_d_c": "“= V / R in A d.c.”, then a line for every name: “V: bench meter A, V d.c.”",
    "v_to_earth": ", {most_to_earth} V to earth",
    "what_the_chain_is_made_of": "Candor cannot read what the chain is made of. Expected: {expected}.",
    "what_the_standard_is_good_for": "What the standard is good for is missing. Expected: {expected}.",
}
