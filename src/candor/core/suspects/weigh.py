"""How likely each explanation is, how far off what it names is, what it leaves unexplained, and what cannot be told apart.

Every hypothesis is a mixture of linear Gaussian models (core.suspects.hypotheses): y = m + A w + e, w ~ N(0, S), e ~ N(0, C), and
its evidence a sum of N(y; m, C + A S A') (the linear Gaussian model; D. J. C. MacKay, Neural Computation 4, 1992), all of it in the
whitened space of C. The probabilities are those of the model, held against simulations that are not it (docs/suspects.md).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import field, replace
from functools import cached_property
from itertools import combinations

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.suspects.hypotheses import Columns, Component, Kind, hypotheses
from candor.core.suspects.observed import Circuit, Floats, Observed, Place
from candor.core.worded import worded

NAMED = 6  # that are named at most
WORTH = 0.02  # probability under which none is
ALIKE = 0.999  # cosine of two patterns from which no reading made so far parts them
PARTS = ("part", "two parts")
FEWEST = 3  # points from which anything is said
RARE = 0.01  # how seldom what is left over would be so large by chance: then it is said


@dataclass(frozen=True)
class Suspect:
    """One explanation.

    Attributes
    ----------
    kind : str
    of : tuple of str
        Key of a function, a range or a point, or designators of parts.
    probability : float
    amount, u : float
        How far it is off and one standard deviation of that: shares of the arc (zero, tracking, friction, reading), ln (gain,
        range, part); of two parts that of the first, and the others in `amounts`.
    amounts : tuple of float
    pattern, explained : array, shape (points read,)
        The errors that it makes, and those with the gains set over it, share of the arc.
    group : int
        Those of one number cannot be told apart by what was read; -1 where it stands alone.
    """

    kind: Kind
    of: tuple[str, ...]
    probability: float
    amount: float
    u: float
    amounts: tuple[float, ...]
    pattern: Floats
    explained: Floats
    group: int = -1


@dataclass(frozen=True)
class Weighed:
    """What explains the errors.

    Attributes
    ----------
    suspects : tuple of Suspect
        The likeliest first, nothing wrong among them.
    left_over : float
        How seldom a residual as large as the likeliest leaves would come by chance: small says that something is unexplained.
    observed : tuple of Observed
    needing : mapping of str to float
        By designator, the probability of everything that needs the part to be off, named or not.
    """

    suspects: tuple[Suspect, ...]
    left_over: float
    observed: tuple[Observed, ...]
    needing: Mapping[str, float] = field(default_factory=dict)

    @property
    def explains(self) -> bool:
        """Whether the likeliest explains what was read."""
        return self.left_over >= RARE

    @property
    def first(self) -> Suspect:
        """The likeliest."""
        return self.suspects[0]

    def if_sound(self, ref: str) -> tuple[Suspect, float] | None:
        """Return what is likeliest where a part turns out to be as drawn, and its probability then: what needs the part is out.

        None where nothing else is worth a name.
        """
        rest = [s for s in self.suspects if not (s.kind in PARTS and ref in s.of)]
        whole = 1 - self.needing.get(ref, 0.0)
        return (rest[0], min(rest[0].probability / whole, 1.0)) if rest and whole > 0 else None


class Model:
    """Hypotheses over the points that were read, and others that could be.

    Parameters
    ----------
    observed : sequence of Observed
    circuit : Circuit
    beyond : sequence of Place
        Points that may be read next.
    """

    def __init__(self, observed: Sequence[Observed], circuit: Circuit, beyond: Sequence[Place] = ()) -> None:
        self.observed, self.read = tuple(observed), len(observed)
        self.columns = Columns([*(o.place for o in observed), *beyond], observed)
        self.hypotheses = hypotheses(self.columns, observed, circuit)
        self.covariance = self.columns.sound(circuit) + self._noise()
        self.errors = np.array([o.error for o in observed])

    def _noise(self) -> Floats:
        """Readings of their own, and what those of one standard have in common; of points not read yet none."""
        size = len(self.columns.places)
        made = np.zeros((size, size))
        for i, one in enumerate(self.observed):
            made[i, i] += one.own**2
        for standard in {o.standard for o in self.observed if o.shared}:
            column = np.zeros(size)
            column[: self.read] = [o.shared if o.standard == standard else 0.0 for o in self.observed]
            made += np.outer(column, column)
        made[np.diag_indices(size)] += 1e-10
        return made

    @cached_property
    def white(self) -> Floats:
        """The inverse factor of the covariance of the points that were read: it makes their scatter 1."""
        factor = np.linalg.cholesky(self.covariance[: self.read, : self.read])
        made: Floats = np.linalg.inv(factor)
        return made

    @cached_property
    def gains(self) -> Floats:
        """What a gain of each function does, in standard deviations, shape (points read, functions)."""
        made: Floats = self.white @ self.columns.gains[: self.read]
        return made

    @cached_property
    def fits(self) -> list[list[Fit]]:
        """How each component of each hypothesis fits; those of one shape are calculated together."""
        found: list[list[Fit]] = [[] for _ in self.hypotheses]
        listed = [(h, c) for h, hypothesis in enumerate(self.hypotheses) for c in hypothesis.components]
        shapes: dict[tuple[int, bool], list[int]] = {}
        for place, (_, component) in enumerate(listed):
            shapes.setdefault((len(component.spread), component.trimmed > 0), []).append(place)
        made: dict[int, Fit] = {}
        for places in shapes.values():
            made |= zip(places, self._fitted([listed[p][1] for p in places]), strict=True)
        for place, (h, _) in enumerate(listed):
            found[h].append(made[place])
        return found

    def _fitted(self, components: list[Component]) -> list[Fit]:
        """Components of one shape: arrays of (components, points, amounts)."""
        own = len(components[0].spread)
        spread = np.array([c.spread for c in components])
        trimmed = np.array([c.trimmed for c in components])
        left = (self.errors - np.array([c.mean[: self.read] for c in components])) @ self.white.T
        inside = np.array([c.columns[: self.read] for c in components])
        inside = (self.white @ inside) * spread[:, None, :]
        if trimmed[0]:
            gains = np.array([c.gains(self.columns.gains)[: self.read] for c in components])
            inside = np.concatenate((inside, self.white @ gains), axis=2)
        turned = inside.transpose(0, 2, 1)
        gram = np.eye(inside.shape[2]) + turned @ inside
        pulled = (turned @ left[:, :, None])[:, :, 0]
        covariance = np.linalg.inv(gram)
        amounts = (covariance @ pulled[:, :, None])[:, :, 0]
        residual = left - (inside @ amounts[:, :, None])[:, :, 0]
        sizes = (left**2).sum(axis=1) - (pulled * amounts).sum(axis=1)
        scores = -0.5 * sizes - 0.5 * np.log(np.linalg.det(gram)) + np.array([c.log_weight for c in components])
        left_over = (residual**2).sum(axis=1) + (amounts**2).sum(axis=1)
        variances = np.diagonal(covariance, axis1=1, axis2=2)[:, :own] * spread**2
        return [
            Fit(
                score=float(scores[i]), amounts=amounts[i, :own] * spread[i], variances=variances[i],
                gains=amounts[i, own:], left_over=float(left_over[i]),
            )
            for i in range(len(components))
        ]  # fmt: skip

    @cached_property
    def scores(self) -> Floats:
        """Log of prior times evidence of each hypothesis."""
        found = []
        for h, fits in zip(self.hypotheses, self.fits, strict=True):
            scores = np.array([f.score for f in fits])
            best = scores.max()
            found.append(math.log(h.prior) + best + math.log(np.exp(scores - best).sum()))
        return np.array(found)

    @cached_property
    def probabilities(self) -> Floats:
        """Return how likely each hypothesis is."""
        shifted = np.exp(self.scores - self.scores.max())
        made: Floats = shifted / shifted.sum()
        return made


@dataclass(frozen=True)
class Fit:
    """How a component fits: log evidence with its weight, its amounts with their variances, gains over it, and chi squared left."""

    score: float
    amounts: Floats
    variances: Floats
    gains: Floats
    left_over: float


def weigh(observed: Sequence[Observed], circuit: Circuit | None = None) -> Weighed | None:
    """Return what explains the errors of the points that were read; None of fewer than three, which tell nothing.

    Parameters
    ----------
    observed : sequence of Observed
        Errors and uncertainties as shares of the arc.
    circuit : Circuit, optional

    Raises
    ------
    ValueError
        Where an error or an uncertainty is no number, or an uncertainty is not above zero.
    """
    for one in observed:
        if not (math.isfinite(one.error) and math.isfinite(one.own) and one.own > 0):
            raise ValueError(
                worded("suspects.an_error_of_with_an_uncertainty", key=one.place.key, error=one.error, own=one.own)
            )
    if len(observed) < FEWEST:
        return None
    model = Model(observed, circuit or Circuit())
    probabilities = model.probabilities
    order = [int(i) for i in np.argsort(-probabilities)[:NAMED] if probabilities[i] >= WORTH]
    made = [_suspect(model, i, float(probabilities[i])) for i in order]
    needing: dict[str, float] = {}
    for hypothesis, probability in zip(model.hypotheses, probabilities, strict=True):
        for ref in hypothesis.of if hypothesis.kind in PARTS else ():
            needing[ref] = needing.get(ref, 0.0) + float(probability)
    return Weighed(tuple(_grouped(model, made)), left_over(model, order[0]), model.observed, needing)


def _suspect(model: Model, index: int, probability: float) -> Suspect:
    hypothesis, fits = model.hypotheses[index], model.fits[index]
    weights = np.exp(np.array([f.score for f in fits]) - max(f.score for f in fits))
    weights /= weights.sum()
    amounts, spreads, pattern, explained = [], [], np.zeros(model.read), np.zeros(model.read)
    for weight, fit, c in zip(weights, fits, hypothesis.components, strict=True):
        known = 0.0 if math.isnan(c.amount) else c.amount
        amounts.append(fit.amounts + (known if len(fit.amounts) else 0.0))
        spreads.append(fit.variances)
        made = weight * (c.mean[: model.read] + c.columns[: model.read] @ fit.amounts)
        pattern, explained = pattern + made, explained + made
        if len(fit.gains):
            explained = explained + weight * (c.gains(model.columns.gains)[: model.read] @ fit.gains)
    plain = Suspect(
        kind=hypothesis.kind, of=hypothesis.of, probability=probability, amount=0.0, u=0.0, amounts=(), pattern=pattern,
        explained=explained,
    )  # fmt: skip
    if not len(amounts[0]):
        return plain
    finite = np.array([np.isfinite(a).all() for a in amounts])
    if weights[~finite].sum() > weights[finite].sum():  # gone altogether is no amount with an uncertainty
        gone = float(amounts[int(np.argmax(np.where(finite, 0.0, weights)))][0])
        return replace(plain, amount=gone, amounts=(gone,))
    weights = np.where(finite, weights, 0.0)
    weights /= weights.sum()
    stacked = np.array([np.where(np.isfinite(a), a, 0.0) for a in amounts])
    mean = weights @ stacked
    u = np.sqrt(weights @ (np.array(spreads) + (stacked - mean) ** 2))
    return replace(plain, amount=float(mean[0]), u=float(u[0]), amounts=tuple(map(float, mean)))


def _grouped(model: Model, made: list[Suspect]) -> list[Suspect]:
    """Give those a number whose patterns are alike, gains aside: what was read does not part them."""
    gains = np.linalg.qr(model.gains)[0]
    whole = [model.white @ s.pattern for s in made]
    beside = [p - gains @ (gains.T @ p) for p in whole]
    group, found = [-1] * len(made), 0
    for j, i in combinations(range(len(made)), 2):
        if "nothing" in (made[i].kind, made[j].kind) or not (
            _alike(whole[i], whole[j]) or _alike(beside[i], beside[j])
        ):
            continue
        if group[j] < 0:
            group[j] = found
            found += 1
        group[i] = group[j]
    return [replace(s, group=g) for s, g in zip(made, group, strict=True)]


def _alike(one: Floats, other: Floats) -> bool:
    """Whether two patterns, in standard deviations, point the same way, and stand out at all."""
    sizes = float(np.linalg.norm(one)), float(np.linalg.norm(other))
    return min(sizes) > 1 and float(one @ other) > ALIKE * sizes[0] * sizes[1]


def left_over(model: Model, index: int) -> float:
    """Return the probability that chance leaves as much as a hypothesis does: the upper tail of chi squared (by definition)."""
    from scipy.special import gammaincc  # imported here: slow to load, and only needed once something is weighed

    best = max(model.fits[index], key=lambda f: f.score)
    return float(gammaincc(model.read / 2, best.left_over / 2))
