"""What is said of notebook: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_character_in_it_is_none": (
        "One character in it is broken and cannot be kept. Nothing was written; take it out and enter it again."
    ),
    "an_entry_cannot_be_read_by": "an entry cannot be read by this version",
    "entry_of_this_job_cannot_be": (
        "This version of Candor cannot read entry {number} of this job ({why}). You can look at the job, but "
        "nothing can be written in it. Nothing was changed; a newer Candor may read it."
    ),
    "is_not_a_kind_of_entry": "“{kind}” is not a kind of entry.",
    "not_proven": "not proven: {text}",
    "the_pack_is_not_in_this": "The pack {digest} is not in this notebook.",
    "the_pack_of_this_job_cannot": "The pack {digest} of this job cannot be read ({msg}). Candor did not change it.",
    "this_job_stands_on_what_is": (
        "What this job rests on has changed since it was kept ({what}). Nothing was written; “candor check” says "
        "more."
    ),
}
