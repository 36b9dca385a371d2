"""What is said of soak: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_hundredth_of_what_it_moved": "a hundredth of what it moved, as no limit is known",
    "a_limit_of_expected_one_above": "a limit of {first:g}. Expected: one above zero.",
    "a_period_and_an_uncertainty_of": "A period and an uncertainty of the path are 0 or more.",
    "a_tenth_of_the_limit_of": "a tenth of the limit of {name}",
    "after_it_was_off_it_stands": "After it was off it stands {said} from where it was before{share}.",
    "ageing_a_day": "ageing {pair_in_powers} a day",
    "an_error_of_times_the_limit": (
        "{name}: an error of {shown}, {error:.0f} times the limit of {allowed}? Is it the value, or is a decimal "
        "point missing? Write “{really}” behind it where it is so."
    ),
    "are_there_already": "{there} are there already",
    "as_a_number_with_a_unit": "“{text}”: expected {what} as a number, with or without a unit.",
    "candor_does_not_know_that_it": "Candor does not know that the instrument is on. Enter “on”.",
    "could_not_be_kept_in_what": (
        "{name} could not be kept in {folder} ({strerror}). The reading stands, without its file."
    ),
    "ends_at_time_constant_s": "Ends at {final} ± {u_final}, time constant {tau} s.",
    "found_or_left": "found or left",
    "found_or_left_was_expected": "“{cell}”: found or left was expected.",
    "four_readings_or_more_at_equal": "Four readings or more at equal times are needed.",
    "from_to_w": "from {first} to {last} W",
    "is_in_and_in_was_left": "{point} is in {known} and in {unit}: {on} was left out.",
    "is_in_and_the_result_in": "{name} is in {unit}, and the result in {unit_2}.",
    "is_in_another_unit_than_those": "“{value}” is in another unit than those before. Expected: one unit.",
    "is_in_found": "{name} is in {known}; found {listed}.",
    "is_in_it": ", {in_powers}, is in it",
    "is_not_a_reading_of_anything": "{pair:g} is not a reading of anything.",
    "is_not_in_it": " is not in it",
    "is_there_already_not_taken_in": "is there already: not taken in again",
    "least_at_s_averaging_longer_is": "Least at {average} s: averaging longer does not help.",
    "leave_no_still_trace_on_a": "Leave no still trace on a picture tube: turn the intensity down.",
    "left_out_reading_far_off_both": "{words} Left out: {count} reading{count_2} far off both neighbours.",
    "never_leave_it_soaking_unattended_before": (
        "Never leave it soaking unattended before you have watched it for an hour: the right fuse, nothing "
        "flammable beside it, a smoke alarm in the room, and the plug within reach."
    ),
    "no_ageing_that_can_be_told": "no ageing that can be told",
    "no_soak_reading_yet_enter_one": (
        "No soak reading yet. Enter one, for example “soak 10.0231 V”, or let a meter on a link read."
    ),
    "of_its_limit": ", {moved} % of its limit",
    "off_since": "Off since {last:%H:%M}.",
    "offset_the_path_of_the_reference": "Offset {offset}, {ageing}; the path of the reference{known}.",
    "on_for_since": "On for {now}, since {astimezone:%H:%M}{how}.",
    "one_in_of_was_taken_the": "One in {every} of {found} was used; the fit needs no more.",
    "or_more": "4 or more",
    "or_more_2": "0 or more",
    "or_more_3": "6 or more",
    "read_in_part_on_the_simulated": "Read in part on the simulated meter: this says nothing of the instrument.",
    "readings_or_more_are_needed_before": "{values} readings: {least} or more are needed before it can be said.",
    "ready_at_s_between_and_s": "{head} Ready at {ready} s, between {low} and {high} s.",
    "ready_at_when_the_rest_is": "Ready at {astimezone:%H:%M} ± {half}, when the rest is under {left}, {whose}.",
    "s": "{seconds} s: {deviation:.3g} ± {u:.1g}",
    "s_is_before_it_was_switched": "{seconds:g} s is before it was switched on. Expected: 0 or more.",
    "settling_needs_six_readings_or_more": "Settling needs six readings or more over a stretch of time.",
    "since_it_is_on": "{words}{words_2} since it was switched on.",
    "still_moving_cannot_say": "Still moving, cannot say: {why}.",
    "the_day_of_a_calibration": "the day of a calibration",
    "the_day_of_a_result": "the day of a result",
    "the_limit_of_is_not_known": (
        "The limit of “{point}” is not known here. Name a test point, such as dc+/150/75, or give the limit: … "
        "limit 0.9 V"
    ),
    "the_power_rises_leakage_that_grows": (
        "The power rises, {rise}: leakage grows with heat. Find it before you go on soaking."
    ),
    "the_watts_hold_about_w": "The power is steady at about {last} W.",
    "there_are_none": "there are none.",
    "there_is_no_result_in_the": "there is no result in the table.",
    "there_is_no_result_in_the_file": "There is no result in the file.",
    "two_readings_have_the_moment_s": "two readings have the moment {twice:g} s.",
    "u_is_missing_the_expanded_uncertainty": "U is missing; the expanded uncertainty (k = 2) was expected.",
    "unwrapped_by_up_to_periods": " Unwrapped by up to {slips} periods.",
    "was_in_before_and_is_in": "{name} was in {known} before, and is in {unit} here.",
    "which_point_a_name_was_expected": "which point? A name was expected.",
}
