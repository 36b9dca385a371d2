"""What is said of notebook: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_character_in_it_is_none": (
        "A character in it is none that can be kept (half of one). Nothing was written; take it out and enter it "
        "again."
    ),
    "an_entry_cannot_be_read_by": "an entry cannot be read by this version",
    "entry_of_this_job_cannot_be": (
        "Entry {number} of this job cannot be read by this version of Candor ({why}): the job can be looked at, "
        "but nothing is written in it. Nothing was changed; a newer Candor may read it."
    ),
    "is_not_a_kind_of_entry": "“{kind}” is not a kind of entry that is written.",
    "not_proven": "not proven: {text}",
    "the_pack_is_not_in_this": "The pack {digest} is not in this notebook.",
    "the_pack_of_this_job_cannot": "The pack {digest} of this job cannot be read ({msg}); it was left as it is.",
    "this_job_stands_on_what_is": (
        "This job stands on what is no longer as it was kept ({what}). Nothing was written; “candor check” says more."
    ),
}
