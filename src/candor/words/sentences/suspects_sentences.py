"""What is said of suspects: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "an_error_of_with_an_uncertainty": "{key}: an error of {error:g} with an uncertainty of {own:g} says nothing.",
    "no_point_has_a_limit_what": "No point has a limit, so Candor cannot say what a repair does.",
    "nothing_reaches_a_rail_of_this": "Nothing reaches a rail of this supply.",
}
