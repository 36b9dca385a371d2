"""What is said of arrive: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_pack_describes_it": "A pack describes it",
    "a_pack_is_named_by_the": (
        "A pack is named after the instrument's type, and this job has none yet. Write it at Arrive, under Who it is."
    ),
    "another_of_its_type_was_here": "Another of its type was here",
    "as_the_before_it": "As the {name} before it, {said}",
    "begun_from_what_is_usual": "Begun from what is usual of a {kind}.",
    "by_its_kind_alone": "By its kind alone",
    "cannot_be_read_the_finding_is": "{name} cannot be read ({strerror}). The finding is kept without it.",
    "could_not_be_kept_in_the": "{name} could not be kept in {folder} ({strerror}). The finding is kept without it.",
    "described_by_a_pack": "Described by a pack",
    "fasteners_from_to_were_expected": "“{part}”: {count} fasteners; from 1 to 500 were expected.",
    "from_job": "{number}, from job {id}",
    "has_megapixels_up_to_can_be": (
        "{name} has {size} megapixels; up to {most} can be kept ({largest_jpeg} as a JPEG). Make it smaller. The "
        "finding is kept without it."
    ),
    "here_last": "here {times}, last {last:%Y-%m-%d}{what}{given}",
    "how_large_is_the_picture_is": (
        "Candor cannot tell how large the picture is: {size!r} is not a width and a height in pixels."
    ),
    "is_not_a_picture_candor_knows": (
        "{name} is not a picture Candor knows; a JPEG, PNG, WebP, GIF or BMP file was expected. The finding is "
        "kept without it."
    ),
    "is_not_so_many_fasteners_expected": "“{part}” does not count fasteners. Expected: {expected}.",
    "it_read_m_too_little": " It read {ohms} MΩ: too little.",
    "it_was_here_before": "It was here before",
    "its_range_and_points_as_then": "; its {ranges} range{plural} and points as then",
    "its_range_points_parts_and_drawing": (
        "its {ranges} range{plural}, points, parts and drawing; none of its readings"
    ),
    "like_its_sister": "Like {sister}, which it borrows from.",
    "lines_such_as_x_mm_pan": "lines such as “4 x 12 mm pan, case bottom; 1 x 20 mm pan, beside the cord”",
    "made_on_the_bench_job_entries": "made on the bench, job {id}, {entries} entries",
    "no_poor_joint_is_noted_write": (
        "No poor joint is noted. Write each first, such as: joint V1 pin 4; then: resoldered"
    ),
    "no_range_described_yet": "{kind}, no range described yet",
    "the_draft_could_not_be_kept": (
        "The description could not be kept ({why}). What you wrote is still in the window; save it to a file."
    ),
    "the_needle_turns_in_one_place": "The needle turns in one place; {axis} were given.",
    "there_is_no_job_in_this": "There is no job “{name}” in this notebook.",
    "this_description": "this description",
    "was_washed_once_dry_m_or": "{what} was washed: once dry, 10 MΩ or more at 500 V d.c. before power.{low}",
    "what_this_job_has_gathered_makes": "This job cannot be made into a pack yet: {why}.",
    "which_is_it_choose_it_with": "Which is it: {listed}? Choose it with ↓, or type the word.",
}
