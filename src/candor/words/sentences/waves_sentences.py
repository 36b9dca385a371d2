"""What is said of waves: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_b_a_b_over_cycles": "(A − B)/(A + B) over {swings} cycles, {samples:.0f} samples each",
    "against_at_hz_leads": "{name} against {one_name} at {hertz:.6g} Hz, + leads",
    "and_are_not_sampled_together_no": (
        "{name} and {other_name} are not sampled together: no phase lies between them."
    ),
    "at_s_a_glitch_left_out": "{many} at {where:.4g} s: a glitch, left out of the figures.",
    "beyond_the_level_after_an_edge": "beyond the level after an edge, the worst of {over}{noise}",
    "crossing_of_one_slope_two_make": "{count} crossing{plural} of one slope; two make a period",
    "cycles_in_the_record_at_least": "{cycles:.1f} cycles in the record; at least {fewest_cycles:g} were expected",
    "cycles_of_a_carrier_more_than": "{count} cycles of a carrier; more than {fewest_cycles} were expected",
    "displayed_scope_the_rule_of_squares": "√(displayed² − scope²); the rule of squares is worth ±{sqrt:.1%} here",
    "every_sample_is_alike_there_is": "Every sample is alike: there is no waveform.",
    "everything_but_the_fundamental_of_the": (
        "everything but the fundamental, of the total, to half the sampling rate"
    ),
    "from_peak_to_peak_once_it": "from peak to peak once it reached the level{noise}",
    "harmonics_of_hz_cycles": "{others} harmonics of {hertz:.6g} Hz, {cycles:.1f} cycles",
    "has_nothing_at_hz": "{name} has nothing at {hertz:.6g} Hz",
    "highest_less_lowest_sample_noise_in": "highest less lowest sample, noise in it",
    "it_does_not_rest_at_both": "It does not rest at both levels: {method}.",
    "it_rests_at_both_levels_no": "it rests at both levels: no carrier",
    "it_rests_at_neither_level_after": "it rests at neither level after an edge",
    "line_is_not_a_row_of": "{name}, line {number}: “{line}” is not a row of numbers.",
    "line_values_were_expected": "{name}, line {number}: {cells} values; {first} were expected.",
    "min_max_it_rests_nowhere": "min-max: it rests nowhere",
    "min_max_it_stands_still": "min-max: it stands still",
    "mode_of_the_histogram_for_the": "mode of the histogram for the {first}, the end value for the other",
    "modes_of_the_histogram": "modes of the histogram",
    "no_edge_that_s_from_to": "no edge that {name}s from 10 to 90 % is whole",
    "no_harmonic_lies_under_half_the": "no harmonic lies under half the sampling rate",
    "no_level_between_two_edges_is": "no level between two edges is whole",
    "no_samples_in_the_first_lines": (
        "{name}: no samples in the first {lines} lines; columns of numbers were expected."
    ),
    "no_time_is_to_be_found": (
        "{name}: no time was found. Expected: a column that rises evenly, or a heading such as “sample interval, "
        "1e-9”."
    ),
    "no_two_levels_on_both_sides": "no two levels on both sides of an edge are whole",
    "no_whole_pulse_lies_between_the": "no whole pulse lies between the ends",
    "noise_is_of_it": "; noise is ±{noise:.2%} of it",
    "of_the_fundamental": "of the fundamental, {words}",
    "of_the_total": "of the total, {words}",
    "over_period_between_crossings_of_the": "over {periods} period{plural} between crossings of the half level",
    "a_residual_is_zero_or_more": "readings, residuals and their U are zero or more",
    "there_is_no_reading_to_compare": "there is no reading to compare",
    "no_reading_of_an_analyser": "“{text}” is no reading of an analyser. Example: {example}",
    "an_oscilloscope_says_preamble_and_data": (
        "the address of an oscilloscope has three parts with semicolons between: where it answers; preamble, what it is asked "
        "and its fields; data, what it is asked and its samples. Example: {example}"
    ),
    "is_no_field_of_a_preamble": "“{field}” is no field of a preamble; there are {fields}",
    "is_no_kind_of_sample": "“{samples}” is no kind of sample; there are {kinds}",
    "is_no_number_in_the_preamble": "“{value}” is no number where the preamble should say its {name}",
    "over_samples_are_not_read": "over {most} samples are not read over a link: shorten the record",
    "samples_came_and_the_preamble_says": "{count} samples came, and the preamble says {said}",
    "the_block_ends_inside_a_sample": "{count} bytes came, which end inside a sample: are its samples of another kind?",
    "the_interval_is_not_above_zero": "the interval between two samples is {interval:g} s; it should be above zero",
    "the_preamble_does_not_say_its": "the address does not say where in the preamble its {field} stands",
    "the_preamble_has_fields": "the preamble came with {count} fields, and the address names {fields}",
    "too_few_samples_came": "{count} samples came, or some without bounds; {fewest} are needed",
    "what_came_for_samples_is_no_number": "what came for samples holds something that is no number",
    "over_whole_cycles": "over {floor} whole cycles",
    "rise_of_the_source": "rise of the source",
    "sample_is_not_a_number": "{name}: sample {where} is not a number.",
    "sample_stands_alone": "1 sample stands alone,",
    "samples_a_cycle_at_least_were": "{samples:.1f} samples a cycle; at least {fewest_samples:g} were expected",
    "samples_an_edge_mostly_sampling": "; {samples:.1f} samples an edge: mostly sampling",
    "samples_are_not_evenly_spaced_s": (
        "{name}: samples are not evenly spaced: {steps:.4g} s after sample {worst}, {mean:.4g} s on the average."
    ),
    "samples_are_too_few": "{count} samples are too few",
    "samples_at_least_were_expected": "{name}: {samples} samples; at least {fewest} were expected.",
    "samples_at_least_were_expected_2": "{name}: {values} samples; at least {fewest} were expected.",
    "samples_stand_alone_the_first": "{alone} samples stand alone, the first",
    "samples_stand_at_exactly_the_value": (
        "{count} samples stand at exactly the {name} value: it may be cut off there."
    ),
    "samples_stand_at_exactly_the_value_it": (
        "{count} samples stand at exactly the {name} value: it is cut off there."
    ),
    "share_of_the_period_above_the": "share of the period above the half level",
    "start_end_jump_at_the_edge": "(start − end) / jump at the edge; tanh(π fc / 2f) of a corner fc",
    "thd_of_the_total": "THD of the total",
    "the_envelope_does_not_move_by": "the envelope does not move by more than its uncertainty",
    "the_envelope_moves_it_is_modulated": "the envelope moves: it is modulated",
    "the_fundamental_lies_at_half_the": "the fundamental lies at half the sampling rate",
    "the_mean_in_it": "{over}, the mean in it",
    "the_oscilloscope_s_own_s_is": (
        "The oscilloscope's own {scope_s:.3g} s is not shorter than the {displayed_s:.3g} s displayed: the rise "
        "of the source cannot be told."
    ),
    "there_is_a_time_and_nothing": "{name}: there is a time and nothing beside it; a channel was expected.",
    "time_does_not_go_forward_from": "{name}: time does not go forward from sample to sample ({interval_s:g} s).",
    "time_runs_back_or_stands_still": (
        "{name}: time runs back, or stands still, at sample {at} ({times:g} s); it must rise from sample to sample."
    ),
    "to": "10 to 90 %, {method}{few}",
    "top_less_base": "top less base; {said}",
    "what_lies_between_its_edges_is": "what lies between its edges is not a level",
}
