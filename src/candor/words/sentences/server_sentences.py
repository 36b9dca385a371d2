"""What is said of a notebook on a server: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_guest_reads": "{who} is a guest of this shop, who reads and does not write",
    "a_keeper_brings_in": (
        "What {who} wrote elsewhere can be brought into the shop's notebook by its keeper alone. Nothing was written. Ask whoever keeps "
        "the server, or move the job there with that name."
    ),
    "a_keeper_moves": (
        "{who} may not bring a notebook to this server: it keeps who wrote each entry, and only a keeper may say that. Nothing was written."
    ),
    "a_standard_is_in_use_there": "{name} is in use by {who} too, on {job} ({bench}).",
    "a_notebook_of_ones_own_is_there": (
        "{path} is a notebook of its own; the copy of the server's notebook would lie there. Nothing was changed. Move that file away."
    ),
    "asks_for_a_password": (
        "{name} asks for a password. Give it in Notebook, or keep it in ~/.pgpass, readable by you alone. Nothing was written."
    ),
    "clocks_differ": (
        "This computer's clock is {seconds} s {slow} of the server's: the times of entries of different benches do not compare. Set it."
    ),
    "does_not_answer": "{name} does not answer ({said}).",
    "does_not_follow": (
        "Entry {number} on {name} does not follow the entry before it in this bench's copy. Nothing more is taken from there. Compare both "
        "with candor check, and the papers that were printed."
    ),
    "file_is_not_what_was_kept": "{file} on {name} is not what was kept: its bytes are not those of its digest.",
    "has_faults_and_stays": (
        "{path} has {count} faults and was not moved. Run candor check on it first; a backup from before may be whole."
    ),
    "holds_no_notebook": (
        "{name} holds no notebook of Candor. Make one with candor server prepare, as who keeps the server."
    ),
    "holds_one_already": "There is a notebook in this database already. Nothing was changed.",
    "is_another_notebook": (
        "The notebook on {name} is another one than this copy was made of. Nothing was written. Open it by its address to make a copy of it."
    ),
    "is_at_this_job_too": "{who} is at this job too, at {stop} (on {bench}).",
    "is_away": "{name} does not answer",
    "is_no_address": "“{url}” is not the address of a server ({why}). Expected: postgresql://name@host/notebook.",
    "is_no_name_of_a_person": (
        "“{name}” is not a name for a person on the server. Expected: small letters and digits, such as anna."
    ),
    "is_no_role": "“{role}” is not a role. Expected: {listed}.",
    "is_not_in_utf_8": "The database is kept in {coding}, not in UTF8; Ω and µ would be lost. Nothing was made.",
    "is_of_a_newer_form": (
        "The notebook on {name} is of form {form}, which a newer Candor made; this one knows {own}. Nothing was changed. Update Candor."
    ),
    "its_disk_is_full": "The disk of {name} is full. {kept}",
    "may_only_be_read": "{name} does not let this be written ({said}). Nothing was written.",
    "moved_between_file_and_server": (
        "Expected: a file and the address of a server (postgresql://name@host/notebook), in either order. Nothing was moved."
    ),
    "nothing_is_signed_while_away": (
        "Nothing is signed while {name} does not answer: entries of other benches may be missing here. Sign when it is back."
    ),
    "only_a_signer_signs": "Only a signer of the shop signs; the server knows you as none. {kept}",
    "others_write_for_long": "{name} is held by another bench for long.",
    "refused": "{name} refused: {said}.",
    "so_many_moved": "{count} of {of} entries",
    "so_many_wait": "Not yet on {name}: {entries}",
    "something_is_written_there": "Something is written in the notebook on {name} already. Nothing was moved.",
    "was_turned_back": (
        "{name} no longer has entry {number}, which it gave this bench: it was turned back to an older state, or changed. Nothing was written. "
        "This bench's copy still has all of it; candor move brings it to a fresh server."
    ),
    "would_not_be_the_same": "The entries would not be the same on {name}. Nothing was moved.",
}
