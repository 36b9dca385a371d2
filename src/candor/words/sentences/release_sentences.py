"""What is said of release: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "capacitors_on_the_mains": "Capacitors on the mains",
    "is_no_longer_what_was_signed": "{path} is not what was signed: its digest differs. It is not printed.",
    "is_not_a_digest_of_a": "“{digest}” is not a digest of a certificate. Expected: 64 hexadecimal figures.",
    "release_checks_look_at_or_let": (
        "Release checks: {name_open}. Look at {them}, or let each go with a reason that is printed."
    ),
    "the_certificate_could_not_be_kept": (
        "The certificate could not be kept in {folder} ({strerror}); it was not signed."
    ),
    "the_file_of_the_signed_certificate": (
        "The file of the signed certificate {digest} is not in {folder}: it was moved, or signed before "
        "certificates were kept as files. What is shown is made anew from the entries."
    ),
    "the_signed_certificate_cannot_be_read": (
        "The signed certificate {digest} cannot be read ({strerror}); it was kept as {path}."
    ),
}
