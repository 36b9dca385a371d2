"""What is said of storage: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "cannot_be_opened": "{path} cannot be opened: {strerror}.",
    "cannot_be_read_it_was_left": "{path} cannot be read ({why}). Candor did not change it.",
    "cannot_be_read_was_expected": "{path} cannot be read ({strerror}); {what} was expected.",
    "could_not_be_brought_up_to": "{path} could not be brought up to date ({orig}). Candor did not change it.",
    "could_not_be_read_nothing_was": "{path} could not be read ({error}). Nothing was changed.",
    "entries_of_this_job_are": "Entries {listed} of this job are",
    "entry_of_this_job_is": "Entry {listed} of this job is",
    "is_a_database_but_not_a": "{path} is a database, but not a Candor notebook. Candor did not change it.",
    "is_damaged_it_was_left_untouched": (
        "{path} is damaged ({detail}). Candor did not change it. Keep a copy of it and open your last good backup."
    ),
    "is_empty": "{path} is empty.",
    "is_expected_a_notebook_file": "{path} is {what}. Expected: a notebook file.",
    "is_in_use_by_another_program": (
        "{path} is in use by another program, which does not release it. Nothing was changed; try again."
    ),
    "is_larger_than_was_expected": "{name} is larger than {size}; {what} was expected.",
    "is_no_file_expected_a_notebook": "{path} is not a file. Expected: a notebook.",
    "is_no_file_expected_a_notebook_file": "{path} is not a file. Expected: a notebook file.",
    "is_no_file_was_expected": "{path} is not a file; {what} was expected.",
    "is_not_a_candor_notebook_it": (
        "{path} is not a Candor notebook. Candor did not change it. Open another file, or name a new one."
    ),
    "is_not_there": "{parent} is not there",
    "is_of_an_older_version_and": "{path} is of an older version and cannot be brought up to date: {locked}.",
    "is_there_already_and_nothing_is": (
        "{standing} exists already, and Candor overwrites nothing. Expected: a name that no notebook has yet."
    ),
    "it_could_not_be_restored_to": "It could not be restored to {target}: {strerror}.",
    "it_is_empty_though_its_lie": "it is empty, although its {listed} are beside it",
    "it_is_only_looked_at": "it is only looked at",
    "its_folder_is_write_protected": "its folder is write-protected",
    "its_time_is_none": "“{at}” is not a time",
    "like_it": " Words like it: {listed}.",
    "no_backup_could_be_made_in": "No backup could be made in {folder}: {why}. Older ones are as they were.",
    "no_file_but_a_device_or": "a device or a pipe, not a file",
    "no_notebook_can_be_made_at": "No notebook can be made at {path}: {error}.",
    "no_notebook_can_be_made_at_2": "No notebook can be made at {path}: {strerror}.",
    "not_as_written_or_what_stood": (
        "{what} not as written, or what stood before is gone: the digest does not fit. Compare with a backup."
    ),
    "notebook_jobs_mb": "notebook: {jobs} jobs, {size:.1f} MB{how}",
    "nothing_went_wrong_that_was_not": "no unexpected error was logged",
    "the_check_was_stopped_nothing_was": "The check was stopped; nothing was changed.",
    "the_disk_is_full_make_room": "The disk is full. {kept} Make room and enter it again.",
    "the_entry_was_not_written_what": "The entry was not written; what you typed is still where you typed it.",
    "the_file_is_damaged": "the file is damaged",
    "the_file_is_write_protected": "the file is write-protected",
    "the_notebook_could_not_be_written": "The notebook could not be written ({detail}). {kept}",
    "the_notebook_has_become_write_protected": "The notebook has become write-protected. {kept}",
    "the_notebook_is_in_use_by": "The notebook is in use by another program. {kept} Try again.",
    "there_is_a_in_it_that": "there is a {first} “{found}” in it that Candor does not make",
    "there_is_no_notebook_at": "There is no notebook at {path}.",
    "this_notebook_can_only_be_read": (
        "This notebook can only be read, because {read_only}. Nothing was written; what you typed is still where "
        "you typed it."
    ),
    "was_being_written_when_its_program": (
        "{path} was being written when its program ended, and cannot be mended because {locked}. Open it once "
        "where Candor may write."
    ),
    "was_written_by_a_newer_candor": (
        "{path} was written by a newer Candor (form {first}; this one knows up to {newest}). Candor did not "
        "change it. Update Candor to open it."
    ),
    "word_is_not_one_of_the": "Word {place}, “{word}”, is not one of the list.{like}",
    "words_were_given_expected_the_eight": (
        "{typed} words were given. Expected: the eight words that stand on the paper."
    ),
}
