"""What is said of exchange: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "zip_list_is_not_whole": "its list of files is not whole: {said} were packed, {found} are listed",
    "all_entries_are_already_in_this": "All {counted} entries are already in this notebook. Nothing was imported.",
    "cannot_be_read_as_a_zip": "{name} cannot be read as a zip ({why}); a travelling job was expected.",
    "cannot_be_read_the_job_does": (
        "Candor could not read {name} ({strerror}). The job was not exported, because it would travel without it."
    ),
    "cannot_be_taken": "{what} cannot be taken:",
    "cells_expected_has_no_column": "{cells} cells, expected {names}: “{first}” has no column.{comma}",
    "could_not_be_written_no_entry": "{name} could not be written ({strerror}). Nothing was imported.",
    "files_in": "files in {listed}",
    "holds_files_a_job_has_at": (
        "{zip_name} holds {infos} files; a job has {most_files} at most. Nothing was imported."
    ),
    "holds_no_entry_of_its_job": "{zip_name} holds no entry of its job. Nothing was imported.",
    "is_a_comma_of_a_number": " Is one of the commas a decimal comma?",
    "is_here_already_and_holds_something": (
        "{folder}/{name} is here already and holds something else. Nothing was imported."
    ),
    "is_larger_than_mb_nothing_was": (
        "{zip_name}: “{filename}” is larger than {largest_text} MB. Nothing was imported."
    ),
    "is_no_file_a_travelling_job": "{path} is not a file; a travelling job was expected.",
    "is_no_longer_what_was_looked": "{name} has changed since you looked at it. Nothing was imported.",
    "is_not_a_name_of_a": "{zip_name}: “{job}” cannot be the name of a job.",
    "is_not_a_name_that_a": "{zip_name}: “{filename}” is not a name that a travelling job has. Nothing was imported.",
    "is_not_a_travelling_job_but": "{zip_name} is not a travelling job but “{format}”.",
    "is_not_a_travelling_job_it": "{zip_name} is not a travelling job: it has no {says} that says so.",
    "is_not_as_it_was_kept": "{name}: {name_2} is not as it was kept, its digest does not fit. Nothing was imported.",
    "it_does_not_travel_so": "{broken} The job was not exported.",
    "line_columns_a_table_has_at": (
        "line 1: {names} columns; a table has {most_columns} at most. Nothing was imported."
    ),
    "line_it_cannot_be_read_expected": (
        "line 1: it cannot be read ({error}). Expected: {listed}. Nothing was imported."
    ),
    "line_it_cannot_be_read_nothing": "line {line_num}: it cannot be read ({error}). Nothing was imported.",
    "line_it_is_not_as_a": (
        "{zip_name}, {entries}, line {number}: not a valid “{kind}” entry ({why}). Nothing was imported."
    ),
    "line_no_entry_of_this_job": "{zip_name}, {entries}, line {number}: no entry of this job. Nothing was imported.",
    "line_no_entry_was_read_nothing": (
        "{zip_name}, {entries}, line {number}: no entry was read. Nothing was imported."
    ),
    "line_the_column_is_missing_expected": (
        "line 1: the column “{listed}” is missing. Expected: {listed_2}; found {listed_3}. Nothing was imported."
    ),
    "line_the_column_is_named_twice": (
        "line 1: the column “{first}” is named twice. Expected: each once. Nothing was imported."
    ),
    "missing_where_it_came_from": " Missing where it came from: {listed}.",
    "nothing_was_imported": "{zip_name}: {broken} Nothing was imported.",
    "taken_in_entries_files": "Imported: {new} entries{also}, {files} files.{missing}",
    "the_column_not_read_what_stands": (
        "The column{plural} “{listed}” {plural_2} not read; what stands there was left out."
    ),
    "the_pack_cannot_be_used_by": "The pack {digest} cannot be used by this version. Nothing was imported.",
    "there_is_no_job_in": "There is no job “{job}” in {name}.",
    "this_job_was_written_in_here": (
        "Each copy of this job has entries that the other lacks, and Candor does not merge two records. Nothing "
        "was imported."
    ),
    "unpacks_to_more_than_mb_nothing": "{zip_name} unpacks to more than {largest} MB. Nothing was imported.",
    "unpacks_to_more_than_times_its": (
        "{zip_name}: “{filename}” unpacks to more than {most_packed} times its size. Nothing was imported."
    ),
    "unpacks_to_more_than_times_its_size": (
        "{zip_name} unpacks to more than {most_packed} times its size. Nothing was imported."
    ),
    "was_made_by_a_newer_candor": (
        "{zip_name} was made by a newer Candor (format {version}, this one reads {version_2}). Nothing was imported."
    ),
    "were_here_already": ", {old} were here already",
}
