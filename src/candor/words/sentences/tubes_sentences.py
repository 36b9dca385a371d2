"""What is said of tubes: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_place_on_the_tester_s": "a place on the tester's scale such as 78",
    "a_reading_goes_with_it_fold": (
        "a {test} reading changes {steep:g} times as much, in per cent (common practice, no source)"
    ),
    "a_line_before_and_held": (
        "The line before and while the button is held: {before:g} V and {held:g} V are not of one line."
    ),
    "a_log_of_the_line_is_short": (
        "{count} readings of the line: with fewer than {least} nobody knows what it does by itself."
    ),
    "a_section_in_every_line_or": "a section in every line, or in none",
    "a_slope_needs_the_plate_current": "A slope needs the plate current at two grid voltages or more.",
    "a_tester_nobody_named": "a tester nobody named",
    "a_tube_on_hand": "a tube on hand",
    "about_the_line": "About the line.",
    "all_currents_were_read_at_one": "All currents were read at one grid voltage: there is no slope.",
    "all_known_tubes_were_shown_alike": "All known tubes read alike: no line can be drawn through them.",
    "as_its_own_calibration_left_it": "As its own calibration left it.",
    "at_the_setting_for_closed_closed": "At the setting for closed: closed, without overlap.",
    "at_the_setting_for_open_open": "At the setting for open: open, even, bright.",
    "both_sections_alike_within_a_tenth": "Both sections alike, within a tenth.",
    "by_least_squares_over_the_grid": "By least squares over the grid volts.",
    "by_the_nudge_sheet_rectangular": "By the nudge sheet, rectangular.",
    "by_the_slope_itself": "By the slope itself.",
    "by_the_three_halves_law_and": "By the three-halves law, and taken out by it.",
    "candor_cannot_read_here_example": "Candor cannot read “{text}” here. Example: {sag_line}",
    "failed_it_goes_into_no_socket": "{key} failed on {ended} and must not go into a socket.",
    "glass_whole_base_firm_getter_silver": "Glass whole, base firm, getter silver and not white; nothing rattles.",
    "good_or_bad": "good or bad",
    "good_or_bad_was_expected": "{title}: “{words}”; good or bad was expected.",
    "grid_volts_each_reading": "grid volts, each reading",
    "half_a_dash": "{control}, half a dash",
    "has_of_the_sections_that_others": (
        "{odd} has {found} of the {most} sections that others have; tubes of one kind were expected."
    ),
    "has_one_section_section_is_of": "{key} has one section; “section {section}” is of a tube with several.",
    "has_the_sections_say_which_section": (
        "{key} has the sections {listed}: say which, “section 1 {test} …”. One figure for two says nothing of either."
    ),
    "is_a_type_of_tube_begin": "“{first}” is a type of tube. Begin with the tube's own name. Example: {tube_line}",
    "is_given_twice_each_once_was": (
        "{tube}: {section} is given twice; each once was expected. Are two sections recorded as one?"
    ),
    "is_not_a_test": "“{text}” is not a test.",
    "is_not_a_test_use_one": "“{test}” is not a test. Use one of {listed}.",
    "is_not_on_hand": "{key} is not on hand.",
    "is_outside_to_the_span_of": (
        "{shown:g} is outside {low:g} to {high:g}, the span of the known tubes and a fifth of it: nothing is "
        "known of the tester there."
    ),
    "is_there_already_not_taken_in": "is there already: not taken in again",
    "its_chart_does_not_name_the": "its chart does not name the tube",
    "known_tube_a_correction_needs_at": (
        "{known} known tube{plural}: a correction needs at least {least}, over the range."
    ),
    "line_grid_volts_and_plate_current": "line {number}: “{line}”: grid volts and plate current were expected.",
    "line_while_held": "line while the button was held",
    "line_half_a_dash": "line, half a dash",
    "line_since_it_was_set": "line since it was set",
    "ma": "{written} mA",
    "merit_on_the_tester_s_scale": "Merit on the tester's scale, held 3 s.",
    "minutes_such_as": "minutes such as 2",
    "more_were_tested_in_other_sittings": "; {left} more were tested in other sittings, or not whole",
    "needle_scale_not_known": "needle, scale not known",
    "no_calibration_of_the_tester_is": "No calibration of the tester is known: assumed (common practice, no source).",
    "no_on_the_shelf_was_tested": "No {type} on the shelf was tested whole in one sitting.",
    "nobody_said_how_its_scale_is": (
        "How its scale is divided was not stated: a quarter of a fiftieth, at a third of the scale, is assumed; "
        "rectangular."
    ),
    "nobody_stamped_the_line": "nobody stamped the line",
    "nothing_was_written_expected_what_a": "Nothing was written. Expected: what a dash of each control is worth.",
    "of_on": "{tubes} of {type}, {test} on {tester}, {day:%d %b %Y}",
    "ohms_between_the_heater_pins_cold": "Ohms between the heater pins, cold: it is whole.",
    "on_the_range_and_settings_of": "On the range and settings of the chart, line set with it drawing.",
    "or_more": "3 or more",
    "pentode_small_remote_cut_off": "pentode, small, remote cut-off",
    "pentode_small_sharp_cut_off": "pentode, small, sharp cut-off",
    "per_cent_of_nominal_such_as": "per cent of nominal such as 65",
    "plate_current_each_reading": "plate current, each reading",
    "read_to_a_quarter_of_a": "Read to a quarter of a division, rectangular.",
    "seconds_such_as": "seconds such as 4",
    "set_min_before": "set {age_s:.0f} min before",
    "sits_in_already": "{key} sits in {socket} already.",
    "sits_in_no_socket": "{key} sits in no socket.",
    "sits_in_of_a_job_take": "{key} sits in {socket} of a job: take it out there first.",
    "read_before_and_while_it_was_held": (
        "Read before the button was pressed and while it was held; what a volt of it is worth as it was tried here, "
        "else by the usual law, to half of what it adds."
    ),
    "some_lines_name_a_section_and": (
        "{key}: some lines name a section and some none. Are two sections recorded as one?"
    ),
    "tapped_listened_to_no_crackle_no": "Tapped, listened to: no crackle, no ringing.",
    "the_grid_was_moved_v_over": (
        "The grid was moved by {half:g} V, over which the chord is not the slope. Expected: a quarter of a volt "
        "to either side."
    ),
    "the_known_tubes_that_agree_were": (
        "The known tubes that agree all read alike: no line can be drawn through them."
    ),
    "the_line_must_fall_v_empty": (
        "The line must fall: {empty_volts:g} V empty, {loaded_volts:g} V with {watts:g} W. Read both, empty first."
    ),
    "the_needle_hardly_rises_with_the": "The needle hardly rises with the gas button.",
    "the_plate_current_falls_as_the": "The plate current falls as the grid rises: are two columns or a sign swapped?",
    "the_tube_s_own_name_and": "“{head}”: the tube's own name and its type were expected.",
    "there_is_no_tube_in_the": "There is no tube in the file.",
    "tube_in": "{socket}: {out}tube {key} ({type}) in",
    "tube_make_no_set_of": "{tubes} tube{tubes_2} cannot make a set of {size}.",
    "tube_out": "{socket}: tube {key} ({type}) out",
    "tubes_of_several_sections_are_matched": "Tubes of several sections are matched in pairs.",
    "tubes_of_several_sections_up_to": (
        "{tubes} tubes of several sections; up to {most_twins} are matched over all on hand. Leave out what is "
        "far off."
    ),
    "v_empty_v_with_w": "120.4 V empty, 118.9 V with 22 W",
    "v_to_either_side": "0.25 V to either side",
    "volts_of_the_line_alone": (
        "“{clause}”: volts go with a dash of the line alone, and a dash up has more of them."
    ),
    "warm_tapped_no_lamp_lights_none": "Warm, tapped: no lamp lights, none flickers.",
    "was_not_calibrated": "{title} was not calibrated",
    "what_a_dash_of_its_controls": (
        "What a dash of its controls is worth was not tried; {untried:g} % is assumed (common practice, no source)."
    ),
    "two_readings_of_one_unit": "“{clause}”: both readings must be of one unit.",
    "what_is_a_dash_of_it": "“{clause}”: what is a dash of it worth?",
    "which_socket_a_name_such_as": "Which socket? A name such as V3 was expected.",
    "which_tube_a_name_was_expected": "which tube? A name was expected.",
    "with_u_is_not_a_figure": ": {figure:g} with u {u:g} is not a figure.",
    "within_as": "Within {share:.2g} %, as {words}; {by}.",
}
