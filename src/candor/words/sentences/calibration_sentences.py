"""What is said of calibration: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_line_with_start_one_with": (
        "A line with start, one with limit, and one for each adjuster are needed. Example:\n{example}"
    ),
    "a_positive_value": "a positive value",
    "a_reference_of_is_far_beyond": (
        "A reference of {value} is far beyond the {range_name} range; about {applied} was expected."
    ),
    "as_measured_here_with_its_u": "Measured here, with its U; the reference is corrected for it.",
    "as_received_after_repair": "{repaired} as received after repair",
    "as_said_of_this_set_up": "Stated for this set-up; it can act either way: rectangular.",
    "at_which_frequency_is_read_is": (
        "At which frequency is {function} read? {name} is specified by bands. Jot: frequency 60 Hz"
    ),
    "candor_cannot_read_line_example": "Candor cannot read line {number}, “{words}”. Example:\n{example}",
    "each_adjuster_stands_once_turned_by": "Each adjuster stands once, turned by something; limits are above zero.",
    "every_line_has_errors_one_for": "Every line has {start} errors, one for each point, as the line start has.",
    "m_may_be_minutes_or_milliseconds": "“{text}” may be minutes or milliseconds: write ms or min",
    "phase_that_nobody_knows": "phase that nobody knows",
    "two_at_one_frequency_add_between": "two at one frequency add to anything between their difference and their sum (triangle inequality)",
    "figured_where": "Figured: {text}, where {words}.",
    "first_read_after_adjustment": "{adjusted} first read after adjustment",
    "has_no_reading_at_least_one": "{name} has no reading; at least one is needed.",
    "in_all": "{listed}, {decided} in all",
    "is_a_standard_for_needs_one": "{name} is a standard for {first}; {point_name} needs one for {first_2}.",
    "is_negative_but_expects_a_positive": "{value} is negative, but {function} expects a positive reference.",
    "line_a_turn_such_as_or": "line {number}: a turn such as 1/2 or 0.25",
    "line_errors_such_as": "line {number}: errors such as 3.2 -1.8",
    "load_of_the_meter": "load of the meter",
    "needs_a_number_for_and_that": "“{text}” needs a number for {unread}, and that point has none.",
    "no_limit_was_given_the_error": "no limit was given: the error is known, not whether it may be that large",
    "no_reference_was_chosen_choose_one": "No reference was chosen: choose one of the standards.",
    "not_measured": "{missing} not measured",
    "on_a_feed_of_within_a": (
        "The meter's {input_ohms} load a source resistance of {feed}, known within a tenth; corrected."
    ),
    "range_at": "{range_name} range at {applied}",
    "simulated_no_evidence": "{outcome}, simulated: no evidence",
    "source_while_it_is_read": "source regulation while it is read",
}
