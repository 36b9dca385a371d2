"""What is said of verdict: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_limit_from_to_cannot_be": "A limit from {low:g} to {high:g} cannot be held; the lower end first was expected.",
    "a_limit_of_cannot_be_held": "A limit of {limit:g} cannot be held; zero or more was expected.",
    "risk_needs_a_ratio_and_a": (
        "Risk needs a ratio and a factor above 0 and a share between 0 and 1; {test_uncertainty_ratio:g}, "
        "{factor:g} and {in_tolerance:g} were given."
    ),
    "to": "{low} to {sign}{high} {symbol}",
}
