"""What is said of sitting: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "at_which_line_was_it_read": (
        "The line at which this point was read before was not noted, so nothing can be compared with it. Note it (line 120), read the point again, "
        "then at the other line."
    ),
    "is_itself_calculated": "{key} is itself calculated: a formula is of points that are read.",
    "not_noted": "not noted",
    "volts": "{volts:g} V",
    "set_the_line_first": (
        "This point is read with the line at {wanted} V; the line now is {now}. Set it, read it on a meter and note it: line {wanted}. "
        "Nothing was written."
    ),
    "a_photo_of_the_chassis": "a photo of the chassis",
    "a_quote_of_nothing_is_none": "A quote needs an amount. Example: quoted 180",
    "a_run_cut_off": "a run cut off",
    "a_signed_certificate_rests_on_entry": (
        "A signed certificate rests on “{name}” (entry {number}). Undo once more strikes it all the same."
    ),
    "at_which_frequency_does_your_esr": (
        "At which frequency does your ESR meter test? Jot it once, such as: esr meter 90 kHz"
    ),
    "at_which_frequency_is_read_jot": "At which frequency is {function} read? Jot it once, such as: frequency 60 Hz",
    "cannot_be_written": "“{text}” cannot be written: {where} {why}.",
    "choice_for_taken_back": "choice for {ref} withdrawn",
    "cold_the_pointer_s_rest_mechanical": (
        "Cold, the pointer's rest (mechanical zero) can be read, and ohms at the terminals where the ohmmeter's "
        "current is under full scale of the range: never through a rectifier or a current transformer."
    ),
    "ctrl_shift_z_is_the_way": "{what} Ctrl+Shift+Z is the way back.",
    "declined_at_goes_back_as_it": "declined at {quoted}: goes back as it is",
    "divisions_such_as": "divisions such as 4.05",
    "entry_is_not_proven_yet_either": "Entry {number}, “{text}”, is not proven yet either. {sentence}",
    "entry_stands_again": "entry {number} stands again",
    "for_the_owner_s_answer_to": "for the owner's answer to {amount:.2f}",
    "from_a_note": "{name}, from a note",
    "goes_on_without_files": "goes on without files",
    "gone_on_without_as_found": "went on without as-found readings",
    "is_still_to_come_give_the": (
        "{since:%H:%M} is in the future. Give the time it was switched on today, or enter “on” now."
    ),
    "it_was_not_on_then": (
        "It has been on since {since:%H:%M}, for {been}: that time lies outside. Give a time within it, or enter “off” and “on since” "
        "first."
    ),
    "it_stands_again": "It stands again: {name}.",
    "left_out_a_step": "left out a step",
    "line_of_a_tester": "line of a tester",
    "marked_in_a_photo": "{name} marked in a photo",
    "measured_before_it_goes": "measured before it goes",
    "no_day_is_promised": "no day is promised",
    "no_job_is_open_nothing_was": "No job is open. Nothing was written.",
    "no_more_than_that_now": "{lost} {cold} No more than that now. {bar}",
    "no_range_of_alternating_current_was": (
        "No range of alternating current was written on this job; its procedure states its frequencies."
    ),
    "no_reading_without_a_standard_could": "No reading without a standard could have been read against {name}.",
    "no_standard_is_called_known": "No standard is called “{name}”. Known: {names}.",
    "none_is_recorded_yet": "none is recorded yet",
    "not_there": "not there: {item}",
    "nothing_has_been_read_as_found": (
        "Nothing has been read as found yet. After this change nobody can tell how the instrument arrived: "
        "whether what it measured was right, and how far it had drifted."
    ),
    "nothing_is_read_at_this_step": "Nothing is read at this step.",
    "nothing_was_done_here_since_candor": (
        "There is nothing to undo: nothing was done here since Candor was opened. Strike older entries in Entries."
    ),
    "nothing_was_quoted_yet_write_it": "Nothing was quoted yet. Write it first: quoted 180",
    "nothing_was_taken_back_here": "There is nothing to redo here.",
    "on_the_checklist": "on the checklist: {item}",
    "on_the_shelf": "on the shelf: {which}",
    "proves_nothing_say_what_was_measured": (
        "“{text}” proves nothing: say what was measured or seen that shows the change, such as 312 V on the rail."
    ),
    "put_at_an_hour": "put at an hour",
    "replaced_with": "replaced {ref} with {arrangement}",
    "run_on_over": "run on {ref} over",
    "say_why_the_job_goes_on": "Say why the job goes on without them: it stands on every certificate of it.",
    "sheet_of_a_tester": "sheet of a tester",
    "signed_second_by": "signed second by {name}",
    "since_when_is_it_on": (
        "Since when has it been on? Enter that first, for example “on since 14:00”: an earlier reading counts from there."
    ),
    "source_at": "source at {value:g} {unit}",
    "standard_named_for_readings": "standard named for {missing} readings",
    "taken_back": "Taken back: {name}.",
    "taken_with_no_standard_named_was": (
        "{missing} {were} taken with no standard named. Was it connected then? Jot: was read against NAME"
    ),
    "the_day_of_this_line_is": "The day of this line is not known.",
    "the_time_of_this_line_is": "The time of this line is not known.",
    "there_is_nothing_called_to_be": "There is nothing called {name} to be read here.",
    "one_range_of_its_own_function": "A range is changed by itself and within its function: write what else you say as a range beside it.",
    "another_range_is_called_so": "Another range of this function is called {title}.",
    "range_becomes": "range {before} becomes {title}",
    "this_range_is_its_pack_s": "This range is its pack's: it stays.",
    "values": "{deed} {worded}",
    "went_on_with_another_pack": "went on with another pack",
    "what_does_show_type_it_ref": "What does {name} show? Type it (ref …), or press C if it shows {shows}.",
    "what_proves_it_jot_checked": "What proves it? Jot: checked …",
    "write_a_range_first_at_calibrate": (
        "{lost} Write a range first (at Calibrate), and read zero, middle and full scale of it."
    ),
    "zero_middle_and_full_scale_of": (
        "{lost} Zero, middle and full scale of what it changes take about {minutes:.0f} min: {names}."
    ),
}
