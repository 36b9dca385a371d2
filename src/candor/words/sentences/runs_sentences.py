"""What is said of runs: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_run_is_on_at_another_bench": "A run on {ref} is on at another bench. Do not touch it; stop it there.",
    "a_run_on_is_on_in": "A run on {ref} is on in another window: {stands}. Do not touch it; stop it there.",
    "cut_off_before_a_reading_was": "cut off before a reading was kept",
    "cut_off_readings_are_kept": "cut off, {count} readings are kept",
    "its_source_may_be_on_switch": "Its source may be on: switch it off, discharge, and measure before you touch.",
    "last_seen_at_v": "last seen at {volts} V",
    "no_file_of_a_run_has": "no file of a run has such a name",
    "not_measured_safe_switch_the_source": (
        "not measured safe. Switch the source off, discharge, and measure before you touch."
    ),
    "the_readings_cannot_be_kept_in": (
        "The readings cannot be kept in {parent} ({strerror}); the run was not started."
    ),
    "the_readings_of_could_not_be": "The readings of {ref} could not be copied to {target} ({strerror}).",
    "the_run_on_was": "The run on {ref} was {why}; {seen}. {may_be_on}",
    "the_run_was_left": "{ref}: the run was left, {why}; {seen}, {not_safe}",
    "v_at_its_last_reading": "{volts} V at its last reading",
    "v_at_the_last_reading": "{volts} V at the last reading",
}
