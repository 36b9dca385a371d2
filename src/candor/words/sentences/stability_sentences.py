"""What is said of stability: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_fit_that_never_ends_fits": (
        "a fit that never settles fits as well and goes on at another rate: still moving, cannot say"
    ),
    "a_frequency_by_its_phase_needs": "A frequency from phase needs four readings or more over a stretch of time.",
    "a_tenth_at_most": "a tenth at most",
    "an_allan_deviation_needs_three_readings": "An Allan deviation needs three readings or more at equal times.",
    "how_long_the_slower_process_takes": (
        "how long the slower process takes cannot be told yet: still moving, cannot say"
    ),
    "is_not_a_reading_of_anything": "{worst:g} is not a reading of anything; under {largest:g} was expected.",
    "it_has_not_moved_by_what": "it has not moved by what was asked in all this time",
    "it_will_be_when_the_rest": "it will be ready when the rest is under what was asked",
    "may_be_left_a_part_of": "{part:g} may be left: a part of the limit above zero was expected.",
    "no_settling_could_be_fitted_to": "No settling could be fitted to these readings.",
    "of_readings_are_far_off_both": (
        "{sum} of {x} readings are far off both neighbours: it is not a log of one thing."
    ),
    "or_more": "3 or more",
    "or_more_2": "4 or more",
    "readings_settling_needs_or_more_over": "{t} readings: settling needs {least} or more over a stretch of time.",
    "the_newest_reading_is_far_off": "the newest reading is far off what those before it settle to: read it again",
    "the_readings_are_not_at_equal": (
        "The readings are not at equal times: {steps:g} s after {seconds:g} s, {every:g} s elsewhere."
    ),
    "the_record_spans_time_constants_of": (
        "the record spans {spans:.1f} time constants of the slower process; two are needed before it can be said"
    ),
}
