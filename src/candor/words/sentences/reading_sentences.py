"""What is said of reading: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_number_of_the_arc_such": "a number of the arc, such as 20",
    "a_number_of_ticks_such_as": "a number of ticks such as -1/4t",
    "a_scale_by_the_law_needs": "A scale by the law “{name}” needs a number above {least:g}; {value:g} was given.",
    "a_setting_away_from_the_ends": "a setting away from the ends",
    "a_setting_that_is_infinite_cannot": "A setting that is infinite cannot be set; a number was expected.",
    "a_side_such_as": "a side such as 80",
    "a_standard_uncertainty_is_zero_or": "A standard uncertainty is zero or more.",
    "an_edge_is_read_to_division": (
        "An edge is read to ±{edge} division, rectangular; there are two (common practice, no source)."
    ),
    "an_event_when_it_came": "an event, when it came",
    "an_infinite_value_cannot_be_read": "An infinite value cannot be read here; a number was expected.",
    "assumed_as_nobody_nudged_it_common": "assumed, as nobody nudged it (common practice, no source)",
    "at_most_div": "at most {divisions} div",
    "at_reads": "at {bare} reads {reads}",
    "both_edges_stand_at_the_same": "Both edges stand at the same place: there is nothing between them to read.",
    "calculated_from_other_readings": "calculated from other readings",
    "corners_are_no_rectangle_click_all": (
        "{corners} corners do not make a rectangle. Click all {corners_2}, in order round it, or none."
    ),
    "dial_at_a_mark": "dial at a mark",
    "dial_at_a_null": "dial at a null",
    "div": "{value} div{places}: {shown}",
    "divisions_for_half_a_tick": "divisions for half a tick",
    "divisions_of_the_dial_such_as": "divisions of the dial such as 1.5",
    "divisions_on_a_screen": "divisions on a screen",
    "divisions_such_as": "divisions such as 4.05",
    "equal_at_and_middle_along_the": "equal at {low} and {high}: middle along the arc {middle}",
    "equal_on_both_sides_each_judged": (
        "Equal on both sides: each judged to half a division, rectangular, their middle to 1/√2 of it."
    ),
    "figure_of_a_waveform": "figure of a waveform",
    "found_by_a_nudge": "found by a nudge",
    "friction_from_other_points": "friction, from other points",
    "from_a_waveform": "from a waveform: {shown}{u}",
    "from_to": ", from {figures} to {figures_2}",
    "half_a_division_as_nothing_finer": "half a division, as nothing finer was seen",
    "half_a_tick_is_division_of": ", half a tick is {figures} division of it",
    "half_a_tick_of_the_needle": (
        "Half a tick of the needle moves the dial by {nudge} division, {words}; rectangular."
    ),
    "half_of_what_is_just_noticeable": "half of what is just noticeable",
    "has_no_dial_so_no_needle": "{name} has no dial, so no needle can be read there.",
    "has_no_logarithm_and_the_limit": (
        "{value} has no logarithm, and the limit is a ratio; a value above zero was expected."
    ),
    "has_no_screen_so_no_divisions": "{name} has no screen, so no divisions can be read there.",
    "has_one_dial_is_of_a": "{name} has one dial; “{second}” is of a second.",
    "how_uncertain_the_figure_is_was": (
        "The uncertainty of the figure is missing: take the figure from the samples, or write its u behind it."
    ),
    "hysteresis_no_part_of_u": "{both}: hysteresis {shown}, no part of U.",
    "is_divisions_the_screen_has": "{value} is {value_2:.3g} divisions; the screen has {divisions}.",
    "is_not_a_kind_of_reading": "“{key}” is not a kind of reading. Use one of {listed}.",
    "is_not_an_outcome_of_this": "“{text}” is not an outcome of this look. Expected: {names}.",
    "is_not_one_of_its_settings": "{value} is not one of its settings. Nearest: {near}",
    "is_off_the_scale_this_range": "{value} is off the scale: this range reads {low} to {high}. Is the range right?",
    "is_read_as_such_as_what": (
        "{name} is read as: {title}, such as “{example}”; what was written is of another kind, {read_title}."
    ),
    "is_within_of_the_end_of": (
        "{shown} is within {guard:.3g} % of the {end} end of the dial: the part is open, shorted, or of another "
        "range. Nothing was written."
    ),
    "it_had_not_stood_still_after": "{words}; it had not stood still after {waited_s:.0f} s",
    "judged_by": " Judged by: {criterion}.",
    "marks_do_not_show_how_an": (
        "{marks} marks do not show how an arc bends. Click {fewest} or more, both ends among them."
    ),
    "marks_of_the_arc": "marks of the arc",
    "marks_of_the_even_arc_are": (
        "{even} marks of the even arc are few. Click {fewest_even} or more of them, or none."
    ),
    "marks_were_clicked_for_numbers": "{places} marks were clicked for {items} numbers.",
    "names_no_outcomes_so_no_look": "{name} names no outcomes, so no look can be taken there.",
    "needle_on_its_line": "needle on its line",
    "needle_on_the_mark": "needle on the mark {shown}",
    "needle_reaches_its_line_at_dial": "needle reaches its line at dial {shown}{nudge}",
    "needle_set_on_a_mark": "needle set on a mark",
    "no_reading_yet_type_one_for": (
        "No reading yet ({title}). Type one, for example “{example}”, or move the needle with the arrow keys."
    ),
    "noise_resolution_and_sampling_of_the": (
        "Noise, resolution and sampling of the samples (JCGM 100, 4.2 and 4.3.7); scale and time base are the "
        "oscilloscope's own."
    ),
    "plus_minus_does_not_say_which": (
        "“{text}”: ± does not say which uncertainty is meant. Write u for a standard uncertainty, U for an expanded one (k = 2)"
    ),
    "as_it_was_noted_with_it": "as it was noted with it",
    "noted_to_half_a_division_or": "Noted to half a division, or half its last digit; rectangular (JCGM 100, 4.3.7).",
    "null_from_both_sides": "null, from both sides",
    "of_a_division_without_a_mirror": "{parallax} of a division without a mirror.",
    "of_what_is_listed": "{mean:.3g} % of what is listed.",
    "on_and_off_at_the_same": (
        "On and off at the same {shown}: a bracket is two neighbouring settings, one with the indication and one "
        "without."
    ),
    "on_at_off_at_threshold": "on at {shown}, off at {shown_2}: threshold {shown_3}",
    "on_off": "on {on} off {off}",
    "on_off_2": "on {shown} off {shown_2}",
    "on_ref": "on {bare} ref {reference}",
    "placed_to": "{said} placed to {worst_u} %",
    "reach_of_a_control": "reach of a control",
    "read_from_one_direction_only_friction": (
        "Read from one direction only. Friction on this movement is at most {divisions:.2g} division."
    ),
    "read_from_one_direction_only_so": (
        "Read from one direction only, so friction is unknown: half a division assumed (common practice, no source)."
    ),
    "reading_is_not_a_repeat_at": "{values} reading is not a repeat; at least {fewest} were expected.",
    "scale_at_least_two_marks_are": "Scale {name}: at least two marks are needed, each with its deflection.",
    "scale_divisions_at_least_one_is": "Scale {name}: {divisions} divisions; at least one is needed.",
    "scale_goes_backwards_follows_each_must": (
        "Scale {name} goes backwards: {name_2} {after:g} follows {before:g}; each must be {way} than the one before."
    ),
    "scale_intervals_need_one_number_of": (
        "Scale {name}: {marks} intervals need one number of divisions or one for each."
    ),
    "scale_only_an_end_of_it": "Scale {name}: only an end of it can be infinite.",
    "scatter_of_readings_over_degrees_of": (
        "Scatter of {readings} readings over √{counted}, {dof} degrees of freedom (JCGM 100, 4.2)."
    ),
    "scatter_of_the_reference_captured_times": (
        "Scatter of the reference, captured {n} times, over √n (JCGM 100, 4.2.3)."
    ),
    "second_dial": ", second dial {figures:.4g}",
    "second_dial_2": ", second dial {figures:.3g} %",
    "set_by_eye_to_half_a": "Set by eye to half a division of its dial, rectangular (common practice, no source).",
    "set_on_the_mark": "Set on the mark",
    "set_to_rectangular_jcgm": "Set to {words}, rectangular (JCGM 100, 4.3.7).",
    "source_set_and_measured": "source: set and measured",
    "the_arc_is_drawn_by_its": (
        "The arc is drawn by its marks: where one stands is known to {scatter} % of it, one standard deviation."
    ),
    "the_bracket_is_the_wrong_way": (
        "The bracket is the wrong way round: {shown} is not below {shown_2}. Expected the lower first."
    ),
    "the_bracket_is_the_wrong_way_round": (
        "The bracket is the wrong way round: the indication is on {where} its threshold here, and on at {shown}, "
        "off at {shown_2} was written."
    ),
    "the_dials_still_move_by_and": (
        "The dials still move, by {first} and {second} divisions since the round before: alternate them again."
    ),
    "the_marks_could_not_be_laid": "The marks could not be laid on an arc.",
    "the_marks_do_not_lie_on": (
        "The marks do not lie on an arc about that axis: they stand off it by more than a click can be wrong. "
        "Look at mark {worst} first."
    ),
    "the_marks_do_not_lie_one": (
        "The marks do not lie one after the other on an arc about that axis. Click them in their order."
    ),
    "the_sides_are_no_rectangle_expected": (
        "The sides {text} do not make a rectangle. Expected two numbers above zero."
    ),
    "the_threshold_lies_within_a_bracket": (
        "The threshold lies within a {shown} bracket: rectangular distribution, to its farther end (JCGM 100, 4.3.7)."
    ),
    "there_is_no_mark_at_the": "There is no mark at {value}; the nearest is {near}. Set the needle on a mark.",
    "there_is_no_outcome_expected": "There is no outcome {value:g}. Expected: {listed}.",
    "threshold_rising_falling": "Threshold rising {shown}, falling {shown_2}",
    "to_of_a_division_rectangular_jcgm": (
        "{how} to {words} of a {division} division {over}, rectangular (JCGM 100, 4.3.7)."
    ),
    "two_dials_alternate_them_until_neither": (
        "Two dials: alternate them until neither moves, and write both each round."
    ),
    "two_looks_differ_let_another_pair": "Two looks differ: {listed}. Let another pair of eyes look.",
    "what_are_the_sides_of_the": (
        "What are the sides of the rectangle? From corner 1 to 2, then from 2 to 3: 80 x 60."
    ),
    "what_are_the_sides_of_the_rectangle": (
        "What are the sides of the rectangle? The first, from corner 1 to 2, then the second: 80 x 60."
    ),
    "what_has_no_arc_cannot_be": (
        "A limit along the arc needs an arc, and this range has none. Give the limit in another form."
    ),
    "which_waveform_open_its_file_waveforms": (
        "Which waveform? Open its file (Waveforms), or type the figure with its u."
    ),
}
