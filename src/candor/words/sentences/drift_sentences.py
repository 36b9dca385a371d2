"""What is said of drift: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_forecast_needs_a_result_and": "A forecast needs a result, and a limit above zero.",
    "a_limit_above_zero": "a limit above zero",
    "has_two_results_as_were_there": (
        "{on:%d %b %Y} has two results as {when}: were there two adjustments in one day? Give the first as found "
        "and the last as left."
    ),
    "no_point_has_a_history_yet": "No point has a history yet, so there is nothing to forecast.",
    "one_as_found_and_one_as": "one as found and one as left",
    "pooled_from_histories_of_this_kind": "pooled from {histories} histories of this kind in the shop",
    "slope_of_the_limit_a_year": "slope 0 ± {slope:.2g} % of the limit a year, walk {walk:.2g} % a root year ({own})",
    "the_result_of_has_no_uncertainty": "The result of {on:%d %b %Y} has no uncertainty; U (k = 2) was expected.",
    "usual_ones_common_practice_no_source": "usual ones, common practice, no source",
}
