"""What is said of plan: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "candor_cannot_read_the_days_in": "Candor cannot read the days in “{part}”. Example: {usual_hours}",
    "candor_cannot_read_the_hours_in": "Candor cannot read the hours “{text}” in “{part}”. Example: 9:00-12:30",
    "does_not_say_what_there_is": "“{part}” does not say what there is and how many. Example: {usual_shared}",
    "fits_nowhere_in_the_hours_that": "{key} does not fit in the hours that are planned.",
    "is_no_day_of_the_year_ahead": "“{text}” is not a day of the year that lies ahead; nothing was written.",
    "is_not_a_day_candor_can": "“{text}” is not a day Candor can read. Examples: {examples}.",
    "is_not_a_time_of_the": "“{text}” is not a time of the day. Example: 14:30",
    "march_friday": "2026-03-31, 31 March, Friday",
    "opens_the_shop_on_no_day": "With “{text}” the shop is never open. Example: {usual_hours}",
    "the_hours_in_run_into_each": "The hours in “{part}” overlap. Example: {usual_hours}",
    "these_wait_for_each_other_in": "These wait for each other in a circle: {names}.",
}
