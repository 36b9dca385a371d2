"""What is said of links: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_number_between_and": "a number between “{prefix}” and “{suffix}”",
    "a_number_that_can_be_measured": "a number that can be measured",
    "a_unit_that_candor_knows_in": "a unit that Candor knows in place of “{written}”",
    "a_value_in": "a value in {unit}",
    "after_the_source_was_off": "{stood} after the source was off: {not_safe}",
    "an_error_that_was_not_foreseen": "an error that was not foreseen ended it; the log beside the notebook holds it",
    "candor_cannot_read_after_the_address": (
        "Candor cannot read “{option}” after the address of an instrument. Examples: ask MEAS:VOLT?, field 2, "
        "prefix “NDCV”, suffix “,0”; of a serial port: baud 2400, frame 7E2, ends CR"
    ),
    "candor_simulated_meter_on": "Candor,simulated meter on {name},0,1",
    "field_of_several": "field {field} of several",
    "for_s_the_tester_gave_no": "For {no_reading_s:g} s the tester gave no reading that counts: {why}.",
    "is_beyond_the_this_source_may": "{value:g} is beyond the {most:g} this source may be set to.",
    "is_no_frame_of_a_serial_port": "“{frame}” is no frame of a serial port. Expected: data bits, parity, stop bits, such as 7E2.",
    "is_no_speed_of_a_serial_port": "“{baud}” is no speed of a serial port. Expected: bits a second, such as 2400.",
    "is_nothing_that_ends_a_line": "“{ends}” is nothing that ends a line. Expected: LF, CR or CRLF.",
    "is_not_the_number_of_a": "“{field}” is not the number of a field. Example: field 2",
    "it_answered_expected_volts_amperes_and": "it answered “{answer}”, expected volts, amperes and seconds",
    "it_sends_without_being_asked_and": "it sends without being asked, and does not stop",
    "its_clock_stands_still_or_goes": "its clock stands still or goes back",
    "its_readings_cannot_be_kept": "Its readings cannot be kept ({strerror}).",
    "its_source_may_still_be_on": (
        "Its source may still be on: switch it off by hand, discharge, and measure before you touch."
    ),
    "its_source_was_set_to_v": (
        "its source was set to {level:g} V and says {said:g} V: is that beyond what it can give?"
    ),
    "meters_names_expected_one_to_meters": (
        "{plans} meters, {set} names: expected one to {most_meters} meters, each reading something else."
    ),
    "no_reading_it_answered_expected": "No reading: it answered “{shown}”, expected {expected}.",
    "no_reading_it_answered_not_a": "No reading: it answered “{shown}”, not a number by SCPI-99.",
    "no_reading_it_answered_not_a_number": "No reading: it answered “{text}”, not a number.",
    "not_measured_safe_discharge_it_and": "not measured safe. Discharge it and measure before you touch.",
    "nothing_answers_as_expected_a_visa": (
        "Nothing answers as “{resource}” ({why}). Expected: a VISA name such as "
        "TCPIP::192.168.1.20::5025::SOCKET, and the {what} on. Nothing was switched."
    ),
    "one_number_in": "one number in {unit}",
    "overload_or_not_a_number": "overload, or not a number",
    "overload_the_instrument_is_over_its": "Overload: the instrument is over its range (it answered “{shown}”).",
    "the_export_was_stopped_what_stood": "The export was stopped; the older file is unchanged.",
    "no_block_came": "{command}: what came is no block, which begins with #: {shown}",
    "the_block_does_not_say_its_length": "{command}: the block does not say its length",
    "the_block_would_be_over": "{command}: the block would have over {most} bytes",
    "so_many_bytes_of": "; {count} of {whole} bytes came",
    "the_link_is_closed": "the link is closed",
    "the_longest_time_is_over_by": (
        "the longest time has passed by the program's own clock; the tester's clock is behind it"
    ),
    "the_no_longer_answers": "The {what} no longer answers ({why}).",
    "the_part_on_the_clips_was": "The part on the clips was {not_safe} {unproved}",
    "the_question_was_given_up": "The question was cancelled.",
    "the_reading_could_not_be_written": (
        "The reading could not be written ({strerror}); it is still where you typed it."
    ),
    "the_reading_was_given_up_nothing": "The reading was cancelled; nothing was written.",
    "the_readings_could_not_be_written": "The readings could not be written ({strerror}).",
    "the_reference_meter_is_over_its": "The reference meter is over its range. {error}",
    "the_source_was_set_to_and": "The source was set to {asked:g} and now says {said:g}.",
    "the_source_was_set_to_and_says": "The source was set to {value:g} and says {said:g}.",
    "the_source_was_told_to_go": "The source was told to go to zero and says {said:g}.",
    "the_tester_s_clock_is_too": (
        "The tester's clock is too {which}: it counted {theirs:.3g} s where {ours:.3g} s went by."
    ),
    "times_and_dwells_would_be_wrong": "{clock_fault} Times and dwells would be wrong, so the run was ended.",
    "to_it_answered_expected_ohms_above": "to {command} it answered “{answer}”, expected ohms above zero",
    "this_machine_cannot_be_looked_at": "This machine's ports cannot be looked at: {why}.",
    "to_it_sent_over_bytes_without": "to {command} it sent over {longest_answer} bytes without an end of line",
    "to_no_answer_within_s": "to {command} no answer{heard} within {timeout_s:g} s",
    "to_the_end": " to the end (“{shown}”)",
    "v_and_a_were_typed_expected": (
        "{volts:g} V and {amperes:g} A were typed. Expected: up to 5 kV, either way round, and up to 1 A."
    ),
}
