"""An uncertainty budget: contributions, their correlations, and what they come to."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import field
from typing import Literal

import numpy as np

from candor.core.errors import BudgetError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

ROUNDED = (
    0.005  # coefficients printed to two decimals may make an eigenvalue as small as minus this, for each other input
)
Shape = Literal["normal", "rectangular"]


@dataclass(frozen=True)
class Shared:
    """What of a term other readings by the same standard err by too; standard uncertainties in the unit of the input.

    Attributes
    ----------
    span : str
        The range or line of the standard: within one what is common is one draw, across spans how far it is nobody knows.
    common : float
        Signed as the value is: per cent of reading turns with it.
    own : float
        Of this reading alone: counts, per cent of range.
    """

    span: str
    common: float
    own: float = 0.0


@dataclass(frozen=True)
class Contribution:
    """One line of a budget.

    Attributes
    ----------
    name : str
        As it stands in the budget.
    standard_uncertainty : float
        u(x), in the unit of the input.
    sensitivity : float
        c = d(result)/d(x); the contribution is |c| u(x) in the unit of the result.
    dof : float
        Degrees of freedom, `math.inf` where u is known.
    shape : "normal" or "rectangular"
        With finite `dof` a normal input is drawn as a scaled t (JCGM 101:2008, 6.4.9).
    reason : str
        Where the figure comes from, in words with its source.
    kind : str
        What could make it smaller: "needle", "friction", "repeats", "reference", "other".
    shared : Shared or None
        What readings by the same standard have in common of it; None of what is this reading's own.
    """

    name: str
    standard_uncertainty: float
    sensitivity: float = 1.0
    dof: float = math.inf
    shape: Shape = "normal"
    reason: str = ""
    kind: str = "other"
    shared: Shared | None = None

    def __post_init__(self) -> None:
        if not (self.standard_uncertainty >= 0 and math.isfinite(self.standard_uncertainty)):
            raise BudgetError(
                worded(
                    "uncertainty.contribution_has_the_uncertainty_a_finite",
                    name=self.name,
                    standard_uncertainty=self.standard_uncertainty,
                ),
                place=self.name,
            )
        if not self.dof > 0:
            raise BudgetError(
                worded("uncertainty.contribution_has_degrees_of_freedom_more", name=self.name, dof=self.dof),
                place=self.name,
            )

    @property
    def size(self) -> float:
        """|c| u(x), in the unit of the result."""
        return abs(self.sensitivity) * self.standard_uncertainty


def rectangular(name: str, half_width: float, reason: str = "", kind: str = "other") -> Contribution:
    """Return a rectangular contribution of +-`half_width`, in the unit of the result: u = a / sqrt(3) (JCGM 100:2008, 4.3.7)."""
    return Contribution(name, half_width / math.sqrt(3), shape="rectangular", reason=reason, kind=kind)


@dataclass(frozen=True)
class Mixture:
    """Rectangles that take one draw together, their sum then a rectangle of half-width `tied`, in `share` of all cases; else each
    its own."""

    half_widths: tuple[float, ...]
    tied: float
    share: float


@dataclass(frozen=True)
class Budget:
    """Contributions to one result.

    Attributes
    ----------
    contributions : tuple of Contribution
    correlations : mapping of (name, name) to float
        Correlation coefficients r between inputs, -1 to 1; pairs not named are independent.
    """

    contributions: tuple[Contribution, ...]
    correlations: Mapping[tuple[str, str], float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        names = [c.name for c in self.contributions]
        if len(set(names)) != len(names):
            raise BudgetError(worded("uncertainty.two_contributions_of_a_budget_have"))
        for (first, second), r in self.correlations.items():
            if first not in names or second not in names or first == second or not -1 <= r <= 1:
                raise BudgetError(
                    worded(
                        "uncertainty.correlation_between_and_two_contributions_of", r=r, first=first, second=second
                    ),
                    place=f"{first}, {second}",
                )
        for group in self.groups():
            self._refuse_impossible(group)
            if len({c.dof for c in group}) > 1:
                raise BudgetError(
                    worded("uncertainty.correlated_contributions_were_observed_together_so")
                    + ", ".join(f"“{c.name}” has {c.dof:g}" for c in group)
                    + ".",
                    place=group[0].name,
                )

    def _refuse_impossible(self, group: list[Contribution]) -> None:
        """Coefficients that no joint distribution has: their matrix has an eigenvalue below zero."""
        if len(group) < 3:  # two are possible whenever |r| <= 1
            return
        matrix = np.array([[self.correlation(a.name, b.name) for b in group] for a in group])
        lowest = float(np.linalg.eigvalsh(matrix)[0])
        if lowest < -ROUNDED * (len(group) - 1):
            names = ", ".join(f"“{c.name}”" for c in group)
            raise BudgetError(
                worded("uncertainty.the_correlations_between_cannot_all_hold", names=names, lowest=lowest),
                place=group[0].name,
            )

    def groups(self) -> list[list[Contribution]]:
        """Return the contributions in groups that are correlated among themselves, singles included."""
        home = {c.name: index for index, c in enumerate(self.contributions)}
        for first, second in self.correlations:
            old, new = home[second], home[first]
            home = {name: new if place == old else place for name, place in home.items()}
        gathered: dict[int, list[Contribution]] = {}
        for contribution in self.contributions:
            gathered.setdefault(home[contribution.name], []).append(contribution)
        return list(gathered.values())

    def correlation(self, first: str, second: str) -> float:
        """Return r between two inputs by name, zero where none was given."""
        if first == second:
            return 1.0
        return self.correlations.get((first, second), self.correlations.get((second, first), 0.0))

    def _variance(self, group: list[Contribution]) -> float:
        total = sum(
            a.sensitivity
            * b.sensitivity
            * a.standard_uncertainty
            * b.standard_uncertainty
            * self.correlation(a.name, b.name)
            for a in group
            for b in group
        )
        return max(total, 0.0)

    def size_of(self, group: list[Contribution]) -> float:
        """Return the standard uncertainty of a group of correlated contributions together, in the unit of the result."""
        return math.sqrt(self._variance(group))

    def shape_of(self, group: list[Contribution]) -> Shape:
        """Return the shape of a group's sum: a rectangle stays one alone or tied fully to others, else it is normal."""
        tied = all(abs(self.correlation(group[0].name, c.name)) == 1 for c in group)
        return "rectangular" if tied and all(c.shape == "rectangular" for c in group) else "normal"

    def mixture_of(self, group: list[Contribution]) -> Mixture | None:
        """Return how a group of rectangles that are tied in part adds up; None of a group that is not so.

        With probability r all take one draw, else each its own, so that each stays a rectangle and U never falls as r rises; where
        the coefficients differ, r is the one that keeps the variance.
        """
        if len(group) < 2 or self.shape_of(group) == "rectangular" or any(c.shape != "rectangular" for c in group):
            return None
        first = max(group, key=lambda c: c.size)
        widths = [c.sensitivity * c.standard_uncertainty * math.sqrt(3) for c in group]
        signs = [-1.0 if self.correlation(first.name, c.name) < 0 else 1.0 for c in group]
        tied = sum(width * sign for width, sign in zip(widths, signs, strict=True))
        apart = sum(width * width for width in widths)
        if math.isclose(tied * tied, apart):  # tied or not the variance is the same: nothing tells r
            share = max(abs(r) for pair, r in self.correlations.items() if {*pair} <= {c.name for c in group})
        else:
            share = (3 * self._variance(group) - apart) / (tied * tied - apart)
        return Mixture(tuple(abs(w) for w in widths), abs(tied), min(max(share, 0.0), 1.0))

    @property
    def combined(self) -> float:
        """Combined standard uncertainty, u_c² = sum of c_i c_j r_ij u_i u_j (JCGM 100:2008, 5.2.2)."""
        return math.sqrt(sum(self._variance(group) for group in self.groups()))

    @property
    def effective_dof(self) -> float:
        """Effective degrees of freedom, u_c⁴ / sum of u_g⁴/nu_g (JCGM 100:2008, G.4.1).

        Correlated inputs observed together count as one term with their common degrees of freedom
        (Willink, Metrologia 44 (2007) 340).
        """
        whole = self.combined**4
        spread = sum(self._variance(group) ** 2 / group[0].dof for group in self.groups())
        return whole / spread if spread > 0 else math.inf

    def largest_first(self) -> tuple[Contribution, ...]:
        """Return the contributions by size, the largest first."""
        return tuple(sorted(self.contributions, key=lambda c: -c.size))
