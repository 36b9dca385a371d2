"""What is said of leaving: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "expected_more_than_and_up_to": "“{part}”: expected more than 0 and up to {most}.",
    "is_not_a_limit_of_a": "“{part}” is not a limit of a local rule. Expected: {expected}.",
    "lines_such_as_earth_ohm_insulation": (
        "lines such as earth 0.2 ohm, insulation 2 Mohm, touch 0.5 mA, network 2 kohm"
    ),
}
