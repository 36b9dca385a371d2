"""What is said of uncertainty: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "contribution_has_degrees_of_freedom_more": (
        "Contribution “{name}” has {dof:g} degrees of freedom; more than zero were expected."
    ),
    "contribution_has_the_uncertainty_a_finite": (
        "Contribution “{name}” has the uncertainty {standard_uncertainty}; a finite number of zero or more was "
        "expected."
    ),
    "correlated_contributions_were_observed_together_so": (
        "Correlated contributions were observed together, so they need the same degrees of freedom; "
    ),
    "correlation_between_and_two_contributions_of": (
        "Correlation {r:g} between “{first}” and “{second}”: two contributions of this budget and a number from "
        "-1 to 1 were expected."
    ),
    "from_the_convolution_of_all_terms": (
        "from the convolution of all terms, the largest {shapes} ({name}; JCGM 101, 6.4)"
    ),
    "no_contribution_is_above_zero": "no contribution is above zero",
    "repeated_observations_need_at_least_two": (
        "Repeated observations need at least two rows, one column for each quantity."
    ),
    "the_correlations_between_cannot_all_hold": (
        "The correlations between {names} cannot all hold: their matrix has the eigenvalue {lowest:.3f}, and "
        "zero or more was expected."
    ),
    "the_simulation_was_stopped_after_of": "The simulation was stopped after {start} of {draws} draws.",
    "two_contributions_of_a_budget_have": "Two contributions of a budget have the same name; each needs its own.",
    "values_need_a_covariance_of_x": "{size} values need a covariance of {size} x {size}; {shape} was given.",
    "with_effective_degrees_of_freedom_u": (
        "; with {dof:.2g} effective degrees of freedom U covers about 92 in 100, not 95: more readings make it firm"
    ),
}
